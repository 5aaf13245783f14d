import type { HouseReader } from '../../derive/reader.js';
import { boxesOf, deviceType } from '../../facts/box-facts.js';
import type { CircuitSupply } from '../../facts/circuit-facts.js';
import type { Run } from '../../house/model.js';
import { mostConductors } from '../../rulebook/cables.js';
import type { Signal } from '../../vocabulary/signal.js';
import { hotOf } from '../../vocabulary/signal.js';
import type { CircuitTree } from '../circuit/circuit-tree.js';
import { numbersOf, runsBetween } from '../circuit/circuit-tree.js';
import type { CircuitControls, ReachedPoint } from '../circuit/controls.js';
import { pointsReached, sortControls } from '../circuit/controls.js';
import { loadModel } from '../circuit/device-models.js';
import { sidesOf } from '../circuit/device-sides.js';
import { gaugeOfGroup } from '../circuit/gauge.js';
import { isSubPanel } from '../circuit/panel-terminals.js';
import type { Protection } from '../circuit/protection.js';
import { protectionOf, protectiveOf } from '../circuit/protection.js';
import { conductorsFor, isEmptyRaceway } from './conductors-for.js';
import type { Ask, NeedsTask, TaskControl, TaskPlace, TaskTree } from './kernel.js';
import { solveNeeds } from './kernel.js';
import type { NeutralDuty } from './neutral-rule.js';
import { neutralDuty } from './neutral-rule.js';
import type { NeutralShort } from './neutrals.js';
import { keepNeutrals } from './neutrals.js';
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
  /** Switches of several places are wired by conversion: see {@link LeverPlace}. */
  readonly isConverted: boolean;
}

/** The most insulated conductors that a cable for this group can have. */
const largestCable = (reader: HouseReader, group: readonly CircuitSupply[]): number =>
  mostConductors(reader.rules(), gaugeOfGroup(reader, group) ?? reader.rules().jurisdiction.sizes[0]);

const isBeside = (run: Run, other: Run): boolean => {
  const [one, two] = [boxesOf(run), boxesOf(other)];
  return one.length === two.length && one.every((box) => two.includes(box));
};

/** Whether the house wires switches of several places by conversion: a school of where that is done. */
const isConverted = (reader: HouseReader): boolean =>
  reader.rules().has('wiring.twoWay') && reader.rules().text('wiring.twoWay') === 'conversion';

/** A group on a tree before anything is solved: what its nodes need, by their numbers. */
export interface LaidOut {
  readonly task: NeedsTask;
  readonly on: TaskTree;
  readonly points: readonly ReachedPoint[];
  readonly where: ReadonlyMap<string, ReachedPoint>;
  readonly controls: CircuitControls;
  readonly duties: ReadonlyMap<string, NeutralDuty>;
}

/** What is needed on a tree; `unpinned` is a control whose order is to be derived although it is pinned. */
export function layOut(
  reader: HouseReader,
  group: readonly CircuitSupply[],
  tree: CircuitTree,
  unpinned?: string,
): LaidOut {
  const points = pointsReached(
    reader,
    group.map(({ id }) => id),
    tree,
  );
  const where = new Map(points.map((reached) => [reached.point.id, reached]));
  const controls = sortControls(reader, points);
  const { of } = numbersOf(tree);
  const numberOf = (node: string): number => of.get(node)!;
  const nodesOfBox = new Map<string, number[]>();
  for (const [node, boxId] of tree.boxOf)
    nodesOfBox.set(boxId, [...(nodesOfBox.get(boxId) ?? []), numberOf(node)]);
  const placeOf = (pointId: string): TaskPlace => {
    const { node, circuitId, boxId } = where.get(pointId)!;
    return { pointId, node: numberOf(node), circuitId, boxNodes: nodesOfBox.get(boxId)! };
  };
  const duties = controls.wired.flatMap((control) => neutralDuty(reader, control, where) ?? []);
  const places = (reached: readonly ReachedPoint[]): TaskPlace[] =>
    reached.map(({ point }) => placeOf(point.id));
  return {
    points,
    where,
    controls,
    duties: new Map(duties.map((duty) => [duty.controlId, duty])),
    on: capacityOf(reader, group, tree),
    task: {
      supplies: group.map(({ id, poles }) => ({ circuitId: id, poles })),
      asks: [...asksOf(reader, group, tree, points, controls, numberOf)],
      controls: controls.wired.map((control): TaskControl => {
        // A conversion is the same from both its ends: nothing made there tells its order.
        const reopens = isConverted(reader) ? undefined : reopened(reader, tree, control, where);
        return {
          id: control.id,
          places: [...control.places].sort().map(placeOf),
          loadNodes: [...new Set(control.loads.map((id) => numberOf(where.get(id)!.node)))],
          ...(control.pinnedOrder &&
            control.id !== unpinned && { pinned: [...new Set(control.pinnedOrder)] }),
          ...(reopens && { reopens }),
        };
      }),
      duties: duties.map(({ controlId, one, places: own, all }) => ({
        controlId,
        one,
        places: places(own),
        all: places(all),
      })),
      protective: protectiveOf(reader, of, points, controls),
      isConverted: isConverted(reader),
    },
  };
}

/** What each node needs by the models of its devices, whatever the order of switches is. */
function* asksOf(
  reader: HouseReader,
  group: readonly CircuitSupply[],
  tree: CircuitTree,
  points: readonly ReachedPoint[],
  controls: CircuitControls,
  numberOf: (node: string) => number,
): Generator<Ask> {
  const alarms = points.filter(({ point }) => point.role === 'alarm').length;
  for (const { point, device, node: name, circuitId } of points) {
    const type = deviceType(reader, device);
    const node = numberOf(name);
    const isSwitched = controls.ofPoint.has(point.id);
    if (point.role === 'lever') {
      if (type.needsNeutral && point === sidesOf(reader, device).levers[0])
        yield { node, what: 'neutral', circuitId };
      if (!isSwitched) yield { node, what: 'hot', circuitId };
      continue;
    }
    const load = loadModel(type);
    if (load.hots === 2) {
      yield { node, what: 'hot', circuitId };
      yield { node, what: 'second-hot', circuitId };
      if (load.onNeutral) yield { node, what: 'neutral', circuitId };
      continue;
    }
    yield { node, what: 'neutral', circuitId };
    if (!isSwitched) yield { node, what: 'hot', circuitId };
    if (alarms > 1 && point.role === 'alarm') yield { node, what: 'interconnect', circuitId };
  }
  // Both ends of the run that closes a ring.
  if (tree.ring)
    for (const boxId of boxesOf(tree.ring))
      for (const what of ['hot', 'neutral'] as const)
        if (boxId !== tree.panelId) yield { node: numberOf(boxId), what, circuitId: group[0]!.id };
  // A sub-panel is what its feeder is there for.
  for (const boxId of new Set(tree.boxOf.values()))
    for (const { id: circuitId, poles } of group) {
      if (poles !== 2 || boxId === tree.panelId || !isSubPanel(reader, boxId)) continue;
      const node = numberOf(boxId);
      yield { node, what: 'hot', circuitId };
      yield { node, what: 'second-hot', circuitId };
      yield { node, what: 'neutral', circuitId };
    }
  // A control that cannot be wired is fed all the same.
  for (const { points: own } of controls.open)
    for (const { node: name, circuitId } of own) {
      yield { node: numberOf(name), what: 'hot', circuitId };
      yield { node: numberOf(name), what: 'neutral', circuitId };
    }
}

/** How many conductors the runs of a group have. */
function capacityOf(reader: HouseReader, group: readonly CircuitSupply[], tree: CircuitTree): TaskTree {
  const circuitIds = group.map(({ id }) => id);
  const { tree: numbered, of } = numbersOf(tree);
  const capacity = new Float64Array(numbered.size).fill(Infinity);
  const together = new Float64Array(numbered.size).fill(Infinity);
  const largest = largestCable(reader, group);
  for (const [node, { run }] of tree.feed) {
    // A raceway without a wire yet has room for all.
    if (isEmptyRaceway(run)) continue;
    const conductors = conductorsFor(reader, run, circuitIds)?.length;
    if (conductors === undefined && run.kind !== 'cable') continue;
    const at = of.get(node)!;
    capacity[at] = conductors ?? largest;
    const beside = conductors === undefined ? tree.loops.filter((loop) => isBeside(run, loop)).length : 0;
    together[at] = (conductors ?? largest) + beside * largest;
  }
  return { tree: numbered, capacity, together };
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
  const { task, on, points, where, controls, duties } = layOut(reader, group, tree, unpinned);
  const solved = solveNeeds(task, on);
  const { runIds } = numbersOf(tree);
  const protection = protectionOf(reader, tree, points, solved.domains);
  const needs = new Map(
    solved.needs.flatMap((signals, run) => (signals.length ? [[runIds[run]!, signals]] : [])),
  );
  const circuitIds = group.map(({ id }) => id);
  // What closes a ring carries what all of it does.
  if (tree.ring) needs.set(tree.ring.id, [hotOf(circuitIds[0]!), 'neutral']);
  return {
    tree,
    points,
    controls,
    protection,
    orders: solved.orders,
    unproven: solved.unproven,
    needs,
    kept: keepNeutrals(
      reader,
      { tree, controls: controls.wired, where, circuitIds },
      needs,
      protection.neutral,
    ),
    power: new Set([...runIds.filter((_, run) => solved.power[run]), ...(tree.ring ? [tree.ring.id] : [])]),
    neutralShort: solved.short.map(({ controlId, pointId, runs }) => ({
      duty: duties.get(controlId)!,
      place: where.get(pointId)!,
      runs: runs.map((run) => runIds[run]!),
    })),
    open: openRuns(tree, controls),
    missing: solved.missing,
    conductors: solved.conductors,
    isConverted: task.isConverted,
  };
}
