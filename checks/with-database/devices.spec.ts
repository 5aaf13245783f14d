import type { UUID } from 'node:crypto';
import { deepStrictEqual as deepEqual } from 'node:assert';
import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import type { Server } from 'node:http';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { ChangeBody, House, HouseFile, TableName } from '@mule-tally/core';
import {
  HOUSE_CHANGES,
  TABLES,
  applyDiff,
  copyHouseFile,
  houseOf,
  rowsOf,
  writeHouseFile,
} from '@mule-tally/core';
import * as fc from 'fast-check';
import pg from 'pg';
import { pino } from 'pino';
import { randomHouse } from '../../core/src/testing/random-house.js';
import { many, runs } from '../../core/src/testing/seed.js';
import { createApp } from '../../server/src/api/app.js';
import { HouseStore } from '../../server/src/houses/house-store.js';
import { Door } from '../../server/src/people/door.js';
import type { Orm } from '../../server/src/storage/orm.js';
import { connect } from '../../server/src/storage/orm.js';
import { Browser, ownDatabase } from '../../server/src/testing/own-crew.js';
import type { Page, Worker } from './page.js';
import { openPage } from './page.js';

jasmine.DEFAULT_TIMEOUT_INTERVAL = 300_000;

/** What becomes of a request on its way. */
type Fate = 'there and back' | 'never there' | 'never back' | 'cut off' | 'twice' | 'late' | 'crash';

/** A device with its browser: what its pages keep outlives them. */
class Device {
  readonly storage: Map<string, string>;
  /** What becomes of the next requests; afterwards the network is as `isOnline` says. */
  fates: Fate[] = [];
  isOnline = true;
  page: Page;
  /** What was entered on it, in order. */
  readonly entered: string[] = [];
  /** What the server has said of each change. */
  readonly told = new Map<string, Set<string>>();
  private generation = 0;
  private going = 0;

  constructor(
    readonly worker: Worker,
    readonly houseId: string,
    private readonly browser: Browser,
    /** Requests that come to the server long after whoever sent them has given up. */
    private readonly late: (() => Promise<unknown>)[],
  ) {
    // A database of its own.
    this.storage = new Map([
      ['mule-tally.crew', worker.deviceId],
      ['mule-tally.first-crew', 'another'],
    ]);
    this.page = this.open();
  }

  private open(): Page {
    const generation = ++this.generation;
    this.going = 0;
    const gone = (): Promise<never> => new Promise(() => undefined);
    const fetch = async (path: string, init: RequestInit = {}): Promise<Response> => {
      // A page that is gone asks nothing any more, and hears nothing.
      if (generation !== this.generation) return gone();
      this.going++;
      const heard = await this.sent(path, init).then(
        (response) => () => response,
        (error: unknown) => () => {
          throw error;
        },
      );
      if (generation !== this.generation) return gone();
      this.going--;
      return heard();
    };
    return openPage({ storage: this.storage, fetch }, this.worker, this.houseId);
  }

  private async sent(path: string, { signal: _patience, ...init }: RequestInit): Promise<Response> {
    const send = async (): Promise<Response> => {
      const response = await this.browser.fetch(path.replace('/api', ''), init);
      await this.hear(response);
      return response;
    };
    const fate = this.fates.shift() ?? (this.isOnline ? 'there and back' : 'never there');
    switch (fate) {
      case 'there and back':
        return send();
      case 'never there':
        throw new TypeError('no network');
      case 'never back':
        await send();
        throw new TypeError('no network');
      case 'late':
        this.late.push(send);
        throw new TypeError('no network');
      case 'twice':
        await send();
        return send();
      case 'cut off': {
        const response = await send();
        const text = await response.text();
        return new Response(text.slice(0, text.length / 2), response);
      }
      case 'crash':
        await send();
        this.crash();
        throw new TypeError('no network');
    }
  }

  private async hear(response: Response): Promise<void> {
    const json = (await response
      .clone()
      .json()
      .catch(() => ({}))) as { answers?: { id: string; status: string }[] };
    for (const { id, status } of json.answers ?? [])
      this.told.set(id, (this.told.get(id) ?? new Set()).add(status));
  }

  /** The page is gone between one moment and the next, and is opened anew. */
  crash(): void {
    this.page.close();
    this.page = this.open();
  }

  enter(body: ChangeBody | 'undo' | 'redo'): void {
    const before = this.page.state().outbox.length;
    if (body === 'undo') this.page.desk.undo();
    else if (body === 'redo') this.page.desk.redo();
    else this.page.desk.make(body);
    const made = this.page.state().outbox.slice(before);
    this.entered.push(...made.map(({ change }) => change.id));
  }

  /** Until what was entered is in the database of the device, milliseconds after it is shown. */
  async kept(): Promise<void> {
    while (this.page.state().unkept.length) await new Promise((resolve) => setTimeout(resolve, 1));
  }

  /** Until nothing goes on: no request, and what was entered is in the database of the device. */
  async quiet(): Promise<void> {
    for (let still = 0, looks = 0; still < 3; looks++) {
      await new Promise((resolve) => setTimeout(resolve, 2));
      const { phase, unkept } = this.page.state();
      const isAtWork = this.going > 0 || this.page.isSending() || phase === 'loading' || unkept.length > 0;
      still = isAtWork ? 0 : still + 1;
      if (looks > 30_000)
        throw new Error(
          `Never quiet: ${this.worker.name}, ${JSON.stringify({ going: this.going, phase, unkept })}`,
        );
    }
  }
}

/** Tables of what the house is to become. */
const PLAN: readonly TableName[] = [
  'runs',
  'boxes',
  'rooms',
  'devices',
  'points',
  'storeys',
  'circuits',
  'controls',
];

/**
 * A change of what is seen. A hand does what hands do; a lead adds what is like another, writes a field as another has it, takes
 * out what hands may be at work on.
 */
function bodyOf(
  view: House,
  { id: by, role }: Worker,
  [list, which, other, verb, field]: readonly number[],
): ChangeBody | 'undo' | 'redo' | undefined {
  const { adding, removing, setting } = HOUSE_CHANGES;
  const one = (table: TableName, at: number) => {
    const rows = rowsOf(view, table);
    return rows[at % Math.max(1, rows.length)]?.record as
      ({ id: string } & Record<string, unknown>) | undefined;
  };
  const id = randomUUID();
  if (verb === 0) return field! % 3 ? 'undo' : 'redo';
  if (verb! < (role === 'hand' ? 6 : 2)) {
    const run = one('runs', which!);
    const pull = { id, runId: run?.id, cable: '14/2', state: 'in', at: '2026-11-27T08:00:00Z', by };
    return run && (adding('pulls', pull as never) as ChangeBody);
  }
  if (role === 'hand') {
    const [table, fields] = (
      [
        ['runs', { measuredLengthIn: 60 + field! }],
        ['boxes', { placeNote: `behind the duct ${field}` }],
        ['pulls', { note: `by hand ${field}` }],
      ] as const
    )[list! % 3]!;
    const record = one(table, which!);
    if (!record) return undefined;
    return (
      verb === 9 && table === 'pulls'
        ? removing(table, record.id)
        : setting(table, record.id, fields as never)
    ) as ChangeBody;
  }
  const table = PLAN[list! % PLAN.length]!;
  const [record, like] = [one(table, which!), one(table, other!)];
  if (!record || !like) return undefined;
  if (verb! < 4) return removing(table, record.id, true) as ChangeBody;
  if (verb! < 6) return adding(table, { ...record, id } as never) as ChangeBody;
  const names = Object.keys(TABLES[table].schema.shape).filter((name) => name !== 'id');
  const name = names[field! % names.length]!;
  return setting(table, record.id, { [name]: like[name] ?? null } as never) as ChangeBody;
}

type Step =
  | { readonly kind: 'enter'; readonly device: number; readonly pick: readonly number[] }
  | { readonly kind: 'network'; readonly device: number; readonly isOnline: boolean }
  | { readonly kind: 'look'; readonly devices: readonly number[]; readonly fates: readonly Fate[] }
  | { readonly kind: 'crash'; readonly device: number }
  | { readonly kind: 'late' };

const device = fc.nat({ max: 1 });
const fate = fc.constantFrom<Fate>(
  'there and back',
  'there and back',
  'never there',
  'never back',
  'cut off',
  'twice',
  'late',
  'crash',
);
const step: fc.Arbitrary<Step> = fc.oneof(
  {
    weight: 8,
    arbitrary: fc.record({
      kind: fc.constant('enter' as const),
      device,
      pick: fc.tuple(
        fc.nat({ max: 97 }),
        fc.nat({ max: 997 }),
        fc.nat({ max: 997 }),
        fc.nat({ max: 9 }),
        fc.nat({ max: 97 }),
      ),
    }),
  },
  {
    weight: 1,
    arbitrary: fc.record({ kind: fc.constant('network' as const), device, isOnline: fc.boolean() }),
  },
  {
    weight: 4,
    arbitrary: fc.record({
      kind: fc.constant('look' as const),
      devices: fc.constantFrom([0], [1], [0, 1], [1, 0]),
      fates: fc.array(fate, { maxLength: 4 }),
    }),
  },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('crash' as const), device }) },
  { weight: 1, arbitrary: fc.constant({ kind: 'late' as const }) },
);

/** The real page on two devices, the real server on a real database, and between them a network that does what it likes. */
describe('Two devices that were both away and both edited', () => {
  let orm: Orm;
  let server: Server;
  let db: pg.Client;
  let lead: Browser;
  let hand: Browser;
  const crew: Record<'lead' | 'hand', Worker & { deviceId: UUID }> = {
    lead: { id: randomUUID(), name: 'Odile', role: 'lead', deviceId: randomUUID() },
    hand: { id: randomUUID(), name: 'Basil', role: 'hand', deviceId: randomUUID() },
  };

  beforeAll(async () => {
    const urls = await ownDatabase('devices');
    db = new pg.Client({ connectionString: urls.owner });
    await db.connect();
    orm = await connect(urls.serving);
    const houses = new HouseStore(orm, randomUUID);
    const door = new Door(orm, houses.crew);
    server = createServer(
      createApp({ orm, databaseUrl: urls.serving, log: pino({ level: 'silent' }), houses, door }),
    ).listen(0, '127.0.0.1');
    await once(server, 'listening');
    const at = (): string => `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
    [lead, hand] = [new Browser(at), new Browser(at)];
    lead.device = { id: crew.lead.deviceId, name: 'Lead' };
    hand.device = { id: crew.hand.deviceId, name: 'Hand' };
    const token = await door.linkToSetUp();
    const person = ({ id, name }: Worker) => ({ id, name });
    const asked = {
      token,
      crewName: 'Rafter crew',
      person: person(crew.lead),
      login: 'odile',
      password: 'wet lath and plaster',
      device: lead.device,
    };
    expect(await lead.code('POST', '/set-up', asked)).toBe(201);
    const { body } = await lead.ask('POST', '/pairings', { for: 'hand' });
    const secret = (body as { code: string }).code;
    expect(await hand.code('POST', '/pair', { secret, person: person(crew.hand), device: hand.device })).toBe(
      201,
    );
  });
  afterAll(async () => {
    server.close();
    await db.end();
    await orm.close();
  });

  const houseFrom = async (like: HouseFile): Promise<HouseFile> => {
    const file = copyHouseFile({ ...like, people: [] }, 'Lot', randomUUID, false);
    expect(await lead.code('POST', '/houses/import', file)).toBe(201);
    return file;
  };
  const devicesAt = async (houseId: string) => {
    const late: (() => Promise<unknown>)[] = [];
    const worker = (who: Worker): Worker => ({ ...who, deviceId: who.deviceId });
    const devices = [
      new Device(worker(crew.lead), houseId, lead, late),
      new Device(worker(crew.hand), houseId, hand, late),
    ] as const;
    // Both have opened the house before they go.
    for (const one of devices) {
      one.storage.set('mule-tally.crew', `${one.worker.deviceId}-${houseId}`);
      one.crash();
      await one.quiet();
    }
    return { devices, late };
  };
  const journal = async (houseId: string) =>
    (
      await db.query<{ change_id: string; actor_id: string; diff: never }>(
        'select change_id, actor_id, diff from journal where house_id = $1 order by seq',
        [houseId],
      )
    ).rows;

  /** With a network for all again: whatever each of them still has goes out, and what the others did comes in. */
  const settle = async (devices: readonly Device[], late: (() => Promise<unknown>)[]): Promise<void> => {
    for (const one of devices) [one.isOnline, one.fates] = [true, []];
    // Four rounds do; what still waits on a slow machine is given more before it is judged.
    for (let round = 0; round < 20; round++) {
      for (const send of late.splice(0)) await send();
      for (const one of devices) {
        one.page.look();
        await one.quiet();
      }
      const waits = devices.some(({ page }) => page.state().outbox.some(({ refusal }) => !refusal));
      if (round >= 3 && !waits) return;
    }
  };

  const atTheEnd = async (devices: readonly Device[], before: HouseFile): Promise<Record<string, number>> => {
    const { body } = await lead.ask('GET', `/houses/${before.id}`);
    const { people: _people, ...stored } = (body as { file: HouseFile }).file;
    const entries = await journal(before.id);
    // What the journal says was done, done again, gives what the server has.
    const again = entries.reduce((house, { diff }) => applyDiff(house, diff), houseOf(before));
    const plain = (house: House): object => {
      const { people: _names, ...file } = writeHouseFile(house, []);
      return file;
    };
    deepEqual(plain(again), stored, 'the journal');
    const held = (
      await db.query<{ change_id: string }>(
        'select change_id from held where house_id = $1 and decided_at is null',
        [before.id],
      )
    ).rows.map(({ change_id }) => change_id);
    const fates: Record<string, number> = { applied: 0, refused: 0, held: 0, idle: 0 };
    for (const one of devices) {
      const { name } = one.worker;
      deepEqual(plain(one.page.house.head()!.document), stored, `what ${name} has of the server`);
      deepEqual(plain(one.page.house.view()!), stored, `what ${name} sees`);
      const kept = await one.page.outbox();
      deepEqual(
        kept.filter(({ item }) => !item.refusal),
        [],
        `unsent of ${name}`,
      );
      deepEqual(
        one.page.state().outbox.map(({ change }) => change.id),
        kept.map(({ item }) => item.change.id),
        `shown to ${name}`,
      );
      const refused = new Set(kept.map(({ item }) => item.change.id));
      for (const id of one.entered) {
        const count = entries.filter(({ change_id }) => change_id === id).length;
        const ways = [
          ...Array.from({ length: count }, () => 'applied'),
          ...(refused.has(id) ? ['refused'] : []),
          ...(held.includes(id) ? ['held'] : []),
        ];
        // What says what is there already is no entry, and whoever sent it is told so.
        if (ways.length === 0 && one.told.get(id)?.has('already applied')) ways.push('idle');
        deepEqual(
          ways.length,
          1,
          `${name} ${id}: ${ways.join()}, told ${[...(one.told.get(id) ?? [])].join()}`,
        );
        fates[ways[0] ?? 'lost']! += 1;
      }
      // In the order in which they were entered, but for what was refused first and came once more when it could be taken.
      const own = entries.filter(
        ({ actor_id, change_id }) => actor_id === one.worker.id && !one.told.get(change_id)?.has('refused'),
      );
      const ids = own.map(({ change_id }) => change_id);
      deepEqual(
        ids,
        one.entered.filter((id) => ids.includes(id)),
        `order of ${name}`,
      );
      one.page.close();
    }
    return fates;
  };

  it('end equal with the server, every change applied once or shown, whatever the network does', async () => {
    const sum: Record<string, number> = {};
    await fc.assert(
      fc.asyncProperty(
        randomHouse,
        fc.array(step, { minLength: 20, maxLength: 80, size: 'max' }),
        async ({ plan }, steps) => {
          const file = await houseFrom(plan.file);
          const { devices, late } = await devicesAt(file.id);
          for (const one of devices) one.isOnline = false;
          for (const one of steps) {
            if (one.kind === 'late') for (const send of late.splice(0)) await send();
            else if (one.kind === 'look') {
              for (const at of one.devices) await devices[at]!.kept();
              for (const at of one.devices) devices[at]!.fates = [...one.fates];
              for (const at of one.devices) devices[at]!.page.look();
              for (const at of one.devices) await devices[at]!.quiet();
              for (const at of one.devices) devices[at]!.fates = [];
            } else {
              const at = devices[one.device]!;
              if (one.kind === 'network') at.isOnline = one.isOnline;
              else if (one.kind === 'crash') {
                await at.kept();
                at.crash();
                await at.quiet();
              } else {
                const view = at.page.house.view();
                const body = view && bodyOf(view, at.worker, one.pick);
                if (body) at.enter(body);
              }
            }
          }
          for (const one of devices) await one.quiet();
          await settle(devices, late);
          for (const [way, count] of Object.entries(await atTheEnd(devices, file)))
            sum[way] = (sum[way] ?? 0) + count;
        },
      ),
      { numRuns: runs(25), endOnFailure: true },
    );
    // Whether a change comes so late that it has to be held depends on the machine as well: once in a while none does.
    for (const way of ['applied', 'refused']) expect(sum[way]).withContext(way).toBeGreaterThan(many(0));
  });

  it('bring a day of over a thousand changes in order, with the app closed and the network breaking off in between', async () => {
    const file = await houseFrom(fc.sample(randomHouse, { numRuns: 1, seed: 7 })[0]!.plan.file);
    const { devices, late } = await devicesAt(file.id);
    const [, phone] = devices;
    phone.isOnline = false;
    const runsThere = rowsOf(phone.page.house.view()!, 'runs');
    for (let count = 0; count < 1200; count++) {
      const { record } = runsThere[count % runsThere.length]!;
      phone.enter(
        HOUSE_CHANGES.setting('runs', record.id, { measuredLengthIn: 100 + count } as never) as ChangeBody,
      );
    }
    expect(phone.entered.length).toBe(1200);
    await phone.kept();
    phone.crash();
    await phone.quiet();
    expect(phone.page.state().outbox.length).toBe(1200);
    const last = rowsOf(phone.page.house.view()!, 'runs').map(({ record }) => record.measuredLengthIn);
    expect(Math.max(...last.map(Number))).toBe(1299);
    phone.isOnline = true;
    phone.fates = ['there and back', 'never back', 'there and back', 'cut off', 'late', 'crash'];
    for (let looks = 0; looks < 6; looks++) {
      phone.page.look();
      await phone.quiet();
    }
    // A session that ends in the middle of it keeps the rest, and whoever signs in again sends it.
    const { session } = hand;
    hand.session = undefined;
    phone.enter(
      HOUSE_CHANGES.setting('boxes', file.boxes[0]!.id, { placeNote: 'signed out' } as never) as ChangeBody,
    );
    await phone.kept();
    phone.page.look();
    await phone.quiet();
    expect(phone.page.state().outbox.map(({ refusal }) => refusal)).toContain(undefined);
    hand.session = session;
    await settle(devices, late);
    expect(await atTheEnd(devices, file)).toEqual({ applied: 1201, refused: 0, held: 0, idle: 0 });
  });
});
