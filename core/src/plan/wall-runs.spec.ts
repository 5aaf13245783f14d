import * as fc from 'fast-check';
import { runs } from '../testing/seed.js';
import type { Outline } from './outline.js';
import { ON_LINE, placeAlong } from './outline.js';
import type { Gap } from './wall-runs.js';
import { farFrom, receptaclePlaces, wallRuns } from './wall-runs.js';

const room = (lengthIn: number, widthIn: number): Outline => [
  { id: 'c0', xIn: 0, yIn: 0 },
  { id: 'c1', xIn: lengthIn, yIn: 0 },
  { id: 'c2', xIn: lengthIn, yIn: widthIn },
  { id: 'c3', xIn: 0, yIn: widthIn },
];
const door = (corner: string, alongIn: number, widthIn = 32): Gap => ({ corner, alongIn, widthIn });

describe('Receptacles along walls, NEC 210.52(A) from memory, worked by hand', () => {
  const at = (outline: Outline, gaps: readonly Gap[]) =>
    receptaclePlaces(wallRuns(outline, gaps, ON_LINE)).map(({ corner, alongIn }) => `${corner} ${alongIn}`);

  it('are one for each 12 ft of unbroken wall, round the corners, no farther than 6 ft from a doorway', () => {
    // 12 × 10 ft without a door: 44 ft of wall, four of them, 11 ft apart.
    expect(at(room(144, 120), [])).toEqual(['c0 66', 'c1 54', 'c2 66', 'c3 54']);
    // A door of 32 in in its first wall: 528 − 32 = 496 in from jamb to jamb: four, 124 in apart, 62 from each side of the door.
    expect(at(room(144, 120), [door('c0', 20)])).toEqual(['c0 114', 'c1 94', 'c2 98', 'c3 78']);
  });

  it('go by the face of the wall, not by its center line', () => {
    // 12 ft clear: 144 + 3½ on the center lines; a wall of exactly 12 ft between two doors that reach its corners asks for one.
    const outline = room(147.5, 147.5);
    const gaps = [door('c1', 0, 147.5), door('c3', 0, 147.5)];
    const found = receptaclePlaces(wallRuns(outline, gaps, () => 1.75));
    expect(found).toEqual([
      { corner: 'c2', alongIn: 73.75 },
      { corner: 'c0', alongIn: 73.75 },
    ]);
    const longer = receptaclePlaces(wallRuns(room(148.5, 147.5), gaps, () => 1.75));
    expect(longer.length).toBe(4);
  });

  it('are missed where there are too few: what is too far, by hand', () => {
    // 12 × 10 ft, no door, one in the middle of the first wall (72 in): 528 in round, 72 covered either way.
    const [loop] = wallRuns(room(144, 120), [], ON_LINE);
    expect(farFrom(loop!, [72])).toEqual([[144, 528]]);
    expect(loop!.between(130, 300)).toEqual([
      { corner: 'c0', fromIn: 130, toIn: 144 },
      { corner: 'c1', fromIn: 0, toIn: 120 },
      { corner: 'c2', fromIn: 0, toIn: 36 },
    ]);
    // Round the corner where the count begins: from 500 one reaches to 44 on the other side.
    expect(farFrom(loop!, [500, 250])).toEqual([
      [44, 178],
      [322, 428],
    ]);
    // From jamb to jamb: nothing beyond the door counts.
    const [open] = wallRuns(room(144, 120), [door('c0', 20)], ON_LINE);
    expect(farFrom(open!, [62, 186, 310, 434])).toEqual([]);
    expect(farFrom(open!, [62, 186, 310])).toEqual([[382, 496]]);
    expect(open!.offsetOf({ corner: 'c0', alongIn: 114 })).toBe(62);
    expect(open!.offsetOf({ corner: 'c0', alongIn: 36 })).toBeUndefined();
  });

  it('leave no point of any wall farther than 6 ft from one: looked at inch by inch', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 60, max: 400 }),
        fc.integer({ min: 60, max: 400 }),
        fc.array(fc.tuple(fc.nat(3), fc.integer({ min: 0, max: 300 })), { maxLength: 3 }),
        (lengthIn, widthIn, doors) => {
          const outline = room(lengthIn, widthIn);
          const gaps = doors.flatMap(([wall, along]) => {
            const length = wall % 2 ? widthIn : lengthIn;
            return along + 32 <= length ? [door(`c${wall}`, along)] : [];
          });
          // The wall as a ring of inches, with what is open; a ring that starts behind a gap.
          const inches: { open: boolean; has: boolean }[] = [];
          const places = receptaclePlaces(wallRuns(outline, gaps, ON_LINE));
          outline.forEach(({ id }) => {
            const length = Math.round(placeAlong(outline, id, 0)!.lengthIn);
            for (let along = 0; along < length; along++)
              inches.push({
                open: gaps.some(
                  (gap) =>
                    gap.corner === id && along + 0.5 > gap.alongIn && along + 0.5 < gap.alongIn + gap.widthIn,
                ),
                has: places.some(
                  (place) =>
                    place.corner === id && Math.floor(Math.min(place.alongIn, length - 0.01)) === along,
                ),
              });
          });
          const start = Math.max(
            0,
            inches.findIndex(({ open }) => open),
          );
          const isLoop = inches.every(({ open }) => !open);
          const round = [...inches.slice(start), ...inches.slice(0, start)];
          const stretches: boolean[][] = [[]];
          for (const { open, has } of round)
            if (open) stretches.push([]);
            else stretches.at(-1)!.push(has);
          for (const stretch of stretches.filter((one) => one.length >= 24)) {
            const own = stretch.flatMap((has, inch) => (has ? [inch] : []));
            stretch.forEach((_has, inch) => {
              const far = Math.min(
                ...own.map((one) => {
                  const direct = Math.abs(one - inch);
                  return isLoop ? Math.min(direct, stretch.length - direct) : direct;
                }),
              );
              expect(far).toBeLessThanOrEqual(73);
            });
          }
        },
      ),
      { numRuns: runs(150) },
    );
  });
});
