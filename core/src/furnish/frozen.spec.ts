import '../testing/seed.js';
import * as fc from 'fast-check';
import { applyChange } from '../changes/apply.js';
import type { SingleChangeBody } from '../changes/change.js';
import { adding, setting } from '../changes/change.js';
import { readerOf } from '../derive/reader.js';
import { houseOf } from '../house/house-file.js';
import type { House } from '../house/house.js';
import { recordOf, rowsOf } from '../house/house.js';
import { inspectHouse } from '../inspection/inspect-house.js';
import { randomRooms } from '../testing/random-rooms.js';
import { runs } from '../testing/seed.js';
import type { DraftChoices } from './draft-house.js';
import { draftHouse } from './draft-house.js';

function made(house: House, changes: readonly SingleChangeBody[]): House {
  if (changes.length === 0) return house;
  const applied = applyChange(house, { kind: 'group', changes: [...changes] });
  if (!applied.ok) throw new Error(JSON.stringify(applied.refusal));
  return applied.document;
}
/** What would be stopped for or fixed. */
const wrongIn = (house: House): string[] =>
  inspectHouse(readerOf(house)).flatMap(({ code, severity, facts }) =>
    // A house of closets alone has no room for a panel.
    severity === 'note' || (code === 'layout.panel' && (facts as { why: string }).why === 'room')
      ? []
      : [code],
  );

/** Everything is asked another way than most houses have it. */
const OTHERWISE: DraftChoices['rules'] = {
  'draft.points': '8',
  'draft.baths': 'one',
  'draft.lightsApart': 'apart',
  'draft.livingLight': 'receptacle',
  'draft.fans': 'light',
};

describe('Drafting again otherwise', () => {
  it('leaves rooms as they are that are left out, and what hangs together with them: nothing is cut off', () => {
    fc.assert(
      fc.property(randomRooms, fc.array(fc.nat(20), { maxLength: 6 }), ({ file, rules }, out) => {
        const start = houseOf(file);
        const house = made(start, draftHouse(start, { rules }).changes);
        const leaveOut = new Set(out.map((at) => file.rooms[at % file.rooms.length]!.id));
        const after = made(house, draftHouse(house, { leaveOut, rules: OTHERWISE }).changes);
        expect(wrongIn(after)).toEqual([]);
        for (const { record } of rowsOf(house, 'boxes'))
          if (leaveOut.has(record.roomId!)) expect(recordOf(after, 'boxes', record.id)).toEqual(record);
        expect(draftHouse(after, { leaveOut }).changes).toEqual([]);
      }),
      { numRuns: runs(16) },
    );
  });

  it('over a half-pulled house leaves every circuit as it is of which cable is in, and the rest whole', () => {
    fc.assert(
      fc.property(
        randomRooms,
        fc.array(fc.nat(500), { minLength: 1, maxLength: 6 }),
        fc.boolean(),
        ({ file, rules }, picks, isLarger) => {
          const start = houseOf(file);
          let house = made(start, draftHouse(start, { rules }).changes);
          const cables = rowsOf(house, 'runs').flatMap(({ record }) => (record.plannedCable ? [record] : []));
          if (cables.length === 0) return;
          const pulled = [...new Set(picks.map((pick) => cables[pick % cables.length]!))];
          house = made(house, [
            ...pulled.map(({ id, plannedCable }, at) =>
              adding('pulls', {
                id: `eeeeeeee-0000-4000-8000-00000000000${at}`,
                runId: id,
                cable: plannedCable!,
                at: '2026-03-02T08:00:00Z',
                by: 'bbbbbbbb-0000-4000-8000-000000000001',
                state: 'in',
              }),
            ),
            ...(isLarger
              ? [setting('rooms', file.rooms[0]!.id, { lengthIn: 400, widthIn: 300, ways: 3 })]
              : []),
          ]);
          const after = made(house, draftHouse(house, { rules: OTHERWISE }).changes);
          expect(wrongIn(after)).toEqual([]);
          const circuits = new Set(pulled.flatMap(({ circuitIds }) => circuitIds));
          for (const { record } of rowsOf(house, 'runs'))
            if (record.circuitIds.some((id) => circuits.has(id)))
              expect(recordOf(after, 'runs', record.id)).toEqual(record);
          expect(draftHouse(after).changes).toEqual([]);
        },
      ),
      { numRuns: runs(20) },
    );
  });
});
