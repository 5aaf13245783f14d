import type { Candidate, OrderTask, PlacedControl } from './order-task.js';
import { isBefore } from './order-task.js';

/** The runs of a tree, with what they carry in any case and what they can carry. Run 0 is none: nothing feeds the root. */
export class Runs {
  readonly count: number;
  readonly base: Int32Array;
  readonly capacity: Float64Array;
  /** Runs from a node up to where its hot is in any case. */
  readonly hotWay: (node: number, hot: string) => readonly number[];
  private readonly hots: readonly string[];

  constructor(task: OrderTask) {
    const { tree, base, capacity, controls } = task;
    this.hotWay = hotWays(task);
    this.hots = [...new Set(controls.flatMap(({ places }) => places.map(({ hot }) => hot)))].sort();
    this.count = tree.size;
    this.base = base;
    this.capacity = capacity;
  }

  /** What is one conductor of a run, however many ask for it: each hot, and without one the neutral. */
  shared(runs: readonly number[], hot?: string): number[] {
    const what = hot === undefined ? this.hots.length : this.hots.indexOf(hot);
    return sorted(runs).map((run) => what * this.count + run);
  }

  get sharedSize(): number {
    return (this.hots.length + 1) * this.count;
  }
}

const sorted = (runs: readonly number[]): number[] => [...runs].sort((a, b) => a - b);

function hotWays({ tree, hotNodes }: OrderTask): (node: number, hot: string) => readonly number[] {
  const above = new Map<string, Uint8Array>();
  for (const [hot, nodes] of hotNodes) {
    const marks = new Uint8Array(tree.size);
    for (const node of nodes) for (let at = node; at >= 0 && !marks[at]; at = tree.parent[at]!) marks[at] = 1;
    above.set(hot, marks);
  }
  return (node, hot) => tree.wayUp(node).filter((at) => at !== 0 && !above.get(hot)?.[at]);
}

/** Where joints are made, every order of up to so many points is looked at. */
const ALL_ORDERS_TO = 8;

/** Of a conversion every order of up to so many places. */
const ALL_CONVERTED_TO = 6;

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

function groundOf({ tree }: OrderTask, runs: Runs, control: PlacedControl): Ground {
  const nodes = [...new Set(control.places.map(({ node }) => node))].sort((a, b) => a - b);
  const between = nodes.map((a) => nodes.map((b) => (a === b ? [] : sorted(tree.between([a, b])))));
  const below = new Map<number, Uint8Array>();
  nodes.forEach((node, index) => {
    for (const run of tree.wayUp(node)) {
      if (run === 0) continue;
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
    legs: nodes.map((node) => sorted(tree.between([node, ...control.loadNodes]))),
    hots: new Map(
      control.places.map(({ pointId, node, hot }) => [pointId, runs.shared(runs.hotWay(node, hot), hot)]),
    ),
    below,
  };
}

/** What an order of stops asks of each run: two travelers from stop to stop, and the leg from the last. */
function addsOf(runs: Runs, ground: Ground, order: readonly Stop[]): Uint8Array {
  const adds = new Uint8Array(runs.count);
  for (let at = 1; at < order.length; at++)
    for (const run of ground.between[order[at - 1]!.node]![order[at]!.node]!) adds[run]! += 2;
  for (const run of ground.legs[order.at(-1)!.node]!) adds[run]! += 1;
  return adds;
}

/** The same of a conversion: the commons, leg and line to the second place, travelers from there on. */
function addsOfConversion(
  { tree }: OrderTask,
  runs: Runs,
  { loadNodes, places }: PlacedControl,
  order: readonly string[],
): Uint8Array {
  const adds = new Uint8Array(runs.count);
  const nodes = order.map((point) => places.find(({ pointId }) => pointId === point)!.node);
  const count = (between: readonly number[], of: number): void => {
    for (const run of tree.between(between)) adds[run]! += of;
  };
  count([nodes[0]!, nodes.at(-1)!], 1);
  count([nodes[0]!, nodes[1]!, ...loadNodes], 1);
  for (let at = 2; at < nodes.length; at++) count([nodes[at - 1]!, nodes[at]!], 2);
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

/** The orders of a control of which one can be best, whatever the others do; `isProven` unless some were not looked at. */
export function candidatesOf(
  task: OrderTask,
  runs: Runs,
  control: PlacedControl,
): { candidates: Candidate[]; isProven: boolean } {
  const ground = groundOf(task, runs, control);
  const { stops } = ground;
  const found = new Map<string, Candidate>();
  const look = (order: readonly Stop[]): void => {
    const points = order.flatMap((stop) => stop.points);
    const isConverted = task.isConverted && points.length > 1;
    const adds = isConverted ? addsOfConversion(task, runs, control, points) : addsOf(runs, ground, order);
    const reopened = reopenedBy(control, points);
    const hots = points.slice(0, isConverted ? 2 : 1).flatMap((point) => ground.hots.get(point)!);
    const shared = [...new Set(hots)].sort((a, b) => a - b);
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
  if (task.isConverted && points.length > 1 && points.length <= ALL_CONVERTED_TO) {
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
  if (task.isConverted && points.length > 1) return done(false);
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

/** Leaves out what asks as much or more of every run than another candidate does. */
export function undominated(candidates: readonly Candidate[]): Candidate[] {
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
