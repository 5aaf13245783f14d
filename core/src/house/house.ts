import type { HouseHead, RecordOf, TableName } from './model.js';
import { TABLE_NAMES } from './model.js';
import { mentionsIn } from './references.js';
import { SortedMap } from '../structures/sorted-map.js';

/** A record and its place in its list; lists of the house file are in rising `at`. */
export interface Row<T extends TableName = TableName> {
  readonly at: number;
  readonly record: RecordOf<T>;
}

/**
 * A house in memory: immutable, with structure shared between versions, so that one change costs the same in a house of
 * 100 boxes and of 1,000.
 */
export interface House {
  readonly head: HouseHead;
  readonly tables: { readonly [T in TableName]: SortedMap<Row<T>> };
  /** For each record id: which records of which list mention it. Kept in step with the rows. */
  readonly mentionedBy: SortedMap<SortedMap<Mentioners>>;
  /** One above the highest place ever used in this version's history. */
  readonly nextAt: number;
}

/** Ids of records, as the keys of a map. */
type Mentioners = SortedMap<true>;
const NOBODY: Mentioners = SortedMap.empty();

export function emptyHouse(head: HouseHead): House {
  const tables = Object.fromEntries(TABLE_NAMES.map((name) => [name, SortedMap.empty()]));
  return { head, tables: tables as unknown as House['tables'], mentionedBy: SortedMap.empty(), nextAt: 0 };
}

export const rowOf = <T extends TableName>(house: House, table: T, id: string): Row<T> | undefined =>
  (house.tables[table] as SortedMap<Row<T>>).get(id);

export const recordOf = <T extends TableName>(house: House, table: T, id: string): RecordOf<T> | undefined =>
  rowOf(house, table, id)?.record;

const byPlace = (a: Row, b: Row): number => a.at - b.at || (a.record.id < b.record.id ? -1 : 1);

/** All rows of a list, in list order. */
export const rowsOf = <T extends TableName>(house: House, table: T): Row<T>[] =>
  [...(house.tables[table] as SortedMap<Row<T>>).values()].sort(byPlace as (a: Row<T>, b: Row<T>) => number);

/** Ids of the records of `table` that mention `id`. */
export const mentionersOf = (house: House, table: TableName, id: string): readonly string[] => [
  ...(house.mentionedBy.get(id)?.get(table) ?? NOBODY).keys(),
];

/** Answers to `recordsMentioning`, for as long as a version of a house is looked at: it is asked again and again. */
const MENTIONING = new WeakMap<House, Map<string, Partial<Record<TableName, readonly unknown[]>>>>();

/** The records of `table` that mention `id`, in list order. */
export function recordsMentioning<T extends TableName>(
  house: House,
  table: T,
  id: string,
): readonly RecordOf<T>[] {
  let known = MENTIONING.get(house);
  if (!known) MENTIONING.set(house, (known = new Map()));
  let ofId = known.get(id);
  if (!ofId) known.set(id, (ofId = {}));
  let records = ofId[table] as readonly RecordOf<T>[] | undefined;
  if (!records) {
    const mentioners = house.mentionedBy.get(id)?.get(table);
    records = mentioners
      ? [...mentioners.keys()]
          .map((mentioner) => rowOf(house, table, mentioner)!)
          .sort(byPlace as (a: Row<T>, b: Row<T>) => number)
          .map((row) => row.record)
      : [];
    ofId[table] = records;
  }
  return records;
}

/** The lists that hold a record of this id (ids are unique in the whole house). */
export const tableHolding = (house: House, id: string): TableName | undefined =>
  TABLE_NAMES.find((table) => (house.tables[table] as SortedMap<Row>).has(id));

function reindex(
  index: House['mentionedBy'],
  table: TableName,
  id: string,
  before: object | undefined,
  after: object | undefined,
): House['mentionedBy'] {
  const old = new Set(before ? mentionsIn(table, before).map((mention) => mention.id) : []);
  const now = new Set(after ? mentionsIn(table, after).map((mention) => mention.id) : []);
  let next = index;
  for (const target of old) {
    if (now.has(target)) continue;
    const byTable = next.get(target)!;
    const left = byTable.get(table)!.delete(id);
    const rest = left.size === 0 ? byTable.delete(table) : byTable.set(table, left);
    next = rest.size === 0 ? next.delete(target) : next.set(target, rest);
  }
  for (const target of now) {
    if (old.has(target)) continue;
    const byTable = next.get(target) ?? SortedMap.empty<Mentioners>();
    next = next.set(target, byTable.set(table, (byTable.get(table) ?? NOBODY).set(id, true)));
  }
  return next;
}

/** The house with one row put (new or in place of the old one) or, with undefined, taken out. Checks nothing. */
export function withRow<T extends TableName>(
  house: House,
  table: T,
  id: string,
  row: Row<T> | undefined,
): House {
  const rows = house.tables[table] as SortedMap<Row<T>>;
  const before = rows.get(id)?.record;
  const next = row ? rows.set(id, row) : rows.delete(id);
  return {
    head: house.head,
    tables: { ...house.tables, [table]: next },
    mentionedBy: reindex(house.mentionedBy, table, id, before, row?.record),
    nextAt: row && row.at >= house.nextAt ? row.at + 1 : house.nextAt,
  };
}

export const withHead = (house: House, head: HouseHead): House => ({ ...house, head });
