import { EntitySchema } from '@mikro-orm/core';
import { Migration } from '@mikro-orm/migrations';
import { apart } from './crews-apart.js';

/** What hands did and the plan could not take: kept for a lead to decide, nothing dropped. */
export const HeldEntity = new EntitySchema({
  name: 'held',
  tableName: 'held',
  properties: {
    crewId: { type: 'uuid', primary: true, fieldName: 'crew_id' },
    houseId: { type: 'uuid', primary: true, fieldName: 'house_id' },
    changeId: { type: 'uuid', primary: true, fieldName: 'change_id' },
    envelope: { type: 'json' },
    code: { type: 'text' },
    message: { type: 'text' },
    at: { type: 'datetime' },
    decidedAt: { type: 'datetime', fieldName: 'decided_at', nullable: true },
    decidedBy: { type: 'uuid', fieldName: 'decided_by', nullable: true },
    isTaken: { type: 'boolean', fieldName: 'is_taken', nullable: true },
  } as never,
});

export class Held extends Migration {
  override up(): void {
    this
      .addSql(`create table "held" ("crew_id" uuid not null, "house_id" uuid not null, "change_id" uuid not null,
      "envelope" jsonb not null, "code" text not null, "message" text not null, "at" timestamptz not null,
      "decided_at" timestamptz null, "decided_by" uuid null, "is_taken" boolean null,
      constraint "held_pkey" primary key ("crew_id", "house_id", "change_id"),
      constraint "held_house" foreign key ("crew_id", "house_id") references "house" ("crew_id", "id") on delete cascade)`);
    for (const sql of apart('held')) this.addSql(sql);
  }

  override down(): void {
    this.addSql('drop table "held"');
  }
}
