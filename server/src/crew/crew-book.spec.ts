import { randomUUID } from 'node:crypto';
import type { CrewBook, CrewChangeBody, CrewDiff, HouseFile, JournalEntry } from '@mule-tally/core';
import {
  CREW_CHANGES,
  CREW_LIST_NAMES,
  applyDiff,
  emptyCrew,
  readCrewFile,
  recordOf,
  rowsOf,
  writeCrewFile,
} from '@mule-tally/core';
import { pino } from 'pino';
import type { Express } from 'express';
import request from 'supertest';
import { createApp } from '../api/app.js';
import { HouseStore } from '../houses/house-store.js';
import { LOCAL_CREW } from '../storage/local-crew.js';
import type { Orm } from '../storage/orm.js';
import { migrate } from '../storage/migrate.js';
import { connect } from '../storage/orm.js';
import { inCrew } from '../storage/sql.js';
import { OWNER_URL, SERVING_URL } from '../testing/database.js';

/** Two servers on one database: what one remembers is not what the other has written. */
describe('Crew book', () => {
  let orm: Orm;
  let servers: Express[];
  let me: string;

  beforeAll(async () => {
    await migrate(OWNER_URL, SERVING_URL);
    orm = await connect(SERVING_URL);
    const log = pino({ level: 'silent' });
    servers = [0, 1].map(() => createApp({ orm, log, databaseUrl: SERVING_URL }));
    me = randomUUID();
    expect(await statuses([[CREW_CHANGES.adding('people', { id: me, name: `Odile ${me}` }), me]])).toEqual([
      'applied',
    ]);
  });
  afterAll(() => orm.close());

  type Sent = readonly [CrewChangeBody, string?, string?];
  const send = async (sent: readonly Sent[], which = 0): Promise<Record<string, unknown>[]> => {
    const changes = sent.map(([body, actorId = me, id = randomUUID()]) => ({
      change: { id, version: 3, body },
      actorId,
    }));
    const { body } = await request(servers[which]!)
      .post('/api/crew/book/changes')
      .send({ changes })
      .expect(200);
    return (body as { answers: Record<string, unknown>[] }).answers;
  };
  const statuses = async (sent: readonly Sent[], which = 0): Promise<unknown[]> =>
    (await send(sent, which)).map(({ status, code }) => code ?? status);
  const book = async (which = 0): Promise<{ crew: CrewBook; seq: number }> => {
    const { body } = await request(servers[which]!).get('/api/crew/book').expect(200);
    const { file, seq } = body as { file: unknown; seq: number };
    const read = readCrewFile(file);
    if (!read.ok) throw new Error(read.problems[0]!.message);
    return { crew: read.crew, seq };
  };
  const entries = async (after: number): Promise<JournalEntry<CrewDiff>[]> => {
    const { body } = await request(servers[0]!)
      .get(`/api/crew/book/journal?after=${after}&limit=500`)
      .expect(200);
    return (body as { entries: JournalEntry<CrewDiff>[] }).entries;
  };

  it('is changed, journaled, undone and read on every server as a house is', async () => {
    const { crew: before, seq } = await book(1);
    const reel = { id: randomUUID(), name: 'Reel 7', kind: 'reel', cable: '14/2', lengthIn: 3000 } as const;
    const offcut = { ...reel, id: randomUUID(), name: 'Offcut', kind: 'offcut', parentId: reel.id } as const;
    const added = randomUUID();
    expect(
      await statuses([
        [CREW_CHANGES.adding('stock', reel), me, added],
        [CREW_CHANGES.adding('stock', offcut)],
        [CREW_CHANGES.setting('stock', reel.id, { lengthIn: 2400 })],
        [CREW_CHANGES.adding('stock', reel), me, added],
        [CREW_CHANGES.adding('stock', { ...reel, id: randomUUID(), parentId: randomUUID() })],
        [
          CREW_CHANGES.adding('habits', { id: randomUUID(), key: 'no.such', override: { value: 1 } }),
          randomUUID(),
        ],
      ]),
    ).toEqual(['applied', 'applied', 'applied', 'already applied', 'crew.dangling', 'person.unknown']);
    // Removing a reel leaves what was cut from it, by itself.
    const removed = randomUUID();
    expect(await statuses([[CREW_CHANGES.removing('stock', reel.id), me, removed]], 1)).toEqual(['applied']);
    expect(recordOf((await book()).crew, 'stock', offcut.id)!.parentId).toBeUndefined();
    expect(await statuses([[{ kind: 'revert', of: removed }]])).toEqual(['applied']);

    const { crew: after } = await book(1);
    expect(recordOf(after, 'stock', offcut.id)!.parentId).toBe(reel.id);
    // Whoever has kept an older book comes to the same by the journal.
    const replayed = (await entries(seq)).reduce((at, { diff }) => applyDiff(at, diff), before);
    expect(writeCrewFile(replayed)).toEqual(writeCrewFile(after));
  });

  it('knows whoever was entered in the same batch, by themselves or by somebody else, and nobody more', async () => {
    const [own, entered, nobody] = [randomUUID(), randomUUID(), randomUUID()];
    const hour = () => CREW_CHANGES.setting('people', me, { left: null });
    expect(
      await statuses([
        [hour(), own],
        [CREW_CHANGES.adding('people', { id: own, name: `Own ${own}` }), own],
        [hour(), own],
        [CREW_CHANGES.adding('people', { id: entered, name: `By me ${entered}` })],
        [hour(), entered],
        [CREW_CHANGES.adding('people', { id: randomUUID(), name: 'Somebody else' }), nobody],
      ]),
    ).toEqual(['person.unknown', 'applied', 'applied', 'applied', 'applied', 'person.unknown']);
  });

  it('keeps names of people where they can be erased, and in no journal', async () => {
    const { seq } = await book();
    const [id, wrong] = [randomUUID(), `Wendeline ${randomUUID()}`];
    const right = `Wendel ${randomUUID()}`;
    const [added, renamed, gone] = [randomUUID(), randomUUID(), randomUUID()];
    const setting = CREW_CHANGES.setting('people', id, { name: right });
    expect(
      await statuses([
        [CREW_CHANGES.adding('people', { id, name: wrong }), me, added],
        [{ kind: 'group', changes: [setting] }, me, renamed],
        [CREW_CHANGES.adding('people', { id, name: wrong }), me, added],
        [{ kind: 'revert', of: renamed }],
      ]),
    ).toEqual(['applied', 'applied', 'already applied', 'revert.erased']);
    // Read with the name as it stands.
    const told = await entries(seq);
    expect(told[0]!.diff.rows[0]!.added!.record['name']).toBe(right);
    expect(await statuses([[CREW_CHANGES.removing('people', id), me, gone]])).toEqual(['applied']);
    expect(await statuses([[{ kind: 'revert', of: gone }]])).toEqual(['revert.erased']);
    const tables = ['crew_journal', 'people', 'journal'].map(
      (table) => `select ${table}::text as text from ${table}`,
    );
    const rows = await inCrew(orm, LOCAL_CREW, (sql) =>
      sql.all<{ text: string }>(tables.join(' union all ')),
    );
    const holding = rows.filter(({ text }) => text.includes(wrong) || text.includes(right));
    expect(holding).toEqual([]);
    const { crew } = await book();
    const replayed = (await entries(seq)).reduce((at, { diff }) => applyDiff(at, diff), crew);
    expect(rowsOf(replayed, 'people')).toEqual(rowsOf(crew, 'people'));
  });

  it('takes in those whose work a house tells of with the house, both or neither, the house locked first', async () => {
    const file: HouseFile = {
      ...JSON.parse(JSON.stringify(emptyFile)),
      id: randomUUID(),
      people: [{ id: randomUUID(), name: `Amaury ${randomUUID()}` }],
    };
    const sql: string[] = [];
    const houses = new HouseStore(orm, randomUUID);
    const join = houses.crew.joinIn.bind(houses.crew);
    houses.crew.joinIn = async (own, crewId, people) => {
      // Nobody else sees the house yet, and it is there: written, and held, before the crew is.
      sql.push(String((await own.all('select 1 from house where id = ?', [file.id])).length));
      const seen = await inCrew(orm, LOCAL_CREW, (other) =>
        other.all('select 1 from house where id = ?', [file.id]),
      );
      sql.push(String(seen.length));
      await join(own, crewId, people);
      if (sql.length === 2) throw new Error('cut off');
    };
    await expectAsync(houses.import(LOCAL_CREW, file, me, 'refuse')).toBeRejected();
    expect(sql).toEqual(['1', '0']);
    expect((await book()).crew.tables.people.get(file.people[0]!.id)).toBeUndefined();
    await houses.import(LOCAL_CREW, file, me, 'refuse');
    expect((await book()).crew.tables.people.get(file.people[0]!.id)!.record.name).toBe(file.people[0]!.name);
    // What was rolled back is remembered nowhere.
    expect((await houses.crew.read(LOCAL_CREW)).file.people).toContain(file.people[0]!);
  });

  it('does not remember what another transaction has not committed', async () => {
    const houses = new HouseStore(orm, randomUUID);
    const before = (await houses.crew.read(LOCAL_CREW)).file;
    const person = { id: randomUUID(), name: `Basil ${randomUUID()}` };
    await expectAsync(
      inCrew(orm, LOCAL_CREW, async (sql) => {
        await houses.crew.joinIn(sql, LOCAL_CREW, [person]);
        await houses.crew.joinIn(sql, LOCAL_CREW, [{ ...person, id: randomUUID() }]);
        throw new Error('cut off');
      }),
    ).toBeRejected();
    expect((await houses.crew.read(LOCAL_CREW)).file).toEqual(before);
    const prices = CREW_CHANGES.adding('prices', { id: randomUUID(), kind: 'hour', amount: 60 });
    await send([[prices]]);
    const { crew } = await book();
    expect((await houses.crew.read(LOCAL_CREW)).file).toEqual(writeCrewFile(crew));
    expect(CREW_LIST_NAMES.every((list) => emptyCrew(crew.head).tables[list].size === 0)).toBeTrue();
  });
});

const emptyFile = {
  format: 'mule-tally-house',
  version: 3,
  name: 'Somewhere',
  rulebook: { base: 'us-2020', overrides: {} },
  ...Object.fromEntries(
    'storeys rooms openings bands beams catalogueBoxes catalogueDevices boxes circuits devices points controls runs reels pulls records asks photos writeUps extras drafts'
      .split(' ')
      .map((list) => [list, []]),
  ),
};
