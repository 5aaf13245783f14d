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

/** Money that a cost of the search stands for. */
export const moneyOfCost = (cost: number): number => Math.floor(cost / SCALE) / UNIT;

/** The cheapest ways from a box to everywhere: what each node costs, and the edge by which it is reached (-1 at the box itself). */
export interface WayTree {
  readonly cost: Float64Array;
  readonly by: Int32Array;
  readonly from: Int32Array;
}

/** The cheapest ways from where a box meets the graph (Dijkstra). `shut` tells nodes that are not to be entered. */
export function waysFrom(
  graph: FramingGraph,
  { costs, ofLength }: Priced,
  entries: readonly Entry[],
  shut?: (node: number) => boolean,
): WayTree {
  const { nodeCount, first, to, edge } = graph;
  const cost = new Float64Array(nodeCount).fill(Infinity);
  const [by, from] = [new Int32Array(nodeCount).fill(-1), new Int32Array(nodeCount).fill(-1)];
  const queue = new FlatQueue<number>();
  for (const { node, lengthIn, times } of entries) {
    const own = ofLength(lengthIn, times);
    if (shut?.(node) || own >= cost[node]!) continue;
    cost[node] = own;
    queue.push(node, own);
  }
  while (queue.length > 0) {
    const known = queue.peekValue()!;
    const node = queue.pop()!;
    if (known > cost[node]!) continue;
    for (let at = first[node]!, end = first[node + 1]!; at < end; at++) {
      const next = to[at]!;
      const reached = known + costs[edge[at]!]!;
      if (reached >= cost[next]! || shut?.(next)) continue;
      cost[next] = reached;
      by[next] = edge[at]!;
      from[next] = node;
      queue.push(next, reached);
    }
  }
  return { cost, by, from };
}

/** The nodes from where the tree began to where another box meets the graph, and what the way costs; undefined where none leads there. */
export function nodesTo(
  tree: WayTree,
  { ofLength }: Priced,
  entries: readonly Entry[],
): { readonly nodes: readonly number[]; readonly cost: number } | undefined {
  let [best, end] = [Infinity, -1];
  for (const { node, lengthIn, times } of entries) {
    const cost = tree.cost[node]! + ofLength(lengthIn, times);
    if (cost < best) [best, end] = [cost, node];
  }
  if (end < 0) return undefined;
  const nodes = [end];
  for (let node = end; tree.from[node]! >= 0; nodes.push(node)) node = tree.from[node]!;
  return { nodes: nodes.reverse(), cost: best };
}
