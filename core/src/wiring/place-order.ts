import type { CircuitTree } from './circuit-tree.js';
import { runsBetween, wayUp } from './circuit-tree.js';

/** A control on the tree: where its places and its loads stand. */
export interface PlacedControl {
  readonly id: string;
  /** Lever points and their nodes, in id order. */
  readonly places: readonly { readonly pointId: string; readonly node: string }[];
  readonly loadNodes: readonly string[];
  /** The only order that is allowed, by point id. */
  readonly pinned?: readonly string[];
  /**
   * How many joints made already would have to be made again if the places stood in this order; left out where nothing has
   * been made.
   */
  readonly reopens?: (order: readonly string[]) => number;
}

/** What the tree carries whatever the order, and how much each run can carry. */
export interface OrderTask {
  readonly tree: CircuitTree;
  readonly controls: readonly PlacedControl[];
  /** Signals that a run carries in any case, by run id; without an entry none. */
  readonly base: ReadonlyMap<string, number>;
  /** Nodes that have unswitched hot in any case. */
  readonly hotNodes: readonly string[];
  /** Insulated conductors of a run, by run id; without an entry there is no limit (no cable chosen yet). */
  readonly capacity: ReadonlyMap<string, number>;
}

/** The cost of a set of orders: less is better, the first difference decides. */
export type OrderCost = readonly [missing: number, reopened: number, conductors: number];

export const isCheaper = (a: OrderCost, b: OrderCost): boolean => {
  for (let index = 0; index < a.length; index++) if (a[index] !== b[index]) return a[index]! < b[index]!;
  return false;
};
const same = (a: OrderCost, b: OrderCost): boolean => a.every((value, index) => value === b[index]);

interface Candidate {
  readonly order: readonly string[];
  /** Travelers and leg on each run, by its place among the runs of the tree. */
  readonly adds: Uint8Array;
  /** Runs on the way of the hot to the first place that have no hot in any case, in rising order. */
  readonly hot: readonly number[];
  readonly reopened: number;
}

/** The runs of the tree by number, with what they carry in any case and what they can carry. */
class Runs {
  readonly ids: readonly string[];
  readonly base: Int32Array;
  readonly capacity: Float64Array;
  private readonly place: ReadonlyMap<string, number>;

  constructor({ tree, base, capacity }: OrderTask) {
    this.ids = [...tree.feed.values()].map(({ run }) => run.id);
    this.place = new Map(this.ids.map((id, index) => [id, index]));
    this.base = Int32Array.from(this.ids, (id) => base.get(id) ?? 0);
    this.capacity = Float64Array.from(this.ids, (id) => capacity.get(id) ?? Infinity);
  }

  numbers(ids: Iterable<string>): number[] {
    return [...ids].map((id) => this.place.get(id)!).sort((a, b) => a - b);
  }
}

/** Above so many boxes with places, only orders that go from one to the nearest next are looked at. */
const ALL_ORDERS_TO = 6;

const PERMUTATIONS: Uint8Array[][] = [];

/** All orders of `count` things by number, in rising order. Made once. */
function permutations(count: number): readonly Uint8Array[] {
  let known = PERMUTATIONS[count];
  if (!known) {
    known = count === 0 ? [new Uint8Array()] : [];
    for (let first = 0; first < count; first++) {
      for (const rest of permutations(count - 1))
        known.push(
          Uint8Array.from([first, ...rest], (item, at) => (at > 0 && item >= first ? item + 1 : item)),
        );
    }
    PERMUTATIONS[count] = known;
  }
  return known;
}

/** From each box as the first, always on to the nearest next. */
function walks(tree: CircuitTree, nodes: readonly string[]): string[][] {
  const distance = (a: string, b: string): number => runsBetween(tree, [a, b]).size;
  return nodes.map((first) => {
    const walk = [first];
    const left = new Set(nodes.filter((node) => node !== first));
    while (left.size) {
      const here = walk.at(-1)!;
      const next = [...left].sort((a, b) => distance(here, a) - distance(here, b) || (a < b ? -1 : 1))[0]!;
      walk.push(next);
      left.delete(next);
    }
    return walk;
  });
}

/** Places that go together in an order, and the box where they are. */
interface Stop {
  readonly points: readonly string[];
  readonly node: number;
}

/**
 * What is put in order, by id, and the orders to look at, first those that come first by ids. Places in one box follow each
 * other, unless something made there says otherwise.
 */
function ordersToTry(
  tree: CircuitTree,
  control: PlacedControl,
  nodes: readonly string[],
): { stops: readonly Stop[]; orders: readonly (readonly number[] | Uint8Array)[] } {
  const nodeOf = new Map(control.places.map(({ pointId, node }) => [pointId, nodes.indexOf(node)]));
  const alone = (points: readonly string[]): Stop[] =>
    points.map((point) => ({ points: [point], node: nodeOf.get(point)! }));
  const ids = control.places.map(({ pointId }) => pointId).sort();
  if (control.pinned)
    return { stops: alone(control.pinned), orders: [control.pinned.map((_, index) => index)] };
  if (control.reopens && ids.length <= ALL_ORDERS_TO)
    return { stops: alone(ids), orders: permutations(ids.length) };
  const stops = nodes
    .map((_, node): Stop => ({ points: ids.filter((id) => nodeOf.get(id) === node), node }))
    .sort((a, b) => (a.points[0]! < b.points[0]! ? -1 : 1));
  if (stops.length <= ALL_ORDERS_TO) return { stops, orders: permutations(stops.length) };
  const place = new Map(stops.map(({ node }, index) => [nodes[node]!, index]));
  const ways = walks(tree, nodes).flatMap((walk) => [walk, walk.toReversed()]);
  return { stops, orders: ways.map((way) => way.map((node) => place.get(node)!)) };
}

function candidatesOf(task: OrderTask, runs: Runs, control: PlacedControl): Candidate[] {
  const nodes = [...new Set(control.places.map(({ node }) => node))].sort();
  // What lies between two of its boxes, from each box to the loads, and on the way of the hot: asked once each.
  const between = nodes.map((a) =>
    nodes.map((b) => runs.numbers(a === b ? [] : runsBetween(task.tree, [a, b]))),
  );
  const legs = nodes.map((node) => runs.numbers(runsBetween(task.tree, [node, ...control.loadNodes])));
  const hotWay = hotWays(task);
  const hots = nodes.map((node) => runs.numbers(hotWay(node)));
  const { stops, orders } = ordersToTry(task.tree, control, nodes);
  const pointsIn = (order: readonly number[] | Uint8Array): string[] =>
    [...order].flatMap((stop) => stops[stop]!.points);
  const found = new Map<string, Candidate>();
  const adds = new Uint8Array(runs.ids.length);
  for (const order of orders) {
    adds.fill(0);
    let before = -1;
    for (const stop of order) {
      const { node } = stops[stop]!;
      if (before !== -1) for (const run of between[before]![node]!) adds[run]! += 2;
      before = node;
    }
    for (const run of legs[before]!) adds[run]! += 1;
    const first = stops[order[0]!]!.node;
    const reopened = control.reopens?.(pointsIn(order)) ?? 0;
    // Of orders that ask the same of every run, the one that comes first by ids.
    const key = `${first} ${reopened} ${String.fromCharCode(...adds)}`;
    const known = found.get(key);
    if (!known) found.set(key, { order: pointsIn(order), adds: adds.slice(), hot: hots[first]!, reopened });
  }
  return undominated([...found.values()]);
}

/** Runs from a node up to where hot is in any case. */
function hotWays({ tree, hotNodes }: OrderTask): (node: string) => readonly string[] {
  const hot = new Set(hotNodes.flatMap((node) => wayUp(tree, node)));
  hot.add(tree.panelId);
  return (node) =>
    wayUp(tree, node)
      .filter((at) => !hot.has(at))
      .map((at) => tree.feed.get(at)!.run.id)
      .sort();
}

const isBefore = (a: readonly string[], b: readonly string[]): boolean => {
  for (let index = 0; index < a.length; index++) if (a[index] !== b[index]) return a[index]! < b[index]!;
  return false;
};

/** Leaves out what asks as much or more of every run than another candidate does. */
function undominated(candidates: readonly Candidate[]): Candidate[] {
  const least = (a: Candidate, b: Candidate): boolean => {
    if (a.reopened > b.reopened) return false;
    let less = a.reopened < b.reopened;
    for (let run = 0; run < a.adds.length; run++) {
      if (a.adds[run]! > b.adds[run]!) return false;
      if (a.adds[run]! < b.adds[run]!) less = true;
    }
    return a.hot.every((run) => b.hot.includes(run)) && (less || isBefore(a.order, b.order));
  };
  const kept: Candidate[] = [];
  for (const candidate of candidates) {
    if (kept.some((other) => least(other, candidate))) continue;
    for (let index = kept.length - 1; index >= 0; index--)
      if (least(candidate, kept[index]!)) kept.splice(index, 1);
    kept.push(candidate);
  }
  return kept;
}

/** What the chosen candidates ask of each run, together. */
interface Load {
  readonly counts: Int32Array;
  readonly hotUsers: Int32Array;
}

function costOf(runs: Runs, load: Load, reopened: number): OrderCost {
  let missing = 0;
  let conductors = 0;
  for (let run = 0; run < load.counts.length; run++) {
    const count = load.counts[run]!;
    if (count === 0) continue;
    conductors += count;
    const more = count + runs.base[run]! - runs.capacity[run]!;
    if (more > 0) missing += Math.min(more, count);
  }
  return [missing, reopened, conductors];
}

/**
 * The electrical order of the places of every control, chosen jointly: fewest missing conductors, then fewest joints to be
 * made again, then fewest conductors over all runs, then by ids. Controls that share no run do not touch each other.
 * Branch and bound: costs only grow as controls are added, so that a partial choice that is no better is left.
 */
export function orderPlaces(task: OrderTask): ReadonlyMap<string, readonly string[]> {
  const orders = new Map<string, readonly string[]>();
  const runs = new Runs(task);
  const open = [...task.controls]
    .sort((a, b) => (a.id < b.id ? -1 : 1))
    .map((control) => {
      const candidates = candidatesOf(task, runs, control);
      const touched = new Set<number>();
      for (const { adds, hot } of candidates) {
        adds.forEach((count, run) => count && touched.add(run));
        for (const run of hot) touched.add(run);
      }
      return { control, candidates, runs: touched };
    });
  for (const group of connected(open)) {
    const chosen = bestOf(runs, group);
    group.forEach(({ control }, index) => orders.set(control.id, chosen[index]!.order));
  }
  return orders;
}

function connected<T extends { readonly runs: ReadonlySet<number> }>(items: readonly T[]): T[][] {
  let groups: { members: T[]; runs: Set<number> }[] = [];
  for (const item of items) {
    const touching = groups.filter(({ runs }) => [...item.runs].some((run) => runs.has(run)));
    const merged = {
      members: [...touching.flatMap(({ members }) => members), item],
      runs: new Set([...touching.flatMap(({ runs }) => [...runs]), ...item.runs]),
    };
    groups = [...groups.filter((group) => !touching.includes(group)), merged];
  }
  const place = new Map(items.map((item, index) => [item, index]));
  return groups.map(({ members }) => members.sort((a, b) => place.get(a)! - place.get(b)!));
}

function bestOf(runs: Runs, group: readonly { readonly candidates: readonly Candidate[] }[]): Candidate[] {
  // Alone and with one way only there is nothing to weigh.
  if (group.every(({ candidates }) => candidates.length === 1))
    return group.map(({ candidates }) => candidates[0]!);
  const load: Load = {
    counts: new Int32Array(runs.ids.length),
    hotUsers: new Int32Array(runs.ids.length),
  };
  const change = ({ adds, hot }: Candidate, by: 1 | -1): void => {
    for (let run = 0; run < adds.length; run++) load.counts[run]! += by * adds[run]!;
    for (const run of hot) {
      const users = (load.hotUsers[run]! += by);
      // Hot is one conductor, however many places need it.
      if (by === 1 && users === 1) load.counts[run]! += 1;
      if (by === -1 && users === 0) load.counts[run]! -= 1;
    }
  };
  let best: Candidate[] | undefined;
  let bestCost: OrderCost = [Infinity, Infinity, Infinity];
  const chosen: Candidate[] = [];
  const alone = (candidate: Candidate): OrderCost => {
    change(candidate, 1);
    const cost = costOf(runs, load, candidate.reopened);
    change(candidate, -1);
    return cost;
  };
  const sorted = group.map(({ candidates }) =>
    candidates
      .map((candidate) => ({ candidate, cost: alone(candidate) }))
      .sort((a, b) =>
        same(a.cost, b.cost)
          ? isBefore(a.candidate.order, b.candidate.order)
            ? -1
            : 1
          : isCheaper(a.cost, b.cost)
            ? -1
            : 1,
      )
      .map(({ candidate }) => candidate),
  );
  const go = (index: number, reopened: number): void => {
    const cost = costOf(runs, load, reopened);
    if (isCheaper(bestCost, cost)) return;
    if (index === sorted.length) {
      const tie = same(cost, bestCost);
      if (!tie || !best || isBefore(idsOf(chosen), idsOf(best))) {
        best = [...chosen];
        bestCost = cost;
      }
      return;
    }
    for (const candidate of sorted[index]!) {
      change(candidate, 1);
      chosen.push(candidate);
      go(index + 1, reopened + candidate.reopened);
      chosen.pop();
      change(candidate, -1);
    }
  };
  go(0, 0);
  return best!;
}

const idsOf = (chosen: readonly Candidate[]): string[] => chosen.flatMap(({ order }) => order);
