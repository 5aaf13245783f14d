import * as fc from 'fast-check';
import { applyChange } from '../changes/apply.js';
import { readerOf } from '../derive/reader.js';
import type { House } from '../house/house.js';
import { houseOf } from '../house/house-file.js';
import { inspectHouse } from '../inspection/inspect-house.js';
import { rulebookFor } from '../rulebook/rulebook.js';
import { randomHouse } from '../testing/random-house.js';
import { runs } from '../testing/seed.js';
import { toAnotherCode } from './another-code.js';

const moved = (house: House, base: string) => {
  const { change, unkept } = toAnotherCode(readerOf(house), base);
  const applied = applyChange(house, change);
  if (!applied.ok) throw new Error(applied.refusal.message);
  return { house: applied.document, unkept };
};

/** Values that a house may set, in the units of where it stands, with what they are on the other side, by hand. */
const OWN = {
  'free.length': [8, 203.2],
  'secure.every': [48, 1219.2],
  'cut.round': [24, 609.6],
  'estimate.homeRun': [50, 15.24],
  'plan.minutesPerFoot': [0.2, 0.656],
  'layout.bayArea': [200, 18.581],
  'makeup.hots': ['looped', 'looped'],
} as const;

describe('Another country’s code', () => {
  it('takes along what a house has set, in the units of the other, says what it loses, and comes back', () => {
    fc.assert(
      fc.property(randomHouse, fc.subarray(Object.keys(OWN) as (keyof typeof OWN)[]), ({ plan }, keys) => {
        const overrides = Object.fromEntries([
          ...keys.map((key) => [key, { value: OWN[key][0], reason: 'ours' }]),
          ['fill.clamps', { value: 2 }],
        ]);
        const home = houseOf({ ...plan.file, rulebook: { base: 'us-2020', overrides } });
        const { house: away, unkept } = moved(home, 'ca-2021');
        expect(unkept.rules).toEqual(['Internal cable clamps, any number']);
        expect(away.head.rulebook.base).toBe('ca-2021');
        expect(
          Object.fromEntries(
            Object.entries(away.head.rulebook.overrides).map(([key, { value }]) => [key, value]),
          ),
        ).toEqual(Object.fromEntries(keys.map((key) => [key, OWN[key][1]])));
        // The core reads the same length on both sides.
        const [here, there] = [home, away].map(({ head }) => rulebookFor(head.rulebook));
        for (const key of keys)
          if (typeof OWN[key][0] === 'number')
            expect(Math.abs(there!.number(key) / here!.number(key) - 1)).toBeLessThan(1e-3);
        // Every record stays, and what is not sold there is counted.
        expect(away.tables).toEqual(home.tables);
        const plastic = plan.file.boxes.filter(({ catalogueId }) => catalogueId === 'plastic-1g-18').length;
        expect(
          unkept.boxes.find(({ name }) => name === 'Plastic, 1 gang')?.boxes ?? 0,
        ).toBeGreaterThanOrEqual(plastic);
        const { house: back } = moved(away, 'us-2020');
        for (const key of keys) {
          const { value } = back.head.rulebook.overrides[key]!;
          if (typeof value === 'number') expect(Math.abs(value / Number(OWN[key][0]) - 1)).toBeLessThan(1e-3);
          else expect(value).toBe(OWN[key][0] as string);
        }
        expect(() => inspectHouse(readerOf(away))).not.toThrow();
      }),
      { numRuns: runs(30) },
    );
  });
});
