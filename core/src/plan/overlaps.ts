import { intersection } from 'polyclip-ts';
import type { Place } from './outline.js';
import { signedArea } from './outline.js';
import type { StoreyWalls } from './walls.js';

/** Rooms share a wall, not floor: less than a square foot is rounding. Square inches. */
const LEAST_IN2 = 144;

type Spot = [x: number, y: number];
const spots = (ring: readonly Place[]): Spot[][] => [ring.map(({ xIn, yIn }): Spot => [xIn, yIn])];

const spanOf = (ring: readonly Place[], field: 'xIn' | 'yIn'): readonly [number, number] => {
  const all = ring.map((corner) => corner[field]);
  return [Math.min(...all), Math.max(...all)];
};
const isApart = (one: readonly Place[], other: readonly Place[]): boolean =>
  (['xIn', 'yIn'] as const).some((field) => {
    const [[a, b], [c, d]] = [spanOf(one, field), spanOf(other, field)];
    return Math.min(b, d) - Math.max(a, c) < 1;
  });

function sharedIn2(one: readonly Place[], other: readonly Place[]): number {
  try {
    return intersection(spots(one), spots(other)).reduce(
      (sum, [outer]) => sum + Math.abs(signedArea((outer ?? []).map(([xIn, yIn]) => ({ xIn, yIn })))),
      0,
    );
  } catch {
    // Rings that touch themselves once corners are brought together can be too much for it: nothing is claimed of them.
    return 0;
  }
}

/** Rooms of a story that lie over one another, by their ids, in the order of the rooms. */
export function overlapsOf({ rings }: Pick<StoreyWalls, 'rings'>): (readonly [string, string])[] {
  const all = [...rings].filter(([, ring]) => ring.length >= 3);
  return all.flatMap(([one, ring], at) =>
    all.slice(at + 1).flatMap(([other, its]): (readonly [string, string])[] => {
      if (isApart(ring, its)) return [];
      return sharedIn2(ring, its) >= LEAST_IN2 ? [[one, other]] : [];
    }),
  );
}
