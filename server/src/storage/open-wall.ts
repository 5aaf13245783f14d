import { Migration } from '@mikro-orm/migrations';
import { apart } from './crews-apart.js';
import { KEY_OF_HOUSE } from './house-table.js';

/** Photos of walls, boxes and runs; what was tested. */
export class OpenWall extends Migration {
  override up(): void {
    this
      .addSql(`create table "photos" (${KEY_OF_HOUSE('photos')}, "asset" text not null, "thumb" text not null,
      "width_px" double precision not null, "height_px" double precision not null, "at" text not null, "by" text not null,
      "room_id" text null, "corner" text null, "ceiling" boolean null, "box_id" text null, "run_id" text null,
      "boarded" boolean null, "tape" boolean null, "marks" jsonb null, "lines" jsonb null, "note" text null)`);
    for (const sql of apart('photos')) this.addSql(sql);
    this.addSql('alter table "records" add column "tested" jsonb null');
  }

  override down(): void {
    this.addSql('drop table "photos"');
    this.addSql('alter table "records" drop column "tested"');
  }
}
