import type { Outline, Place } from './outline.js';
import { distance } from './outline.js';

/** A room to be laid down: how large it is along its center lines, in inches. */
export interface Sized {
  readonly id: string;
  readonly lengthIn: number;
  readonly widthIn: number;
}

/**
 * Rooms side by side in rows, in their order: a plan to begin with, from sizes alone. Neighbors in a row share a wall. `fromY` is
 * where the first row stands, in inches.
 */
export function inRows(rooms: readonly Sized[], fromY = 0): ReadonlyMap<string, Outline> {
  const area = rooms.reduce((sum, { lengthIn, widthIn }) => sum + lengthIn * widthIn, 0);
  const widest = Math.max(0, ...rooms.map(({ lengthIn }) => lengthIn));
  const most = Math.max(widest, Math.sqrt(area) * 1.35);
  const outlines = new Map<string, Outline>();
  let [x, y, deepest] = [0, fromY, 0];
  for (const { id, lengthIn, widthIn } of rooms) {
    if (x > 0 && x + lengthIn > most) [x, y, deepest] = [0, y - deepest, 0];
    outlines.set(id, [
      { id: 'c0', xIn: x, yIn: y - widthIn },
      { id: 'c1', xIn: x + lengthIn, yIn: y - widthIn },
      { id: 'c2', xIn: x + lengthIn, yIn: y },
      { id: 'c3', xIn: x, yIn: y },
    ]);
    x += lengthIn;
    deepest = Math.max(deepest, widthIn);
  }
  return outlines;
}

export const movedBy = (outline: Outline, dx: number, dy: number): Outline =>
  outline.map((corner) => ({ ...corner, xIn: corner.xIn + dx, yIn: corner.yIn + dy }));

/** The nearest of some numbers that lies within reach, as what is missing to it; 0 where none does. */
function missing(own: readonly number[], others: readonly number[], reach: number): number {
  let best = 0;
  let least = reach;
  for (const from of own)
    for (const to of others)
      if (Math.abs(to - from) < least) {
        least = Math.abs(to - from);
        best = to - from;
      }
  return best;
}

/** An outline that is moved, drawn to the walls of others in the same line where these are within reach. */
export function snapped(outline: Outline, others: readonly Outline[], reachIn: number): Outline {
  const all = others.flat();
  const by = (field: 'xIn' | 'yIn'): number =>
    missing(
      outline.map((corner) => corner[field]),
      all.map((corner) => corner[field]),
      reachIn,
    );
  return movedBy(outline, by('xIn'), by('yIn'));
}

/** Where along a wall a place is, and how far from it. Inches. */
export function onWall(
  [a, b]: readonly [Place, Place],
  place: Place,
): { readonly alongIn: number; readonly besideIn: number } {
  const length = distance(a, b);
  const [dx, dy] = [(b.xIn - a.xIn) / length, (b.yIn - a.yIn) / length];
  const along = (place.xIn - a.xIn) * dx + (place.yIn - a.yIn) * dy;
  const alongIn = Math.min(length, Math.max(0, along));
  return { alongIn, besideIn: distance(place, { xIn: a.xIn + dx * alongIn, yIn: a.yIn + dy * alongIn }) };
}

/** The wall of an outline that a place is nearest to, and where along it. */
export function nearestWall(
  outline: Outline,
  place: Place,
): { readonly corner: string; readonly alongIn: number; readonly besideIn: number } | undefined {
  let best: { corner: string; alongIn: number; besideIn: number } | undefined;
  outline.forEach((a, at) => {
    const found = onWall([a, outline[(at + 1) % outline.length]!], place);
    if (!best || found.besideIn < best.besideIn) best = { corner: a.id, ...found };
  });
  return best;
}
