import type { Page } from '@playwright/test';
import type { HouseFile } from '../core/src/house/house-file.js';
import { HousePage } from './house-page';
import { expect, test } from './stack';

/** What a person does, counted where it arrives: touches are clicks and keys that write nothing; characters are those typed. */
const countHands = (page: Page) =>
  page.addInitScript(() => {
    const add = (what: 'touches' | 'characters'): void =>
      sessionStorage.setItem(what, String(Number(sessionStorage.getItem(what) ?? 0) + 1));
    addEventListener('pointerdown', () => add('touches'), true);
    addEventListener('keydown', ({ key }) => add(key.length === 1 ? 'characters' : 'touches'), true);
  });
const hands = (page: Page): Promise<{ touches: number; characters: number }> =>
  page.evaluate(() => ({
    touches: Number(sessionStorage.getItem('touches')),
    characters: Number(sessionStorage.getItem('characters')),
  }));

test('the demo house entered anew from its list of rooms: laid out in 60 touches and 600 characters', async ({
  page,
  demo,
  stack,
}) => {
  test.slow();
  await countHands(page);
  await page.goto(stack.url);
  await page.getByRole('link', { name: 'New house' }).click();
  const name = `Anew ${demo.file.id.slice(0, 6)}`;
  await page.getByLabel('Name', { exact: true }).click();
  await page.keyboard.type(name);
  const rooms = demo.file.rooms;
  for (const [index, storey] of demo.file.storeys.entries()) {
    if (index === 0) await page.getByLabel('Room 1', { exact: true }).click();
    else await page.getByRole('button', { name: 'Add a floor' }).click();
    const own = rooms.filter(({ storeyId }) => storeyId === storey.id);
    for (const [at, room] of own.entries()) {
      if (at) await page.keyboard.press('Enter');
      await page.keyboard.type(room.name);
    }
  }
  await page.getByRole('button', { name: /^Set up the house: 19 rooms/ }).click();
  await page.getByRole('button', { name: 'Use it' }).click();
  await expect(page.getByText('It stands.')).toBeVisible();

  const { touches, characters } = await hands(page);
  console.log(`      an empty house to one laid out: ${touches} touches, ${characters} characters`);
  expect(touches).toBeLessThanOrEqual(60);
  expect(characters).toBeLessThanOrEqual(600);
  const id = /house\/([0-9a-f-]+)/.exec(page.url())![1]!;
  await expect.poll(async () => (await stack.stored(id)).runs.length).toBeGreaterThan(0);
  const house = await stack.stored(id);
  expect(house.boxes.length).toBeGreaterThanOrEqual(100);
  const reached = new Set(house.runs.flatMap(({ from, to }) => [from.boxId, to.boxId]));
  expect(house.boxes.filter((box) => !reached.has(box.id))).toEqual([]);
  expect(house.runs.filter(({ kind, plannedCable }) => kind === 'cable' && !plannedCable)).toEqual([]);
  expect(house.circuits.length).toBeGreaterThan(15);

  // Nothing to stop for, and the sheets are there.
  await page.getByRole('link', { name: 'Check' }).click();
  await expect(page.getByText(/nothing to stop for|Nothing found/i).first()).toBeVisible({ timeout: 30_000 });
  await page.getByRole('link', { name: 'Lay out' }).click();

  // Undone as one, and done again.
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(
    page
      .getByText('No box in this room yet.')
      .or(page.getByRole('button', { name: 'Use it' }))
      .first(),
  ).toBeVisible();
  const runs = async () => (await stack.stored(id)).runs.length;
  await expect.poll(runs).toBe(0);
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect.poll(runs).toBe(house.runs.length);

  // What is taken away stays away; the rest is taken back in one.
  await page.goto(`${stack.url}/house/${id}/lay-out?of=draft`);
  await expect(page.getByText('Nothing to do')).toBeVisible();
  await page.getByLabel('Power comes in at').selectOption('light');
  await expect(page.getByText(/Drafting again adds 0, changes \d+/)).toBeVisible();
  await page.getByRole('button', { name: 'Take back the draft' }).click();
  await expect(page.getByText('Taken back.')).toBeVisible();
  await expect.poll(runs).toBe(0);
  const back = await stack.stored(id);
  expect([back.runs.length, back.circuits.length, back.devices.length, back.drafts.length]).toEqual([
    0, 0, 0, 0,
  ]);
});

test('two draft at once: what the second drafted is kept and told of, and there is nothing left to do', async ({
  page,
  browser,
  demo,
  stack,
}) => {
  const file: HouseFile = {
    ...demo.file,
    id: crypto.randomUUID(),
    name: `${demo.file.name}, rooms`,
    people: [],
    ...{ openings: [], boxes: [], circuits: [], devices: [], points: [], controls: [] },
    ...{ runs: [], reels: [], pulls: [], records: [], photos: [], writeUps: [], extras: [] },
  };
  await stack.takeIn(file);
  const other = await (await browser.newContext({ serviceWorkers: 'block' })).newPage();
  const [first, second] = [page, other].map((own) => new HousePage(own, file, stack.url)) as [
    HousePage,
    HousePage,
  ];
  for (const house of [first, second]) {
    await house.open('lay-out', 'Hall', { of: 'draft' });
    await expect(house.page.getByRole('button', { name: 'Use it' })).toBeEnabled();
  }
  await other.route('**/api/**', (route) => route.abort());
  await other.getByRole('button', { name: 'Use it' }).click();
  await page.getByRole('button', { name: 'Use it' }).click();
  await expect.poll(async () => (await stack.stored(file.id)).runs.length).toBeGreaterThan(100);
  const { runs } = await stack.stored(file.id);
  await other.unroute('**/api/**');
  await expect(other.getByText('1 change was not taken by the server and is kept:')).toBeVisible({
    timeout: 30_000,
  });
  await other.getByRole('link', { name: 'look and decide' }).click();
  await expect(other.getByRole('alert')).toContainText('somebody has entered or drafted the same meanwhile');
  await other.getByRole('button', { name: 'Throw it away' }).click();
  await second.open('lay-out', 'Hall', { of: 'draft' });
  await expect(other.getByText('Nothing to do: everything stands')).toBeVisible();
  expect((await stack.stored(file.id)).runs).toEqual(runs);
});

test('the panel: a breaker is moved by touching it and then its space, by keyboard too', async ({
  page,
  demo,
  stack,
}) => {
  await demo.open(page, 'lay-out', 'Garage', { of: 'panel' });
  await page.getByRole('button', { name: 'Space 3: circuit 3, Dining receptacles' }).click();
  await page.getByRole('button', { name: 'Space 12: circuit 12, Long hall' }).click();
  await expect(page.getByRole('button', { name: 'Space 12: circuit 3, Dining receptacles' })).toBeVisible();
  const spaces = async (number: number) =>
    (await stack.stored(demo.file.id)).circuits.find((circuit) => circuit.number === number)!.spaces;
  await expect.poll(async () => [await spaces(3), await spaces(12)]).toEqual([[12], [3]]);
  // A breaker of two poles takes two spaces of one side; what stood there finds others.
  await page.getByRole('button', { name: /Space 22: circuit 19, Dryer/ }).press('Enter');
  await page.getByRole('button', { name: /Space 2: / }).press('Enter');
  await expect.poll(() => spaces(19)).toEqual([2, 4]);
  const all = (await stack.stored(demo.file.id)).circuits.flatMap((circuit) => circuit.spaces ?? []);
  expect(new Set(all).size).toBe(all.length);
});
