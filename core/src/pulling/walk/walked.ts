import type { Derivation, HouseReader } from '../../derive/reader.js';
import { circuitsAt, farBox, runsAt, standingPull } from '../../facts/box-facts.js';
import type { CableCount, CableRole, SeenCount } from '../../findings/walk-facts.js';
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

/** What is walked: the cables of one circuit, or of all; power before legs are pulled, or everything. */
export interface WalkScope {
  readonly circuitId?: string | undefined;
  readonly powerOnly?: boolean | undefined;
}

type BoxState = 'open' | 'right' | 'wrong' | 'again';
type Counted = WorkRecord & { readonly counted: BoxCount };

/**
 * What a walk knows of a box. `open`: not all of it was counted; `right` and `wrong`: as counted last; `again`: what is planned
 * there, or what was pulled to put it right, is not what it was when it was counted.
 */
export interface BoxWalk {
  readonly boxId: string;
  readonly state: BoxState;
  readonly expected: CableCount;
  readonly runs: readonly EnteringRun[];
  /** What was counted last and still holds. */
  readonly seen: SeenCount;
  /** Who counted last, when, and what. */
  readonly last?: Counted;
  /** What is otherwise since it was counted. */
  readonly since?: 'plan' | 'pulls';
  /** Circuits that end here: one power cable comes in, and none goes on. */
  readonly endOf: readonly string[];
}

const isCounted = (record: WorkRecord): record is Counted =>
  record.kind === 'walk' && record.counted !== undefined;

const entering = (reader: HouseReader, boxId: string, circuitId: string | undefined): EnteringRun[] =>
  runsAt(reader, boxId)
    .filter(({ circuitIds }) => circuitId === undefined || circuitIds.includes(circuitId))
    .map((run) => ({
      runId: run.id,
      role: roleOf(reader, run),
      farBoxId: farBox(run, boxId),
      isLogged: standingPull(reader, run.id)?.state === 'in',
    }));

const countOfRole = (runs: readonly EnteringRun[], role: CableRole): number =>
  runs.filter((run) => run.role === role).length;
const countsOf = (runs: readonly EnteringRun[]): CableCount => ({
  power: countOfRole(runs, 'power'),
  leg: countOfRole(runs, 'leg'),
});

/** Pulls that count of these runs. */
const pullIdsOf = (reader: HouseReader, runs: readonly EnteringRun[]): string[] =>
  runs.flatMap(({ runId }) => standingPull(reader, runId)?.id ?? []);
/** A pull that was scrapped, and no other was logged in its place. One that was taken out of the log says nothing of the wall. */
function isGone(reader: HouseReader, pullId: string): boolean {
  const pull = reader.get('pulls', pullId);
  return pull?.state === 'scrapped' && !standingPull(reader, pull.runId);
}

interface RoleWalk {
  readonly state: BoxState;
  readonly seen?: number;
  readonly since?: 'plan' | 'pulls' | undefined;
}

/** What a record says now of the cables of a role that it counted. */
function holds(reader: HouseReader, boxId: string, record: Counted, role: CableRole): RoleWalk {
  const { seen, expected, runIds, pullIds } = record.counted;
  const runs = entering(reader, boxId, record.circuitId).filter((run) => run.role === role);
  const pulls = pullIdsOf(reader, runs);
  const wasRight = seen[role] === expected[role];
  const isOtherPlan = expected[role] !== runs.length || runs.some(({ runId }) => !runIds.includes(runId));
  // What was found right stays so when it is logged later; what was wrong may have been put right.
  const isOtherWall =
    pullIds.some((id) => isGone(reader, id)) || (!wasRight && pulls.some((id) => !pullIds.includes(id)));
  const since = isOtherPlan ? 'plan' : isOtherWall ? 'pulls' : undefined;
  if (since) return { state: 'again', since };
  return { state: wasRight ? 'right' : 'wrong', seen: seen[role]! };
}

/** What is known of a role in a box: by the last record that counted it. */
function roleWalk(
  reader: HouseReader,
  boxId: string,
  role: CableRole,
  circuitId: string | undefined,
): RoleWalk {
  const last = reader
    .mentioning('records', boxId)
    .findLast(
      (record): record is Counted =>
        isCounted(record) &&
        record.counted.seen[role] !== undefined &&
        (circuitId === undefined || record.circuitId === undefined || record.circuitId === circuitId),
    );
  if (!last) return { state: 'open' };
  if (last.circuitId === circuitId || circuitId !== undefined) {
    const whole = holds(reader, boxId, last, role);
    if (last.circuitId === circuitId) return whole;
    // What is wrong with a whole box may be of any of its circuits: how many are of this one is not known.
    if (whole.state !== 'right') return { state: whole.state, since: whole.since };
    // All cables of the box were counted and are there: so are those of the circuit.
    return { state: 'right', seen: countOfRole(entering(reader, boxId, circuitId), role) };
  }
  // The circuits of the box were walked one by one: it is known when all of them are.
  const circuits = circuitsAt(reader, boxId).filter(
    (id) => countOfRole(entering(reader, boxId, id), role) > 0 || id === last.circuitId,
  );
  const each = circuits.map((id) => roleWalk(reader, boxId, role, id));
  const first = (state: BoxState): RoleWalk | undefined => each.find((one) => one.state === state);
  const worst = first('wrong') ?? first('again') ?? first('open') ?? first('right');
  return { state: worst?.state ?? 'open', since: worst?.since };
}

/**
 * What is planned to enter a box, what was counted there, and whether that still holds, by box and scope. Counts are held against
 * what stood in plan and log when they were made, not against the time: the clocks of two devices can be hours apart.
 */
const BOX_WALK: Derivation<BoxWalk> = {
  name: 'box walk',
  compute: (reader, key) => {
    const [boxId, circuitId, only] = key.split(' ') as [string, string?, string?];
    const scope = circuitId === '' ? undefined : circuitId;
    const roles = only ? CABLE_ROLES.slice(0, 1) : CABLE_ROLES;
    const runs = entering(reader, boxId, scope).filter(({ role }) => roles.includes(role));
    const each = roles.map((role) => ({ role, ...roleWalk(reader, boxId, role, scope) }));
    const last = reader
      .mentioning('records', boxId)
      .findLast(
        (record): record is Counted =>
          isCounted(record) &&
          (scope === undefined || record.circuitId === undefined || record.circuitId === scope),
      );
    const states = each.map(({ state }) => state);
    const since = each.find((one) => one.since)?.since;
    const isPower = (run: Run): boolean => roleOf(reader, run) === 'power';
    return {
      boxId,
      runs,
      expected: countsOf(runs),
      state: (['wrong', 'again', 'open'] as const).find((state) => states.includes(state)) ?? 'right',
      seen: Object.fromEntries(each.map(({ role, seen }) => [role, seen])),
      endOf: circuitsAt(reader, boxId).filter((id) => {
        if (scope !== undefined && id !== scope) return false;
        const { panelId } = reader.get('circuits', id) ?? {};
        const power = runsAt(reader, boxId).filter((run) => run.circuitIds.includes(id) && isPower(run));
        return power.length === 1 && boxId !== panelId;
      }),
      ...(last && { last }),
      ...(since && { since }),
    };
  },
};

export const boxWalk = (
  reader: HouseReader,
  boxId: string,
  { circuitId, powerOnly }: WalkScope = {},
): BoxWalk => reader.derive(BOX_WALK, `${boxId} ${circuitId ?? ''} ${powerOnly ? 'power' : ''}`);

/** What is recorded of a box in which somebody counted this: with what stands in plan and log now. */
export function countOf(
  reader: HouseReader,
  boxId: string,
  seen: CableCount,
  scope: WalkScope = {},
): BoxCount {
  const { expected, runs } = boxWalk(reader, boxId, scope);
  const of = ({ power, leg }: CableCount): BoxCount['seen'] => (scope.powerOnly ? { power } : { power, leg });
  return {
    seen: of(seen),
    expected: of(expected),
    runIds: runs.map(({ runId }) => runId),
    pullIds: pullIdsOf(reader, runs),
  };
}
