import '../core/src/testing/seed.js';
import * as fc from 'fast-check';
import { applyChange } from '../core/src/changes/apply.js';
import { setting } from '../core/src/changes/change.js';
import { readerOf } from '../core/src/derive/reader.js';
import { draftHouse } from '../core/src/furnish/draft-house.js';
import { houseOf, writeHouseFile } from '../core/src/house/house-file.js';
import { rowsOf } from '../core/src/house/house.js';
import { farCounters, farStretches } from '../core/src/plan/spacing.js';
import { randomLayout } from '../core/src/testing/random-layout.js';
import { many, runs } from '../core/src/testing/seed.js';
import { missingIn } from './spacing-evaluator.js';

describe('Wall and counter that lack a receptacle, by a second opinion that walks the walls by quarter inches', () => {
  it('are as long: in rooms with doors, glass, hearths and counters wherever they fall, and receptacles moved at random', () => {
    let seen = 0;
    fc.assert(
      fc.property(randomLayout, ({ file, rules, shifts }) => {
        let house = houseOf(file);
        const drafted = applyChange(house, {
          kind: 'group',
          changes: [...draftHouse(house, { rules }).changes],
        });
        if (drafted.ok) house = drafted.document;
        rowsOf(house, 'boxes').forEach(({ record }, at) => {
          const shift = shifts[at % shifts.length]!;
          if (record.alongIn === undefined || shift === 0) return;
          const moved = applyChange(
            house,
            setting('boxes', record.id, { alongIn: Math.max(0, record.alongIn + shift) }),
          );
          if (moved.ok) house = moved.document;
        });
        const reader = readerOf(house);
        for (const [roomId, { wallIn, counterIn }] of missingIn(
          writeHouseFile(house) as unknown as Record<string, unknown>,
        )) {
          const sum = (all: readonly { fromIn: number; toIn: number }[]): number =>
            all.reduce((total, { fromIn, toIn }) => total + toIn - fromIn, 0);
          const [wall, counter] = [sum(farStretches(reader, roomId) ?? []), sum(farCounters(reader, roomId))];
          if (wallIn > 1 || counterIn > 1) seen++;
          // A step at either end of each of a few stretches.
          expect(Math.abs(wall - wallIn))
            .withContext(`wall of ${reader.get('rooms', roomId)!.name}: ${wall} and ${wallIn}`)
            .toBeLessThan(5);
          expect(Math.abs(counter - counterIn))
            .withContext(`counter of ${reader.get('rooms', roomId)!.name}: ${counter} and ${counterIn}`)
            .toBeLessThan(5);
        }
      }),
      { numRuns: runs(60) },
    );
    expect(seen).toBeGreaterThan(many(10));
  });
});
