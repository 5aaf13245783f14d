import type { HouseReader } from '../derive/reader.js';
import type { CircuitWiring } from '../wiring/conductors/circuit-wiring.js';
import { buildNetlist } from '../wiring/netlist/build-netlist.js';
import { allPositions } from '../wiring/netlist/lever-positions.js';
import type { Netlist } from '../wiring/netlist/netlist.js';
import { Machine, stateOf } from '../wiring/netlist/operate.js';
import type { Hypothesis } from './hypotheses.js';

/** What a light or outlet is seen to do. `odd`: dim, or far too bright. `trips`: the breaker does not hold. */
export const SEEN = ['off', 'on', 'odd', 'trips'] as const;
export type Seen = (typeof SEEN)[number];

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

/** What each hypothesis says is seen: by position and light a number of `SEEN`. */
export class Predictions {
  readonly levers: readonly string[];
  /** Lights and outlets that one can look at, by point. */
  readonly loads: readonly string[];
  readonly positions: readonly Uint8Array[];
  /** By hypothesis: what is seen at [position × lights + light]. */
  readonly table: readonly Uint8Array[];
  private readonly machines: Machine[] = [];
  private readonly watched: boolean[] = [];
  private readonly indices: number[];

  constructor(
    reader: HouseReader,
    wirings: readonly CircuitWiring[],
    sound: Netlist,
    hypotheses: readonly Pick<Hypothesis, 'joints' | 'tripsWatched'>[],
  ) {
    this.levers = sound.levers.map(({ pointId }) => pointId);
    const seen = sound.loads
      .map(({ role }, index) => ({ role, index }))
      .filter(({ role }) => role !== 'electronics');
    this.indices = seen.map(({ index }) => index);
    this.loads = this.indices.map((index) => sound.loads[index]!.pointId);
    this.positions = usefulPositions(sound);
    this.table = hypotheses.map(({ joints, tripsWatched }) => {
      const machine = new Machine(buildNetlist(reader, wirings, joints));
      this.machines.push(machine);
      this.watched.push(tripsWatched);
      const row = new Uint8Array(this.positions.length * this.loads.length);
      this.positions.forEach((levers, at) =>
        row.set(this.look(machine, tripsWatched, levers), at * this.loads.length),
      );
      return row;
    });
  }

  private look(machine: Machine, tripsWatched: boolean, levers: Uint8Array): Uint8Array {
    const { loads } = machine.netlist;
    const volts = new Float64Array(loads.length);
    const holds = machine.loadVolts(levers, volts) && !tripsWatched;
    return Uint8Array.from(this.indices, (index) => {
      if (!holds) return 3;
      const state = stateOf(volts[index]!, loads[index]!.volts);
      return state === 'off' ? 0 : state === 'on' ? 1 : 2;
    });
  }

  /** The number of a position among those that are offered; −1 for another one. */
  placeOf(levers: Uint8Array): number {
    return this.positions.findIndex((one) => one.every((lever, at) => lever === levers[at]));
  }

  /** What a hypothesis says is seen of a light in any position, whose number is given where it is known. */
  at(hypothesis: number, levers: Uint8Array, load: number, position = this.placeOf(levers)): number {
    if (position >= 0) return this.table[hypothesis]![position * this.loads.length + load]!;
    return this.look(this.machines[hypothesis]!, this.watched[hypothesis]!, levers)[load]!;
  }
}
