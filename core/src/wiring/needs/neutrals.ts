import type { HouseReader } from '../../derive/reader.js';
import { boxesOf } from '../../facts/box-facts.js';
import type { Control, Run } from '../../house/model.js';
import type { Signal } from '../../vocabulary/signal.js';
import { kindOf } from '../../vocabulary/signal.js';
import type { CircuitTree } from '../circuit/circuit-tree.js';
import { wayUp } from '../circuit/circuit-tree.js';
import type { ReachedPoint } from '../circuit/controls.js';
import { recordedJoints } from '../circuit/recorded-joints.js';
import { coloursOf } from '../circuit/marking.js';
import { conductorsFor } from './conductors-for.js';
import type { NeutralDuty } from './neutral-rule.js';

/** A place to which the neutral rule would take a neutral, and the runs that have no conductor left for it. */
export interface NeutralShort {
  readonly duty: NeutralDuty;
  readonly place: ReachedPoint;
  readonly runs: readonly string[];
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
    const white = conductors?.find(({ colour }) => colour === coloursOf(reader, run).neutral[0]);
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
