import type { HouseReader } from '../derive/reader.js';
import { boxesInRoom, circuitsAt, runsAt, standingPull } from '../facts/box-facts.js';
import type { Extra, WriteUp } from '../house/paper.js';
import { isMadeUp } from '../makeup/made-up.js';
import { ringState } from '../proving/tested.js';
import { wireCircuit } from '../wiring/conductors/wire-circuit.js';
import { photoWalls } from '../closing/wall-photos.js';

/** How what an inspector wrote up stands: to be fixed, fixed and to be looked at again, passed. */
export interface WriteUpStanding {
  readonly writeUp: WriteUp;
  readonly stands: 'to-fix' | 'to-pass' | 'passed';
  /** It named a box or a run that is gone: nobody can go there, and a lead says what became of it. */
  readonly isGone: boolean;
}

/** How a write-up stands. */
export function writeUpStanding(writeUp: WriteUp): WriteUpStanding {
  const { boxId, runId, roomId, circuitId, place, fixedAt, passedOn } = writeUp;
  return {
    writeUp,
    stands: passedOn ? 'passed' : fixedAt ? 'to-pass' : 'to-fix',
    // Where it was stays in words; what it named is let go with the box.
    isGone: place !== undefined && !boxId && !runId && !roomId && !circuitId,
  };
}

export const openWriteUps = (reader: HouseReader): readonly WriteUpStanding[] =>
  reader
    .all('writeUps')
    .map(writeUpStanding)
    .filter(({ stands }) => stands !== 'passed');

/** How an extra stands: asked for and neither agreed nor refused, agreed and to be done, done, refused. */
export interface ExtraStanding {
  readonly extra: Extra;
  readonly stands: 'asked' | 'agreed' | 'done' | 'refused';
}

/** How an extra stands. A yes is by initials, or by a photo of it. */
export function extraStanding(reader: HouseReader, extra: Extra): ExtraStanding {
  const isYes = extra.yesAt !== undefined || reader.mentioning('photos', extra.id).length > 0;
  return {
    extra,
    stands: extra.noAt ? 'refused' : !isYes ? 'asked' : extra.doneAt ? 'done' : 'agreed',
  };
}

export const openExtras = (reader: HouseReader): readonly ExtraStanding[] =>
  reader
    .all('extras')
    .map((extra) => extraStanding(reader, extra))
    .filter(({ stands }) => stands === 'asked' || stands === 'agreed');

/** What an extra opens again, as far as it is done: boxes that are made up, circuits that were tested, walls that were photographed. */
export interface Reopened {
  readonly boxIds: readonly string[];
  readonly circuitIds: readonly string[];
  readonly walls: readonly { readonly roomId: string; readonly number?: number }[];
  /** Boxes there in which cable is already in, to be counted anew. */
  readonly pulledInto: readonly string[];
}

/** What work at a box, or anywhere in a room, opens again. Of a room all of it is said: where in it nobody knows yet. */
export function reopenedBy(
  reader: HouseReader,
  { boxId, roomId }: { readonly boxId?: string | undefined; readonly roomId?: string | undefined },
): Reopened {
  const at = boxId && reader.get('boxes', boxId);
  const boxes = at ? [at] : roomId ? boxesInRoom(reader, roomId) : [];
  const made = boxes.filter(({ id }) => isMadeUp(reader, id) === true);
  const circuits = new Set(
    boxes.flatMap(({ id }) =>
      circuitsAt(reader, id).map((one) => wireCircuit(reader, one).circuitIds[0] ?? one),
    ),
  );
  const room = at ? at.roomId : roomId;
  const walls = room ? photoWalls(reader, room) : [];
  return {
    boxIds: made.map(({ id }) => id),
    circuitIds: [...circuits].filter((id) => ringState(reader, id, false).good > 0),
    walls: walls
      .filter(({ open, boxIds }) => open.length > 0 && (!at || boxIds.includes(at.id)))
      .map(({ roomId: own, number }) => ({ roomId: own, ...(number !== undefined && { number }) })),
    pulledInto: boxes
      .filter(({ id }) => runsAt(reader, id).some((run) => standingPull(reader, run.id)?.state === 'in'))
      .map(({ id }) => id),
  };
}
