import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { readFileSync } from 'node:fs';
import type { Server } from 'node:http';
import { createServer } from 'node:http';
import type { AddressInfo, Socket } from 'node:net';
import { createConnection, createServer as createWay } from 'node:net';
import type { BatchAnswer, ChangeBody, Envelope, HouseFile, JournalEntry, Person } from '@mule-tally/core';
import { COLUMNS } from '../storage/entities.js';
import {
  TABLES,
  TABLE_NAMES,
  adding,
  applyDiff,
  codeFileJsonSchema,
  houseFileJsonSchema,
  houseOf,
  modelFields,
  personOfVersion1,
  removing,
  setting,
  writeHouseFile,
} from '@mule-tally/core';
import { pino } from 'pino';
import request from 'supertest';
import type { Orm } from '../storage/orm.js';
import { migrate } from '../storage/migrate.js';
import { connect } from '../storage/orm.js';
import { OWNER_URL, SERVING_URL } from '../testing/database.js';
import { createApp } from './app.js';

// A slow machine is no failure: each spec may take as long as a person would wait.
jasmine.DEFAULT_TIMEOUT_INTERVAL = 60_000;

const demo = JSON.parse(
  readFileSync(new URL('../../../demo/lot-12.house.json', import.meta.url), 'utf8'),
) as HouseFile;

/** Two processes serve one database: each with its own connections and its own memory of houses. */
let orms: Orm[];
let servers: Server[];

/** A server of its own, as another process would be. */
async function serve(orm: Orm): Promise<Server> {
  const server = createServer(
    createApp({ orm, databaseUrl: SERVING_URL, log: pino({ level: 'silent' }) }),
  ).listen(0, '127.0.0.1');
  await once(server, 'listening');
  return server;
}
const addressOf = (server: Server): string => `http://127.0.0.1:${(server.address() as AddressInfo).port}`;

beforeAll(async () => {
  await Promise.all([1, 2].map(() => migrate(OWNER_URL, SERVING_URL)));
  orms = [await connect(SERVING_URL), await connect(SERVING_URL)];
  servers = await Promise.all(orms.map(serve));
});
afterAll(async () => {
  for (const server of servers) server.close();
  for (const orm of orms) await orm.close();
});

const api = (which = 0) => request(addressOf(servers[which]!));
const change = (body: ChangeBody, id: string = randomUUID(), by = 'Lead'): Envelope => ({
  change: { id, version: 3, body },
  actorId: personOfVersion1(by),
});

/** A house of its own for each test. */
async function demoHouse(): Promise<HouseFile> {
  const { body } = await api()
    .post('/api/houses/import?onExisting=copy')
    .set('content-type', 'application/json')
    .send(JSON.stringify(demo))
    .expect(201);
  return (
    await api()
      .get(`/api/houses/${body.id as string}`)
      .expect(200)
  ).body.file as HouseFile;
}
const send = async (house: string, changes: unknown[], which = 0): Promise<BatchAnswer> =>
  (await api(which).post(`/api/houses/${house}/changes`).send({ changes }).expect(200)).body as BatchAnswer;
const read = async (house: string, which = 0): Promise<HouseFile> =>
  (await api(which).get(`/api/houses/${house}`).expect(200)).body.file as HouseFile;
const journal = async (house: string): Promise<JournalEntry[]> =>
  (await api().get(`/api/houses/${house}/journal?after=0&limit=500`).expect(200)).body
    .entries as JournalEntry[];

describe('Schema', () => {
  it('is what the migrations make', async () => {
    const owner = await connect(OWNER_URL, 1);
    const update = await owner.schema.getUpdateSchemaSQL({ wrap: false });
    await owner.close();
    // The foreign keys to the house and the crew stand only in the migrations.
    expect(
      update.replace(/alter table "\w+" drop constraint "\w+_(house|person|crew_id_fkey)";\n*/g, '').trim(),
    ).toBe('');
  });

  it('has a column for every field of every record', () => {
    for (const table of TABLE_NAMES) {
      const fields = Object.keys(TABLES[table].schema.shape).filter((field) => field !== 'id');
      expect(COLUMNS[table].map(({ field }) => field).sort())
        .withContext(table)
        .toEqual(fields.sort());
    }
  });

  for (const [name, made] of [
    ['house-file', houseFileJsonSchema],
    ['jurisdiction-file', codeFileJsonSchema],
  ] as const)
    it(`publishes the JSON Schema of the ${name}`, async () => {
      const { body } = await api().get(`/api/${name}.schema.json`).expect(200);
      const schema: unknown = JSON.parse(JSON.stringify(made()));
      expect(body).toEqual(schema);
      const published = new URL(`../../../docs/${name}.schema.json`, import.meta.url);
      expect(JSON.parse(readFileSync(published, 'utf8')))
        .withContext('npx tsx scripts/publish-schema.ts writes it anew')
        .toEqual(schema);
    });
});

describe('Houses', () => {
  it('go from file to database to file exactly: doubles, list order, everything', async () => {
    const file: HouseFile = structuredClone(demo);
    file.id = randomUUID();
    file.boxes.reverse();
    file.pulls[0]!.lengthIn = 0.1 + 0.2;
    file.pulls[1]!.lengthIn = 1e-7;
    file.pulls[2]!.note = "tab\tline\nδ “quote” \\ ' ; drop table boxes; --";
    Object.assign(file.boxes[0]!, { heightIn: 1 / 3, placeNote: '<script>alert(1)</script>' });
    file.rulebook.overrides['fill.volume.14'] = { value: 2.0000000000000004, reason: 'as found' };
    await api()
      .post('/api/houses/import')
      .set('content-type', 'application/json')
      .send(JSON.stringify(file))
      .expect(201);
    expect(await read(file.id)).toEqual(file);
    const { text } = await api()
      .get(`/api/houses/${file.id}/file`)
      .expect(200)
      .expect('content-disposition', /attachment/);
    expect(JSON.parse(text)).toEqual(file);
    // Read from its rows, by a process that has never seen it.
    expect(await read(file.id, 1)).toEqual(file);
  });

  it('that are here already are refused, copied or replaced, as asked', async () => {
    const file = await demoHouse();
    const refused = await api()
      .post('/api/houses/import')
      .set('content-type', 'application/json')
      .send(JSON.stringify(file))
      .expect(409);
    expect(refused.body).toEqual(jasmine.objectContaining({ code: 'house.exists', status: 409 }));
    expect(refused.headers['content-type']).toContain('application/problem+json');
    const copy = (
      await api()
        .post('/api/houses/import?onExisting=copy')
        .set('content-type', 'application/json')
        .send(JSON.stringify(file))
        .expect(201)
    ).body.id as string;
    expect(copy).not.toBe(file.id);
    expect((await read(copy)).pulls.length).toBe(file.pulls.length);
    const other = {
      ...file,
      name: 'Replaced',
      boxes: file.boxes.toReversed(),
      pulls: [],
      records: [],
      photos: [],
      writeUps: [],
      extras: [],
      people: [],
    };
    await api()
      .post('/api/houses/import?onExisting=replace&by=Lead')
      .set('content-type', 'application/json')
      .send(JSON.stringify(other))
      .expect(201);
    expect(await read(file.id)).toEqual(other);
    const [entry] = await journal(file.id);
    await send(file.id, [change({ kind: 'revert', of: entry!.changeId })], 1);
    expect(await read(file.id)).toEqual(file);
  });

  it('are duplicated once under the asked id, with nothing pulled', async () => {
    const file = await demoHouse();
    const id = randomUUID();
    const ask = () => api().post(`/api/houses/${file.id}/duplicate`).send({ id, name: 'Lot 13' });
    await ask().expect(201);
    await ask().expect(200);
    const copy = await read(id);
    expect([copy.name, copy.pulls.length, copy.boxes.length]).toEqual(['Lot 13', 0, file.boxes.length]);
    const { body } = await api().get('/api/houses').expect(200);
    expect((body as { id: string; runsIn: number; runs: number }[]).find((house) => house.id === id)).toEqual(
      jasmine.objectContaining({ runs: file.runs.length, runsIn: 0 }),
    );
  });

  it('can be made empty, once', async () => {
    const head = { id: randomUUID(), name: 'Empty', base: 'us-2023' };
    await api().post('/api/houses').send(head).expect(201);
    await api().post('/api/houses').send(head).expect(200);
    expect((await read(head.id)).rulebook).toEqual({ base: 'us-2023', overrides: {} });
  });
});

describe('Changes over HTTP', () => {
  it('are answered one by one: applied, refused, already applied; a batch goes on past a refusal', async () => {
    const { id, boxes } = await demoHouse();
    const first = change(setting('boxes', boxes[1]!.id, { tag: 'X1' }));
    const bad = change(setting('boxes', randomUUID(), { tag: 'X2' }));
    const third = change(setting('boxes', boxes[2]!.id, { tag: 'X3' }));
    const { answers, seq } = await send(id, [first, bad, third, first]);
    expect(answers.map(({ status }) => status)).toEqual(['applied', 'refused', 'applied', 'already applied']);
    expect(seq).toBe(2);
    const reused = await send(id, [change(setting('boxes', boxes[1]!.id, { tag: 'Y' }), first.change.id)]);
    expect(reused.answers[0]).toEqual(
      jasmine.objectContaining({ status: 'refused', code: 'change.id-reused' }),
    );
    // A refused change is not in the journal and is judged afresh.
    const again = change(setting('boxes', boxes[1]!.id, { tag: 'X2' }), bad.change.id);
    expect((await send(id, [again])).answers[0]!.status).toBe('applied');
  });

  it('are judged one by one: one that is broken stops no other', async () => {
    const { id, boxes } = await demoHouse();
    const good = change(setting('boxes', boxes[1]!.id, { tag: 'Good' }));
    const broken = [
      { ...change(removing('boxes', id), 'x') },
      change({ kind: 'box.explode' } as never),
      change(
        adding('boxes', {
          id: randomUUID(),
          roomId: boxes[0]!.roomId,
          tag: 'a\u0000b',
          catalogueId: 'panel',
        }),
      ),
      { ...change(setting('boxes', boxes[1]!.id, { tag: 'No' })), colour: 'red' },
      JSON.parse(`{"id": "deep", "body": ${'['.repeat(60)}${']'.repeat(60)}}`),
    ];
    const { answers } = await send(id, [...broken, good]);
    expect(answers.map((answer) => ('code' in answer ? answer.code : answer.status))).toEqual([
      ...broken.map(() => 'change.invalid'),
      'applied',
    ]);
    expect(answers[0]!.id).toBe('x');
    expect((await journal(id)).length).toBe(1);
  });

  it('keep a group together or not at all', async () => {
    const { id, boxes } = await demoHouse();
    const group = (last: string): ChangeBody => ({
      kind: 'group',
      changes: [setting('boxes', boxes[1]!.id, { tag: 'G' }), setting('boxes', last, { tag: 'G2' })],
    });
    const refused = await send(id, [change(group(randomUUID()))]);
    expect(refused.answers[0]).toEqual(
      jasmine.objectContaining({ status: 'refused', path: '$.changes[1].recordId' }),
    );
    expect((await read(id, 1)).boxes[1]!.tag).toBe(boxes[1]!.tag);
    await send(id, [change(group(boxes[2]!.id))]);
    expect((await journal(id)).length).toBe(1);
  });

  it('write rows that are the house which the journal’s diffs make', async () => {
    const start = await demoHouse();
    const { id, boxes, runs, rooms } = start;
    const bodies: ChangeBody[] = [
      setting('boxes', boxes[5]!.id, {
        ...modelFields({
          markedVolumeIn3: 19.25,
          material: 'plastic',
          kind: 'device',
          gangs: 1,
          slots: 2,
          markedClamps: 'none',
          groundScrew: false,
        }),
      }),
      removing('boxes', boxes[8]!.id, true),
      adding('boxes', {
        id: randomUUID(),
        roomId: rooms[0]!.id,
        tag: 'NEW',
        catalogueId: 'plastic-1g-18',
      }),
      setting('runs', runs[3]!.id, { measuredLengthIn: null, plannedCable: '12/3' }),
      { kind: 'rule.set', key: 'makeup.trim', override: { value: 7.5 } },
      { kind: 'house.set', name: 'Renamed', base: 'us-2017' },
    ];
    const { answers } = await send(
      id,
      bodies.map((body) => change(body)),
    );
    expect(answers.every(({ status }) => status === 'applied')).toBeTrue();
    const replayed = (await journal(id)).reduce(
      (house, entry) => applyDiff(house, entry.diff),
      houseOf(start),
    );
    const stored = await read(id);
    expect(writeHouseFile(replayed, stored.people)).toEqual(stored);
    // A process without any memory of the house reads the same from the rows alone.
    const fresh = await connect(SERVING_URL);
    const server = await serve(fresh);
    const answer = await fetch(`${addressOf(server)}/api/houses/${id}`);
    expect(((await answer.json()) as { file: HouseFile }).file).toEqual(stored);
    server.close();
    await fresh.close();
  });

  it('are undone from the journal, and say who is in the way when they cannot be', async () => {
    const { id, boxes } = await demoHouse();
    const mine = change(setting('boxes', boxes[1]!.id, { tag: 'Mine' }));
    await send(id, [mine]);
    await send(id, [change(setting('boxes', boxes[1]!.id, { tag: 'Theirs' }), randomUUID(), 'Mireille')], 1);
    const { answers } = await send(id, [change({ kind: 'revert', of: mine.change.id })]);
    expect(answers[0]).toEqual(jasmine.objectContaining({ status: 'refused', code: 'revert.conflict' }));
    expect((answers[0] as { message: string }).message).toContain('Mireille changed the tag of box Theirs');
  });

  it('say whose writing they have written over, by name, and only where it was not seen', async () => {
    const { id, boxes } = await demoHouse();
    const [mireille] = (await api().get('/api/crew').expect(200)).body.people.filter(
      ({ name }: Person) => name === 'Mireille',
    );
    expect(mireille).toBeDefined();
    const tag = (to: string, was: string, by = 'Lead') =>
      change({ kind: 'box.set', recordId: boxes[1]!.id, fields: { tag: { was, to } } }, randomUUID(), by);
    const said = async (one: ReturnType<typeof tag>): Promise<string | undefined> => {
      const [answer] = (await send(id, [one])).answers;
      return answer!.status === 'applied' ? answer!.overwrote : answer!.status;
    };
    const { tag: start } = boxes[1]!;
    expect(await said(tag('Hers', start, 'Mireille'))).toBeUndefined();
    expect(await said(tag('His', start))).toBe(
      'Mireille had changed the tag of box Hers meanwhile; yours stands now.',
    );
    expect(await said(tag('His again', 'His'))).toBeUndefined();
    expect(await said(tag('His again', 'Older')))
      .withContext('the same is no overwriting')
      .toBeUndefined();
    expect(await said(tag('His third', 'Older')))
      .withContext('one’s own writing')
      .toBeUndefined();
    expect(await said({ ...tag('His fourth', 'Older'), deviceId: randomUUID() }))
      .withContext('what the same person has written on another device was not seen here')
      .toBe('Lead had changed the tag of box His third meanwhile; yours stands now.');
    expect((await read(id)).boxes[1]!.tag).toBe('His fourth');
    // Whoever is on no list speaks for nobody.
    const [nobody] = (
      await send(id, [change(setting('boxes', boxes[1]!.id, { tag: 'N' }), randomUUID(), '?')])
    ).answers;
    expect(nobody).toEqual(jasmine.objectContaining({ status: 'refused', code: 'person.unknown' }));
    // A device of version 1 sends names; they are entered as they come.
    const old = {
      id: randomUUID(),
      version: 1,
      by: 'Old hand',
      body: { kind: 'box.set', recordId: boxes[1]!.id, fields: { place: { heightIn: 12 } } },
    };
    expect((await send(id, [old])).answers[0]!.status).toBe('applied');
    expect((await read(id)).boxes[1]!.heightIn).toBe(12);
    expect((await send(id, [old])).answers[0]!.status).toBe('already applied');
  });

  it('lose nothing when many arrive at once through two processes, and each once', async () => {
    const { id, rooms, boxes } = await demoHouse();
    const changes = Array.from({ length: 40 }, (_, index) =>
      change(
        adding('boxes', {
          id: randomUUID(),
          roomId: rooms[index % rooms.length]!.id,
          tag: `N${index}`,
          catalogueId: 'plastic-1g-18',
        }),
      ),
    );
    // Every change is sent twice, through both servers, all at the same time.
    const answers = (
      await Promise.all(changes.flatMap((one) => [send(id, [one], 0), send(id, [one], 1)]))
    ).flatMap((batch) => batch.answers);
    expect(answers.filter(({ status }) => status === 'applied').length).toBe(40);
    expect(answers.filter(({ status }) => status === 'already applied').length).toBe(40);
    const [one, two] = [await read(id, 0), await read(id, 1)];
    expect(one).toEqual(two);
    expect(one.boxes.length).toBe(boxes.length + 40);
    expect((await journal(id)).map(({ seq }) => seq)).toEqual(
      Array.from({ length: 40 }, (_, index) => index + 1),
    );
  });

  it('let the later of two have the last word, or be refused with the reason', async () => {
    const { id, boxes } = await demoHouse();
    const box = boxes[3]!.id;
    const [a, b] = await Promise.all([
      send(id, [change(removing('boxes', box, true))], 0),
      send(id, [change(setting('boxes', box, { tag: 'Late' }))], 1),
    ]);
    expect(a.answers[0]!.status).toBe('applied');
    const late = b.answers[0]!;
    expect(
      late.status === 'applied' || (late.status === 'refused' && late.code === 'change.stale-target'),
    ).toBeTrue();
  });

  it('are paged in the journal', async () => {
    const { id, boxes } = await demoHouse();
    await send(
      id,
      Array.from({ length: 7 }, (_, index) => change(setting('boxes', boxes[1]!.id, { tag: `P${index}` }))),
    );
    const page = async (query: string) =>
      (
        (await api().get(`/api/houses/${id}/journal?${query}`).expect(200)).body.entries as JournalEntry[]
      ).map(({ seq }) => seq);
    expect(await page('limit=3')).toEqual([7, 6, 5]);
    expect(await page('before=5&limit=3')).toEqual([4, 3, 2]);
    expect(await page('after=4')).toEqual([5, 6, 7]);
    await api().get(`/api/houses/${id}/journal?limit=0`).expect(400);
  });
});

describe('Bad input over HTTP', () => {
  const refused = async (
    path: string,
    body: string,
    status: number,
    code: string,
    type = 'application/json',
  ) => {
    const answer = await api().post(path).set('content-type', type).send(body);
    expect([answer.status, answer.body.code]).withContext(path).toEqual([status, code]);
    expect(answer.body.detail.length).toBeGreaterThan(8);
    expect(answer.headers['x-request-id']).toBe(answer.body.requestId);
    return answer;
  };

  it('gets a problem with a stable code and a sentence', async () => {
    const { id } = await demoHouse();
    const changes = `/api/houses/${id}/changes`;
    await refused(changes, '{', 400, 'body.not-json');
    await refused(changes, '{}', 400, 'request.invalid');
    await refused(
      `/api/houses/${randomUUID()}/changes`,
      JSON.stringify({ changes: [change(removing('boxes', id))] }),
      404,
      'house.unknown',
    );
    await refused(
      '/api/houses/not-an-id/changes',
      JSON.stringify({ changes: [change(removing('boxes', id))] }),
      404,
      'house.unknown',
    );
    await refused('/api/houses/import', 'not json', 422, 'file.not-json');
    await refused('/api/houses/import', JSON.stringify(demo), 415, 'body.not-json-type', 'text/plain');
    await refused('/api/houses/import?actorId=a%0Ab', JSON.stringify(demo), 400, 'request.invalid');
    await refused('/api/houses/import', JSON.stringify({ ...demo, version: 7 }), 422, 'file.version');
    await refused('/api/houses/import', `"${'x'.repeat(20_000_000)}"`, 413, 'body.too-large');
    await refused('/api/houses/import?onExisting=eat', JSON.stringify(demo), 400, 'request.invalid');
    await refused('/api/nothing', '{}', 404, 'request.unknown');
    const many = await refused(
      '/api/houses/import',
      JSON.stringify({ ...demo, id: randomUUID(), rooms: [{}], colour: 1 }),
      422,
      'file.unknown-field',
    );
    expect((many.body.problems as { path: string }[]).map(({ path }) => path)).toContain('$.colour');
  });

  it('does not get in under another name of this machine', async () => {
    const answer = await api().get('/api/houses').set('host', 'houses.example');
    expect([answer.status, answer.body.code]).toEqual([403, 'request.other-host']);
  });

  it('leaves what was there untouched', async () => {
    const file = await demoHouse();
    await api()
      .post('/api/houses/import?onExisting=replace')
      .set('content-type', 'application/json')
      .send(JSON.stringify({ ...file, rooms: [] }))
      .expect(422);
    expect(await read(file.id)).toEqual(file);
    expect(await journal(file.id)).toEqual([]);
  });
});

describe('Health', () => {
  it('is up without a database, ready only with one', async () => {
    await api().get('/api/health').expect(200);
    await api().get('/api/ready').expect(200);
    // A way to the database that is cut.
    const to = new URL(SERVING_URL);
    const open = new Set<Socket>();
    const way = createWay((socket) => {
      const onward = createConnection({ host: to.hostname, port: Number(to.port) });
      for (const end of [socket, onward]) open.add(end.on('error', () => undefined));
      socket.pipe(onward).pipe(socket);
    }).listen(0, '127.0.0.1');
    await once(way, 'listening');
    const through = new URL(to);
    through.port = String((way.address() as AddressInfo).port);
    const away = await connect(through.href);
    way.close();
    for (const end of open) end.destroy();
    const server = await serve(away);
    const at = addressOf(server);
    expect((await fetch(`${at}/api/health`)).status).toBe(200);
    expect((await fetch(`${at}/api/ready`)).status).toBe(503);
    const answer = await fetch(`${at}/api/houses`);
    expect([answer.status, ((await answer.json()) as { code: string }).code]).toEqual([503, 'database.away']);
    server.close();
    await away.close();
  });

  it('sends headers that keep the page to itself', async () => {
    const { headers } = await api().get('/api/health');
    expect(headers['content-security-policy']).toContain("default-src 'self'");
    expect(headers['x-content-type-options']).toBe('nosniff');
    expect(headers['x-powered-by']).toBeUndefined();
  });
});

describe('Crew', () => {
  it('has names to pick from, each once', async () => {
    const one = await api().post('/api/crew/people').send({ id: randomUUID(), name: 'Isolde' }).expect(201);
    const again = await api().post('/api/crew/people').send({ id: randomUUID(), name: 'Isolde' }).expect(201);
    expect(again.body.name).toBe('Isolde (2)');
    await api()
      .post('/api/crew/people')
      .send(one.body as Person)
      .expect(201);
    const { body } = await api().get('/api/crew').expect(200);
    expect((body.people as Person[]).filter(({ name }) => name.startsWith('Isolde'))).toEqual([
      one.body as Person,
      again.body as Person,
    ]);
    await api().post('/api/crew/people').send({ id: randomUUID(), name: '' }).expect(400);
  });
});
