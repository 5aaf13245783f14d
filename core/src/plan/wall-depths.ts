import type { Derivation, HouseReader } from '../derive/reader.js';
import { inRows, movedBy } from './arrange.js';
import { isOnWall } from './bands.js';
import type { FaceIn, Outline, Place } from './outline.js';
import { clearOf, inset, outlineProblem } from './outline.js';
import { outlineOf } from './storey-plan.js';
import type { PlanRoom, StoreyWalls, Wall, WallFace } from './walls.js';
import { wallsOf } from './walls.js';

/** What a wall is: with the outside on one side, with pipes in it, or between rooms. */
export type WallKind = 'exterior' | 'plumbing' | 'interior';

/** What water comes to. */
const WET: ReadonlySet<string> = new Set(['basin', 'vanity', 'tub', 'shower']);

const isWet = (reader: HouseReader, face: WallFace | undefined): boolean =>
  face !== undefined &&
  reader
    .mentioning('bands', face.roomId)
    .filter(isOnWall)
    .some(
      ({ kind, corner, alongIn, widthIn }) =>
        WET.has(kind) && corner === face.corner && alongIn < face.toIn && alongIn + widthIn > face.fromIn,
    );

/** Common practice: outside on one side, water on either, or neither. */
export function wallKind(reader: HouseReader, { left, right }: Wall): WallKind {
  if (!left || !right) return 'exterior';
  return isWet(reader, left) || isWet(reader, right) ? 'plumbing' : 'interior';
}

export const depthOfKind = (reader: HouseReader, kind: WallKind): number =>
  reader.rules().number(`wall.${kind}`);

/** Rooms of a story whose outline encloses a room. */
function drawnRooms(reader: HouseReader, storeyId: string): PlanRoom[] {
  return reader.mentioning('rooms', storeyId).flatMap((room) => {
    const outline = outlineOf(room);
    return outline && !outlineProblem(outline) ? [{ id: room.id, outline }] : [];
  });
}

/** Depths by room and corner, in inches: a wall of a room is one plane, as deep as most of its length asks. */
type Depths = ReadonlyMap<string, Readonly<Record<string, number>>>;

function depthsOf(reader: HouseReader, { walls }: Pick<StoreyWalls, 'walls'>): Depths {
  const lengths = new Map<string, Map<string, Map<number, number>>>();
  for (const wall of walls) {
    const depthIn = depthOfKind(reader, wallKind(reader, wall));
    for (const face of [wall.left, wall.right]) {
      if (!face) continue;
      const byCorner = lengths.get(face.roomId) ?? new Map<string, Map<number, number>>();
      const byDepth = byCorner.get(face.corner) ?? new Map<number, number>();
      byDepth.set(depthIn, (byDepth.get(depthIn) ?? 0) + wall.lengthIn);
      lengths.set(face.roomId, byCorner.set(face.corner, byDepth));
    }
  }
  const most = (byDepth: ReadonlyMap<number, number>): number =>
    [...byDepth].reduce((best, one) =>
      one[1] > best[1] + 1e-6 || (Math.abs(one[1] - best[1]) <= 1e-6 && one[0] > best[0]) ? one : best,
    )[0];
  return new Map(
    [...lengths].map(([roomId, byCorner]) => [
      roomId,
      Object.fromEntries([...byCorner].map(([corner, byDepth]) => [corner, most(byDepth)])),
    ]),
  );
}

/** By story id. */
const STOREY_DEPTHS: Derivation<Depths> = {
  name: 'wall depths of a story',
  compute: (reader, storeyId) => depthsOf(reader, wallsOf(drawnRooms(reader, storeyId))),
};
/** By room id: what is built on it stays when another room of the story changes. */
const ROOM_DEPTHS: Derivation<Readonly<Record<string, number>>> = {
  name: 'wall depths of a room',
  compute: (reader, roomId) => {
    const room = reader.get('rooms', roomId);
    return (room?.outline && reader.derive(STOREY_DEPTHS, room.storeyId).get(roomId)) ?? {};
  },
  cutsOff: true,
};

/** Depth of the wall of a room that begins at a corner, in inches; a wall that is not drawn is an inner one. */
export function wallDepths(reader: HouseReader, roomId: string): FaceIn {
  const depths = reader.derive(ROOM_DEPTHS, roomId);
  const interior = depthOfKind(reader, 'interior');
  return (corner) => depths[corner] ?? interior;
}

/** How far the faces of a room's walls stand from the lines that are drawn. */
export function facesOf(reader: HouseReader, roomId: string): FaceIn {
  const depth = wallDepths(reader, roomId);
  return (corner) => depth(corner) / 2;
}

/** Which end of a room stays where it is while the depths of its walls are found: -1 the left or lower one, 1 the other. */
export interface Anchor {
  readonly x: -1 | 1;
  readonly y: -1 | 1;
}

const end = (ring: readonly Place[], field: 'xIn' | 'yIn', which: -1 | 1): number =>
  which < 0 ? Math.min(...ring.map((one) => one[field])) : Math.max(...ring.map((one) => one[field]));

/** Depths and what lies where depend on each other: after so many looks it stays as it is. */
const LOOKS = 4;

/**
 * The center lines of a room that is `clear` between its walls, among the other rooms of its story: each wall as deep as it is
 * framed there. The ends that `anchor` names stand at `at`. Inches.
 */
export function outlineAround(
  reader: HouseReader,
  room: { readonly id: string; readonly storeyId: string },
  clear: Outline,
  at: Place,
  anchor: Anchor = { x: -1, y: -1 },
): Outline {
  const others = drawnRooms(reader, room.storeyId).filter(({ id }) => id !== room.id);
  const interior = depthOfKind(reader, 'interior');
  const around = (depths: Readonly<Record<string, number>>): Outline => {
    const lines = inset(clear, (index) => -(depths[clear[index]!.id] ?? interior) / 2) ?? clear;
    return movedBy(lines, at.xIn - end(lines, 'xIn', anchor.x), at.yIn - end(lines, 'yIn', anchor.y));
  };
  let outline = around({});
  for (let look = 0; look < LOOKS; look++) {
    const depths = depthsOf(reader, wallsOf([...others, { id: room.id, outline }])).get(room.id) ?? {};
    const next = around(depths);
    const isSame = next.every(({ xIn, yIn }, index) => {
      const old = outline[index]!;
      return Math.abs(xIn - old.xIn) < 1e-6 && Math.abs(yIn - old.yIn) < 1e-6;
    });
    if (isSame) break;
    outline = next;
  }
  return outline;
}

/**
 * A room put down elsewhere: as large between its walls as before, whatever these are there. The side that came to stand in line
 * with another room's stays so.
 */
export function putDown(
  reader: HouseReader,
  room: { readonly id: string; readonly storeyId: string },
  outline: Outline,
): Outline {
  const clear = clearOf(outline, facesOf(reader, room.id));
  if (!clear) return outline;
  const others = drawnRooms(reader, room.storeyId).filter(({ id }) => id !== room.id);
  const anchorOf = (field: 'xIn' | 'yIn'): -1 | 1 => {
    const meets = (which: -1 | 1): boolean =>
      others.some((other) =>
        other.outline.some((corner) => Math.abs(corner[field] - end(outline, field, which)) < 0.01),
      );
    return meets(1) && !meets(-1) ? 1 : -1;
  };
  const anchor = { x: anchorOf('xIn'), y: anchorOf('yIn') };
  const at = { xIn: end(outline, 'xIn', anchor.x), yIn: end(outline, 'yIn', anchor.y) };
  return outlineAround(reader, room, clear, at, anchor);
}

/**
 * Rooms side by side in rows, each as large as it is said to be clear between its walls: to an inch where it hangs on the depth
 * of a wall whether that meets another. `fromY` is where the first row stands; inches. Wet walls are known by what stands in the
 * house.
 */
export function clearInRows(
  reader: HouseReader,
  rooms: readonly { readonly id: string; readonly lengthIn: number; readonly widthIn: number }[],
  fromY = 0,
): ReadonlyMap<string, Outline> {
  const interior = depthOfKind(reader, 'interior');
  let depths: Depths = new Map();
  const laid = (): ReadonlyMap<string, Outline> =>
    inRows(
      rooms.map(({ id, lengthIn, widthIn }) => {
        const own = depths.get(id) ?? {};
        const [bottom, right, top, left] = ['c0', 'c1', 'c2', 'c3'].map((corner) => own[corner] ?? interior);
        return { id, lengthIn: lengthIn + (left! + right!) / 2, widthIn: widthIn + (bottom! + top!) / 2 };
      }),
      fromY,
    );
  let outlines = laid();
  for (let look = 0; look < LOOKS; look++) {
    depths = depthsOf(reader, wallsOf([...outlines].map(([id, outline]) => ({ id, outline }))));
    outlines = laid();
  }
  return outlines;
}
