import { eliminate } from '../../structures/eliminate.js';
import type { Netlist } from './netlist.js';
import { stateOf } from './operate.js';
import { NamedUnion, Union } from '../../structures/union.js';

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
  private readonly edges: FlatEdges;

  constructor(private readonly netlist: Netlist) {
    this.panel = netlist.joints.length;
    const box = (joint: number): string => netlist.joints[joint]!.boxId;
    const first = new Map<string, string>();
    this.direction = Int8Array.from(netlist.conductors, ({ runId, from }) => {
      const start = first.get(runId) ?? box(from);
      first.set(runId, start);
      return start === box(from) ? 1 : -1;
    });
    const edges: number[] = [];
    for (const { from, to } of netlist.conductors) edges.push(from, to);
    for (const [a, b] of netlist.through) edges.push(a, b);
    for (const [a, b] of netlist.tabs) edges.push(a, b);
    for (const { joint } of netlist.sources) edges.push(joint, this.panel);
    this.edges = Int32Array.from(edges);
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
    const union = new Union(panel + 1);
    for (const runId of candidates) {
      union.reset();
      for (const [a, b] of others) union.join(a, b);
      for (const conductor of netlist.conductors)
        if (conductor.runId !== runId) union.join(conductor.from, conductor.to);
      const near = new Set<number>();
      const far = new Set<number>();
      netlist.conductors.forEach((conductor, index) => {
        if (conductor.runId !== runId || netlist.ground.has(conductor.from)) return;
        const { from, to } = conductor;
        const straight = this.direction[index] === 1;
        near.add(union.find(straight ? from : to));
        far.add(union.find(straight ? to : from));
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
    const sums = new Map<string, { amps: number; key: string; most: number }>();
    netlist.conductors.forEach(({ runId, key, from }, index) => {
      if (!this.suspects.has(runId) || (netlist.ground.has(from) && amps[index] === 0)) return;
      let sum = sums.get(runId);
      if (!sum) sums.set(runId, (sum = { amps: 0, key, most: 0 }));
      sum.amps += amps[index]! * this.direction[index]!;
      const own = Math.abs(amps[index]!);
      if (own > sum.most) [sum.key, sum.most] = [key, own];
    });
    for (const [runId, { amps: left }] of sums) if (Math.abs(left) <= NOTHING) sums.delete(runId);
    return sums;
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
    const edges = new Int32Array(this.edges.length + 2 * contacts.length);
    edges.set(this.edges);
    contacts.forEach(([a, b], index) => {
      edges[this.edges.length + 2 * index] = a;
      edges[this.edges.length + 2 * index + 1] = b;
    });
    return flow(this.panel + 1, edges, injected, this.panel);
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
  const met = new NamedUnion();
  let goesRound = false;
  for (const { runId, from, to } of conductors) {
    if (ends.has(runId) || ground.has(from)) continue;
    const [a, b] = [place(from), place(to)];
    ends.set(runId, [a, b]);
    if (!met.join(a, b)) goesRound = true;
  }
  if (!goesRound) return new Set();
  for (const [runId, [a, b]] of ends) {
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

/** Two nodes each, one edge after the other. */
type FlatEdges = Int32Array;

/**
 * The current in every edge that carries what is injected at the nodes to the sink. Leaves are folded in one after another;
 * what is left has meshes and is solved over equal resistances.
 */
function flow(size: number, edges: FlatEdges, injected: Float64Array, sink: number): Float64Array {
  const count = edges.length >> 1;
  const result = new Float64Array(count);
  /** By node: one end of an edge at it (edge * 2 + side), and from each end the next one at the same node. */
  const first = new Int32Array(size).fill(-1);
  const next = new Int32Array(edges.length);
  const degree = new Int32Array(size);
  const done = new Uint8Array(count);
  for (let edge = 0; edge < count; edge++) {
    if (edges[2 * edge] === edges[2 * edge + 1]) {
      done[edge] = 1;
      continue;
    }
    for (let end = 2 * edge; end <= 2 * edge + 1; end++) {
      const node = edges[end]!;
      next[end] = first[node]!;
      first[node] = end;
      degree[node]! += 1;
    }
  }
  const carry = injected.slice();
  let open = 0;
  for (let edge = 0; edge < count; edge++) if (!done[edge]) open++;
  const leaves: number[] = [];
  for (let node = 0; node < size; node++) if (degree[node] === 1 && node !== sink) leaves.push(node);
  for (let at = 0; at < leaves.length; at++) {
    const node = leaves[at]!;
    let end = first[node]!;
    while (end !== -1 && done[end >> 1]) end = next[end]!;
    if (end === -1) continue;
    const edge = end >> 1;
    done[edge] = 1;
    open--;
    const other = edges[end ^ 1]!;
    result[edge] = end & 1 ? -carry[node]! : carry[node]!;
    carry[other]! += carry[node]!;
    carry[node] = 0;
    degree[node] = 0;
    degree[other]! -= 1;
    if (degree[other] === 1 && other !== sink) leaves.push(other);
  }
  if (open) solveMeshes(edges, done, carry, sink, result);
  return result;
}

/** What the edges carry that are not done: equal resistances, by the voltages of their nodes. */
function solveMeshes(
  edges: FlatEdges,
  done: Uint8Array,
  carry: Float64Array,
  sink: number,
  result: Float64Array,
): void {
  const place = new Int32Array(carry.length).fill(-1);
  const meshed: number[] = [];
  for (let end = 0; end < edges.length; end++) {
    const node = edges[end]!;
    if (done[end >> 1] || node === sink || place[node] !== -1) continue;
    place[node] = meshed.push(node) - 1;
  }
  const size = meshed.length;
  const rows = meshed.map((node) => {
    const row = new Float64Array(size + 1);
    row[size] = carry[node]!;
    return row;
  });
  for (let end = 0; end < edges.length; end++) {
    if (done[end >> 1]) continue;
    const here = place[edges[end]!]!;
    if (here === -1) continue;
    rows[here]![here]! += 1;
    const there = place[edges[end ^ 1]!]!;
    if (there !== -1) rows[here]![there]! -= 1;
  }
  const solution = eliminate(rows, size);
  const volts = (node: number): number => (place[node] === -1 ? 0 : solution[place[node]!]!);
  for (let edge = 0; edge < done.length; edge++)
    if (!done[edge]) result[edge] = volts(edges[2 * edge]!) - volts(edges[2 * edge + 1]!);
}
