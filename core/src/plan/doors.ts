import type { HouseReader } from '../derive/reader.js';
import type { Room } from '../house/model.js';
import { nearestWall } from './arrange.js';
import type { Outline } from './outline.js';
import { storeyPlan } from './storey-plan.js';
import type { Gap } from './wall-runs.js';

/** A doorway lies in a wall of this room when both of its sides are so near to it. */
const IN_WALL_IN = 3;

/** A doorway as this room sees it. */
export interface Door extends Gap {
  /** Where the latch is, and where the hinge, along the wall. */
  readonly latchIn: number;
  readonly hingeIn: number;
}

/** Doorways in the walls of a room, its own first, then those that a room beside it has in the same wall. */
export function doorsOf(reader: HouseReader, room: Room, outline: Outline): Door[] {
  const plan = storeyPlan(reader, room.storeyId);
  const own = (roomId: string): number => (roomId === room.id ? 0 : 1);
  return plan.openings
    .toSorted((a, b) => own(a.roomId) - own(b.roomId))
    .flatMap((placed): Door[] => {
      const opening = reader.get('openings', placed.openingId)!;
      if (opening.kind === 'window') return [];
      const [latch, hinge] = opening.hinge === 'b' ? [placed.a, placed.b] : [placed.b, placed.a];
      const [atLatch, atHinge] = [nearestWall(outline, latch), nearestWall(outline, hinge)];
      if (!atLatch || !atHinge || atLatch.corner !== atHinge.corner) return [];
      if (Math.max(atLatch.besideIn, atHinge.besideIn) > IN_WALL_IN) return [];
      return [
        {
          corner: atLatch.corner,
          alongIn: Math.min(atLatch.alongIn, atHinge.alongIn),
          widthIn: Math.abs(atLatch.alongIn - atHinge.alongIn),
          latchIn: atLatch.alongIn,
          hingeIn: atHinge.alongIn,
        },
      ];
    });
}
