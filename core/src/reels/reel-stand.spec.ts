import * as fc from 'fast-check';
import type { Pull } from '../house/model.js';
import { reelUsageOf } from '../facts/reel-usage.js';
import { many, runs } from '../testing/seed.js';
import { reelStand } from './reel-stand.js';

const HOUSES = ['h1', 'h2', 'h3'];
const PEOPLE = ['a', 'b'];

interface Told {
  readonly house: number;
  readonly by: number;
  readonly day: number;
  readonly from: number;
  readonly feet: number;
}
const told: fc.Arbitrary<Told[]> = fc.array(
  fc.record({
    house: fc.nat(2),
    by: fc.nat(1),
    day: fc.integer({ min: 1, max: 4 }),
    from: fc.integer({ min: 0, max: 200 }),
    feet: fc.integer({ min: 2, max: 40 }),
  }),
  { maxLength: 8 },
);
const pullOf = ({ by, day, from, feet }: Told, at: number): Pull => ({
  id: `p${at}`,
  runId: 'r',
  by: PEOPLE[by]!,
  at: `2026-11-0${day}T08:00:00Z`,
  state: 'in',
  startMark: from + feet,
  endMark: from,
});

describe('A reel that several take from', () => {
  it('is what all left of it, and is asked about where two had it at once: by its feet, and by its days', () => {
    let asked = 0;
    fc.assert(
      fc.property(told, fc.integer({ min: 20, max: 250 }), (all, feetOn) => {
        const uses = HOUSES.map((houseId, house) => ({
          houseId,
          usage: reelUsageOf(all.map(pullOf).filter((_, at) => all[at]!.house === house)),
        }));
        const { leftIn, usedIn, questions } = reelStand(feetOn * 12, uses);
        const feet = all.reduce((sum, one) => sum + one.feet, 0);
        expect(usedIn).toBe(feet * 12);
        expect(leftIn).toBe((feetOn - feet) * 12);
        expect(questions.some(({ kind }) => kind === 'overdrawn')).toBe(feet > feetOn);
        // Every foot between 0 and 240: who told of it.
        const isTwice = Array.from({ length: 240 }, (_, foot) =>
          all.filter(({ from, feet: own }) => from <= foot && foot + 1 <= from + own),
        ).some((who) => who.length > 1);
        expect(questions.some(({ kind }) => kind === 'same-feet')).toBe(isTwice);
        const isTwoPlaces = [1, 2, 3, 4].some((day) => {
          const own = all.filter((one) => one.day === day);
          return new Set(own.map(({ house }) => house)).size > 1 && new Set(own.map(({ by }) => by)).size > 1;
        });
        expect(questions.some(({ kind }) => kind === 'two-houses')).toBe(isTwoPlaces);
        asked += questions.length;
      }),
      { numRuns: runs(200) },
    );
    expect(asked).toBeGreaterThan(many(50));
  });
});
