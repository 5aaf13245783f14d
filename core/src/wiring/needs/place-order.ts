import type { CircuitTree } from '../circuit/circuit-tree.js';
import { runsBetween, wayUp } from '../circuit/circuit-tree.js';

/** A control on the tree: where its places and its loads stand. */
export interface PlacedControl {
  readonly id: string;
  /** Lever points and their nodes, in id order. */
  readonly places: readonly {
    readonly pointId: string;
    readonly node: string;
    /** The hot that it takes when it stands first. */
    readonly hot: string;
  }[];
  readonly loadNodes: readonly string[];
  /** The only order that is allowed, by point id. */
  readonly pinned?: readonly string[];
  /**
   * How many joints made already at a place would have to be made again if it stood between these two (undefined at either
   * end); left out where nothing has been made.
   */
  readonly reopens?: (point: string, before: string | undefined, after: string | undefined) => number;
}

/** What the tree carries whatever the order, and how much each run can carry. */
export interface OrderTask {
  readonly tree: CircuitTree;
  readonly controls: readonly PlacedControl[];
  /** Signals that a run carries in any case, by run id; without an entry none. */
  readonly base: ReadonlyMap<string, number>;
  /** Nodes that have an unswitched hot in any case, by hot: those of several circuits are told apart. */
  readonly hotNodes: ReadonlyMap<string, readonly string[]>;
  /** Insulated conductors of a run, by run id; without an entry there is no limit. */
  readonly capacity: ReadonlyMap<string, number>;
  /** Neutrals to be taken along besides, each over one of its ways. A neutral is one conductor, whoever asks for it. */
  readonly neutrals: readonly WantedNeutral[];
}

/** A neutral that is asked for, and the ways on which it can come: runs in which there is none in any case. */
export interface WantedNeutral {
  readonly id: string;
  readonly ways: readonly { readonly id: string; readonly runs: readonly string[] }[];
}

export interface ChosenOrders {
  readonly orders: ReadonlyMap<string, readonly string[]>;
  /** The way of each neutral that is asked for, by its id. */
  readonly ways: ReadonlyMap<string, string>;
  /** Controls of which the order is the best that was found, not proven to be the best there is. */
  readonly unproven: ReadonlySet<string>;
}

/** The cost of a set of orders: less is better, the first difference decides. */
export type OrderCost = readonly [missing: number, reopened: number, conductors: number];

const isCheaper = (a: OrderCost, b: OrderCost): boolean => {
  for (let index = 0; index < a.length; index++) if (a[index] !== b[index]) return a[index]! < b[index]!;
  return false;
};

interface Candidate {
  /** Points in their order; of a neutral the id of its way. */
  readonly order: readonly string[];
  /** Travelers and leg on each run, by its place among the runs of the tree. */
  readonly adds: Uint8Array;
  /** Runs on the way of its hot to the first place, or of a neutral, that have it not in any case: see `Runs.shared`. */
  readonly shared: readonly number[];
  readonly reopened: number;
}

/** The runs of the tree by number, with what they carry in any case and what they can carry. */
class Runs {
  readonly ids: readonly string[];
  readonly base: Int32Array;
  readonly capacity: Float64Array;
  /** Runs from a node up to where its hot is in any case. */
  readonly hotWay: (node: string, hot: string) => readonly string[];
  private readonly hots: readonly string[];
  private readonly place: ReadonlyMap<string, number>;

  constructor(task: OrderTask) {
    const { tree, base, capacity, controls } = task;
    this.hotWay = hotWays(task);
    this.hots = [...new Set(controls.flatMap(({ places }) => places.map(({ hot }) => hot)))].sort();
    this.ids = [...tree.feed.values()].map(({ run }) => run.id);
    this.place = new Map(this.ids.map((id, index) => [id, index]));
    this.base = Int32Array.from(this.ids, (id) => base.get(id) ?? 0);
    this.capacity = Float64Array.from(this.ids, (id) => capacity.get(id) ?? Infinity);
  }

  numbers(ids: Iterable<string>): number[] {
    return [...ids].map((id) => this.place.get(id)!).sort((a, b) => a - b);
  }

  /** What is one conductor of a run, however many ask for it: each hot, and without one the neutral. */
  shared(ids: Iterable<string>, hot?: string): number[] {
    const what = hot === undefined ? this.hots.length : this.hots.indexOf(hot);
    return this.numbers(ids).map((run) => what * this.ids.length + run);
  }

  get sharedSize(): number {
    return (this.hots.length + 1) * this.ids.length;
  }
}

/** Where joints are made, every order of up to so many points is looked at. */
const ALL_ORDERS_TO = 8;
/** Up to so many switch boxes together the search goes on until it is proven, above that for so many steps. */
const PROVEN_TO = 12;
const STEPS = 200_000;

/** Places that go together in an order, and the number of the box where they are. */
interface Stop {
  readonly points: readonly string[];
  readonly node: number;
}

/** The boxes of a control on its tree: what lies between them, and on which side of each run they stand. */
interface Ground {
  readonly stops: readonly Stop[];
  /** Runs between two nodes. */
  readonly between: readonly (readonly (readonly number[])[])[];
  /** Runs from a node to all loads. */
  readonly legs: readonly (readonly number[])[];
  /** By the place that stands first. */
  readonly hots: ReadonlyMap<string, readonly number[]>;
  /** By run: 1 for each node that lies below it. */
  readonly below: ReadonlyMap<number, Uint8Array>;
}

function groundOf(task: OrderTask, runs: Runs, control: PlacedControl): Ground {
  const nodes = [...new Set(control.places.map(({ node }) => node))].sort();
  const between = nodes.map((a) =>
    nodes.map((b) => runs.numbers(a === b ? [] : runsBetween(task.tree, [a, b]))),
  );
  const below = new Map<number, Uint8Array>();
  nodes.forEach((node, index) => {
    const above = wayUp(task.tree, node).flatMap((at) => task.tree.feed.get(at)?.run.id ?? []);
    for (const run of runs.numbers(above)) {
      const side = below.get(run) ?? new Uint8Array(nodes.length);
      side[index] = 1;
      below.set(run, side);
    }
  });
  const ids = control.places.map(({ pointId }) => pointId).sort();
  const nodeOf = new Map(control.places.map(({ pointId, node }) => [pointId, nodes.indexOf(node)]));
  return {
    stops: nodes
      .map((_, node): Stop => ({ points: ids.filter((id) => nodeOf.get(id) === node), node }))
      .sort((a, b) => (a.points[0]! < b.points[0]! ? -1 : 1)),
    between,
    legs: nodes.map((node) => runs.numbers(runsBetween(task.tree, [node, ...control.loadNodes]))),
    hots: new Map(
      control.places.map(({ pointId, node, hot }) => [pointId, runs.shared(runs.hotWay(node, hot), hot)]),
    ),
    below,
  };
}

/** What an order of stops asks of each run: two travelers from stop to stop, and the leg from the last. */
function addsOf(runs: Runs, ground: Ground, order: readonly Stop[]): Uint8Array {
  const adds = new Uint8Array(runs.ids.length);
  for (let at = 1; at < order.length; at++)
    for (const run of ground.between[order[at - 1]!.node]![order[at]!.node]!) adds[run]! += 2;
  for (const run of ground.legs[order.at(-1)!.node]!) adds[run]! += 1;
  return adds;
}

/**
 * The order from one stop to another that asks least of *every* run at once, and of these the first by ids. On a tree a walk
 * that finishes one side of a run before it goes over crosses each run once where the two ends lie on different sides of it,
 * twice where they lie on the same side and others beyond: no walk crosses any run less.
 */
function leastWalk(ground: Ground, first: Stop, last: Stop): Stop[] {
  const walk = [first];
  const left = new Set(ground.stops.filter((stop) => stop !== first));
  while (left.size) {
    const here = walk.at(-1)!.node;
    const next = [...left].find((stop) => {
      if (stop === last) return left.size === 1;
      // Nobody may be left behind on a side that is not come back to.
      return ground.between[here]![stop.node]!.every((run) => {
        const side = ground.below.get(run)!;
        if (side[last.node] !== side[stop.node]) return true;
        return [...left].every((other) => side[other.node] !== side[here]);
      });
    })!;
    walk.push(next);
    left.delete(next);
  }
  return walk;
}

/** Joints to be made again with the places in this order. */
function reopenedBy(control: PlacedControl, order: readonly string[]): number {
  const { reopens } = control;
  if (!reopens) return 0;
  return order.reduce((sum, point, at) => sum + reopens(point, order[at - 1], order[at + 1]), 0);
}

function candidatesOf(
  task: OrderTask,
  runs: Runs,
  control: PlacedControl,
): { candidates: Candidate[]; isProven: boolean } {
  const ground = groundOf(task, runs, control);
  const { stops } = ground;
  const found = new Map<string, Candidate>();
  const look = (order: readonly Stop[]): void => {
    const adds = addsOf(runs, ground, order);
    const points = order.flatMap((stop) => stop.points);
    const reopened = reopenedBy(control, points);
    const shared = ground.hots.get(points[0]!)!;
    // Of orders that ask the same of every run, the one that comes first by ids.
    const key = `${shared.join()} ${reopened} ${String.fromCharCode(...adds)}`;
    const known = found.get(key);
    if (!known || isBefore(points, known.order)) found.set(key, { order: points, adds, shared, reopened });
  };
  const done = (isProven: boolean): ReturnType<typeof candidatesOf> => ({
    candidates: undominated([...found.values()]),
    isProven,
  });
  const alone = (points: readonly string[]): Stop[] =>
    points.map((point) => ({
      points: [point],
      node: stops.find((stop) => stop.points.includes(point))!.node,
    }));
  if (control.pinned) {
    look(alone(control.pinned));
    return done(true);
  }
  const points = stops.flatMap((stop) => stop.points);
  if (control.reopens && points.length <= ALL_ORDERS_TO) {
    // Places of one box may stand apart where something made there says so.
    permute(alone(points.sort()), look);
    return done(true);
  }
  for (const first of stops)
    for (const last of stops)
      if (first !== last || stops.length === 1) {
        const walk = leastWalk(ground, first, last);
        look(walk);
        if (control.reopens) improve(control, alone(walk.flatMap((stop) => stop.points)), look);
      }
  return done(!control.reopens || [...found.values()].some(({ reopened }) => reopened === 0));
}

/** Every order of these stops, in rising order of their places in the list. */
function permute(stops: readonly Stop[], look: (order: readonly Stop[]) => void): void {
  const order: Stop[] = [];
  const used = new Uint8Array(stops.length);
  const go = (): void => {
    if (order.length === stops.length) return look(order);
    stops.forEach((stop, index) => {
      if (used[index]) return;
      used[index] = 1;
      order.push(stop);
      go();
      order.pop();
      used[index] = 0;
    });
  };
  go();
}

/** Moves single places about as long as less has to be made again. */
function improve(control: PlacedControl, start: Stop[], look: (order: readonly Stop[]) => void): void {
  const reopened = (order: readonly Stop[]): number =>
    reopenedBy(
      control,
      order.flatMap((stop) => stop.points),
    );
  let order = start;
  let least = reopened(order);
  for (let better = true; better && least > 0;) {
    better = false;
    for (let from = 0; from < order.length && !better; from++) {
      for (let to = 0; to < order.length && !better; to++) {
        const moved = order.filter((_, at) => at !== from);
        moved.splice(to, 0, order[from]!);
        const count = reopened(moved);
        if (count < least) [order, least, better] = [moved, count, true];
      }
    }
  }
  look(order);
}

function hotWays({ tree, hotNodes }: OrderTask): (node: string, hot: string) => readonly string[] {
  const above = new Map(
    [...hotNodes].map(([hot, nodes]) => [hot, new Set(nodes.flatMap((node) => wayUp(tree, node)))]),
  );
  return (node, hot) =>
    wayUp(tree, node).flatMap((at) =>
      at === tree.panelId || above.get(hot)?.has(at) ? [] : [tree.feed.get(at)!.run.id],
    );
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
    return a.shared.every((run) => b.shared.includes(run)) && (less || isBefore(a.order, b.order));
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
  /** How many ask for what is shared. */
  readonly users: Int32Array;
}

/** Cost of what is chosen; with `rest`, what is still to be chosen asks at least that much more of each run. */
function costOf(runs: Runs, load: Load, reopened: number, rest?: Uint8Array): OrderCost {
  let missing = 0;
  let conductors = 0;
  for (let run = 0; run < load.counts.length; run++) {
    const count = load.counts[run]! + (rest ? rest[run]! : 0);
    if (count === 0) continue;
    conductors += count;
    const more = count + runs.base[run]! - runs.capacity[run]!;
    if (more > 0) missing += Math.min(more, count);
  }
  return [missing, reopened, conductors];
}

/** A control with its orders, or a neutral with its ways. */
interface Choice {
  readonly id: string;
  readonly control?: PlacedControl;
  readonly candidates: readonly Candidate[];
  readonly isProven: boolean;
  /** Runs that any of the candidates asks something of. */
  readonly runs: ReadonlySet<number>;
}

function choicesOf(task: OrderTask, runs: Runs): Choice[] {
  const touched = (candidates: readonly Candidate[]): Set<number> => {
    const found = new Set<number>();
    for (const { adds, shared } of candidates) {
      adds.forEach((count, run) => count && found.add(run));
      for (const one of shared) found.add(one % runs.ids.length);
    }
    return found;
  };
  const byId = (a: { id: string }, b: { id: string }): number => (a.id < b.id ? -1 : 1);
  const nothing = new Uint8Array(runs.ids.length);
  return [
    ...[...task.controls].sort(byId).map((control): Choice => {
      const { candidates, isProven } = candidatesOf(task, runs, control);
      return { id: control.id, control, candidates, isProven, runs: touched(candidates) };
    }),
    ...[...task.neutrals].sort(byId).map(({ id, ways }): Choice => {
      const candidates = undominated(
        ways.map((way) => ({
          order: [way.id],
          adds: nothing,
          shared: runs.shared(way.runs),
          reopened: 0,
        })),
      );
      return { id, candidates, isProven: true, runs: touched(candidates) };
    }),
  ];
}

/**
 * The electrical order of the places of every control, and the ways of the neutrals that are asked for besides, chosen
 * jointly: fewest missing conductors, then fewest joints to be made again, then fewest conductors over all runs, then by ids.
 * Controls that share no run do not touch each other. For each first and last box one walk asks least of every run, so that
 * these pairs are all there is to weigh; then branch and bound over the controls, with the least that the rest asks of each
 * run as its bound.
 */
export function orderPlaces(task: OrderTask): ChosenOrders {
  const orders = new Map<string, readonly string[]>();
  const ways = new Map<string, string>();
  const unproven = new Set<string>();
  if (task.controls.every(({ places }) => places.length === 1) && task.neutrals.length === 0) {
    // Nothing is to be chosen.
    for (const { id, places } of task.controls) orders.set(id, [places[0]!.pointId]);
    return { orders, ways, unproven };
  }
  const runs = new Runs(task);
  for (const group of connected(choicesOf(task, runs))) {
    const nodes = group.flatMap(({ control }) => control?.places.map(({ node }) => node) ?? []);
    const { chosen, isProven } = bestOf(runs, group, new Set(nodes).size > PROVEN_TO ? STEPS : 50 * STEPS);
    group.forEach(({ id, control, isProven: own }, index) => {
      const { order } = chosen[index]!;
      if (!control) ways.set(id, order[0]!);
      else {
        orders.set(id, order);
        if (!isProven || !own) unproven.add(id);
      }
    });
  }
  return { orders, ways, unproven };
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

function bestOf(
  runs: Runs,
  group: readonly { readonly candidates: readonly Candidate[] }[],
  budget: number,
): { chosen: Candidate[]; isProven: boolean } {
  // Alone and with one way only there is nothing to weigh.
  if (group.every(({ candidates }) => candidates.length === 1))
    return { chosen: group.map(({ candidates }) => candidates[0]!), isProven: true };
  const load: Load = {
    counts: new Int32Array(runs.ids.length),
    users: new Int32Array(runs.sharedSize),
  };
  const change = ({ adds, shared }: Candidate, by: 1 | -1): void => {
    for (let run = 0; run < adds.length; run++) load.counts[run]! += by * adds[run]!;
    for (const one of shared) {
      const users = (load.users[one]! += by);
      if (by === 1 && users === 1) load.counts[one % runs.ids.length]! += 1;
      if (by === -1 && users === 0) load.counts[one % runs.ids.length]! -= 1;
    }
  };
  const alone = (candidate: Candidate): OrderCost => {
    change(candidate, 1);
    const cost = costOf(runs, load, candidate.reopened);
    change(candidate, -1);
    return cost;
  };
  /** By control: the least that it and those after it ask of each run, and have to be made again. */
  const rest: { adds: Uint8Array; reopened: number }[] = [
    { adds: new Uint8Array(runs.ids.length), reopened: 0 },
  ];
  for (const { candidates } of group.toReversed()) {
    const after = rest[0]!;
    const adds = after.adds.map(
      (count, run) => count + Math.min(...candidates.map((candidate) => candidate.adds[run]!)),
    );
    const reopened = after.reopened + Math.min(...candidates.map((candidate) => candidate.reopened));
    rest.unshift({ adds, reopened });
  }
  let steps = 0;
  let best: Candidate[] | undefined;
  let bestCost: OrderCost = [Infinity, Infinity, Infinity];
  const chosen: Candidate[] = [];
  /** Goes through the lists of candidates; ends at the first that is good enough if `isEnough`. */
  const search = (lists: readonly (readonly Candidate[])[], isEnough: boolean): void => {
    const go = (index: number, reopened: number): boolean => {
      if (++steps > budget && best) return true;
      const more = rest[index]!;
      const bound = costOf(runs, load, reopened + more.reopened, more.adds);
      if (isEnough ? isCheaper(bestCost, bound) : !isCheaper(bound, bestCost)) return false;
      if (index === lists.length) {
        best = [...chosen];
        bestCost = bound;
        return isEnough;
      }
      for (const candidate of lists[index]!) {
        change(candidate, 1);
        chosen.push(candidate);
        const ends = go(index + 1, reopened + candidate.reopened);
        chosen.pop();
        change(candidate, -1);
        if (ends) return true;
      }
      return false;
    };
    go(0, 0);
  };
  const byCost = group.map(({ candidates }) =>
    candidates
      .map((candidate) => ({ candidate, cost: alone(candidate) }))
      .sort((a, b) => (isCheaper(a.cost, b.cost) ? -1 : isCheaper(b.cost, a.cost) ? 1 : 0))
      .map(({ candidate }) => candidate),
  );
  search(byCost, false);
  const isProven = steps <= budget;
  // Of all that are as good, the first by ids.
  const byIds = group.map(({ candidates }) =>
    [...candidates].sort((a, b) => (isBefore(a.order, b.order) ? -1 : 1)),
  );
  steps = 0;
  search(byIds, true);
  return { chosen: best!, isProven };
}
