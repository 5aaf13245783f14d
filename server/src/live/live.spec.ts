import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import type { Server } from 'node:http';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { LiveHere, LiveNumbers, LiveWritten } from '@mule-tally/core';
import { CREW_CHANGES, personOfVersion1 } from '@mule-tally/core';
import pg from 'pg';
import { pino } from 'pino';
import { createApp } from '../api/app.js';
import { HouseStore } from '../houses/house-store.js';
import type { Caller } from '../people/caller.js';
import { Door } from '../people/door.js';
import { Channel } from '../storage/channel.js';
import { migrate } from '../storage/migrate.js';
import type { Orm } from '../storage/orm.js';
import { connect } from '../storage/orm.js';
import { OWNER_URL, SERVING_URL } from '../testing/database.js';
import { Live } from './live.js';

jasmine.DEFAULT_TIMEOUT_INTERVAL = 60_000;

interface Process {
  readonly orm: Orm;
  readonly houses: HouseStore;
  readonly channel: Channel;
  readonly live: Live;
  readonly server: Server;
  readonly at: string;
}

/** Two processes on one database: what one writes, those who listen at the other hear. */
describe('Live', () => {
  let processes: Process[];
  let owner: pg.Client;
  const me = personOfVersion1('Lead');

  const started = async (): Promise<Process> => {
    const orm = await connect(SERVING_URL);
    const houses = new HouseStore(orm, randomUUID);
    const door = new Door(orm, houses.crew);
    const channel = new Channel(SERVING_URL);
    const live = new Live(channel, houses, door, 200);
    const log = pino({ level: 'silent' });
    const app = createApp({ orm, log, databaseUrl: SERVING_URL, houses, door, live });
    const server = createServer(app).listen(0, '127.0.0.1');
    await once(server, 'listening');
    return {
      orm,
      houses,
      channel,
      live,
      server,
      at: `http://127.0.0.1:${(server.address() as AddressInfo).port}/api`,
    };
  };
  beforeAll(async () => {
    await migrate(OWNER_URL, SERVING_URL);
    owner = new pg.Client({ connectionString: OWNER_URL });
    await owner.connect();
    processes = [await started(), await started()];
  });
  afterAll(async () => {
    for (const { live, channel, server, orm } of processes) {
      live.close();
      await channel.close();
      server.close();
      await orm.close();
    }
    await owner.end();
  });

  type Event = { readonly name: string; readonly data: unknown };
  /** Listens until told to stop; `until` resolves with the first event that it takes. */
  async function listening(which: number, query = '') {
    const stop = new AbortController();
    const response = await fetch(`${processes[which]!.at}/live?${query}`, { signal: stop.signal });
    const events: Event[] = [];
    const ears = new Set<() => void>();
    let isOver = false;
    const reading = (async () => {
      let text = '';
      const decoder = new TextDecoder();
      for await (const chunk of response.body!) {
        text += decoder.decode(chunk as Uint8Array, { stream: true });
        const parts = text.split('\n\n');
        text = parts.pop()!;
        for (const part of parts) {
          const [, name, data] = /^event: (\w+)\ndata: (.*)$/.exec(part) ?? [];
          if (name) events.push({ name, data: JSON.parse(data!) });
        }
        for (const ear of ears) ear();
      }
    })()
      .catch(() => undefined)
      .finally(() => {
        isOver = true;
        for (const ear of ears) ear();
      });
    const until = (
      name: string,
      is: (data: never) => boolean = () => true,
      from = 0,
    ): Promise<Event | undefined> =>
      new Promise((resolve) => {
        const look = (): void => {
          const found = events.slice(from).find((event) => event.name === name && is(event.data as never));
          if (!found && !isOver) return;
          ears.delete(look);
          resolve(found);
        };
        ears.add(look);
        look();
      });
    return { response, events, until, reading, stop: () => stop.abort() };
  }
  const post = (which: number, path: string, body: unknown) =>
    fetch(`${processes[which]!.at}${path}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    });
  const house = async (): Promise<string> => {
    const id = randomUUID();
    await post(0, '/houses', { id, name: `Live ${id}`, base: 'us-2020' });
    return id;
  };
  const rename = async (id: string, name: string, which = 0): Promise<number> => {
    const change = { id: randomUUID(), version: 3, body: { kind: 'house.set', name } };
    const answer = await post(which, `/houses/${id}/changes`, { changes: [{ change, actorId: me }] });
    return ((await answer.json()) as { seq: number }).seq;
  };

  it('tells the numbers at once and with each heartbeat, and what is written in whatever process', async () => {
    const id = await house();
    const seq = await rename(id, 'Before');
    const open = await listening(1, `houses=${id},${randomUUID()},nonsense`);
    expect(open.response.headers.get('content-type')).toContain('text/event-stream');
    expect(open.response.headers.get('content-encoding')).toBeNull();
    const first = (await open.until('numbers'))!.data as LiveNumbers;
    expect(first.houses).toEqual({ [id]: seq });
    // Many at once come as few, and the last number is among them.
    const last = Math.max(
      ...(await Promise.all(Array.from({ length: 30 }, (_, n) => rename(id, `Name ${n}`)))),
    );
    await open.until('written', ({ houseId, seq: told }: LiveWritten) => houseId === id && told === last);
    expect(open.events.filter(({ name }) => name === 'written').length).toBeLessThan(30);
    // A word that is lost costs nothing: the next heartbeat has the number.
    await owner.query('update house set seq = seq + 7 where id = $1', [id]);
    const beat = await open.until('numbers', ({ houses }: LiveNumbers) => houses[id] === last + 7);
    expect(beat).toBeDefined();
    await owner.query('update house set seq = seq - 7 where id = $1', [id]);
    // The crew book, and a house that is large enough for a thread of its own.
    const from = open.events.length;
    const body = CREW_CHANGES.adding('people', { id: randomUUID(), name: `Kilian ${id}` });
    const change = { id: randomUUID(), version: 3, body };
    await post(0, '/crew/book/changes', { changes: [{ change, actorId: me }] });
    await open.until('written', ({ houseId }: LiveWritten) => houseId === null, from);
    const long = {
      kind: 'group',
      changes: Array.from({ length: 900 }, (_, n) => ({
        kind: 'house.set',
        name: `${n} ${'x'.repeat(150)}`,
      })),
    };
    const heavy = { change: { id: randomUUID(), version: 3, body: long }, actorId: me };
    const mark = open.events.length;
    expect((await post(0, `/houses/${id}/changes`, { changes: [heavy] })).status).toBe(200);
    expect(await open.until('written', ({ houseId }: LiveWritten) => houseId === id, mark)).toBeDefined();
    open.stop();
    await open.reading;
  });

  it('tells a crew of nobody else, a guest of their house only, and who is in which room', () => {
    const heard: [string, string, unknown][] = [];
    const { live, channel } = processes[0]!;
    const crew = randomUUID();
    const [shown, hidden, person, room] = Array.from({ length: 4 }, () => randomUUID()) as [
      string,
      string,
      string,
      string,
    ];
    const listener = (name: string, caller: Caller) => {
      const send = (event: string, data: unknown): void => void heard.push([name, event, data]);
      const streams = (live as unknown as { streams: Map<string, Set<object>> }).streams;
      streams.set(
        caller.crewId,
        (streams.get(caller.crewId) ?? new Set()).add({ caller, send, end: () => undefined }),
      );
      return () => streams.delete(caller.crewId);
    };
    const gone = [
      listener('lead', { crewId: crew, standing: 'person' }),
      listener('guest', { crewId: crew, standing: 'viewer', houseId: shown }),
      listener('other', { crewId: randomUUID(), standing: 'person' }),
    ];
    const ears = (channel as unknown as { ears: Set<(said: string) => void> }).ears;
    for (const said of [
      `${crew} ${shown} 4`,
      `${crew} ${hidden} 5`,
      `${crew} - 6`,
      `${crew} ${shown} ${room} ${person}`,
    ])
      for (const ear of ears) ear(said);
    const here: LiveHere = { houseId: shown, personId: person, roomId: room };
    expect(heard).toEqual([
      ['lead', 'written', { houseId: shown, seq: 4 }],
      ['guest', 'written', { houseId: shown, seq: 4 }],
      ['lead', 'written', { houseId: hidden, seq: 5 }],
      ['lead', 'written', { houseId: null, seq: 6 }],
      ['lead', 'here', here],
    ]);
    for (const go of gone) go();
  });

  it('lets go of who listens when it hears no more of the database, and hears again by itself', async () => {
    const id = await house();
    const open = await listening(0, `houses=${id}`);
    await open.until('numbers');
    await owner.query("select pg_terminate_backend(pid) from pg_stat_activity where query like 'listen%'");
    await open.reading;
    expect(await open.until('never')).toBeUndefined();
    for (;;) {
      const again = await listening(0, `houses=${id}`);
      if (again.response.status !== 200) {
        expect(again.response.status).toBe(503);
        continue;
      }
      await again.until('numbers');
      const seq = await rename(id, 'After', 1);
      expect(await again.until('written', (written: LiveWritten) => written.seq === seq)).toBeDefined();
      again.stop();
      await again.reading;
      break;
    }
    expect(processes[0]!.channel.isHearing).toBeTrue();
  });
});
