import * as fc from 'fast-check';
import { readerOf } from '../derive/reader.js';
import { houseOf, readHouseFile } from '../house/house-file.js';
import { Plan } from '../testing/plan.js';
import { randomHouse } from '../testing/random-house.js';
import { runs } from '../testing/seed.js';
import demo from '../../../demo/lot-12.house.json' with { type: 'json' };
import { cutBetween, cutOf } from './cut.js';
import { wayBetween, wayOnPlan } from './way.js';

/** A room of 12 by 10 ft with a doorway in its first wall, and one beside it. */
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
    // Along the wall opposite the door, and one round the corner from it, 16 in up.
    const a = box('R1', model, bed, { corner: 'c2', alongIn: 24, heightIn: 16, heightReference: 'middle' });
    const b = box('R2', model, bed, { corner: 'c2', alongIn: 96, heightIn: 16, heightReference: 'middle' });
    const c = box('R3', model, bed, { corner: 'c3', alongIn: 40, heightIn: 16, heightReference: 'middle' });
    const light = box('L1', 'plastic-round-20', bed, { xIn: 72, yIn: 60 });
    const over = box('R4', model, den, {
      corner: 'c2',
      alongIn: 72,
      heightIn: 16,
      heightReference: 'middle',
    });
    const parts = (from: string, to: string): Record<string, number> =>
      Object.fromEntries(
        cutBetween(readerOf(houseOf(plan.file)), from, to).parts.map(({ part, lengthIn }) => [
          part,
          lengthIn,
        ]),
      );
    // 72 in through studs, two ends of 6 in, ½ in of sheath, at least 6 in of droop: 90½ in, cut at 96.
    expect(cutBetween(readerOf(houseOf(plan.file)), a, b).way.kind).toBe('studs');
    expect(parts(a, b)).toEqual({ across: 72, sheath: 0.5, free: 6, droop: 6, round: 5.5 });
    // From 96 in on the wall of 144 to its end, and 40 in on: 88 in.
    expect(parts(b, c)['across']).toBe(48 + 40);
    // To the light: up 81 in, 24 + 60 in across or so, tail of 30 in.
    const toLight = cutBetween(readerOf(houseOf(plan.file)), a, light);
    expect(toLight.way).toEqual({ kind: 'over', lengthIn: 81 + 48 + 60, riseIn: 81, acrossIn: 48 + 60 });
    expect(parts(a, light)['tail-light']).toBe(30);
    // To the next room: up and over, 81 in at each end.
    const toDen = cutBetween(readerOf(houseOf(plan.file)), a, over).way;
    expect([toDen.kind, toDen.riseIn, toDen.toRoomId]).toEqual(['over', 162, den]);
  });

  it('is a whole number of steps, never under its way, the same both ways, and what was measured where it was', () => {
    fc.assert(
      fc.property(randomHouse, ({ plan }) => {
        const reader = readerOf(houseOf(plan.file));
        for (const run of reader.all('runs')) {
          const cut = cutOf(reader, run);
          if (run.measuredLengthIn !== undefined) expect(cut.lengthIn).toBe(run.measuredLengthIn);
          else {
            expect(cut.lengthIn % 12).toBe(0);
            expect(cut.lengthIn).toBeGreaterThan(cut.way.lengthIn);
            expect(cut.parts.reduce((sum, { lengthIn }) => sum + lengthIn, 0)).toBeCloseTo(cut.lengthIn, 6);
          }
          expect(cutBetween(reader, run.to.boxId, run.from.boxId).lengthIn).toBe(
            cutBetween(reader, run.from.boxId, run.to.boxId).lengthIn,
          );
        }
      }),
      { numRuns: runs(60) },
    );
    // On the plan of the demo no way is shorter than the crow flies.
    const read = readHouseFile(demo);
    if (!read.ok) throw new Error('the demo is broken');
    const reader = readerOf(read.house);
    for (const run of reader.all('runs')) expect(cutOf(reader, run).way.kind).not.toBe('rooms');
    // What is drawn of a way is as long as what goes across it, from one box to the other, around corners.
    let bends = 0;
    const [boxes, others] = [reader.all('boxes'), reader.all('boxes').slice(0, 40)];
    for (const { id: a } of boxes)
      for (const { id: b } of others) {
        const drawnAs = a === b ? undefined : wayOnPlan(reader, a, b);
        if (!drawnAs) continue;
        const lengthIn = drawnAs
          .slice(1)
          .reduce(
            (sum, at, index) => sum + Math.hypot(at.xIn - drawnAs[index]!.xIn, at.yIn - drawnAs[index]!.yIn),
            0,
          );
        const way = wayBetween(reader, a, b);
        expect(Math.abs(lengthIn - way.acrossIn))
          .withContext(`${a} ${b} ${way.kind}`)
          .toBeLessThan(0.5);
        if (way.kind === 'studs' && drawnAs.length > 2) bends++;
      }
    expect(bends).toBeGreaterThan(5);
  });
});
