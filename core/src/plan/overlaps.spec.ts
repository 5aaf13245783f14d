import '../testing/seed.js';
import * as fc from 'fast-check';
import { runs } from '../testing/seed.js';
import type { Outline } from './outline.js';
import { overlapsOf } from './overlaps.js';
import { wallsOf } from './walls.js';

const ring = (...at: readonly (readonly [number, number])[]): Outline =>
  at.map(([xIn, yIn], index) => ({ id: `c${index}`, xIn, yIn }));
const box = (x: number, y: number, w: number, h: number): Outline =>
  ring([x, y], [x + w, y], [x + w, y + h], [x, y + h]);
const told = (...outlines: readonly Outline[]): string[] =>
  overlapsOf(wallsOf(outlines.map((outline, at) => ({ id: `r${at}`, outline })))).map((pair) =>
    pair.join(' '),
  );

describe('Rooms that lie over one another', () => {
  it('are told by the floor that they share; a shared wall, and a room in the corner of an L, are none: by hand', () => {
    expect(told(box(0, 0, 100, 80), box(93, -10, 100, 100))).toEqual(['r0 r1']);
    expect(told(box(0, 0, 200, 200), box(50, 50, 40, 40))).toEqual(['r0 r1']);
    expect(told(box(0, 0, 100, 80), box(100, 0, 100, 80), box(0, 80, 60, 50))).toEqual([]);
    const ell = ring([0, 0], [200, 0], [200, 80], [80, 80], [80, 200], [0, 200]);
    expect(told(ell, box(80, 80, 120, 120))).toEqual([]);
  });

  it('share what their sides say, whatever rectangles they are', () => {
    const side = fc.integer({ min: 20, max: 300 });
    const rectangle = fc.tuple(
      fc.integer({ min: 0, max: 200 }),
      fc.integer({ min: 0, max: 200 }),
      side,
      side,
    );
    fc.assert(
      fc.property(rectangle, rectangle, ([x, y, w, h], [u, v, p, q]) => {
        const shared =
          Math.max(0, Math.min(x + w, u + p) - Math.max(x, u)) *
          Math.max(0, Math.min(y + h, v + q) - Math.max(y, v));
        const found = told(box(x, y, w, h), box(u, v, p, q)).length;
        // Corners that nearly meet are brought together first: a strip of an inch may go with them.
        if (shared > 1000) expect(found).toBe(1);
        if (shared === 0) expect(found).toBe(0);
      }),
      { numRuns: runs(300) },
    );
  });
});
