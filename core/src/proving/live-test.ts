import type { Derivation, HouseReader } from '../derive/reader.js';
import { devicesIn } from '../facts/box-facts.js';
import { printOf } from '../structures/print.js';
import { reshaped } from '../wiring/faults/edits.js';
import { wireCircuit } from '../wiring/conductors/wire-circuit.js';
import type { BoxJoint, CableEnd } from '../wiring/joints/box-joint.js';
import { endKey } from '../wiring/joints/box-joint.js';
import { soundForGroup } from '../wiring/joints/box-joints.js';
import { buildNetlist, netlistScope } from '../wiring/netlist/build-netlist.js';
import { allPositions } from '../wiring/netlist/lever-positions.js';
import type { JointsByBox, Netlist } from '../wiring/netlist/netlist.js';
import { Machine, operate } from '../wiring/netlist/operate.js';
import type { Testable } from './tested.js';

/** Conductors in a box that are joined for the time where a device will be. */
export interface LiveJoin {
  readonly boxId: string;
  readonly deviceId: string;
  /** Each side as it comes out of the boxes' joints: one end of it stands for it, spliced or not. */
  readonly sides: readonly [readonly CableEnd[], readonly CableEnd[]];
}

/** Ends in a box that nothing may touch while it is live: each its own cap. */
export interface LiveCap {
  readonly boxId: string;
  readonly ends: readonly CableEnd[];
}

/** One step: the breaker is put on and holds; or a light is looked at; or the joins are off again. */
export interface LiveStep extends Testable {
  readonly kind: 'energize' | 'light' | 'undo';
  readonly pointId?: string;
  readonly boxId?: string;
}

/** A circuit tried under power before its devices are in (common practice, only where it is permitted). */
export interface LiveTest {
  readonly circuitIds: readonly string[];
  readonly joins: readonly LiveJoin[];
  readonly caps: readonly LiveCap[];
  readonly steps: readonly LiveStep[];
  /** Controls for which no join is proposed: what would be joined shorts, or feeds back from another breaker. */
  readonly leftOut: readonly string[];
  /** Boxes that are to be covered, and circuits that come into them. */
  readonly boxIds: readonly string[];
}

/** Roles of points at which a lamp is put in for the time. */
const LAMPS: ReadonlySet<string> = new Set(['lamp', 'fan']);

/** A joint without the devices that are not in yet. */
const bared = (joint: BoxJoint, keeps: (deviceId: string) => boolean): BoxJoint =>
  reshaped(joint, { landings: joint.landings.filter(({ deviceId }) => !deviceId || keeps(deviceId)) });

/** What stands in for the devices while it is live: joints without them, and two joined where contacts will be. */
export function liveJoints(
  reader: HouseReader,
  sound: JointsByBox,
  joins: readonly Pick<LiveJoin, 'boxId' | 'sides'>[],
): Map<string, readonly BoxJoint[]> {
  const lit = new Set<string>();
  for (const boxId of sound.keys())
    for (const device of devicesIn(reader, boxId)) {
      const points = reader.mentioning('points', device.id);
      if (points.length && points.every(({ role }) => LAMPS.has(role))) lit.add(device.id);
    }
  const bare = new Map<string, readonly BoxJoint[]>(
    [...sound].map(([boxId, own]) => [boxId, own.map((joint) => bared(joint, (id) => lit.has(id)))]),
  );
  for (const { boxId, sides } of joins) {
    const own = bare.get(boxId) ?? [];
    const [a, b] = sides.map((ends) =>
      own.find((joint) => joint.ends.some((end) => ends.some((one) => endKey(one) === endKey(end)))),
    );
    if (!a || !b || a === b) continue;
    const joined = reshaped(a, { ends: [...a.ends, ...b.ends], landings: [...a.landings, ...b.landings] });
    bare.set(
      boxId,
      own.flatMap((joint) => (joint === a ? [joined] : joint === b ? [] : [joint])),
    );
  }
  return bare;
}

/**
 * Whether a circuit under power with these joins is safe to try: nothing shorts in it, no hot of it reaches a neutral, a ground or the
 * breaker of another circuit, and no lamp gets other than its own voltage.
 */
export function isSafeLive(netlist: Netlist): boolean {
  const { shorts, loads } = operate(netlist, new Set());
  if (shorts.length || loads.some(({ state }) => state === 'dim' || state === 'over')) return false;
  const breakers = new Map<number, string>();
  for (const { joint, kind, circuitId } of netlist.sources) {
    if (kind !== 'hot') continue;
    const { net } = netlist.joints[joint]!;
    const other = breakers.get(net);
    if (other !== undefined && other !== circuitId) return false;
    breakers.set(net, circuitId);
  }
  return netlist.loads.every(
    ({ hot, circuitId }) =>
      hot === undefined || (breakers.get(netlist.joints[hot]!.net) ?? circuitId) === circuitId,
  );
}

/** By the first circuit of a wiring group. */
const LIVE_TEST: Derivation<LiveTest> = {
  name: 'live test',
  compute: (reader, circuitId) => {
    const { circuitIds, runs } = wireCircuit(reader, circuitId);
    const { wirings, joints: sound } = netlistScope(reader, circuitId, soundForGroup);
    const netlist = buildNetlist(reader, wirings, sound);
    const own = new Set(circuitIds);
    const sidesOf = ([a, b]: readonly [number, number]): LiveJoin['sides'] => [
      netlist.joints[a]!.joint.ends,
      netlist.joints[b]!.joint.ends,
    ];
    const joinOf = (
      { boxId, deviceId }: Pick<LiveJoin, 'boxId' | 'deviceId'>,
      contact: readonly [number, number],
    ): LiveJoin[] => {
      const sides = sidesOf(contact);
      return sides.every((ends) => ends.length > 0) ? [{ boxId, deviceId, sides }] : [];
    };
    const stateWith = (joins: readonly LiveJoin[]): Netlist =>
      buildNetlist(reader, wirings, liveJoints(reader, sound, joins));
    const isLamp = (pointId: string): boolean => LAMPS.has(reader.get('points', pointId)?.role ?? '');
    // What a feed-through device will feed is dead without it.
    let joins = netlist.feedThrough.flatMap((device) =>
      device.contacts.flatMap((contact) => joinOf(device, contact)),
    );
    if (!isSafeLive(stateWith(joins))) joins = [];
    const leftOut: string[] = [];
    const lit: string[] = [];
    const machine = new Machine(netlist);
    for (const [controlId, places] of netlist.places) {
      const lamps = netlist.loads.filter(
        (load) => load.controlId === controlId && own.has(load.circuitId) && isLamp(load.pointId),
      );
      if (!lamps.length) continue;
      const levers = netlist.levers.flatMap(({ pointId }, at) => (places.includes(pointId) ? [at] : []));
      if (levers.length > 12) {
        leftOut.push(controlId);
        continue;
      }
      const chosen = bestPosition(
        netlist,
        machine,
        levers,
        lamps.map(({ pointId }) => pointId),
      );
      const wanted = chosen
        ? levers.flatMap((at) => {
            const lever = netlist.levers[at]!;
            const contacts = chosen[at] ? lever.up : lever.down;
            return contacts.flatMap((contact) => joinOf(lever, contact));
          })
        : [];
      const all = [...joins, ...wanted];
      const tried = stateWith(all);
      const { loads } = operate(tried, new Set());
      const isLit = lamps.every(({ pointId }) =>
        loads.some((load) => load.pointId === pointId && load.state === 'on'),
      );
      if (!wanted.length || !isLit || !isSafeLive(tried)) leftOut.push(controlId);
      else joins = all;
    }
    const live = liveJoints(reader, sound, joins);
    const { loads } = operate(buildNetlist(reader, wirings, live), new Set());
    for (const { pointId, state } of loads) {
      const load = netlist.loads.find((one) => one.pointId === pointId);
      if (state === 'on' && isLamp(pointId) && load && own.has(load.circuitId)) lit.push(pointId);
    }
    const boxIds = [...live.keys()].filter((boxId) => !wirings.some(({ tree }) => tree.panelId === boxId));
    const wires = new Set(
      [...runs].flatMap(([runId, { carries }]) => [...carries.keys()].map((key) => `${runId} ${key}`)),
    );
    const key = (name: string): string => printOf(`live@${circuitId}:${name}`);
    const joined = joins.map(({ boxId, sides }) => `${boxId} ${sides.flat().map(endKey).join()}`).join(';');
    const at = { boxIds, wires };
    return {
      circuitIds,
      joins,
      leftOut,
      boxIds,
      caps: boxIds.flatMap((boxId): LiveCap[] => {
        const ends = capped(
          live.get(boxId)!,
          joins.filter((join) => join.boxId === boxId),
        );
        return ends.length ? [{ boxId, ends }] : [];
      }),
      steps: [
        { kind: 'energize', key: key(`energize ${joined}`), ...at },
        ...lit.map((pointId): LiveStep => {
          const device = reader.get('devices', reader.get('points', pointId)!.deviceId)!;
          return { kind: 'light', pointId, boxId: device.boxId, key: key(`${pointId} ${joined}`), ...at };
        }),
        { kind: 'undo', key: key(`undo ${joined}`), ...at },
      ],
    };
  },
};

/** What ends in a box by itself while it is live, and splices of which a pigtail waits for its device. */
function capped(joints: readonly BoxJoint[], joins: readonly LiveJoin[]): CableEnd[] {
  const joined = new Set(joins.flatMap(({ sides }) => sides.flat().map(endKey)));
  return joints
    .filter(({ role, ends, landings }) => role !== 'ground' && ends.length === 1 && landings.length === 0)
    .flatMap(({ ends }) => ends.filter((end) => !joined.has(endKey(end))));
}

/**
 * The position of a control's levers in which its lamps are on and the joins are the plainest: conductors of one colour are joined
 * through wherever they can, and as few levers are up as may be.
 */
function bestPosition(
  netlist: Netlist,
  machine: Machine,
  levers: readonly number[],
  lamps: readonly string[],
): Uint8Array | undefined {
  const colours = (joint: number): Set<string> =>
    new Set(netlist.joints[joint]!.joint.ends.map(({ colour }) => colour));
  let best: { readonly position: Uint8Array; readonly crossed: number } | undefined;
  for (const mask of allPositions(levers.length)) {
    const position = new Uint8Array(netlist.levers.length);
    levers.forEach((at, bit) => (position[at] = (mask >>> bit) & 1));
    const { loads, shorts } = machine.operate(position);
    const isOn = (pointId: string): boolean =>
      loads.some((load) => load.pointId === pointId && load.state === 'on');
    if (shorts.length || !lamps.every(isOn)) continue;
    const crossed = levers.reduce((sum, at) => {
      const { kind, up, down } = netlist.levers[at]!;
      if (kind !== 'four-way') return sum;
      const contacts = position[at] ? up : down;
      return (
        sum + contacts.filter(([a, b]) => ![...colours(a)].some((colour) => colours(b).has(colour))).length
      );
    }, 0);
    if (!best || crossed < best.crossed) best = { position, crossed };
  }
  return best?.position;
}

/** How a circuit is tried under power before its devices are in: what is joined, what is capped, what is lit then. */
export const liveTest = (reader: HouseReader, circuitId: string): LiveTest =>
  reader.derive(LIVE_TEST, wireCircuit(reader, circuitId).circuitIds[0] ?? circuitId);

/** Boxes of a circuit in which joins of its live test were left, by the record of how it was undone last. `circuitId`: the first of its group. */
export function leftInJoins(reader: HouseReader, circuitId: string): readonly string[] {
  const undone = reader
    .mentioning('records', circuitId)
    .filter(({ kind, tested }) => kind === 'test' && tested?.routine === 'live' && tested.leftIn)
    .sort((a, b) => Date.parse(a.at) - Date.parse(b.at))
    .at(-1);
  return undone?.tested?.leftIn ?? [];
}
