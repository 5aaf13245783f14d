import { randomBytes, randomUUID } from 'node:crypto';
import type { Actor, DeviceAsked, Person, Role } from '@mule-tally/core';
import { findSession } from '../storage/before-crew.js';
import type { FoundSession } from '../storage/before-crew.js';
import type { Orm } from '../storage/orm.js';
import type { Sql } from '../storage/sql.js';
import { inCrew } from '../storage/sql.js';
import type { ActorRow, Caller } from './caller.js';
import { actorOf } from './caller.js';
import { hashOf, newSecret, nextSecret } from './secrets.js';

const DAY = 86_400_000;
/** However much it is used, a session ends; its id changes daily. */
const LONGEST = 180 * DAY;
const ROTATE = DAY;
/** How often its use is written down. */
const USED = 3_600_000;

/** What a device keeps in its cookies. */
export interface Kept {
  readonly session: string;
  /** Until when, ISO 8601. */
  readonly endsAt: Date;
  /** By which the crew knows the device when nobody is signed in. */
  readonly deviceKey?: string;
}

/** Who may take their turn on a device. */
const speakersOf = (sql: Sql, crewId: string, deviceId: string): Promise<(Actor & Person)[]> =>
  sql
    .all<ActorRow>(
      `select p.id, p.name, p.role, p.role_in from device_person d join people p on p.crew_id = d.crew_id and p.id = d.person_id
       where d.crew_id = ? and d.device_id = ? and p."left" is not true order by d.since`,
      [crewId, deviceId],
    )
    .then((rows) => rows.map(actorOf));

/** The sessions of all crews: opened, found by what a cookie holds, given another id, ended. */
export class Sessions {
  constructor(
    private readonly orm: Orm,
    private readonly now: () => Date = () => new Date(),
  ) {}

  /** Whose cookie it is; nothing where it opens nothing any more. `renewed` is to take its place. */
  async find(secret: string): Promise<{ caller: Caller; renewed?: Kept } | undefined> {
    const found = await findSession(this.orm, hashOf(secret));
    if (!found) return undefined;
    const renewed = await this.kept(secret, found);
    return { caller: await this.callerOf(found), ...(renewed && { renewed }) };
  }

  /** Whether a session still opens anything. */
  async isOpen(secret: string): Promise<boolean> {
    return (await findSession(this.orm, hashOf(secret))) !== undefined;
  }

  private async callerOf(found: FoundSession): Promise<Caller> {
    const { crew_id: crewId, device_id: deviceId, person_id: id, house_id: houseId } = found;
    const role = found.role as Role | null;
    if (!id) return { crewId, standing: 'viewer', ...(houseId && { houseId }) };
    const roleIn = found.role_in as Actor['roleIn'] | null;
    const actor = { id, name: found.person_name ?? '', role: role ?? 'hand', ...(roleIn && { roleIn }) };
    const speakers =
      found.is_shared && deviceId
        ? await inCrew(this.orm, crewId, (sql) => speakersOf(sql, crewId, deviceId), true)
        : undefined;
    return {
      crewId,
      standing: 'person',
      actor,
      ...(deviceId && { deviceId }),
      ...(speakers && { speakers }),
    };
  }

  /** Writes down that it is used, lets go of the id that it took the place of, and gives a new one when it is time. */
  private async kept(secret: string, found: FoundSession): Promise<Kept | undefined> {
    const now = this.now();
    const isOld = now.getTime() - new Date(found.made_at).getTime() > ROTATE;
    const isUnwritten = now.getTime() - new Date(found.used_at).getTime() > USED;
    if (!isOld && !isUnwritten && !found.replaces) return undefined;
    return inCrew(this.orm, found.crew_id, async (sql) => {
      const key = [found.crew_id, hashOf(secret)];
      if (found.replaces)
        await sql.all('delete from session where crew_id = ? and id_hash = ?', [
          found.crew_id,
          found.replaces,
        ]);
      const [row] = await sql.all<{ salt: Buffer | null }>(
        `update session set used_at = ?, replaces = null${isOld ? ', salt = coalesce(salt, ?)' : ''}
         where crew_id = ? and id_hash = ? returning salt`,
        [now, ...(isOld ? [randomBytes(16)] : []), ...key],
      );
      if (found.device_id)
        await sql.all('update device set seen_at = ? where crew_id = ? and id = ?', [
          now,
          found.crew_id,
          found.device_id,
        ]);
      if (!isOld || !row?.salt) return undefined;
      const session = nextSecret(secret, row.salt);
      await sql.all(
        `insert into session (crew_id, id_hash, device_id, person_id, role, house_id, made_at, used_at, ends_at, replaces)
         select crew_id, ?, device_id, person_id, role, house_id, ?, ?, ends_at, id_hash from session
         where crew_id = ? and id_hash = ? on conflict do nothing`,
        [hashOf(session), now, now, ...key],
      );
      return { session, endsAt: new Date(found.ends_at) };
    });
  }

  /** Lets a person in on a device, in a transaction of their crew. On one that is not shared, whoever was there is not any more. */
  async open(
    sql: Sql,
    crewId: string,
    personId: string,
    asked: DeviceAsked,
    keyBefore: string | undefined,
  ): Promise<Kept> {
    const now = this.now();
    const deviceKey = newSecret();
    // A device that the crew knows proves that it is that one; else it is another, whatever it calls itself.
    const others = await sql.all(
      'select 1 from device where crew_id = ? and id = ? and revoked_at is null and key_hash <> ?',
      [crewId, asked.id, hashOf(keyBefore ?? '')],
    );
    const device = others.length ? { ...asked, id: randomUUID() } : asked;
    const [row] = await sql.all<{ is_shared: boolean }>(
      `insert into device (crew_id, id, name, key_hash, public_key, is_shared, paired_at, seen_at)
       values (?, ?, ?, ?, ?::jsonb, false, ?, ?)
       on conflict (crew_id, id) do update set key_hash = excluded.key_hash, seen_at = excluded.seen_at, revoked_at = null,
         public_key = coalesce(excluded.public_key, device.public_key) returning is_shared`,
      [
        crewId,
        device.id,
        device.name,
        hashOf(deviceKey),
        device.publicKey ? JSON.stringify(device.publicKey) : null,
        now,
        now,
      ],
    );
    if (!row!.is_shared)
      await sql.all('delete from device_person where crew_id = ? and device_id = ?', [crewId, device.id]);
    await sql.all('delete from session where crew_id = ? and device_id = ?', [crewId, device.id]);
    await sql.all('insert into device_person values (?, ?, ?, ?) on conflict do nothing', [
      crewId,
      device.id,
      personId,
      now,
    ]);
    const session = newSecret();
    const endsAt = new Date(now.getTime() + LONGEST);
    await sql.all(
      `insert into session (crew_id, id_hash, device_id, person_id, made_at, used_at, ends_at) values (?, ?, ?, ?, ?, ?, ?)`,
      [crewId, hashOf(session), device.id, personId, now, now, endsAt],
    );
    return { session, endsAt, deviceKey };
  }

  /** Lets somebody look at one house for a time. */
  async openViewer(sql: Sql, crewId: string, houseId: string, endsAt: Date): Promise<Kept> {
    const now = this.now();
    const session = newSecret();
    await sql.all(
      `insert into session (crew_id, id_hash, role, house_id, made_at, used_at, ends_at) values (?, ?, 'viewer', ?, ?, ?, ?)`,
      [crewId, hashOf(session), houseId, now, now, endsAt],
    );
    return { session, endsAt };
  }

  /** Ends the session of a cookie, and what was to take its place. */
  async end(crewId: string, secret: string): Promise<void> {
    const id = hashOf(secret);
    await inCrew(this.orm, crewId, (sql) =>
      sql.all('delete from session where crew_id = ? and (id_hash = ? or replaces = ?)', [crewId, id, id]),
    );
  }
}
