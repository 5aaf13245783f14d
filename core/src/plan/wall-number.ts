import type { Room } from '../house/model.js';
import { counterClockwise } from './outline.js';

/** The number of the wall that begins at a corner, going counter-clockwise from 1; undefined where it is gone. */
export function wallNumber(room: Pick<Room, 'outline'> | undefined, corner: string): number | undefined {
  const outline = room?.outline && counterClockwise(room.outline);
  // Of a room that is not drawn, corners have the numbers that they will have.
  if (!outline) return Number(/^c(\d+)$/.exec(corner)?.[1] ?? NaN) + 1 || undefined;
  const at = outline.findIndex(({ id }) => id === corner);
  return at < 0 ? undefined : at + 1;
}
