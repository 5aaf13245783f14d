import { Migration } from '@mikro-orm/migrations';

const KEPT = `"list_place" double precision not null, "written_seq" int not null`;
/** Lists of the crew book that are new, with their own columns. */
const LISTS: Readonly<Record<string, string>> = {
  stock:
    '"name" text not null, "kind" text not null, "cable" text not null, "length_in" double precision not null, "parent_id" text null',
  kits: '"name" text not null, "room_kind" text null, "boxes" jsonb not null',
  habits: '"key" text not null, "override" jsonb not null',
  prices: '"kind" text not null, "item" text null, "amount" double precision not null',
  connector_names: '"connector" text not null, "name" text not null',
};

/**
 * The crew book: a journal of the crew's own beside those of the houses, and a table for each of its lists. People, who were
 * on a list already, are the first of them; those who came first stay first.
 */
export class CrewBook extends Migration {
  override up(): void {
    this.addSql(
      'alter table "crew" add column "seq" int not null default 0, add column "changed_at" timestamptz not null default now()',
    );
    this.addSql('alter table "crew" alter column "seq" drop default, alter column "changed_at" drop default');
    this.addSql(`create table "crew_journal" (
      "crew_id" uuid not null references "crew" ("id"), "seq" int not null, "change_id" uuid not null,
      "actor_id" uuid null, "device_id" uuid null, "made_at" timestamptz null, "version" int not null,
      "at" timestamptz not null, "change" jsonb not null, "diff" jsonb not null,
      "change_bytes" int not null, "diff_bytes" int not null,
      constraint "crew_journal_pkey" primary key ("crew_id", "seq"),
      constraint "crew_journal_change_id_unique" unique ("crew_id", "change_id")
    )`);
    this.addSql('alter table "person" rename to "people"');
    this.addSql('alter table "people" rename constraint "person_pkey" to "people_pkey"');
    this.addSql(
      'alter table "people" add column "list_place" double precision null, add column "written_seq" int not null default 0, add column "left" boolean null',
    );
    this.addSql(`update "people" p set "list_place" = o.place from (
      select crew_id, id, row_number() over (partition by crew_id order by added_at, name) - 1 as place from "people"
    ) o where o.crew_id = p.crew_id and o.id = p.id`);
    this.addSql(
      'alter table "people" alter column "list_place" set not null, alter column "written_seq" drop default, drop column "added_at"',
    );
    for (const [table, columns] of Object.entries(LISTS))
      this.addSql(`create table "${table}" (
        "crew_id" uuid not null references "crew" ("id"), "id" uuid not null, ${KEPT}, ${columns},
        constraint "${table}_pkey" primary key ("crew_id", "id")
      )`);
  }

  override down(): void {
    for (const table of Object.keys(LISTS)) this.addSql(`drop table "${table}"`);
    this.addSql(
      'alter table "people" add column "added_at" timestamptz not null default now(), drop column "list_place", drop column "written_seq", drop column "left"',
    );
    this.addSql('alter table "people" rename constraint "people_pkey" to "person_pkey"');
    this.addSql('alter table "people" rename to "person"');
    this.addSql('drop table "crew_journal"');
    this.addSql('alter table "crew" drop column "seq", drop column "changed_at"');
  }
}
