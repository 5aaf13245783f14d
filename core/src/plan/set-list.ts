import type { Derivation, HouseReader } from '../derive/reader.js';
import { boxFacts, boxesInRoom } from '../facts/box-facts.js';
import type { Box, Room } from '../house/model.js';
import { outlineProblem } from './outline.js';
import { outlineOf } from './storey-plan.js';
import { facesOf } from './wall-depths.js';
import { wallsOfRoom } from './wall-runs.js';

/** What a hand ticks when a box is nailed up. */
export const SET_STEP = 'set';

/** A box to be set. */
export interface SetBox {
  readonly boxId: string;
  readonly gangs: number;
  /** From the corner of the room to the middle of the box, along the face of its wall; inches. */
  readonly fromCornerIn?: number;
  /** Its height over the subfloor, where what comes on that is known: what a tape reads before the floor is laid. Inches. */
  readonly overSubfloorIn?: number;
  /** How far its face stands out from the stud, to be flush with board and tile (NEC 314.20, from memory). Inches. */
  readonly proudIn?: number;
  readonly isSet: boolean;
}

/** A wall of a room, standing, or what has no wall: the ceiling, and what has no place yet. */
export interface SetWall {
  readonly on: 'wall' | 'ceiling' | 'nowhere';
  readonly corner?: string;
  /** Number on the way round the room, from 1. */
  readonly number?: number;
  readonly lengthIn?: number;
  /** Where its face begins, along the center line from its corner. */
  readonly startIn?: number;
  readonly boxes: readonly SetBox[];
}

export interface SetList {
  readonly walls: readonly SetWall[];
  readonly set: number;
  readonly of: number;
}

const isSet = (reader: HouseReader, boxId: string): boolean =>
  reader.mentioning('records', boxId).some(({ kind, step }) => kind === 'tick' && step === SET_STEP);

/**
 * How much board and tile come over the studs of a wall of a room, in inches; of a wall of which nothing is said, what is said of all,
 * and undefined where that is nothing.
 */
export function finishOver(
  { finishes }: Pick<Room, 'finishes'>,
  corner: string | undefined,
): number | undefined {
  if (corner === undefined) return undefined;
  const finish =
    finishes?.find((own) => own.corner === corner) ?? finishes?.find((own) => own.corner === undefined);
  return finish && finish.boardIn + (finish.tileIn ?? 0);
}

/** What the finish of its wall asks of a box. */
function proudOf(room: Room, corner: string | undefined): Pick<SetBox, 'proudIn'> {
  const proudIn = finishOver(room, corner);
  return proudIn === undefined ? {} : { proudIn };
}

/** Boxes of a room wall by wall, along each from its corner; a panel hangs with the others. By room id. */
const SET_LIST: Derivation<SetList> = {
  name: 'set list',
  compute: (reader, roomId) => {
    const room = reader.get('rooms', roomId)!;
    const outline = outlineOf(room);
    const walls = outline && !outlineProblem(outline) ? wallsOfRoom(outline, facesOf(reader, roomId)) : [];
    const boxes = boxesInRoom(reader, roomId);
    const entry = (box: Box, fromCornerIn?: number): SetBox => ({
      boxId: box.id,
      gangs: boxFacts(reader, box).gangs,
      isSet: isSet(reader, box.id),
      ...(room.floorBuildIn &&
        box.heightIn !== undefined && { overSubfloorIn: box.heightIn + room.floorBuildIn }),
      ...proudOf(room, box.corner),
      ...(fromCornerIn !== undefined && { fromCornerIn: Math.round(fromCornerIn * 4) / 4 }),
    });
    const placed = new Set<string>();
    const standing = walls.map(({ corner, startIn, lengthIn }, at): SetWall => {
      const own = boxes
        .filter((box) => box.corner === corner && box.alongIn !== undefined)
        .toSorted((a, b) => a.alongIn! - b.alongIn!);
      own.forEach(({ id }) => placed.add(id));
      return {
        on: 'wall',
        corner,
        number: at + 1,
        lengthIn,
        startIn,
        boxes: own.map((box) => entry(box, box.alongIn! - startIn)),
      };
    });
    const left = boxes.filter(({ id }) => !placed.has(id));
    const overhead = left.filter((box) => ['ceiling', 'light-box'].includes(boxFacts(reader, box).kind));
    const nowhere = left.filter((box) => !overhead.includes(box));
    const all: SetWall[] = [
      ...standing,
      { on: 'nowhere', boxes: nowhere.map((box) => entry(box)) },
      { on: 'ceiling', boxes: overhead.map((box) => entry(box)) },
    ];
    const list = all.filter((wall) => wall.boxes.length > 0);
    const each = list.flatMap((wall) => wall.boxes);
    return { walls: list, set: each.filter((box) => box.isSet).length, of: each.length };
  },
};

export const setList = (reader: HouseReader, roomId: string): SetList => reader.derive(SET_LIST, roomId);
