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
const kept = (name: string): unknown =>
  JSON.parse(readFileSync(new URL(`./kept/version-1/${name}.json`, import.meta.url), 'utf8'));

type Json = Record<string, unknown>;
interface Entry {
  readonly changeId: string;
  readonly diff: HouseDiff;
}
interface Row {
  readonly at: number;
  readonly record: Json;
}

/** A house of version 1 as plain rows: it knows nothing of the core, and nothing of what the fields mean. */
class Plain {
  readonly lists = new Map<string, Map<string, Row>>();
  constructor(
    readonly head: Json,
    file: Json,
  ) {
    let at = 0;
    for (const [name, list] of Object.entries(file)) {
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
      format: 'mule-tally-house',
      version: 1,
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
const after = (house: House, diff: unknown): House => applyDiff(house, upgradeDiff(diff, 1) as HouseDiff);

describe('What version 1 left behind', () => {
  const start = kept('house') as Json;
  const journal = kept('journal') as Entry[];

  it('is replayed entry by entry: upgrading before or after an entry gives the same house', () => {
    const plain = plainOf(start);
    let house = houseOf(upgraded(start));
    for (const { changeId, diff } of journal) {
      plain.apply(diff);
      house = after(house, diff);
      expect(written(house)).withContext(changeId).toEqual(upgraded(plain.file()));
    }
    expect(plain.file()).toEqual(kept('end') as Json);
    expect(inspectHouse(new Derivations(house).reader()).length).toBeGreaterThan(0);
  });

  it('can be undone: every entry that nothing has been written over since', () => {
    let house = houseOf(upgraded(start));
    for (const { changeId, diff } of journal) {
      const before = house;
      house = after(house, diff);
      const own = upgradeDiff(diff, 1) as HouseDiff;
      const back = applyChange(house, { kind: 'revert', of: changeId }, () => own);
      if (!back.ok) throw new Error(`${changeId}: ${back.refusal.message}`);
      expect(written(back.document)).toEqual(written(before));
    }
  });

  it('keeps every word a person entered that has no code', () => {
    const end = upgraded(kept('end'));
    const words = JSON.stringify(end);
    for (const text of ['The owner wants it so', 'something of the maker', 'coiled', 'left of the door'])
      expect(words.includes(text) || JSON.stringify(journal).includes(text))
        .withContext(text)
        .toBeTrue();
    expect(words).toContain('The owner wants it so, inspector agreed on site');
    expect(words).toContain('something of the maker');
    expect(words).not.toContain('"terminal":"');
    expect(words).not.toContain('"loose"');
    const read = readHouseFile(kept('end'));
    expect(read.ok && read.file.people.map(({ name }) => name)).toEqual(
      ['Ansel', 'Hand', 'Lead', 'Mireille', 'Mireille Okafor', 'Tobin'].filter((name) =>
        JSON.stringify(kept('end')).includes(`"by":"${name}"`),
      ),
    );
  });

  it('is sent from a device that was away meanwhile, refused or applied as its person meant it', () => {
    let house = houseOf(upgraded(kept('end')));
    const answers = (kept('outbox') as { change: Json }[]).map(({ change }) => {
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

  it('and any other entry: random fields of random rows exchanged, removed, put back', () => {
    const tables = ['boxes', 'runs', 'pulls', 'records', 'circuits', 'devices'];
    const ends = [start, kept('end') as Json];
    const donors = (table: string): Json[] => ends.flatMap((file) => file[table] as Json[]);
    const edit = fc.record({
      table: fc.constantFrom(...tables),
      pick: fc.nat(),
      donor: fc.nat(),
      what: fc.constantFrom('field', 'field', 'field', 'gone', 'remove', 'add'),
    });
    fc.assert(
      fc.property(fc.array(edit, { minLength: 1, maxLength: 8 }), (edits) => {
        const plain = plainOf(kept('end') as Json);
        let house = houseOf(upgraded(kept('end')));
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
            diff.rows.push({
              table,
              id,
              changed: { [field]: { ...(from !== undefined && { from }), ...(to !== undefined && { to }) } },
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
