/**
 * How long the screen is kept busy, at a quarter of this machine's speed (as a phone has it): opening the demo house from the
 * yard, changing from stage to stage, and sitting still while the worker looks through the house after a change that somebody
 * else made. Fails when a task is longer than its bound.
 */
import { chromium } from '@playwright/test';
import type { Page } from '@playwright/test';
import { randomUUID } from 'node:crypto';
import { personOfVersion1 } from '../core/src/index.js';
import { CHROMIUM } from '../scripts/lib/browser.mjs';
import { startServer } from '../scripts/lib/server.mjs';
import { anyFreePort } from '../scripts/lib/system.mjs';
import { startTestDatabase } from '../scripts/lib/test-database.mjs';

const SLOWER = 4;
/** In milliseconds. */
const BOUNDS = { opening: 200, stage: 100, idle: 50 };
const ROUNDS = 5;
const STAGES = ['Lay out', 'Make up', 'Check', 'Pull'];

interface Marked {
  readonly tasks: { readonly at: number; readonly took: number }[];
}

/** Every task of the main thread that takes longer than 50 ms is written down by the browser. */
const watch = (page: Page): Promise<unknown> =>
  page.addInitScript(() => {
    const marked: Marked = { tasks: [] };
    (window as unknown as { marked: Marked }).marked = marked;
    new PerformanceObserver((list) => {
      for (const { startTime, duration } of list.getEntries())
        marked.tasks.push({ at: startTime, took: duration });
    }).observe({ type: 'longtask', buffered: true });
  });

/** Tasks over 50 ms since a time of the page. */
const tasksSince = (page: Page, since: number): Promise<number[]> =>
  page.evaluate(async (from) => {
    await new Promise((idle) => setTimeout(idle, 100));
    const { tasks } = (window as unknown as { marked: Marked }).marked;
    return tasks.filter(({ at }) => at >= from).map(({ took }) => Math.round(took));
  }, since);
/** Until the worker has looked through the house after a time of the page. */
const lookedThrough = (page: Page, since: number): Promise<unknown> =>
  page.waitForFunction(
    (from) => performance.getEntriesByName('house looked through').some(({ startTime }) => startTime > from),
    since,
    { timeout: 30_000 },
  );
const now = (page: Page): Promise<number> => page.evaluate(() => performance.now());
const longest = (tasks: readonly number[]): number => Math.max(0, ...tasks);
const median = (times: readonly number[]): number => times.toSorted((a, b) => a - b)[times.length >> 1]!;

const cluster = await startTestDatabase();
const port = await anyFreePort();
const server = await startServer({ databaseUrl: cluster.url, port });
const browser = await chromium.launch(CHROMIUM);
try {
  const base = `http://127.0.0.1:${port}`;
  const [{ id }] = (await (await fetch(`${base}/api/houses`)).json()) as [{ id: string }];
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await watch(page);
  const broken: string[] = [];
  const bound = (what: string, took: number, most: number): void => {
    console.log(`${what}: ${took} ms (at most ${most})`);
    if (took > most) broken.push(what);
  };
  const slow = await page.context().newCDPSession(page);
  await page.goto(base);
  await page
    .getByRole('link', { name: /Lot 12/ })
    .first()
    .waitFor();
  await slow.send('Emulation.setCPUThrottlingRate', { rate: SLOWER });

  const since = await now(page);
  await page
    .getByRole('link', { name: /Lot 12/ })
    .first()
    .click();
  await page.locator('main.sheet h1').waitFor();
  await lookedThrough(page, since);
  const opened = await tasksSince(page, since);
  console.log('opening:', opened.join(', '));
  bound('opening the demo, longest task', longest(opened), BOUNDS.opening);

  const times = new Map<string, number[]>();
  for (let round = 0; round < ROUNDS; round++)
    for (const stage of STAGES) {
      const took = await page.evaluate(async (name) => {
        const link = [...document.querySelectorAll<HTMLAnchorElement>('nav.stages a')].find(
          (one) => one.textContent!.trim() === name,
        )!;
        await new Promise((idle) => setTimeout(idle, 50));
        const since = performance.now();
        link.click();
        const outlet = document.querySelector('main.sheet router-outlet')!;
        const swapped = new Promise<void>((done) => {
          const watch = new MutationObserver(() => (watch.disconnect(), done()));
          watch.observe(outlet.parentElement!, { childList: true });
        });
        await swapped;
        await new Promise(requestAnimationFrame);
        await new Promise((drawn) => setTimeout(drawn));
        return Math.round(performance.now() - since);
      }, stage);
      times.set(stage, [...(times.get(stage) ?? []), took]);
    }
  for (const [stage, took] of times) {
    console.log(`to ${stage}: ${took.join(', ')}`);
    bound(`changing to ${stage}, median`, median(took.slice(1)), BOUNDS.stage);
  }

  // Somebody else changes a rule that every box reads: the worker looks through the house, the screen shows one room.
  await page.getByRole('link', { name: 'Pull', exact: true }).click();
  const idle: number[] = [];
  for (const value of [7, 8, 6]) {
    const since = await now(page);
    const change = {
      id: randomUUID(),
      version: 2,
      body: { kind: 'rule.set', key: 'makeup.trim', override: { value } },
    };
    const answer = await fetch(`${base}/api/houses/${id}/changes`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ changes: [{ change, actorId: personOfVersion1('Lead') }] }),
    });
    if (!answer.ok) throw new Error(await answer.text());
    await lookedThrough(page, since);
    idle.push(...(await tasksSince(page, since)));
  }
  console.log('while the worker looks:', idle.join(', '));
  bound('the screen idle while the worker looks, longest task', longest(idle), BOUNDS.idle);
  if (broken.length) throw new Error(`broke its bound: ${broken.join('; ')}`);
} finally {
  await browser.close();
  await server.stop();
  await cluster.destroy();
}
