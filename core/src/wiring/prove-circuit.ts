import type { Derivation, HouseReader } from '../derive/reader.js';
import { boxName, circuitName, runName } from '../house/naming.js';
import { CableCurrents } from './cable-currents.js';
import type { NetLoad, Netlist } from './netlist.js';
import { netlistOf } from './netlist.js';
import { Machine, stateOf } from './operate.js';
import { partsOf } from './parts.js';
import { wireCircuit } from './wire-circuit.js';

export type ProofCode =
  | 'proof.does-not-follow'
  | 'proof.always-on-is-not'
  | 'proof.short'
  | 'proof.series'
  | 'proof.switched-neutral'
  | 'proof.neutral-broken'
  | 'proof.circuits-joined'
  | 'proof.unbalanced'
  | 'proof.no-ground'
  | 'proof.spare-joined'
  | 'proof.white-unmarked'
  | 'proof.off-position';

/** A property that does not hold, with the smallest counterexample. */
export interface ProofFailure {
  readonly code: ProofCode;
  readonly message: string;
  /** Levers that are up, the others down, in the position that shows it; undefined where no position matters. */
  readonly up?: readonly string[];
  readonly boxId?: string;
  readonly deviceId?: string;
  readonly pointId?: string;
  readonly controlId?: string;
  readonly runId?: string;
}

export interface Proof {
  readonly circuitIds: readonly string[];
  /** What hangs together through switches and loads, each operated by itself. */
  readonly parts: number;
  /** Lever positions that were operated. */
  readonly positions: number;
  /** Some part had too many levers to try all: controls in full, and fixed samples. */
  readonly sampled: boolean;
  readonly failures: readonly ProofFailure[];
  /** What depends on the inside of the devices: said, never a failure. */
  readonly advice: readonly ProofFailure[];
  readonly holds: boolean;
}

/** Up to so many levers every position is operated. */
export const ALL_POSITIONS_TO = 12;
const SAMPLES = 512;

const bits = (value: number): number => {
  let count = 0;
  for (let left = value; left; left &= left - 1) count++;
  return count;
};

/** Every position of `count` levers, the fewest up first, so that the first that shows something is the smallest. */
export function allPositions(count: number): number[] {
  return Array.from({ length: 1 << count }, (_, index) => index).sort((a, b) => bits(a) - bits(b) || a - b);
}

/** The same samples every time: a small generator with a fixed start. */
function samplePositions(count: number): Uint8Array[] {
  let seed = 12345;
  const next = (): number => {
    seed = (Math.imul(seed, 1103515245) + 12345) & 0x7fffffff;
    return seed >>> 16;
  };
  return Array.from({ length: SAMPLES }, () => Uint8Array.from({ length: count }, () => next() & 1));
}

interface Names {
  readonly load: (load: NetLoad) => string;
  readonly control: (id: string) => string;
  readonly box: (id: string) => string;
}

function namesOf(reader: HouseReader): Names {
  return {
    load: ({ pointId, boxId, role }) =>
      `${reader.get('points', pointId)?.name ?? role} in ${boxName(reader, boxId)}`,
    control: (id) => `“${reader.get('controls', id)?.name ?? 'a control'}”`,
    box: (id) => boxName(reader, id),
  };
}

class Findings {
  private readonly seen = new Map<string, ProofFailure>();
  add(failure: ProofFailure): void {
    const key = `${failure.code} ${failure.boxId} ${failure.deviceId} ${failure.pointId} ${failure.runId} ${failure.controlId}`;
    if (!this.seen.has(key)) this.seen.set(key, failure);
  }
  has(code: ProofCode, pointId: string): boolean {
    return [...this.seen.values()].some((failure) => failure.code === code && failure.pointId === pointId);
  }
  all(): ProofFailure[] {
    return [...this.seen.values()];
  }
}

/**
 * Proves a netlist by operating it. Every load follows every place of its control and nothing else; what has no control is
 * on; nothing shorts; no load is in series with another; the switch is in the hot and the neutral whole; each cable's
 * currents cancel; neutrals and hots of different circuits are not joined; ground reaches every device and metal box;
 * spares are isolated; a white that is ever hot is marked. Parts that do not touch are operated in full up to 12 levers each.
 */
export function proveNetlist(reader: HouseReader, netlist: Netlist): Proof {
  const names = namesOf(reader);
  const failures = new Findings();
  const advice = new Findings();
  checkStill(reader, netlist, names, failures);
  const parts = partsOf(netlist);
  const position = { count: 0, sampled: false };
  const { suspects } = new CableCurrents(netlist);
  const whites = unmarkedWhites(netlist);
  for (const part of parts) operatePart(reader, part, suspects, whites, names, failures, advice, position);
  return {
    circuitIds: netlist.circuitIds,
    parts: parts.length,
    positions: position.count,
    sampled: position.sampled,
    failures: failures.all(),
    advice: reader.rules().text('wiring.offPosition') === 'all down' ? advice.all() : [],
    holds: failures.all().length === 0,
  };
}

/** What shows without touching a lever. */
function checkStill(reader: HouseReader, netlist: Netlist, names: Names, failures: Findings): void {
  const groupOf = new Map<string, string>();
  for (const id of netlist.circuitIds) groupOf.set(id, wireCircuit(reader, id).circuitIds[0]!);
  const tied = new Map<number, Netlist['sources'][number]>();
  for (const source of netlist.sources) {
    const { net } = netlist.joints[source.joint]!;
    const known = tied.get(net);
    if (!known) tied.set(net, source);
    else if (
      known.kind === 'neutral' &&
      source.kind === 'neutral' &&
      groupOf.get(known.circuitId) !== groupOf.get(source.circuitId)
    ) {
      const at = mixingBox(reader, netlist, net, groupOf);
      failures.add({
        code: 'proof.circuits-joined',
        message: `The neutrals of ${circuitName(reader, known.circuitId)} and ${circuitName(reader, source.circuitId)} are joined${at ? ` in ${names.box(at)}` : ''}: current returns on the wrong one.`,
        ...(at && { boxId: at }),
      });
    } else if (
      known.kind === 'hot' &&
      source.kind === 'hot' &&
      known.circuitId !== source.circuitId &&
      known.volts === source.volts
    ) {
      const at = mixingBox(reader, netlist, net, groupOf);
      failures.add({
        code: 'proof.circuits-joined',
        message: `The hots of ${circuitName(reader, known.circuitId)} and ${circuitName(reader, source.circuitId)} are joined${at ? ` in ${names.box(at)}` : ''}: opening one breaker leaves it live.`,
        ...(at && { boxId: at }),
      });
    }
  }
  for (const { boxId, deviceId, ok } of netlist.grounded) {
    if (ok) continue;
    failures.add({
      code: 'proof.no-ground',
      message: deviceId
        ? `Ground does not reach a device in ${names.box(boxId)}.`
        : `Metal box ${names.box(boxId)} is not bonded to ground.`,
      boxId,
      ...(deviceId && { deviceId }),
    });
  }
  for (const { boxId, joint } of netlist.joints) {
    if (joint.role !== 'spare') continue;
    if (joint.ends.length + joint.landings.length > 1)
      failures.add({
        code: 'proof.spare-joined',
        message: `A spare conductor in ${names.box(boxId)} is joined to something.`,
        boxId,
      });
  }
}

/** Ends of cables that look like neutral, at joints that no neutral of the panel is tied to. */
function unmarkedWhites(netlist: Netlist): { joint: number; runId: string }[] {
  const neutral = new Set(
    netlist.sources.filter(({ kind }) => kind === 'neutral').map(({ joint }) => netlist.joints[joint]!.net),
  );
  return netlist.joints.flatMap(({ joint: { ends }, net }, joint) =>
    neutral.has(net)
      ? []
      : ends.flatMap(({ colour, runId, marked, reidentified }) =>
          colour === 'WH' && !(marked ?? reidentified) ? [{ joint, runId }] : [],
        ),
  );
}

/** The box in which a net has conductors of two wiring groups in one joint. */
function mixingBox(
  reader: HouseReader,
  netlist: Netlist,
  net: number,
  groupOf: ReadonlyMap<string, string>,
): string | undefined {
  return netlist.joints.find(
    ({ joint, net: own }) =>
      own === net &&
      new Set(
        joint.ends.flatMap(({ runId }) =>
          reader.get('runs', runId)!.circuitIds.map((id) => groupOf.get(id) ?? id),
        ),
      ).size > 1,
  )?.boxId;
}

function operatePart(
  reader: HouseReader,
  part: Netlist,
  suspects: ReadonlySet<string>,
  whites: readonly { readonly joint: number; readonly runId: string }[],
  names: Names,
  failures: Findings,
  advice: Findings,
  position: { count: number; sampled: boolean },
): void {
  const count = part.levers.length;
  const machine = new Machine(part);
  const currents = new CableCurrents(part, suspects);
  const all = count <= ALL_POSITIONS_TO;
  const positions = all
    ? allPositions(count).map((mask) =>
        Uint8Array.from({ length: count }, (_, index) => (mask >>> index) & 1),
      )
    : [...controlPositions(part), ...samplePositions(count)];
  if (!all) position.sampled = true;
  const upOf = (levers: Uint8Array): string[] =>
    part.levers.flatMap(({ pointId }, index) => (levers[index] ? [pointId] : []));
  const volts = new Float64Array(part.loads.length);
  const on = new Map<string, Uint8Array>();
  const keyOf = (levers: Uint8Array): string => String.fromCharCode(...levers);
  const returns = part.loads.map((load) => (load.volts > 130 ? undefined : 0));
  for (const levers of positions) {
    position.count++;
    const sound = machine.loadVolts(levers, volts);
    const states = Uint8Array.from(part.loads, (load, index) =>
      stateOf(volts[index]!, load.volts) === 'off' ? 0 : 1,
    );
    on.set(keyOf(levers), states);
    if (!sound) {
      for (const { joint, what } of machine.operate(levers).shorts)
        failures.add({
          code: 'proof.short',
          message: `The breaker trips: ${what} (${names.box(part.joints[joint]!.boxId)}).`,
          boxId: part.joints[joint]!.boxId,
          up: upOf(levers),
        });
      continue;
    }
    for (const { joint, runId } of whites) {
      if (!machine.isHot(joint)) continue;
      const { boxId } = part.joints[joint]!;
      failures.add({
        code: 'proof.white-unmarked',
        message: `A white of ${runName(reader, reader.get('runs', runId)!)} is hot in ${names.box(boxId)} and not marked: the next hand takes it for neutral.`,
        boxId,
        runId,
        up: upOf(levers),
      });
    }
    part.loads.forEach((load, index) => {
      const state = stateOf(volts[index]!, load.volts);
      if (state === 'dim' || state === 'over')
        failures.add({
          code: 'proof.series',
          message:
            state === 'dim'
              ? `${names.load(load)} is in series with another load: ${Math.abs(volts[index]!).toFixed(0)} V instead of ${load.volts}.`
              : `${names.load(load)} gets ${Math.abs(volts[index]!).toFixed(0)} V instead of ${load.volts}: its neutral is open or missing.`,
          pointId: load.pointId,
          boxId: load.boxId,
          up: upOf(levers),
        });
      if (returns[index] === undefined || machine.isAt(load.back, 0)) return;
      if (failures.has('proof.neutral-broken', load.pointId)) return;
      const switched = part.levers.some((_, at) => {
        const other = Uint8Array.from(levers);
        other[at] = levers[at] ? 0 : 1;
        machine.loadVolts(other, new Float64Array(part.loads.length));
        return machine.isAt(load.back, 0);
      });
      machine.loadVolts(levers, volts);
      failures.add(
        switched
          ? {
              code: 'proof.switched-neutral',
              message: `The switch of ${names.load(load)} opens its neutral: it is off but live.`,
              pointId: load.pointId,
              boxId: load.boxId,
              up: upOf(levers),
            }
          : {
              code: 'proof.neutral-broken',
              message: `No neutral comes back from ${names.load(load)}: a splice is missing.`,
              pointId: load.pointId,
              boxId: load.boxId,
              up: upOf(levers),
            },
      );
    });
    for (const [runId, amps] of currents.unbalanced(levers, volts)) {
      const run = reader.get('runs', runId)!;
      failures.add({
        code: 'proof.unbalanced',
        message: `The currents in ${runName(reader, run)} do not cancel (${Math.abs(amps).toFixed(1)} A left over): hot and neutral go different ways.`,
        runId,
        up: upOf(levers),
      });
    }
  }
  checkFollows(part, names, positions, on, keyOf, upOf, failures, advice);
}

/** Each load changes with every lever of its control, in every position, and with no other. */
function checkFollows(
  part: Netlist,
  names: Names,
  positions: readonly Uint8Array[],
  on: ReadonlyMap<string, Uint8Array>,
  keyOf: (levers: Uint8Array) => string,
  upOf: (levers: Uint8Array) => string[],
  failures: Findings,
  advice: Findings,
): void {
  const leverAt = new Map(part.levers.map(({ pointId }, index) => [pointId, index]));
  part.loads.forEach((load, index) => {
    const of = {
      pointId: load.pointId,
      boxId: load.boxId,
      ...(load.controlId && { controlId: load.controlId }),
    };
    if (!load.controlId) {
      const dark = positions.find((levers) => !on.get(keyOf(levers))![index]);
      if (dark)
        failures.add({
          code: 'proof.always-on-is-not',
          message: `${names.load(load)} should always be on; it is dead${part.levers.length ? ' in this position' : ''}.`,
          ...of,
          up: upOf(dark),
        });
      return;
    }
    const own = (part.places.get(load.controlId) ?? []).map((point) => leverAt.get(point));
    const shown = new Set(own);
    for (const levers of positions) {
      const now = on.get(keyOf(levers))![index];
      for (let at = 0; at < part.levers.length; at++) {
        const other = Uint8Array.from(levers);
        other[at] = levers[at] ? 0 : 1;
        const then = on.get(keyOf(other))?.[index];
        if (then === undefined) continue;
        const follows = shown.has(at);
        if (follows === (then !== now)) continue;
        const at_ = part.levers[at]!;
        failures.add({
          code: 'proof.does-not-follow',
          message: follows
            ? `${names.load(load)} does not follow the switch in ${names.box(at_.boxId)} in this position: ${now ? 'it stays on' : 'it stays off'}.`
            : `${names.load(load)} changes with a switch in ${names.box(at_.boxId)} that is not to switch it.`,
          ...of,
          up: upOf(levers),
        });
      }
    }
    if (own.some((at) => at === undefined)) {
      failures.add({
        code: 'proof.does-not-follow',
        message: `${names.load(load)} has nothing to do with a switch of ${names.control(load.controlId)}: they are not joined.`,
        ...of,
        up: [],
      });
    }
    const down = new Uint8Array(part.levers.length);
    if (on.get(keyOf(down))?.[index])
      advice.add({
        code: 'proof.off-position',
        message: `${names.control(load.controlId)} is on with all levers down. Turn one three-way over, or swap its travelers, if the house wants down to be off.`,
        ...of,
        up: [],
      });
  });
}

/** Each control in every position of its own levers, with all others down and with all others up. */
function controlPositions(part: Netlist): Uint8Array[] {
  const count = part.levers.length;
  const positions = new Map<string, Uint8Array>();
  for (const places of part.places.values()) {
    const own = part.levers.flatMap(({ pointId }, index) => (places.includes(pointId) ? [index] : []));
    if (own.length === 0 || own.length > ALL_POSITIONS_TO) continue;
    for (const rest of [0, 1]) {
      for (const mask of allPositions(own.length)) {
        const levers = new Uint8Array(count).fill(rest);
        own.forEach((at, index) => (levers[at] = (mask >>> index) & 1));
        positions.set(String.fromCharCode(...levers), levers);
      }
    }
  }
  return [...positions.values()];
}

/** The proof of a circuit as it stands, by circuit id. */
export const CIRCUIT_PROOF: Derivation<Proof> = {
  name: 'circuit proof',
  compute: (reader, circuitId) => {
    const leader = wireCircuit(reader, circuitId).circuitIds[0]!;
    return leader === circuitId
      ? proveNetlist(reader, netlistOf(reader, circuitId))
      : reader.derive(CIRCUIT_PROOF, leader);
  },
};

export const proveCircuit = (reader: HouseReader, circuitId: string): Proof =>
  reader.derive(CIRCUIT_PROOF, circuitId);
