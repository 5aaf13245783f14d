import type { HouseReader } from '../derive/reader.js';
import type { Opening, Room } from '../house/model.js';
import { onWall } from './arrange.js';
import type { Outline, Place } from './outline.js';
import { distance } from './outline.js';
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

/**
 * The wall that both sides of an opening lie in line with, and what of it they cut: one that was drawn in the room beside may
 * reach past a corner of this one. Undefined where it cuts none.
 */
function wallOfBoth(
  outline: Outline,
  one: Place,
  other: Place,
): { readonly corner: string; readonly alongIn: number; readonly otherIn: number } | undefined {
  const walls = outline.flatMap((a, at) => {
    const b = outline[(at + 1) % outline.length]!;
    const length = distance(a, b);
    const [dx, dy] = [(b.xIn - a.xIn) / length, (b.yIn - a.yIn) / length];
    const beside = ({ xIn, yIn }: Place): number => Math.abs((xIn - a.xIn) * dy - (yIn - a.yIn) * dx);
    if (Math.max(beside(one), beside(other)) > IN_WALL_IN) return [];
    const [alongIn, otherIn] = [onWall([a, b], one).alongIn, onWall([a, b], other).alongIn];
    const cutIn = Math.abs(alongIn - otherIn);
    return cutIn > 1e-6 ? [{ corner: a.id, alongIn, otherIn, cutIn }] : [];
  });
  // At a corner the end of one wall lies in the other: the wall that is cut most is meant.
  return walls.toSorted((a, b) => b.cutIn - a.cutIn)[0];
}

/** What opens in the walls of a room: its own first, then what a room beside it has in the same wall. */
export function openingsSeen(reader: HouseReader, room: Room, outline: Outline): OpeningSeen[] {
  const plan = storeyPlan(reader, room.storeyId);
  const own = (roomId: string): number => (roomId === room.id ? 0 : 1);
  return plan.openings
    .toSorted((a, b) => own(a.roomId) - own(b.roomId))
    .flatMap((placed): OpeningSeen[] => {
      const { kind = 'door', sillIn, headIn, hinge } = reader.get('openings', placed.openingId)!;
      const [a, b] = placed.cuts;
      const [latch, hung] = hinge === 'b' ? [a, b] : [b, a];
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
