import type { Band } from '../house/model.js';
import type { FaceIn, Outline, Place } from './outline.js';
import { placeAlong } from './outline.js';
import type { Gap, WallOfRoom } from './wall-runs.js';

/** A band that stands on a wall. */
export type BandOnWall = Band & { readonly corner: string; readonly alongIn: number };

export const isOnWall = (band: Band): band is BandOnWall =>
  band.corner !== undefined && band.alongIn !== undefined;

/** Cabinets whose foot is lower than this stand on the floor: inches, common practice. */
const ON_FLOOR_IN = 6;

/** Whether a band breaks the floor line of its wall: a counter is measured by itself instead (NEC 210.52(A)(2), (4), from memory). */
const cutsWall = ({ kind, fromIn }: Band): boolean =>
  kind === 'fireplace' ||
  kind === 'counter' ||
  kind === 'vanity' ||
  kind === 'tub' ||
  kind === 'shower' ||
  (kind === 'cabinet' && fromIn < ON_FLOOR_IN);

/** Where bands cut the wall space of receptacles. */
export const cutsOf = (bands: readonly Band[]): Gap[] =>
  bands
    .filter(isOnWall)
    .filter(cutsWall)
    .map(({ corner, alongIn, widthIn }) => ({ corner, alongIn, widthIn }));

/** The counter in front of a place on a wall. */
export const counterAt = (
  bands: readonly Band[],
  { corner, alongIn }: { readonly corner?: string; readonly alongIn?: number },
): BandOnWall | undefined =>
  bands
    .filter(isOnWall)
    .find(
      (band) =>
        band.kind === 'counter' &&
        band.corner === corner &&
        alongIn !== undefined &&
        alongIn >= band.alongIn &&
        alongIn <= band.alongIn + band.widthIn,
    );

/** All of the walls that has no counter, as gaps: what is left between them is counter, round corners too. */
export function besideCounters(walls: readonly WallOfRoom[], bands: readonly Band[]): Gap[] {
  const counters = bands.filter(isOnWall).filter(({ kind }) => kind === 'counter');
  return walls.flatMap(({ corner, startIn, lengthIn }): Gap[] => {
    const end = startIn + lengthIn;
    const own = counters
      .filter((band) => band.corner === corner)
      .map(({ alongIn, widthIn }) => [Math.max(startIn, alongIn), Math.min(end, alongIn + widthIn)] as const)
      .filter(([from, to]) => to > from)
      .toSorted((a, b) => a[0] - b[0]);
    const gaps: Gap[] = [];
    let here = startIn;
    for (const [from, to] of [...own, [end, end] as const]) {
      // Two counters that touch are one.
      if (from - here > TOUCH_IN) gaps.push({ corner, alongIn: here, widthIn: from - here });
      here = Math.max(here, to);
    }
    return gaps;
  });
}
const TOUCH_IN = 0.5;

/** The corners of what a band covers of the floor, counter-clockwise; undefined where its wall is gone. */
export function footprint(band: Band, outline: Outline, faceIn: FaceIn): readonly Place[] | undefined {
  const { corner, alongIn, xIn, yIn, widthIn, depthIn } = band;
  if (corner !== undefined && alongIn !== undefined) {
    const from = placeAlong(outline, corner, alongIn);
    if (!from) return undefined;
    const [dx, dy] = [Math.cos(from.angle), Math.sin(from.angle)];
    // The room lies to the left of its wall.
    const at = (along: number, out: number): Place => ({
      xIn: from.xIn + dx * along - dy * out,
      yIn: from.yIn + dy * along + dx * out,
    });
    const face = faceIn(corner);
    return [at(0, face), at(widthIn, face), at(widthIn, face + depthIn), at(0, face + depthIn)];
  }
  if (xIn === undefined || yIn === undefined) return undefined;
  const at = (x: number, y: number): Place => ({ xIn: xIn + x, yIn: yIn + y });
  return [at(0, 0), at(widthIn, 0), at(widthIn, depthIn), at(0, depthIn)];
}

/** How far a place is from an upright or turned rectangle; 0 within it. Inches. */
export function distanceTo(rectangle: readonly Place[], place: Place): number {
  const [a, b, , d] = rectangle as [Place, Place, Place, Place];
  const across = (from: Place, to: Place): number => {
    const length = Math.hypot(to.xIn - from.xIn, to.yIn - from.yIn) || 1;
    const along =
      ((place.xIn - from.xIn) * (to.xIn - from.xIn) + (place.yIn - from.yIn) * (to.yIn - from.yIn)) / length;
    return Math.max(0, -along, along - length);
  };
  return Math.hypot(across(a, b), across(a, d));
}
