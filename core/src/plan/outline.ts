import { orient2d } from 'robust-predicates';

/** A place on the plan of a story, in inches: x to the right, y up. */
export interface Place {
  readonly xIn: number;
  readonly yIn: number;
}
/** A corner of an outline: boxes, openings and bands stand on the wall that begins at it, going counter-clockwise. */
export interface Corner extends Place {
  readonly id: string;
}
export type Outline = readonly Corner[];

/** Corners that are within this of each other are one: none of them moves farther. Inches. */
export const SNAP_IN = 0.5;

export const distance = (a: Place, b: Place): number => Math.hypot(a.xIn - b.xIn, a.yIn - b.yIn);

/** Area that a ring encloses, in square inches: above zero where it runs counter-clockwise. */
export function signedArea(ring: readonly Place[]): number {
  let twice = 0;
  ring.forEach((a, at) => {
    const b = ring[(at + 1) % ring.length]!;
    twice += a.xIn * b.yIn - b.xIn * a.yIn;
  });
  return twice / 2;
}

/** The same outline, counter-clockwise. */
export const counterClockwise = (outline: Outline): Outline =>
  signedArea(outline) < 0 ? [...outline].reverse() : outline;

/** Above zero where c lies to the left of the way from a to b; exact, whatever the numbers. */
const side = (a: Place, b: Place, c: Place): number =>
  // The package counts y downwards.
  -orient2d(a.xIn, a.yIn, b.xIn, b.yIn, c.xIn, c.yIn);

const isBetween = (a: Place, b: Place, c: Place): boolean =>
  Math.min(a.xIn, b.xIn) <= c.xIn &&
  c.xIn <= Math.max(a.xIn, b.xIn) &&
  Math.min(a.yIn, b.yIn) <= c.yIn &&
  c.yIn <= Math.max(a.yIn, b.yIn);

/** Whether two walls meet or cross anywhere. */
export function crosses(a: Place, b: Place, c: Place, d: Place): boolean {
  const [one, two, three, four] = [side(a, b, c), side(a, b, d), side(c, d, a), side(c, d, b)].map(Math.sign);
  if (one !== two && three !== four) return true;
  return (
    (one === 0 && isBetween(a, b, c)) ||
    (two === 0 && isBetween(a, b, d)) ||
    (three === 0 && isBetween(c, d, a)) ||
    (four === 0 && isBetween(c, d, b))
  );
}

export type OutlineProblem =
  'few-corners' | 'many-corners' | 'corner-twice' | 'no-area' | 'crossing' | 'too-far';

const MOST_CORNERS = 200;
/** No house is larger: 2,000 ft either way. Inches. */
const FARTHEST_IN = 24_000;

/** Why an outline encloses no room; undefined where it does. */
export function outlineProblem(outline: Outline): OutlineProblem | undefined {
  if (outline.length < 3) return 'few-corners';
  if (outline.length > MOST_CORNERS) return 'many-corners';
  if (outline.some(({ xIn, yIn }) => !(Math.abs(xIn) <= FARTHEST_IN && Math.abs(yIn) <= FARTHEST_IN)))
    return 'too-far';
  const next = (at: number): Corner => outline[(at + 1) % outline.length]!;
  if (
    new Set(outline.map(({ id }) => id)).size < outline.length ||
    outline.some((corner, at) => distance(corner, next(at)) <= SNAP_IN)
  )
    return 'corner-twice';
  for (let at = 0; at < outline.length; at++) {
    const [a, b] = [outline[at]!, next(at)];
    // A wall that runs back over the one before it.
    const after = next(at + 1);
    if (side(a, b, after) === 0 && (isBetween(a, b, after) || isBetween(b, after, a))) return 'crossing';
    for (let other = at + 2; other < outline.length; other++) {
      if (at === 0 && other === outline.length - 1) continue;
      if (crosses(a, b, outline[other]!, next(other))) return 'crossing';
    }
  }
  // Less than a square foot is no room.
  return Math.abs(signedArea(outline)) < 144 ? 'no-area' : undefined;
}

/** A place so far along the wall that begins at a corner; undefined where there is no such corner. */
export function placeAlong(
  outline: Outline,
  cornerId: string,
  alongIn: number,
): (Place & { readonly angle: number; readonly lengthIn: number }) | undefined {
  const at = outline.findIndex(({ id }) => id === cornerId);
  if (at < 0) return undefined;
  const [a, b] = [outline[at]!, outline[(at + 1) % outline.length]!];
  const lengthIn = distance(a, b);
  const [dx, dy] = [(b.xIn - a.xIn) / lengthIn, (b.yIn - a.yIn) / lengthIn];
  return { xIn: a.xIn + dx * alongIn, yIn: a.yIn + dy * alongIn, angle: Math.atan2(dy, dx), lengthIn };
}

/** Whether a place lies within a ring, or on its edge. */
export function contains(ring: readonly Place[], place: Place): boolean {
  let inside = false;
  for (let at = 0; at < ring.length; at++) {
    const [a, b] = [ring[at]!, ring[(at + 1) % ring.length]!];
    const lies = side(a, b, place);
    if (lies === 0 && isBetween(a, b, place)) return true;
    if (a.yIn > place.yIn !== b.yIn > place.yIn && lies > 0 === b.yIn > a.yIn) inside = !inside;
  }
  return inside;
}

/**
 * The outline with each wall moved inward by so much (by the index of its first corner), corners where the moved walls meet:
 * half the depths of walls give a room clear between them, below zero moves outward. Undefined where nothing would be left.
 */
export function inset(outline: Outline, byIn: (at: number) => number): Outline | undefined {
  const ring = counterClockwise(outline);
  const many = ring.length;
  const lines = ring.map((a, at) => {
    const b = ring[(at + 1) % many]!;
    const length = distance(a, b);
    const [dx, dy] = [(b.xIn - a.xIn) / length, (b.yIn - a.yIn) / length];
    const by = byIn(at);
    // To the left of the way along, which is inward.
    return { xIn: a.xIn - dy * by, yIn: a.yIn + dx * by, dx, dy };
  });
  const moved = ring.map((corner, at): Corner => {
    const [before, after] = [lines[(at + many - 1) % many]!, lines[at]!];
    const across = before.dx * after.dy - before.dy * after.dx;
    // Walls in one line: the corner stays between them.
    if (Math.abs(across) < 1e-9) return { ...corner, xIn: after.xIn, yIn: after.yIn };
    const t = ((after.xIn - before.xIn) * after.dy - (after.yIn - before.yIn) * after.dx) / across;
    return { ...corner, xIn: before.xIn + t * before.dx, yIn: before.yIn + t * before.dy };
  });
  const isTurned = moved.some((a, at) => {
    const b = moved[(at + 1) % many]!;
    const { dx, dy } = lines[at]!;
    return (b.xIn - a.xIn) * dx + (b.yIn - a.yIn) * dy <= 0;
  });
  return isTurned || signedArea(moved) <= 0 ? undefined : moved;
}

/** Half the depth of the wall that begins at a corner, in inches: from the line that is drawn to the face. */
export type FaceIn = (corner: string) => number;
/** As if walls had no depth: what stands on the line that is drawn. */
export const ON_LINE: FaceIn = () => 0;

/** An outline on the faces of its walls: the room clear between them; undefined where nothing would be left. */
export const clearOf = (outline: Outline, faceIn: FaceIn): Outline | undefined =>
  inset(outline, (at) => faceIn(outline[at]!.id));
