import FlatQueue from 'flatqueue';
import type { HouseReader } from '../derive/reader.js';
import type { CableId } from '../rulebook/cables.js';
import { heavyTimes, usualPrice } from './effort.js';
import type { FramingGraph } from './framing-graph.js';

/** Where a box meets the graph: a node, how far that is, and how many times as long a foot of it takes. */
export interface Entry {
  readonly node: number;
  readonly lengthIn: number;
  readonly times: number;
}

/** What cable costs on its way. */
export interface Priced {
  readonly cable: CableId;
  /** By edge: money in ten-thousandths, times `SCALE`, and on the last digits what decides between ways that cost the same. */
  readonly costs: Float64Array;
  /** The same of so many inches where nothing is bored. */
  readonly ofLength: (lengthIn: number, times: number) => number;
}

const SCALE = 2 ** 20;
const UNIT = 1e4;

/** What each edge costs with a cable: whole numbers, so that ways add up to the same from either end. */
export function pricedGraph(reader: HouseReader, graph: FramingGraph, cable: CableId): Priced {
  const rules = reader.rules();
  const minute = rules.number('plan.rate') / 60;
  const perFoot = rules.number('plan.minutesPerFoot') * minute;
  const price = usualPrice(reader, cable);
  const heavy = heavyTimes(reader, cable);
  const { edgeBoring, edgeLengthIn, edgeMinutes, edgeTie, edgeTimes } = graph;
  const ofLength = (lengthIn: number, times: number): number =>
    Math.round(UNIT * (lengthIn / 12) * (perFoot * times + price)) * SCALE;
  const costs = new Float64Array(edgeBoring.length);
  for (let edge = 0; edge < costs.length; edge++)
    costs[edge] =
      Math.round(
        UNIT *
          (minute * (edgeBoring[edge]! * heavy + edgeMinutes[edge]!) +
            (edgeLengthIn[edge]! / 12) * (perFoot * edgeTimes[edge]! + price)),
      ) *
        SCALE +
      edgeTie[edge]!;
  return { cable, costs, ofLength };
}

/**
 * The cheapest ways from where a box meets the framing (Dijkstra): searched outward only as far as somebody asks for, and on from
 * there when somebody asks for more. `shut` tells nodes that are not to be entered.
 */
export class WayTree {
  /** By node: what it costs to get there, as far as is known, and from which node. */
  private readonly cost: Float64Array;
  private readonly from: Int32Array;
  private readonly queue = new FlatQueue<number>();

  constructor(
    private readonly graph: FramingGraph,
    private readonly priced: Priced,
    entries: readonly Entry[],
    private readonly shut?: (node: number) => boolean,
  ) {
    this.cost = new Float64Array(graph.nodeCount).fill(Infinity);
    this.from = new Int32Array(graph.nodeCount).fill(-1);
    for (const { node, lengthIn, times } of entries) {
      const own = priced.ofLength(lengthIn, times);
      if (shut?.(node) || own >= this.cost[node]!) continue;
      this.cost[node] = own;
      this.queue.push(node, own);
    }
  }

  /** The cheapest of these, once nothing that is still to be looked at could be cheaper. */
  private reach(entries: readonly Entry[]): { cost: number; node: number } {
    const { graph, priced, cost, from, queue, shut } = this;
    const { first, to, edge } = graph;
    const { costs } = priced;
    const extra = entries.map(({ lengthIn, times }) => priced.ofLength(lengthIn, times));
    const best = { cost: Infinity, node: -1 };
    const look = (): void =>
      entries.forEach(({ node }, at) => {
        const own = cost[node]! + extra[at]!;
        if (own < best.cost) [best.cost, best.node] = [own, node];
      });
    look();
    const wanted = new Set(entries.map(({ node }) => node));
    while (queue.length > 0) {
      const known = queue.peekValue()!;
      if (known >= best.cost) break;
      const node = queue.pop()!;
      if (known > cost[node]!) continue;
      for (let at = first[node]!, end = first[node + 1]!; at < end; at++) {
        const next = to[at]!;
        const reached = known + costs[edge[at]!]!;
        if (reached >= cost[next]! || shut?.(next)) continue;
        cost[next] = reached;
        from[next] = node;
        queue.push(next, reached);
        if (wanted.has(next)) look();
      }
    }
    return best;
  }

  /** The nodes to where another box meets the framing, and what the way costs; undefined where none leads there. */
  to(entries: readonly Entry[]): { readonly nodes: readonly number[]; readonly cost: number } | undefined {
    const { cost, node: end } = this.reach(entries);
    if (end < 0) return undefined;
    const nodes = [end];
    for (let node = end; this.from[node]! >= 0; nodes.push(node)) node = this.from[node]!;
    return { nodes: nodes.reverse(), cost };
  }
}
