import type { Netlist } from './netlist.js';

/** Amperes below this are rounding. */
const NOTHING = 1e-6;

/**
 * What the conductors of a netlist carry when its loads draw these voltages, and in which cables it does not cancel: a
 * cable whose conductors do not sum to nothing heats metal and hums (NEC 300.3(B)). Joints are nodes, conductors and closed
 * contacts edges of equal resistance; what the panel ties is one node.
 */
export class CableCurrents {
  private readonly panel: number;
  private readonly isGround: ReadonlySet<number>;

  constructor(private readonly netlist: Netlist) {
    this.panel = netlist.joints.length;
    this.isGround = netlist.ground;
  }

  /** Runs whose conductors do not cancel, with the amperes left over. */
  unbalanced(levers: Uint8Array, loadVolts: Float64Array): ReadonlyMap<string, number> {
    const amps = this.amps(levers, loadVolts);
    const sums = new Map<string, number>();
    this.netlist.conductors.forEach(({ runId, from }, index) => {
      if (this.isGround.has(from) && amps[index] === 0) return;
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
 * what is left has meshes and is solved by relaxation over equal resistances.
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
    const volts = new Float64Array(size);
    for (let round = 0; round < 400; round++) {
      for (let node = 0; node < size; node++) {
        if (node === sink || degree[node]! === 0) continue;
        let sum = carry[node]!;
        let count = 0;
        for (const index of at[node]!) {
          if (done[index]) continue;
          const { a, b } = edges[index]!;
          sum += volts[a === node ? b : a]!;
          count++;
        }
        if (count) volts[node] = sum / count;
      }
    }
    for (const index of left) result[index] = volts[edges[index]!.a]! - volts[edges[index]!.b]!;
  }
  return result;
}
