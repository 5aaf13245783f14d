import type { Diff, Document, Lists, ListName, RowDiffOf } from '@mule-tally/core';
import { emptyDocument, rowsOf, withRow } from '@mule-tally/core';
import type { Column } from '../storage/entities.js';
import { columnName } from '../storage/entities.js';
import type { Sql } from '../storage/sql.js';
import type { Key, Shelf } from './shelf.js';

const TYPES = { text: 'text', double: 'double precision', boolean: 'boolean', json: 'jsonb' } as const;
const quoted = (name: string): string => `"${name}"`;
const tableOf = (list: string): string => quoted(columnName(list));
/** Rows taken at once: what comes between is not kept waiting. */
const CHUNK = 1000;

/** Where documents of one kind are kept, as far as their rows go. */
type Rows<L extends Lists, H extends { id: string }> = Pick<
  Shelf<L, H, unknown>,
  'kind' | 'columns' | 'rowKey' | 'headTable' | 'headKey' | 'headColumns' | 'headValues'
>;

/** "crew_id = ? and house_id = ?", of a table by its other name where it has one. */
export const isOf = (columns: readonly string[], alias = ''): string =>
  columns.map((column) => `${alias && `${alias}.`}${column} = ?`).join(' and ');

/** Lets others have their turn. */
const breathe = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));

/** A record as it was: the database's nulls are absent fields. */
function recordFrom(columns: readonly Column[], row: Record<string, unknown>): { id: string } {
  const record: { id: string } & Record<string, unknown> = { id: String(row['id']) };
  for (const { field } of columns) {
    const value = row[columnName(field)];
    if (value !== null && value !== undefined) record[field] = value;
  }
  return record;
}

/** Reads a whole document from its rows, some thousand at a time. */
export async function readRows<L extends Lists, H extends { id: string }>(
  sql: Sql,
  shelf: Rows<L, H>,
  key: Key,
  head: H,
): Promise<Document<L, H>> {
  let document = emptyDocument(shelf.kind, head);
  for (const list of shelf.kind.names) {
    const own = shelf.columns[list];
    const columns = ['id', 'list_place', ...own.map(({ field }) => columnName(field))].map(quoted);
    let last: { place: number; id: string } | undefined;
    for (;;) {
      const rows = await sql.all(
        `select ${columns.join(', ')} from ${tableOf(list)}
         where ${isOf(shelf.rowKey)} ${last ? 'and (list_place, id) > (?, ?::uuid)' : ''}
         order by list_place, id limit ${CHUNK}`,
        [...key, ...(last ? [last.place, last.id] : [])],
      );
      for (const [index, row] of rows.entries()) {
        const record = recordFrom(own, row);
        document = withRow(document, list, record.id, { at: Number(row['list_place']), record } as never);
        if (index % 200 === 199) await breathe();
      }
      if (rows.length < CHUNK) break;
      const end = rows.at(-1)!;
      last = { place: Number(end['list_place']), id: String(end['id']) };
    }
  }
  return document;
}

/** Writes a document that is not there yet: head and every row. */
export async function insertDocument<L extends Lists, H extends { id: string }>(
  sql: Sql,
  shelf: Rows<L, H>,
  key: Key,
  document: Document<L, H>,
  at: Date,
): Promise<void> {
  const { headColumns, headKey, headTable } = shelf;
  const names = [...headKey, ...headColumns.map(({ name }) => name), 'seq', 'changed_at'];
  const marks = [
    ...key.map(() => '?'),
    ...headColumns.map(({ json }) => (json ? '?::jsonb' : '?')),
    '0',
    '?',
  ];
  await sql.all(`insert into ${headTable} (${names.join(', ')}) values (${marks.join(', ')})`, [
    ...key,
    ...shelf.headValues(document.head),
    at,
  ]);
  for (const list of shelf.kind.names) {
    const rows = rowsOf(document, list).map(({ at: place, record }) => ({
      place,
      record: record as { id: string },
    }));
    await insertRows(sql, shelf, key, list, rows, 0);
  }
}

/** Values of a record by column. */
function valuesOf(columns: readonly Column[], fields: object): Record<string, unknown> {
  const values: Record<string, unknown> = {};
  for (const { field } of columns) {
    const value = (fields as Record<string, unknown>)[field];
    if (value !== undefined) values[columnName(field)] = value;
  }
  return values;
}

/** `v(id uuid, "tag" text, …)`: how a list of JSON objects is read as rows. */
function recordset(columns: readonly Column[], fields: readonly string[]): string {
  const types = new Map(columns.map(({ field, type }) => [columnName(field), TYPES[type]]));
  const own = fields.map((field) => `${quoted(field)} ${types.get(field) ?? 'double precision'}`);
  return `jsonb_to_recordset(?::jsonb) as v(id uuid${own.map((column) => `, ${column}`).join('')})`;
}

async function insertRows<L extends Lists, H extends { id: string }>(
  sql: Sql,
  { columns, rowKey }: Rows<L, H>,
  key: Key,
  list: ListName<L>,
  rows: readonly { readonly place: number; readonly record: { readonly id: string } }[],
  seq: number,
): Promise<void> {
  const own = columns[list];
  const fields = ['list_place', ...own.map(({ field }) => columnName(field))];
  const names = fields.map(quoted);
  for (let start = 0; start < rows.length; start += CHUNK) {
    const part = rows.slice(start, start + CHUNK).map(({ place, record }) => ({
      id: record.id,
      list_place: place,
      ...valuesOf(own, record),
    }));
    await sql.all(
      `insert into ${tableOf(list)} (${rowKey.join(', ')}, written_seq, id, ${names.join(', ')})
       select ${rowKey.map(() => '?::uuid').join(', ')}, ?::int, v.id, ${names.map((name) => `v.${name}`).join(', ')}
       from ${recordset(own, fields)}`,
      [...key, seq, JSON.stringify(part)],
    );
    if (start + CHUNK < rows.length) await breathe();
  }
}

async function updateRows<L extends Lists, H extends { id: string }>(
  sql: Sql,
  { columns, rowKey }: Rows<L, H>,
  key: Key,
  list: ListName<L>,
  fields: readonly string[],
  rows: readonly RowDiffOf[],
  seq: number,
): Promise<void> {
  const part = rows.map(({ id, changed, moved }) => ({
    id,
    ...(moved && { list_place: moved.to }),
    ...valuesOf(
      columns[list],
      Object.fromEntries(Object.entries(changed ?? {}).map(([field, { to }]) => [field, to ?? null])),
    ),
  }));
  const sets = fields.map((field) => `${quoted(field)} = v.${quoted(field)}`);
  await sql.all(
    `update ${tableOf(list)} t set written_seq = ?::int${sets.map((set) => `, ${set}`).join('')}
     from ${recordset(columns[list], fields)} where ${isOf(rowKey, 't')} and t.id = v.id`,
    [seq, JSON.stringify(part), ...key],
  );
}

/** Writes what a change changed, and nothing else: one statement for all rows of a list that are written alike. */
export async function writeDiff<L extends Lists, H extends { id: string }>(
  sql: Sql,
  shelf: Rows<L, H>,
  key: Key,
  diff: Diff<ListName<L>>,
  seq: number,
): Promise<void> {
  const removed = new Map<string, string[]>();
  const changed = new Map<string, { table: ListName<L>; fields: string[]; rows: RowDiffOf[] }>();
  const added = new Map<ListName<L>, { place: number; record: { id: string } }[]>();
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
    await sql.all(`delete from ${tableOf(table)} where ${isOf(shelf.rowKey)} and id = any(?::uuid[])`, [
      ...key,
      `{${ids.join(',')}}`,
    ]);
  for (const { table, fields, rows } of changed.values())
    await updateRows(sql, shelf, key, table, fields, rows, seq);
  for (const [table, rows] of added) await insertRows(sql, shelf, key, table, rows, seq);
}
