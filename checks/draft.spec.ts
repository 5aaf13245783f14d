import '../core/src/testing/seed.js';
import * as fc from 'fast-check';
import { applyChange } from '../core/src/changes/apply.js';
import { readerOf } from '../core/src/derive/reader.js';
import { draftHouse } from '../core/src/furnish/draft-house.js';
import type { HouseFile } from '../core/src/house/house-file.js';
import { houseOf, writeHouseFile } from '../core/src/house/house-file.js';
import type { House } from '../core/src/house/house.js';
import { inspectHouse } from '../core/src/inspection/inspect-house.js';
import { randomRooms } from '../core/src/testing/random-rooms.js';
import { runs } from '../core/src/testing/seed.js';
import { complaintsAbout } from './draft-evaluator.js';

function drafted(file: HouseFile, rules: Readonly<Record<string, string>>): House {
  const house = houseOf(file);
  const { changes } = draftHouse(house, { rules });
  if (changes.length === 0) return house;
  const applied = applyChange(house, { kind: 'group', changes: [...changes] });
  if (!applied.ok) throw new Error(JSON.stringify(applied.refusal));
  return applied.document;
}

describe('A drafted house, by a second opinion that reads its file alone', () => {
  it('is fed, fits, follows its switches, keeps circuits apart that serve nothing else, and fills its panel', () => {
    fc.assert(
      fc.property(randomRooms, ({ file, rules }) => {
        const house = writeHouseFile(drafted(file, rules)) as unknown as Record<string, unknown>;
        expect(complaintsAbout(house)).toEqual([]);
      }),
      { numRuns: runs(150) },
    );
  });

  it('has nothing to stop for and nothing to fix, and its proof holds', () => {
    fc.assert(
      fc.property(randomRooms, ({ file, rules }) => {
        const found = inspectHouse(readerOf(drafted(file, rules))).filter(
          ({ severity }) => severity !== 'note',
        );
        expect(found.map(({ code, where }) => ({ code, where }))).toEqual([]);
      }),
      { numRuns: runs(60) },
    );
  });
});
