import type { Derivation, HouseReader } from '../derive/reader.js';
import { boxesInRoom, boxesOf } from '../facts/box-facts.js';
import type { Box, Room, WorkRecord } from '../house/model.js';
import type { Photo } from '../house/photo.js';
import { roomLayout } from '../plan/room-layout.js';
import { wallNumber } from '../plan/wall-number.js';

/** What a hand ticks of a wall that needs no photo: nothing runs in it. */
export const NOTHING_THERE_STEP = 'nothing-to-photograph';

/** Walls that a room is taken to have as long as it is not drawn: common practice, rooms have four. */
const WALLS_UNDRAWN = 4;

/** A wall of a room, or its ceiling, as it is photographed before it is closed. */
export interface PhotoWall {
  readonly roomId: string;
  /** The corner at which it begins; of a ceiling none. */
  readonly corner?: string;
  /** Number on the way round the room, from 1. */
  readonly number?: number;
  /** As the room sees it, in inches, and where that begins along its center line; of a room that is not drawn unknown. */
  readonly lengthIn?: number;
  readonly startIn?: number;
  /** Boxes known to be on it. */
  readonly boxIds: readonly string[];
  /** Photos of it, the latest first: as it stood open, and after the board. */
  readonly open: readonly Photo[];
  readonly boarded: readonly Photo[];
  /** Somebody said that there is nothing in it to be photographed. */
  readonly nothing?: WorkRecord;
  /** Cables that came into its boxes after the latest photo of it was taken. */
  readonly cameAfter: readonly string[];
}

/** Whether nobody has to photograph it (again). */
export const isPhotographed = ({ open, nothing, cameAfter }: PhotoWall): boolean =>
  (open.length > 0 && cameAfter.length === 0) || (open.length === 0 && nothing !== undefined);

const byTime = (a: { readonly at: string }, b: { readonly at: string }): number =>
  Date.parse(b.at) - Date.parse(a.at);

/** Corners of the walls of a room, drawn or not; of one that is not drawn also those that somebody has photographed. */
function cornersOf(room: Room, photos: readonly Photo[]): string[] {
  const usual = Array.from({ length: WALLS_UNDRAWN }, (_, at) => `c${at}`);
  const further = photos.flatMap(({ corner }) =>
    corner !== undefined && wallNumber(room, corner) !== undefined ? [corner] : [],
  );
  return [...new Set([...usual, ...further])].sort((a, b) => wallNumber(room, a)! - wallNumber(room, b)!);
}

/** By room id. */
const PHOTO_WALLS: Derivation<readonly PhotoWall[]> = {
  name: 'walls to photograph',
  compute: (reader, roomId) => {
    const room = reader.get('rooms', roomId);
    if (!room) return [];
    const photos = reader.mentioning('photos', roomId);
    const ticks = reader.mentioning('records', roomId).filter(({ step }) => step === NOTHING_THERE_STEP);
    const boxes = boxesInRoom(reader, roomId);
    const walls = roomLayout(reader, roomId)?.walls ?? [];
    const of = (own: Pick<PhotoWall, 'corner' | 'lengthIn' | 'startIn'>, on: readonly Box[]): PhotoWall => {
      const taken = photos
        .filter(({ corner, ceiling }) =>
          own.corner === undefined ? ceiling === true : !ceiling && corner === own.corner,
        )
        .toSorted(byTime);
      const open = taken.filter(({ boarded }) => !boarded);
      const nothing = ticks.findLast(({ corner }) => corner === own.corner);
      const number = own.corner === undefined ? undefined : wallNumber(room, own.corner);
      return {
        roomId,
        ...own,
        ...(number !== undefined && { number }),
        boxIds: on.map(({ id }) => id),
        open,
        boarded: taken.filter(({ boarded }) => boarded),
        ...(nothing && { nothing }),
        cameAfter: open[0] ? cameAfter(reader, on, Date.parse(open[0].at)) : [],
      };
    };
    const standing = walls.length
      ? walls.map(({ corner, lengthIn, startIn }) =>
          of(
            { corner, lengthIn, startIn },
            boxes.filter((box) => box.corner === corner),
          ),
        )
      : cornersOf(room, photos).map((corner) =>
          of(
            { corner },
            boxes.filter((box) => box.corner === corner),
          ),
        );
    // What was photographed of a wall that is drawn otherwise now, or no longer.
    const there = new Set(standing.map(({ corner }) => corner));
    const gone = new Set(photos.flatMap(({ corner }) => (corner && !there.has(corner) ? [corner] : [])));
    return [
      ...standing,
      ...[...gone].map((corner) => of({ corner }, [])),
      of(
        {},
        boxes.filter(({ corner, xIn }) => corner === undefined && xIn !== undefined),
      ),
    ];
  },
};

/** Runs that were pulled into one of these boxes after a moment, in ms. */
function cameAfter(reader: HouseReader, boxes: readonly Box[], moment: number): string[] {
  const on = new Set(boxes.map(({ id }) => id));
  const runs = new Set(boxes.flatMap(({ id }) => reader.mentioning('runs', id)));
  return [...runs].flatMap((run) =>
    boxesOf(run).some((boxId) => on.has(boxId)) &&
    reader
      .mentioning('pulls', run.id)
      .some(({ at, state }) => state !== 'scrapped' && Date.parse(at) > moment)
      ? [run.id]
      : [],
  );
}

/** The walls of a room, drawn or not, then its ceiling, with the photos of each and what is not yet photographed. */
export const photoWalls = (reader: HouseReader, roomId: string): readonly PhotoWall[] =>
  reader.derive(PHOTO_WALLS, roomId);

/** Photos on which a box is to be found: of itself, those in which it is marked, then those of its wall; open walls first. */
export function photosOfBox(reader: HouseReader, boxId: string): Photo[] {
  const box = reader.get('boxes', boxId);
  const own = reader.mentioning('photos', boxId);
  const wall = box?.roomId
    ? photoWalls(reader, box.roomId).find(({ boxIds }) => boxIds.includes(boxId))
    : undefined;
  const isMarked = ({ marks }: Photo): boolean => marks?.some((mark) => mark.boxId === boxId) ?? false;
  const rank = (photo: Photo): number =>
    (photo.boarded ? 3 : 0) + (isMarked(photo) ? 0 : photo.boxId === boxId ? 1 : 2);
  return [...new Set([...own, ...(wall?.open ?? [])])].sort((a, b) => rank(a) - rank(b) || byTime(a, b));
}
