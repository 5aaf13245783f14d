import { readFile } from 'node:fs/promises';
import type { CrewFile } from '../core/src/crew/crew.js';
import { expect, test } from './stack';

test('the crew book: who, stock, kits, habits, prices and names, each where it is used', async ({
  page,
  demo,
  stack,
}) => {
  const book = async (): Promise<CrewFile> =>
    ((await (await fetch(`${stack.url}/api/crew/book`)).json()) as { file: CrewFile }).file;
  const part = (name: string) => page.getByRole('tab', { name, exact: true });
  await page.goto(stack.url);
  await page.getByRole('link', { name: 'Crew book', exact: true }).click();
  await expect(page.getByRole('textbox', { name: 'Name', exact: true }).first()).toHaveValue(/Lead|Hand/);

  await part('Stock').click();
  await page.getByLabel('Name', { exact: true }).fill('Reel 44');
  await page.getByRole('combobox', { name: 'Cable' }).selectOption('14/2');
  await page.getByLabel('Length (ft)').fill('lots');
  await page.getByRole('button', { name: 'Put it in stock' }).click();
  await expect(page.getByRole('alert')).toContainText('in feet, such as 250');
  await page.getByLabel('Length (ft)').fill('250');
  await page.getByRole('button', { name: 'Put it in stock' }).click();
  await expect(page.getByLabel('Length of Reel 44')).toHaveValue('250 ft');

  await part('Prices').click();
  await page.getByRole('combobox', { name: 'Which' }).selectOption('14/2');
  await page.getByLabel('Price, each foot').fill('0.5');
  await page.getByRole('button', { name: 'Keep the price' }).click();
  await page.getByLabel('Price, each foot').fill('0.6');
  await page.getByRole('button', { name: 'Keep the price' }).click();
  await expect(page.getByRole('alert').first()).toContainText('has a price already');

  await part('Connectors').click();
  const medium = page.getByLabel('Name for medium twist-on');
  await medium.fill('Little cone');
  await medium.press('Tab');
  await part('Habits').click();
  await page.getByRole('combobox', { name: 'A habit for' }).selectOption('free.length');
  const length = page.getByLabel(/^Free conductor/);
  await length.fill('8');
  await length.press('Tab');
  await expect.poll(async () => (await book()).habits.map(({ override }) => override.value)).toEqual([8]);
  await page.reload();
  await expect(length).toHaveValue('8');

  // A pull off the reel, and what it cost.
  const house = await demo.open(page, 'pull', 'Laundry');
  await page.getByRole('button', { name: 'Log pull PANEL → R5', exact: true }).click();
  await page.getByRole('combobox', { name: 'Cable' }).selectOption('14/2');
  await page.getByRole('combobox', { name: 'Off', exact: true }).selectOption({ label: 'Reel 44 (250 ft)' });
  await page.getByLabel(/^or length/).fill('30');
  await page.getByRole('button', { name: 'Log it: in' }).click();
  await house.pulled('PANEL → R5').click();
  await expect(page.getByText(', off Reel 44')).toBeVisible();
  await page.getByRole('combobox', { name: 'Runs of' }).selectOption({ label: 'Circuit 7: Laundry' });
  await expect(page.getByRole('row', { name: /14\/2/ })).toContainText('15.00');
  await house.sent();
  const { pulls, reels } = await stack.stored(demo.file.id);
  expect(reels.at(-1)).toEqual(expect.objectContaining({ id: pulls.at(-1)!.reelId, name: 'Reel 44' }));

  // Runs that are in with one touch come off the reel that was taken last; two marks on the sheath share out what came off it.
  await house.open('pull', 'Hall');
  const next = page.locator('mt-next-pull');
  const own = page.getByRole('listitem').filter({ hasText: /Reel 44.*14\/2/ });
  const readMark = async (mark: string): Promise<void> => {
    await own.getByPlaceholder('mark now').fill(mark);
    await own.getByRole('button', { name: 'Read', exact: true }).click();
  };
  const pullOne = async (): Promise<void> => {
    await expect(next.getByRole('combobox', { name: 'From reel' }).locator(':checked')).toContainText(
      'Reel 44',
    );
    const shown = await next.locator('.ends').innerText();
    await next.getByRole('button', { name: 'In', exact: true }).click();
    await expect(next.locator('.ends')).not.toHaveText(shown);
  };
  await pullOne();
  await readMark('lots');
  await expect(page.getByText('A mark is a number')).toBeVisible();
  await readMark('100');
  await expect(own).toContainText('last mark 100');
  await pullOne();
  await pullOne();
  await readMark('900');
  await expect(page.getByText(/and only .* was left on it/)).toBeVisible();
  await page.getByRole('button', { name: 'Read it again' }).click();
  const planned = async (): Promise<number> => {
    await house.sent();
    const { pulls: all } = await stack.stored(demo.file.id);
    return all.slice(-2).reduce((sum, { plannedIn }) => sum + plannedIn!, 0);
  };
  const feet = Math.round(((await planned()) / 12) * 1.1);
  await readMark(String(100 + feet));
  await expect(own).toContainText(`last mark ${100 + feet}`);
  await house.sent();
  const shared = (await stack.stored(demo.file.id)).pulls.slice(-2);
  expect(shared.map(({ lengthFrom }) => lengthFrom)).toEqual(['shared', 'shared']);
  expect(shared.reduce((sum, { lengthIn }) => sum + lengthIn!, 0)).toBeCloseTo(feet * 12, 3);
  expect(new Set(shared.map(({ segmentId }) => segmentId)).size).toBe(1);

  // What the house takes, against what is in stock, as a table for a spreadsheet.
  await house.open('truck', 'Hall', { tab: 'material' });
  const row = page.getByRole('row', { name: /14\/2/ }).first();
  await expect(row).toContainText('coils');
  const [csv] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save as CSV' }).click(),
  ]);
  const lines = (await readFile((await csv.path())!, 'utf8')).trim().split('\r\n');
  expect(lines.find((line) => line.startsWith('Cable,14/2'))).toMatch(
    /^Cable,14\/2,\d+,ft,\d+,\d+,\d+,\d+,\d+$/,
  );
  expect(lines.filter((line) => line.startsWith('Devices')).length).toBeGreaterThan(5);
  const [xlsx] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save as XLSX' }).click(),
  ]);
  // A zip archive, as every XLSX is.
  expect((await readFile((await xlsx.path())!)).subarray(0, 2).toString()).toBe('PK');
  await page.getByRole('button', { name: 'Cut in the shop' }).click();
  await page
    .getByText(/new coil/)
    .first()
    .click();
  await expect(page.getByText(/ ft.* left/).first()).toBeVisible();
  await page.getByRole('tab', { name: 'Charts' }).click();
  await expect(page.locator('canvas')).toHaveCount(4);
  await page.getByText('As a table').first().click();
  await expect(page.getByRole('table', { name: 'Cable by type' })).toContainText('14/2');

  // A room as a kit, and the kit in another room, undone as one.
  await house.open('lay-out', 'Laundry');
  await page.getByText('Kits of the crew').click();
  await page.getByRole('button', { name: 'Keep this room as a kit' }).click();
  await expect(page.getByText('Kept in the crew book')).toBeVisible();
  await house.open('lay-out', 'Bath');
  const boxes = demo.file.boxes.length;
  await page.getByText('Kits of the crew').click();
  await page.getByRole('button', { name: 'Put it into this room' }).click();
  await expect(page.getByText('boxes are set')).toBeVisible();
  await house.sent();
  const kit = (await book()).kits[0]!;
  expect((await stack.stored(demo.file.id)).boxes.length).toBe(boxes + kit.boxes.length);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await house.sent();
  await expect.poll(async () => (await stack.stored(demo.file.id)).boxes.length).toBe(boxes);

  // The bench says what the crew says.
  await house.open('make-up', 'Living room', { box: house.boxId('S2') });
  await expect(page.locator('mt-bench').getByText('Little cone').first()).toBeVisible();
  await expect(page.locator('mt-bench').getByText('medium twist-on')).toHaveCount(0);

  // A new house starts with the crew's habits.
  await page.goto(`${stack.url}/new`);
  await expect(page.getByText('1 habit of the crew')).toBeVisible();
  await page.getByLabel('Name', { exact: true }).fill('Habit house');
  await page.getByLabel('Room 1', { exact: true }).fill('Hall');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('button', { name: 'Use it' })).toBeVisible();
  const id = new URL(page.url()).pathname.split('/')[2]!;
  expect((await stack.stored(id)).rulebook.overrides).toEqual({ 'free.length': { value: 8 } });
});

test('a person who enters themselves without a network is on the list before what they did', async ({
  page,
  demo,
  stack,
}) => {
  const house = await demo.open(page, 'truck', 'Laundry', { tab: 'crew' });
  await expect(page.getByText('In the crew:')).toContainText('Lead');
  await page.route('**/api/**', (route) => route.abort());
  await page.getByLabel('Add somebody to the crew').fill('Anneliese');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByText('On this device works: Anneliese')).toBeVisible();
  await house.stage('Pull').click();
  await house.logPull('PANEL → R5', 'Anneliese');
  await expect(page.getByText('1 unsent')).toBeVisible();
  await page.reload();
  await expect(page.getByText('1 unsent')).toBeVisible();
  await page.unroute('**/api/**');
  await house.sent();
  const { pulls, people } = await stack.stored(demo.file.id);
  expect(people.find(({ id }) => id === pulls.at(-1)!.by)?.name).toBe('Anneliese');

  // Who has left is offered no more; an erased name is told nowhere.
  await page.goto(`${stack.url}/crew`);
  const row = page.getByRole('row').filter({ has: page.locator('input') });
  const own = row.filter({ hasText: 'works on this device' });
  await row
    .filter({ hasNotText: 'works on this device' })
    .first()
    .getByRole('button', { name: 'Works here now' })
    .click();
  await expect(own.getByLabel('Name')).not.toHaveValue('Anneliese');
  await page.getByRole('switch', { name: 'Anneliese is with the crew' }).click();
  await page.getByRole('button', { name: 'Erase the name' }).click();
  await page.getByRole('alertdialog').getByRole('button', { name: 'Erase the name' }).click();
  await expect(page.getByRole('switch', { name: 'Anneliese is with the crew' })).toBeHidden();
  await expect
    .poll(async () => JSON.stringify(await (await fetch(`${stack.url}/api/crew/book`)).json()))
    .not.toContain('Anneliese');
  const journal = await fetch(`${stack.url}/api/crew/book/journal?limit=100`);
  expect(await journal.text()).not.toContain('Anneliese');
});
