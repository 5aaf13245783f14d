import { Migration } from '@mikro-orm/migrations';
import { CrewBook } from './crew-book.js';
import { LOCAL_CREW } from './local-crew.js';
import { Version2 } from './version-2.js';
import { Assets } from './asset-table.js';
import { CrewsApart, apart } from './crews-apart.js';
import { Held } from './held.js';
import { KEY_OF_HOUSE } from './house-table.js';
import { FindFaults } from './find-faults.js';
import { OwnCodes } from './own-codes.js';
import { RingFinals } from './ring-finals.js';
import { DeviceDepth } from './device-depth.js';
import { OnPaper } from './on-paper.js';
import { OpenWall } from './open-wall.js';
import { ReelUsageTable } from './reel-usage-table.js';
import { SignInTables } from './sign-in-tables.js';
import { Version3 } from './version-3.js';

/** Tables that belong to a house and go with it. */
const OF_A_HOUSE = [
  'journal',
  'boxes',
  'catalogue_boxes',
  'catalogue_devices',
  'circuits',
  'controls',
  'devices',
  'openings',
  'points',
  'pulls',
  'records',
  'reels',
  'rooms',
  'runs',
  'storeys',
];

class First extends Migration {
  override up(): void {
    this.addSql(`create table "boxes" (
      "crew_id" uuid not null,
      "house_id" uuid not null,
      "id" uuid not null,
      "list_place" double precision not null,
      "room_id" text not null,
      "tag" text not null,
      "model" jsonb not null,
      "place" jsonb null,
      "fittings" jsonb null,
      "clamps" text null,
      "fixture_wires" jsonb null,
      "isolated_ground" jsonb null,
      "neutral_exception" text null,
      "as_built" jsonb null,
      constraint "boxes_pkey" primary key ("crew_id",
      "house_id",
      "id")
    )`);
    this.addSql(`create table "catalogue_boxes" (
      "crew_id" uuid not null,
      "house_id" uuid not null,
      "id" uuid not null,
      "list_place" double precision not null,
      "name" text not null,
      "material" text not null,
      "kind" text not null,
      "gangs" double precision not null,
      "slots" double precision not null,
      "clamps" text not null,
      "ground_screw" boolean not null,
      "volume_in3" double precision null,
      "fan_rated" boolean null,
      "width_in" double precision null,
      constraint "catalogue_boxes_pkey" primary key ("crew_id",
      "house_id",
      "id")
    )`);
    this.addSql(`create table "catalogue_devices" (
      "crew_id" uuid not null,
      "house_id" uuid not null,
      "id" uuid not null,
      "list_place" double precision not null,
      "name" text not null,
      "mount" text not null,
      "points" jsonb not null,
      "connection" text not null,
      "needs_neutral" boolean not null,
      "feed_through" boolean not null,
      constraint "catalogue_devices_pkey" primary key ("crew_id",
      "house_id",
      "id")
    )`);
    this.addSql(`create table "circuits" (
      "crew_id" uuid not null,
      "house_id" uuid not null,
      "id" uuid not null,
      "list_place" double precision not null,
      "number" double precision not null,
      "name" text not null,
      "panel_id" text not null,
      "poles" double precision not null,
      "spaces" jsonb null,
      "breaker_amps" double precision not null,
      "protection" text not null,
      "neutral_group" text null,
      constraint "circuits_pkey" primary key ("crew_id",
      "house_id",
      "id")
    )`);
    this.addSql(`create table "controls" (
      "crew_id" uuid not null,
      "house_id" uuid not null,
      "id" uuid not null,
      "list_place" double precision not null,
      "name" text not null,
      "places" jsonb not null,
      "loads" jsonb not null,
      "pinned_order" jsonb null,
      constraint "controls_pkey" primary key ("crew_id",
      "house_id",
      "id")
    )`);
    this.addSql(`create table "crew" (
      "id" uuid not null,
      "name" text not null,
      constraint "crew_pkey" primary key ("id")
    )`);
    this.addSql(`create table "devices" (
      "crew_id" uuid not null,
      "house_id" uuid not null,
      "id" uuid not null,
      "list_place" double precision not null,
      "box_id" text not null,
      "gang" double precision not null,
      "width_gangs" double precision null,
      "catalogue_id" text not null,
      constraint "devices_pkey" primary key ("crew_id",
      "house_id",
      "id")
    )`);
    this.addSql(`create table "house" (
      "crew_id" uuid not null,
      "id" uuid not null,
      "name" text not null,
      "base" text not null,
      "overrides" jsonb not null,
      "seq" int not null,
      "changed_at" timestamptz not null,
      constraint "house_pkey" primary key ("crew_id",
      "id")
    )`);
    this.addSql(`create table "journal" (
      "crew_id" uuid not null,
      "house_id" uuid not null,
      "seq" int not null,
      "change_id" uuid not null,
      "by" text not null,
      "at" timestamptz not null,
      "change" jsonb not null,
      "diff" jsonb not null,
      constraint "journal_pkey" primary key ("crew_id",
      "house_id",
      "seq")
    )`);
    this.addSql(
      `alter table "journal" add constraint "journal_change_id_unique" unique ("crew_id", "house_id", "change_id")`,
    );
    this.addSql(`create table "openings" (
      "crew_id" uuid not null,
      "house_id" uuid not null,
      "id" uuid not null,
      "list_place" double precision not null,
      "room_id" text not null,
      "wall" double precision not null,
      "along_in" double precision not null,
      "width_in" double precision not null,
      "sill_in" double precision not null,
      "head_in" double precision not null,
      constraint "openings_pkey" primary key ("crew_id",
      "house_id",
      "id")
    )`);
    this.addSql(`create table "person" (
      "crew_id" uuid not null,
      "name" text not null,
      "added_at" timestamptz not null default now(),
      constraint "person_pkey" primary key ("crew_id",
      "name")
    )`);
    this.addSql(`create table "points" (
      "crew_id" uuid not null,
      "house_id" uuid not null,
      "id" uuid not null,
      "list_place" double precision not null,
      "device_id" text not null,
      "role" text not null,
      "name" text null,
      "circuit_id" text null,
      "watts" double precision null,
      constraint "points_pkey" primary key ("crew_id",
      "house_id",
      "id")
    )`);
    this.addSql(`create table "pulls" (
      "crew_id" uuid not null,
      "house_id" uuid not null,
      "id" uuid not null,
      "list_place" double precision not null,
      "run_id" text not null,
      "cable" text not null,
      "reel_id" text null,
      "start_mark" double precision null,
      "end_mark" double precision null,
      "length_in" double precision null,
      "at" text not null,
      "by" text not null,
      "state" text not null,
      "note" text null,
      constraint "pulls_pkey" primary key ("crew_id",
      "house_id",
      "id")
    )`);
    this.addSql(`create table "records" (
      "crew_id" uuid not null,
      "house_id" uuid not null,
      "id" uuid not null,
      "list_place" double precision not null,
      "kind" text not null,
      "at" text not null,
      "by" text not null,
      "circuit_id" text null,
      "box_id" text null,
      "run_id" text null,
      "step" text null,
      "result" text null,
      "note" text null,
      constraint "records_pkey" primary key ("crew_id",
      "house_id",
      "id")
    )`);
    this.addSql(`create table "reels" (
      "crew_id" uuid not null,
      "house_id" uuid not null,
      "id" uuid not null,
      "list_place" double precision not null,
      "name" text not null,
      "kind" text not null,
      "cable" text not null,
      "length_in" double precision not null,
      "parent_id" text null,
      constraint "reels_pkey" primary key ("crew_id",
      "house_id",
      "id")
    )`);
    this.addSql(`create table "rooms" (
      "crew_id" uuid not null,
      "house_id" uuid not null,
      "id" uuid not null,
      "list_place" double precision not null,
      "storey_id" text not null,
      "name" text not null,
      "kind" text not null,
      "order" double precision not null,
      "outline" jsonb null,
      constraint "rooms_pkey" primary key ("crew_id",
      "house_id",
      "id")
    )`);
    this.addSql(`create table "runs" (
      "crew_id" uuid not null,
      "house_id" uuid not null,
      "id" uuid not null,
      "list_place" double precision not null,
      "kind" text not null,
      "circuit_ids" jsonb not null,
      "from" jsonb not null,
      "to" jsonb not null,
      "planned_cable" text null,
      "wires" jsonb null,
      "purpose" text null,
      "label" text null,
      "route" jsonb null,
      "measured_length_in" double precision null,
      constraint "runs_pkey" primary key ("crew_id",
      "house_id",
      "id")
    )`);
    this.addSql(`create table "storeys" (
      "crew_id" uuid not null,
      "house_id" uuid not null,
      "id" uuid not null,
      "list_place" double precision not null,
      "name" text not null,
      "ceiling_in" double precision null,
      "overhead" text null,
      "below" text null,
      constraint "storeys_pkey" primary key ("crew_id",
      "house_id",
      "id")
    )`);
    for (const table of OF_A_HOUSE) {
      this.addSql(
        `alter table "${table}" add constraint "${table}_house" foreign key ("crew_id", "house_id") references "house" ("crew_id", "id") on delete cascade`,
      );
    }
    // Sign-in comes later; until then there is one crew on this machine, and who somebody is, is picked from its list.
    this.addSql(`insert into "crew" ("id", "name") values ('${LOCAL_CREW}', 'This crew')`);
    this.addSql(
      `insert into "person" ("crew_id", "name") values ('${LOCAL_CREW}', 'Lead'), ('${LOCAL_CREW}', 'Hand')`,
    );
  }

  override down(): void {
    for (const table of [...OF_A_HOUSE, 'person', 'house', 'crew']) this.addSql(`drop table "${table}"`);
  }
}

/** What wiring needs to know: what a device is fed with, the size of a raceway, what is seen from the places of a control. */
class Wiring extends Migration {
  override up(): void {
    this.addSql('alter table "catalogue_devices" add column "supply" text null');
    this.addSql('alter table "runs" add column "trade_size" text null');
    this.addSql('alter table "controls" add column "whole_area_seen" boolean null');
    // Wires drawn into a raceway are a pull without a cable.
    this.addSql('alter table "pulls" alter column "cable" drop not null');
  }

  override down(): void {
    this.addSql('alter table "catalogue_devices" drop column "supply"');
    this.addSql('alter table "runs" drop column "trade_size"');
    this.addSql('alter table "controls" drop column "whole_area_seen"');
  }
}

/** Lists of records that keep who wrote a row last. */
const LISTS = OF_A_HOUSE.filter((table) => table !== 'journal');

/** Nameplates and marked breakers; which entry wrote a row last; the journal by bytes. */
class Kept extends Migration {
  override up(): void {
    this.addSql(
      'alter table "circuits" add column "nameplate" jsonb null, add column "two_wires" boolean null',
    );
    for (const table of LISTS) {
      this.addSql(`alter table "${table}" add column "written_seq" int not null default 0`);
      this.addSql(`alter table "${table}" alter column "written_seq" drop default`);
    }
    this.addSql(
      'alter table "journal" add column "change_bytes" int not null default 0, add column "diff_bytes" int not null default 0',
    );
    this.addSql(
      'update "journal" set "change_bytes" = octet_length("change"::text), "diff_bytes" = octet_length("diff"::text)',
    );
    this.addSql(
      'alter table "journal" alter column "change_bytes" drop default, alter column "diff_bytes" drop default',
    );
    // Large diffs are written three times as fast; a server that was built without it keeps its own way.
    this.addSql(`do $$ begin
      alter table "journal" alter column "change" set compression lz4, alter column "diff" set compression lz4;
    exception when feature_not_supported then null; end $$`);
  }

  override down(): void {
    this.addSql('alter table "circuits" drop column "nameplate", drop column "two_wires"');
    for (const table of LISTS) this.addSql(`alter table "${table}" drop column "written_seq"`);
    this.addSql('alter table "journal" drop column "change_bytes", drop column "diff_bytes"');
  }
}

/** Whether there is power in a house; what language a person reads. */
class Power extends Migration {
  override up(): void {
    this.addSql('alter table "house" add column "power" text null');
    this.addSql('alter table "people" add column "language" text null');
  }

  override down(): void {
    this.addSql('alter table "house" drop column "power"');
    this.addSql('alter table "people" drop column "language"');
  }
}

/** Lists of which records may have been drafted. */
const DRAFTED = ['boxes', 'circuits', 'controls', 'devices', 'points', 'runs'];

/** Drafting a house from its rooms: sizes and ways in, what was drafted, what other trades are asked for, kits of the crew. */
class Drafting extends Migration {
  override up(): void {
    this.addSql(
      'alter table "rooms" add column "length_in" double precision null, add column "width_in" double precision null, add column "ways" double precision null',
    );
    for (const table of DRAFTED) this.addSql(`alter table "${table}" add column "drafted" jsonb null`);
    this.addSql(
      'alter table "openings" alter column "wall" drop not null, add column "corner" text null, add column "kind" text null, add column "hinge" text null',
    );
    this.addSql(
      'alter table "boxes" add column "corner" text null, add column "faces_out" boolean null, add column "x_in" double precision null, add column "y_in" double precision null',
    );
    this.addSql('alter table "circuits" add column "nameplate_open" boolean null');
    this.addSql('alter table "catalogue_boxes" add column "most_cables" double precision null');
    this.addSql(`create table "asks" (${KEY_OF_HOUSE('asks')}, "kind" text not null, "room_id" text null,
      "box_id" text null, "note" text null, "due_on" text null, "done_at" text null, "done_by" text null, "drafted" jsonb null)`);
    this.addSql(
      `create table "drafts" (${KEY_OF_HOUSE('drafts')}, "room_id" text null, "keys" jsonb not null)`,
    );
    this.addSql(`create table "room_kits" (
      "crew_id" uuid not null references "crew" ("id"), "id" uuid not null,
      "list_place" double precision not null, "written_seq" int not null,
      "room_kind" text not null, "ways" double precision not null, "items" jsonb not null,
      constraint "room_kits_pkey" primary key ("crew_id", "id"))`);
  }

  override down(): void {
    for (const table of ['asks', 'drafts', 'room_kits']) this.addSql(`drop table "${table}"`);
    this.addSql('alter table "catalogue_boxes" drop column "most_cables"');
    this.addSql('alter table "circuits" drop column "nameplate_open"');
    this.addSql('alter table "openings" drop column "corner", drop column "kind", drop column "hinge"');
    this.addSql(
      'alter table "boxes" drop column "corner", drop column "faces_out", drop column "x_in", drop column "y_in"',
    );
    for (const table of DRAFTED) this.addSql(`alter table "${table}" drop column "drafted"`);
    this.addSql('alter table "rooms" drop column "length_in", drop column "width_in", drop column "ways"');
  }
}

/** What decides where boxes go: cabinets, tubs and the like, finishes, what holds the ceilings. */
class Layout extends Migration {
  override up(): void {
    this
      .addSql(`create table "bands" (${KEY_OF_HOUSE('bands')}, "room_id" text not null, "kind" text not null,
      "corner" text null, "along_in" double precision null, "x_in" double precision null, "y_in" double precision null,
      "width_in" double precision not null, "depth_in" double precision not null,
      "from_in" double precision not null, "to_in" double precision not null)`);
    this.addSql(
      'alter table "rooms" add column "floor_build_in" double precision null, add column "finishes" jsonb null',
    );
    this.addSql('alter table "storeys" add column "framing" text null, add column "framing_runs" text null');
  }

  override down(): void {
    this.addSql('drop table "bands"');
    this.addSql('alter table "rooms" drop column "floor_build_in", drop column "finishes"');
    this.addSql('alter table "storeys" drop column "framing", drop column "framing_runs"');
  }
}

/** What is counted in a box on a walk. */
class Walks extends Migration {
  override up(): void {
    this.addSql('alter table "records" add column "counted" jsonb null');
  }

  override down(): void {
    this.addSql('alter table "records" drop column "counted"');
  }
}

/** What was planned when a run was pulled, which runs are to stay, and ticks by room. */
class Pulling extends Migration {
  override up(): void {
    this.addSql(
      'alter table "pulls" add column "planned_in" double precision null, add column "length_from" text null, add column "segment_id" text null',
    );
    this.addSql('alter table "runs" add column "kept" boolean null');
    this.addSql('alter table "records" add column "room_id" text null');
    for (const table of ['stock', 'reels'])
      this.addSql(`alter table "${table}" add column "place" text null`);
  }

  override down(): void {
    this.addSql(
      'alter table "pulls" drop column "planned_in", drop column "length_from", drop column "segment_id"',
    );
    this.addSql('alter table "runs" drop column "kept"');
    this.addSql('alter table "records" drop column "room_id"');
    for (const table of ['stock', 'reels']) this.addSql(`alter table "${table}" drop column "place"`);
  }
}

/** Ways of cables: beams, who permits what is bored, floors, roofs, walls that are shut out. */
class Ways extends Migration {
  override up(): void {
    this.addSql(`create table "beams" (${KEY_OF_HOUSE('beams')}, "storey_id" text not null,
      "a" jsonb not null, "b" jsonb not null, "boring" text null)`);
    for (const sql of apart('beams')) this.addSql(sql);
    this.addSql(
      'alter table "storeys" add column "level" double precision null, add column "boring" text null',
    );
    this.addSql('alter table "rooms" add column "vaulted" boolean null');
    this.addSql('alter table "openings" add column "boring" text null');
    this.addSql('alter table "runs" add column "shut_out" jsonb null');
    this.addSql(
      'alter table "records" add column "corner" text null, add column "holes" double precision null',
    );
  }

  override down(): void {
    this.addSql('drop table "beams"');
    this.addSql('alter table "storeys" drop column "level", drop column "boring"');
    this.addSql('alter table "rooms" drop column "vaulted"');
    this.addSql('alter table "openings" drop column "boring"');
    this.addSql('alter table "runs" drop column "shut_out"');
    this.addSql('alter table "records" drop column "corner", drop column "holes"');
  }
}

/** In order; a migration that has run anywhere is never changed. */
export const MIGRATIONS = [
  { name: '2026-11-first', class: First },
  { name: '2026-11-wiring', class: Wiring },
  { name: '2026-11-kept', class: Kept },
  { name: '2026-11-version-2', class: Version2 },
  { name: '2026-11-crew-book', class: CrewBook },
  { name: '2026-11-power', class: Power },
  { name: '2026-11-drafting', class: Drafting },
  { name: '2026-11-layout', class: Layout },
  { name: '2026-11-version-3', class: Version3 },
  { name: '2026-11-crews-apart', class: CrewsApart },
  { name: '2026-11-sign-in', class: SignInTables },
  { name: '2026-11-held', class: Held },
  { name: '2026-11-walks', class: Walks },
  { name: '2026-11-pulling', class: Pulling },
  { name: '2026-11-reel-usage', class: ReelUsageTable },
  { name: '2026-11-ways', class: Ways },
  { name: '2026-11-assets', class: Assets },
  { name: '2026-11-open-wall', class: OpenWall },
  { name: '2026-11-find-faults', class: FindFaults },
  { name: '2026-11-on-paper', class: OnPaper },
  { name: '2026-11-device-depth', class: DeviceDepth },
  { name: '2026-11-ring-finals', class: RingFinals },
  { name: '2026-11-own-codes', class: OwnCodes },
];
