import type { Signal } from '../../vocabulary/signal.js';
import {
  commonOf,
  controlOf,
  kindOf,
  legOf,
  protectedHotOf,
  protectedNeutralOf,
  secondHotOf,
  travelerOf,
} from '../../vocabulary/signal.js';
import type { NumberedTree } from '../circuit/numbered-tree.js';
import type { Domains, Protective } from '../circuit/protection.js';
import { hotIn, neutralIn, protect } from '../circuit/protection.js';
import type { KeptOrders, PlacedControl } from './order-task.js';
import { orderPlaces } from './place-order.js';

/** Something that a node needs, whatever the tree. */
export interface Ask {
  readonly node: number;
  readonly what: 'hot' | 'second-hot' | 'neutral' | 'interconnect';
  readonly circuitId: string;
}

/** A place of a control. */
export interface TaskPlace {
  readonly pointId: string;
  readonly node: number;
  readonly circuitId: string;
  /** The nodes of its box. */
  readonly boxNodes: readonly number[];
}

export interface TaskControl extends Pick<PlacedControl, 'id' | 'pinned' | 'reopens'> {
  /** In id order. */
  readonly places: readonly TaskPlace[];
  readonly loadNodes: readonly number[];
}

/** Places at which the neutral rule asks for a neutral: see `NeutralDuty`. */
export interface TaskDuty {
  readonly controlId: string;
  readonly one: boolean;
  readonly places: readonly TaskPlace[];
  readonly all: readonly TaskPlace[];
}

/** What is needed at the nodes of a wiring group, whichever tree they hang on. */
export interface NeedsTask {
  /** Hots that come from the panel. */
  readonly supplies: readonly { readonly circuitId: string; readonly poles: number }[];
  readonly asks: readonly Ask[];
  readonly controls: readonly TaskControl[];
  readonly duties: readonly TaskDuty[];
  readonly protective: Protective;
  /** Controls of several places are wired by conversion. */
  readonly isConverted: boolean;
}

/** A tree, and how many insulated conductors its runs have, by run: infinite where there is no limit. */
export interface TaskTree {
  readonly tree: NumberedTree;
  readonly capacity: Float64Array;
  /** What an order may count on: two runs side by side that have no cable yet carry what two cables do. */
  readonly together: Float64Array;
  /** Orders that were solved on other trees of the same task. */
  readonly kept?: KeptOrders | undefined;
}

/** What the runs of a tree have to carry, by run. */
export interface SolvedNeeds {
  readonly domains: Domains;
  /** Point ids in their electrical order, by control. */
  readonly orders: ReadonlyMap<string, readonly string[]>;
  readonly unproven: ReadonlySet<string>;
  readonly needs: readonly (readonly Signal[])[];
  /** Places that the neutral rule asks for, and runs without a conductor for it. */
  readonly short: readonly {
    readonly controlId: string;
    readonly pointId: string;
    readonly runs: readonly number[];
  }[];
  /** 1 for runs that carry power on. */
  readonly power: Uint8Array;
  readonly missing: number;
  readonly conductors: number;
}

/** A neutral that is asked for at a place, and the runs over which it must come to be there. */
interface NeutralWay {
  readonly place: TaskPlace;
  readonly node: number;
  readonly runs: readonly number[];
}

/** Runs from a node up to where the neutral is already. */
function wayToNeutral(tree: NumberedTree, node: number, hasNeutral: (run: number) => boolean): number[] {
  const runs: number[] = [];
  for (let at = node; at !== 0 && !hasNeutral(at); at = tree.parent[at]!) runs.push(at);
  return runs;
}

/** What the rule asks for and is not there in any case, each with the ways on which it can come. */
function waysOf(
  duties: readonly TaskDuty[],
  tree: NumberedTree,
  hasNeutral: (run: number) => boolean,
): { duty: TaskDuty; ways: NeutralWay[] }[] {
  /** From the node of the box from which there are fewest; of those from the one at which the switch stands. */
  const wayTo = (place: TaskPlace): NeutralWay => {
    let best: NeutralWay | undefined;
    for (const node of place.boxNodes) {
      const runs = wayToNeutral(tree, node, hasNeutral);
      const isLess =
        !best ||
        runs.length < best.runs.length ||
        (runs.length === best.runs.length && node === place.node && best.node !== place.node);
      if (isLess) best = { place, node, runs };
    }
    return best!;
  };
  return duties.flatMap((duty) => {
    // One place is enough: where any of them has its neutral, excused or not, nothing more is asked.
    if (duty.one && duty.all.some((place) => wayTo(place).runs.length === 0)) return [];
    const ways = duty.places.map(wayTo).filter(({ runs }) => runs.length > 0);
    return ways.length ? [{ duty, ways }] : [];
  });
}

/** What each run of a tree has to carry, and in which order the places of its controls stand. */
export function solveNeeds(task: NeedsTask, { tree, capacity, together, kept }: TaskTree): SolvedNeeds {
  const domains = protect(task.protective, tree);
  const { domain, used } = domains;
  const ends = new Map<Signal, number[]>();
  const add = (signal: Signal, node: number): void => {
    const nodes = ends.get(signal);
    if (nodes) nodes.push(node);
    else ends.set(signal, [node]);
  };
  const hotUsers: { readonly node: number; readonly controlId?: string }[] = [];
  // The ends that are there whatever the order of switches is.
  for (const { circuitId, poles } of task.supplies) {
    add(hotIn(domain[0], circuitId), 0);
    if (poles === 2) add(secondHotOf(circuitId), 0);
  }
  add('neutral', 0);
  for (const [device, node] of used) {
    add(protectedHotOf(device), node);
    add(protectedNeutralOf(device), node);
  }
  for (const { node, what, circuitId } of task.asks)
    switch (what) {
      case 'hot':
        add(hotIn(domain[node], circuitId), node);
        hotUsers.push({ node });
        break;
      case 'second-hot':
        add(secondHotOf(circuitId), node);
        break;
      case 'neutral':
        add(neutralIn(domain[node]), node);
        break;
      case 'interconnect':
        add('interconnect', node);
    }

  const count = new Int32Array(tree.size);
  const withNeutral = new Uint8Array(tree.size);
  const needs: Signal[][] = Array.from({ length: tree.size }, () => []);
  for (const [signal, nodes] of ends) {
    const isNeutral = kindOf(signal) === 'neutral';
    for (const run of tree.between(nodes)) {
      count[run]!++;
      if (isNeutral) withNeutral[run] = 1;
    }
  }
  const duties = task.duties.length ? waysOf(task.duties, tree, (run) => withNeutral[run] === 1) : [];
  const ordered = orderPlaces({
    tree,
    base: count,
    isConverted: task.isConverted,
    hotNodes: new Map([...ends].filter(([signal]) => kindOf(signal) === 'hot')),
    capacity: together,
    kept,
    neutrals: duties.map(({ duty, ways }) => ({
      id: duty.controlId,
      ways: duty.one
        ? ways.map(({ place, runs }) => ({ id: place.pointId, runs }))
        : [{ id: '', runs: [...new Set(ways.flatMap(({ runs }) => runs))] }],
    })),
    controls: task.controls.map(({ places, ...control }) => ({
      ...control,
      places: places.map(({ pointId, node, circuitId }) => ({
        pointId,
        node,
        hot: hotIn(domain[node], circuitId),
      })),
    })),
  });
  // Hot, travelers and leg of each control, in the order of its places.
  for (const { id, places, loadNodes } of task.controls) {
    const order = ordered.orders.get(id)!.map((own) => places.find(({ pointId }) => pointId === own)!);
    const [first, last] = [order[0]!, order.at(-1)!];
    const hot = hotIn(domain[first.node], first.circuitId);
    add(hot, first.node);
    hotUsers.push({ node: first.node, controlId: id });
    const second = order[1];
    if (task.isConverted && second) {
      add(commonOf(id), first.node);
      add(commonOf(id), last.node);
      for (const { node } of [first, second]) add(legOf(id), node);
      add(hot, second.node);
      hotUsers.push({ node: second.node, controlId: id });
    } else add(legOf(id), last.node);
    for (let pair = task.isConverted ? 2 : 1; pair < order.length; pair++)
      for (const side of ['a', 'b'] as const) {
        add(travelerOf(id, pair - 1, side), order[pair - 1]!.node);
        add(travelerOf(id, pair - 1, side), order[pair]!.node);
      }
    for (const node of loadNodes) add(legOf(id), node);
  }
  for (const [signal, nodes] of ends) for (const run of tree.between(nodes)) needs[run]!.push(signal);
  let missing = 0;
  for (let run = 1; run < tree.size; run++) missing += Math.max(0, needs[run]!.length - capacity[run]!);
  const short = takeNeutrals(tree, duties, ordered.ways, needs, capacity, (node) => neutralIn(domain[node]));
  return {
    domains,
    orders: ordered.orders,
    unproven: ordered.unproven,
    needs,
    short,
    power: powerRuns(tree, hotUsers, needs),
    missing: missing + new Set(short.flatMap(({ runs }) => runs)).size,
    conductors: needs.reduce((sum, signals) => sum + signals.length, 0),
  };
}

/**
 * Takes the neutral along to where the rule asks for it, by the way that was chosen where one place is enough, as far as there
 * are conductors left. Adds to `needs`.
 */
function takeNeutrals(
  tree: NumberedTree,
  duties: readonly { readonly duty: TaskDuty; readonly ways: readonly NeutralWay[] }[],
  chosen: ReadonlyMap<string, string>,
  needs: Signal[][],
  capacity: Float64Array,
  neutral: (node: number) => Signal,
): SolvedNeeds['short'] {
  const short: SolvedNeeds['short'][number][] = [];
  const hasNeutral = (run: number): boolean => needs[run]!.some((signal) => kindOf(signal) === 'neutral');
  for (const { duty, ways } of duties)
    for (const { place, node } of ways) {
      if (duty.one && place.pointId !== chosen.get(duty.controlId)) continue;
      // Asked anew: what was taken along for one place may serve the next.
      const runs = wayToNeutral(tree, node, hasNeutral);
      const full = runs.filter((run) => needs[run]!.length >= capacity[run]!);
      if (full.length) short.push({ controlId: duty.controlId, pointId: place.pointId, runs: full });
      else for (const run of runs) needs[run]!.push(neutral(node));
    }
  return short;
}

/** Runs that carry power on. */
function powerRuns(
  tree: NumberedTree,
  hotUsers: readonly { readonly node: number; readonly controlId?: string }[],
  needs: readonly (readonly Signal[])[],
): Uint8Array {
  const power = new Uint8Array(tree.size);
  for (const { node, controlId } of hotUsers)
    for (let at = node; at !== 0; at = tree.parent[at]!) {
      if (power[at]) continue;
      const returns = controlId && needs[at]!.some((signal) => controlOf(signal) === controlId);
      if (!returns) power[at] = 1;
    }
  return power;
}
