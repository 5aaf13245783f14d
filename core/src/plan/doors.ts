import type { HouseReader } from '../derive/reader.js';
import type { Opening, Room } from '../house/model.js';
import { onWall } from './arrange.js';
import type { Outline, Place } from './outline.js';
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

/** The wall in which both sides of an opening lie, and where along it: at a corner each side alone lies in two. */
function wallOfBoth(
  outline: Outline,
  one: Place,
  other: Place,
): { readonly corner: string; readonly alongIn: number; readonly otherIn: number } | undefined {
  const walls = outline.flatMap(({ id }, at) => {
    const wall = [outline[at]!, outline[(at + 1) % outline.length]!] as const;
    const [a, b] = [onWall(wall, one), onWall(wall, other)];
    const besideIn = Math.max(a.besideIn, b.besideIn);
    return besideIn <= IN_WALL_IN && Math.abs(a.alongIn - b.alongIn) > 1e-6
      ? [{ corner: id, alongIn: a.alongIn, otherIn: b.alongIn, besideIn }]
      : [];
  });
  return walls.toSorted((a, b) => a.besideIn - b.besideIn)[0];
}

/** What opens in the walls of a room: its own first, then what a room beside it has in the same wall. */
export function openingsSeen(reader: HouseReader, room: Room, outline: Outline): OpeningSeen[] {
  const plan = storeyPlan(reader, room.storeyId);
  const own = (roomId: string): number => (roomId === room.id ? 0 : 1);
  return plan.openings
    .toSorted((a, b) => own(a.roomId) - own(b.roomId))
    .flatMap((placed): OpeningSeen[] => {
      const { kind = 'door', sillIn, headIn, hinge } = reader.get('openings', placed.openingId)!;
      const [latch, hung] = hinge === 'b' ? [placed.a, placed.b] : [placed.b, placed.a];
      const wall = wallOfBoth(outline, latch, hung);
      if (!wall) return [];
      const { corner, alongIn: latchIn, otherIn: hingeIn } = wall;
      return [
        {
          kind,
          sillIn,
          headIn,
          isOwn: placed.roomId === room.id,
          hasHinge: hinge !== undefined,
          corner,
          alongIn: Math.min(latchIn, hingeIn),
          widthIn: Math.abs(latchIn - hingeIn),
          latchIn,
          hingeIn,
        },
      ];
    });
}

/** Doorways and wide openings: by these one walks in, and they cut the wall. */
export const doorsOf = (reader: HouseReader, room: Room, outline: Outline): Door[] =>
  openingsSeen(reader, room, outline).filter(({ kind }) => kind !== 'window');
