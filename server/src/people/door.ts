import { randomUUID } from 'node:crypto';
import type {
  AccountAsked,
  CrewChangeBody,
  DeviceLine,
  DeviceSet,
  Me,
  PairIn,
  PairingAsked,
  PairingMade,
  PairingOffer,
  PairingState,
  Person,
  SetUp,
  SignIn,
} from '@mule-tally/core';
import { CREW_CHANGES, Login, personOfVersion1 } from '@mule-tally/core';
import type * as z from 'zod';
import { HttpProblem } from '../api/problem.js';
import type { CrewStore } from '../crew/crew-store.js';
import { findLogin, findPairing } from '../storage/before-crew.js';
import { LOCAL_CREW } from '../storage/local-crew.js';
import type { Orm } from '../storage/orm.js';
import type { Sql } from '../storage/sql.js';
import { inCrew } from '../storage/sql.js';
import type { Caller } from './caller.js';
import { asLead } from './caller.js';
import { hashPassword, isPassword, passwordProblem } from './passwords.js';
import { hashOf, newCrewCode, newPairingCode, newSecret } from './secrets.js';
import type { Kept } from './sessions.js';
import { Sessions } from './sessions.js';

const MINUTE = 60_000;
/** How long a code on a lead's screen opens; a link to set the crew up, as long as the server runs. */
const PAIRING = 10 * MINUTE;
const SETTING_UP = 7 * 24 * 60 * MINUTE;
/** How long it is believed that nobody has set the crew up. */
const BELIEVED = 300;

const WAIT = (): HttpProblem =>
  new HttpProblem(
    429,
    'sign-in.wait',
    'Too many tries. Wait a quarter of an hour, or let a lead pair this device.',
    {
      retryAfter: 900,
    },
  );
/** The same for every reason, so that nobody learns which names there are. */
const NOT_IN = (): HttpProblem =>
  new HttpProblem(401, 'sign-in.refused', 'The crew, the name or the password is not right.');
const NO_CODE = (): HttpProblem =>
  new HttpProblem(
    404,
    'pairing.unknown',
    'This code opens nothing: it was used, it is over, or it is another one. Ask for a new one.',
  );
const NO_PERSON = (): HttpProblem =>
  new HttpProblem(404, 'person.unknown', 'There is no such person in this crew.');

interface PairingRow {
  readonly id: string;
  readonly kind: 'set-up' | 'hand' | 'person' | 'viewer';
  readonly person_id: string | null;
  readonly house_id: string | null;
  readonly ends_at: Date;
  readonly used_at: Date | null;
}

/** Who comes in, and how: setting a crew up, signing in, pairing, leaving, and what leads decide about devices. */
export class Door {
  readonly sessions: Sessions;
  private setUpSeen: { isSetUp: boolean; at: number } | undefined;

  constructor(
    private readonly orm: Orm,
    private readonly crew: CrewStore,
    private readonly now: () => Date = () => new Date(),
  ) {
    this.sessions = new Sessions(orm, now);
  }

  private later(ms: number): Date {
    return new Date(this.now().getTime() + ms);
  }

  /** Whether the crew of this machine has a lead who set it up. */
  async isSetUp(): Promise<boolean> {
    const known = this.setUpSeen;
    if (known && (known.isSetUp || this.now().getTime() - known.at < BELIEVED)) return known.isSetUp;
    const [row] = await inCrew(
      this.orm,
      LOCAL_CREW,
      (sql) => sql.all<{ at: Date | null }>('select set_up_at as at from crew where id = ?', [LOCAL_CREW]),
      true,
    );
    this.setUpSeen = { isSetUp: !!row?.at, at: this.now().getTime() };
    return this.setUpSeen.isSetUp;
  }

  /** A link by which the crew is set up, once: those of earlier starts open nothing any more. */
  async linkToSetUp(crewId: string = LOCAL_CREW): Promise<string> {
    const token = newSecret();
    await inCrew(this.orm, crewId, async (sql) => {
      await sql.all("delete from pairing where crew_id = ? and kind = 'set-up'", [crewId]);
      await sql.all(
        "insert into pairing (crew_id, id, kind, token_hash, ends_at) values (?, ?, 'set-up', ?, ?)",
        [crewId, randomUUID(), hashOf(token), this.later(SETTING_UP)],
      );
    });
    return token;
  }

  /** Finds what a code or link opens. */
  private async opened(secret: string, source: string): Promise<{ crewId: string; id: string }> {
    const isCode = /^\d{6}$/.test(secret);
    const found = await findPairing(
      this.orm,
      isCode ? { code: hashOf(secret) } : { token: hashOf(secret) },
      source,
    );
    if (found === 'wait') throw WAIT();
    if (!found) throw NO_CODE();
    return found;
  }

  /** The row of what was found, held, and still open. */
  private async held(sql: Sql, crewId: string, id: string): Promise<PairingRow> {
    const [row] = await sql.all<PairingRow>(
      'select id, kind, person_id, house_id, ends_at, used_at from pairing where crew_id = ? and id = ? for update',
      [crewId, id],
    );
    if (!row || row.used_at || new Date(row.ends_at) <= this.now()) throw NO_CODE();
    return row;
  }

  /** A one-time pairing is used once, whoever else has it. */
  private use(sql: Sql, crewId: string, id: string, personId: string): Promise<unknown> {
    return sql.all('update pairing set used_at = ?, used_by = ? where crew_id = ? and id = ?', [
      this.now(),
      personId,
      crewId,
      id,
    ]);
  }

  private async account(
    sql: Sql,
    crewId: string,
    personId: string,
    login: string,
    hash: string,
  ): Promise<void> {
    const taken = await sql.all('select 1 from account where crew_id = ? and login = ? and person_id <> ?', [
      crewId,
      login,
      personId,
    ]);
    if (taken.length)
      throw new HttpProblem(409, 'login.taken', 'Somebody of this crew signs in with this name already.');
    await sql.all(
      `insert into account values (?, ?, ?, ?)
       on conflict (crew_id, person_id) do update set login = excluded.login, password_hash = excluded.password_hash`,
      [crewId, personId, login, hash],
    );
  }

  /** The first lead takes over the crew with its houses; whoever was on its list stays there, unverified. */
  async setUp(asked: SetUp, source: string, deviceKey?: string): Promise<Kept> {
    const wrong = passwordProblem(asked.password, [asked.login, asked.person.name, asked.crewName]);
    if (wrong) throw wrong;
    const { crewId, id } = await this.opened(asked.token, source);
    const hash = await hashPassword(asked.password);
    const kept = await inCrew(this.orm, crewId, async (sql) => {
      const { kind } = await this.held(sql, crewId, id);
      if (kind !== 'set-up') throw NO_CODE();
      const people = await this.crew.peopleIn(sql, crewId);
      const isThere = people.some((person) => person.id === asked.person.id);
      const changes: CrewChangeBody[] = [
        ...(isThere ? [] : [CREW_CHANGES.adding('people', asked.person)]),
        { kind: 'crew.set', name: asked.crewName },
        CREW_CHANGES.setting('people', asked.person.id, { role: 'lead' }),
      ];
      await this.crew.changeIn(sql, crewId, asked.person.id, changes);
      await sql.all('update crew set code = ?, set_up_at = ? where id = ?', [
        newCrewCode(),
        this.now(),
        crewId,
      ]);
      await this.account(sql, crewId, asked.person.id, asked.login, hash);
      await this.use(sql, crewId, id, asked.person.id);
      return this.sessions.open(sql, crewId, asked.person.id, asked.device, deviceKey);
    });
    this.setUpSeen = undefined;
    await this.crew.announce(crewId);
    return kept;
  }

  async signIn(asked: SignIn, source: string, deviceKey?: string): Promise<Kept> {
    // What is no sign-in name at all is nobody's, and is told in the same time.
    const login = Login.safeParse(asked.login);
    const found = await findLogin(
      this.orm,
      {
        crew: asked.crew.trim().toLowerCase(),
        login: login.success ? login.data : '',
        deviceKey: deviceKey ? hashOf(deviceKey) : undefined,
      },
      source,
    );
    if (found === 'wait') throw WAIT();
    if (!(await isPassword(found?.passwordHash, asked.password))) throw NOT_IN();
    const { crewId, personId } = found!;
    return inCrew(this.orm, crewId, (sql) =>
      this.sessions.open(sql, crewId, personId, asked.device, deviceKey),
    );
  }

  /** A lead lets somebody in; somebody who is in lets in another device of their own. */
  async invite(caller: Caller, asked: PairingAsked): Promise<z.infer<typeof PairingMade>> {
    if (asked.for !== 'person' || asked.personId !== caller.actor?.id) asLead(caller);
    const { crewId } = caller;
    const token = newSecret();
    const id = randomUUID();
    const code = asked.for === 'viewer' ? undefined : newPairingCode();
    const endsAt = this.later(asked.for === 'viewer' ? asked.days * 24 * 60 * MINUTE : PAIRING);
    await inCrew(this.orm, crewId, async (sql) => {
      if (asked.for === 'person' && !(await this.person(sql, crewId, asked.personId))) throw NO_PERSON();
      if (asked.for === 'viewer') {
        const there = await sql.all('select 1 from house where crew_id = ? and id = ?', [
          crewId,
          asked.houseId,
        ]);
        if (!there.length) throw new HttpProblem(404, 'house.unknown', 'There is no such house here.');
      }
      await sql.all('delete from pairing where crew_id = ? and ends_at < ?', [
        crewId,
        this.later(-24 * 60 * MINUTE),
      ]);
      await sql.all(
        `insert into pairing (crew_id, id, kind, token_hash, code_hash, person_id, house_id, made_by, ends_at)
         values (?, ?, ?, ?, ?, ?, ?, ?, ?)`,
        [
          crewId,
          id,
          asked.for,
          hashOf(token),
          code ? hashOf(code) : null,
          asked.for === 'person' ? asked.personId : null,
          asked.for === 'viewer' ? asked.houseId : null,
          caller.actor?.id ?? null,
          endsAt,
        ],
      );
    });
    return { id, token, ...(code && { code }), endsAt: endsAt.toISOString() };
  }

  /** Whether a pairing still opens, and who came in with it: what the lead's screen looks at. */
  async invited(caller: Caller, id: string): Promise<z.infer<typeof PairingState>> {
    const [row] = await inCrew(
      this.orm,
      caller.crewId,
      (sql) =>
        sql.all<{ ends_at: Date; used_at: Date | null; name: string | null }>(
          `select i.ends_at, i.used_at, p.name from pairing i left join people p on p.crew_id = i.crew_id and p.id = i.used_by
           where i.crew_id = ? and i.id = ?`,
          [caller.crewId, id],
        ),
      true,
    );
    if (!row) return { isOpen: false };
    return { isOpen: !row.used_at && new Date(row.ends_at) > this.now(), ...(row.name && { by: row.name }) };
  }

  /** Takes a pairing back, a link to a house with everybody who looks by it. */
  async uninvite(caller: Caller, id: string): Promise<void> {
    asLead(caller);
    const { crewId } = caller;
    await inCrew(this.orm, crewId, async (sql) => {
      await sql.all(
        `delete from session s using pairing p where p.crew_id = ? and p.id = ? and p.kind = 'viewer'
           and s.crew_id = p.crew_id and s.house_id = p.house_id and s.role = 'viewer'`,
        [crewId, id],
      );
      await sql.all('delete from pairing where crew_id = ? and id = ?', [crewId, id]);
    });
  }

  /** Links to houses that are open. */
  async links(caller: Caller): Promise<{ id: string; houseId: string; endsAt: string }[]> {
    asLead(caller);
    const rows = await inCrew(
      this.orm,
      caller.crewId,
      (sql) =>
        sql.all<{ id: string; house_id: string; ends_at: Date }>(
          "select id, house_id, ends_at from pairing where crew_id = ? and kind = 'viewer' and ends_at > ? order by ends_at",
          [caller.crewId, this.now()],
        ),
      true,
    );
    return rows.map(({ id, house_id, ends_at }) => ({
      id,
      houseId: house_id,
      endsAt: new Date(ends_at).toISOString(),
    }));
  }

  private async person(sql: Sql, crewId: string, id: string): Promise<Person | undefined> {
    const found = (await this.crew.peopleIn(sql, crewId)).find((person) => person.id === id && !person.left);
    return found && { id: found.id, name: found.name };
  }

  /** Names that may be picked with a code for hands: those who are no leads, and have not come in yet. */
  private async pickable(sql: Sql, crewId: string): Promise<Person[]> {
    return sql.all<{ id: string; name: string }>(
      `select p.id, p.name from people p where p.crew_id = ? and p."left" is not true and p.role is distinct from 'lead'
         and not exists (select 1 from account a where a.crew_id = p.crew_id and a.person_id = p.id)
         and not exists (select 1 from device_person d where d.crew_id = p.crew_id and d.person_id = p.id) and p.id <> ?
       order by p.list_place`,
      [crewId, personOfVersion1('Import')],
    );
  }

  /** What a code opens, before anybody comes in by it. */
  async look(secret: string, source: string): Promise<z.infer<typeof PairingOffer>> {
    const { crewId, id } = await this.opened(secret, source);
    return inCrew(this.orm, crewId, async (sql) => {
      const row = await this.held(sql, crewId, id);
      if (row.kind === 'set-up') throw NO_CODE();
      const [crew] = await sql.all<{ name: string }>('select name from crew where id = ?', [crewId]);
      const own = row.person_id ? await this.person(sql, crewId, row.person_id) : undefined;
      const people = row.kind === 'hand' ? await this.pickable(sql, crewId) : own ? [own] : [];
      return { crew: crew!.name, for: row.kind, people };
    });
  }

  /** Comes in by a code or a link. Somebody who is on no list yet enters themselves, as a hand. */
  async pair({ secret, person, device }: PairIn, source: string, deviceKey?: string): Promise<Kept> {
    const { crewId, id } = await this.opened(secret, source);
    const kept = await inCrew(this.orm, crewId, async (sql) => {
      const row = await this.held(sql, crewId, id);
      if (row.kind === 'viewer')
        return this.sessions.openViewer(sql, crewId, row.house_id!, new Date(row.ends_at));
      if (row.kind === 'set-up') throw NO_CODE();
      const personId = row.kind === 'person' ? row.person_id! : await this.picked(sql, crewId, person);
      if (!(await this.person(sql, crewId, personId))) throw NO_PERSON();
      await this.use(sql, crewId, id, personId);
      return this.sessions.open(sql, crewId, personId, device, deviceKey);
    });
    await this.crew.announce(crewId);
    return kept;
  }

  private async picked(sql: Sql, crewId: string, person: Person | undefined): Promise<string> {
    if (!person) throw new HttpProblem(400, 'request.invalid', 'Say who you are: pick a name, or enter one.');
    if ((await this.pickable(sql, crewId)).some(({ id }) => id === person.id)) return person.id;
    // Somebody of the list who may not be picked answers like somebody who is there already.
    const isThere = (await this.crew.peopleIn(sql, crewId)).some(({ id }) => id === person.id);
    if (isThere)
      throw new HttpProblem(409, 'person.taken', 'This name cannot be picked with this code. Ask a lead.');
    await this.crew.joinIn(sql, crewId, [person]);
    return person.id;
  }

  /** Who asks, told to themselves. */
  async me(caller: Caller | undefined): Promise<Me> {
    if (!caller) return { standing: 'nobody' };
    const { crewId, actor, houseId, deviceId, speakers } = caller;
    return inCrew(
      this.orm,
      crewId,
      async (sql) => {
        const [crew] = await sql.all<{ name: string; code: string | null }>(
          'select name, code from crew where id = ?',
          [crewId],
        );
        const accounts =
          actor &&
          (await sql.all('select 1 from account where crew_id = ? and person_id = ?', [crewId, actor.id]));
        return {
          standing: caller.standing,
          crew: {
            id: crewId,
            name: crew?.name ?? '',
            ...(crew?.code && caller.standing === 'person' && { code: crew.code }),
          },
          ...(actor && { person: { id: actor.id, name: actor.name }, role: actor.role ?? 'hand' }),
          ...(houseId && { houseId }),
          ...(deviceId && { deviceId }),
          ...(speakers && { speakers: speakers.map(({ id, name }) => ({ id, name })) }),
          ...(accounts && { hasPassword: accounts.length > 0 }),
        };
      },
      true,
    );
  }

  /** A password of their own for somebody who is in; whoever has one says it first. */
  async setAccount(caller: Caller, asked: AccountAsked): Promise<void> {
    const { crewId, actor } = caller;
    if (!actor) throw new HttpProblem(403, 'rights.viewer', 'Sign in first.');
    const wrong = passwordProblem(asked.password, [asked.login, actor.name]);
    if (wrong) throw wrong;
    const read = (sql: Sql) =>
      sql.all<{ hash: string }>(
        'select password_hash as hash from account where crew_id = ? and person_id = ?',
        [crewId, actor.id],
      );
    const [known] = await inCrew(this.orm, crewId, read, true);
    if (known && !(await isPassword(known.hash, asked.current ?? '')))
      throw new HttpProblem(403, 'sign-in.refused', 'The password that you have now is not right.');
    const hash = await hashPassword(asked.password);
    await inCrew(this.orm, crewId, (sql) => this.account(sql, crewId, actor.id, asked.login, hash));
  }

  /** The devices of the crew, those that were used last first. Hands see their own. */
  async devices(caller: Caller): Promise<DeviceLine[]> {
    const { crewId, actor, deviceId } = caller;
    const isLead = caller.standing === 'local' || actor?.role === 'lead';
    const rows = await inCrew(
      this.orm,
      crewId,
      (sql) =>
        sql.all<{
          id: string;
          name: string;
          is_shared: boolean;
          paired_at: Date;
          seen_at: Date;
          revoked_at: Date | null;
          public_key: unknown;
          people: Person[] | null;
        }>(
          `select d.*, (select json_agg(json_build_object('id', p.id, 'name', p.name) order by dp.since)
             from device_person dp join people p on p.crew_id = dp.crew_id and p.id = dp.person_id
             where dp.crew_id = d.crew_id and dp.device_id = d.id) as people
           from device d where d.crew_id = ? order by d.seen_at desc limit 500`,
          [crewId],
        ),
      true,
    );
    return rows
      .map((row) => ({
        id: row.id,
        name: row.name,
        isShared: row.is_shared,
        pairedAt: new Date(row.paired_at).toISOString(),
        seenAt: new Date(row.seen_at).toISOString(),
        isRevoked: row.revoked_at !== null,
        isThis: row.id === deviceId,
        people: row.people ?? [],
        ...(isLead && row.public_key ? { publicKey: row.public_key } : {}),
      }))
      .filter(({ people }) => isLead || people.some(({ id }) => id === actor?.id));
  }

  private async ownOrLead(caller: Caller, deviceId: string): Promise<void> {
    if (!(await this.devices(caller)).some(({ id }) => id === deviceId))
      throw new HttpProblem(404, 'device.unknown', 'There is no such device.');
  }

  /** Ends what a device may do, at once: a phone that was lost. */
  async revoke(caller: Caller, deviceId: string): Promise<void> {
    await this.ownOrLead(caller, deviceId);
    const { crewId } = caller;
    await inCrew(this.orm, crewId, async (sql) => {
      await sql.all('update device set revoked_at = ? where crew_id = ? and id = ?', [
        this.now(),
        crewId,
        deviceId,
      ]);
      await sql.all('delete from session where crew_id = ? and device_id = ?', [crewId, deviceId]);
      await sql.all('delete from device_person where crew_id = ? and device_id = ?', [crewId, deviceId]);
    });
  }

  async setDevice(caller: Caller, deviceId: string, set: z.infer<typeof DeviceSet>): Promise<void> {
    await this.ownOrLead(caller, deviceId);
    if (set.isShared !== undefined) asLead(caller);
    await inCrew(this.orm, caller.crewId, async (sql) => {
      await sql.all(
        'update device set name = coalesce(?, name), is_shared = coalesce(?, is_shared) where crew_id = ? and id = ?',
        [set.name ?? null, set.isShared ?? null, caller.crewId, deviceId],
      );
      // One that is shared no more is whose it was last.
      if (set.isShared === false)
        await sql.all(
          `delete from device_person dp where dp.crew_id = ? and dp.device_id = ? and dp.person_id is distinct from
             (select s.person_id from session s where s.crew_id = dp.crew_id and s.device_id = dp.device_id limit 1)`,
          [caller.crewId, deviceId],
        );
    });
  }
}
