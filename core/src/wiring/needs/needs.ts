import { loadModel } from '../circuit/device-models.js';
import type { CircuitSupply } from '../../facts/circuit-facts.js';
import type { HouseReader } from '../../derive/reader.js';
import { BOX_MADE, boxesOf, conductorsOf, deviceType } from '../../facts/box-facts.js';
import { mostConductors } from '../../rulebook/cables.js';
import type { Conductor } from '../../facts/box-facts.js';
import type { Control, Run } from '../../house/model.js';
import type { CircuitTree } from '../circuit/circuit-tree.js';
import { runsBetween, wayUp } from '../circuit/circuit-tree.js';
import type { CircuitControls, ReachedPoint } from '../circuit/controls.js';
import { pointsReached, sortControls } from '../circuit/controls.js';
import { sidesOf } from '../circuit/device-sides.js';
import { gaugeOfGroup } from '../circuit/gauge.js';
import type { NeutralDuty } from './neutral-rule.js';
import { neutralDuty } from './neutral-rule.js';
import type { OrderTask, PlacedControl } from './place-order.js';
import { orderPlaces } from './place-order.js';
import { isSubPanel } from '../circuit/panel-terminals.js';
import type { Protection } from '../circuit/protection.js';
import { protectionOf } from '../circuit/protection.js';
import type { Signal } from '../../vocabulary/signal.js';
import type { Terminal } from '../../vocabulary/terminal.js';
import { controlOf, kindOf, legOf, secondHotOf, travelerOf } from '../../vocabulary/signal.js';

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
  readonly neutralShort: readonly {
    readonly duty: NeutralDuty;
    readonly place: ReachedPoint;
    readonly runs: readonly string[];
  }[];
  /** Runs that carry power on: to a load that is always fed, or to switches of which nothing comes back over them. */
  readonly power: ReadonlySet<string>;
  /** Runs that something which cannot be derived has to do with. */
  readonly open: ReadonlySet<string>;
  readonly missing: number;
  readonly conductors: number;
}

const isEmptyRaceway = (run: Run): boolean => run.kind === 'raceway' && !run.wires?.length;

/** Insulated conductors of a run that this wiring group may use; undefined while it has no cable. */
export function conductorsFor(
  reader: HouseReader,
  run: Run,
  circuitIds: readonly string[],
): readonly Conductor[] | undefined {
  const all = conductorsOf(reader, run).filter((conductor) => !conductor.ground);
  if (run.kind !== 'raceway') return all.length ? all : undefined;
  if (isEmptyRaceway(run)) return [];
  const seen = new Map<string, number>();
  const owner = new Map<string, string | undefined>();
  for (const wire of run.wires ?? []) {
    const number = (seen.get(wire.colour) ?? 0) + 1;
    seen.set(wire.colour, number);
    owner.set(number === 1 ? wire.colour : `${wire.colour}#${number}`, wire.circuitId);
  }
  const only = run.circuitIds.every((id) => circuitIds.includes(id));
  return all.filter(({ key }) => {
    const circuitId = owner.get(key);
    return circuitId === undefined ? only : circuitIds.includes(circuitId);
  });
}

/** A terminal of a place on which something is recorded as made: the run that leads away from it, or the place it is linked to. */
interface MadeTerminal {
  readonly point: string;
  readonly terminal: Terminal;
  readonly runId?: string;
  readonly linked?: string;
}

function madeTerminals(
  reader: HouseReader,
  control: Control,
  where: ReadonlyMap<string, ReachedPoint>,
): MadeTerminal[] {
  /** The place that a terminal belongs to: on a yoke with several levers its number says which. */
  const placeOf = (deviceId: string | undefined, terminal: Terminal): string | undefined =>
    control.places.find((id) => {
      const { device, point } = where.get(id)!;
      if (device.id !== deviceId) return false;
      const levers = reader.mentioning('points', device.id).filter(({ role }) => role === 'lever');
      return levers.length < 2 || ('lever' in terminal && terminal.lever === levers.indexOf(point) + 1);
    });
  return [...new Set(control.places.map((id) => where.get(id)!.boxId))].flatMap((boxId) =>
    (reader.part(BOX_MADE, boxId)?.asBuilt ?? []).flatMap(({ ends, terminals }) => {
      const landed = (terminals ?? []).flatMap(({ deviceId, terminal }) => {
        const point = placeOf(deviceId, terminal);
        return point ? [{ point, terminal }] : [];
      });
      return landed.flatMap((to): MadeTerminal[] => [
        ...ends.map(({ runId }) => ({ ...to, runId })),
        ...landed.flatMap(({ point }) => (point === to.point ? [] : [{ ...to, linked: point }])),
      ]);
    }),
  );
}

/**
 * How many terminals recorded as made at a place would land elsewhere with it between these two others. The pairs of a
 * four-way are the same either way round.
 */
function reopened(
  reader: HouseReader,
  tree: CircuitTree,
  control: Control,
  where: ReadonlyMap<string, ReachedPoint>,
): PlacedControl['reopens'] {
  const made = new Map<string, MadeTerminal[]>();
  for (const terminal of madeTerminals(reader, control, where))
    made.set(terminal.point, [...(made.get(terminal.point) ?? []), terminal]);
  if (made.size === 0) return undefined;
  const ways = new Map<string, ReadonlySet<string>>();
  const way = (from: string, to: string): ReadonlySet<string> => {
    const key = `${from} ${to}`;
    let runs = ways.get(key);
    if (!runs) {
      runs = runsBetween(tree, [where.get(from)!.node, where.get(to)!.node]);
      ways.set(key, runs);
    }
    return runs;
  };
  const kept = new Map<string, number>();
  const count = (point: string, before: string | undefined, after: string | undefined): number => {
    const isFour = before !== undefined && after !== undefined;
    const isAlone = before === undefined && after === undefined;
    const misfits = (one: string | undefined, other: string | undefined): number =>
      made.get(point)!.filter(({ terminal, runId, linked }) => {
        const toward = (place: string | undefined): boolean =>
          place !== undefined && (linked === place || (runId !== undefined && way(point, place).has(runId)));
        switch (terminal.kind) {
          case 'common':
            return isFour || isAlone;
          case 'traveler':
            return isFour || !(toward(before) || toward(after));
          case 'pair':
            return !isFour || !toward(terminal.pair === 1 ? one : other);
          default:
            return !isAlone;
        }
      }).length;
    return Math.min(misfits(before, after), misfits(after, before));
  };
  return (point, before, after) => {
    if (!made.has(point)) return 0;
    const key = `${point} ${before} ${after}`;
    let known = kept.get(key);
    if (known === undefined) kept.set(key, (known = count(point, before, after)));
    return known;
  };
}

/** Signals and needs of a wiring group on a tree; `unpinned` is a control whose order is to be derived although it is pinned. */
export function needsOn(
  reader: HouseReader,
  group: readonly CircuitSupply[],
  tree: CircuitTree,
  unpinned?: string,
): TreeNeeds {
  const circuitIds = group.map(({ id }) => id);
  const points = pointsReached(reader, circuitIds, tree);
  const where = new Map(points.map((reached) => [reached.point.id, reached]));
  const controls = sortControls(reader, points);
  const protection = protectionOf(reader, tree, points, controls);
  const { hot, neutral } = protection;
  const controlAt = (pointId: string): Control | undefined => controls.ofPoint.get(pointId);

  const ends = new Map<Signal, string[]>();
  const end = (signal: Signal, node: string): void => {
    const list = ends.get(signal);
    if (list) list.push(node);
    else ends.set(signal, [node]);
  };
  for (const { id, poles } of group) {
    end(hot(tree.panelId, id), tree.panelId);
    if (poles === 2) end(secondHotOf(id), tree.panelId);
  }
  end('neutral', tree.panelId);
  for (const [device, node] of protection.used) {
    end(`load-hot:${device}`, node);
    end(`load-neutral:${device}`, node);
  }
  const hotUsers: { node: string; controlId?: string }[] = [];
  const wantHot = (node: string, circuitId: string): void => {
    end(hot(node, circuitId), node);
    hotUsers.push({ node });
  };
  const alarms = points.filter(({ point }) => point.role === 'alarm');
  for (const { point, device, node, circuitId } of points) {
    const type = deviceType(reader, device);
    const control = controlAt(point.id);
    if (point.role === 'lever') {
      if (type.needsNeutral && point === sidesOf(reader, device).levers[0]) end(neutral(node), node);
      if (!control) wantHot(node, circuitId);
      continue;
    }
    const load = loadModel(type);
    if (load.hots === 2) {
      wantHot(node, circuitId);
      end(secondHotOf(circuitId), node);
      if (load.onNeutral) end(neutral(node), node);
      continue;
    }
    end(neutral(node), node);
    if (!control) wantHot(node, circuitId);
    if (alarms.length > 1 && point.role === 'alarm') end('interconnect', node);
  }
  // A sub-panel is what its feeder is there for.
  for (const boxId of new Set(tree.boxOf.values())) {
    for (const { id, poles } of group) {
      if (poles !== 2 || boxId === tree.panelId || !isSubPanel(reader, boxId)) continue;
      wantHot(boxId, id);
      end(secondHotOf(id), boxId);
      end('neutral', boxId);
    }
  }
  // A control that cannot be wired is fed all the same.
  for (const { points: own } of controls.open) {
    for (const { node, circuitId } of own) {
      wantHot(node, circuitId);
      end(neutral(node), node);
    }
  }

  const base = new Map<string, number>();
  const withNeutral = new Set<string>();
  for (const [signal, nodes] of ends) {
    for (const run of runsBetween(tree, nodes)) {
      base.set(run, (base.get(run) ?? 0) + 1);
      if (kindOf(signal) === 'neutral') withNeutral.add(run);
    }
  }
  const duties = neutralDuties(reader, tree, controls.wired, where, withNeutral);
  const capacity = new Map<string, number>();
  /** What an order may count on: two runs side by side that have no cable yet carry what two cables do. */
  const together = new Map<string, number>();
  const largest = largestCable(reader, group);
  for (const { run } of tree.feed.values()) {
    // A raceway without a wire yet has room for all.
    if (isEmptyRaceway(run)) continue;
    const conductors = conductorsFor(reader, run, circuitIds)?.length;
    if (conductors === undefined && run.kind !== 'cable') continue;
    capacity.set(run.id, conductors ?? largest);
    const beside = conductors === undefined ? tree.loops.filter((loop) => isBeside(run, loop)).length : 0;
    together.set(run.id, (conductors ?? largest) + beside * largest);
  }
  const task: OrderTask = {
    tree,
    base,
    hotNodes: new Map([...ends].filter(([signal]) => kindOf(signal) === 'hot')),
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
          return { pointId, node, hot: hot(node, circuitId) };
        }),
        loadNodes: [...new Set(control.loads.map((id) => where.get(id)!.node))],
        ...(control.pinnedOrder && control.id !== unpinned && { pinned: [...new Set(control.pinnedOrder)] }),
        ...(reopens && { reopens }),
      };
    }),
  };
  const { orders, ways, unproven } = orderPlaces(task);
  for (const control of controls.wired) {
    const order = orders.get(control.id)!.map((id) => where.get(id)!);
    const [first, last] = [order[0]!, order.at(-1)!];
    end(hot(first.node, first.circuitId), first.node);
    hotUsers.push({ node: first.node, controlId: control.id });
    for (let pair = 1; pair < order.length; pair++) {
      for (const side of ['a', 'b'] as const) {
        end(travelerOf(control.id, pair - 1, side), order[pair - 1]!.node);
        end(travelerOf(control.id, pair - 1, side), order[pair]!.node);
      }
    }
    end(legOf(control.id), last.node);
    for (const load of control.loads) end(legOf(control.id), where.get(load)!.node);
  }
  const needs = new Map<string, Signal[]>();
  for (const [signal, nodes] of ends) {
    for (const run of runsBetween(tree, nodes)) {
      const list = needs.get(run);
      if (list) list.push(signal);
      else needs.set(run, [signal]);
    }
  }
  let missing = 0;
  for (const [run, signals] of needs)
    missing += Math.max(0, signals.length - (capacity.get(run) ?? Infinity));

  const neutralShort = takeNeutrals(tree, duties, ways, needs, capacity, neutral);
  missing += new Set(neutralShort.flatMap(({ runs }) => runs)).size;
  const kept = keepNeutrals(reader, { tree, controls: controls.wired, where, circuitIds }, needs, neutral);
  const open = new Set(
    controls.open.flatMap(({ points: own, fromPanel }) => [
      ...runsBetween(tree, [...(fromPanel ? [tree.panelId] : []), ...own.map(({ node }) => node)]),
    ]),
  );
  let conductors = 0;
  for (const signals of needs.values()) conductors += signals.length;
  const power = new Set<string>();
  for (const { node, controlId } of hotUsers) {
    for (const at of wayUp(tree, node)) {
      const run = tree.feed.get(at)?.run.id;
      const returns = controlId && needs.get(run ?? '')?.some((signal) => controlOf(signal) === controlId);
      if (run && !returns) power.add(run);
    }
  }
  return {
    tree,
    points,
    controls,
    protection,
    orders,
    unproven,
    needs,
    kept,
    power,
    neutralShort,
    open,
    missing,
    conductors,
  };
}

/** The most insulated conductors that a cable for this group can have. */
const largestCable = (reader: HouseReader, group: readonly CircuitSupply[]): number =>
  mostConductors(reader.rules(), gaugeOfGroup(reader, group) ?? 14);

const isBeside = (run: Run, other: Run): boolean => {
  const [one, two] = [boxesOf(run), boxesOf(other)];
  return one.length === two.length && one.every((box) => two.includes(box));
};

/** The nodes of each box. */
function nodesByBox(tree: CircuitTree): ReadonlyMap<string, readonly string[]> {
  const nodes = new Map<string, string[]>();
  for (const [node, boxId] of tree.boxOf) nodes.set(boxId, [...(nodes.get(boxId) ?? []), node]);
  return nodes;
}

/** Runs from a node up to where the neutral is already. */
function wayToNeutral(tree: CircuitTree, node: string, hasNeutral: (run: string) => boolean): string[] {
  const runs: string[] = [];
  for (const at of wayUp(tree, node)) {
    const run = tree.feed.get(at)?.run.id;
    if (run === undefined || hasNeutral(run)) break;
    runs.push(run);
  }
  return runs;
}

const neutralIn =
  (needs: ReadonlyMap<string, readonly Signal[]>) =>
  (run: string): boolean =>
    needs.get(run)?.some((signal) => kindOf(signal) === 'neutral') ?? false;

/** A place at which the neutral is asked for, and the runs over which it must come to be there. */
interface NeutralWay {
  readonly place: ReachedPoint;
  readonly node: string;
  readonly runs: readonly string[];
}

/** What the rule asks for and is not there in any case; `withNeutral` are the runs in which the neutral is. */
function neutralDuties(
  reader: HouseReader,
  tree: CircuitTree,
  controls: readonly Control[],
  where: ReadonlyMap<string, ReachedPoint>,
  withNeutral: ReadonlySet<string>,
): { duty: NeutralDuty; ways: NeutralWay[] }[] {
  const duties = controls.flatMap((control) => neutralDuty(reader, control, where) ?? []);
  if (duties.length === 0) return [];
  const nodesOfBox = nodesByBox(tree);
  /** From the node of the box from which there are fewest. */
  const wayTo = (place: ReachedPoint): NeutralWay =>
    nodesOfBox
      .get(place.boxId)!
      .map((node) => ({ place, node, runs: wayToNeutral(tree, node, (run) => withNeutral.has(run)) }))
      .sort((a, b) => a.runs.length - b.runs.length)[0]!;
  return duties.flatMap((duty) => {
    // One place is enough: where any of them has its neutral, excused or not, nothing more is asked.
    if (duty.one && duty.all.some((place) => wayTo(place).runs.length === 0)) return [];
    const ways = duty.places.map(wayTo).filter(({ runs }) => runs.length > 0);
    return ways.length ? [{ duty, ways }] : [];
  });
}

/**
 * Takes the neutral along to where the rule asks for it, by the way that was chosen where one place is enough, as far as there
 * are conductors left. Adds to `needs`.
 */
function takeNeutrals(
  tree: CircuitTree,
  duties: readonly { readonly duty: NeutralDuty; readonly ways: readonly NeutralWay[] }[],
  chosen: ReadonlyMap<string, string>,
  needs: Map<string, Signal[]>,
  capacity: ReadonlyMap<string, number>,
  neutral: (node: string) => Signal,
): TreeNeeds['neutralShort'] {
  const short: { duty: NeutralDuty; place: ReachedPoint; runs: string[] }[] = [];
  const hasNeutral = neutralIn(needs);
  const room = (run: string): boolean => (needs.get(run)?.length ?? 0) < (capacity.get(run) ?? Infinity);
  for (const { duty, ways } of duties) {
    for (const { place, node } of ways) {
      if (duty.one && place.point.id !== chosen.get(duty.controlId)) continue;
      // Asked anew: what was taken along for one place may serve the next.
      const runs = wayToNeutral(tree, node, hasNeutral);
      const full = runs.filter((run) => !room(run));
      if (full.length) short.push({ duty, place, runs: full });
      else for (const run of runs) needs.set(run, [...(needs.get(run) ?? []), neutral(node)]);
    }
  }
  return short;
}

/**
 * Neutrals that nothing asks for at switches to which the cables have a white left over: kept, so that a later device finds
 * one, instead of a dead spare (common practice). Not where that white is recorded as capped.
 */
function keepNeutrals(
  reader: HouseReader,
  {
    tree,
    controls,
    where,
    circuitIds,
  }: {
    readonly tree: CircuitTree;
    readonly controls: readonly Control[];
    readonly where: ReadonlyMap<string, ReachedPoint>;
    readonly circuitIds: readonly string[];
  },
  needs: ReadonlyMap<string, readonly Signal[]>,
  neutral: (node: string) => Signal,
): ReadonlyMap<string, Signal> {
  const kept = new Map<string, Signal>();
  const hasNeutral = neutralIn(needs);
  const runOf = new Map([...tree.feed.values()].map(({ run }) => [run.id, run]));
  const isFree = (run: Run): boolean => {
    const conductors = run.kind === 'cable' ? conductorsFor(reader, run, circuitIds) : undefined;
    const white = conductors?.find(({ colour }) => colour === 'WH');
    if (!conductors || !white || (needs.get(run.id)?.length ?? 0) >= conductors.length) return false;
    return !boxesOf(run).some((boxId) =>
      reader
        .part(BOX_MADE, boxId)
        ?.asBuilt?.some(({ ends }) =>
          ends.some((end) => end.runId === run.id && end.conductor === white.key),
        ),
    );
  };
  for (const control of controls) {
    for (const place of control.places) {
      const { node } = where.get(place)!;
      const ways = wayToNeutral(tree, node, hasNeutral).filter((run) => !kept.has(run));
      const runs = ways.map((id) => runOf.get(id)!);
      if (runs.every(isFree)) for (const run of runs) kept.set(run.id, neutral(node));
    }
  }
  return kept;
}
