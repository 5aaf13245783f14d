import type { HouseReader } from '../derive/reader.js';
import type { Opening, Room } from '../house/model.js';
import { nearestWall } from './arrange.js';
import type { Outline } from './outline.js';
import { storeyPlan } from './storey-plan.js';
import type { Gap } from './wall-runs.js';

/** A doorway or window lies in a wall of this room when both of its sides are so near to it. */
const IN_WALL_IN = 3;

/** A doorway, window or wide opening as a room sees it. */
export interface OpeningSeen extends Gap {
  readonly kind: NonNullable<Opening['kind']>;
  readonly sillIn: number;
  readonly headIn: number;
  /** It was drawn in this room, and not in the one beside it: a door is taken to open into the room it was drawn in. */
  readonly isOwn: boolean;
  readonly hasHinge: boolean;
  /** Where the latch is, and where the hinge, along the wall. */
  readonly latchIn: number;
  readonly hingeIn: number;
}
/** A doorway as this room sees it. */
export type Door = OpeningSeen;

/** What opens in the walls of a room: its own first, then what a room beside it has in the same wall. */
export function openingsSeen(reader: HouseReader, room: Room, outline: Outline): OpeningSeen[] {
  const plan = storeyPlan(reader, room.storeyId);
  const own = (roomId: string): number => (roomId === room.id ? 0 : 1);
  return plan.openings
    .toSorted((a, b) => own(a.roomId) - own(b.roomId))
    .flatMap((placed): OpeningSeen[] => {
      const { kind = 'door', sillIn, headIn, hinge } = reader.get('openings', placed.openingId)!;
      const [latch, hung] = hinge === 'b' ? [placed.a, placed.b] : [placed.b, placed.a];
      const [atLatch, atHinge] = [nearestWall(outline, latch), nearestWall(outline, hung)];
      if (!atLatch || !atHinge || atLatch.corner !== atHinge.corner) return [];
      if (Math.max(atLatch.besideIn, atHinge.besideIn) > IN_WALL_IN) return [];
      return [
        {
          kind,
          sillIn,
          headIn,
          isOwn: placed.roomId === room.id,
          hasHinge: hinge !== undefined,
          corner: atLatch.corner,
          alongIn: Math.min(atLatch.alongIn, atHinge.alongIn),
          widthIn: Math.abs(atLatch.alongIn - atHinge.alongIn),
          latchIn: atLatch.alongIn,
          hingeIn: atHinge.alongIn,
        },
      ];
    });
}

/** Doorways and wide openings: by these one walks in, and they cut the wall. */
export const doorsOf = (reader: HouseReader, room: Room, outline: Outline): Door[] =>
  openingsSeen(reader, room, outline).filter(({ kind }) => kind !== 'window');
