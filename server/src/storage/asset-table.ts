import { EntitySchema } from '@mikro-orm/core';
import { Migration } from '@mikro-orm/migrations';
import { apart } from './crews-apart.js';

/** Pictures that a crew keeps, each once, by the hash of its bytes. A row is never changed: other bytes are another picture. */
export const AssetEntity = new EntitySchema({
  name: 'asset',
  tableName: 'asset',
  properties: {
    crewId: { type: 'uuid', primary: true, fieldName: 'crew_id' },
    sha256: { type: 'text', primary: true },
    type: { type: 'text' },
    size: { type: 'integer' },
    widthPx: { type: 'integer', fieldName: 'width_px' },
    heightPx: { type: 'integer', fieldName: 'height_px' },
    bytes: { type: 'blob' },
    at: { type: 'datetime' },
  } as never,
});

/** The table of pictures, and the field of a story that names one. */
export class Assets extends Migration {
  override up(): void {
    this.addSql(`create table "asset" ("crew_id" uuid not null, "sha256" text not null, "type" text not null,
      "size" int not null, "width_px" int not null, "height_px" int not null, "bytes" bytea not null,
      "at" timestamptz not null, constraint "asset_pkey" primary key ("crew_id", "sha256"))`);
    // They are pressed together already.
    this.addSql('alter table "asset" alter column "bytes" set storage external');
    for (const sql of apart('asset')) this.addSql(sql);
    this.addSql('alter table "storeys" add column "underlay" jsonb null');
  }

  override down(): void {
    this.addSql('drop table "asset"');
    this.addSql('alter table "storeys" drop column "underlay"');
  }
}
