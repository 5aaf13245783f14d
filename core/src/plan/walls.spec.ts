import '../testing/seed.js';
import ClipperLib from 'clipper-lib';
import * as fc from 'fast-check';
import { runs } from '../testing/seed.js';
import type { Corner, Outline, Place } from './outline.js';
import {
  SNAP_IN,
  contains,
  counterClockwise,
  distance,
  inset,
  outlineProblem,
  placeAlong,
  signedArea,
} from './outline.js';
import type { PlanRoom } from './walls.js';
import { wallsOf } from './walls.js';

const ring = (...at: readonly (readonly [number, number])[]): Outline =>
  at.map(([xIn, yIn], index) => ({ id: `c${index}`, xIn, yIn }));
const box = (x: number, y: number, w: number, h: number): Outline =>
  ring([x, y], [x + w, y], [x + w, y + h], [x, y + h]);

/** Areas and unions by clipper-lib, in thousandths of an inch. */
const SCALE = 1000;
const path = (places: readonly Place[]) =>
  places.map(({ xIn, yIn }) => ({ X: Math.round(xIn * SCALE), Y: Math.round(yIn * SCALE) }));
function unionOf(rings: readonly (readonly Place[])[]): {
  outer: number;
  holes: number;
  area: number;
  perimeter: number;
} {
  const clipper = new ClipperLib.Clipper();
  clipper.AddPaths(rings.map(path), ClipperLib.PolyType.ptSubject, true);
  const solution: { X: number; Y: number }[][] = new ClipperLib.Paths();
  clipper.Execute(
    ClipperLib.ClipType.ctUnion,
    solution,
    ClipperLib.PolyFillType.pftNonZero,
    ClipperLib.PolyFillType.pftNonZero,
  );
  const areas = solution.map((one) => ClipperLib.Clipper.Area(one) / SCALE ** 2);
  const perimeter = solution.reduce(
    (sum, one) =>
      sum +
      one.reduce((length, a, at) => {
        const b = one[(at + 1) % one.length]!;
        return length + Math.hypot(a.X - b.X, a.Y - b.Y) / SCALE;
      }, 0),
    0,
  );
  return {
    outer: areas.filter((area) => area > 0).length,
    // Slivers of a thousandth of an inch are rounding.
    holes: areas.filter((area) => area < -1).length,
    area: areas.reduce((sum, area) => sum + area, 0),
    perimeter,
  };
}

interface Split {
  readonly upright: boolean;
  readonly at: number;
  readonly which: number;
}
/** A rectangle split again and again, every corner of every room then moved by itself, turned by an angle. */
const randomPlan: fc.Arbitrary<{ rooms: PlanRoom[]; width: number; height: number }> = fc
  .record({
    width: fc.integer({ min: 300, max: 900 }),
    height: fc.integer({ min: 300, max: 700 }),
    splits: fc.array(
      fc.record({
        upright: fc.boolean(),
        at: fc.double({ min: 0.3, max: 0.7, noNaN: true }),
        which: fc.nat(100),
      }),
      { maxLength: 12 },
    ),
    jitter: fc.array(
      fc.tuple(fc.double({ min: -1, max: 1, noNaN: true }), fc.double({ min: -1, max: 1, noNaN: true })),
      {
        minLength: 60,
        maxLength: 60,
      },
    ),
    angle: fc.constantFrom(0, 0, 0.3, 1.1),
    reversed: fc.boolean(),
  })
  .map(({ width, height, splits, jitter, angle, reversed }) => {
    const rects: [number, number, number, number][] = [[0, 0, width, height]];
    for (const { upright, at, which } of splits as Split[]) {
      const [x, y, w, h] = rects[which % rects.length]!;
      if ((upright ? w : h) < 80) continue;
      const cut = Math.round((upright ? w : h) * at);
      rects.splice(
        which % rects.length,
        1,
        upright ? [x, y, cut, h] : [x, y, w, cut],
        upright ? [x + cut, y, w - cut, h] : [x, y + cut, w, h - cut],
      );
    }
    let next = 0;
    const moved = ({ id, xIn, yIn }: Corner): Corner => {
      const [dx, dy] = jitter[next++ % jitter.length]!;
      const by = Math.min(1, 1 / Math.max(1, Math.hypot(dx, dy))) * SNAP_IN * 0.98;
      const [x, y] = [xIn + dx * by, yIn + dy * by];
      return {
        id,
        xIn: x * Math.cos(angle) - y * Math.sin(angle),
        yIn: x * Math.sin(angle) + y * Math.cos(angle),
      };
    };
    const rooms = rects.map(([x, y, w, h], index): PlanRoom => {
      const outline = box(x, y, w, h).map(moved);
      return { id: `room ${index}`, outline: reversed && index % 2 ? [...outline].reverse() : outline };
    });
    return { rooms, width, height };
  });

describe('The walls of a story', () => {
  it('leave no gap and no overlap between rooms, against clipper-lib on plans of split rectangles with corners off by half an inch', () => {
    fc.assert(
      fc.property(randomPlan, ({ rooms, width, height }) => {
        const { walls, rings, overlaps } = wallsOf(rooms);
        expect(overlaps).toEqual([]);
        const all = [...rings.values()];
        const sum = all.reduce((total, own) => total + signedArea(own), 0);
        const { outer, holes, area, perimeter } = unionOf(all);
        expect([outer, holes]).toEqual([1, 0]);
        // What the rooms have together is what they cover: nothing twice, nothing not at all.
        expect(Math.abs(area - sum)).toBeLessThan(2);
        expect(Math.abs(sum - width * height)).toBeLessThan(2 * (width + height) * 2 * SNAP_IN);
        // Outer walls go round the house once; every room has all of its walls, each once.
        const outside = walls.filter(({ left, right }) => !left || !right);
        expect(
          Math.abs(outside.reduce((total, { lengthIn }) => total + lengthIn, 0) - perimeter),
        ).toBeLessThan(1);
        for (const { id, outline } of rooms) {
          const faces = walls.flatMap(({ left, right }) =>
            [left, right].flatMap((face) => (face?.roomId === id ? [face] : [])),
          );
          for (const { id: corner } of outline) {
            const own = faces.filter((face) => face.corner === corner).sort((a, b) => a.fromIn - b.fromIn);
            expect(own.length).withContext(`${id} ${corner}`).toBeGreaterThan(0);
            own
              .slice(1)
              .forEach((face, at) => expect(Math.abs(face.fromIn - own[at]!.toIn)).toBeLessThan(1e-6));
          }
        }
      }),
      { numRuns: runs(1000) },
    );
  });

  it('are one where rooms share them, and split where a third room meets them: a hall beside two rooms, by hand', () => {
    const { walls } = wallsOf([
      { id: 'hall', outline: box(0, 0, 240, 48) },
      { id: 'one', outline: box(0, 48, 120, 120) },
      { id: 'two', outline: box(120, 48.4, 120, 119.6) },
    ]);
    const between = walls.map(({ left, right, lengthIn }) => [
      [left?.roomId ?? 'outside', right?.roomId ?? 'outside'].sort().join(' | '),
      Math.round(lengthIn),
    ]);
    expect(between.sort()).toEqual([
      ['hall | one', 120],
      ['hall | outside', 240],
      ['hall | outside', 48],
      ['hall | outside', 48],
      ['hall | two', 120],
      ['one | outside', 120],
      ['one | outside', 120],
      ['one | two', 120],
      ['outside | two', 120],
      ['outside | two', 120],
    ]);
    const shared = walls.find(
      ({ left, right }) => [left?.roomId, right?.roomId].sort().join() === 'hall,two',
    )!;
    const ofHall = shared.left?.roomId === 'hall' ? shared.left : shared.right!;
    expect([ofHall.corner, Math.round(ofHall.fromIn), Math.round(ofHall.toIn)]).toEqual(['c2', 0, 120]);
  });

  it('tell of rooms that lie over one another', () => {
    const { overlaps } = wallsOf([
      { id: 'one', outline: box(0, 0, 120, 120) },
      { id: 'again', outline: box(0, 0, 120, 120) },
    ]);
    expect(overlaps[0]).toEqual(['one', 'again']);
  });
});

describe('An outline', () => {
  it('encloses a room, or says why it does not', () => {
    const cases: readonly (readonly [string | undefined, Outline])[] = [
      [undefined, box(0, 0, 120, 120)],
      [undefined, ring([0, 0], [168, 0], [168, 108], [120, 108], [120, 144], [0, 144])],
      ['few-corners', ring([0, 0], [120, 0])],
      ['crossing', ring([0, 0], [120, 120], [120, 0], [0, 120])],
      ['crossing', ring([0, 0], [120, 0], [60, 0], [60, 90])],
      ['no-area', ring([0, 0], [120, 0], [120, 0.9], [0, 0.9])],
      ['corner-twice', ring([0, 0], [120, 0], [120, 0.2], [0, 120])],
      [
        'many-corners',
        Array.from({ length: 10_000 }, (_none, at) => ({
          id: `c${at}`,
          xIn: 900 * Math.cos(at),
          yIn: 900 * Math.sin(at),
        })),
      ],
      ['too-far', box(0, 0, 1e9, 120)],
      ['too-far', ring([0, 0], [NaN, 0], [120, 120])],
    ];
    for (const [problem, outline] of cases)
      expect(outlineProblem(outline))
        .withContext(JSON.stringify(outline).slice(0, 80))
        .toBe(problem as never);
  });

  it('is found along its walls, from inside, and clear between them', () => {
    const ell = ring([0, 0], [168, 0], [168, 108], [120, 108], [120, 144], [0, 144]);
    expect(signedArea(ell)).toBe(168 * 144 - 48 * 36);
    expect(placeAlong(ell, 'c1', 54)).toEqual({ xIn: 168, yIn: 54, angle: Math.PI / 2, lengthIn: 108 });
    expect(placeAlong(ell, 'gone', 3)).toBeUndefined();
    expect(contains(ell, { xIn: 100, yIn: 130 })).toBeTrue();
    expect(contains(ell, { xIn: 150, yIn: 130 })).toBeFalse();
    expect(contains(ell, { xIn: 150, yIn: 108 })).toBeTrue();
    // 2 × 4 walls round a room that is 12 × 10 clear: half of 3½ in goes to each side.
    const room = inset(box(0, 0, 144 + 3.5, 120 + 3.5), () => 1.75)!;
    expect(room.map(({ xIn, yIn }) => [xIn, yIn])).toEqual([
      [1.75, 1.75],
      [145.75, 1.75],
      [145.75, 121.75],
      [1.75, 121.75],
    ]);
    expect(inset(box(0, 0, 20, 144), () => 12)).toBeUndefined();
    expect(signedArea(counterClockwise([...ell].reverse()))).toBeGreaterThan(0);
    expect(distance(room[0]!, room[1]!)).toBe(144);
  });
});
