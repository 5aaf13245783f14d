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
  /** Travelers and leg on each run. */
  readonly adds: ReadonlyMap<string, number>;
  /** Runs on the way of the hot to the first place that have no hot in any case. */
  readonly hot: readonly string[];
  readonly reopened: number;
}

/** Above so many boxes with places, only orders that go from one to the nearest next are looked at. */
const ALL_ORDERS_TO = 6;

function permutations<T>(items: readonly T[]): T[][] {
  if (items.length <= 1) return [[...items]];
  return items.flatMap((item, index) =>
    permutations([...items.slice(0, index), ...items.slice(index + 1)]).map((rest) => [item, ...rest]),
  );
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

/** Which orders are looked at. Places in one box follow each other by id, unless something made there says otherwise. */
function ordersToTry(
  tree: CircuitTree,
  control: PlacedControl,
  byNode: ReadonlyMap<string, readonly string[]>,
): readonly (readonly string[])[] {
  if (control.pinned) return [control.pinned];
  if (control.reopens && control.places.length <= ALL_ORDERS_TO)
    return permutations(control.places.map(({ pointId }) => pointId));
  const nodes = [...byNode.keys()].sort();
  const ways =
    nodes.length <= ALL_ORDERS_TO
      ? permutations(nodes)
      : walks(tree, nodes).flatMap((walk) => [walk, walk.toReversed()]);
  return ways.map((way) => way.flatMap((node) => byNode.get(node)!));
}

function candidatesOf(task: OrderTask, control: PlacedControl): Candidate[] {
  const byNode = new Map<string, string[]>();
  for (const { pointId, node } of control.places) byNode.set(node, [...(byNode.get(node) ?? []), pointId]);
  const nodeOf = new Map(control.places.map(({ pointId, node }) => [pointId, node]));
  const orders = ordersToTry(task.tree, control, byNode);
  const between = new Map<string, ReadonlySet<string>>();
  const runs = (a: string, b: string): ReadonlySet<string> => {
    const key = a < b ? `${a} ${b}` : `${b} ${a}`;
    let found = between.get(key);
    if (!found) between.set(key, (found = runsBetween(task.tree, [a, b])));
    return found;
  };
  const legs = new Map<string, ReadonlySet<string>>();
  const hotWay = hotWays(task);
  const found = new Map<string, Candidate>();
  for (const order of orders) {
    const at = order.map((point) => nodeOf.get(point)!);
    const adds = new Map<string, number>();
    const add = (run: string, count: number): void => void adds.set(run, (adds.get(run) ?? 0) + count);
    for (let index = 1; index < at.length; index++) {
      if (at[index] === at[index - 1]) continue;
      for (const run of runs(at[index - 1]!, at[index]!)) add(run, 2);
    }
    const last = at.at(-1)!;
    let leg = legs.get(last);
    if (!leg) legs.set(last, (leg = runsBetween(task.tree, [last, ...control.loadNodes])));
    for (const run of leg) add(run, 1);
    const candidate: Candidate = {
      order,
      adds,
      hot: hotWay(at[0]!),
      reopened: control.reopens?.(order) ?? 0,
    };
    // Of orders that ask the same of every run, the one that comes first by ids.
    const key = `${[...adds]
      .map((entry) => entry.join('='))
      .sort()
      .join()} ${candidate.hot.join()} ${candidate.reopened}`;
    const known = found.get(key);
    if (!known || isBefore(order, known.order)) found.set(key, candidate);
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
    for (const [run, count] of a.adds) if (count > (b.adds.get(run) ?? 0)) return false;
    for (const [run, count] of b.adds) if (count > (a.adds.get(run) ?? 0)) less = true;
    const way = new Set(b.hot);
    if (!a.hot.every((run) => way.has(run))) return false;
    return less || isBefore(a.order, b.order);
  };
  return candidates.filter(
    (candidate) => !candidates.some((other) => other !== candidate && least(other, candidate)),
  );
}

interface Load {
  readonly counts: Map<string, number>;
  readonly hot: Map<string, number>;
}

function costOf(task: OrderTask, load: Load, reopened: number): OrderCost {
  let missing = 0;
  let conductors = 0;
  for (const [run, count] of load.counts) {
    if (count === 0) continue;
    conductors += count;
    const more = count + (task.base.get(run) ?? 0) - (task.capacity.get(run) ?? Infinity);
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
  const open: { control: PlacedControl; candidates: Candidate[]; runs: Set<string> }[] = [];
  for (const control of [...task.controls].sort((a, b) => (a.id < b.id ? -1 : 1))) {
    const candidates = candidatesOf(task, control);
    const runs = new Set(candidates.flatMap(({ adds, hot }) => [...adds.keys(), ...hot]));
    open.push({ control, candidates, runs });
  }
  for (const group of connected(open)) {
    const chosen = bestOf(task, group);
    group.forEach(({ control }, index) => orders.set(control.id, chosen[index]!.order));
  }
  return orders;
}

function connected<T extends { readonly runs: ReadonlySet<string> }>(items: readonly T[]): T[][] {
  let groups: { members: T[]; runs: Set<string> }[] = [];
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

function bestOf(
  task: OrderTask,
  group: readonly { readonly candidates: readonly Candidate[] }[],
): Candidate[] {
  const load: Load = { counts: new Map(), hot: new Map() };
  const change = ({ adds, hot }: Candidate, by: 1 | -1): void => {
    for (const [run, count] of adds) load.counts.set(run, (load.counts.get(run) ?? 0) + by * count);
    for (const run of hot) {
      const users = (load.hot.get(run) ?? 0) + by;
      load.hot.set(run, users);
      // Hot is one conductor, however many places need it.
      if (by === 1 && users === 1) load.counts.set(run, (load.counts.get(run) ?? 0) + 1);
      if (by === -1 && users === 0) load.counts.set(run, load.counts.get(run)! - 1);
    }
  };
  let best: Candidate[] | undefined;
  let bestCost: OrderCost = [Infinity, Infinity, Infinity];
  const chosen: Candidate[] = [];
  const alone = (candidate: Candidate): OrderCost => {
    change(candidate, 1);
    const cost = costOf(task, load, candidate.reopened);
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
    const cost = costOf(task, load, reopened);
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
