import type { EntityManager } from '@mikro-orm/postgresql';
import type { House, HouseDiff, RecordOf, RowDiff, TableName } from '@mule-tally/core';
import { HouseHead, TABLE_NAMES, emptyHouse, rowsOf, withRow } from '@mule-tally/core';
import type { HouseRow, RecordRow } from '../storage/entities.js';
import { COLUMNS, HouseEntity, RECORD_ENTITIES } from '../storage/entities.js';

/** Whose house. */
export interface HouseKey {
  readonly crewId: string;
  readonly houseId: string;
}

const rowFor = (key: HouseKey, listPlace: number, record: object): RecordRow => ({
  ...key,
  ...(record as { id: string }),
  listPlace,
});

/** A record as it was: the database's nulls are absent fields. */
function recordFrom<T extends TableName>(table: T, row: RecordRow): RecordOf<T> {
  const record: Record<string, unknown> = { id: row.id };
  for (const { field } of COLUMNS[table]) {
    const value = row[field];
    if (value !== null && value !== undefined) record[field] = value;
  }
  return record as RecordOf<T>;
}

export const headFrom = (row: HouseRow): HouseHead =>
  HouseHead.parse({ id: row.id, name: row.name, rulebook: { base: row.base, overrides: row.overrides } });

/** Reads a whole house from its rows. */
export async function readRows(em: EntityManager, key: HouseKey, row: HouseRow): Promise<House> {
  let house = emptyHouse(headFrom(row));
  for (const table of TABLE_NAMES) {
    const rows = await em.find(
      RECORD_ENTITIES[table],
      { ...key },
      {
        orderBy: { listPlace: 'asc', id: 'asc' },
        disableIdentityMap: true,
      },
    );
    for (const stored of rows) {
      house = withRow(house, table, stored.id, { at: stored.listPlace, record: recordFrom(table, stored) });
    }
  }
  return house;
}

const CHUNK = 500;

/** Writes a house that is not there yet: head and every row. */
export async function insertHouse(em: EntityManager, key: HouseKey, house: House): Promise<void> {
  const { name, rulebook } = house.head;
  await em.insert(HouseEntity, {
    crewId: key.crewId,
    id: key.houseId,
    name,
    base: rulebook.base,
    overrides: rulebook.overrides,
    seq: 0,
    changedAt: new Date(),
  });
  for (const table of TABLE_NAMES) {
    await insertRows(
      em,
      table,
      rowsOf(house, table).map(({ at, record }) => rowFor(key, at, record)),
    );
  }
}

async function insertRows(em: EntityManager, table: TableName, rows: readonly RecordRow[]): Promise<void> {
  for (let start = 0; start < rows.length; start += CHUNK) {
    await em.insertMany(RECORD_ENTITIES[table], rows.slice(start, start + CHUNK));
  }
}

async function writeRow(em: EntityManager, key: HouseKey, diff: RowDiff): Promise<void> {
  const entity = RECORD_ENTITIES[diff.table];
  if (diff.removed) await em.nativeDelete(entity, { ...key, id: diff.id });
  else {
    const fields: Record<string, unknown> = diff.moved ? { listPlace: diff.moved.to } : {};
    for (const [field, { to }] of Object.entries(diff.changed ?? {})) fields[field] = to ?? null;
    await em.nativeUpdate(entity, { ...key, id: diff.id }, fields);
  }
}

/** Writes what a change changed, and nothing else. */
export async function writeDiff(em: EntityManager, key: HouseKey, diff: HouseDiff): Promise<void> {
  const inserts = new Map<TableName, RecordRow[]>();
  for (const row of diff.rows) {
    if (!row.added) continue;
    const list = inserts.get(row.table) ?? [];
    list.push(rowFor(key, row.added.at, row.added.record));
    inserts.set(row.table, list);
  }
  for (const row of diff.rows) if (!row.added) await writeRow(em, key, row);
  for (const [table, rows] of inserts) await insertRows(em, table, rows);
}
