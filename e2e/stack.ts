import { test as base } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { randomUUID } from 'node:crypto';
import type { Page } from '@playwright/test';
import pg from 'pg';
import { copyHouseFile, readHouseFile } from '../core/src/house/house-file.js';
import type { HouseFile } from '../core/src/house/house-file.js';
import { startServer } from '../scripts/lib/server.mjs';
import { anyFreePort } from '../scripts/lib/system.mjs';
import { startTestDatabase } from '../scripts/lib/test-database.mjs';
import { HousePage } from './house-page';

export const DEMO = new URL('../demo/lot-12.house.json', import.meta.url).pathname;

/** The real thing: a database of its own and the built server, which can be stopped, restarted and cut off. */
export class Stack {
  private server: Awaited<ReturnType<typeof startServer>> | undefined;
  private constructor(
    private readonly cluster: Awaited<ReturnType<typeof startTestDatabase>>,
    readonly port: number,
  ) {}

  static async start(): Promise<Stack> {
    const stack = new Stack(await startTestDatabase(), await anyFreePort());
    await stack.startServer();
    return stack;
  }

  /** The link by which the crew is set up, once. */
  get linkToSetUp(): string {
    return `${this.url}/set-up#${this.server?.setUp}`;
  }

  get url(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  /** `webFolder` is another build of the app than that of this clone. */
  async startServer(webFolder?: string): Promise<void> {
    this.server = await startServer({
      urls: this.cluster.urls,
      port: this.port,
      env: { LOG_LEVEL: 'silent', ...(webFolder && { WEB_FOLDER: webFolder }) },
    });
  }

  async stopServer(): Promise<void> {
    await this.server?.stop();
  }

  /** Ends the server as a power cut would. */
  async killServer(): Promise<void> {
    this.server?.child.kill('SIGKILL');
    await this.server?.ended;
  }

  async crashDatabase(): Promise<void> {
    await this.cluster.crash();
  }

  async startDatabase(): Promise<void> {
    await this.cluster.start();
  }

  /** Does something to the database behind the server's back, as a restore would, and makes its files anew. */
  async restoreWith(sql: string, values: unknown[]): Promise<void> {
    const client = new pg.Client({ connectionString: this.cluster.url });
    await client.connect();
    await client.query(sql, values);
    await client.query('vacuum full house');
    // As with a restore, whoever was connected is not any more.
    await client.query("select pg_terminate_backend(pid) from pg_stat_activity where query like 'listen%'");
    await client.end();
  }

  /**
   * Holds the writing of a house's journal from an entry on, as a disk that stalls would; resolves with what lets go of it.
   * `held` resolves once something waits.
   */
  async holdJournal(
    houseId: string,
    from: number,
  ): Promise<{ held(): Promise<boolean>; release(): Promise<void> }> {
    const client = new pg.Client({ connectionString: this.cluster.url });
    await client.connect();
    await client.query('select pg_advisory_lock(1)');
    await client.query(`
      create function hold_journal() returns trigger language plpgsql as $$
      begin
        if new.house_id = '${houseId}' and new.seq >= ${from} then perform pg_advisory_xact_lock(1); end if;
        return new;
      end $$;
      create trigger hold_journal before insert on journal for each row execute function hold_journal()`);
    return {
      async held() {
        const { rowCount } = await client.query(
          "select 1 from pg_locks where locktype = 'advisory' and not granted",
        );
        return rowCount === 1;
      },
      async release() {
        await client.query('select pg_advisory_unlock(1)');
        await client.query('drop trigger hold_journal on journal; drop function hold_journal()');
        await client.end();
      },
    };
  }

  async stop(): Promise<void> {
    await this.stopServer();
    await this.cluster.destroy();
  }

  /** The demo house under new ids, so that tests do not meet. */
  async demoHouse(name: string): Promise<HouseFile> {
    const read = readHouseFile(readFileSync(DEMO, 'utf8'));
    if (!read.ok) throw new Error('the demo is broken');
    const file = copyHouseFile(read.file, name, randomUUID, true);
    const answer = await fetch(`${this.url}/api/houses/import`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(file),
    });
    if (!answer.ok) throw new Error(await answer.text());
    return file;
  }

  /** Takes a house file in, as it is. */
  async takeIn(file: HouseFile): Promise<void> {
    const answer = await fetch(`${this.url}/api/houses/import?onExisting=refuse`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(file),
    });
    if (answer.status !== 201) throw new Error(await answer.text());
  }

  async stored(houseId: string): Promise<HouseFile> {
    const answer = await fetch(`${this.url}/api/houses/${houseId}`);
    return ((await answer.json()) as { file: HouseFile }).file;
  }
}

export interface Demo {
  readonly file: HouseFile;
  /** The sheet of a stage in a room of the demo house. */
  open(page: Page, stage: string, room: string, more?: Record<string, string>): Promise<HousePage>;
}

export const test = base.extend<{ demo: Demo }, { stack: Stack }>({
  stack: [
    // Playwright reads the fixture's needs off this pattern.
    // eslint-disable-next-line no-empty-pattern
    async ({}, use) => {
      const stack = await Stack.start();
      await use(stack);
      await stack.stop();
    },
    { scope: 'worker' },
  ],
  demo: async ({ stack }, use, info) => {
    const file = await stack.demoHouse(info.title.slice(0, 80));
    await use({
      file,
      async open(page, stage, room, more = {}) {
        const house = new HousePage(page, file, stack.url);
        await house.open(stage, room, more);
        return house;
      },
    });
  },
});
export { expect } from '@playwright/test';
