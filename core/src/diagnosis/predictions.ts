import type { HouseReader } from '../derive/reader.js';
import type { MeterEnd, Seen } from '../house/report.js';
import type { CircuitWiring } from '../wiring/conductors/circuit-wiring.js';
import { buildNetlist } from '../wiring/netlist/build-netlist.js';
import { allPositions } from '../wiring/netlist/lever-positions.js';
import type { JointsByBox, Netlist } from '../wiring/netlist/netlist.js';
import { Machine, stateOf } from '../wiring/netlist/operate.js';

/** By their numbers what a light or outlet is seen to do. */
export const SEEN: readonly Seen[] = ['off', 'on', 'odd', 'trips'];
export const [OFF, ON, ODD, TRIPS] = [0, 1, 2, 3];

/** So many positions of the levers are offered to be looked at; more are not needed to tell single faults apart. */
const MOST_POSITIONS = 96;

/** Positions of these levers that are worth a look: all of them where they are few; else each control in full, and each lever alone. */
export function usefulPositions(netlist: Netlist): Uint8Array[] {
  const count = netlist.levers.length;
  if (1 << count <= MOST_POSITIONS && count < 20)
    return allPositions(count).map((mask) =>
      Uint8Array.from({ length: count }, (_, lever) => (mask >>> lever) & 1),
    );
  const positions = new Map<string, Uint8Array>();
  const put = (levers: Uint8Array): void => {
    if (positions.size < MOST_POSITIONS) positions.set(levers.join(''), levers);
  };
  put(new Uint8Array(count));
  put(new Uint8Array(count).fill(1));
  for (const places of netlist.places.values()) {
    const own = netlist.levers.flatMap(({ pointId }, at) => (places.includes(pointId) ? [at] : []));
    for (const mask of allPositions(Math.min(own.length, 4))) {
      const levers = new Uint8Array(count);
      own.slice(0, 4).forEach((at, bit) => (levers[at] = (mask >>> bit) & 1));
      put(levers);
    }
  }
  for (let at = 0; at < count; at++) {
    const levers = new Uint8Array(count);
    levers[at] = 1;
    put(levers);
  }
  return [...positions.values()];
}

/** What can be seen in a circuit, by number: levers, lights and outlets, positions that are worth a look. */
export class Sights {
  readonly levers: readonly string[];
  /** Those of the circuit that is looked at; all others stay down. */
  readonly ownLevers: readonly string[];
  /** Lights and outlets that one can look at, by point. */
  readonly loads: readonly string[];
  readonly positions: readonly Uint8Array[];
  /** By light its number among the loads of a netlist. */
  readonly indices: readonly number[];
  /** By light the circuit that feeds it, and the control that is to switch it. */
  readonly fed: readonly { readonly circuitId: string; readonly controlId: string | undefined }[];
  /** Volts between a hot and neutral. */
  readonly lineVolts: number;
  private readonly numbers: ReadonlyMap<string, number>;

  /** `sound` holds other circuits too that come into the same boxes; what is looked at is what `own` holds. */
  constructor(sound: Netlist, own: Netlist) {
    this.levers = sound.levers.map(({ pointId }) => pointId);
    this.lineVolts = Math.max(0, ...sound.sources.map(({ volts }) => Math.abs(volts)));
    const lit = new Set(own.loads.flatMap(({ role, pointId }) => (role === 'electronics' ? [] : pointId)));
    const seen = sound.loads
      .map(({ role, pointId }, index) => ({ role, pointId, index }))
      .filter(({ role, pointId }) => role !== 'electronics' && lit.has(pointId));
    this.indices = seen.map(({ index }) => index);
    this.loads = this.indices.map((index) => sound.loads[index]!.pointId);
    this.fed = this.indices.map((index) => {
      const { circuitId, controlId } = sound.loads[index]!;
      return { circuitId, controlId };
    });
    const places = own.levers.map(({ pointId }) => this.levers.indexOf(pointId));
    this.ownLevers = own.levers.map(({ pointId }) => pointId);
    this.positions = usefulPositions(own).map((position) => {
      const levers = new Uint8Array(this.levers.length);
      position.forEach((up, at) => (levers[places[at]!] = up));
      return levers;
    });
    this.numbers = new Map(this.positions.map((levers, at) => [levers.join(''), at]));
  }

  leversOf(up: readonly string[]): Uint8Array {
    return Uint8Array.from(this.levers, (id) => (up.includes(id) ? 1 : 0));
  }

  /** Points of the levers that are up. */
  upOf(levers: Uint8Array): string[] {
    return this.levers.filter((_, at) => levers[at]);
  }

  /** The number of a position among those that are offered; −1 for another one. */
  placeOf(levers: Uint8Array): number {
    return this.numbers.get(levers.join('')) ?? -1;
  }
}

/** A circuit whose boxes are made up in one certain way, and all that can be seen and measured of it. */
export class MadeCase {
  /** What is seen at [position × lights + light]. */
  readonly row: Uint8Array;
  private readonly machine: Machine;
  private jointOf: Map<string, number> | undefined;

  constructor(
    reader: HouseReader,
    wirings: readonly CircuitWiring[],
    private readonly sights: Sights,
    readonly joints: JointsByBox,
    private readonly tripsWatched: boolean,
    /** Positions that are looked at beforehand; all others when they are asked for. */
    private readonly positions = sights.positions,
  ) {
    this.machine = new Machine(buildNetlist(reader, wirings, joints));
    const { loads } = sights;
    this.row = new Uint8Array(positions.length * loads.length);
    positions.forEach((levers, at) => this.row.set(this.look(levers), at * loads.length));
  }

  private look(levers: Uint8Array): Uint8Array {
    const { loads } = this.machine.netlist;
    const volts = new Float64Array(loads.length);
    const holds = this.machine.loadVolts(levers, volts) && !this.tripsWatched;
    return Uint8Array.from(this.sights.indices, (index) => {
      if (!holds) return TRIPS;
      const state = stateOf(volts[index]!, loads[index]!.volts);
      return state === 'off' ? OFF : state === 'on' ? ON : ODD;
    });
  }

  /** What is seen of a light in any position, whose number is given where it is known. */
  at(levers: Uint8Array, load: number, position = this.sights.placeOf(levers)): number {
    if (position >= 0 && position < this.positions.length)
      return this.row[position * this.sights.loads.length + load]!;
    return this.look(levers)[load]!;
  }

  /** Whether the breaker holds with the levers so. */
  trips(levers: Uint8Array): boolean {
    return this.tripsWatched || this.machine.operate(levers).shorts.length > 0;
  }

  /** What a meter shows between two conductors with the breaker on, in volts; undefined where one of them floats or is not there. */
  volts([one, other]: readonly [MeterEnd, MeterEnd], levers: Uint8Array): number | undefined {
    const read = this.readings(levers);
    const [a, b] = [read(one), read(other)];
    return a === undefined || b === undefined ? undefined : Math.abs(a - b);
  }

  /** What each conductor carries against the ground with the levers so and the breaker on, as {@link volts} reads it. */
  readings(levers: Uint8Array): (end: MeterEnd) => number | undefined {
    const { volts, shorts } = this.machine.operate(levers);
    if (this.tripsWatched || shorts.length) return () => 0;
    const { joints, ground } = this.machine.netlist;
    this.jointOf ??= new Map(
      joints.flatMap(({ boxId, joint }, at) =>
        joint.ends.map(({ runId, key }) => [`${boxId} ${runId} ${key}`, at] as const),
      ),
    );
    const { jointOf } = this;
    return ({ boxId, runId, key }) => {
      const at = jointOf.get(`${boxId} ${runId} ${key}`);
      // Ground is tied to neutral in the panel, and carries nothing.
      return at === undefined ? undefined : (volts[joints[at]!.net] ?? (ground.has(at) ? 0 : undefined));
    };
  }
}
