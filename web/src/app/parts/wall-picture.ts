import type { HouseReader } from '@mule-tally/core';
import type { DrillLook } from '@mule-tally/core/work';
import { framedWalls, roomLayout } from '@mule-tally/core/furnish';

/** A wall of a room, as far as it is framed. */
export interface WallOfPicture {
  readonly corner: string;
  readonly lengthIn: number;
  /** Where its face begins, along the center line from its corner. */
  readonly startIn: number;
}

/** The ways of cables that run along a wall, as they are drawn on its picture. */
export const waysOnWall = (
  ways: DrillLook['ways'] | undefined,
  corner: string,
  { x, high }: { x(alongIn: number): number; readonly high: number },
) =>
  (ways ?? [])
    .filter((way) => way.corner === corner)
    .map(({ from, to }) => ({
      x1: x(from.fromCornerIn),
      y1: high - from.heightIn,
      x2: x(to.fromCornerIn),
      y2: high - to.heightIn,
    }));

/**
 * A wall, standing: seen from the room, so that it runs from right to left. Studs, and openings of both rooms; inches, y from the
 * ceiling down.
 */
export function wallPicture(
  reader: HouseReader,
  roomId: string,
  { corner, lengthIn: long, startIn }: WallOfPicture,
) {
  const room = reader.get('rooms', roomId)!;
  const high = reader.get('storeys', room.storeyId)?.ceilingIn ?? reader.rules().number('layout.ceiling');
  // Going counter-clockwise round a room one has it to the left: its walls run to the left for whoever faces them.
  const x = (alongIn: number): number => long - alongIn;
  // Also what was drawn in the room behind it.
  const openings = (roomLayout(reader, room.id)?.openings ?? [])
    .filter((opening) => opening.corner === corner)
    .map(({ alongIn, widthIn, headIn, sillIn }, at) => ({
      id: at,
      x: x(alongIn - startIn + widthIn),
      width: widthIn,
      y: high - headIn,
      height: headIn - sillIn,
    }));
  // A room lies to the left of its own walls: of a wall to its right it sees the other end first.
  const studs = framedWalls(reader, room.storeyId).flatMap(({ wall: { left, right }, studsIn }) =>
    [left, right].flatMap((face, at) =>
      face?.roomId === room.id && face.corner === corner
        ? studsIn.map((stud) => x((at === 0 ? face.fromIn + stud : face.toIn - stud) - startIn))
        : [],
    ),
  );
  return { long, high, studs, openings, x, box: `-6 -6 ${long + 12} ${high + 12}` };
}
