import { SECURED_STEP, HOME_RUN_STEP } from '../closing/wall-ticks.js';
import { isPhotographed, photoWalls } from '../closing/wall-photos.js';
import { openExtras, openWriteUps } from './on-paper.js';
import type { HouseReader } from '../derive/reader.js';
import { boxesOf, shapeOfBox, standingPull } from '../facts/box-facts.js';
import { acceptanceOf } from '../findings/accepted.js';
import type { Source } from '../findings/facts.js';
import type { WorkRecord } from '../house/model.js';
import { isMadeUp } from '../makeup/made-up.js';
import { leftInJoins } from '../proving/live-test.js';
import { ringState } from '../proving/tested.js';
import { circuitWalk } from '../pulling/walk/house-walk.js';
import { cutOf } from '../routing/cut.js';
import { drillSheet } from '../routing/drill-sheet.js';
import type { Steps } from '../structures/steps.js';
import { wireCircuit } from '../wiring/conductors/wire-circuit.js';
import { causesIn } from './causes.js';

/** Who can do it: a hand of the crew, only a lead, another trade, the inspector. */
export type ReadyWho = 'hand' | 'lead' | 'trade' | 'inspector';

/** What stands between a house and a passed rough-in. */
export type ReadyCode =
  | 'stops'
  | 'fixes'
  | 'runs'
  | 'walk'
  | 'boxes'
  | 'ring-out'
  | 'drilled'
  | 'sealed'
  | 'secured'
  | 'home-runs'
  | 'photos'
  | 'joins'
  | 'nameplates'
  | 'asks'
  | 'write-ups'
  | 'look-again'
  | 'stops-allowed'
  | 'extras-asked'
  | 'extras-to-do';

/** One line: what is still open, of how many, and whose it is. */
export interface ReadyLine {
  readonly code: ReadyCode;
  readonly who: ReadyWho;
  /** The one person who is to do it, where somebody was named. */
  readonly personId?: string;
  readonly open: number;
  readonly of: number;
  /** Where the rule for it stands, if there is one. */
  readonly source?: Source;
  /** Rooms, circuits, runs, boxes or entries in which it is open, in the order in which they are gone through. */
  readonly ids: readonly string[];
}

/** What a hand ticks of a run at its panel end still holds: the cable that hangs there came before. */
const isAfter = (tick: WorkRecord, pulledAt: string | undefined): boolean =>
  pulledAt === undefined || Date.parse(tick.at) >= Date.parse(pulledAt);

/** Runs that end in a panel, with whether number and room have been written on them since they came in. */
export function homeRuns(
  reader: HouseReader,
): readonly { readonly runId: string; readonly isMarked: boolean }[] {
  return reader
    .all('runs')
    .filter(
      (run) =>
        run.kind !== 'low-voltage' &&
        boxesOf(run).some((boxId) => shapeOfBox(reader, boxId).kind === 'panel'),
    )
    .map(({ id }) => {
      const tick = reader.mentioning('records', id).findLast(({ step }) => step === HOME_RUN_STEP);
      return {
        runId: id,
        isMarked: tick !== undefined && isAfter(tick, standingPull(reader, id)?.at),
      };
    });
}

/** Rooms into which cable comes, with whether all that hangs there now was ticked as secured. */
export function securedRooms(
  reader: HouseReader,
): readonly { readonly roomId: string; readonly isSecured: boolean }[] {
  const pulledIn = new Map<string, string | undefined>();
  for (const run of reader.all('runs')) {
    const at = standingPull(reader, run.id)?.at;
    for (const boxId of boxesOf(run)) {
      const roomId = reader.get('boxes', boxId)?.roomId;
      if (!roomId) continue;
      const before = pulledIn.get(roomId);
      pulledIn.set(roomId, at && (!before || Date.parse(at) > Date.parse(before)) ? at : before);
    }
  }
  return reader
    .all('rooms')
    .filter(({ id }) => pulledIn.has(id))
    .map(({ id }) => {
      const tick = reader.mentioning('records', id).findLast(({ step }) => step === SECURED_STEP);
      return { roomId: id, isSecured: tick !== undefined && isAfter(tick, pulledIn.get(id)) };
    });
}

/** Counts what is open of a list. */
const line = <One>(
  code: ReadyCode,
  who: ReadyWho,
  all: readonly One[],
  isOpen: (one: One) => boolean,
  idOf: (one: One) => string,
  source?: Source,
): ReadyLine => {
  const open = all.filter(isOpen);
  return {
    code,
    who,
    open: open.length,
    of: all.length,
    ids: [...new Set(open.map(idOf))],
    ...(source && { source }),
  };
};

/**
 * What stands between a house and a passed rough-in, whole lists of it, in the order in which a crew works; what is done stands there
 * with nothing open. Advice: the inspector decides. It is worked out in steps, ways and tests take their time.
 */
export function* readyForInspection(reader: HouseReader): Steps<readonly ReadyLine[]> {
  const [runs, rooms, circuits] = [reader.all('runs'), reader.all('rooms'), reader.all('circuits')];
  for (const { id } of runs) {
    cutOf(reader, { id });
    yield;
  }
  // Circuits that share a neutral are walked and rung out as one; the first of them speaks for all.
  const groups = circuits.filter(({ id }) => (wireCircuit(reader, id).circuitIds[0] ?? id) === id);
  const ringing = [];
  for (const { id } of groups) {
    const state = ringState(reader, id, false);
    if (state.of > 0) ringing.push({ id, isDone: state.good === state.of });
    yield;
  }
  const boxes = [];
  for (const { id } of reader.all('boxes')) {
    // What lands in the panel lands at trim.
    if (shapeOfBox(reader, id).kind === 'panel') continue;
    const isDone = isMadeUp(reader, id);
    if (isDone !== undefined) boxes.push({ id, isDone });
    yield;
  }
  const walls = [];
  for (const { id } of rooms) {
    walls.push(...photoWalls(reader, id));
    yield;
  }
  const drilled = rooms.flatMap(({ id }) => drillSheet(reader, id).walls);
  yield;
  const walks = [];
  for (const { id } of circuits) {
    const { tally, state } = circuitWalk(reader, id);
    if (tally.of > 0) walks.push({ id, isDone: state === 'signed' || state === 'walked' });
    yield;
  }
  const causes = causesIn(reader).map(({ finding }) => finding);
  const placeOf = ({ where }: (typeof causes)[number]): string =>
    where.boxId ?? where.runId ?? where.circuitId ?? where.roomId ?? '';
  const stops = causes.filter(({ severity }) => severity === 'stop');
  const isAllowed = (finding: (typeof causes)[number]): boolean =>
    acceptanceOf(reader, finding) !== undefined;
  const joins = circuits.flatMap(({ id }) => leftInJoins(reader, id));
  const writeUps = openWriteUps(reader);
  const extras = openExtras(reader);
  const isTicked = (record: WorkRecord | undefined, holes: number): boolean =>
    record !== undefined && (record.holes ?? Infinity) >= holes;

  const toFix = writeUps.filter(({ stands }) => stands === 'to-fix');
  const fixers = [...new Set(toFix.map(({ writeUp }) => writeUp.fixerId))];
  return [
    line('stops', 'lead', stops, (finding) => !isAllowed(finding), placeOf),
    ...fixers.map((personId): ReadyLine => {
      const own = toFix.filter(({ writeUp }) => writeUp.fixerId === personId);
      const isNamed = personId !== undefined;
      return {
        ...line(
          'write-ups',
          isNamed ? 'hand' : 'lead',
          own,
          () => true,
          ({ writeUp }) => writeUp.id,
        ),
        ...(isNamed && { personId }),
      };
    }),
    line(
      'fixes',
      'lead',
      causes.filter(({ severity }) => severity === 'fix'),
      (finding) => !isAllowed(finding),
      placeOf,
    ),
    line(
      'nameplates',
      'lead',
      circuits.filter(({ nameplateOpen }) => nameplateOpen !== undefined),
      ({ nameplateOpen }) => nameplateOpen === true,
      ({ id }) => id,
      { section: 'nameplate' },
    ),
    line(
      'extras-asked',
      'lead',
      extras,
      ({ stands }) => stands === 'asked',
      ({ extra }) => extra.id,
    ),
    line('joins', 'lead', joins, () => true, String),
    line(
      'runs',
      'hand',
      runs,
      ({ id }) => standingPull(reader, id)?.state !== 'in',
      ({ id }) => id,
    ),
    line(
      'walk',
      'hand',
      walks,
      ({ isDone }) => !isDone,
      ({ id }) => id,
    ),
    line(
      'home-runs',
      'hand',
      homeRuns(reader),
      ({ isMarked }) => !isMarked,
      ({ runId }) => runId,
      { section: 'homeRuns' },
    ),
    line(
      'secured',
      'hand',
      securedRooms(reader),
      ({ isSecured }) => !isSecured,
      ({ roomId }) => roomId,
      { rule: 'secure.fromBox' },
    ),
    line(
      'drilled',
      'hand',
      drilled,
      (wall) => !isTicked(wall.drilled, wall.holes),
      ({ roomId }) => roomId,
      { rule: 'bore.edge' },
    ),
    line(
      'sealed',
      'hand',
      drilled.filter(({ toSeal }) => toSeal > 0),
      (wall) => !isTicked(wall.sealed, wall.toSeal),
      ({ roomId }) => roomId,
      { section: 'fireStop' },
    ),
    line(
      'boxes',
      'hand',
      boxes,
      ({ isDone }) => !isDone,
      ({ id }) => id,
    ),
    line(
      'ring-out',
      'hand',
      ringing,
      ({ isDone }) => !isDone,
      ({ id }) => id,
    ),
    line(
      'photos',
      'hand',
      walls,
      (wall) => !isPhotographed(wall),
      ({ roomId }) => roomId,
    ),
    line(
      'extras-to-do',
      'hand',
      extras.filter(({ stands }) => stands !== 'asked'),
      () => true,
      ({ extra }) => extra.id,
    ),
    line(
      'asks',
      'trade',
      reader.all('asks').filter(({ kind }) => kind === 'blocking'),
      ({ doneAt }) => doneAt === undefined,
      ({ id }) => id,
    ),
    line(
      'look-again',
      'inspector',
      writeUps.filter(({ stands }) => stands === 'to-pass'),
      () => true,
      ({ writeUp }) => writeUp.id,
    ),
    line('stops-allowed', 'inspector', stops.filter(isAllowed), () => true, placeOf),
  ];
}
