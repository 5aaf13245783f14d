import type { House, HouseDiff, RecordOf, RowDiff, TableName } from '@mule-tally/core';
import { HouseHead, TABLE_NAMES, emptyHouse, rowsOf, withRow } from '@mule-tally/core';
import { COLUMNS, columnName } from '../storage/entities.js';
import type { Sql } from '../storage/sql.js';

/** Whose house. */
export interface HouseKey {
  readonly crewId: string;
  readonly houseId: string;
}

/** The row of a house, as far as its head goes. */
export interface HeadRow {
  readonly id: string;
  readonly name: string;
  readonly base: string;
  readonly overrides: unknown;
  readonly seq: number;
}

const TYPES = { text: 'text', double: 'double precision', boolean: 'boolean', json: 'jsonb' } as const;
const quoted = (name: string): string => `"${name}"`;
const tableOf = (table: TableName): string => quoted(columnName(table));
/** Rows taken at once: what comes between is not kept waiting. */
const CHUNK = 1000;

const headFrom = (row: HeadRow): HouseHead =>
  HouseHead.parse({ id: row.id, name: row.name, rulebook: { base: row.base, overrides: row.overrides } });

/** Lets others have their turn. */
const breathe = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));

/** A record as it was: the database's nulls are absent fields. */
function recordFrom<T extends TableName>(table: T, row: Record<string, unknown>): RecordOf<T> {
  const record: Record<string, unknown> = { id: row['id'] };
  for (const { field } of COLUMNS[table]) {
    const value = row[columnName(field)];
    if (value !== null && value !== undefined) record[field] = value;
  }
  return record as RecordOf<T>;
}

/** Reads a whole house from its rows, some thousand at a time. */
export async function readRows(sql: Sql, key: HouseKey, head: HeadRow): Promise<House> {
  let house = emptyHouse(headFrom(head));
  for (const table of TABLE_NAMES) {
    const columns = ['id', 'list_place', ...COLUMNS[table].map(({ field }) => columnName(field))].map(quoted);
    let last: { place: number; id: string } | undefined;
    for (;;) {
      const rows = await sql.all(
        `select ${columns.join(', ')} from ${tableOf(table)}
         where crew_id = ? and house_id = ? ${last ? 'and (list_place, id) > (?, ?::uuid)' : ''}
         order by list_place, id limit ${CHUNK}`,
        [key.crewId, key.houseId, ...(last ? [last.place, last.id] : [])],
      );
      for (const [index, row] of rows.entries()) {
        const record = recordFrom(table, row);
        house = withRow(house, table, record.id, { at: Number(row['list_place']), record });
        if (index % 200 === 199) await breathe();
      }
      if (rows.length < CHUNK) break;
      const end = rows.at(-1)!;
      last = { place: Number(end['list_place']), id: String(end['id']) };
    }
  }
  return house;
}

/** Writes a house that is not there yet: head and every row. */
export async function insertHouse(sql: Sql, key: HouseKey, house: House, at: Date): Promise<void> {
  const { name, rulebook } = house.head;
  await sql.all(
    `insert into house (crew_id, id, name, base, overrides, seq, changed_at) values (?, ?, ?, ?, ?::jsonb, 0, ?)`,
    [key.crewId, key.houseId, name, rulebook.base, JSON.stringify(rulebook.overrides), at],
  );
  for (const table of TABLE_NAMES)
    await insertRows(
      sql,
      key,
      table,
      rowsOf(house, table).map(({ at: place, record }) => ({ place, record })),
      0,
    );
}

/** Values of a record by column. */
function valuesOf(table: TableName, fields: object): Record<string, unknown> {
  const values: Record<string, unknown> = {};
  for (const { field } of COLUMNS[table]) {
    const value = (fields as Record<string, unknown>)[field];
    if (value !== undefined) values[columnName(field)] = value;
  }
  return values;
}

/** `v(id uuid, "tag" text, …)`: how a list of JSON objects is read as rows. */
function recordset(table: TableName, fields: readonly string[]): string {
  const types = new Map(COLUMNS[table].map(({ field, type }) => [columnName(field), TYPES[type]]));
  const own = fields.map((field) => `${quoted(field)} ${types.get(field) ?? 'double precision'}`);
  return `jsonb_to_recordset(?::jsonb) as v(id uuid${own.map((column) => `, ${column}`).join('')})`;
}

async function insertRows(
  sql: Sql,
  key: HouseKey,
  table: TableName,
  rows: readonly { readonly place: number; readonly record: { readonly id: string } }[],
  seq: number,
): Promise<void> {
  const fields = ['list_place', ...COLUMNS[table].map(({ field }) => columnName(field))];
  const names = fields.map(quoted);
  for (let start = 0; start < rows.length; start += CHUNK) {
    const part = rows.slice(start, start + CHUNK).map(({ place, record }) => ({
      id: record.id,
      list_place: place,
      ...valuesOf(table, record),
    }));
    await sql.all(
      `insert into ${tableOf(table)} (crew_id, house_id, written_seq, id, ${names.join(', ')})
       select ?::uuid, ?::uuid, ?::int, v.id, ${names.map((name) => `v.${name}`).join(', ')} from ${recordset(table, fields)}`,
      [key.crewId, key.houseId, seq, JSON.stringify(part)],
    );
    if (start + CHUNK < rows.length) await breathe();
  }
}

async function updateRows(
  sql: Sql,
  key: HouseKey,
  table: TableName,
  fields: readonly string[],
  rows: readonly RowDiff[],
  seq: number,
): Promise<void> {
  const part = rows.map(({ id, changed, moved }) => ({
    id,
    ...(moved && { list_place: moved.to }),
    ...valuesOf(
      table,
      Object.fromEntries(Object.entries(changed ?? {}).map(([field, { to }]) => [field, to ?? null])),
    ),
  }));
  const sets = fields.map((field) => `${quoted(field)} = v.${quoted(field)}`);
  await sql.all(
    `update ${tableOf(table)} t set written_seq = ?::int${sets.map((set) => `, ${set}`).join('')}
     from ${recordset(table, fields)} where t.crew_id = ? and t.house_id = ? and t.id = v.id`,
    [seq, JSON.stringify(part), key.crewId, key.houseId],
  );
}

/** Writes what a change changed, and nothing else: one statement for all rows of a list that are written alike. */
export async function writeDiff(sql: Sql, key: HouseKey, diff: HouseDiff, seq: number): Promise<void> {
  const removed = new Map<TableName, string[]>();
  const changed = new Map<string, { table: TableName; fields: string[]; rows: RowDiff[] }>();
  const added = new Map<TableName, { place: number; record: { id: string } }[]>();
  for (const row of diff.rows) {
    const { table } = row;
    if (row.removed) {
      const ids = removed.get(table) ?? [];
      ids.push(row.id);
      removed.set(table, ids);
    } else if (row.added) {
      const list = added.get(table) ?? [];
      list.push({ place: row.added.at, record: row.added.record });
      added.set(table, list);
    } else {
      const fields = [
        ...Object.keys(row.changed ?? {})
          .sort()
          .map(columnName),
        ...(row.moved ? ['list_place'] : []),
      ];
      const name = `${table} ${fields.join()}`;
      const alike = changed.get(name) ?? { table, fields, rows: [] };
      alike.rows.push(row);
      changed.set(name, alike);
    }
  }
  for (const [table, ids] of removed)
    await sql.all(
      `delete from ${tableOf(table)} where crew_id = ? and house_id = ? and id = any(?::uuid[])`,
      [key.crewId, key.houseId, `{${ids.join(',')}}`],
    );
  for (const { table, fields, rows } of changed.values())
    await updateRows(sql, key, table, fields, rows, seq);
  for (const [table, rows] of added) await insertRows(sql, key, table, rows, seq);
}
