import { createHash, randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { readFileSync } from 'node:fs';
import type { Server } from 'node:http';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { DeviceLine, HouseFile, PairingMade } from '@mule-tally/core';
import { CREW_CHANGES, adding, setting } from '@mule-tally/core';
import pg from 'pg';
import { pino } from 'pino';
import { createApp } from '../api/app.js';
import { HouseStore } from '../houses/house-store.js';
import { LOCAL_CREW } from '../storage/local-crew.js';
import { whyNotServing } from '../storage/migrate.js';
import type { Orm } from '../storage/orm.js';
import { connect } from '../storage/orm.js';
import { inCrew, sqlOf } from '../storage/sql.js';
import { OWNER_URL } from '../testing/database.js';
import { Browser, ownDatabase } from '../testing/own-crew.js';
import { Door } from './door.js';

jasmine.DEFAULT_TIMEOUT_INTERVAL = 60_000;

const PASSWORD = 'wet lath and plaster';
const empty = (name: string): HouseFile =>
  ({
    ...JSON.parse(JSON.stringify(EMPTY)),
    id: randomUUID(),
    name,
    storeys: [{ id: STOREY, name: 'First floor' }],
    rooms: [{ id: randomUUID(), storeyId: STOREY, name: 'Hall', kind: 'hall', order: 1 }],
  }) as HouseFile;

/** A database of its own: the crew of the machine is set up in it, beside another crew. */
describe('People', () => {
  const now = { at: Date.now() };
  let orm: Orm;
  let server: Server;
  let owner: pg.Client;
  let houses: HouseStore;
  let door: Door;
  const otherCrew = randomUUID();
  const browser = (): Browser =>
    new Browser(() => `http://127.0.0.1:${(server.address() as AddressInfo).port}`);
  let lead: Browser;
  let stranger: Browser;
  const leadId = randomUUID();
  const strangerId = randomUUID();

  const setUp = async (token: string, personId: string, login: string, by = browser()) => {
    const asked = {
      token,
      crewName: `Crew of ${login}`,
      person: { id: personId, name: login },
      login,
      password: PASSWORD,
      device: by.device,
    };
    return { by, answer: await by.code('POST', '/set-up', asked) };
  };
  const invite = async (asked: object, by = lead): Promise<PairingMade> =>
    (await by.ask('POST', '/pairings', asked)).body as PairingMade;
  const hand = async (name: string): Promise<{ phone: Browser; id: string }> => {
    const phone = browser();
    const id = randomUUID();
    const { code } = await invite({ for: 'hand' });
    const asked = { secret: code, person: { id, name }, device: phone.device };
    expect(await phone.code('POST', '/pair', asked)).toBe(201);
    return { phone, id };
  };
  const send = async (by: Browser, path: string, actorId: string, body: unknown, more: object = {}) => {
    const changes = [{ change: { id: randomUUID(), version: 3, body }, actorId, ...more }];
    const { status, body: answer } = await by.ask('POST', `${path}/changes`, { changes });
    const [first] = (answer as { answers?: { status: string; code?: string }[] }).answers ?? [];
    return first ? (first.code ?? first.status) : (((answer as { code?: string }).code ?? status) as string);
  };

  beforeAll(async () => {
    const urls = await ownDatabase('people');
    const { serving } = urls;
    owner = new pg.Client({ connectionString: urls.owner });
    await owner.connect();
    await owner.query('insert into crew (id, name, seq, changed_at) values ($1, $2, 0, now())', [
      otherCrew,
      'Others',
    ]);
    orm = await connect(serving);
    houses = new HouseStore(orm, randomUUID);
    door = new Door(orm, houses.crew, () => new Date(now.at));
    server = createServer(
      createApp({ orm, databaseUrl: serving, log: pino({ level: 'silent' }), houses, door }),
    ).listen(0, '127.0.0.1');
    await once(server, 'listening');

    const before = browser();
    expect((await before.me()).standing).toBe('local');
    const early = empty('Before anybody');
    expect(await before.code('POST', '/houses/import', early)).toBe(201);
    const old = await door.linkToSetUp();
    const token = await door.linkToSetUp();
    expect((await setUp(old, leadId, 'odile')).answer).toBe('pairing.unknown');
    const { by, answer } = await setUp(token, leadId, 'odile');
    expect(answer).toBe(201);
    lead = by;
    expect((await setUp(token, randomUUID(), 'mallory')).answer).toBe('pairing.unknown');
    stranger = (await setUp(await door.linkToSetUp(otherCrew), strangerId, 'odile')).by;
    // The houses of before are the crew's, its old names too; nobody works for it unsigned any more.
    expect(await before.code('GET', '/houses')).toBe('session.none');
    expect((await lead.ask('GET', `/houses/${early.id}`)).status).toBe(200);
    expect(await lead.me()).toEqual(jasmine.objectContaining({ standing: 'person', role: 'lead' }));
  });
  afterAll(async () => {
    server.close();
    await owner.end();
    await orm.close();
  });

  it('signs in by password: the same answer for every reason, and a common one is never taken', async () => {
    const phone = browser();
    const { code } = (await lead.me()).crew!;
    const asked = { crew: code!, login: 'Odile', password: PASSWORD, device: phone.device };
    for (const wrong of [
      { login: 'nobody' },
      { password: 'something else' },
      { crew: 'zzzzzz' },
      { login: '?' },
    ])
      expect(await phone.code('POST', '/sign-in', { ...asked, ...wrong })).toBe('sign-in.refused');
    expect(await phone.code('POST', '/sign-in', asked)).toBe(200);
    expect((await phone.me()).person).toEqual({ id: leadId, name: 'odile' });
    for (const password of ['password123', 'aaaaaaaaaaaa', 'odile98765432'])
      expect(await phone.code('POST', '/account', { login: 'odile', password, current: PASSWORD })).toBe(
        'password.common',
      );
    const fresh = { login: 'odile', password: 'dry lath, wet plaster', current: 'wrong' };
    expect(await phone.code('POST', '/account', fresh)).toBe('sign-in.refused');
    // Two tabs sign out.
    const other = phone.copy();
    expect(await phone.code('POST', '/sign-out')).toBe(200);
    expect(await other.code('POST', '/sign-out')).toBe(200);
    expect((await phone.me()).standing).toBe('nobody');
    // A device that the crew knows needs no code of the crew.
    expect(await phone.code('POST', '/sign-in', { ...asked, crew: '' })).toBe(200);
  });

  it('lets nobody lock others out: tries are counted where they come from', async () => {
    const thief = browser();
    const { code } = (await stranger.me()).crew!;
    const asked = { crew: code!, login: 'odile', password: 'guess after guess', device: thief.device };
    const answers = [];
    for (let n = 0; n < 12; n++) answers.push(await thief.code('POST', '/sign-in', asked));
    expect(answers.at(0)).toBe('sign-in.refused');
    expect(answers.at(-1)).toBe('sign-in.wait');
    // The one whose name was tried, on a device that the crew knows, and from the same address at that.
    const own = stranger.copy();
    await own.ask('POST', '/sign-out');
    expect(
      await own.code('POST', '/sign-in', { ...asked, crew: '', password: PASSWORD, device: stranger.device }),
    ).toBe(200);
    stranger = own;
  });

  it('pairs by a code, once and for ten minutes; guessing it is stopped, and stops no link', async () => {
    const first = await invite({ for: 'hand' });
    const phone = browser();
    const offer = await phone.ask('POST', '/pair/look', { secret: first.code });
    const names = (offer.body as { people: { name: string }[] }).people.map(({ name }) => name);
    expect(names).toEqual(jasmine.arrayContaining(['Hand', 'Lead']));
    expect(names).not.toContain('odile');
    const taken = { secret: first.code, person: { id: leadId, name: 'odile' }, device: phone.device };
    expect(await phone.code('POST', '/pair', taken)).toBe('person.taken');
    const asked = { ...taken, person: { id: randomUUID(), name: 'Basil' } };
    expect(await phone.code('POST', '/pair', asked)).toBe(201);
    expect(await browser().code('POST', '/pair', asked)).toBe('pairing.unknown');
    expect((await lead.ask('GET', `/pairings/${first.id}`)).body).toEqual({
      isOpen: false,
      by: 'Basil',
    } as never);
    expect((await phone.me()).role).toBe('hand');
    expect(await phone.code('POST', '/pairings', { for: 'hand' })).toBe('rights.lead-only');

    const late = await invite({ for: 'hand' });
    now.at += 11 * 60_000;
    await owner.query("update pairing set ends_at = now() - interval '1 second' where id = $1", [late.id]);
    expect(await browser().code('POST', '/pair/look', { secret: late.code })).toBe('pairing.unknown');

    const open = await invite({ for: 'hand' });
    const guesses = [];
    for (let n = 0; n < 25; n++)
      guesses.push(await browser().code('POST', '/pair/look', { secret: String(n).padStart(6, '0') }));
    expect(guesses.at(-1)).toBe('sign-in.wait');
    expect(await browser().code('POST', '/pair/look', { secret: open.token })).toBe(200);
    await owner.query('delete from attempt');
  });

  it('judges a change on the rights of whoever made it, and says how that is known', async () => {
    const { phone, id } = await hand('Clement');
    const file = empty('Lot 1');
    expect(await phone.code('POST', '/houses/import', file)).toBe('rights.lead-only');
    expect(await lead.code('POST', '/houses/import', file)).toBe(201);
    const at = `/houses/${file.id}`;
    const reel = { id: randomUUID(), name: 'Reel 1', kind: 'reel', cable: '14/2', lengthIn: 3000 } as const;
    const rename = setting('rooms', file.rooms[0]!.id, { name: 'Landing' });
    expect(await send(phone, at, id, adding('reels', reel))).toBe('applied');
    expect(await send(phone, at, id, rename)).toBe('rights.lead-only');
    expect(
      await send(phone, at, id, {
        kind: 'group',
        changes: [setting('reels', reel.id, { name: 'R' }), rename],
      }),
    ).toBe('rights.lead-only');
    // Nobody speaks for a lead, nor makes themselves one.
    expect(await send(phone, at, leadId, rename)).toBe('person.not-here');
    const crown = CREW_CHANGES.setting('people', id, { role: 'lead' });
    expect(await send(phone, '/crew/book', id, crown)).toBe('rights.lead-only');
    expect(await send(phone, '/crew/book', id, CREW_CHANGES.setting('people', id, { language: 'es' }))).toBe(
      'applied',
    );
    // What a lead brings in a hand-over file is judged on the rights of whoever made it, and nobody else brings any.
    const handed = { isHandedOver: true };
    expect(await send(lead, at, id, rename, handed)).toBe('rights.lead-only');
    expect(await send(lead, at, id, setting('reels', reel.id, { name: 'R1' }), handed)).toBe('applied');
    expect(await send(phone, at, leadId, rename, handed)).toBe('person.not-here');
    // A role of its own in one house.
    const roleIn = [{ houseId: file.id, role: 'lead' as const }];
    expect(await send(lead, '/crew/book', leadId, CREW_CHANGES.setting('people', id, { roleIn }))).toBe(
      'applied',
    );
    expect(await send(phone, at, id, rename)).toBe('applied');
    // What a hand did before anybody signed in comes on a lead's word.
    expect(await send(lead, at, id, setting('reels', reel.id, { name: 'Reel one' }))).toBe('applied');
    const { entries } = (await lead.ask('GET', `${at}/journal?after=0`)).body as {
      entries: { actorId: string; proof?: string }[];
    };
    expect(entries.map(({ actorId, proof }) => [actorId, proof])).toEqual([
      [id, 'verified'],
      [id, 'imported'],
      [id, 'verified'],
      [id, 'imported'],
    ]);
    // The last lead stays one.
    for (const body of [
      CREW_CHANGES.setting('people', leadId, { role: 'hand' }),
      CREW_CHANGES.setting('people', leadId, { left: true }),
      CREW_CHANGES.removing('people', leadId),
    ])
      expect(await send(lead, '/crew/book', leadId, body)).toBe('crew.last-lead');
  });

  it('shares a tablet by PIN, and a device that is not shared speaks for one person', async () => {
    const { phone: tablet, id } = await hand('Desmond');
    const file = empty('Lot 2');
    await lead.ask('POST', '/houses/import', file);
    const at = `/houses/${file.id}`;
    const reel = () =>
      adding('reels', { id: randomUUID(), name: 'R', kind: 'reel', cable: '14/2', lengthIn: 1 });
    const join = async (name: string): Promise<string> => {
      const other = randomUUID();
      const { token } = await invite({ for: 'hand' });
      const asked = { secret: token, person: { id: other, name }, device: tablet.device };
      expect(await tablet.code('POST', '/pair', asked)).toBe(201);
      return other;
    };
    const second = await join('Edgar');
    expect((await tablet.me()).person!.id).toBe(second);
    expect(await send(tablet, at, id, reel())).toBe('person.not-here');
    const device = (await tablet.me()).deviceId!;
    expect(await tablet.code('POST', `/devices/${device}`, { isShared: true })).toBe('rights.lead-only');
    expect(await lead.code('POST', `/devices/${device}`, { isShared: true, name: 'Truck tablet' })).toBe(200);
    const third = await join('Felix');
    expect((await tablet.me()).speakers!.map(({ name }) => name).sort()).toEqual(['Edgar', 'Felix']);
    expect(await send(tablet, at, second, reel())).toBe('applied');
    expect(await send(tablet, at, third, reel())).toBe('applied');
    const { entries } = (await lead.ask('GET', `${at}/journal?after=0`)).body as {
      entries: { proof: string }[];
    };
    expect(entries.map(({ proof }) => proof)).toEqual(['pin', 'verified']);
    // Another phone that calls itself by the same id is another one.
    const claim = browser();
    claim.device = tablet.device;
    const { token } = await invite({ for: 'hand' });
    await claim.ask('POST', '/pair', {
      secret: token,
      person: { id: randomUUID(), name: 'Gaspard' },
      device: claim.device,
    });
    expect((await claim.me()).deviceId).not.toBe(device);
    expect((await tablet.me()).person!.id).toBe(third);
  });

  it('ends what a lost phone, somebody who has left, or a guest may do, at once', async () => {
    const { phone, id } = await hand('Hilary');
    const lines = (await lead.ask('GET', '/devices')).body as DeviceLine[];
    const device = lines.find(({ people }) => people.some((person) => person.id === id))!;
    expect(await lead.code('DELETE', `/devices/${device.id}`)).toBe(200);
    expect(await phone.code('GET', '/houses')).toBe('session.none');
    const again = await invite({ for: 'person', personId: id });
    expect(await phone.code('POST', '/pair', { secret: again.token, device: phone.device })).toBe(201);
    expect((await phone.me()).person!.name).toBe('Hilary');
    await send(lead, '/crew/book', leadId, CREW_CHANGES.setting('people', id, { left: true }));
    expect(await phone.code('GET', '/houses')).toBe('session.none');

    // Somebody leaves by themselves, and does not let themselves in again.
    const goer = await hand('Ilse');
    const left = (value: boolean | null) => CREW_CHANGES.setting('people', goer.id, { left: value });
    expect(await send(goer.phone, '/crew/book', goer.id, left(null))).toBe('rights.lead-only');
    expect(await send(goer.phone, '/crew/book', goer.id, left(true))).toBe('applied');
    expect(await goer.phone.code('GET', '/houses')).toBe('session.none');

    // Erased, nothing that tells of them is left where people are let in.
    expect(await send(lead, '/crew/book', leadId, CREW_CHANGES.removing('people', id))).toBe('applied');
    for (const table of ['account', 'device_person'])
      expect((await owner.query(`select 1 from ${table} where person_id = $1`, [id])).rowCount).toBe(0);

    const [shown, hidden] = [empty('Shown'), empty('Hidden')];
    for (const file of [shown, hidden]) await lead.ask('POST', '/houses/import', file);
    const link = await invite({ for: 'viewer', houseId: shown.id, days: 3 });
    expect(link.code).toBeUndefined();
    const guest = browser();
    expect(await guest.code('POST', '/pair', { secret: link.token, device: guest.device })).toBe(201);
    expect(((await guest.ask('GET', '/houses')).body as { id: string }[]).map((one) => one.id)).toEqual([
      shown.id,
    ]);
    expect(await guest.code('GET', `/houses/${hidden.id}`)).toBe('house.unknown');
    expect(await guest.code('GET', '/devices')).toBe('rights.viewer');
    expect(await guest.code('GET', '/crew/book/journal?after=0')).toBe('rights.viewer');
    const { file } = (await guest.ask('GET', '/crew/book')).body as {
      file: { people: object[]; prices: object[] };
    };
    expect(file.people.every((person) => Object.keys(person).join() === 'id,name')).toBeTrue();
    expect(await send(guest, `/houses/${shown.id}`, leadId, { kind: 'house.set', name: 'Mine' })).toBe(
      'rights.viewer',
    );
    expect(await lead.code('DELETE', `/pairings/${link.id}`)).toBe(200);
    expect(await guest.code('GET', '/houses')).toBe('session.none');
  });

  it('changes the id of a session daily, and an answer that is lost locks nobody out', async () => {
    const { phone } = await hand('Ignace');
    const first = phone.session!;
    await phone.me();
    expect(phone.session).toBe(first);
    await owner.query("update session set made_at = now() - interval '2 days'");
    now.at = Date.now();
    // Two requests at once, of which one answer never arrives; then the old cookie once more.
    const [one, two] = [phone.copy(), phone.copy()];
    await Promise.all([one.me(), two.me()]);
    expect(one.session).not.toBe(first);
    expect(one.session).toBe(two.session);
    expect((await phone.me()).standing).toBe('person');
    expect(phone.session).toBe(one.session);
    // Once the new one is used, the old one is over.
    await phone.me();
    const old = browser();
    old.session = first;
    expect(await old.code('GET', '/houses')).toBe('session.none');
    await owner.query("update session set used_at = now() - interval '61 days'");
    expect((await phone.me()).standing).toBe('nobody');
    await owner.query('update session set used_at = now()');
    await owner.query(
      "update session set ends_at = now() - interval '1 second' where id_hash = sha256($1::bytea)",
      [Buffer.from(one.session!)],
    );
    expect((await phone.me()).standing).toBe('nobody');
  });

  it('takes what is in the wall whatever has become of the plan, once; the rest waits for a lead, and nothing is dropped', async () => {
    const file = { ...(JSON.parse(DEMO) as HouseFile), id: randomUUID() };
    await lead.ask('POST', '/houses/import', file);
    const at = `/houses/${file.id}`;
    const { phone, id } = await hand('Ludovic');
    const stored = async (): Promise<HouseFile> =>
      ((await lead.ask('GET', at)).body as { file: HouseFile }).file;
    const run = file.runs.find((one) => !file.pulls.some(({ runId }) => runId === one.id))!;
    const pull = (runId: string) => {
      const record = {
        id: randomUUID(),
        runId,
        cable: '14/2',
        at: '2026-11-02T10:00:00Z',
        by: id,
        state: 'in',
      };
      return {
        change: { id: randomUUID(), version: 3, body: adding('pulls', record as never) },
        actorId: id,
      };
    };
    const sent = async (changes: unknown[]) =>
      ((await phone.ask('POST', `${at}/changes`, { changes })).body as { answers: Record<string, unknown>[] })
        .answers;
    // The run, and the box that it goes to, are taken out while the phone is in the basement.
    expect(
      await send(lead, at, leadId, { kind: 'box.remove', recordId: run.to.boxId, withDependents: true }),
    ).toBe('applied');
    expect((await stored()).runs.some((one) => one.id === run.id)).toBeFalse();
    // A lead's plan brings nothing back: that is not in the wall.
    const tag = { kind: 'box.set', recordId: run.to.boxId, fields: { tag: { to: 'X' } } };
    expect(await send(lead, at, leadId, tag)).toBe('change.stale-target');
    const mine = pull(run.id);
    const [answer] = await sent([mine]);
    expect([answer!['status'], answer!['overwrote']]).toEqual([
      'applied',
      'The run had been taken out of the plan meanwhile. It stands again, because it is in the wall.',
    ]);
    const after = await stored();
    expect(after.runs.find((one) => one.id === run.id)).toEqual(
      jasmine.objectContaining({ from: run.from, to: run.to }),
    );
    expect(after.boxes.some((box) => box.id === run.to.boxId)).toBeTrue();
    expect((await sent([mine]))[0]!['status']).toBe('already applied');
    // Its undo takes all of it back.
    expect(await send(lead, at, leadId, { kind: 'revert', of: mine.change.id })).toBe('applied');
    expect((await stored()).runs.some((one) => one.id === run.id)).toBeFalse();

    // A run that never was: one for the lead, however often it is sent; the phone's next change is taken all the same.
    const lost = pull(randomUUID());
    const reel = { id: randomUUID(), name: 'Reel 9', kind: 'reel', cable: '14/2', lengthIn: 3000 } as const;
    const next = { change: { id: randomUUID(), version: 3, body: adding('reels', reel) }, actorId: id };
    for (const expected of ['applied', 'already applied'])
      expect((await sent([lost, next])).map(({ status, isHeld }) => isHeld ?? status)).toEqual([
        true,
        expected,
      ]);
    const held = async () =>
      (await lead.ask('GET', `${at}/held`)).body as { changeId: string; actorId: string }[];
    expect((await held()).map(({ changeId, actorId }) => [changeId, actorId])).toEqual([
      [lost.change.id, id],
    ]);
    expect(await phone.code('POST', `${at}/held/${lost.change.id}`, { take: true })).toBe('rights.lead-only');
    // Taking it does not help as long as it does not fit; then it does, and stands as the hand's.
    expect((await lead.ask('POST', `${at}/held/${lost.change.id}`, { take: true })).body).toEqual(
      jasmine.objectContaining({ status: 'refused' }) as never,
    );
    const missing = (lost.change.body as unknown as { record: { runId: string } }).record.runId;
    const anew = {
      ...file.runs.find((one) => one.to.boxId !== run.to.boxId && one.from.boxId !== run.to.boxId)!,
      id: missing,
    };
    expect(await send(lead, at, leadId, adding('runs', anew))).toBe('applied');
    expect((await lead.ask('POST', `${at}/held/${lost.change.id}`, { take: true })).body).toEqual(
      jasmine.objectContaining({ status: 'applied' }) as never,
    );
    expect(await held()).toEqual([]);
    expect(await lead.code('POST', `${at}/held/${lost.change.id}`, { take: false })).toBe('held.unknown');
    expect((await stored()).pulls.find(({ runId }) => runId === missing)!.by).toBe(id);
    const other = pull(randomUUID());
    await sent([other]);
    expect(await lead.code('POST', `${at}/held/${other.change.id}`, { take: false })).toBe(200);
    expect(await held()).toEqual([]);
  });

  it('keeps pictures once, by what is in them, within the crew; a guest sees those of the house', async () => {
    const png = (width: number, height: number, tail = 0): Buffer => {
      const head = Buffer.from('89504e470d0a1a0a0000000d49484452', 'hex');
      const size = Buffer.alloc(8);
      size.writeUInt32BE(width, 0);
      size.writeUInt32BE(height, 4);
      return Buffer.concat([head, size, Buffer.from('0806000000', 'hex'), Buffer.alloc(40 + tail, 7)]);
    };
    const hashOf = (bytes: Buffer): string => createHash('sha256').update(bytes).digest('hex');
    const put = async (by: Browser, bytes: Buffer, hash = hashOf(bytes), type = 'image/png') => {
      const response = await by.fetch(`/assets/${hash}`, {
        method: 'PUT',
        headers: { 'content-type': type },
        body: new Uint8Array(bytes),
      });
      const { how, code } = (await response.json()) as { how?: string; code?: string };
      return how ?? code;
    };
    const sheet = png(1200, 800);
    expect(await put(lead, sheet)).toBe('kept');
    expect(await put(lead, sheet, hashOf(sheet), 'image/jpeg')).toBe('known');
    expect(await put(lead, sheet, hashOf(png(1, 1)))).toBe('asset.other-hash');
    expect(await put(lead, Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>'))).toBe('asset.type');
    expect(await put(lead, Buffer.from('GIF89a..........'))).toBe('asset.type');
    expect(await put(lead, Buffer.alloc(0))).toBe('asset.empty');
    expect(await put(lead, png(30_000, 10))).toBe('asset.too-many-points');
    expect(await put(lead, png(10, 10, 2 * 1024 * 1024))).toBe('body.too-large');
    expect(await put(lead, sheet, hashOf(sheet), 'text/plain')).toBe('body.not-json-type');

    const read = (by: Browser, hash = hashOf(sheet)) => by.fetch(`/assets/${hash}`);
    const got = await read(lead);
    expect([got.status, got.headers.get('content-type')]).toEqual([200, 'image/png']);
    expect(Buffer.from(await got.arrayBuffer()).equals(sheet)).toBeTrue();
    // Another crew has none of it, and may have the same one.
    expect((await read(stranger)).status).toBe(404);
    expect((await read(lead, 'nothing')).status).toBe(404);
    expect(await put(stranger, sheet)).toBe('kept');

    const file = empty('With a sheet');
    await lead.ask('POST', '/houses/import', file);
    const link = await invite({ for: 'viewer', houseId: file.id, days: 1 });
    const guest = browser();
    expect(await guest.code('POST', '/pair', { secret: link.token, device: guest.device })).toBe(201);
    expect(await put(guest, png(5, 5))).toBe('rights.viewer');
    expect((await read(guest)).status).toBe(404);
    const underlay = {
      ...{ asset: hashOf(sheet), name: 'Sheet A1', widthPx: 1200, heightPx: 800 },
      ...{ inPerPx: 0.5, turnDeg: 0, at: { xIn: 0, yIn: 0 } },
    };
    // A record may name a picture that is still on its way.
    const named = setting('storeys', file.storeys[0]!.id, { underlay });
    expect(await send(lead, `/houses/${file.id}`, leadId, named)).toBe('applied');
    expect((await read(guest)).status).toBe(200);
    const stored = (await lead.ask('GET', `/houses/${file.id}`)).body as { file: HouseFile };
    expect(stored.file.storeys[0]!.underlay).toEqual(underlay);
    // Photos as well, the large and the small one of each, and no larger than photos may be.
    const [large, small] = [png(300, 200, 40_000), png(30, 20)];
    expect(await put(lead, large, `${hashOf(large)}?as=thumb`)).toBe('asset.too-large');
    expect(await put(lead, png(9, 9, 260_000), `${hashOf(png(9, 9, 260_000))}?as=photo`)).toBe(
      'asset.too-large',
    );
    expect(await put(lead, large, `${hashOf(large)}?as=photo`)).toBe('kept');
    expect(await put(lead, small, `${hashOf(small)}?as=thumb`)).toBe('kept');
    const photo = adding('photos', {
      ...{ id: randomUUID(), asset: hashOf(large), thumb: hashOf(small), widthPx: 300, heightPx: 200 },
      ...{ at: '2026-03-02T08:00:00.000Z', by: leadId },
    });
    expect((await read(guest, hashOf(large))).status).toBe(404);
    expect(await send(lead, `/houses/${file.id}`, leadId, photo)).toBe('applied');
    for (const one of [large, small]) expect((await read(guest, hashOf(one))).status).toBe(200);
  });

  it('keeps crews apart, whatever a route or a query says', async () => {
    const file = empty('Ours');
    await lead.ask('POST', '/houses/import', file);
    await lead.ask('POST', '/pairings', { for: 'hand' });
    await send(lead, `/houses/${file.id}`, leadId, { kind: 'house.set', name: 'Ours, renamed' });
    const device = (await lead.me()).deviceId!;
    const nowhere = randomUUID();
    // Every route answers to another crew as it does to an id that is nowhere.
    for (const [method, path, body] of [
      ['GET', '/houses/ID'],
      ['GET', '/houses/ID/file'],
      ['POST', '/houses/ID/duplicate', { id: randomUUID(), name: 'Copy' }],
      [
        'POST',
        '/houses/ID/changes',
        {
          changes: [
            {
              change: { id: nowhere, version: 3, body: { kind: 'house.set', name: 'x' } },
              actorId: strangerId,
            },
          ],
        },
      ],
      ['GET', '/houses/ID/journal'],
      ['GET', `/houses/ID/journal/${nowhere}`],
      ['POST', '/pairings', { for: 'viewer', houseId: 'ID', days: 1 }],
      ['POST', '/pairings', { for: 'person', personId: 'PERSON' }],
      ['DELETE', '/devices/DEVICE'],
      ['POST', '/devices/DEVICE', { name: 'x' }],
    ] as const) {
      const as = async (id: string, person: string, own: string) => {
        const put = (text: string) => text.replace('ID', id).replace('PERSON', person).replace('DEVICE', own);
        const { status, body: answer } = await stranger.ask(
          method,
          put(path.replace('/DEVICE', `/${own}`)),
          body && JSON.parse(put(JSON.stringify(body))),
        );
        const { requestId: _, ...rest } = answer as { requestId?: string };
        return { status, ...rest };
      };
      const theirs = await as(file.id, leadId, device);
      expect(theirs)
        .withContext(`${method} ${path}`)
        .toEqual(await as(nowhere, nowhere, nowhere));
      expect(theirs.status).withContext(`${method} ${path}`).toBe(404);
    }
    expect(((await stranger.ask('GET', '/houses')).body as unknown[]).length).toBe(0);
    // A house that another crew has is taken in as one's own, and theirs stays as it is.
    expect(await stranger.code('POST', '/houses/import', { ...file, name: 'Taken' })).toBe(201);
    expect(((await lead.ask('GET', `/houses/${file.id}`)).body as { file: HouseFile }).file.name).toBe(
      'Ours, renamed',
    );

    const { rows } = await owner.query<{ table: string }>(
      `select table_name as "table" from information_schema.tables
       where table_schema = 'public' and table_type = 'BASE TABLE' and table_name not like 'mikro%'`,
    );
    expect(rows.length).toBeGreaterThan(30);
    for (const { table } of rows) {
      const column = table === 'crew' ? 'id' : 'crew_id';
      // Without a crew nothing is there; nor where the crew is made up.
      for (const crew of [undefined, otherCrew, nowhere]) {
        const read = (sql: string, values: unknown[] = []) =>
          crew ? inCrew(orm, crew, (own) => own.all(sql, values)) : sqlOf(orm).all(sql, values);
        if (table === 'attempt') {
          await expectAsync(read('select * from attempt')).toBeRejectedWithError(/permission denied/);
          continue;
        }
        const all = await read(`select ${column} as crew from "${table}"`);
        expect(all.every((row) => row['crew'] === crew))
          .withContext(`${table} as ${crew}`)
          .toBeTrue();
        expect(await read(`select 1 from "${table}" where ${column} = ?`, [LOCAL_CREW])).toEqual([]);
        expect(
          await read(`update "${table}" set ${column} = ${column} where ${column} = ? returning 1`, [
            LOCAL_CREW,
          ]),
        ).toEqual([]);
        expect(await read(`delete from "${table}" where ${column} = ? returning 1`, [LOCAL_CREW])).toEqual(
          [],
        );
      }
    }
    // Nor is anything written into another crew.
    await expectAsync(
      inCrew(orm, otherCrew, (sql) =>
        sql.all(
          "insert into house (crew_id, id, name, base, overrides, seq, changed_at) values (?, ?, 'x', 'x', '{}', 0, now())",
          [LOCAL_CREW, randomUUID()],
        ),
      ),
    ).toBeRejectedWithError(/row-level security/);
    // Three functions look things up before a crew is known, and no more.
    const functions = await owner.query<{ proname: string }>(
      "select proname from pg_proc where prosecdef and pronamespace = 'public'::regnamespace order by 1",
    );
    expect(functions.rows.map(({ proname }) => proname)).toEqual([
      'find_login',
      'find_pairing',
      'find_session',
    ]);
    await expectAsync(sqlOf(orm).all("select too_many('x', 1)")).toBeRejectedWithError(/permission denied/);
  });

  it('does not serve as a role that the policies do not hold', async () => {
    expect(await whyNotServing(orm)).toBeUndefined();
    const above = await connect(OWNER_URL, 1);
    expect(await whyNotServing(above)).toContain('above the policies');
    await above.close();
  });
});

const DEMO = readFileSync(new URL('../../../demo/lot-12.house.json', import.meta.url), 'utf8');
const STOREY = randomUUID();
const EMPTY = {
  format: 'mule-tally-house',
  version: 3,
  rulebook: { base: 'us-2020', overrides: {} },
  ...Object.fromEntries(
    [
      ...[
        'storeys',
        'rooms',
        'openings',
        'bands',
        'circuits',
        'boxes',
        'devices',
        'points',
        'controls',
        'runs',
        'pulls',
      ],
      ...['reels', 'people', 'catalogueBoxes', 'catalogueDevices', 'records', 'asks', 'drafts'],
    ].map((list) => [list, []]),
  ),
};
