import * as fc from 'fast-check';
import type { Underlay } from '../house/underlay.js';
import { Underlay as Schema } from '../house/underlay.js';
import { runs } from '../testing/seed.js';
import {
  laidDown,
  placeOfPoint,
  pointAtPlace,
  scaledByLength,
  turnedBy,
  turnedStraight,
} from './underlay.js';

const asset = 'a'.repeat(64);
const place = fc.record({
  xIn: fc.double({ min: -2000, max: 2000, noNaN: true }),
  yIn: fc.double({ min: -2000, max: 2000, noNaN: true }),
});
const sheet: fc.Arbitrary<Underlay> = fc.record({
  asset: fc.constant(asset),
  name: fc.constant('A1'),
  widthPx: fc.integer({ min: 200, max: 6000 }),
  heightPx: fc.integer({ min: 200, max: 6000 }),
  inPerPx: fc.double({ min: 0.05, max: 4, noNaN: true }),
  turnDeg: fc.double({ min: -180, max: 180, noNaN: true }),
  at: place,
});
const share = fc.double({ min: 0.05, max: 0.95, noNaN: true });
const marks = fc.tuple(share, share, share, share);

describe('A plan sheet under a plan', () => {
  it('is to scale once two marks are so long apart, and straight once their line is: what lay at the first one stays', () => {
    fc.assert(
      fc.property(
        sheet,
        marks,
        fc.double({ min: 6, max: 1200, noNaN: true }),
        (own, [ax, ay, bx, by], lengthIn) => {
          const points = [
            { x: ax * own.widthPx, y: ay * own.heightPx },
            { x: bx * own.widthPx, y: by * own.heightPx },
          ] as const;
          fc.pre(Math.hypot(points[0].x - points[1].x, points[0].y - points[1].y) > 20);
          const [a, b] = points.map((point) => placeOfPoint(own, point)) as [never, never];
          for (const [at, point] of points.entries()) {
            const back = pointAtPlace(own, [a, b][at]!);
            expect(Math.hypot(back.x - point.x, back.y - point.y)).toBeLessThan(1e-6);
          }
          const after = (next: ReturnType<typeof scaledByLength>) => {
            if (typeof next === 'string') throw new Error(next);
            expect(Schema.safeParse(next).success).toBeTrue();
            const [p, q] = points.map((point) => placeOfPoint(next, point)) as [typeof own.at, typeof own.at];
            expect(Math.hypot(p.xIn - (a as typeof p).xIn, p.yIn - (a as typeof p).yIn)).toBeLessThan(1e-3);
            return { next, p, q, dx: q.xIn - p.xIn, dy: q.yIn - p.yIn };
          };
          const scaled = scaledByLength(own, a, b, lengthIn);
          // A length by which the sheet would be larger than any plan is refused.
          if (scaled === 'no-scale') return;
          const { dx, dy, next } = after(scaled);
          expect(Math.hypot(dx, dy)).toBeCloseTo(lengthIn, 4);
          const straight = after(
            turnedStraight(next, placeOfPoint(next, points[0]), placeOfPoint(next, points[1])),
          );
          expect(Math.min(Math.abs(straight.dx), Math.abs(straight.dy))).toBeLessThan(1e-3 * lengthIn);
          // It turned by the least that makes it so.
          expect(Math.abs(((straight.next.turnDeg - next.turnDeg + 540) % 360) - 180)).toBeLessThan(45.001);
        },
      ),
      { numRuns: runs(300) },
    );
  });

  it('refuses marks that meet, no length, and a scale by which it would be larger than any house', () => {
    const own = laidDown(
      { asset, name: 'A1', widthPx: 2700, heightPx: 1800 },
      { middle: { xIn: 10, yIn: 20 }, widthIn: 540 },
    );
    // 540 in over 2,700 points: a fifth of an inch each; its middle lies in the middle.
    expect(own.inPerPx).toBeCloseTo(0.2, 9);
    expect(placeOfPoint(own, { x: 1350, y: 900 })).toEqual({ xIn: 10, yIn: 20 });
    expect(placeOfPoint(own, { x: 0, y: 0 })).toEqual({ xIn: -260, yIn: 200 });
    const [a, b] = [placeOfPoint(own, { x: 0, y: 0 }), placeOfPoint(own, { x: 1000, y: 0 })];
    expect(scaledByLength(own, a, a, 240)).toBe('marks-meet');
    expect(turnedStraight(own, a, a)).toBe('marks-meet');
    expect(scaledByLength(own, a, b, 0)).toBe('no-length');
    expect(scaledByLength(own, a, b, 1e8)).toBe('no-scale');
    expect(turnedBy(turnedBy(own, 270), 180).turnDeg).toBe(90);
  });
});
