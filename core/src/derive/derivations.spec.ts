import { runs } from '../testing/seed.js';
import * as fc from 'fast-check';
import { applyChange } from '../changes/apply.js';
import { removing, setting } from '../changes/change.js';
import type { ChangeBody } from '../changes/change.js';
import { houseOf } from '../house/house-file.js';
import { fillBox } from '../fill/fill-box.js';
import { HOUSE_FINDINGS } from '../inspection/inspect-house.js';
import { makeUpBox } from '../makeup/make-up-box.js';
import { HOUSE_PULLS } from '../pulling/pull-list.js';
import { manyRooms } from '../testing/many-rooms.js';
import { randomHouse } from '../testing/random-house.js';
import { Derivations } from './derivations.js';
import type { HouseReader } from './reader.js';
import { readerOf } from './reader.js';

const everything = (reader: HouseReader): unknown => [
  reader.derive(HOUSE_FINDINGS, ''),
  reader.derive(HOUSE_PULLS, ''),
  reader.all('boxes').map((box) => [fillBox(reader, box.id), makeUpBox(reader, box.id)]),
];

describe('Kept derivations', () => {
  it('say the same as deriving everything afresh, after any change', () => {
    fc.assert(
      fc.property(
        randomHouse,
        fc.array(fc.tuple(fc.nat(6), fc.nat()), { maxLength: 5 }),
        ({ plan, boxes }, picks) => {
          let house = houseOf(plan.file);
          const kept = new Derivations(house);
          everything(kept.reader());
          for (const [kind, pick] of picks) {
            const box = boxes[pick % boxes.length]!;
            const run = plan.file.runs[pick % plan.file.runs.length]!.id;
            const bodies: ChangeBody[] = [
              setting('boxes', box, { tag: `T${pick}` }),
              setting('runs', run, { plannedCable: '12/3' }),
              removing('runs', run, true),
              removing('boxes', box, true),
              setting('circuits', plan.file.circuits[0]!.id, { breakerAmps: 20 }),
              { kind: 'rule.set', key: 'fill.volume.14', override: { value: 2.1 } },
              setting('boxes', box, { roomId: plan.file.rooms[pick % 2]!.id }),
            ];
            const applied = applyChange(house, bodies[kind]!);
            if (!applied.ok) continue;
            house = applied.document;
            kept.update(house);
            expect(JSON.stringify(everything(kept.reader()))).toBe(
              JSON.stringify(everything(readerOf(house))),
            );
          }
        },
      ),
      { numRuns: runs(60) },
    );
  });

  it('derive again only what a change touches, however large the house', () => {
    const counts = [10, 40].map((rooms) => {
      const { file, box, run } = manyRooms(rooms);
      let house = houseOf(file);
      const kept = new Derivations(house);
      everything(kept.reader());
      const other = fillBox(kept.reader(), file.boxes.at(-1)!.id);
      const all = kept.computed;
      return [
        setting('runs', run, { plannedCable: '14/3' }),
        setting('boxes', box, { catalogueId: 'plastic-1g-22.5' }),
      ].map((body) => {
        const applied = applyChange(house, body);
        if (!applied.ok) throw new Error(applied.refusal.message);
        house = applied.document;
        const before = kept.computed;
        kept.update(house);
        everything(kept.reader());
        expect(fillBox(kept.reader(), file.boxes.at(-1)!.id)).toBe(other);
        expect(kept.computed - before).toBeLessThan(all / 3);
        return kept.computed - before;
      });
    });
    expect(counts[1]).toEqual(counts[0]);
  });

  it('of another version share what is still true, and say the same as deriving it afresh', () => {
    fc.assert(
      fc.property(
        randomHouse,
        fc.array(fc.tuple(fc.nat(6), fc.nat()), { minLength: 1, maxLength: 4 }),
        ({ plan, boxes }, picks) => {
          const house = houseOf(plan.file);
          const kept = new Derivations(house);
          const before = everything(kept.reader());
          let other = house;
          for (const [kind, pick] of picks) {
            const box = boxes[pick % boxes.length]!;
            const run = plan.file.runs[pick % plan.file.runs.length]!.id;
            const bodies: ChangeBody[] = [
              setting('boxes', box, { heightIn: pick % 90 }),
              setting('runs', run, { plannedCable: '12/3' }),
              removing('boxes', box, true),
              { kind: 'rule.set', key: 'fill.volume.14', override: { value: 2 + (pick % 3) } },
              setting('boxes', box, { catalogueId: 'plastic-1g-22.5', tag: `T${pick}` }),
              { kind: 'house.set', base: 'us-2017' },
            ];
            const applied = applyChange(other, bodies[kind % bodies.length]!);
            if (applied.ok) other = applied.document;
            // A fork of a fork, too.
            const fork = (kind % 2 ? kept.fork(house) : kept).fork(other);
            expect(everything(fork.reader())).toEqual(everything(readerOf(other)));
          }
          // Nobody who looked ahead has changed what is.
          const { computed } = kept;
          expect(everything(kept.reader())).toEqual(before);
          expect(kept.computed).toBe(computed);
          kept.update(other);
          expect(everything(kept.reader())).toEqual(everything(readerOf(other)));
        },
      ),
      { numRuns: runs(25) },
    );
  });
});
