import { eliminate } from './eliminate.js';
import type { Netlist } from './netlist.js';

/** Amperes below this are rounding. */
const NOTHING = 1e-6;
const NO_RUNS: ReadonlyMap<string, number> = new Map();

/**
 * What the conductors of a netlist carry when its loads draw these voltages, and in which cables it does not cancel: a
 * cable whose conductors do not sum to nothing heats metal and hums (NEC 300.3(B)). Joints are nodes, conductors and closed
 * contacts edges of equal resistance; what the panel ties is one node.
 */
export class CableCurrents {
  private readonly panel: number;
  private readonly isGround: ReadonlySet<number>;
  /** Runs that are not seen to cancel by how the netlist hangs together: only these need to be counted. */
  readonly suspects: ReadonlySet<string>;

  /** `suspects` of a netlist that this one is a part of hold here too. */
  constructor(
    private readonly netlist: Netlist,
    suspects?: ReadonlySet<string>,
  ) {
    this.panel = netlist.joints.length;
    this.isGround = netlist.ground;
    this.suspects = suspects ?? this.findSuspects();
  }

  /**
   * A run whose conductors are the only way between its two sides cancels in every position, by Kirchhoff's current law:
   * what goes over must come back. The others are suspects.
   */
  private findSuspects(): Set<string> {
    const { netlist, panel } = this;
    const byRun = new Map<string, number[]>();
    netlist.conductors.forEach(({ runId, from }, index) => {
      if (this.isGround.has(from)) return;
      const list = byRun.get(runId);
      if (list) list.push(index);
      else byRun.set(runId, [index]);
    });
    const others: [number, number][] = [
      ...netlist.through.map(([a, b]): [number, number] => [a, b]),
      ...netlist.levers.flatMap(({ down, up }) => [...down, ...up].map(([a, b]): [number, number] => [a, b])),
      ...netlist.sources.map(({ joint }): [number, number] => [joint, panel]),
      ...netlist.loads.flatMap(({ hot, back }): [number, number][] =>
        hot === undefined || back === undefined ? [] : [[hot, back]],
      ),
    ];
    const parent = new Int32Array(panel + 1);
    const find = (at: number): number => {
      while (parent[at] !== at) at = parent[at] = parent[parent[at]!]!;
      return at;
    };
    const suspects = new Set<string>();
    for (const [runId, own] of byRun) {
      for (let joint = 0; joint <= panel; joint++) parent[joint] = joint;
      for (const [a, b] of others) parent[find(a)] = find(b);
      for (const conductor of netlist.conductors)
        if (conductor.runId !== runId) parent[find(conductor.from)] = find(conductor.to);
      const near = new Set<number>();
      const far = new Set<number>();
      for (const index of own) {
        const { from, to } = netlist.conductors[index]!;
        const straight = this.direction(runId, index) === 1;
        near.add(find(straight ? from : to));
        far.add(find(straight ? to : from));
      }
      if ([...near].some((side) => far.has(side))) suspects.add(runId);
    }
    return suspects;
  }

  /** Runs whose conductors do not cancel, with the amperes left over. */
  unbalanced(levers: Uint8Array, loadVolts: Float64Array): ReadonlyMap<string, number> {
    if (this.suspects.size === 0) return NO_RUNS;
    const amps = this.amps(levers, loadVolts);
    const sums = new Map<string, number>();
    this.netlist.conductors.forEach(({ runId, from }, index) => {
      if (!this.suspects.has(runId) || (this.isGround.has(from) && amps[index] === 0)) return;
      sums.set(runId, (sums.get(runId) ?? 0) + amps[index]! * this.direction(runId, index));
    });
    return new Map([...sums].filter(([, sum]) => Math.abs(sum) > NOTHING));
  }

  /** Amperes in every conductor of the netlist, from its first end to its second. */
  amps(levers: Uint8Array, loadVolts: Float64Array): Float64Array {
    const { netlist, panel } = this;
    const injected = new Float64Array(panel + 1);
    netlist.loads.forEach(({ hot, back, ohms }, index) => {
      if (hot === undefined || back === undefined) return;
      const amps = loadVolts[index]! / ohms;
      injected[hot]! -= amps;
      injected[back]! += amps;
    });
    const edges: { a: number; b: number; conductor: number }[] = netlist.conductors.map(
      ({ from, to }, conductor) => ({
        a: from,
        b: to,
        conductor,
      }),
    );
    const link = (a: number, b: number): void => void edges.push({ a, b, conductor: -1 });
    for (const [a, b] of netlist.through) link(a, b);
    netlist.levers.forEach(({ down, up }, index) => {
      for (const [a, b] of levers[index] ? up : down) link(a, b);
    });
    for (const { joint } of netlist.sources) link(joint, panel);
    return flow(panel + 1, edges, injected, panel);
  }

  /** Conductors of one run are counted from the same end. */
  private direction(runId: string, index: number): 1 | -1 {
    const first = this.netlist.conductors.find((conductor) => conductor.runId === runId)!;
    const box = (joint: number): string => this.netlist.joints[joint]!.boxId;
    return box(this.netlist.conductors[index]!.from) === box(first.from) ? 1 : -1;
  }
}

/**
 * The current in every edge that carries what is injected at the nodes to the sink. Leaves are folded in one after another;
 * what is left has meshes and is solved over equal resistances.
 */
function flow(
  size: number,
  edges: readonly { readonly a: number; readonly b: number; readonly conductor: number }[],
  injected: Float64Array,
  sink: number,
): Float64Array {
  const result = new Float64Array(edges.length);
  const at: number[][] = Array.from({ length: size }, () => []);
  edges.forEach(({ a, b }, index) => {
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
    const { a, b } = edges[index]!;
    const other = a === node ? b : a;
    result[index] = a === node ? carry[node]! : -carry[node]!;
    carry[other]! += carry[node]!;
    carry[node] = 0;
    degree[node] = 0;
    if (--degree[other]! === 1 && other !== sink) leaves.push(other);
  }
  const left = edges.flatMap((_, index) =>
    done[index] || edges[index]!.a === edges[index]!.b ? [] : [index],
  );
  if (left.length) {
    const meshed = [...new Set(left.flatMap((index) => [edges[index]!.a, edges[index]!.b]))].filter(
      (node) => node !== sink,
    );
    const place = new Map(meshed.map((node, index) => [node, index]));
    const rows = meshed.map((node) => {
      const row = new Float64Array(meshed.length + 1);
      row[meshed.length] = carry[node]!;
      return row;
    });
    for (const index of left) {
      const { a, b } = edges[index]!;
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
    for (const index of left) result[index] = volts[edges[index]!.a]! - volts[edges[index]!.b]!;
  }
  return result;
}
