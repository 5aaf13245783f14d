import { Migration } from '@mikro-orm/migrations';
import { BURIED_PLACE, overrideOfVersion1, personOfVersion1, recordOfVersion1 } from '@mule-tally/core';

/** Rows taken at once. */
const CHUNK = 1000;

/** Lists of which records are other ones in version 2, with the columns that are read and those that are written. */
const CHANGED: Readonly<Record<string, { table: string; old: readonly string[]; now: readonly Column[] }>> = {
  boxes: {
    table: 'boxes',
    old: ['model', 'place', 'fittings', 'fixtureWires', 'isolatedGround', 'neutralException', 'asBuilt'],
    now: [
      ['catalogueId', 'text'],
      ['markedVolumeIn3', 'double precision'],
      ['material', 'text'],
      ['kind', 'text'],
      ['gangs', 'double precision'],
      ['slots', 'double precision'],
      ['markedClamps', 'text'],
      ['groundScrew', 'boolean'],
      ['fanRated', 'boolean'],
      ['wall', 'double precision'],
      ['alongIn', 'double precision'],
      ['heightIn', 'double precision'],
      ['heightReference', 'text'],
      ['placeNote', 'text'],
      ['fittings', 'jsonb'],
      ['fixtureWires', 'jsonb'],
      ['isolatedGround', 'jsonb'],
      ['neutralException', 'text'],
      ['neutralReason', 'text'],
      ['asBuilt', 'jsonb'],
    ],
  },
  runs: {
    table: 'runs',
    old: ['to', 'wires'],
    now: [
      ['to', 'jsonb'],
      ['wires', 'jsonb'],
    ],
  },
  pulls: { table: 'pulls', old: ['by'], now: [['by', 'text']] },
  records: {
    table: 'records',
    old: ['by', 'step'],
    now: [
      ['by', 'text'],
      ['step', 'text'],
    ],
  },
};
type Column = readonly [field: string, type: string];

const column = (field: string): string => field.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);
const quoted = (field: string): string => `"${column(field)}"`;

interface Row {
  readonly crew_id: string;
  readonly house_id: string;
  readonly id: string;
  readonly written_seq: number;
  readonly [column: string]: unknown;
}

/**
 * Version 2 of the house: every row as the core brings over a record of a file, so that rows and files say the same. Entries
 * of the journal stay as they were written; they are brought over where they are read. Names of people stand in their own
 * list only.
 */
export class Version2 extends Migration {
  override async up(): Promise<void> {
    await this.people();
    await this.execute(`alter table "journal" alter column "by" drop not null,
      add column "actor_id" uuid null, add column "device_id" uuid null, add column "made_at" timestamptz null,
      add column "version" int not null default 1`);
    await this.execute('alter table "journal" alter column "version" drop default');
    const added = CHANGED['boxes']!.now.filter(([field]) => !CHANGED['boxes']!.old.includes(field));
    await this.execute(
      `alter table "boxes" alter column "room_id" drop not null, alter column "model" drop not null, ${added
        .map(([field, type]) => `add column ${quoted(field)} ${type} null`)
        .join(', ')}`,
    );
    for (const [list, { table, old, now }] of Object.entries(CHANGED)) await this.rows(list, table, old, now);
    await this.execute('alter table "boxes" drop column "model", drop column "place"');
    await this.overrides();
  }

  /** Everybody who was named anywhere is on the list, by an id that follows from the name. */
  private async people(): Promise<void> {
    await this.execute('alter table "person" add column "id" uuid null');
    await this.execute(`insert into "person" ("crew_id", "name")
      select distinct crew_id, "by" from (
        select crew_id, "by" from "journal" union all select crew_id, "by" from "pulls"
        union all select crew_id, "by" from "records") named
      on conflict do nothing`);
    const people = (await this.execute('select crew_id, name from "person"')) as {
      crew_id: string;
      name: string;
    }[];
    for (const { crew_id, name } of people)
      await this.execute('update "person" set "id" = ? where "crew_id" = ? and "name" = ?', [
        personOfVersion1(name),
        crew_id,
        name,
      ]);
    await this.execute(
      'alter table "person" drop constraint "person_pkey", alter column "id" set not null, add constraint "person_pkey" primary key ("crew_id", "id"), add constraint "person_name" unique ("crew_id", "name")',
    );
  }

  private async rows(
    list: string,
    table: string,
    old: readonly string[],
    now: readonly Column[],
  ): Promise<void> {
    let last: Row | undefined;
    for (;;) {
      const rows = (await this.execute(
        `select crew_id, house_id, id, written_seq, ${old.map(quoted).join(', ')} from "${table}"
         ${last ? 'where (crew_id, house_id, id) > (?::uuid, ?::uuid, ?::uuid)' : ''}
         order by crew_id, house_id, id limit ${CHUNK}`,
        last ? [last.crew_id, last.house_id, last.id] : [],
      )) as unknown as Row[];
      const buried: object[] = [];
      const next = rows.map((row) => {
        const fields = old.flatMap((field) => {
          const value = row[column(field)];
          return value === null || value === undefined ? [] : [[field, value]];
        });
        const { crew_id, house_id, id, written_seq } = row;
        const own = recordOfVersion1(list, { id, ...Object.fromEntries(fields) });
        if (own.buried) buried.push({ crew_id, house_id, written_seq, ...columnsOf(own.buried) });
        return { crew_id, house_id, id, ...columnsOf(own.record as object) };
      });
      const types = now.map(([field, type]) => `${quoted(field)} ${type}`).join(', ');
      await this.execute(
        `update "${table}" t set ${now.map(([field]) => `${quoted(field)} = v.${quoted(field)}`).join(', ')}
         from jsonb_to_recordset(?::jsonb) as v(crew_id uuid, house_id uuid, id uuid, ${types})
         where t.crew_id = v.crew_id and t.house_id = v.house_id and t.id = v.id`,
        [JSON.stringify(next)],
      );
      if (buried.length)
        await this.execute(
          `insert into "boxes" (crew_id, house_id, id, list_place, written_seq, tag, catalogue_id, place_note)
           select crew_id, house_id, id, ${BURIED_PLACE}, written_seq, tag, catalogue_id, place_note
           from jsonb_to_recordset(?::jsonb) as v(crew_id uuid, house_id uuid, id uuid, written_seq int, tag text,
             catalogue_id text, place_note text)`,
          [JSON.stringify(buried)],
        );
      if (rows.length < CHUNK) return;
      last = rows.at(-1);
    }
  }

  private async overrides(): Promise<void> {
    const houses = (await this.execute('select crew_id, id, overrides from "house"')) as unknown as {
      crew_id: string;
      id: string;
      overrides: Record<string, unknown>;
    }[];
    for (const { crew_id, id, overrides } of houses) {
      const next = Object.entries(overrides).map(([key, value]) => [key, overrideOfVersion1(key, value)]);
      await this.execute('update "house" set "overrides" = ?::jsonb where "crew_id" = ? and "id" = ?', [
        JSON.stringify(Object.fromEntries(next)),
        crew_id,
        id,
      ]);
    }
  }

  /** What was entered since could not be kept in the old shape. */
  override down(): void {
    throw new Error('This migration is not taken back: restore the dump that was made before it.');
  }
}

const columnsOf = (record: object): object =>
  Object.fromEntries(Object.entries(record).map(([field, value]) => [column(field), value as unknown]));
