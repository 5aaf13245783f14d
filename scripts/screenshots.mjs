// @ts-check
/** One current picture of each main view, from the demo house, into docs/screenshots (or the folder given). */
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { buildAll } from './build.mjs';
import { CHROMIUM } from './lib/browser.mjs';
import { ROOT } from './lib/run.mjs';
import { startServer } from './lib/server.mjs';
import { settled } from './lib/settled.mjs';
import { main } from './lib/steps.mjs';
import { anyFreePort, ensureChromium } from './lib/system.mjs';
import { startTestDatabase } from './lib/test-database.mjs';

const folder = process.argv[2] ?? join(ROOT, 'docs/screenshots');
const only = process.argv[3];

const WIDE = { width: 1280, height: 800 };
const PHONE = { width: 390, height: 844 };

/** A crew book for the pictures: what a crew would have entered. @param {string} base */
async function enterCrew(base) {
  const { file } = await (await fetch(`${base}/api/crew/book`)).json();
  const price = (/** @type {string} */ item, /** @type {number} */ amount) => ({
    kind: 'price.add',
    record: { id: crypto.randomUUID(), kind: 'cable', item, amount },
  });
  const named = (/** @type {string} */ connector, /** @type {string} */ name) => ({
    kind: 'connectorName.add',
    record: { id: crypto.randomUUID(), connector, name },
  });
  const bodies = [
    ...[price('14/2', 0.38), price('12/2', 0.55)],
    named('twist-small', 'Small cone'),
    {
      kind: 'habit.add',
      record: { id: crypto.randomUUID(), key: 'free.length', override: { value: 8 } },
    },
  ];
  const changes = bodies.map((body) => ({
    change: { id: crypto.randomUUID(), version: 3, body },
    actorId: file.people[0].id,
  }));
  await fetch(`${base}/api/crew/book/changes`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ changes }),
  });
}

/** The rooms of a house alone, as a lead types them. @param {string} base @param {any} file */
async function roomsOnly(base, file) {
  const id = crypto.randomUUID();
  const empty = [
    'boxes',
    'circuits',
    'devices',
    'points',
    'controls',
    'runs',
    'reels',
    'pulls',
    'records',
    'photos',
    'writeUps',
    'extras',
  ];
  const body = {
    ...file,
    ...Object.fromEntries(empty.map((list) => [list, []])),
    id,
    name: 'Lot 14, two story',
    people: [],
  };
  await fetch(`${base}/api/houses/import?onExisting=refuse`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  });
  return id;
}

await main(async () => {
  await ensureChromium();
  await buildAll();
  const { chromium } = await import('@playwright/test');
  const cluster = await startTestDatabase();
  const port = await anyFreePort();
  const server = await startServer({ urls: cluster.urls, port });
  const browser = await chromium.launch(CHROMIUM);
  try {
    mkdirSync(folder, { recursive: true });
    const base = `http://127.0.0.1:${port}`;
    const [{ id }, , british] = await (await fetch(`${base}/api/houses`)).json();
    const plot = (await (await fetch(`${base}/api/houses/${british.id}`)).json()).file;
    const plate = plot.boxes.find((/** @type {any} */ one) => one.tag === 'S2');
    const { file } = await (await fetch(`${base}/api/houses/${id}`)).json();
    const room = (/** @type {string} */ name) =>
      file.rooms.find((/** @type {any} */ r) => r.name === name).id;
    const box = (/** @type {string} */ tag) => file.boxes.find((/** @type {any} */ b) => b.tag === tag).id;
    const circuit = (/** @type {number} */ number) =>
      file.circuits.find((/** @type {any} */ c) => c.number === number).id;
    const at = (/** @type {string} */ stage, /** @type {Record<string, string>} */ query) =>
      `/house/${id}/${stage}?${new URLSearchParams(query)}`;
    await enterCrew(base);
    const bare = await roomsOnly(base, file);
    const living = { room: room('Living room') };
    /** @param {import('@playwright/test').Page} page */
    const meaning = async (page) => {
      await page.getByRole('button', { name: 'What it means' }).first().click();
      await page.evaluate(() => window.scrollTo(0, 560));
    };
    /** @param {import('@playwright/test').Page} page */
    const levers = async (page) => {
      for (const lever of [0, 2, 3]) await page.locator('g.lever').nth(lever).press('Enter');
      await page.evaluate(() => window.scrollTo(0, 230));
    };
    /** @param {import('@playwright/test').Page} page */
    const lookedThrough = (page) => page.getByText('points are open').waitFor({ timeout: 60_000 });
    /** @param {import('@playwright/test').Page} page */
    const withRuns = async (page) => {
      await page.getByRole('button', { name: 'Runs', exact: true }).click();
      await page.locator('polyline.run:not(.straight)').nth(20).waitFor();
    };
    const { roomId, corner, id: photo, marks } = file.photos[0];
    const photographed = { room: roomId, wall: corner, photo, box: marks[0].boxId };
    /** @param {import('@playwright/test').Page} page */
    const behind = async (page) => {
      await page.locator('mt-standing-wall').waitFor();
      await page.evaluate(() => window.scrollTo(0, 330));
    };
    /** @param {import('@playwright/test').Page} page */
    const drafted = (page) => page.getByRole('button', { name: 'Use it' }).waitFor();
    /** @param {import('@playwright/test').Page} page */
    const added = (page) => page.getByRole('button', { name: 'Save as CSV' }).waitFor();
    /** @param {import('@playwright/test').Page} page */
    const searched = async (page) => {
      await page.getByRole('button', { name: 'Plan', exact: true }).click();
      await page.getByRole('button', { name: 'Take this plan' }).waitFor();
      await page.mouse.move(0, 0);
    };
    /** @param {import('@playwright/test').Page} page */
    const asked = (page) => page.getByText('What does this do').waitFor();
    /** @typedef {(page: import('@playwright/test').Page) => Promise<void>} Prepare */
    /** @type {[string, string, { width: number, height: number }, Prepare?][]} */
    const views = [
      ['jobs', '/', WIDE],
      ['pull', at('pull', living), WIDE],
      ['walk', at('walk', { ...living, circuit: circuit(4), box: box('S2') }), WIDE],
      ['material', at('truck', { ...living, tab: 'material' }), WIDE, added],
      ['plan-pulls', at('pull', { ...living, plan: '1' }), WIDE, searched],
      ['make-up-four-gang', at('make-up', { room: room('Hall'), box: box('S5') }), WIDE],
      ['make-up-plate', `/house/${british.id}/make-up?room=${plate.roomId}&box=${plate.id}`, WIDE],
      ['controls', at('lay-out', { room: room('Family room'), of: 'controls' }), WIDE, meaning],
      ['switching', at('check', { room: room('Family room'), of: 'switching' }), WIDE, levers],
      ['plan', at('lay-out', { ...living, of: 'plan' }), WIDE, withRuns],
      ['draft', `/house/${bare}/lay-out?of=draft`, WIDE, drafted],
      ['panel', at('lay-out', { ...living, of: 'panel' }), WIDE],
      ['check', at('check', living), WIDE],
      ['walls', at('check', { of: 'walls', ...photographed }), WIDE, behind],
      ['phone-set', at('lay-out', { ...living, of: 'set' }), PHONE],
      ['phone-pull', at('pull', { room: room('Hall') }), PHONE],
      ['phone-ready', at('check', { room: room('Hall'), of: 'ready' }), PHONE, lookedThrough],
      ['phone-find', at('check', { room: room('Long hall'), of: 'find' }), PHONE, asked],
    ];
    for (const [name, path, viewport, prepare] of views) {
      if (only && !only.split(',').includes(name)) continue;
      const page = await browser.newPage({ viewport });
      page.on(
        'console',
        (message) => message.type() === 'error' && console.log(`${name}: ${message.text()}`),
      );
      page.on('pageerror', (error) => console.log(`${name}: ${error.message}`));
      await page.goto(base + path);
      await page.getByRole('heading', { level: 1 }).first().waitFor();
      await settled(page);
      await page.evaluate(() => document.fonts.ready);
      await prepare?.(page);
      await page.screenshot({ path: join(folder, `${name}.png`) });
      await page.close();
    }
    // Last, because nobody works here without signing in from then on.
    if (!only || only.split(',').includes('people')) {
      const page = await browser.newPage({ viewport: WIDE });
      await page.goto(`${base}/set-up#${server.setUp}`);
      for (const [label, text] of [
        ['Name of the crew', 'Rafter crew'],
        ['Your name', 'Odile'],
        ['Name you sign in with', 'odile'],
        [/^Password/, 'wet lath and plaster'],
      ])
        await page.getByLabel(/** @type {string | RegExp} */ (label)).fill(/** @type {string} */ (text));
      await page.getByRole('button', { name: 'Set up' }).click();
      await page.getByRole('button', { name: 'Let a hand in' }).click();
      await page.locator('mt-qr-picture img').waitFor();
      await page.mouse.move(0, 0);
      await page.screenshot({ path: join(folder, 'people.png') });
    }
  } finally {
    await browser.close();
    await server.stop();
    await cluster.destroy();
  }
});
