import type { RoomLayout } from './room-layout.js';

/** A box stands beside a door where it is no farther from it than this, in inches: common practice. */
const BESIDE_IN = 30;

/**
 * Whether the last gang of a switch box, seen from the room, is the one that is reached first: the box stands to the left of the
 * door one walks in by, so that its right-hand gang is beside the door. False while no door is known beside it.
 *
 * Outlines run counter-clockwise with the room to the left of each wall: along a wall is to the left of whoever faces it.
 */
export function firstReachedIsLast(
  { openings }: Pick<RoomLayout, 'openings'>,
  corner: string | undefined,
  alongIn: number | undefined,
): boolean {
  if (corner === undefined || alongIn === undefined) return false;
  const doors = openings
    .filter((opening) => opening.kind !== 'window' && opening.corner === corner)
    .map((door) => ({
      isBefore: door.alongIn + door.widthIn / 2 < alongIn,
      away: Math.max(door.alongIn - alongIn, alongIn - door.alongIn - door.widthIn),
    }))
    .filter(({ away }) => away <= BESIDE_IN)
    .toSorted((a, b) => a.away - b.away);
  return doors[0]?.isBefore ?? false;
}
