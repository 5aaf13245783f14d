import { EntitySchema } from '@mikro-orm/core';
import type { CrewList, Lists, TableName } from '@mule-tally/core';
import { CREW_LISTS, CREW_LIST_NAMES, TABLE_NAMES, TABLES } from '@mule-tally/core';
import type * as z from 'zod';
import { AssetEntity } from './asset-table.js';
import { HeldEntity } from './held.js';
import { ReelUsageEntity } from './reel-usage-table.js';
import { SIGN_IN_ENTITIES } from './sign-in-tables.js';

/**
 * The database as MikroORM sees it. Every primary key leads with the crew and the house, so that it can be partitioned.
 * One table per list of the house file and of the crew book, its columns read off the Zod schema: there is no second description.
 */

export interface CrewRow {
  id: string;
  name: string;
  /** Told to whoever signs in on a device that the crew does not know. */
  code: string | null;
  /** When its first lead set it up; until then whoever sits at the machine works for it. */
  setUpAt: Date | null;
  /** Number of the last entry of its journal; 0 before the first. */
  seq: number;
  changedAt: Date;
}
export const CrewEntity = new EntitySchema<CrewRow>({
  name: 'Crew',
  tableName: 'crew',
  properties: {
    id: { type: 'uuid', primary: true },
    name: { type: 'text' },
    code: { type: 'text', nullable: true },
    setUpAt: { type: 'datetime', fieldName: 'set_up_at', nullable: true },
    seq: { type: 'integer' },
    changedAt: { type: 'datetime', fieldName: 'changed_at' },
  },
  uniques: [{ name: 'crew_code', properties: ['code'] }],
});

export interface HouseRow {
  crewId: string;
  id: string;
  name: string;
  base: string;
  overrides: unknown;
  power: string | null;
  code: unknown;
  elsewhere: unknown;
  /** Number of the last journal entry; 0 before the first. */
  seq: number;
  changedAt: Date;
}
export const HouseEntity = new EntitySchema<HouseRow>({
  name: 'House',
  tableName: 'house',
  properties: {
    crewId: { type: 'uuid', primary: true, fieldName: 'crew_id' },
    id: { type: 'uuid', primary: true },
    name: { type: 'text' },
    base: { type: 'text' },
    overrides: { type: 'json' },
    power: { type: 'text', nullable: true },
    code: { type: 'json', nullable: true },
    elsewhere: { type: 'json', nullable: true },
    seq: { type: 'integer' },
    changedAt: { type: 'datetime', fieldName: 'changed_at' },
  },
});

export interface JournalRow {
  crewId: string;
  houseId: string;
  seq: number;
  changeId: string;
  /** Who made it, by name: entries of version 1 only. */
  by: string | null;
  actorId: string | null;
  deviceId: string | null;
  /** By the clock of the device. */
  madeAt: Date | null;
  /** How it is known who made it; nothing where it is not. */
  proof: string | null;
  /** The device's clock less the server's, in ms. */
  clockOffsetMs: number | null;
  at: Date;
  /** The version of change and diff. */
  version: number;
  change: unknown;
  diff: unknown;
  /** Length of both as text: pages of the journal end by bytes. */
  changeBytes: number;
  diffBytes: number;
}
/** What every journal keeps of an entry, besides its key. */
const ENTRY = {
  changeId: { type: 'uuid', fieldName: 'change_id' },
  actorId: { type: 'uuid', fieldName: 'actor_id', nullable: true },
  deviceId: { type: 'uuid', fieldName: 'device_id', nullable: true },
  madeAt: { type: 'datetime', fieldName: 'made_at', nullable: true },
  proof: { type: 'text', nullable: true },
  clockOffsetMs: { type: 'integer', fieldName: 'clock_offset_ms', nullable: true },
  version: { type: 'integer' },
  at: { type: 'datetime' },
  change: { type: 'json' },
  diff: { type: 'json' },
  changeBytes: { type: 'integer', fieldName: 'change_bytes' },
  diffBytes: { type: 'integer', fieldName: 'diff_bytes' },
} as const;

export const JournalEntity = new EntitySchema<JournalRow>({
  name: 'Journal',
  tableName: 'journal',
  properties: {
    crewId: { type: 'uuid', primary: true, fieldName: 'crew_id' },
    houseId: { type: 'uuid', primary: true, fieldName: 'house_id' },
    seq: { type: 'integer', primary: true },
    by: { type: 'text', nullable: true },
    ...ENTRY,
  },
  uniques: [{ name: 'journal_change_id_unique', properties: ['crewId', 'houseId', 'changeId'] }],
});

export type CrewJournalRow = Omit<JournalRow, 'houseId' | 'by'>;
export const CrewJournalEntity = new EntitySchema<CrewJournalRow>({
  name: 'CrewJournal',
  tableName: 'crew_journal',
  properties: {
    crewId: { type: 'uuid', primary: true, fieldName: 'crew_id' },
    seq: { type: 'integer', primary: true },
    ...ENTRY,
  },
  uniques: [{ name: 'crew_journal_change_id_unique', properties: ['crewId', 'changeId'] }],
});

type ColumnType = 'text' | 'double' | 'boolean' | 'json';

/** A column for one field: scalars as themselves, everything with parts as JSON. */
function columnType(schema: z.core.$ZodType): ColumnType {
  const { def } = schema._zod;
  switch (def.type) {
    case 'optional':
      return columnType((def as z.core.$ZodOptionalDef).innerType);
    case 'string':
    case 'enum':
      return 'text';
    case 'number':
      return 'double';
    case 'boolean':
      return 'boolean';
    case 'union': {
      const kinds = new Set((def as z.core.$ZodUnionDef).options.map(columnType));
      return kinds.size === 1 ? [...kinds][0]! : 'json';
    }
    case 'literal': {
      const kinds = new Set(
        (def as z.core.$ZodLiteralDef<string | number>).values.map((value) => typeof value),
      );
      return kinds.has('number') && kinds.size === 1 ? 'double' : 'text';
    }
    default:
      return 'json';
  }
}

/** The column of a field, or the table of a list: "listPlace" is list_place. */
export const columnName = (name: string): string =>
  name.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);

/**
 * A stored record: the record's own fields, under the crew and the house, or the crew alone, with its place in its list.
 * `writtenSeq` is the number of the journal entry that last wrote the row; 0 for one that came with its document.
 */
export type RecordRow = {
  crewId: string;
  id: string;
  listPlace: number;
  writtenSeq: number;
} & Record<string, unknown>;

export interface Column {
  readonly field: string;
  readonly type: ColumnType;
  readonly optional: boolean;
}

/** The columns of each list, but for the id. */
const columnsOf = <N extends string>(
  lists: Lists,
  names: readonly N[],
): Readonly<Record<N, readonly Column[]>> =>
  Object.fromEntries(
    names.map((name) => [
      name,
      Object.entries(lists[name]!.schema.shape)
        .filter(([field]) => field !== 'id')
        .map(([field, schema]): Column => ({
          field,
          type: columnType(schema),
          optional: schema.def.type === 'optional',
        })),
    ]),
  ) as unknown as Record<N, readonly Column[]>;

export const COLUMNS = columnsOf<TableName>(TABLES, TABLE_NAMES);
export const CREW_COLUMNS = columnsOf<CrewList>(CREW_LISTS, CREW_LIST_NAMES);

const recordEntity = (
  list: string,
  columns: readonly Column[],
  isOfHouse: boolean,
): EntitySchema<RecordRow> =>
  new EntitySchema<RecordRow>({
    name: list,
    tableName: columnName(list),
    properties: {
      crewId: { type: 'uuid', primary: true, fieldName: 'crew_id' },
      ...(isOfHouse && { houseId: { type: 'uuid', primary: true, fieldName: 'house_id' } }),
      id: { type: 'uuid', primary: true },
      listPlace: { type: 'double', fieldName: 'list_place' },
      writtenSeq: { type: 'integer', fieldName: 'written_seq' },
      ...Object.fromEntries(
        columns.map(({ field, type, optional }) => [
          field,
          { type, fieldName: columnName(field), nullable: optional },
        ]),
      ),
    } as never,
    ...(list === 'people' && { uniques: [{ name: 'person_name', properties: ['crewId', 'name'] }] }),
  });

export const ENTITIES = [
  ...SIGN_IN_ENTITIES,
  AssetEntity,
  HeldEntity,
  ReelUsageEntity,
  CrewEntity,
  CrewJournalEntity,
  HouseEntity,
  JournalEntity,
  ...TABLE_NAMES.map((list) => recordEntity(list, COLUMNS[list], true)),
  ...CREW_LIST_NAMES.map((list) => recordEntity(list, CREW_COLUMNS[list], false)),
];
