import { applyChange } from '../../changes/apply.js';
import type { SingleChangeBody } from '../../changes/change.js';
import { adding, removing, setting } from '../../changes/change.js';
import { Derivations } from '../../derive/derivations.js';
import type { HouseReader } from '../../derive/reader.js';
import { boxesOf, endAt, farBox } from '../../facts/box-facts.js';
import { circuitsOfPanel } from '../../facts/circuit-facts.js';
import type { House } from '../../house/house.js';
import type { Circuit, Run } from '../../house/model.js';
import { cutOf } from '../../routing/cut.js';
import { legOfSpace } from '../../wiring/circuit/panel-terminals.js';
import { wireCircuit } from '../../wiring/conductors/wire-circuit.js';
import { neededCable } from '../../routing/run-cable.js';
import type { CircuitFound } from './plan-circuit.js';
import type { PlanCost, Pricing } from './plan-cost.js';
import { costOf } from './plan-cost.js';
import { PlanGround } from './plan-ground.js';
import type { PlanSwap } from './plan-swaps.js';

/** Two circuits whose home runs are one by the plan. */
export interface SharedHomeRun {
  /** The first has the box at which the shared run ends. */
  readonly circuitIds: readonly [string, string];
  /** The home run that is gone, and what feeds its box in its place; nothing where that is the same box. */
  readonly gone: Run;
  readonly onward?: Run;
  readonly ground: PlanGround;
  /** What both cost less together than apart. */
  readonly saves: number;
  readonly shorterIn: number;
  readonly house: House;
}

/**
 * Whether two circuits may share a neutral: breakers of one pole and one size next to each other in a column of the panel, and so on
 * different legs, with one handle (NEC 210.4(B), from memory), guarded in the same way.
 */
function mayShare(one: Circuit, other: Circuit): boolean {
  const [a, b] = [one.spaces?.[0], other.spaces?.[0]];
  return (
    one.panelId === other.panelId &&
    [one, other].every(({ poles, neutralGroup }) => poles === 1 && neutralGroup === undefined) &&
    one.breakerAmps === other.breakerAmps &&
    one.protection === other.protection &&
    a !== undefined &&
    b !== undefined &&
    Math.abs(a - b) === 2 &&
    legOfSpace(one) !== legOfSpace(other)
  );
}

/** The home runs of a circuit that the plan is free to have otherwise. */
function homeRunsOf(reader: HouseReader, { circuit, edges }: CircuitFound): readonly Run[] {
  const { circuitId, ground } = circuit;
  const planned = new Set(edges.map((edge) => circuit.runOf(edge).id));
  return reader
    .mentioning('runs', circuitId)
    .filter(
      (run) => planned.has(run.id) && run.circuitIds.length === 1 && boxesOf(run).includes(ground.nodes[0]!),
    );
}

/** A name for what two circuits share that none of the panel has yet. */
function groupName(reader: HouseReader, one: Circuit, other: Circuit): string {
  const taken = new Set(circuitsOfPanel(reader, one.panelId).map(({ neutralGroup }) => neutralGroup));
  let name = `${one.number} + ${other.number}`;
  while (taken.has(name)) name += ' +';
  return name;
}

type Options = Pricing & { readonly newId: () => string };

/** One home run for both, to the box of the first; from there on to that of the other. */
function sharedAt(
  house: House,
  reader: HouseReader,
  [one, other]: readonly [CircuitFound, CircuitFound],
  [own, gone]: readonly [Run, Run],
  ground: PlanGround,
  apart: PlanCost,
  options: Options,
): SharedHomeRun | undefined {
  const circuitIds = [one.circuit.circuitId, other.circuit.circuitId] as const;
  const [first, second] = circuitIds.map((id) => reader.get('circuits', id)!) as [Circuit, Circuit];
  const [here, there] = [farBox(own, first.panelId), farBox(gone, first.panelId)];
  const onward: Run | undefined =
    here === there
      ? undefined
      : {
          id: options.newId(),
          kind: 'cable',
          circuitIds: [second.id],
          from: { boxId: here },
          to: endAt(gone, there),
        };
  const neutralGroup = groupName(reader, first, second);
  const changes: SingleChangeBody[] = [
    removing('runs', gone.id),
    setting('runs', own.id, { circuitIds: [...circuitIds], plannedCable: null }),
    ...(onward ? [adding('runs', onward)] : []),
    ...circuitIds.map((id) => setting('circuits', id, { neutralGroup })),
  ];
  const tried = new Derivations(house);
  const made = (at: House, bodies: readonly SingleChangeBody[]): House | undefined => {
    const applied = applyChange(at, { kind: 'group', title: 'Shared', changes: [...bodies] });
    return applied.ok ? applied.document : undefined;
  };
  const bare = made(house, changes);
  if (!bare) return undefined;
  tried.update(bare);
  // Each with the cable that it needs by now.
  const cabled = [own.id, onward?.id].flatMap((id): SingleChangeBody[] => {
    const run = id === undefined ? undefined : tried.reader().get('runs', id);
    const plannedCable = run && neededCable(tried.reader(), run);
    return run && plannedCable ? [setting('runs', run.id, { plannedCable })] : [];
  });
  const next = made(bare, cabled);
  if (!next) return undefined;
  tried.update(next);
  const at = tried.reader();
  const cost = costOf(at, circuitIds, options, ground);
  // Circuits that meet in another box too close a loop through the neutral.
  const { loops, islands } = wireCircuit(at, first.id).tree;
  if (loops.length || islands.length || cost.wrong > apart.wrong + 1e-9) return undefined;
  const lengthOf = (run: Run | undefined): number => (run ? cutOf(at, run).lengthIn : 0);
  return {
    circuitIds,
    gone,
    ...(onward && { onward: at.get('runs', onward.id)! }),
    ground,
    saves: apart.total - cost.total,
    shorterIn: cutOf(reader, gone).lengthIn - lengthOf(onward),
    house: next,
  };
}

/**
 * Home runs of circuits that were planned, two as one wherever the house allows it and that is cheaper: the one that saves most first,
 * each circuit once. Each holds the house with all before it.
 */
export function sharedHomeRuns(
  planned: House,
  found: ReadonlyMap<string, CircuitFound>,
  options: Options,
): readonly SharedHomeRun[] {
  const shared: SharedHomeRun[] = [];
  let house = planned;
  for (;;) {
    const reader = new Derivations(house).reader();
    if (reader.rules().text('plan.multiwire') !== 'yes') return shared;
    const taken = new Set(shared.flatMap(({ circuitIds }) => circuitIds));
    const rest = [...found.values()].filter(({ circuit }) => !taken.has(circuit.circuitId));
    const circuitOf = ({ circuit }: CircuitFound): Circuit => reader.get('circuits', circuit.circuitId)!;
    let best: SharedHomeRun | undefined;
    for (const [at, one] of rest.entries())
      for (const other of rest.slice(at + 1)) {
        if (!mayShare(circuitOf(one), circuitOf(other))) continue;
        const ids = [one, other].map(({ circuit }) => circuit.circuitId);
        const nodes = [...new Set([...one.circuit.ground.nodes, ...other.circuit.ground.nodes])];
        const ground = new PlanGround(reader, ids, nodes);
        const apart = costOf(reader, ids, options, ground);
        for (const pair of [[one, other] as const, [other, one] as const]) {
          const [own, gone] = pair.map((of) => homeRunsOf(reader, of)) as [readonly Run[], readonly Run[]];
          for (const home of own.flatMap((run) => gone.map((more) => [run, more] as const))) {
            const tried = sharedAt(house, reader, pair, home, ground, apart, options);
            if (tried && tried.saves > (best?.saves ?? 1e-6)) best = tried;
          }
        }
      }
    if (!best) return shared;
    shared.push(best);
    house = best.house;
  }
}

/** What two circuits change run by run, with the home run that they share by now. */
export function sharedSwaps(pair: SharedHomeRun, swaps: readonly PlanSwap[]): readonly PlanSwap[] {
  const { gone, onward, saves, shorterIn } = pair;
  const added = onward && { runId: onward.id, boxIds: boxesOf(onward) };
  const isOwn = (swap: PlanSwap): boolean => swap.added?.runId === gone.id;
  const own = swaps.find(isOwn);
  const rest = swaps.filter((swap) => !isOwn(swap));
  const removed = own ? own.removed : { runId: gone.id, boxIds: boxesOf(gone) };
  if (!removed && !added) return rest;
  return [
    ...rest,
    {
      ...(removed && { removed }),
      ...(added && { added }),
      saves: saves + (own?.saves ?? 0),
      shorterIn: shorterIn + (own?.shorterIn ?? 0),
      why: { code: 'multiwire' },
    },
  ];
}
