import { Migration } from '@mikro-orm/migrations';
import { apart } from './crews-apart.js';
import { KEY_OF_HOUSE } from './house-table.js';

const PLACE =
  '"room_id" text null, "box_id" text null, "run_id" text null, "circuit_id" text null, "place" text null';

/** What inspectors wrote up, what was asked for besides; how far a box stands out from the studs. */
export class OnPaper extends Migration {
  override up(): void {
    this
      .addSql(`create table "write_ups" (${KEY_OF_HOUSE('write_ups')}, "words" text not null, "section" text null,
      "inspector" text null, "on" text not null, ${PLACE}, "at" text not null, "by" text not null, "fixer_id" text null,
      "fixed_at" text null, "fixed_by" text null, "again_on" text null, "passed_on" text null)`);
    this
      .addSql(`create table "extras" (${KEY_OF_HOUSE('extras')}, "what" text not null, "asked_by" text not null, ${PLACE},
      "price" double precision not null, "at" text not null, "by" text not null, "yes_at" text null, "initials" text null,
      "no_at" text null, "done_at" text null, "done_by" text null)`);
    for (const table of ['write_ups', 'extras']) for (const sql of apart(table)) this.addSql(sql);
    this.addSql('alter table "photos" add column "write_up_id" text null, add column "extra_id" text null');
    this.addSql('alter table "boxes" add column "set_out_in" double precision null');
  }

  override down(): void {
    this.addSql('drop table "write_ups", "extras"');
    this.addSql('alter table "photos" drop column "write_up_id", drop column "extra_id"');
    this.addSql('alter table "boxes" drop column "set_out_in"');
  }
}
