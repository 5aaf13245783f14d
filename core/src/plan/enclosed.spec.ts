import * as fc from 'fast-check';
import { runs } from '../testing/seed.js';
import type { Line } from './enclosed.js';
import { enclosedBy } from './enclosed.js';
import type { Place } from './outline.js';

const areaOf = (ring: readonly Place[]): number =>
  ring.reduce((sum, a, at) => {
    const b = ring[(at + 1) % ring.length]!;
    return sum + (a.xIn * b.yIn - b.xIn * a.yIn) / 2;
  }, 0);

interface Ground {
  readonly x: number;
  readonly y: number;
  readonly w: number;
  readonly h: number;
}
/** A house cut in two again and again: its rooms are known without looking at lines. */
function cut({ x, y, w, h }: Ground, shares: number[], depth: number): Ground[] {
  const share = shares.shift();
  if (depth === 0 || share === undefined) return [{ x, y, w, h }];
  const isUp = w > h;
  const at = Math.round((isUp ? w : h) * (0.3 + 0.4 * share));
  if (at < 40) return [{ x, y, w, h }];
  const [one, other] = isUp
    ? [
        { x, y, w: at, h },
        { x: x + at, y, w: w - at, h },
      ]
    : [
        { x, y, w, h: at },
        { x, y: y + at, w, h: h - at },
      ];
  return [...cut(one, shares, depth - 1), ...cut(other, shares, depth - 1)];
}

describe('What lines enclose', () => {
  it('are the rooms of a house, however its lines are drawn: twice, in pieces, past each other, not quite meeting, turned', () => {
    const unit = fc.double({ min: 0, max: 1, noNaN: true });
    fc.assert(
      fc.property(
        fc.array(unit, { minLength: 1, maxLength: 12 }),
        fc.array(unit, { minLength: 40, maxLength: 40 }),
        fc.double({ min: 0, max: 6.2, noNaN: true }),
        fc.integer({ min: 200, max: 900 }),
        (shares, noise, turn, w) => {
          const rooms = cut({ x: 0, y: 0, w, h: 520 }, [...shares], 4);
          let next = 0;
          const rand = (): number => noise[next++ % noise.length]!;
          const lines: Line[] = rooms.flatMap(({ x, y, w: wide, h }) => {
            const corners = [
              [x, y],
              [x + wide, y],
              [x + wide, y + h],
              [x, y + h],
            ] as const;
            return corners.flatMap(([ax, ay], at): Line[] => {
              const [bx, by] = corners[(at + 1) % 4]!;
              const place = (share: number, off = 0): Place => ({
                xIn: ax + (bx - ax) * share + off,
                yIn: ay + (by - ay) * share - off,
              });
              const off = (rand() - 0.5) * 0.2;
              // In one piece, in two, or backwards and past its end.
              if (rand() < 0.3)
                return [
                  [place(0, off), place(0.4)],
                  [place(0.4), place(1)],
                ];
              return rand() < 0.3 ? [[place(1, off), place(0)]] : [[place(0), place(1)]];
            });
          });
          // What leads nowhere: door leaves, dimension lines outside.
          const loose: Line[] = [
            [
              { xIn: 30, yIn: 0 },
              { xIn: 31, yIn: 25 },
            ],
            [
              { xIn: -40, yIn: -40 },
              { xIn: w, yIn: -40 },
            ],
          ];
          const turned = ({ xIn, yIn }: Place): Place => ({
            xIn: xIn * Math.cos(turn) - yIn * Math.sin(turn) + 1000,
            yIn: xIn * Math.sin(turn) + yIn * Math.cos(turn) - 500,
          });
          const drawn = [...lines, ...loose].map(([a, b]): Line => [turned(a), turned(b)]);
          const { rings, openEnds, isTangled } = enclosedBy(drawn);
          expect(isTangled).toBeFalse();
          const found = rings
            .map(areaOf)
            .filter((area) => area > 500)
            .sort((a, b) => a - b);
          const expected = rooms.map(({ w: wide, h }) => wide * h).sort((a, b) => a - b);
          expect(found.length).toBe(expected.length);
          found.forEach((area, at) => expect(Math.abs(area / expected[at]! - 1)).toBeLessThan(0.02));
          // One end of the leaf, both of the line outside.
          expect(openEnds.length).toBe(3);
        },
      ),
      { numRuns: runs(200) },
    );
  });

  it('cuts lines where they cross, gives what lies within a room by itself, and gives up on what no plan is', () => {
    const line = (ax: number, ay: number, bx: number, by: number): Line => [
      { xIn: ax, yIn: ay },
      { xIn: bx, yIn: by },
    ];
    // A hash: one square in the middle.
    const hash = [line(0, 10, 90, 10), line(0, 40, 90, 40), line(10, 0, 10, 90), line(40, 0, 40, 90)];
    expect(enclosedBy(hash).rings.map(areaOf)).toEqual([900]);
    expect(enclosedBy(hash).openEnds.length).toBe(8);
    const square = (x: number, size: number) => [
      line(x, x, x + size, x),
      line(x + size, x, x + size, x + size),
      line(x + size, x + size, x, x + size),
      line(x, x + size, x, x),
    ];
    expect(enclosedBy([...square(0, 100), ...square(40, 10)]).rings.map(areaOf)).toEqual([10_000, 100]);
    const tangle = Array.from({ length: 4000 }, (_, at) => line(at, 0, 4000 - at, 3000 + ((at * 37) % 500)));
    expect(enclosedBy(tangle).isTangled).toBeTrue();
    expect(enclosedBy([]).rings).toEqual([]);
  });
});
