import { readFileSync } from 'node:fs';
import * as fc from 'fast-check';
import type { House, HouseDiff, HouseFile } from '@mule-tally/core';
import {
  Derivations,
  TABLE_NAMES,
  applyChange,
  applyDiff,
  houseOf,
  readChange,
  readHouseFile,
  recordOf,
  rowsOf,
  upgradeDiff,
  upgradeEnvelope,
  upgradeFile,
  writeHouseFile,
} from '@mule-tally/core';
import { inspectHouse } from '@mule-tally/core/work';
import { runs } from '../core/src/testing/seed.js';

/** What earlier versions have left behind: a house, its journal and what was unsent on a device, written by that version. */
type Version = 1 | 2;
const kept = (version: Version, name: string): unknown =>
  JSON.parse(readFileSync(new URL(`./kept/version-${version}/${name}.json`, import.meta.url), 'utf8'));

type Json = Record<string, unknown>;
interface Entry {
  readonly changeId: string;
  readonly diff: HouseDiff;
}
interface Row {
  readonly at: number;
  readonly record: Json;
}

/** A house of an earlier version as plain rows: it knows nothing of the core, and nothing of what the fields mean. */
class Plain {
  readonly lists = new Map<string, Map<string, Row>>();
  constructor(
    readonly head: Json,
    private readonly read: Json,
  ) {
    let at = 0;
    for (const [name, list] of Object.entries(read)) {
      if (!Array.isArray(list)) continue;
      this.lists.set(name, new Map());
      for (const record of list as Json[])
        this.lists.get(name)!.set(String(record['id']), { at: at++, record });
    }
  }
  apply(diff: HouseDiff): void {
    const rulebook = this.head['rulebook'] as { base: unknown; overrides: Json };
    for (const [field, { to }] of Object.entries(diff.head)) {
      if (field === 'name') this.head['name'] = to;
      else if (field === 'base') rulebook.base = to;
      else if (to === undefined) delete rulebook.overrides[field.slice('override:'.length)];
      else rulebook.overrides[field.slice('override:'.length)] = to;
    }
    for (const { table, id, added, removed, changed, moved } of diff.rows) {
      const list = this.lists.get(table)!;
      if (removed) list.delete(id);
      else if (added) list.set(id, added);
      else {
        const { at, record } = list.get(id)!;
        const next = { ...record };
        for (const [field, { to }] of Object.entries(changed ?? {}))
          if (to === undefined) delete next[field];
          else next[field] = to;
        list.set(id, { at: moved?.to ?? at, record: next });
      }
    }
  }
  file(): Json {
    const lists = [...this.lists].map(([name, rows]) => [
      name,
      [...rows.values()]
        .sort((a, b) => a.at - b.at || (String(a.record['id']) < String(b.record['id']) ? -1 : 1))
        .map(({ record }) => record),
    ]);
    return {
      ...this.read,
      ...structuredClone(this.head),
      ...Object.fromEntries(lists),
    };
  }
}

const plainOf = (file: Json): Plain => {
  const { id, name, rulebook } = structuredClone(file);
  return new Plain({ id, name, rulebook }, file);
};

function upgraded(file: unknown): HouseFile {
  const read = readHouseFile(file);
  if (!read.ok) throw new Error(JSON.stringify(read.problems.slice(0, 3)));
  return { ...read.file, people: [] };
}
const written = (house: House): HouseFile => writeHouseFile(house);
const listsOf = (house: House): unknown =>
  TABLE_NAMES.map((table) => rowsOf(house, table).map(({ record }) => record));
for (const version of [1, 2] as const)
  describe(`A house and its journal of version ${version}`, () => {
    const start = kept(version, 'house') as Json;
    const journal = kept(version, 'journal') as Entry[];
    const now = (diff: unknown): HouseDiff => upgradeDiff(diff, version) as HouseDiff;
    const after = (house: House, diff: unknown): House => applyDiff(house, now(diff));

    it('is replayed entry by entry: upgrading before or after an entry gives the same house', () => {
      const plain = plainOf(start);
      let house = houseOf(upgraded(start));
      for (const { changeId, diff } of journal) {
        plain.apply(diff);
        house = after(house, diff);
        expect(written(house)).withContext(changeId).toEqual(upgraded(plain.file()));
      }
      expect(plain.file()).toEqual(kept(version, 'end') as Json);
      expect(inspectHouse(new Derivations(house).reader()).length).toBeGreaterThan(0);
    });

    it('can be undone: every entry that nothing has been written over since', () => {
      let house = houseOf(upgraded(start));
      for (const { changeId, diff } of journal) {
        const before = house;
        house = after(house, diff);
        const own = now(diff);
        const back = applyChange(house, { kind: 'revert', of: changeId }, () => own);
        if (!back.ok) throw new Error(`${changeId}: ${back.refusal.message}`);
        expect(written(back.document)).toEqual(written(before));
      }
    });

    it('and any other entry: random fields of random rows exchanged, removed, put back', () => {
      const tables = ['boxes', 'openings', 'rooms', 'runs', 'pulls', 'records', 'circuits', 'devices'].filter(
        (table) => (start[table] as Json[]).length > 0,
      );
      const ends = [start, kept(version, 'end') as Json];
      const donors = (table: string): Json[] => ends.flatMap((file) => file[table] as Json[]);
      const edit = fc.record({
        table: fc.constantFrom(...tables),
        pick: fc.nat(),
        donor: fc.nat(),
        what: fc.constantFrom('field', 'field', 'field', 'gone', 'remove', 'add'),
      });
      fc.assert(
        fc.property(fc.array(edit, { minLength: 1, maxLength: 8 }), (edits) => {
          const plain = plainOf(kept(version, 'end') as Json);
          let house = houseOf(upgraded(kept(version, 'end')));
          for (const { table, pick, donor, what } of edits) {
            const rows = [...plain.lists.get(table)!.values()];
            const row = rows[pick % rows.length];
            const other = donors(table)[donor % donors(table).length];
            if (!row || !other) continue;
            const id = String(row.record['id']);
            const fields = Object.keys(other).filter((field) => field !== 'id');
            const field = fields[pick % fields.length]!;
            const diff = { head: {}, rows: [] as unknown[] };
            if (what === 'remove') diff.rows.push({ table, id, removed: row });
            else if (what === 'add') {
              const fresh = `${id.slice(0, 24)}${String(pick % 1e12).padStart(12, '9')}`;
              if (plain.lists.get(table)!.has(fresh)) continue;
              diff.rows.push({
                table,
                id: fresh,
                added: { at: 5000.5 + (donor % 1000), record: { ...other, id: fresh } },
              });
            } else {
              const [from, to] = [row.record[field], what === 'gone' ? undefined : other[field]];
              if (JSON.stringify(from) === JSON.stringify(to)) continue;
              // A diff does not tell whether a wall by its number stood beside a corner by its name: no screen left both.
              const twin = { wall: 'corner', corner: 'wall' }[field];
              if (
                twin &&
                (row.record[twin] !== undefined || (version === 2 && to === undefined && field === 'wall'))
              )
                continue;
              diff.rows.push({
                table,
                id,
                changed: {
                  [field]: { ...(from !== undefined && { from }), ...(to !== undefined && { to }) },
                },
              });
            }
            plain.apply(diff as unknown as HouseDiff);
            house = after(house, diff);
          }
          // Such a house need not hold together: rows are compared, not judged.
          expect(listsOf(house)).toEqual(listsOf(houseOf(upgradeFile(plain.file()) as unknown as HouseFile)));
        }),
        { numRuns: runs(60) },
      );
    });
  });

describe('What version 1 left behind', () => {
  const journal = kept(1, 'journal') as Entry[];

  it('keeps every word a person entered that has no code', () => {
    const end = upgraded(kept(1, 'end'));
    const words = JSON.stringify(end);
    for (const text of ['The owner wants it so', 'something of the maker', 'coiled', 'left of the door'])
      expect(words.includes(text) || JSON.stringify(journal).includes(text))
        .withContext(text)
        .toBeTrue();
    expect(words).toContain('The owner wants it so, inspector agreed on site');
    expect(words).toContain('something of the maker');
    expect(words).not.toContain('"terminal":"');
    expect(words).not.toContain('"loose"');
    const read = readHouseFile(kept(1, 'end'));
    expect(read.ok && read.file.people.map(({ name }) => name)).toEqual(
      ['Ansel', 'Hand', 'Lead', 'Mireille', 'Mireille Okafor', 'Tobin'].filter((name) =>
        JSON.stringify(kept(1, 'end')).includes(`"by":"${name}"`),
      ),
    );
  });

  it('is sent from a device that was away meanwhile, refused or applied as its person meant it', () => {
    let house = houseOf(upgraded(kept(1, 'end')));
    const answers = (kept(1, 'outbox') as { change: Json }[]).map(({ change }) => {
      const isThere = (id: string): boolean => recordOf(house, 'boxes', id) !== undefined;
      const read = readChange(upgradeEnvelope(change, isThere));
      if (!read.ok) return read.refusal.message;
      const applied = applyChange(house, read.envelope.change.body);
      if (!applied.ok) return applied.refusal.code;
      house = applied.document;
      return applied.diff.rows
        .map(({ table, added, removed, changed }) =>
          added
            ? `+${table}`
            : removed
              ? `-${table}`
              : Object.keys(changed ?? {})
                  .sort()
                  .join(),
        )
        .sort()
        .join(' ');
    });
    expect(answers).toEqual([
      'catalogueId,fanRated,gangs,groundScrew,heightIn,heightReference,kind,markedClamps,markedVolumeIn3,material,slots',
      '+boxes +runs',
      'placeNote,tag',
      '-boxes to',
      '',
      '+pulls neutralException,tag',
      'change.stale-target',
    ]);
    expect(house.head.rulebook.overrides['makeup.sheath']).toEqual({ value: 'in-box' });
  });
});

describe('What version 2 left behind', () => {
  it('stands on named corners, and is sent from a device that was away meanwhile', () => {
    let house = houseOf(upgraded(kept(2, 'end')));
    const outbox = kept(2, 'outbox') as Json[];
    const places = outbox.map(({ change, actorId }) => {
      const read = readChange({ change, actorId });
      if (!read.ok) return read.refusal.message;
      const applied = applyChange(house, read.envelope.change.body);
      if (!applied.ok) return applied.refusal.code;
      house = applied.document;
      const [{ table, id } = { table: 'boxes' as const, id: '' }] = applied.diff.rows;
      const record = recordOf(house, table, id) as Json | undefined;
      return (
        record?.['corner'] ?? (record?.['outline'] as { id: string }[]).map((corner) => corner.id).join(' ')
      );
    });
    expect(places).toEqual(['c2', 'c3', 'c2', 'c1', 'c0', 'c0 c1 c2 c3']);
    expect(JSON.stringify(written(house))).not.toContain('"wall"');
    // What had both stands where it stood: on the corner by its name.
    const r4 = rowsOf(house, 'boxes').find(({ record }) => record.tag === 'R4')!.record;
    expect([r4.corner, r4.alongIn]).toEqual(['c4', 50]);
  });
});
