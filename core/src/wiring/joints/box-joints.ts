import { supplyOf } from '../../facts/circuit-facts.js';
import type { Derivation, HouseReader } from '../../derive/reader.js';
import type { BoxFacts, Conductor } from '../../facts/box-facts.js';
import {
  BOX_MADE,
  boxesOf,
  shapeOfBox,
  circuitOfPoint,
  circuitsAt,
  conductorsOf,
  deviceType,
  devicesIn,
  endAt,
  runsAt,
} from '../../facts/box-facts.js';
import type { Run } from '../../house/model.js';
import type { Gauge } from '../../vocabulary/size.js';
import { isThicker, thickest } from '../../vocabulary/size.js';
import { neutralOfCircuit } from '../circuit/device-sides.js';
import { divideSplices } from './divide-splices.js';
import { overlayMade } from './made-joints.js';
import { shapeOf } from './box-joint.js';
import type { Landing } from '../../vocabulary/terminal.js';
import {
  BOX_GROUND,
  CAPPED,
  GROUND,
  GROUND_BAR,
  LUGS,
  NEUTRAL_BAR,
  breakerNeutralOf,
  breakerOf,
} from '../../vocabulary/terminal.js';
import { hasOwnNeutral } from '../circuit/panel-terminals.js';
import type { Carried, Signal } from '../../vocabulary/signal.js';
import { circuitOfHot, controlOf, kindOf, poleOf } from '../../vocabulary/signal.js';
import type { CircuitWiring } from '../conductors/circuit-wiring.js';
import { gaugeOfCircuit } from '../circuit/gauge.js';
import { coloursOf, isMarkedAs } from '../circuit/marking.js';
import { wireCircuit } from '../conductors/wire-circuit.js';
import type { BoxJoint, BoxJoints, CableEnd, JointRole } from './box-joint.js';

/** Whose a joint is, and how thick its wires are where it has none of a cable. */
interface Belongs {
  readonly circuitId?: string | undefined;
  readonly controlId?: string | undefined;
  readonly signal?: Signal | undefined;
  readonly linkGauge?: Gauge | undefined;
}

const NOBODYS: Belongs = {};

function join(
  reader: HouseReader,
  role: JointRole,
  ends: readonly CableEnd[],
  landings: readonly Landing[],
  open: boolean,
  { linkGauge, circuitId, controlId, signal }: Belongs = NOBODYS,
): BoxJoint {
  const kind = role === 'undecided' ? 'undecided' : shapeOf(ends.length, landings.length);
  let gauge: Gauge | undefined = linkGauge;
  for (const end of ends) if (gauge === undefined || isThicker(end.gauge, gauge)) gauge = end.gauge;
  const joint: Mutable<BoxJoint> = {
    kind,
    role,
    ends,
    landings,
    gauge: gauge ?? reader.rules().jurisdiction.sizes[0],
    open,
  };
  if (circuitId !== undefined) joint.circuitId = circuitId;
  if (controlId !== undefined) joint.controlId = controlId;
  if (signal !== undefined) joint.signal = signal;
  return joint;
}

type Mutable<T> = { -readonly [K in keyof T]: T[K] };

const roleOf = (carried: Carried): JointRole =>
  carried === 'spare' || carried === 'undecided' ? carried : kindOf(carried);

/** What hangs together in a box: conductors and terminals of one signal at one node of one wiring group. */
interface Strand {
  readonly wiring: CircuitWiring | undefined;
  readonly carried: Carried;
  readonly ends: CableEnd[];
  readonly landings: Landing[];
}

function endOf(
  { runId, key, colour, gauge, ground }: Conductor,
  slot: number | undefined,
  reidentified: boolean,
): CableEnd {
  const end: Mutable<CableEnd> = { runId, key, colour, gauge, ground };
  if (slot !== undefined) end.slot = slot;
  if (reidentified) end.reidentified = true;
  return end;
}

function strandsOf(
  reader: HouseReader,
  boxId: string,
  runs: readonly Run[],
  wirings: readonly CircuitWiring[],
): { strands: readonly Strand[]; grounds: readonly CableEnd[] } {
  const grounds: CableEnd[] = [];
  const strands: Strand[] = [];
  const known = new Map<CircuitWiring | undefined, Map<string, Map<Carried, Strand>>>();
  const strand = (wiring: CircuitWiring | undefined, node: string, carried: Carried): Strand => {
    let nodes = known.get(wiring);
    if (!nodes) known.set(wiring, (nodes = new Map()));
    let signals = nodes.get(node);
    if (!signals) nodes.set(node, (signals = new Map()));
    let found = signals.get(carried);
    if (!found) {
      found = { wiring, carried, ends: [], landings: [] };
      signals.set(carried, found);
      strands.push(found);
    }
    return found;
  };
  for (const run of runs) {
    const { slot } = endAt(run, boxId);
    const own = wirings.filter((wiring) => wiring.runs.has(run.id));
    for (const conductor of conductorsOf(reader, run)) {
      if (conductor.ground) {
        grounds.push(endOf(conductor, slot, false));
        continue;
      }
      const wiring =
        own.length > 1
          ? (own.find((one) => one.runs.get(run.id)!.carries.has(conductor.key)) ?? own[0])
          : own[0];
      const carried = wiring?.runs.get(run.id)!.carries.get(conductor.key) ?? 'undecided';
      const node = wiring?.tree.ends.get(run.id)?.get(boxId) ?? boxId;
      const again =
        run.kind === 'cable' &&
        carried !== 'spare' &&
        carried !== 'undecided' &&
        isMarkedAs(coloursOf(reader, run), conductor.colour, kindOf(carried));
      strand(wiring, node, carried).ends.push(endOf(conductor, slot, again));
    }
  }
  for (const wiring of wirings) {
    for (const { node, signal, deviceId, terminal } of wiring.terminals.get(boxId) ?? [])
      strand(wiring, node, signal).landings.push({ deviceId, terminal });
  }
  return { strands, grounds };
}

/** Which circuit a joint is named by. */
const circuitOf = (carried: Carried, wiring: CircuitWiring | undefined): string | undefined =>
  circuitOfHot(carried) ?? wiring?.circuitIds[0];

/** The joints that the wiring asks for, whatever has been made already. */
function derivedJoints(reader: HouseReader, boxId: string): Omit<BoxJoints, 'conflicts'> {
  const facts = shapeOfBox(reader, boxId);
  const runs = runsAt(reader, boxId).filter((run) => run.kind !== 'low-voltage');
  const wirings = [...new Set(circuitsAt(reader, boxId).map((id) => wireCircuit(reader, id)))];
  const { strands, grounds } = strandsOf(reader, boxId, runs, wirings);
  if (facts.kind === 'panel') return panelJoints(reader, boxId, strands, grounds);

  const devices = devicesIn(reader, boxId);
  const openDevices = new Set<string>();
  for (const device of devices) {
    if (wirings.some((wiring) => wiring.openDevices.has(device.id))) openDevices.add(device.id);
    const landed = strands.some(({ landings }) => landings.some((to) => to.deviceId === device.id));
    if (reader.mentioning('points', device.id).length && !landed) openDevices.add(device.id);
  }
  const openWirings = new Set(
    wirings.filter(
      (wiring) =>
        devices.some((device) => wiring.openDevices.has(device.id)) ||
        runs.some((run) => wiring.runs.get(run.id)?.open || wiring.runs.get(run.id)?.missing.length),
    ),
  );

  const joints: BoxJoint[] = [];
  const unfed: Landing[] = [];
  const ground = groundJoint(reader, facts, runs, grounds, boxId);
  if (ground.joint) joints.push(ground.joint);
  unfed.push(...ground.unfed);

  for (const { wiring, carried, ends, landings } of strands) {
    const circuitId = circuitOf(carried, wiring);
    if (carried === 'spare' || carried === 'undecided') {
      for (const end of ends)
        joints.push(join(reader, carried, [end], [], carried === 'undecided', { circuitId }));
      continue;
    }
    // A single terminal that nothing reaches is no joint; two terminals alone are joined by a link.
    if (ends.length === 0 && landings.length < 2) {
      unfed.push(...landings);
      for (const { deviceId } of landings) if (deviceId) openDevices.add(deviceId);
      continue;
    }
    const controlId = controlOf(carried);
    const spare = sparePigtail(reader, carried, landings, devices);
    const circuit = circuitId ? supplyOf(reader, circuitId) : undefined;
    const all = spare.length ? [...landings, ...spare] : landings;
    const joint = join(reader, roleOf(carried), ends, all, !wiring || openWirings.has(wiring), {
      circuitId,
      controlId,
      signal: carried,
      // Without a cable the link is as thick as the circuit asks for.
      linkGauge: circuit && ends.length === 0 ? gaugeOfCircuit(reader, circuit) : undefined,
    });
    joints.push(uncutLoop(reader, joint, runs, devices) ?? joint);
  }
  return { joints, unfed, openDevices };
}

/** All grounds of the box with a pigtail to each device and to the box. A raceway is the ground of its metal box. */
function groundJoint(
  reader: HouseReader,
  facts: BoxFacts,
  runs: readonly Run[],
  grounds: readonly CableEnd[],
  boxId: string,
): { joint?: BoxJoint; unfed: readonly Landing[] } {
  const byRaceway = facts.material === 'metal' && runs.some((run) => run.kind === 'raceway');
  const landings: Landing[] = [
    ...(facts.material === 'metal' || facts.groundScrew ? [{ terminal: BOX_GROUND }] : []),
    ...devicesIn(reader, boxId)
      .filter((device) => deviceType(reader, device).mount !== 'direct' || grounds.length > 0)
      .map((device) => ({ deviceId: device.id, terminal: GROUND })),
  ];
  if (grounds.length) return { joint: join(reader, 'ground', grounds, landings, false), unfed: [] };
  if (byRaceway)
    return landings.length > 1
      ? { joint: join(reader, 'ground', [], landings, false), unfed: [] }
      : { unfed: [] };
  return { unfed: landings };
}

/** A capped pigtail for a later device, where the house leaves one at switches that need no neutral. */
function sparePigtail(
  reader: HouseReader,
  carried: Carried,
  landings: readonly Landing[],
  devices: readonly { readonly id: string }[],
): Landing[] {
  if (carried !== 'neutral' || !reader.rules().flag('makeup.spareNeutral')) return [];
  const needless = devices.filter(
    ({ id }) =>
      !landings.some(({ deviceId }) => deviceId === id) &&
      reader.mentioning('points', id).some(({ role }) => role === 'lever'),
  );
  return needless.map(() => ({ terminal: CAPPED }));
}

/**
 * In raceway the neutral goes uncut through a switch box, in a loop long enough for a later device: common practice; it
 * counts twice in the fill when the loop is twice the free length of NEC 300.14.
 */
function uncutLoop(
  reader: HouseReader,
  joint: BoxJoint,
  runs: readonly Run[],
  devices: readonly { readonly id: string }[],
): BoxJoint | undefined {
  if (joint.role !== 'neutral' || joint.ends.length !== 2 || joint.landings.length) return undefined;
  const [one, other] = joint.ends;
  const inRaceway = joint.ends.every(({ runId }) => runs.find(({ id }) => id === runId)?.kind === 'raceway');
  // Only of the neutral that a device of this box may need.
  const own = joint.circuitId && neutralOfCircuit(reader, joint.circuitId);
  const atSwitch = devices.some(({ id }) =>
    reader
      .mentioning('points', id)
      .some(
        (point) =>
          point.role === 'lever' && neutralOfCircuit(reader, circuitOfPoint(reader, point) ?? '') === own,
      ),
  );
  if (!inRaceway || !atSwitch || one!.gauge !== other!.gauge || one!.colour !== other!.colour)
    return undefined;
  return { ...joint, kind: 'uncut', loopIn: 2 * reader.rules().number('free.length') };
}

/** Where a signal lands in a panel: that of its circuit, or one that its circuit feeds. */
function panelTerminal(
  reader: HouseReader,
  boxId: string,
  carried: Carried,
  wiring: CircuitWiring | undefined,
): Landing | undefined {
  const circuitId = circuitOf(carried, wiring);
  const circuit = circuitId ? supplyOf(reader, circuitId) : undefined;
  if (!circuit || !circuitId || !wiring) return undefined;
  const isHome = circuit.panelId === boxId;
  if (!isHome && circuit.poles !== 2) return undefined;
  if (carried === 'neutral') {
    const watched = wiring.circuitIds.find((id) => hasOwnNeutral(supplyOf(reader, id)!));
    return { terminal: isHome && watched ? breakerNeutralOf(watched) : NEUTRAL_BAR };
  }
  if (poleOf(carried) === 1) return { terminal: isHome ? breakerOf(circuitId) : LUGS[0] };
  if (poleOf(carried) === 2) return { terminal: isHome ? breakerOf(circuitId, 2) : LUGS[1] };
  return undefined;
}

function panelJoints(
  reader: HouseReader,
  boxId: string,
  strands: readonly Strand[],
  grounds: readonly CableEnd[],
): Omit<BoxJoints, 'conflicts'> {
  // Every ground has a screw of its own on the bar; they are one joint.
  const joints: BoxJoint[] = grounds.length
    ? [join(reader, 'ground', grounds, [{ terminal: GROUND_BAR }], false)]
    : [];
  for (const { wiring, carried, ends } of strands) {
    const circuitId = circuitOf(carried, wiring);
    const landing = panelTerminal(reader, boxId, carried, wiring);
    const signal = carried === 'spare' || carried === 'undecided' ? undefined : carried;
    if (!landing && carried !== 'spare' && carried !== 'undecided') {
      // A circuit of another panel that only ends here has nothing to land on: nothing is guessed.
      const isLost = wiring?.tree.panelId !== boxId && ends.length === 1;
      // Switched conductors that pass the panel on their way are spliced there.
      const controlId = controlOf(carried);
      joints.push(
        join(reader, isLost ? 'undecided' : roleOf(carried), ends, [], isLost, {
          circuitId,
          controlId,
          signal,
        }),
      );
      continue;
    }
    for (const end of ends) {
      const role = landing ? roleOf(carried) : carried === 'spare' ? 'spare' : 'undecided';
      joints.push(
        join(reader, role, [end], landing ? [landing] : [], role === 'undecided', { circuitId, signal }),
      );
    }
  }
  return { joints, unfed: [], openDevices: new Set() };
}

/** Step four of wiring, by box id: over all circuits of the box, which conductors are joined to what. */
const BOX_JOINTS: Derivation<BoxJoints> = {
  name: 'box joints',
  compute: (reader, boxId) => {
    const derived = derivedJoints(reader, boxId);
    const asBuilt = reader.part(BOX_MADE, boxId)?.asBuilt;
    const { joints, unfed, openDevices, conflicts }: BoxJoints = asBuilt?.length
      ? overlayMade(reader, { id: boxId, asBuilt }, derived)
      : { joints: derived.joints, unfed: derived.unfed, openDevices: derived.openDevices, conflicts: [] };
    return { joints: divideSplices(reader, joints), unfed, openDevices, conflicts };
  },
};

/** Joints of a box as the wiring asks for them, whatever is recorded as made. By box id. */
const ASKED_JOINTS: Derivation<readonly BoxJoint[]> = {
  name: 'asked joints',
  compute: (reader, boxId) => divideSplices(reader, derivedJoints(reader, boxId).joints),
};

/** {@link boxJoints} where what was made is as it was asked for, else as the wiring asks for them. */
export const soundJoints = (reader: HouseReader, boxId: string): readonly BoxJoint[] => {
  const { joints, conflicts } = boxJoints(reader, boxId);
  return conflicts.length ? reader.derive(ASKED_JOINTS, boxId) : joints;
};

export const boxJoints = (reader: HouseReader, boxId: string): BoxJoints => reader.derive(BOX_JOINTS, boxId);

/**
 * Joints of a box, as far as one wiring group needs them. In a panel of which nothing is recorded as made, these are those of
 * its own runs: what other circuits bring there has nothing to do with it.
 */
export function jointsForGroup(
  reader: HouseReader,
  boxId: string,
  wiring: CircuitWiring,
): readonly BoxJoint[] {
  const isPlainPanel =
    shapeOfBox(reader, boxId).kind === 'panel' && !reader.part(BOX_MADE, boxId)?.asBuilt?.length;
  if (!isPlainPanel) return boxJoints(reader, boxId).joints;
  const runs = new Set(wiring.circuitIds.flatMap((id) => reader.mentioning('runs', id)));
  const own = [...runs].filter((run) => run.kind !== 'low-voltage' && boxesOf(run).includes(boxId));
  const { strands, grounds } = strandsOf(reader, boxId, own, [wiring]);
  return divideSplices(reader, panelJoints(reader, boxId, strands, grounds).joints);
}

/** {@link jointsForGroup} of what is sound: where a box was recorded as made otherwise than asked for, as it is asked for. */
export const soundForGroup: typeof jointsForGroup = (reader, boxId, wiring) =>
  boxJoints(reader, boxId).conflicts.length
    ? reader.derive(ASKED_JOINTS, boxId)
    : jointsForGroup(reader, boxId, wiring);

/** The thickest insulated conductor on a device; undefined while that is not known. */
export function gaugeOnDevice(reader: HouseReader, boxId: string, deviceId: string): Gauge | undefined {
  const { joints, openDevices } = boxJoints(reader, boxId);
  if (openDevices.has(deviceId)) return undefined;
  const gauges = joints
    .filter(
      (joint) => joint.role !== 'ground' && joint.landings.some((landing) => landing.deviceId === deviceId),
    )
    .map((joint) => joint.gauge);
  return thickest(gauges);
}
