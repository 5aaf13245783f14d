import type { HouseReader } from '../../derive/reader.js';
import { boxesOf } from '../../facts/box-facts.js';
import type { Control, Run } from '../../house/model.js';
import type { Signal } from '../../vocabulary/signal.js';
import { kindOf } from '../../vocabulary/signal.js';
import type { CircuitTree } from '../circuit/circuit-tree.js';
import { wayUp } from '../circuit/circuit-tree.js';
import type { ReachedPoint } from '../circuit/controls.js';
import { recordedJoints } from '../circuit/recorded-joints.js';
import { conductorsFor } from './conductors-for.js';
import type { NeutralDuty } from './neutral-rule.js';
import { neutralDuty } from './neutral-rule.js';

/** A place to which the neutral rule would take a neutral, and the runs that have no conductor left for it. */
export interface NeutralShort {
  readonly duty: NeutralDuty;
  readonly place: ReachedPoint;
  readonly runs: readonly string[];
}

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
export interface NeutralWay {
  readonly place: ReachedPoint;
  readonly node: string;
  readonly runs: readonly string[];
}

/** What the rule asks for and is not there in any case; `withNeutral` are the runs in which the neutral is. */
export function neutralDuties(
  reader: HouseReader,
  tree: CircuitTree,
  controls: readonly Control[],
  where: ReadonlyMap<string, ReachedPoint>,
  withNeutral: ReadonlySet<string>,
): { duty: NeutralDuty; ways: NeutralWay[] }[] {
  const duties = controls.flatMap((control) => neutralDuty(reader, control, where) ?? []);
  if (duties.length === 0) return [];
  const nodesOfBox = nodesByBox(tree);
  /** From the node of the box from which there are fewest; of those from the one at which the switch stands. */
  const wayTo = (place: ReachedPoint): NeutralWay =>
    nodesOfBox
      .get(place.boxId)!
      .map((node) => ({ place, node, runs: wayToNeutral(tree, node, (run) => withNeutral.has(run)) }))
      .sort(
        (a, b) =>
          a.runs.length - b.runs.length || Number(b.node === place.node) - Number(a.node === place.node),
      )[0]!;
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
export function takeNeutrals(
  tree: CircuitTree,
  duties: readonly { readonly duty: NeutralDuty; readonly ways: readonly NeutralWay[] }[],
  chosen: ReadonlyMap<string, string>,
  needs: Map<string, Signal[]>,
  capacity: ReadonlyMap<string, number>,
  neutral: (node: string) => Signal,
): readonly NeutralShort[] {
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
export function keepNeutrals(
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
      recordedJoints(reader, boxId).some(({ ends }) =>
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
