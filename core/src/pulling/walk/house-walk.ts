import type { Derivation, HouseReader } from '../../derive/reader.js';
import { boxFacts, circuitsAt, standingPull } from '../../facts/box-facts.js';
import type { CableRole, SeenCount, Settling, WalkFault, WalkTold } from '../../findings/walk-facts.js';
import { CABLE_ROLES, NO_CABLES } from '../../findings/walk-facts.js';
import type { Explained } from './explain.js';
import { pullList, roleOf } from '../pull-list.js';
import { explainCounts, settlingOf } from './explain.js';
import type { WorkRecord } from '../../house/model.js';
import { walkOrder } from './walk-order.js';
import type { BoxWalk, WalkScope, WalkedRun } from './walked.js';
import { boxWalk, expectedCounts, walkedRuns } from './walked.js';

/** Something that a walk found: what is sure, or the ways it can be that count, log and what is made up do not tell apart. */
export interface WalkFound {
  /** Each with what goes together; one of them, with one fault, where it is sure. */
  readonly ways: readonly (readonly WalkTold[])[];
  /** Ways that are less likely by log, ticks and practice. */
  readonly lessLikely: number;
  /** The boxes in which it shows. */
  readonly boxIds: readonly string[];
  readonly settling?: Settling;
}

/**
 * How likely it is that somebody did just that, the smaller the likelier. Common practice: a run is forgotten far more often
 * than it goes astray. What the log has in, or what is made up already, is seldom missing.
 */
const PLAUSIBLE: Readonly<Record<WalkFault['kind'], number>> = {
  missing: 1,
  misrouted: 2,
  extra: 2,
  'other-role': 2,
  'not-in': 2.5,
  stray: 3,
};
const AGAINST_LOG = 1;
const AGAINST_MADE = 3;

/** What was made up in a box names the cables that are in it. */
const isMadeIn = (reader: HouseReader, boxId: string, runId: string): boolean =>
  reader.get('boxes', boxId)?.asBuilt?.some(({ ends }) => ends.some((end) => end.runId === runId)) ?? false;

function unlikely(
  reader: HouseReader,
  fault: WalkFault,
  runs: ReadonlyMap<string, WalkedRun>,
  logged: ReadonlySet<string>,
): number {
  let weight = PLAUSIBLE[fault.kind];
  if (fault.kind === 'missing' && logged.has(fault.runId)) weight += AGAINST_LOG;
  const gone =
    fault.kind === 'missing'
      ? runs.get(fault.runId)!.ends
      : fault.kind === 'misrouted'
        ? [fault.left]
        : fault.kind === 'not-in'
          ? [fault.boxId]
          : [];
  if ('runId' in fault && gone.some((box) => isMadeIn(reader, box, fault.runId))) weight += AGAINST_MADE;
  return weight;
}

/** A fault as the trade calls it, in this house. */
function told(
  reader: HouseReader,
  fault: WalkFault,
  runs: ReadonlyMap<string, WalkedRun>,
  logged: ReadonlySet<string>,
): WalkTold {
  const isPanel = (box: string): boolean => boxFacts(reader, reader.get('boxes', box)!).kind === 'panel';
  const as = (): WalkTold['as'] => {
    if (fault.kind === 'missing') {
      const { role, ends } = runs.get(fault.runId)!;
      return role === 'leg' ? 'leg' : ends.some(isPanel) ? 'home-run' : 'jumper';
    }
    if (fault.kind === 'misrouted') {
      const own = reader.get('runs', fault.runId)?.circuitIds ?? [];
      return isPanel(fault.got) || circuitsAt(reader, fault.got).some((id) => own.includes(id))
        ? 'extra'
        : 'crossed';
    }
    if (fault.kind !== 'extra' || fault.role === 'leg' || fault.boxIds.some(isPanel)) return 'extra';
    const [here, there] = fault.boxIds.map((box) => circuitsAt(reader, box));
    if (!here!.length || !there!.length) return 'extra';
    return here!.some((id) => there!.includes(id)) ? 'loop' : 'crossed';
  };
  return { fault, as: as(), isLogged: 'runId' in fault && logged.has(fault.runId) };
}

const keyOf = (fault: WalkFault): string => JSON.stringify(fault);

/**
 * Runs that are missing wherever a box lacks just as many cables as there are runs to it that can be missing: what nearly
 * always is behind many differences at once. Each is taken as explained, which leaves fewer to the next.
 */
function surelyMissing(runs: readonly WalkedRun[], seen: ReadonlyMap<string, SeenCount>): WalkedRun[] {
  const expected = expectedCounts(runs);
  const lacks = (box: string, role: CableRole): number | undefined => {
    const count = seen.get(box)?.[role];
    return count === undefined ? undefined : (expected.get(box) ?? NO_CABLES)[role] - count;
  };
  const left = new Map([...seen.keys()].map((box) => [box, CABLE_ROLES.map((role) => lacks(box, role))]));
  const at = (box: string, role: CableRole): number | undefined => left.get(box)?.[CABLE_ROLES.indexOf(role)];
  const missing: WalkedRun[] = [];
  for (let isMore = true; isMore;) {
    isMore = false;
    for (const box of seen.keys())
      for (const role of CABLE_ROLES) {
        const lack = at(box, role) ?? 0;
        if (lack <= 0) continue;
        const candidates = runs.filter(
          (run) =>
            run.role === role &&
            run.ends.includes(box) &&
            !missing.includes(run) &&
            run.ends.every((end) => (at(end, role) ?? 1) > 0),
        );
        if (candidates.length !== lack) continue;
        isMore = true;
        missing.push(...candidates);
        for (const { ends } of candidates)
          for (const end of ends) {
            const own = left.get(end);
            const had = at(end, role);
            if (own && had !== undefined) own[CABLE_ROLES.indexOf(role)] = had - 1;
          }
      }
  }
  return missing;
}

/** Takes counts apart where more is otherwise than a few faults explain: what must be missing, then box by box. */
function* apart(runs: readonly WalkedRun[], seen: ReadonlyMap<string, SeenCount>): Generator<Explained> {
  const whole = explainCounts(runs, seen);
  if (whole.ways.length || whole.wrong.length < 2) return yield whole;
  const explained = new Map(seen);
  for (const { id, role, ends } of surelyMissing(runs, seen)) {
    for (const end of ends) {
      const count = explained.get(end);
      const of = count?.[role];
      if (of !== undefined) explained.set(end, { ...count, [role]: of + 1 });
    }
    yield {
      ways: [[{ kind: 'missing', runId: id }]],
      wrong: ends.filter((end) => seen.get(end)?.[role] !== undefined),
    };
  }
  const rest = explainCounts(runs, explained);
  if (rest.ways.length || rest.wrong.length < 2) return yield rest;
  for (const box of rest.wrong)
    yield explainCounts(
      runs,
      new Map([...explained].filter(([other]) => other === box || !rest.wrong.includes(other))),
    );
}

/** What was counted of all cables, and of each circuit by itself, where something differs. */
function* scopes(reader: HouseReader): Generator<{ circuitId?: string; walks: readonly BoxWalk[] }> {
  const records = reader.all('records');
  const counts = records.filter(({ counted }) => counted !== undefined);
  if (counts.length === 0) return;
  yield { walks: reader.all('boxes').map(({ id }) => boxWalk(reader, id)) };
  for (const circuitId of new Set(counts.flatMap((record) => record.circuitId ?? [])))
    if (reader.get('circuits', circuitId))
      yield {
        circuitId,
        walks: walkOrder(reader, circuitId).map((id) => boxWalk(reader, id, { circuitId })),
      };
}

function* foundIn(reader: HouseReader): Generator<WalkFound> {
  const all = walkedRuns(reader);
  const told = new Set<string>();
  for (const { circuitId, walks } of scopes(reader)) {
    const runs = all.filter(
      ({ id }) => circuitId === undefined || reader.get('runs', id)!.circuitIds.includes(circuitId),
    );
    for (const found of foundOf(reader, walks, runs)) {
      // What was counted both ways is said once.
      const key = JSON.stringify(found.ways);
      if (!told.has(key)) yield found;
      told.add(key);
    }
  }
}

function* foundOf(
  reader: HouseReader,
  walks: readonly BoxWalk[],
  runs: readonly WalkedRun[],
): Generator<WalkFound> {
  const seen = new Map<string, SeenCount>();
  for (const { boxId, seen: count } of walks)
    if (count.power !== undefined || count.leg !== undefined) seen.set(boxId, count);
  const byId = new Map(runs.map((run) => [run.id, run]));
  const logged = new Set(runs.flatMap(({ id }) => (standingPull(reader, id)?.state === 'in' ? [id] : [])));
  const unseen = walks.flatMap(({ boxId }) => (seen.has(boxId) ? [] : [boxId]));
  for (const { ways, wrong } of apart(runs, seen)) {
    if (wrong.length === 0) continue;
    if (ways.length === 0) {
      yield { ways: [], lessLikely: 0, boxIds: wrong };
      continue;
    }
    const weighed = ways.map((way) => ({
      way,
      weight: way.reduce((sum, fault) => sum + unlikely(reader, fault, byId, logged), 0),
    }));
    const least = Math.min(...weighed.map(({ weight }) => weight));
    const best = weighed.filter(({ weight }) => weight === least).map(({ way }) => way);
    // What all ways have in common is sure, and said by itself.
    const [first] = best;
    const sure = first!.filter((fault) =>
      best.every((way) => way.some((one) => keyOf(one) === keyOf(fault))),
    );
    const isSure = (fault: WalkFault): boolean => sure.some((one) => keyOf(one) === keyOf(fault));
    const boxesOf = (faults: readonly WalkFault[]): string[] => {
      const touched = new Set(
        faults.flatMap((fault) => [
          ...('runId' in fault ? byId.get(fault.runId)!.ends : []),
          ...('boxIds' in fault ? fault.boxIds : []),
          ...('boxId' in fault ? [fault.boxId] : []),
          ...('got' in fault ? [fault.got] : []),
        ]),
      );
      return wrong.filter((box) => touched.has(box));
    };
    const lessLikely = ways.length - best.length;
    for (const fault of sure)
      yield {
        ways: [[told(reader, fault, byId, logged)]],
        lessLikely: best.length === 1 ? lessLikely : 0,
        boxIds: boxesOf([fault]),
      };
    const rest = best.map((way) => way.filter((fault) => !isSure(fault))).filter((way) => way.length > 0);
    if (rest.length < 2) continue;
    const settling = settlingOf(rest, byId, unseen);
    yield {
      ways: rest.map((way) => way.map((fault) => told(reader, fault, byId, logged))),
      lessLikely,
      boxIds: boxesOf(rest.flat()),
      ...(settling && { settling }),
    };
  }
}

/** What the counts of a house come to, by house id. */
const HOUSE_WALK: Derivation<readonly WalkFound[]> = {
  name: 'house walk',
  compute: (reader) => [...foundIn(reader)],
};

export const houseWalk = (reader: HouseReader): readonly WalkFound[] =>
  reader.derive(HOUSE_WALK, reader.houseId);

/** Runs that were seen at both their ends, and are not in the log: these can be logged at once. */
export const seenNotLogged = (reader: HouseReader): readonly string[] =>
  reader.all('runs').flatMap(({ id, from, to, circuitIds: [circuitId] }) => {
    const role = roleOf(reader, reader.get('runs', id)!);
    const isSeen = ({ boxId }: { readonly boxId: string }): boolean =>
      boxWalk(reader, boxId, { circuitId, powerOnly: role === 'power' }).state === 'right';
    return isSeen(from) && isSeen(to) && standingPull(reader, id)?.state !== 'in' ? [id] : [];
  });

/** How far a walk has come over some boxes. */
export interface WalkTally {
  readonly right: number;
  readonly wrong: number;
  /** To be walked again, because plan or pulls are not what they were. */
  readonly again: number;
  readonly of: number;
}

export function walkTally(walks: readonly BoxWalk[]): WalkTally {
  const count = (state: BoxWalk['state']): number => walks.filter((walk) => walk.state === state).length;
  return { right: count('right'), wrong: count('wrong'), again: count('again'), of: walks.length };
}

/** Legs that are in while power of their circuit is not. Common practice: power first, walked, then legs. */
export interface EarlyLegs {
  readonly legIds: readonly string[];
  readonly powerIds: readonly string[];
}

/** The legs of a circuit that were logged before its power; undefined where there is nothing to say. */
export function earlyLegs(reader: HouseReader, circuitId: string): EarlyLegs | undefined {
  const { runs } = pullList(reader, { circuitId });
  const legIds = runs.filter(({ role, state }) => role === 'leg' && state === 'in').map(({ runId }) => runId);
  const powerIds = runs
    .filter(({ role, state }) => role === 'power' && state !== 'in')
    .map(({ runId }) => runId);
  return legIds.length && powerIds.length ? { legIds, powerIds } : undefined;
}

/** Where the walk of a circuit stands. `again`: somebody has signed it off, and it is not any more what they signed. */
export interface CircuitWalk {
  readonly state: 'open' | 'walked' | 'signed' | 'again';
  readonly tally: WalkTally;
  /** Boxes that are to be walked yet, in their order. */
  readonly left: readonly string[];
  readonly signed?: WorkRecord;
}

/** What stands in the record of a circuit that was signed off when only its power was in. */
export const POWER_WALKED = 'power';

/** The boxes of a scope in the order in which they are walked: those in which something of it is planned. */
export const walksOf = (reader: HouseReader, scope: WalkScope): readonly BoxWalk[] =>
  walkOrder(reader, scope.circuitId)
    .map((id) => boxWalk(reader, id, scope))
    .filter(({ runs }) => runs.length > 0);

/** The walk of a circuit from the panel on, by what was counted in its boxes and who signed it off last. */
export function circuitWalk(reader: HouseReader, circuitId: string, powerOnly = false): CircuitWalk {
  const walks = walksOf(reader, { circuitId, powerOnly });
  const tally = walkTally(walks);
  const isWalked = tally.of > 0 && tally.right === tally.of;
  const signed = reader
    .mentioning('records', circuitId)
    .findLast(
      ({ kind, boxId, result, step }) =>
        kind === 'walk' && boxId === undefined && result === 'pass' && (powerOnly || step !== POWER_WALKED),
    );
  return {
    state: signed ? (isWalked ? 'signed' : 'again') : isWalked ? 'walked' : 'open',
    tally,
    left: walks.flatMap(({ boxId, state }) => (state === 'right' ? [] : [boxId])),
    ...(signed && { signed }),
  };
}
