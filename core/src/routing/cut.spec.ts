import * as fc from 'fast-check';
import { readerOf } from '../derive/reader.js';
import { houseOf } from '../house/house-file.js';
import { Plan } from '../testing/plan.js';
import { randomHouse } from '../testing/random-house.js';
import { runs } from '../testing/seed.js';
import { cutBetween, cutOf } from './cut.js';

/** A room of 12 by 10 ft with a doorway in its first wall, and one beside it, under an attic. */
function drawn() {
  const plan = new Plan('Drawn');
  const square = (x: number, w: number, d: number) =>
    [
      [x, 0],
      [x + w, 0],
      [x + w, d],
      [x, d],
    ].map(([xIn, yIn], at) => ({ id: `c${at}`, xIn: xIn!, yIn: yIn! }));
  const bed = plan.room('Bed', 'bedroom');
  const den = plan.room('Den', 'bedroom');
  Object.assign(
    plan.file.rooms.find(({ id }) => id === bed)!,
    { outline: square(0, 144, 120) },
  );
  Object.assign(
    plan.file.rooms.find(({ id }) => id === den)!,
    { outline: square(144, 144, 120) },
  );
  plan.file.storeys[0]!.ceilingIn = 97;
  const box = (tag: string, model: string, roomId: string, more: object): string => {
    const id = plan.box(tag, model, { roomId });
    Object.assign(
      plan.file.boxes.find((one) => one.id === id)!,
      more,
    );
    return id;
  };
  return { plan, bed, den, box };
}

describe('The length to cut', () => {
  it('is what its parts add up to, by hand in one room', () => {
    const { plan, bed, den, box } = drawn();
    const model = 'plastic-1g-22.5';
    const on = (corner: string, alongIn: number) => ({
      corner,
      alongIn,
      heightIn: 16,
      heightReference: 'centre',
    });
    // Along the wall opposite the door, and one round the corner from it, 16 in up.
    const a = box('R1', model, bed, on('c2', 24));
    const b = box('R2', model, bed, on('c2', 96));
    const c = box('R3', model, bed, on('c3', 40));
    const light = box('L1', 'plastic-round-20', bed, { xIn: 72, yIn: 60 });
    const over = box('R4', model, den, on('c2', 72));
    const panel = box('P', 'panel', den, {
      corner: 'c1',
      alongIn: 60,
      heightIn: 60,
      heightReference: 'centre',
    });
    const cut = (from: string, to: string) => cutBetween(readerOf(houseOf(plan.file)), from, to, '14/2');
    const parts = (from: string, to: string): Record<string, number> =>
      Object.fromEntries(
        cut(from, to).parts.map(({ part, lengthIn }) => [part, Number(lengthIn.toFixed(3))]),
      );
    // From 16 in up to the row of holes at 20 in, 72 in through studs, down 4 in; two ends of 6 in; ½ in of sheath; at least 6 in of
    // droop: 98½ in, cut at 108.
    expect(parts(a, b)).toEqual({ across: 72, rise: 8, sheath: 0.5, free: 6, droop: 6, round: 9.5 });
    expect(cut(a, b).way.kind).toBe('studs');
    // Studs at 32, 48, 64, 80 in from the left end of the wall and so on: from x = 120 to x = 48, those at 112, 96, 80, 64.
    expect(cut(a, b).way.crossings.map(({ bored, spot }) => [bored, spot.xIn, spot.zIn])).toEqual(
      [112, 96, 80, 64].map((x) => ['stud', x, 20]),
    );
    // From 96 in on the wall of 144 to its end, and 40 in on, through the corner: 88 in.
    expect(parts(b, c)).toEqual({ across: 88, rise: 8, sheath: 0.5, free: 6, droop: 6, round: 5.5 });
    expect(cut(b, c).way.crossings.map(({ bored }) => bored)).toEqual([
      'stud',
      'stud',
      'corner',
      'stud',
      'stud',
    ]);
    // To the light: up from 16 to 90 in, through plates of 3 in under 97 into the middle of joists of 9¼ in (101⅝), 60 in along the
    // joists, which span the shorter way; over them for 48 in, 4⅝ in up and down again; down 4⅝ in to the ceiling: 74 + 11⅝ + 9¼ + 4⅝.
    expect(parts(a, light)).toEqual({
      across: 108,
      rise: 99.5,
      sheath: 0.5,
      free: 6,
      'tail-light': 30,
      droop: 6,
      round: 2,
    });
    expect(cut(a, light).way.crossings.map(({ bored }) => bored)).toEqual(['plate']);
    // Through the wall between the rooms, which stands at x = 144: in line with the wall, its two end studs are bored.
    // x = 120 to x = 144 + 72: 96 in, with 4 studs of 16 in on either side of the joint.
    expect(parts(a, over)).toEqual({ across: 96, rise: 8, sheath: 0.5, free: 6, droop: 6, round: 9.5 });
    expect(cut(a, over).way.toRoomId).toBe(den);
    // From the panel round a solid corner would take 8 min: up and over it is. Up from 60 to 90 in, into the joists, over them, and
    // down to 16 in: 30 + 11⅝ + 9¼ + 11⅝ + 74; 60 in along them and 72 across; tail of 60 in.
    expect(parts(panel, over)).toEqual({
      across: 60 + 72,
      rise: 136.5,
      sheath: 0.5,
      'tail-panel': 60,
      free: 6,
      droop: 6,
      round: 7,
    });
  });

  it('is a whole number of steps, never under its way, the same both ways, and what was measured where it was', () => {
    fc.assert(
      fc.property(randomHouse, ({ plan }) => {
        const reader = readerOf(houseOf(plan.file));
        for (const run of reader.all('runs')) {
          const cut = cutOf(reader, run);
          if (run.measuredLengthIn !== undefined) {
            expect(cut.lengthIn).toBe(run.measuredLengthIn);
            expect(cut.source).toBe('measured');
          } else {
            expect(cut.lengthIn % 12).toBe(0);
            expect(cut.lengthIn).toBeGreaterThan(cut.way.lengthIn);
            expect(cut.parts.reduce((sum, { lengthIn }) => sum + lengthIn, 0)).toBeCloseTo(cut.lengthIn, 6);
          }
          expect(cutBetween(reader, run.to.boxId, run.from.boxId, '14/2').lengthIn).toBe(
            cutBetween(reader, run.from.boxId, run.to.boxId, '14/2').lengthIn,
          );
        }
      }),
      { numRuns: runs(60) },
    );
  });
});
