import { eliminate } from './eliminate.js';
import type { Netlist } from './netlist.js';
import { stateOf } from './operate.js';

/** Amperes below this are rounding. */
const NOTHING = 1e-6;
/** Shares of what loads draw, from 0.5 to 1, of which no few add up to those of others (steps of the golden ratio). */
const unlikeShare = (index: number): number => 0.5 + (((index + 1) * 0.381966011250105) % 0.5);
const NO_RUNS: ReadonlyMap<string, Unbalanced> = new Map();

export interface Unbalanced {
  readonly amps: number;
  readonly key: string;
}

/**
 * What the conductors of a netlist carry when its loads draw these voltages, and in which cables it does not cancel: a
 * cable whose conductors do not sum to nothing heats metal and hums (NEC 300.3(B)). Joints are nodes, conductors and closed
 * contacts edges of equal resistance; what the panel ties is one node.
 */
export class CableCurrents {
  private readonly panel: number;
  /** Runs that are not seen to cancel by how the netlist hangs together: only these need to be counted. */
  readonly suspects: ReadonlySet<string>;
  /** 1 for a conductor that is counted from its first end, -1 from its second, so that those of one run agree. */
  private readonly direction: Int8Array;
  /** Two joints each: the conductors, then what feed-through devices and the panel join. */
  private readonly edges: readonly (readonly [number, number])[];

  constructor(private readonly netlist: Netlist) {
    this.panel = netlist.joints.length;
    const box = (joint: number): string => netlist.joints[joint]!.boxId;
    const first = new Map<string, string>();
    this.direction = Int8Array.from(netlist.conductors, ({ runId, from }) => {
      const start = first.get(runId) ?? box(from);
      first.set(runId, start);
      return start === box(from) ? 1 : -1;
    });
    this.edges = [
      ...netlist.conductors.map(({ from, to }) => [from, to] as const),
      ...netlist.through,
      ...netlist.tabs,
      ...netlist.sources.map(({ joint }) => [joint, this.panel] as const),
    ];
    this.suspects = this.findSuspects();
  }

  /**
   * A run whose conductors are the only way between its two sides cancels in every position, by Kirchhoff's current law:
   * what goes over must come back. The others are suspects.
   */
  private findSuspects(): Set<string> {
    const { netlist, panel } = this;
    const suspects = new Set<string>();
    const candidates = runsInLoops(netlist);
    if (candidates.size === 0) return suspects;
    const others: (readonly [number, number])[] = [
      ...netlist.through,
      ...netlist.tabs,
      ...netlist.levers.flatMap(({ down, up }) => [...down, ...up]),
      ...netlist.sources.map(({ joint }) => [joint, panel] as const),
      ...netlist.loads.flatMap(({ hot, back }) =>
        hot === undefined || back === undefined ? [] : [[hot, back] as const],
      ),
    ];
    const parent = new Int32Array(panel + 1);
    const find = (at: number): number => {
      while (parent[at] !== at) at = parent[at] = parent[parent[at]!]!;
      return at;
    };
    for (const runId of candidates) {
      for (let joint = 0; joint <= panel; joint++) parent[joint] = joint;
      for (const [a, b] of others) parent[find(a)] = find(b);
      for (const conductor of netlist.conductors)
        if (conductor.runId !== runId) parent[find(conductor.from)] = find(conductor.to);
      const near = new Set<number>();
      const far = new Set<number>();
      netlist.conductors.forEach((conductor, index) => {
        if (conductor.runId !== runId || netlist.ground.has(conductor.from)) return;
        const { from, to } = conductor;
        const straight = this.direction[index] === 1;
        near.add(find(straight ? from : to));
        far.add(find(straight ? to : from));
      });
      if ([...near].some((side) => far.has(side))) suspects.add(runId);
    }
    return suspects;
  }

  /**
   * Runs whose conductors do not cancel when this part is operated: the amperes left over, and the conductor with most. What
   * is plugged in draws as it likes: two halves of a receptacle on two legs that draw the same would hide a neutral that
   * goes home another way, so no two loads are taken to draw alike.
   */
  unbalanced(part: Netlist, levers: Uint8Array, loadVolts: Float64Array): ReadonlyMap<string, Unbalanced> {
    if (this.suspects.size === 0 || loadVolts.every((volts) => volts === 0)) return NO_RUNS;
    const alike = (): ReadonlyMap<string, Unbalanced> => this.leftOver(this.amps(part, levers, loadVolts));
    // Loads in series share one current: it can only be counted as it is.
    const inSeries = part.loads.some(({ volts }, index) => {
      const state = stateOf(loadVolts[index]!, volts);
      return state === 'dim' || state === 'over';
    });
    if (inSeries) return alike();
    const unlike = this.leftOver(
      this.amps(
        part,
        levers,
        loadVolts.map((volts, index) => volts * unlikeShare(index)),
      ),
    );
    return unlike.size ? new Map([...unlike, ...alike()]) : unlike;
  }

  /** Runs whose conductors do not cancel when they carry these amperes. */
  private leftOver(amps: Float64Array): ReadonlyMap<string, Unbalanced> {
    const { netlist } = this;
    const sums = new Map<string, Unbalanced & { most: number }>();
    netlist.conductors.forEach(({ runId, key, from }, index) => {
      if (!this.suspects.has(runId) || (netlist.ground.has(from) && amps[index] === 0)) return;
      const known = sums.get(runId) ?? { amps: 0, key, most: 0 };
      const own = Math.abs(amps[index]!);
      sums.set(runId, {
        amps: known.amps + amps[index]! * this.direction[index]!,
        ...(own > known.most ? { key, most: own } : { key: known.key, most: known.most }),
      });
    });
    return new Map([...sums].filter(([, { amps: left }]) => Math.abs(left) > NOTHING));
  }

  /**
   * Amperes in every conductor of the netlist, from its first end to its second, when the loads of this part of it draw
   * these voltages with its levers in this position.
   */
  amps(part: Netlist, levers: Uint8Array, loadVolts: Float64Array): Float64Array {
    const injected = new Float64Array(this.panel + 1);
    part.loads.forEach(({ hot, back, ohms }, index) => {
      if (hot === undefined || back === undefined) return;
      const amps = loadVolts[index]! / ohms;
      injected[hot]! -= amps;
      injected[back]! += amps;
    });
    const contacts = part.levers.flatMap(({ down, up }, index) => (levers[index] ? up : down));
    return flow(this.panel + 1, [...this.edges, ...contacts], injected, this.panel);
  }
}

/**
 * Runs that lie on a way round through the boxes, those side by side too. What the panel ties is one place. Any other run is
 * the only way to what lies beyond it, whatever is joined in the boxes.
 */
function runsInLoops(netlist: Netlist): Set<string> {
  const { joints, conductors, ground } = netlist;
  const panel = netlist.sources[0] && joints[netlist.sources[0].joint]!.boxId;
  const tied = new Set(netlist.sources.map(({ joint }) => joints[joint]!.boxId));
  const place = (joint: number): string => {
    const { boxId } = joints[joint]!;
    return panel !== undefined && tied.has(boxId) ? panel : boxId;
  };
  const ends = new Map<string, readonly [string, string]>();
  const at = new Map<string, Set<string>>();
  for (const { runId, from, to } of conductors) {
    if (ends.has(runId) || ground.has(from)) continue;
    const [a, b] = [place(from), place(to)];
    ends.set(runId, [a, b]);
    if (a === b) continue;
    for (const one of [a, b]) {
      const runs = at.get(one);
      if (runs) runs.add(runId);
      else at.set(one, new Set([runId]));
    }
  }
  // What hangs on one run only is taken off, again and again.
  const left = new Set(ends.keys());
  const leaves = [...at].flatMap(([one, runs]) => (runs.size === 1 ? [one] : []));
  for (let leaf = leaves.pop(); leaf !== undefined; leaf = leaves.pop()) {
    for (const runId of at.get(leaf)!) {
      left.delete(runId);
      const [a, b] = ends.get(runId)!;
      const other = at.get(a === leaf ? b : a)!;
      other.delete(runId);
      if (other.size === 1) leaves.push(a === leaf ? b : a);
    }
    at.get(leaf)!.clear();
  }
  return left;
}

/**
 * The current in every edge that carries what is injected at the nodes to the sink. Leaves are folded in one after another;
 * what is left has meshes and is solved over equal resistances.
 */
function flow(
  size: number,
  edges: readonly (readonly [number, number])[],
  injected: Float64Array,
  sink: number,
): Float64Array {
  const result = new Float64Array(edges.length);
  const at: number[][] = Array.from({ length: size }, () => []);
  edges.forEach(([a, b], index) => {
    if (a === b) return;
    at[a]!.push(index);
    at[b]!.push(index);
  });
  const degree = at.map((list) => list.length);
  const done = new Uint8Array(edges.length);
  const carry = Float64Array.from(injected);
  const leaves = degree.flatMap((count, node) => (count === 1 && node !== sink ? [node] : []));
  for (let next = 0; next < leaves.length; next++) {
    const node = leaves[next]!;
    const index = at[node]!.find((edge) => !done[edge]);
    if (index === undefined) continue;
    done[index] = 1;
    const [a, b] = edges[index]!;
    const other = a === node ? b : a;
    result[index] = a === node ? carry[node]! : -carry[node]!;
    carry[other]! += carry[node]!;
    carry[node] = 0;
    degree[node] = 0;
    if (--degree[other]! === 1 && other !== sink) leaves.push(other);
  }
  const left = edges.flatMap((_, index) =>
    done[index] || edges[index]![0] === edges[index]![1] ? [] : [index],
  );
  if (left.length) {
    const meshed = [...new Set(left.flatMap((index) => [...edges[index]!]))].filter((node) => node !== sink);
    const place = new Map(meshed.map((node, index) => [node, index]));
    const rows = meshed.map((node) => {
      const row = new Float64Array(meshed.length + 1);
      row[meshed.length] = carry[node]!;
      return row;
    });
    for (const index of left) {
      const [a, b] = edges[index]!;
      for (const [here, there] of [
        [a, b],
        [b, a],
      ] as const) {
        const row = place.get(here);
        if (row === undefined) continue;
        rows[row]![row]! += 1;
        const column = place.get(there);
        if (column !== undefined) rows[row]![column]! -= 1;
      }
    }
    const solution = eliminate(rows, meshed.length);
    const volts = new Float64Array(size);
    for (const [node, index] of place) volts[node] = solution[index]!;
    for (const index of left) result[index] = volts[edges[index]![0]]! - volts[edges[index]![1]]!;
  }
  return result;
}
