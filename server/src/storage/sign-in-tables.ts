import { Migration } from '@mikro-orm/migrations';
import { EntitySchema } from '@mikro-orm/core';
import { apart } from './crews-apart.js';

/**
 * Who is let in: passwords, devices, sessions and what lets a device in. Secrets are kept as hashes only. `attempt` is of no
 * crew: it counts tries from before a crew is known, and the role that serves cannot touch it.
 */

const key = (name: string, fieldName: string) => ({ [name]: { type: 'uuid', primary: true, fieldName } });
const at = (fieldName: string, nullable = false) => ({ type: 'datetime', fieldName, nullable });
const id = (fieldName: string, nullable = false) => ({ type: 'uuid', fieldName, nullable });
const hash = (fieldName: string, nullable = false) => ({ type: 'blob', fieldName, nullable });
const entity = (name: string, properties: object, uniques: object[] = []): EntitySchema =>
  new EntitySchema({ name, tableName: name, properties: properties as never, uniques: uniques as never });

export const SIGN_IN_ENTITIES = [
  entity(
    'account',
    {
      ...key('crewId', 'crew_id'),
      ...key('personId', 'person_id'),
      login: { type: 'text' },
      passwordHash: { type: 'text', fieldName: 'password_hash' },
    },
    [{ name: 'account_login', properties: ['crewId', 'login'] }],
  ),
  entity('device', {
    ...key('crewId', 'crew_id'),
    ...key('id', 'id'),
    name: { type: 'text' },
    keyHash: hash('key_hash'),
    publicKey: { type: 'json', fieldName: 'public_key', nullable: true },
    isShared: { type: 'boolean', fieldName: 'is_shared' },
    pairedAt: at('paired_at'),
    seenAt: at('seen_at'),
    revokedAt: at('revoked_at', true),
  }),
  entity('device_person', {
    ...key('crewId', 'crew_id'),
    ...key('deviceId', 'device_id'),
    ...key('personId', 'person_id'),
    since: at('since'),
  }),
  entity(
    'session',
    {
      ...key('crewId', 'crew_id'),
      idHash: { ...hash('id_hash'), primary: true },
      deviceId: id('device_id', true),
      personId: id('person_id', true),
      role: { type: 'text', nullable: true },
      houseId: id('house_id', true),
      madeAt: at('made_at'),
      usedAt: at('used_at'),
      endsAt: at('ends_at'),
      replaces: hash('replaces', true),
      salt: hash('salt', true),
    },
    [{ name: 'session_id', properties: ['idHash'] }],
  ),
  entity(
    'pairing',
    {
      ...key('crewId', 'crew_id'),
      ...key('id', 'id'),
      kind: { type: 'text' },
      tokenHash: hash('token_hash'),
      codeHash: hash('code_hash', true),
      personId: id('person_id', true),
      houseId: id('house_id', true),
      madeBy: id('made_by', true),
      endsAt: at('ends_at'),
      usedAt: at('used_at', true),
      usedBy: id('used_by', true),
    },
    [{ name: 'pairing_token', properties: ['tokenHash'] }],
  ),
  entity('attempt', {
    key: { type: 'text', primary: true },
    since: { type: 'datetime', primary: true },
    count: { type: 'integer' },
  }),
];

/** How long a device that says nothing stays signed in. A phone may lie in a truck for weeks. */
const IDLE = "interval '60 days'";

const TABLES = [
  `create table "account" ("crew_id" uuid not null, "person_id" uuid not null, "login" text not null, "password_hash" text not null,
    constraint "account_pkey" primary key ("crew_id", "person_id"), constraint "account_login" unique ("crew_id", "login"))`,
  `create table "device" ("crew_id" uuid not null, "id" uuid not null, "name" text not null, "key_hash" bytea not null,
    "public_key" jsonb null, "is_shared" boolean not null, "paired_at" timestamptz not null, "seen_at" timestamptz not null,
    "revoked_at" timestamptz null, constraint "device_pkey" primary key ("crew_id", "id"))`,
  `create table "device_person" ("crew_id" uuid not null, "device_id" uuid not null, "person_id" uuid not null,
    "since" timestamptz not null, constraint "device_person_pkey" primary key ("crew_id", "device_id", "person_id"))`,
  `create table "session" ("crew_id" uuid not null, "id_hash" bytea not null, "device_id" uuid null, "person_id" uuid null,
    "role" text null, "house_id" uuid null, "made_at" timestamptz not null, "used_at" timestamptz not null,
    "ends_at" timestamptz not null, "replaces" bytea null, "salt" bytea null,
    constraint "session_pkey" primary key ("crew_id", "id_hash"), constraint "session_id" unique ("id_hash"))`,
  `create table "pairing" ("crew_id" uuid not null, "id" uuid not null, "kind" text not null, "token_hash" bytea not null,
    "code_hash" bytea null, "person_id" uuid null, "house_id" uuid null, "made_by" uuid null, "ends_at" timestamptz not null,
    "used_at" timestamptz null, "used_by" uuid null, constraint "pairing_pkey" primary key ("crew_id", "id"),
    constraint "pairing_token" unique ("token_hash"))`,
  `create table "attempt" ("key" text not null, "since" timestamptz not null, "count" int not null,
    constraint "attempt_pkey" primary key ("key", "since"))`,
];

/** Counts a try within its quarter of an hour, and says whether there were more than allowed. */
const TOO_MANY = `create function too_many(p_key text, p_most int) returns boolean language plpgsql set search_path = public, pg_temp as $$
declare tries int;
begin
  insert into attempt values (p_key, to_timestamp(floor(extract(epoch from now()) / 900) * 900), 1)
    on conflict (key, since) do update set count = attempt.count + 1 returning count into tries;
  if random() < 0.02 then delete from attempt where since < now() - interval '1 day'; end if;
  return tries > p_most;
end $$`;

const DEFINER = 'security definer set search_path = public, pg_temp';

/** The session of a cookie: alive, on a device that was not revoked, of somebody who is still with the crew. */
const FIND_SESSION = `create function find_session(p_hash bytea) returns table (crew_id uuid, device_id uuid, person_id uuid,
    person_name text, role text, role_in jsonb, house_id uuid, is_shared boolean, made_at timestamptz, used_at timestamptz,
    ends_at timestamptz, replaces bytea) language sql stable ${DEFINER} as $$
  select s.crew_id, s.device_id, s.person_id, p.name, coalesce(s.role, p.role), p.role_in, s.house_id, d.is_shared,
    s.made_at, s.used_at, s.ends_at, s.replaces
  from session s
  left join device d on d.crew_id = s.crew_id and d.id = s.device_id
  left join people p on p.crew_id = s.crew_id and p.id = s.person_id
  where s.id_hash = p_hash and s.ends_at > now() and s.used_at > now() - ${IDLE}
    and (s.device_id is null or (d.id is not null and d.revoked_at is null))
    and (s.person_id is null or (p.id is not null and p."left" is not true))
$$`;

/**
 * What a code or a link opens. Six figures can be guessed: tries are counted for each source, and for all of them together;
 * whoever uses them up stops the codes for a while, never the links, which nobody can guess.
 */
const FIND_PAIRING = `create function find_pairing(p_token bytea, p_code bytea, p_source text) returns table (outcome text, crew_id uuid, id uuid)
  language plpgsql ${DEFINER} as $$
begin
  if p_code is not null and (too_many('code ' || p_source, 20) or too_many('code', 600)) then
    return query select 'wait', null::uuid, null::uuid;
    return;
  end if;
  return query select 'found', max(p.crew_id::text)::uuid, max(p.id::text)::uuid from pairing p
    where (p.token_hash = p_token or p.code_hash = p_code) and p.ends_at > now() and p.used_at is null having count(*) = 1;
end $$`;

/**
 * The account of somebody who signs in. The crew goes by its code, by the key of a device that it knows, or is the only one.
 * Tries are counted by where they come from, so that nobody locks somebody else out: a device that the crew knows has a count
 * of its own, strangers share those of their source and of the name.
 */
const FIND_LOGIN = `create function find_login(p_crew text, p_login text, p_source text, p_device bytea)
  returns table (outcome text, crew_id uuid, person_id uuid, password_hash text) language plpgsql ${DEFINER} as $$
declare known device; the_crew uuid;
begin
  select d.* into known from device d where d.key_hash = p_device and d.revoked_at is null limit 1;
  select c.id into the_crew from crew c where c.code = nullif(p_crew, '');
  if the_crew is null and p_crew = '' then
    the_crew := coalesce(known.crew_id, (select max(c.id::text)::uuid from crew c having count(*) = 1));
  end if;
  if (known.id is not null and known.crew_id = the_crew and too_many('device ' || known.id, 20))
    or ((known.id is null or known.crew_id is distinct from the_crew)
      and (too_many('from ' || p_source || ' ' || md5(coalesce(the_crew::text, '') || p_login), 10)
        or too_many('from ' || p_source, 100) or too_many('login ' || md5(coalesce(the_crew::text, '') || p_login), 200))) then
    return query select 'wait', null::uuid, null::uuid, null::text;
    return;
  end if;
  return query select 'found', a.crew_id, a.person_id, a.password_hash from account a
    join people p on p.crew_id = a.crew_id and p.id = a.person_id and p."left" is not true
    where a.crew_id = the_crew and a.login = p_login;
end $$`;

/** The look-ups from before a crew is known: these three, and nothing else. */
export const BEFORE_CREW = [
  'find_session(bytea)',
  'find_pairing(bytea, bytea, text)',
  'find_login(text, text, text, bytea)',
];

export class SignInTables extends Migration {
  override up(): void {
    this.addSql('alter table "crew" add column "code" text null, add column "set_up_at" timestamptz null');
    this.addSql('alter table "crew" add constraint "crew_code" unique ("code")');
    this.addSql('alter table "people" add column "role" text null, add column "role_in" jsonb null');
    for (const journal of ['journal', 'crew_journal'])
      this.addSql(
        `alter table "${journal}" add column "proof" text null, add column "clock_offset_ms" int null`,
      );
    for (const table of TABLES) this.addSql(table);
    for (const table of ['account', 'device', 'device_person', 'session', 'pairing'])
      for (const sql of apart(table)) this.addSql(sql);
    this.addSql('alter table "attempt" enable row level security');
    // Whoever is erased from the list has no sign-in name, and no device, left here.
    for (const table of ['account', 'device_person'])
      this
        .addSql(`alter table "${table}" add constraint "${table}_person" foreign key ("crew_id", "person_id")
        references "people" ("crew_id", "id") on delete cascade`);
    for (const sql of [TOO_MANY, FIND_SESSION, FIND_PAIRING, FIND_LOGIN]) this.addSql(sql);
    for (const made of [...BEFORE_CREW, 'too_many(text, int)'])
      this.addSql(`revoke all on function ${made} from public`);
  }

  override down(): void {
    for (const made of [...BEFORE_CREW, 'too_many(text, int)']) this.addSql(`drop function ${made}`);
    for (const table of ['account', 'device', 'device_person', 'session', 'pairing', 'attempt'])
      this.addSql(`drop table "${table}"`);
    for (const journal of ['journal', 'crew_journal'])
      this.addSql(`alter table "${journal}" drop column "proof", drop column "clock_offset_ms"`);
    this.addSql('alter table "people" drop column "role", drop column "role_in"');
    this.addSql('alter table "crew" drop column "code", drop column "set_up_at"');
  }
}
