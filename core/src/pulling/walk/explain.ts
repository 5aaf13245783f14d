import type { CableRole, SeenCount, Settling, WalkFault } from '../../findings/walk-facts.js';
import { CABLE_ROLES, NO_CABLES } from '../../findings/walk-facts.js';
import type { WalkedRun } from './walked.js';
import { expectedCounts } from './walked.js';

export interface Explained {
  /**
   * What would be seen just so: each with as few faults as will do, all that cannot be told apart by what was counted. Empty
   * where everything is as planned, or where so few faults do not explain it.
   */
  readonly ways: readonly (readonly WalkFault[])[];
  /** Boxes that do not have what they are to have. */
  readonly wrong: readonly string[];
  /** The one tug or look that tells the ways apart, where there are several; nothing where they come to the same. */
  readonly settling?: Settling;
}

/** Faults at once that are thought of, and ways that are told. */
const MOST_FAULTS = 3;
const MOST_WAYS = 500;
/** So many times something is tried: where more differs, it is looked at box by box. */
const MOST_TRIES = 20_000;

/** Cables more or fewer than planned, by box and role; nothing is kept of what is as planned. */
type Off = ReadonlyMap<string, number>;
const cell = (boxId: string, role: CableRole): string => `${role} ${boxId}`;
const roleOfCell = (at: string): CableRole => at.slice(0, at.indexOf(' ')) as CableRole;
const boxOfCell = (at: string): string => at.slice(at.indexOf(' ') + 1);
const other = (role: CableRole): CableRole => (role === 'power' ? 'leg' : 'power');

/** What a fault changes in what enters the boxes. */
function effectOf(
  fault: WalkFault,
  runs: ReadonlyMap<string, WalkedRun>,
): readonly (readonly [string, number])[] {
  switch (fault.kind) {
    case 'missing': {
      const { ends, role } = runs.get(fault.runId)!;
      return ends.map((box) => [cell(box, role), -1]);
    }
    case 'extra':
      return fault.boxIds.map((box) => [cell(box, fault.role), 1]);
    case 'misrouted': {
      const { role } = runs.get(fault.runId)!;
      return [
        [cell(fault.left, role), -1],
        [cell(fault.got, role), 1],
      ];
    }
    case 'other-role': {
      const { ends, role } = runs.get(fault.runId)!;
      return ends.flatMap((box): [string, number][] => [
        [cell(box, role), -1],
        [cell(box, other(role)), 1],
      ]);
    }
    case 'not-in':
      return [[cell(fault.boxId, runs.get(fault.runId)!.role), -1]];
    case 'stray':
      return [[cell(fault.boxId, fault.role), 1]];
  }
}

/** What is off, less what a fault explains of it; what nobody has counted says nothing. */
function without(
  off: Off,
  fault: WalkFault,
  runs: ReadonlyMap<string, WalkedRun>,
  isSeen: (box: string, role: CableRole) => boolean,
): Off {
  const rest = new Map(off);
  for (const [at, by] of effectOf(fault, runs)) {
    if (!isSeen(boxOfCell(at), roleOfCell(at))) continue;
    const left = (rest.get(at) ?? 0) - by;
    if (left) rest.set(at, left);
    else rest.delete(at);
  }
  return rest;
}

const size = (off: Off): number => [...off.values()].reduce((sum, by) => sum + Math.abs(by), 0);

/**
 * Names what is otherwise than planned from how many cables enter the boxes that were looked into: the right run where one
 * alone fits, else the smallest set that counting cannot tell apart, and what settles it. Boxes that nobody has looked into may
 * be anything. Two runs of one role that were exchanged leave every count as it was: that is not seen here. Common practice: a
 * walk with a finger on every jumper, before anything is covered.
 */
export function explainCounts(runs: readonly WalkedRun[], seen: ReadonlyMap<string, SeenCount>): Explained {
  const expected = expectedCounts(runs);
  const byId = new Map(runs.map((run) => [run.id, run]));
  const boxes = new Set([...expected.keys(), ...seen.keys()]);
  const isSeen = (box: string, role: CableRole): boolean => seen.get(box)?.[role] !== undefined;
  const unseen = [...boxes].filter((box) => !seen.has(box));
  const off = new Map<string, number>();
  const wrong = new Set<string>();
  for (const [box, count] of seen)
    for (const role of CABLE_ROLES) {
      const by = (count[role] ?? NaN) - (expected.get(box) ?? NO_CABLES)[role];
      if (!by) continue;
      off.set(cell(box, role), by);
      wrong.add(box);
    }
  if (off.size === 0) return { ways: [], wrong: [] };

  /** Faults that make fewer, or more, cables of a role enter a box, and touch nothing that is as it should be. */
  const faultsAt = (rest: Off, box: string, role: CableRole, sign: number): WalkFault[] => {
    const mayBe = (at: string, by: number): boolean =>
      !isSeen(at, role) || Math.sign(rest.get(cell(at, role)) ?? 0) === by;
    const here = runs.filter((run) => run.ends.includes(box));
    const faults: WalkFault[] = [];
    if (sign < 0) {
      for (const run of here.filter((one) => one.role === role)) {
        const far = run.ends[0] === box ? run.ends[1] : run.ends[0];
        if (mayBe(far, -1)) faults.push({ kind: 'missing', runId: run.id });
        faults.push({ kind: 'not-in', runId: run.id, boxId: box });
        for (const got of boxes)
          if (got !== box && got !== far && mayBe(got, 1))
            faults.push({ kind: 'misrouted', runId: run.id, left: box, got });
      }
    } else {
      for (const far of boxes)
        if (far !== box && mayBe(far, 1))
          faults.push({ kind: 'extra', role, boxIds: box < far ? [box, far] : [far, box] });
      for (const run of runs)
        if (run.role === role && !run.ends.includes(box))
          for (const left of run.ends)
            if (mayBe(left, -1)) faults.push({ kind: 'misrouted', runId: run.id, left, got: box });
      faults.push({ kind: 'stray', role, boxId: box });
    }
    for (const run of here)
      if (run.role === (sign < 0 ? role : other(role))) faults.push({ kind: 'other-role', runId: run.id });
    return faults;
  };

  const ways = new Map<string, readonly WalkFault[]>();
  let tries = 0;
  const search = (rest: Off, taken: readonly WalkFault[], most: number): void => {
    tries++;
    if (rest.size === 0) {
      const told = taken.map((fault) => JSON.stringify(fault)).sort();
      if (new Set(told).size === told.length) ways.set(told.join(), taken);
      return;
    }
    if (taken.length === most || ways.size >= MOST_WAYS || tries > MOST_TRIES) return;
    // One of the faults is at the first that is off; each explains at most four of what is.
    if (size(rest) > 4 * (most - taken.length)) return;
    const [[at, by]] = rest as unknown as [[string, number]];
    const [role, box] = [roleOfCell(at), boxOfCell(at)];
    for (const fault of faultsAt(rest, box, role, Math.sign(by)))
      search(without(rest, fault, byId, isSeen), [...taken, fault], most);
  };
  for (let most = 1; most <= MOST_FAULTS && ways.size === 0; most++) search(off, [], most);
  const found = [...ways.values()];
  const settling = found.length > 1 ? settlingOf(found, byId, unseen) : undefined;
  return { ways: found, wrong: [...wrong], ...(settling && { settling }) };
}

/** What tells the ways apart: tracing the box that lacks or has a cable, looking which is there, or counting one more box. */
export function settlingOf(
  ways: readonly (readonly WalkFault[])[],
  runs: ReadonlyMap<string, WalkedRun>,
  unseen: readonly string[],
): Settling | undefined {
  const single = ways.flatMap(([fault, ...more]) => (fault && more.length === 0 ? [fault] : []));
  const isSingle = single.length === ways.length;
  const misrouted = single.filter((fault) => fault.kind === 'misrouted');
  const [first] = misrouted;
  if (first && misrouted.length === ways.length && misrouted.every(({ left }) => left === first.left)) {
    const ends = misrouted.map(({ runId, left }) => runs.get(runId)!.ends.find((end) => end !== left)!);
    if (new Set(ends).size > 1) return { kind: 'trace', boxId: first.left, ends: [...new Set(ends)] };
  }
  const ofRuns = single.flatMap((fault) => ('runId' in fault ? [fault] : []));
  if (isSingle && ofRuns.length === ways.length) {
    const ids = [...new Set(ofRuns.map(({ runId }) => runId))];
    const ends = new Set(ids.flatMap((id) => runs.get(id)!.ends));
    if (ids.length > 1 && ends.size === 2)
      return { kind: 'look', boxId: runs.get(ids[0]!)!.ends[0], runIds: ids };
  }
  // The box whose count the ways differ most about.
  let best: { boxId: string; left: number } | undefined;
  for (const boxId of unseen) {
    const groups = new Map<string, number>();
    for (const way of ways) {
      const told = CABLE_ROLES.map((role) =>
        way
          .flatMap((fault) => effectOf(fault, runs))
          .reduce((sum, [at, by]) => sum + (at === cell(boxId, role) ? by : 0), 0),
      ).join();
      groups.set(told, (groups.get(told) ?? 0) + 1);
    }
    const left = Math.max(...groups.values());
    if (left < ways.length && (!best || left < best.left)) best = { boxId, left };
  }
  if (best && best.left <= ways.length / 2) return { kind: 'count', boxId: best.boxId };
  // A box that lacks one whichever way it is: the end to which none of its cables leads is the one.
  const lacking = single.map((fault) =>
    fault.kind === 'missing'
      ? runs.get(fault.runId)!.ends
      : fault.kind === 'misrouted'
        ? [fault.left]
        : fault.kind === 'not-in'
          ? [fault.boxId]
          : [],
  );
  const short = isSingle ? lacking[0]?.find((box) => lacking.every((each) => each.includes(box))) : undefined;
  if (short !== undefined) {
    const far = ofRuns.flatMap(({ runId }) => runs.get(runId)!.ends.filter((end) => end !== short));
    if (new Set(far).size > 1) return { kind: 'trace', boxId: short, ends: [...new Set(far)] };
  }
  // A box that has more than planned: whichever of its cables leads elsewhere is the one.
  const got = single.map((fault) =>
    fault.kind === 'misrouted'
      ? [fault.got]
      : fault.kind === 'extra'
        ? fault.boxIds
        : fault.kind === 'stray'
          ? [fault.boxId]
          : [],
  );
  const odd = isSingle ? got[0]?.find((box) => got.every((each) => each.includes(box))) : undefined;
  if (odd !== undefined) {
    const role = single.flatMap((fault) => ('role' in fault ? fault.role : runs.get(fault.runId)!.role))[0]!;
    const ends = [...runs.values()].flatMap((run) =>
      run.role === role && run.ends.includes(odd) ? run.ends.filter((end) => end !== odd) : [],
    );
    return { kind: 'odd', boxId: odd, ends: [...new Set(ends)] };
  }
  return best && { kind: 'count', boxId: best.boxId };
}
