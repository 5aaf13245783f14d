import type { ChangeBody, SingleChangeBody } from '../../changes/change.js';
import { adding, removing, setting } from '../../changes/change.js';
import { Derivations } from '../../derive/derivations.js';
import type { HouseReader } from '../../derive/reader.js';
import { boxesOf, standingPull } from '../../facts/box-facts.js';
import { wiringGroup } from '../../facts/circuit-facts.js';
import type { House } from '../../house/house.js';
import { withRow } from '../../house/house.js';
import type { Run } from '../../house/model.js';
import { cutBetween } from '../../measuring/cut.js';
import type { Steps } from '../../structures/steps.js';
import { NamedUnion } from '../../structures/union.js';
import { neededCable } from '../pull-list.js';
import type { PlanCost, PriceOf } from './plan-cost.js';
import { costOf } from './plan-cost.js';

export interface PlanOptions {
  readonly priceOf: PriceOf;
  /** Exchanges that are tried, and what makes them the same every time. */
  readonly steps: number;
  readonly seed: number;
  readonly newId: () => string;
}

/** How far the search has come: what the best so far costs. */
export interface PlanProgress {
  readonly step: number;
  readonly of: number;
  readonly cost: number;
}

export interface PullPlan {
  readonly before: PlanCost;
  readonly after: PlanCost;
  /** What makes the house so; undefined where nothing is better than what stands. */
  readonly change?: ChangeBody;
}

type Edge = readonly [string, string];

/** A generator of numbers from 0 to 1, the same for the same seed (mulberry32, from the literature, from memory). */
function numbers(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** Runs that stay as they are: in the wall, made up, kept by a lead, of other circuits too, or no cable. */
const stays = (reader: HouseReader, run: Run): boolean =>
  run.kept === true ||
  run.kind !== 'cable' ||
  run.circuitIds.length !== 1 ||
  standingPull(reader, run.id) !== undefined ||
  reader.mentioning('records', run.id).length > 0 ||
  boxesOf(run).some((box) =>
    reader.get('boxes', box)?.asBuilt?.some(({ ends }) => ends.some(({ runId }) => runId === run.id)),
  );

const keyOf = ([a, b]: Edge): string => (a < b ? `${a} ${b}` : `${b} ${a}`);

/**
 * Which box feeds which on one circuit: the runs that stay, and others in place of the rest, so that all its boxes hang together
 * at the least cost. A tree at once, then better by exchanging one run for another as long as there are steps; every step is
 * judged by the wiring and the fill of the house as it would be. Deterministic for a seed and a number of steps.
 */
export function* planPulls(
  house: House,
  circuitId: string,
  options: PlanOptions,
): Steps<PullPlan, PlanProgress> {
  const base = new Derivations(house);
  const reader = base.reader();
  const circuit = reader.get('circuits', circuitId)!;
  const own = reader.mentioning('runs', circuitId).filter(({ circuitIds }) => circuitIds.includes(circuitId));
  const before = costOf(reader, circuitId, options.priceOf);
  const free = own.filter((run) => !stays(reader, run));
  // Circuits that share a neutral are planned by hand.
  if (free.length === 0 || wiringGroup(reader, circuitId).length > 1) return { before, after: before };

  const nodes = [...new Set([circuit.panelId, ...own.flatMap((run) => boxesOf(run))])];
  const fixed = own.filter((run) => !free.includes(run));
  const bare = free.reduce((at, { id }) => withRow(at, 'runs', id, undefined), house);
  const known = new Map(free.map((run) => [keyOf(boxesOf(run)), run]));
  /** A run of a free one where there was one between the two, else a new one with the same id each time. */
  const fresh = new Map<string, Run>();
  const runOf = (edge: Edge): Run => {
    const key = keyOf(edge);
    const old = known.get(key);
    if (old) {
      const { purpose: _purpose, plannedCable: _cable, ...rest } = old;
      return rest;
    }
    let run = fresh.get(key);
    if (!run) {
      run = {
        id: options.newId(),
        kind: 'cable',
        circuitIds: [circuitId],
        from: { boxId: edge[0] },
        to: { boxId: edge[1] },
      };
      fresh.set(key, run);
    }
    return run;
  };
  const rowOf = new Map(free.map((run, at) => [run.id, at]));
  const housed = (edges: readonly Edge[]): House =>
    edges.reduce((at, edge) => {
      const record = runOf(edge);
      return withRow(at, 'runs', record.id, { at: 1e6 + (rowOf.get(record.id) ?? rowOf.size), record });
    }, bare);
  const tried = new Derivations(house);
  const costs = new Map<string, PlanCost>();
  const costOfEdges = (edges: readonly Edge[]): PlanCost => {
    const key = edges.map(keyOf).sort().join('|');
    let cost = costs.get(key);
    if (!cost) {
      tried.update(housed(edges));
      cost = costOf(tried.reader(), circuitId, options.priceOf);
      costs.set(key, cost);
    }
    return cost;
  };

  const lengths = new Map<string, number>();
  const lengthOf = (edge: Edge): number => {
    const key = keyOf(edge);
    let length = lengths.get(key);
    if (length === undefined) lengths.set(key, (length = cutBetween(reader, edge[0], edge[1]).lengthIn));
    return length;
  };
  /** What hangs together by these and by what stays. */
  const joined = (edges: readonly Edge[]): NamedUnion => {
    const groups = new NamedUnion();
    for (const run of fixed) groups.join(...boxesOf(run));
    for (const [a, b] of edges) groups.join(a, b);
    return groups;
  };
  const pairs: Edge[] = nodes.flatMap((a, at) => nodes.slice(at + 1).map((b): Edge => [a, b]));
  pairs.sort((a, b) => lengthOf(a) - lengthOf(b) || (keyOf(a) < keyOf(b) ? -1 : 1));
  /** The shortest tree over what stays: the first plan. */
  const shortest = (): Edge[] => {
    const groups = joined([]);
    return pairs.filter(([a, b]) => groups.join(a, b));
  };
  // What stands is where it begins, wherever it is a tree.
  const standing = joined([]);
  const asIs = free.map((run) => boxesOf(run)).filter(([a, b]) => standing.join(a, b));
  const isWhole = nodes.every((node) => standing.find(node) === standing.find(nodes[0]!));
  const starts = [...(isWhole ? [asIs] : []), shortest()];
  let best = starts.reduce((least, edges) =>
    costOfEdges(edges).total < costOfEdges(least).total ? edges : least,
  );
  yield { step: 0, of: options.steps, cost: costOfEdges(best).total };

  const random = numbers(options.seed);
  let now = best;
  for (let step = 1; step <= options.steps; step++) {
    const out = now[Math.floor(random() * now.length)]!;
    const rest = now.filter((edge) => edge !== out);
    const groups = joined(rest);
    const across = pairs.filter(([a, b]) => groups.find(a) !== groups.find(b));
    // Near ones far more often than far ones.
    const next = [...rest, across[Math.floor(random() ** 2.5 * across.length)]!];
    const heat = costOfEdges(best).total * 0.02 * (1 - step / options.steps);
    const more = costOfEdges(next).total - costOfEdges(now).total;
    if (more <= 0 || (heat > 0 && random() < Math.exp(-more / heat))) now = next;
    if (costOfEdges(now).total < costOfEdges(best).total - 1e-9) best = now;
    if (step % 10 === 0) yield { step, of: options.steps, cost: costOfEdges(best).total };
  }
  const after = costOfEdges(best);
  if (after.total >= before.total - 1e-9) return { before, after: before };
  return { before, after, change: changeTo(reader, free, best.map(runOf), housed(best), circuit.number) };
}

/** What turns the free runs into those of the plan, each with the cable that it needs. */
function changeTo(
  reader: HouseReader,
  free: readonly Run[],
  planned: readonly Run[],
  house: House,
  number: number,
): ChangeBody {
  const after = new Derivations(house).reader();
  const stay = new Set(planned.map(({ id }) => id));
  const changes: SingleChangeBody[] = free
    .filter(({ id }) => !stay.has(id))
    .map(({ id }) => removing('runs', id));
  for (const run of planned) {
    const plannedCable = neededCable(after, run);
    const old = reader.get('runs', run.id);
    if (!old) changes.push(adding('runs', { ...run, ...(plannedCable && { plannedCable }) }));
    else if (old.plannedCable !== plannedCable || old.purpose !== undefined)
      changes.push(
        setting('runs', run.id, {
          plannedCable: plannedCable ?? null,
          ...(old.purpose && { purpose: null }),
        }),
      );
  }
  return { kind: 'group', title: `Planned circuit ${number}`, changes };
}
