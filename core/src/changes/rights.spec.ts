import * as fc from 'fast-check';
import { CREW_CHANGES } from '../crew/crew-change.js';
import { mayChangeCrew } from '../crew/crew-rights.js';
import { rowsOf } from '../documents/document.js';
import { houseOf } from '../house/house-file.js';
import { TABLES, TABLE_NAMES } from '../house/model.js';
import { randomHouse } from '../testing/random-house.js';
import type { RandomHouse } from '../testing/random-house.js';
import { many, runs } from '../testing/seed.js';
import type { Actor, Role } from '../vocabulary/roles.js';
import { applyChange } from './apply.js';
import type { ChangeBody } from './change.js';
import { HOUSE_CHANGES } from './change.js';
import type { HouseDiff } from './diff.js';
import { Plan } from '../testing/plan.js';
import { mayChange } from './rights.js';

const NEW = '77777777-0000-4000-8000-000000000009';
const as = (role: Role): Actor => ({ id: NEW, role });
const HAND = as('hand');

/** A second opinion: by what a change did, not by what it was. */
const WORK = new Set(['pulls', 'records', 'reels']);
const FIELDS: Record<string, readonly string[]> = {
  boxes: ['asBuilt', 'alongIn', 'placeNote', 'setOutIn'],
  asks: ['doneAt', 'doneBy'],
  runs: ['measuredLengthIn', 'from', 'to'],
};
const isWork = ({ head, rows }: HouseDiff): boolean =>
  Object.keys(head).length === 0 &&
  rows.every(({ table, added, removed, changed = {}, moved }) => {
    if (WORK.has(table)) return true;
    if (added && table === 'asks') return true;
    if (added || removed || moved) return false;
    return Object.entries(changed).every(([field, { from, to }]) => {
      if (!FIELDS[table]?.includes(field)) return false;
      const end = (value: unknown): unknown => (value as { boxId?: string } | undefined)?.boxId;
      return !['from', 'to'].includes(field) || end(from) === end(to);
    });
  });

/** Changes of all kinds of a house: adding, writing each field as another record has it, removing. */
const changeOf = (random: RandomHouse, pick: readonly number[]): ChangeBody | undefined => {
  const house = houseOf(random.plan.file);
  const [list, which, other, verb, field] = pick as [number, number, number, number, number];
  const table = TABLE_NAMES[list % TABLE_NAMES.length]!;
  const records = rowsOf(house, table).map(
    ({ record }) => record as { id: string } & Record<string, unknown>,
  );
  const record = records[which % records.length];
  const like = records[other % records.length];
  if (!record || !like)
    return table === 'asks' ? HOUSE_CHANGES.adding('asks', { id: NEW, kind: 'note' } as never) : undefined;
  if (verb === 0) return HOUSE_CHANGES.adding(table, { ...record, id: NEW } as never) as ChangeBody;
  if (verb === 1) return HOUSE_CHANGES.removing(table, record.id, other % 2 === 0) as ChangeBody;
  const fields = Object.keys(TABLES[table].schema.shape).filter((name) => name !== 'id');
  const name = fields[field % fields.length]!;
  return HOUSE_CHANGES.setting(table, record.id, { [name]: like[name] ?? null } as never) as ChangeBody;
};

describe('Rights', () => {
  it('of a hand are the work itself, by what a change does; a lead’s are everything, a viewer’s nothing', () => {
    const pick = fc.array(fc.nat({ max: 997 }), { minLength: 5, maxLength: 5 });
    const kinds = new Set<string>();
    fc.assert(
      fc.property(randomHouse, fc.array(pick, { minLength: 12, maxLength: 12 }), (random, picks) => {
        const house = houseOf(random.plan.file);
        for (const [list, which, other, verb, field] of picks as [number, number, number, number, number][]) {
          const body = changeOf(random, [list, which, other, verb % 3, field]);
          if (!body) continue;
          const applied = applyChange(house, body);
          if (!applied.ok) continue;
          const may = mayChange(HAND, body, house) === undefined;
          // Removing what hangs on it is asked of a lead, whatever it takes with it.
          const isPlain = !('withDependents' in body && body.withDependents);
          if (may) expect(isWork(applied.diff)).withContext(JSON.stringify(body)).toBeTrue();
          else if (isPlain && applied.diff.rows.length)
            expect(isWork(applied.diff)).withContext(JSON.stringify(body)).toBeFalse();
          kinds.add(`${body.kind} ${may}`);
          expect(mayChange(as('lead'), body, house)).toBeUndefined();
          expect(mayChange(as('viewer'), body, house)?.code).toBe('rights.viewer');
          // One that is not theirs spoils a group; what they did they may take back.
          const group: ChangeBody = {
            kind: 'group',
            changes: [body as never, { kind: 'house.set', name: 'Mine' }],
          };
          expect(mayChange(HAND, group, house)?.code).toBe('rights.lead-only');
          const back: ChangeBody = { kind: 'revert', of: NEW };
          const undone = mayChange(HAND, back, applied.document, () => applied.diff);
          if (isPlain && applied.diff.rows.length && body.kind !== 'ask.add')
            expect(undone === undefined)
              .withContext(JSON.stringify(body))
              .toBe(may);
        }
      }),
      { numRuns: runs(60) },
    );
    expect([...kinds].filter((kind) => kind.endsWith('true')).length).toBeGreaterThan(many(3));
    expect([...kinds].filter((kind) => kind.endsWith('false')).length).toBeGreaterThan(many(15));
  });

  it('go by the house where a role of its own is said for it, and nobody makes themselves a lead', () => {
    const house = houseOf(fc.sample(randomHouse, { numRuns: 1, seed: 1 })[0]!.plan.file);
    const rename: ChangeBody = { kind: 'house.set', name: 'Ours' };
    const own = { ...HAND, roleIn: [{ houseId: house.head.id, role: 'lead' as const }] };
    expect(mayChange(own, rename, house)).toBeUndefined();
    expect(
      mayChange({ ...as('lead'), roleIn: [{ houseId: house.head.id, role: 'viewer' }] }, rename, house)?.code,
    ).toBe('rights.viewer');
    for (const [fields, may] of [
      [{ role: 'lead' as const }, false],
      [{ roleIn: own.roleIn }, false],
      [{ language: 'es' as const }, true],
      [{ left: true }, true],
      [{ left: null }, false],
    ] as const) {
      const body = CREW_CHANGES.setting('people', HAND.id, fields);
      expect(mayChangeCrew(own, body) === undefined).toBe(may);
      expect(mayChangeCrew({ ...HAND, id: house.head.id }, body)).toBeDefined();
    }
  });

  it('of what is found and stays as it is are a lead’s', () => {
    const plan = new Plan('Accepted');
    const by = plan.person('Ansel');
    const record = {
      id: NEW,
      kind: 'accepted',
      at: '2026-03-02T08:00:00Z',
      by,
      note: 'as built in 1990',
    } as const;
    const accepted = { finding: '0123456789abcdef' };
    const add = HOUSE_CHANGES.adding('records', { ...record, accepted }) as ChangeBody;
    const house = houseOf(plan.file);
    expect(mayChange(HAND, add, house)?.code).toBe('rights.lead-only');
    expect(mayChange(as('lead'), add, house)).toBeUndefined();
    // Nor by writing it over a record of one's own.
    const own = HOUSE_CHANGES.adding('records', { ...record, kind: 'tick' }) as ChangeBody;
    expect(mayChange(HAND, own, house)).toBeUndefined();
    const tried = applyChange(house, own);
    if (!tried.ok) throw new Error('the tick is not taken');
    const over = HOUSE_CHANGES.setting('records', NEW, { kind: 'accepted', accepted } as never) as ChangeBody;
    expect(mayChange(HAND, over, tried.document)?.code).toBe('rights.lead-only');
  });
});
