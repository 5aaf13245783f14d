import * as fc from 'fast-check';
import { applyChange } from '../changes/apply.js';
import type { Diff } from '../documents/diff.js';
import { applyDiff, withErasable, withoutErasable } from '../documents/diff.js';
import { rowsOf } from '../documents/document.js';
import { emptyHouse } from '../house/house.js';
import type { CrewBook, CrewList } from './crew.js';
import { CREW, emptyCrew, readCrewFile, writeCrewFile } from './crew.js';
import { habitIn, habitOf, habitsFor, kitChanges, kitOfRoom } from './crew-at-work.js';
import type { CrewChangeBody } from './crew-change.js';
import { CREW_CHANGES, applyCrewChange, crewChangeWithWas, readCrewChange } from './crew-change.js';

const { adding, setting, removing } = CREW_CHANGES;
const uuid = (n: number): string => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;
const start = emptyCrew({ id: uuid(0), name: 'This crew' });

const after = (crew: CrewBook, body: CrewChangeBody): CrewBook => {
  const applied = applyCrewChange(crew, body);
  if (!applied.ok) throw new Error(applied.refusal.message);
  return applied.document;
};
const codeOf = (crew: CrewBook, body: CrewChangeBody): string => {
  const applied = applyCrewChange(crew, body);
  return applied.ok ? 'applied' : applied.refusal.code;
};

/** Changes as a crew could make them, some of which do not fit. */
const ids = fc.integer({ min: 1, max: 12 }).map(uuid);
const names = fc.constantFrom('Ada', 'Bo', 'Cy');
const bodies: fc.Arbitrary<CrewChangeBody> = fc.oneof(
  fc.record({ id: ids, name: names }).map((person) => adding('people', person)),
  fc.tuple(ids, names, fc.boolean()).map(([id, name, left]) => setting('people', id, { name, left })),
  ids.map((id) => removing('people', id)),
  fc.tuple(ids, names, fc.option(ids, { nil: undefined })).map(([id, name, parentId]) =>
    adding('stock', {
      id,
      name,
      kind: 'reel',
      cable: '14/2',
      lengthIn: 3000,
      ...(parentId && { parentId }),
    }),
  ),
  fc.tuple(ids, fc.nat(3000)).map(([id, lengthIn]) => setting('stock', id, { lengthIn })),
  ids.map((id) => removing('stock', id)),
  fc
    .tuple(ids, fc.constantFrom('14/2', '12/2'))
    .map(([id, item]) => adding('prices', { id, kind: 'cable', item, amount: 0.4 })),
);

describe('Crew book', () => {
  it('comes to the same from its journal, its file, and back by undoing, whatever a crew does', () => {
    fc.assert(
      fc.property(fc.array(bodies, { maxLength: 30 }), (changes) => {
        let crew = start;
        const stored: Diff<CrewList>[] = [];
        for (const body of changes) {
          const seen = crewChangeWithWas(crew, body);
          const envelope = { change: { id: uuid(99), version: 3, body: seen }, actorId: uuid(1) };
          expect(readCrewChange(JSON.parse(JSON.stringify(envelope))).ok).toBeTrue();
          const applied = applyCrewChange(crew, seen);
          if (!applied.ok) continue;
          const kept = withoutErasable(CREW, applied.diff);
          const back = applyCrewChange(
            applied.document,
            { kind: 'revert', of: uuid(99) },
            () => applied.diff,
          );
          // The same from what the journal keeps, but for the names of those who were taken off the list.
          const fromJournal = applyCrewChange(applied.document, { kind: 'revert', of: uuid(99) }, () => kept);
          expect(fromJournal.ok).withContext(`${body.kind} from the journal`).toBe(back.ok);
          if (fromJournal.ok && back.ok)
            expect(writeCrewFile(fromJournal.document)).toEqual(writeCrewFile(back.document));
          const isAboutNames = ['person.set', 'person.remove'].includes(body.kind);
          if (!isAboutNames)
            expect(back.ok && writeCrewFile(back.document))
              .withContext(body.kind)
              .toEqual(writeCrewFile(crew));
          // No name is in what is kept, whatever was done.
          expect(JSON.stringify(kept.rows.filter(({ table }) => table === 'people'))).not.toMatch(
            /Ada|Bo|Cy/,
          );
          crew = applied.document;
          stored.push(kept);
        }
        const replayed = stored.reduce((at, diff) => applyDiff(at, withErasable(crew, diff)), start);
        expect(writeCrewFile(replayed)).toEqual(writeCrewFile(crew));
        const read = readCrewFile(JSON.parse(JSON.stringify(writeCrewFile(crew))));
        expect(read.ok && writeCrewFile(read.crew)).toEqual(writeCrewFile(crew));
        const people = rowsOf(crew, 'people').map(({ record }) => record.name);
        expect(new Set(people).size).withContext('names tell people apart').toBe(people.length);
      }),
    );
  });

  it('holds one habit for a value, one price, one name for a connector, and tells people apart', () => {
    const crew = [
      adding('people', { id: uuid(1), name: 'Ada' }),
      adding('people', { id: uuid(2), name: 'Ada' }),
      adding('habits', { id: uuid(3), key: 'fill.groundsCovered', override: { value: 1 } }),
      adding('connectorNames', { id: uuid(4), connector: 'x', name: 'Small one' }),
      adding('prices', { id: uuid(5), kind: 'hour', amount: 60 }),
    ].reduce<CrewBook>(after, start);
    expect(rowsOf(crew, 'people').map(({ record }) => record.name)).toEqual(['Ada', 'Ada (2)']);
    const again = (body: CrewChangeBody) => codeOf(crew, body);
    expect(again(adding('habits', { id: uuid(6), key: 'fill.groundsCovered', override: { value: 2 } }))).toBe(
      'crew.only-one',
    );
    expect(again(adding('connectorNames', { id: uuid(6), connector: 'x', name: 'Other' }))).toBe(
      'crew.only-one',
    );
    expect(again(adding('prices', { id: uuid(6), kind: 'hour', amount: 61 }))).toBe('crew.only-one');
    expect(again(setting('people', uuid(2), { name: 'Ada' }))).toBe('person.name-taken');
    expect(again(setting('prices', uuid(5), { amount: 61 }))).toBe('applied');
    // Not by undoing either.
    const gone = applyCrewChange(crew, removing('prices', uuid(5)));
    if (!gone.ok) throw new Error('it can go');
    const other = after(gone.document, adding('prices', { id: uuid(7), kind: 'hour', amount: 61 }));
    const back = applyCrewChange(other, { kind: 'revert', of: uuid(9) }, () => gone.diff);
    expect(back.ok || back.refusal.code).toBe('crew.only-one');
  });

  it('does not bring back a record whose id another list has by now', () => {
    const crew = after(start, adding('prices', { id: uuid(1), kind: 'hour', amount: 60 }));
    const gone = applyCrewChange(crew, removing('prices', uuid(1)));
    if (!gone.ok) throw new Error('it can go');
    const other = after(gone.document, adding('people', { id: uuid(1), name: 'Ada' }));
    const back = applyCrewChange(other, { kind: 'revert', of: uuid(9) }, () => gone.diff);
    expect(back.ok || back.refusal.code).toBe('revert.conflict');
    // Both in one change is taken back as one.
    const both = applyCrewChange(crew, {
      kind: 'group',
      changes: [
        removing('prices', uuid(1)),
        adding('habits', { id: uuid(1), key: 'free.length', override: { value: 8 } }),
      ],
    });
    if (!both.ok) throw new Error(both.refusal.message);
    const undone = applyCrewChange(both.document, { kind: 'revert', of: uuid(9) }, () => both.diff);
    expect(undone.ok && writeCrewFile(undone.document)).toEqual(writeCrewFile(crew));
  });

  it('gives a new house the habits that its edition allows', () => {
    const crew = [
      adding('habits', { id: uuid(1), key: 'free.length', override: { value: 8 } }),
      adding('habits', { id: uuid(2), key: 'free.nothing', override: { value: 8 } }),
      adding('habits', { id: uuid(3), key: 'fill.groundsCovered', override: { value: 'many' } }),
    ].reduce<CrewBook>(after, start);
    const habits = habitsFor(crew, 'us-2020');
    expect(habits).toEqual({ 'free.length': { value: 8 } });
  });

  it('keeps a habit in the units of where it is known first, and one of another country for the houses there', () => {
    const kept = habitOf('gb-2018', 'makeup.pigtail', { value: 152.4 });
    expect(kept).toEqual({ value: 6 });
    const crew = [
      adding('habits', { id: uuid(1), key: 'makeup.pigtail', override: kept! }),
      adding('habits', { id: uuid(2), key: 'plates.labels', override: { value: 'lettered' } }),
    ].reduce<CrewBook>(after, start);
    expect(habitsFor(crew, 'gb-2018')).toEqual({
      'makeup.pigtail': { value: 152.4 },
      'plates.labels': { value: 'lettered' },
    });
    expect(habitsFor(crew, 'us-2020')).toEqual({ 'makeup.pigtail': { value: 6 } });
    // Only metric there: no habit of a house that has a choice.
    expect(habitIn('gb-2018', 'show.units', { value: 'decimal' })).toBeUndefined();
  });

  it('puts a kit into a room so that the room gives the same kit again', () => {
    const [storeyId, roomId, other] = [uuid(1), uuid(2), uuid(3)];
    let next = 100;
    const newId = (): string => uuid(next++);
    const rooms = [
      { kind: 'storey.add', record: { id: storeyId, name: 'Ground floor' } },
      { kind: 'room.add', record: { id: roomId, storeyId, name: 'Bed 1', kind: 'bedroom', order: 1 } },
      { kind: 'room.add', record: { id: other, storeyId, name: 'Bed 2', kind: 'bedroom', order: 2 } },
    ] as const;
    const kit = {
      id: uuid(9),
      name: 'Bedroom',
      roomKind: 'bedroom' as const,
      boxes: [
        {
          catalogueId: 'plastic-1g-18',
          tag: 'S',
          heightIn: 48,
          devices: [{ catalogueId: 'switch', gang: 1 }],
        },
        { catalogueId: 'plastic-1g-18', tag: 'R', devices: [{ catalogueId: 'receptacle', gang: 1 }] },
      ],
    };
    let house = emptyHouse({ id: uuid(0), name: 'Lot', rulebook: { base: 'us-2020', overrides: {} } });
    const put = (room: string): void => {
      const changes = kitChanges(house, room, kit, newId);
      const applied = applyChange(house, { kind: 'group', changes });
      if (!applied.ok) throw new Error(applied.refusal.message);
      house = applied.document;
    };
    for (const body of rooms) {
      const applied = applyChange(house, body);
      if (!applied.ok) throw new Error(applied.refusal.message);
      house = applied.document;
    }
    put(roomId);
    put(other);
    expect(kitOfRoom(house, roomId, kit.id, kit.name)).toEqual(kit);
    expect(kitOfRoom(house, other, kit.id, kit.name)!.boxes.map(({ tag }) => tag)).toEqual(['S-2', 'R-2']);
    expect(rowsOf(house, 'points').length).withContext('a switch has its lever').toBe(6);
    expect(kitChanges(house, uuid(77), kit, newId)).toEqual([]);
  });
});
