import { spawn } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { chmodSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { BatchAnswer, JournalEntry } from '../core/src/contracts/api.js';
import { adding } from '../core/src/changes/change.js';
import { personOfVersion1 } from '../core/src/house/upgrade/version-1.js';
import { anyFreePort, portIsFree } from '../scripts/lib/system.mjs';
import { expect, test } from './stack';

/** The start command as a person runs it, on ports and in a data folder of its own. */
class Started {
  private constructor(
    readonly child: ChildProcess,
    private readonly output: () => string,
    private readonly ended: Promise<number>,
  ) {}

  static readonly all: Started[] = [];

  static run(env: Record<string, string>): Started {
    const child = spawn(process.execPath, ['scripts/start.mjs'], { env: { ...process.env, ...env } });
    let output = '';
    child.stdout.on('data', (chunk) => (output += chunk));
    child.stderr.on('data', (chunk) => (output += chunk));
    const ended = new Promise<number>((resolve) => child.on('exit', (code) => resolve(code ?? -1)));
    const started = new Started(child, () => output, ended);
    Started.all.push(started);
    return started;
  }

  async ready(): Promise<string> {
    await expect.poll(this.output, { timeout: 90_000 }).toContain('Ready after');
    return this.output();
  }

  said(): string {
    return this.output();
  }

  async end(signal: NodeJS.Signals): Promise<number> {
    this.child.kill(signal);
    return this.ended;
  }

  /** Ends what a failed test would leave behind. */
  async clear(): Promise<void> {
    if (this.child.exitCode === null && this.child.signalCode === null) await this.end('SIGTERM');
  }

  async failure(): Promise<string> {
    expect(await this.ended).toBe(1);
    return this.output();
  }
}

const DEMOS = ['Lot 12, two story', 'Lot 3, bungalow', 'Plot 7, terraced house'];

test('npm start: first time, after a kill, stopped cleanly; and one sentence for what is in the way', async () => {
  test.slow();
  const parent = mkdtempSync(join(tmpdir(), 'mule-tally-start-'));
  chmodSync(parent, 0o755);
  const folder = join(parent, 'data-folder');
  const [port, dbPort] = [await anyFreePort(), await anyFreePort()];
  const env = { PORT: String(port), DB_PORT: String(dbPort), DATA_FOLDER: folder };
  const houses = async () =>
    ((await (await fetch(`http://127.0.0.1:${port}/api/houses`)).json()) as { name: string }[]).map(
      ({ name }) => name,
    );
  try {
    const first = Started.run(env);
    expect(await first.ready()).toContain('demo houses loaded');
    expect(await houses()).toEqual(DEMOS);
    const occupied = Started.run({ ...env, DATA_FOLDER: join(parent, 'other') });
    expect(await occupied.failure()).toContain(`Port ${port} is in use.`);

    // A second start on the same data is refused, and stops nothing.
    const twice = Started.run({ ...env, PORT: String(await anyFreePort()) });
    expect(await twice.failure()).toContain('runs on this data folder already');
    expect(await houses()).toEqual(DEMOS);
    // Its own database is started again when it dies.
    const postmaster = () =>
      Number(readFileSync(join(folder, 'data', 'postmaster.pid'), 'utf8').split('\n')[0]);
    const dead = postmaster();
    process.kill(dead, 'SIGQUIT');
    await expect
      .poll(() => first.said(), { timeout: 20_000 })
      .toContain('The database is gone and is started again');
    await expect.poll(() => houses().catch(() => []), { timeout: 20_000 }).toEqual(DEMOS);
    expect(postmaster()).not.toBe(dead);

    await first.end('SIGKILL');
    const second = Started.run(env);
    const said = await second.ready();
    expect(said).not.toContain('demo houses loaded');
    expect(await houses()).toEqual(DEMOS);
    expect(await second.end('SIGTERM')).toBe(0);
    expect(await portIsFree(port)).toBe(true);
    expect(await portIsFree(dbPort)).toBe(true);

    const broken = join(parent, 'broken');
    mkdirSync(join(broken, 'data'), { recursive: true });
    writeFileSync(join(broken, 'data', 'something.txt'), 'not a database');
    const stuck = Started.run({ ...env, DATA_FOLDER: broken });
    expect(await stuck.failure()).toContain('is not a PostgreSQL database');
    expect(await Started.run({ ...env, PORT: 'many' }).failure()).toContain('PORT must be a number');
    expect(
      await Started.run({ ...env, DATABASE_URL: 'postgresql://nobody@127.0.0.1:1/none' }).failure(),
    ).toContain('The server cannot use the database');
  } finally {
    for (const started of Started.all) await started.clear();
    const lock = join(folder, 'data', 'postmaster.pid');
    if (existsSync(lock)) process.kill(Number(readFileSync(lock, 'utf8').split('\n')[0]), 'SIGQUIT');
    rmSync(parent, { recursive: true, force: true });
  }
});

test('a server killed in the middle of a batch takes each change once when it is sent again', async ({
  stack,
  demo,
}) => {
  const { id, rooms, boxes } = demo.file;
  const changes = Array.from({ length: 500 }, (_, index) => ({
    change: {
      id: randomUUID(),
      version: 3,
      body: adding('boxes', {
        id: randomUUID(),
        roomId: rooms[0]!.id,
        tag: `K${index}`,
        catalogueId: 'plastic-1g-18',
      }),
    },
    actorId: personOfVersion1('Lead'),
  }));
  const send = () =>
    fetch(`${stack.url}/api/houses/${id}/changes`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ changes }),
    });
  const journal = async (query: string) =>
    (await (await fetch(`${stack.url}/api/houses/${id}/journal?${query}`)).json()) as {
      entries: JournalEntry[];
    };
  const journalHeld = await stack.holdJournal(id, 101);
  const lost = send().then(
    () => 'answered',
    () => 'cut off',
  );
  await expect.poll(() => journalHeld.held()).toBe(true);
  await stack.killServer();
  expect(await lost).toBe('cut off');
  await journalHeld.release();
  await stack.startServer();
  const before = (await stack.stored(id)).boxes.length - boxes.length;
  expect(before).toBeGreaterThan(0);
  expect(before).toBeLessThan(changes.length);

  const { answers } = (await (await send()).json()) as BatchAnswer;
  expect(answers.filter(({ status }) => status === 'already applied').length).toBe(before);
  expect(answers.filter(({ status }) => status === 'applied').length).toBe(changes.length - before);
  const stored = await stack.stored(id);
  expect(stored.boxes.slice(boxes.length).map(({ tag }) => tag)).toEqual(
    changes.map((_, index) => `K${index}`),
  );
  expect((await journal('after=0&limit=500')).entries.map(({ changeId }) => changeId)).toEqual(
    changes.map(({ change }) => change.id),
  );
});
