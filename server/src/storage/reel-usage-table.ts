import { EntitySchema } from '@mikro-orm/core';
import { Migration } from '@mikro-orm/migrations';
import { apart } from './crews-apart.js';

/** What each house took off each reel: written with the pull that took it, so that one question answers for all houses. */
export const ReelUsageEntity = new EntitySchema({
  name: 'reelUsage',
  tableName: 'reel_usage',
  properties: {
    crewId: { type: 'uuid', primary: true, fieldName: 'crew_id' },
    houseId: { type: 'uuid', primary: true, fieldName: 'house_id' },
    reelId: { type: 'uuid', primary: true, fieldName: 'reel_id' },
    usedIn: { type: 'double', fieldName: 'used_in' },
    pulls: { type: 'integer' },
    days: { type: 'json' },
    stretches: { type: 'json' },
  } as never,
  indexes: [{ name: 'reel_usage_reel', properties: ['crewId', 'reelId'] as never }],
});

/** What stood in the pulls of all houses before there was this table. */
export const FILL_USAGE = `insert into "reel_usage"
      with taken as (
        select crew_id, house_id, reel_id::uuid as reel_id, id, "by", left("at", 10) as day, list_place,
          coalesce(length_in, abs(end_mark - start_mark) * 12, 0) as used,
          coalesce(segment_id, id::text) as segment,
          least(start_mark, end_mark) as low, greatest(start_mark, end_mark) as high
        from "pulls" where reel_id is not null),
      days as (
        select crew_id, house_id, reel_id, jsonb_agg(jsonb_build_object('day', day, 'by', who) order by day) as days
        from (select crew_id, house_id, reel_id, day, jsonb_agg(distinct "by") as who from taken group by 1, 2, 3, 4) d group by 1, 2, 3),
      stretches as (
        select crew_id, house_id, reel_id, jsonb_agg(jsonb_build_object('from', low, 'to', high, 'by', who) order by place) as stretches
        from (select crew_id, house_id, reel_id, segment, min(low) as low, max(high) as high, min(list_place) as place,
            jsonb_agg(distinct "by") as who
          from taken group by 1, 2, 3, 4) s where low < high group by 1, 2, 3)
      select t.crew_id, t.house_id, t.reel_id, sum(t.used), count(*)::int,
        (select d.days from days d where (d.crew_id, d.house_id, d.reel_id) = (t.crew_id, t.house_id, t.reel_id)),
        coalesce((select s.stretches from stretches s
          where (s.crew_id, s.house_id, s.reel_id) = (t.crew_id, t.house_id, t.reel_id)), '[]')
      from taken t group by t.crew_id, t.house_id, t.reel_id`;

/** A projection of rows that are there: made of them here once, and by the core with every pull from now on. */
export class ReelUsageTable extends Migration {
  override up(): void {
    this
      .addSql(`create table "reel_usage" ("crew_id" uuid not null, "house_id" uuid not null, "reel_id" uuid not null,
      "used_in" double precision not null, "pulls" int not null, "days" jsonb not null, "stretches" jsonb not null,
      constraint "reel_usage_pkey" primary key ("crew_id", "house_id", "reel_id"),
      constraint "reel_usage_house" foreign key ("crew_id", "house_id") references "house" ("crew_id", "id") on delete cascade)`);
    this.addSql('create index "reel_usage_reel" on "reel_usage" ("crew_id", "reel_id")');
    this.addSql(FILL_USAGE);
    for (const sql of apart('reel_usage')) this.addSql(sql);
  }

  override down(): void {
    this.addSql('drop table "reel_usage"');
  }
}
