import { createHash } from 'node:crypto';
import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { join as joins, phoneOf, setUp, test as crewTest } from './crew';
import { HousePage } from './house-page';
import { expect, test } from './stack';

// The one place where the page may keep itself.
test.use({ serviceWorkers: 'allow' });

/** The rest of the app is fetched once the page has come to rest. */
async function keepsTheApp(page: Page): Promise<void> {
  const missing = () =>
    page.evaluate(async () => {
      const worker = await navigator.serviceWorker.getRegistration();
      if (!worker?.active) return ['the worker'];
      const { assetGroups } = (await (await fetch('/ngsw.json')).json()) as {
        assetGroups: { installMode: string; urls: string[] }[];
      };
      // What reads PDFs comes when somebody has one.
      const wanted = assetGroups
        .filter(({ installMode }) => installMode === 'prefetch')
        .flatMap(({ urls }) => urls);
      const there = await Promise.all(wanted.map((url) => caches.match(url)));
      return wanted.filter((_, at) => !there[at]);
    });
  await expect.poll(missing, { timeout: 60_000 }).toEqual([]);
}

test('a phone whose server is gone opens again, all sheets of a house too, takes the work of a day and sends it in order', async ({
  browser,
  demo,
  stack,
}) => {
  const context = await browser.newContext({
    viewport: { width: 390, height: 844 },
    hasTouch: true,
    isMobile: true,
    serviceWorkers: 'allow',
  });
  const page = await context.newPage();
  const errors: string[] = [];
  page.on('pageerror', (error) => errors.push(error.message));
  const house = new HousePage(page, demo.file, stack.url);
  await house.open('pull', 'Laundry');
  const manifest = await page.evaluate(async () => {
    const link = document.querySelector<HTMLLinkElement>('link[rel=manifest]')!;
    return (await (await fetch(link.href)).json()) as { icons: { src: string }[]; display: string };
  });
  expect(manifest.display).toBe('standalone');
  for (const { src } of manifest.icons)
    expect((await page.request.get(`${stack.url}/${src}`)).status()).toBe(200);
  await keepsTheApp(page);

  await stack.stopServer();
  try {
    await page.reload();
    await page.getByRole('heading', { level: 1 }).waitFor();
    await expect(page.getByText('The server is away.')).toBeVisible();
    for (let done = 1; done <= 3; done++) {
      await page.getByRole('button', { name: 'In', exact: true }).tap();
      await expect(page.getByText(`${done} of 4 runs in`).first()).toBeAttached();
    }
    await expect(page.getByText('3 unsent.')).toBeVisible();
    // Sheets that this phone has never shown.
    for (const stage of ['make-up', 'check', 'lay-out', 'truck']) {
      await house.open(stage, 'Laundry');
      await expect(page.getByText('3 unsent.')).toBeVisible();
    }
    await house.open('lay-out', 'Laundry', { of: 'plan' });
    await expect(page.locator('mt-plan-sheet svg').first()).toBeVisible();
    await page.goto(stack.url);
    await expect(page.getByText('3 unsent on this device')).toBeVisible();
  } finally {
    await stack.startServer();
  }
  await house.open('pull', 'Laundry');
  await house.sent();
  const pulls = async () => (await stack.stored(demo.file.id)).pulls.length;
  await expect.poll(pulls).toBe(demo.file.pulls.length + 3);
  expect(errors).toEqual([]);
  await context.close();
});

/** Another build of the app: the same but for its page, as its list of files says. */
function newerBuild(): string {
  const folder = mkdtempSync(join(tmpdir(), 'mule-tally-newer-'));
  cpSync(join(import.meta.dirname, '../web/dist/browser'), folder, { recursive: true });
  const page = readFileSync(join(folder, 'index.html'), 'utf8').replace(
    '</head>',
    '<meta name="build" content="newer" /></head>',
  );
  writeFileSync(join(folder, 'index.html'), page);
  const list = JSON.parse(readFileSync(join(folder, 'ngsw.json'), 'utf8')) as {
    timestamp: number;
    hashTable: Record<string, string>;
  };
  list.timestamp += 1;
  list.hashTable['/index.html'] = createHash('sha1').update(page).digest('hex');
  writeFileSync(join(folder, 'ngsw.json'), JSON.stringify(list));
  return folder;
}

test('a newer version is announced, taken when a person says so, and what is unsent goes out by it', async ({
  browser,
  demo,
  stack,
}) => {
  const context = await browser.newContext({ serviceWorkers: 'allow' });
  const page = await context.newPage();
  const house = new HousePage(page, demo.file, stack.url);
  await house.open('pull', 'Laundry');
  await keepsTheApp(page);
  const folder = newerBuild();
  await stack.stopServer();
  try {
    const [run] = await page.getByRole('button', { name: /^Log pull/ }).all();
    await run!.click();
    await page.getByRole('button', { name: 'Log it: in' }).click();
    await expect(page.getByText('1 unsent.')).toBeVisible();
    await stack.startServer(folder);
    await expect(page.getByText('1 unsent')).toHaveCount(0);
    // It is asked for when somebody comes back to the page.
    await page.evaluate(() => document.dispatchEvent(new Event('visibilitychange')));
    await expect(page.getByText('A new version of Mule Tally is here.')).toBeVisible();
    await expect(page.locator('meta[name=build]')).toHaveCount(0);
    await page.getByRole('button', { name: 'Load it now' }).click();
    await expect(page.locator('meta[name=build]')).toHaveCount(1);
    await page.getByRole('heading', { level: 1 }).waitFor();
    await expect(page.getByText('1 of 4 runs in').first()).toBeAttached();
    await stack.stopServer();
  } finally {
    await stack.startServer();
    rmSync(folder, { recursive: true });
  }
  await context.close();
});

crewTest.use({ serviceWorkers: 'allow' });
crewTest(
  'whoever has joined is told when they may go where there is no signal, and there opens a house they have never opened',
  async ({ page: lead, browser, own }) => {
    const file = await own.demoHouse('Lot 33');
    await setUp(lead, own);
    const phone = await phoneOf(browser, { serviceWorkers: 'allow' });
    await joins(lead, phone, own.url, 'Basil');
    await expect(phone.getByText('Ready with no signal.')).toBeVisible({ timeout: 60_000 });
    await own.stopServer();
    try {
      await phone.reload();
      await phone.getByRole('link', { name: 'Lot 33' }).tap();
      await expect(phone.getByText('The server is away.')).toBeVisible();
      await phone.getByRole('button', { name: 'In', exact: true }).tap();
      await expect(phone.getByText('1 unsent.')).toBeVisible();
    } finally {
      await own.startServer();
    }
    const pulls = (): Promise<number> =>
      lead.evaluate(async (id) => {
        const answer = (await (await fetch(`/api/houses/${id}`)).json()) as { file: { pulls: unknown[] } };
        return answer.file.pulls.length;
      }, file.id);
    await expect.poll(pulls).toBe(file.pulls.length + 1);
    await phone.context().close();
  },
);
