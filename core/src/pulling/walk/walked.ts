import type { Derivation, HouseReader } from '../../derive/reader.js';
import { farBox, runsAt, standingPull } from '../../facts/box-facts.js';
import type { CableCount, CableRole } from '../../findings/walk-facts.js';
import { CABLE_ROLES, NO_CABLES } from '../../findings/walk-facts.js';
import type { BoxCount, Run, WorkRecord } from '../../house/model.js';
import { roleOf } from '../pull-list.js';

/** A run as it is to be found on a walk. */
export interface WalkedRun {
  readonly id: string;
  readonly role: CableRole;
  /** The two boxes that it ends in. */
  readonly ends: readonly [string, string];
}

const walked = (reader: HouseReader, run: Run): WalkedRun => ({
  id: run.id,
  role: roleOf(reader, run),
  ends: [run.from.boxId, run.to.boxId],
});

/** What is planned, as a walk looks for it: all runs of the house. */
export const walkedRuns = (reader: HouseReader): readonly WalkedRun[] =>
  reader.all('runs').map((run) => walked(reader, run));

/** How many cables of each role each box is to have: "2 power + 1 leg". Boxes without any are not in it. */
export function expectedCounts(runs: readonly WalkedRun[]): ReadonlyMap<string, CableCount> {
  const counts = new Map<string, CableCount>();
  for (const { role, ends } of runs)
    for (const box of ends) {
      const count = counts.get(box) ?? NO_CABLES;
      counts.set(box, { ...count, [role]: count[role] + 1 });
    }
  return counts;
}

/** A cable that is to be found in a box. */
export interface EnteringRun {
  readonly runId: string;
  readonly role: CableRole;
  readonly farBoxId: string;
  readonly isLogged: boolean;
}

/**
 * What a walk knows of a box. `open`: nobody has looked; `right` and `wrong`: as counted last; `again`: what is planned there, or
 * what was pulled to put it right, is not what it was when it was counted.
 */
export interface BoxWalk {
  readonly boxId: string;
  readonly state: 'open' | 'right' | 'wrong' | 'again';
  readonly expected: CableCount;
  readonly runs: readonly EnteringRun[];
  /** What was counted last, and who did. */
  readonly last?: WorkRecord & { readonly counted: BoxCount };
  /** What is otherwise since it was counted. */
  readonly since?: 'plan' | 'pulls';
  /** Circuits that end here: one power cable comes in, and none goes on. */
  readonly endOf: readonly string[];
}

const sameCount = (a: CableCount, b: CableCount): boolean => CABLE_ROLES.every((role) => a[role] === b[role]);
const sameIds = (a: readonly string[], b: readonly string[]): boolean =>
  a.length === b.length && new Set([...a, ...b]).size === a.length;

/**
 * What is planned to enter a box, what was counted there, and whether that still holds, by box id. Counts are held against what
 * stood in plan and log when they were made, not against the time: the clocks of two devices can be hours apart.
 */
const BOX_WALK: Derivation<BoxWalk> = {
  name: 'box walk',
  compute: (reader, boxId) => {
    const own = runsAt(reader, boxId);
    const runs = own.map((run): EnteringRun => ({
      runId: run.id,
      role: roleOf(reader, run),
      farBoxId: farBox(run, boxId),
      isLogged: standingPull(reader, run.id)?.state === 'in',
    }));
    const count = (role: CableRole): number => runs.filter((run) => run.role === role).length;
    const expected = { power: count('power'), leg: count('leg') };
    const circuits = new Set(own.flatMap(({ circuitIds }) => circuitIds));
    const endOf = [...circuits].filter((id) => {
      const power = own.filter((run, at) => runs[at]!.role === 'power' && run.circuitIds.includes(id));
      return (
        power.length === 1 &&
        power[0]!.from.boxId !== reader.get('circuits', id)?.panelId &&
        reader.get('circuits', id)?.panelId !== boxId
      );
    });
    const last = reader
      .mentioning('records', boxId)
      .findLast((record): record is WorkRecord & { counted: BoxCount } => isCount(record));
    const rest = { boxId, expected, runs, endOf };
    if (!last) return { ...rest, state: 'open' };
    const { counted } = last;
    const wasRight = sameCount(counted.seen, counted.expected);
    const pulls = pullIdsOf(reader, boxId);
    const isOtherPlan = !sameCount(counted.expected, expected) || !sameIds(counted.runIds, idsOf(own));
    // What was found right stays so when it is logged later; what was wrong may have been put right.
    const isOtherWall =
      counted.pullIds.some((id) => isGone(reader, id)) ||
      (!wasRight && pulls.some((id) => !counted.pullIds.includes(id)));
    const since = isOtherPlan ? 'plan' : isOtherWall ? 'pulls' : undefined;
    return { ...rest, last, ...(since && { since }), state: since ? 'again' : wasRight ? 'right' : 'wrong' };
  },
};

const idsOf = (records: readonly { readonly id: string }[]): string[] => records.map(({ id }) => id);
const isCount = (record: WorkRecord): boolean => record.kind === 'walk' && record.counted !== undefined;
/** A pull that was scrapped, and no other was logged in its place. One that was taken out of the log says nothing of the wall. */
function isGone(reader: HouseReader, pullId: string): boolean {
  const pull = reader.get('pulls', pullId);
  return pull?.state === 'scrapped' && !standingPull(reader, pull.runId);
}
/** Pulls that count of the runs of a box. */
const pullIdsOf = (reader: HouseReader, boxId: string): string[] =>
  runsAt(reader, boxId).flatMap(({ id }) => standingPull(reader, id)?.id ?? []);

export const boxWalk = (reader: HouseReader, boxId: string): BoxWalk => reader.derive(BOX_WALK, boxId);

/** What is recorded of a box in which somebody counted this: with what stands in plan and log now. */
export const countOf = (reader: HouseReader, boxId: string, seen: CableCount): BoxCount => ({
  seen,
  expected: boxWalk(reader, boxId).expected,
  runIds: idsOf(runsAt(reader, boxId)),
  pullIds: pullIdsOf(reader, boxId),
});
