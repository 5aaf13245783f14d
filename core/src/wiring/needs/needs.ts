import type { HouseReader } from '../../derive/reader.js';
import { boxesOf, deviceType } from '../../facts/box-facts.js';
import type { CircuitSupply } from '../../facts/circuit-facts.js';
import type { Run } from '../../house/model.js';
import { mostConductors } from '../../rulebook/cables.js';
import type { Signal } from '../../vocabulary/signal.js';
import {
  controlOf,
  kindOf,
  legOf,
  protectedHotOf,
  protectedNeutralOf,
  secondHotOf,
  travelerOf,
} from '../../vocabulary/signal.js';
import type { CircuitTree } from '../circuit/circuit-tree.js';
import { runsBetween, wayUp } from '../circuit/circuit-tree.js';
import type { CircuitControls, ReachedPoint } from '../circuit/controls.js';
import { pointsReached, sortControls } from '../circuit/controls.js';
import { loadModel } from '../circuit/device-models.js';
import { sidesOf } from '../circuit/device-sides.js';
import { gaugeOfGroup } from '../circuit/gauge.js';
import { isSubPanel } from '../circuit/panel-terminals.js';
import type { Protection } from '../circuit/protection.js';
import { protectionOf } from '../circuit/protection.js';
import { conductorsFor, isEmptyRaceway } from './conductors-for.js';
import type { NeutralShort } from './neutrals.js';
import { keepNeutrals, neutralDuties, takeNeutrals } from './neutrals.js';
import type { OrderTask, PlacedControl } from './order-task.js';
import { orderPlaces } from './place-order.js';
import { reopened } from './reopened.js';

/** A wiring group on one tree: steps one and two of four, signals and needs. */
export interface TreeNeeds {
  readonly tree: CircuitTree;
  readonly points: readonly ReachedPoint[];
  readonly controls: CircuitControls;
  readonly protection: Protection;
  /** Electrical order of the places of each wired control. */
  readonly orders: ReadonlyMap<string, readonly string[]>;
  /** Signals of each run of the tree, by run id; the neutrals that only the rule asks for are in where there is room. */
  readonly needs: ReadonlyMap<string, readonly Signal[]>;
  /** Neutrals that nothing asks for and that a cable has room for: kept and capped at the switch. By run id. */
  readonly kept: ReadonlyMap<string, Signal>;
  /** Controls of which the order is not proven to be the best. */
  readonly unproven: ReadonlySet<string>;
  /** Runs that the neutral rule would need, and that have no conductor left for it. */
  readonly neutralShort: readonly NeutralShort[];
  /** Runs that carry power on: to a load that is always fed, or to switches of which nothing comes back over them. */
  readonly power: ReadonlySet<string>;
  /** Runs that something which cannot be derived has to do with. */
  readonly open: ReadonlySet<string>;
  readonly missing: number;
  readonly conductors: number;
}

/** The most insulated conductors that a cable for this group can have. */
const largestCable = (reader: HouseReader, group: readonly CircuitSupply[]): number =>
  mostConductors(reader.rules(), gaugeOfGroup(reader, group) ?? reader.rules().jurisdiction.sizes[0]);

const isBeside = (run: Run, other: Run): boolean => {
  const [one, two] = [boxesOf(run), boxesOf(other)];
  return one.length === two.length && one.every((box) => two.includes(box));
};

/** What is known of a group on a tree before anything is needed of it. */
interface Laid {
  readonly group: readonly CircuitSupply[];
  readonly tree: CircuitTree;
  readonly points: readonly ReachedPoint[];
  readonly where: ReadonlyMap<string, ReachedPoint>;
  readonly controls: CircuitControls;
  readonly protection: Protection;
}

function lay(reader: HouseReader, group: readonly CircuitSupply[], tree: CircuitTree): Laid {
  const points = pointsReached(
    reader,
    group.map(({ id }) => id),
    tree,
  );
  const where = new Map(points.map((reached) => [reached.point.id, reached]));
  const controls = sortControls(reader, points);
  return { group, tree, points, where, controls, protection: protectionOf(reader, tree, points, controls) };
}

/** Where signals have their ends, and who uses a hot. */
class SignalEnds {
  readonly nodes = new Map<Signal, string[]>();
  readonly hotUsers: { readonly node: string; readonly controlId?: string }[] = [];

  constructor(private readonly protection: Protection) {}

  add(signal: Signal, node: string): void {
    const list = this.nodes.get(signal);
    if (list) list.push(node);
    else this.nodes.set(signal, [node]);
  }
  neutral(node: string): void {
    this.add(this.protection.neutral(node), node);
  }
  /** A hot for something at a node; of a control its switches stand between. */
  hot(node: string, circuitId: string, controlId?: string): void {
    this.add(this.protection.hot(node, circuitId), node);
    this.hotUsers.push({ node, ...(controlId && { controlId }) });
  }
  /** The runs over which each signal goes. */
  *ways(tree: CircuitTree): Generator<readonly [Signal, ReadonlySet<string>]> {
    for (const [signal, nodes] of this.nodes) yield [signal, runsBetween(tree, nodes)];
  }
}

/** The ends that are there whatever the order of switches is. */
function fixedEnds(reader: HouseReader, { group, tree, points, controls, protection }: Laid): SignalEnds {
  const ends = new SignalEnds(protection);
  for (const { id, poles } of group) {
    ends.add(protection.hot(tree.panelId, id), tree.panelId);
    if (poles === 2) ends.add(secondHotOf(id), tree.panelId);
  }
  ends.add('neutral', tree.panelId);
  for (const [device, node] of protection.used) {
    ends.add(protectedHotOf(device), node);
    ends.add(protectedNeutralOf(device), node);
  }
  endsOfPoints(reader, ends, points, controls);
  // A sub-panel is what its feeder is there for.
  for (const boxId of new Set(tree.boxOf.values())) {
    for (const { id, poles } of group) {
      if (poles !== 2 || boxId === tree.panelId || !isSubPanel(reader, boxId)) continue;
      ends.hot(boxId, id);
      ends.add(secondHotOf(id), boxId);
      ends.add('neutral', boxId);
    }
  }
  // A control that cannot be wired is fed all the same.
  for (const { points: own } of controls.open) {
    for (const { node, circuitId } of own) {
      ends.hot(node, circuitId);
      ends.neutral(node);
    }
  }
  return ends;
}

/** What each point needs by the model of its device. */
function endsOfPoints(
  reader: HouseReader,
  ends: SignalEnds,
  points: readonly ReachedPoint[],
  controls: CircuitControls,
): void {
  const alarms = points.filter(({ point }) => point.role === 'alarm').length;
  for (const { point, device, node, circuitId } of points) {
    const type = deviceType(reader, device);
    const isSwitched = controls.ofPoint.has(point.id);
    if (point.role === 'lever') {
      if (type.needsNeutral && point === sidesOf(reader, device).levers[0]) ends.neutral(node);
      if (!isSwitched) ends.hot(node, circuitId);
      continue;
    }
    const load = loadModel(type);
    if (load.hots === 2) {
      ends.hot(node, circuitId);
      ends.add(secondHotOf(circuitId), node);
      if (load.onNeutral) ends.neutral(node);
      continue;
    }
    ends.neutral(node);
    if (!isSwitched) ends.hot(node, circuitId);
    if (alarms > 1 && point.role === 'alarm') ends.add('interconnect', node);
  }
}

/** How many conductors the runs of a group have. */
interface Capacity {
  readonly of: ReadonlyMap<string, number>;
  /** What an order may count on: two runs side by side that have no cable yet carry what two cables do. */
  readonly together: ReadonlyMap<string, number>;
}

function capacityOf(reader: HouseReader, { group, tree }: Laid): Capacity {
  const circuitIds = group.map(({ id }) => id);
  const of = new Map<string, number>();
  const together = new Map<string, number>();
  const largest = largestCable(reader, group);
  for (const { run } of tree.feed.values()) {
    // A raceway without a wire yet has room for all.
    if (isEmptyRaceway(run)) continue;
    const conductors = conductorsFor(reader, run, circuitIds)?.length;
    if (conductors === undefined && run.kind !== 'cable') continue;
    of.set(run.id, conductors ?? largest);
    const beside = conductors === undefined ? tree.loops.filter((loop) => isBeside(run, loop)).length : 0;
    together.set(run.id, (conductors ?? largest) + beside * largest);
  }
  return { of, together };
}

type Duties = ReturnType<typeof neutralDuties>;

/** The question in which order the places of the controls stand. */
function orderTask(
  reader: HouseReader,
  { tree, controls, where, protection }: Laid,
  ends: SignalEnds,
  base: ReadonlyMap<string, number>,
  duties: Duties,
  { together }: Capacity,
  unpinned: string | undefined,
): OrderTask {
  return {
    tree,
    base,
    hotNodes: new Map([...ends.nodes].filter(([signal]) => kindOf(signal) === 'hot')),
    capacity: together,
    neutrals: duties.map(({ duty, ways }) => ({
      id: duty.controlId,
      ways: duty.one
        ? ways.map(({ place, runs }) => ({ id: place.point.id, runs }))
        : [{ id: '', runs: [...new Set(ways.flatMap(({ runs }) => runs))] }],
    })),
    controls: controls.wired.map((control): PlacedControl => {
      const reopens = reopened(reader, tree, control, where);
      return {
        id: control.id,
        places: [...control.places].sort().map((pointId) => {
          const { node, circuitId } = where.get(pointId)!;
          return { pointId, node, hot: protection.hot(node, circuitId) };
        }),
        loadNodes: [...new Set(control.loads.map((id) => where.get(id)!.node))],
        ...(control.pinnedOrder && control.id !== unpinned && { pinned: [...new Set(control.pinnedOrder)] }),
        ...(reopens && { reopens }),
      };
    }),
  };
}

/** Hot, travelers and leg of each control, in the order of its places. */
function endsOfControls(
  { controls, where }: Laid,
  ends: SignalEnds,
  orders: ReadonlyMap<string, readonly string[]>,
): void {
  for (const control of controls.wired) {
    const order = orders.get(control.id)!.map((id) => where.get(id)!);
    const [first, last] = [order[0]!, order.at(-1)!];
    ends.hot(first.node, first.circuitId, control.id);
    for (let pair = 1; pair < order.length; pair++) {
      for (const side of ['a', 'b'] as const) {
        ends.add(travelerOf(control.id, pair - 1, side), order[pair - 1]!.node);
        ends.add(travelerOf(control.id, pair - 1, side), order[pair]!.node);
      }
    }
    ends.add(legOf(control.id), last.node);
    for (const load of control.loads) ends.add(legOf(control.id), where.get(load)!.node);
  }
}

/** How many signals go over each run, and over which the neutral. */
function countSignals(
  tree: CircuitTree,
  ends: SignalEnds,
): { readonly count: ReadonlyMap<string, number>; readonly withNeutral: ReadonlySet<string> } {
  const count = new Map<string, number>();
  const withNeutral = new Set<string>();
  for (const [signal, runs] of ends.ways(tree)) {
    for (const run of runs) {
      count.set(run, (count.get(run) ?? 0) + 1);
      if (kindOf(signal) === 'neutral') withNeutral.add(run);
    }
  }
  return { count, withNeutral };
}

function signalsOfRuns(tree: CircuitTree, ends: SignalEnds): Map<string, Signal[]> {
  const needs = new Map<string, Signal[]>();
  for (const [signal, runs] of ends.ways(tree)) {
    for (const run of runs) {
      const list = needs.get(run);
      if (list) list.push(signal);
      else needs.set(run, [signal]);
    }
  }
  return needs;
}

/** Runs that carry power on. */
function powerRuns(
  tree: CircuitTree,
  hotUsers: SignalEnds['hotUsers'],
  needs: ReadonlyMap<string, readonly Signal[]>,
): ReadonlySet<string> {
  const power = new Set<string>();
  for (const { node, controlId } of hotUsers) {
    for (const at of wayUp(tree, node)) {
      const run = tree.feed.get(at)?.run.id;
      const returns = controlId && needs.get(run ?? '')?.some((signal) => controlOf(signal) === controlId);
      if (run && !returns) power.add(run);
    }
  }
  return power;
}

/** Runs between the points of controls that cannot be wired. */
const openRuns = (tree: CircuitTree, { open }: CircuitControls): ReadonlySet<string> =>
  new Set(
    open.flatMap(({ points, fromPanel }) => [
      ...runsBetween(tree, [...(fromPanel ? [tree.panelId] : []), ...points.map(({ node }) => node)]),
    ]),
  );

/** Signals and needs of a wiring group on a tree; `unpinned` is a control whose order is to be derived although it is pinned. */
export function needsOn(
  reader: HouseReader,
  group: readonly CircuitSupply[],
  tree: CircuitTree,
  unpinned?: string,
): TreeNeeds {
  const laid = lay(reader, group, tree);
  const { points, where, controls, protection } = laid;
  const ends = fixedEnds(reader, laid);
  const { count, withNeutral } = countSignals(tree, ends);
  const duties = neutralDuties(reader, tree, controls.wired, where, withNeutral);
  const capacity = capacityOf(reader, laid);
  const ordered = orderPlaces(orderTask(reader, laid, ends, count, duties, capacity, unpinned));
  endsOfControls(laid, ends, ordered.orders);
  const needs = signalsOfRuns(tree, ends);
  const over = [...needs].map(([run, signals]) => signals.length - (capacity.of.get(run) ?? Infinity));
  const neutralShort = takeNeutrals(tree, duties, ordered.ways, needs, capacity.of, protection.neutral);
  const circuitIds = group.map(({ id }) => id);
  const kept = keepNeutrals(
    reader,
    { tree, controls: controls.wired, where, circuitIds },
    needs,
    protection.neutral,
  );
  return {
    tree,
    points,
    controls,
    protection,
    orders: ordered.orders,
    unproven: ordered.unproven,
    needs,
    kept,
    power: powerRuns(tree, ends.hotUsers, needs),
    neutralShort,
    open: openRuns(tree, controls),
    missing:
      over.reduce((sum, more) => sum + Math.max(0, more), 0) +
      new Set(neutralShort.flatMap(({ runs }) => runs)).size,
    conductors: [...needs.values()].reduce((sum, signals) => sum + signals.length, 0),
  };
}
