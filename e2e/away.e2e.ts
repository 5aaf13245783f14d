import { expect, test } from './stack';

test('what is entered while the server is away survives a reload and goes out in order', async ({
  page,
  demo,
  stack,
}) => {
  const house = await demo.open(page, 'pull', 'Bath');
  await expect(house.room('Bath')).toBeVisible();
  // The house is remembered on the device a moment after it was read.
  const remembered = () =>
    page.evaluate(
      (id) =>
        new Promise<boolean>((resolve) => {
          const opening = indexedDB.open('mule-tally');
          opening.onsuccess = () => {
            const asked = opening.result.transaction('documents').objectStore('documents').get(id);
            asked.onsuccess = () => {
              opening.result.close();
              resolve(asked.result !== undefined);
            };
          };
        }),
      demo.file.id,
    );
  await expect.poll(remembered).toBe(true);
  await page.route('**/api/**', (route) => route.abort());
  await house.logPull('PANEL → R43');
  await house.logPull('R43 → S12');
  await expect(page.getByText('The server is away.')).toBeVisible();
  await expect(page.getByText('2 unsent')).toBeVisible();

  await page.reload();
  await expect(page.getByText('2 unsent')).toBeVisible();
  await expect(house.pulled('R43 → S12')).toBeVisible();
  expect((await stack.stored(demo.file.id)).pulls.length).toBe(demo.file.pulls.length);

  await page.unroute('**/api/**');
  await house.sent();
  const { pulls, runs } = await stack.stored(demo.file.id);
  const order = pulls.slice(-2).map(({ runId }) => runs.find(({ id }) => id === runId)!.from.boxId);
  expect(order).toEqual([house.boxId('PANEL'), house.boxId('R43')]);
});

test('a database that goes down is said, keeps what was entered, and is caught up with', async ({
  page,
  demo,
  stack,
}) => {
  const house = await demo.open(page, 'pull', 'Laundry');
  await expect(house.room('Laundry')).toBeVisible();
  await stack.crashDatabase();
  await house.logPull('PANEL → R5');
  await expect(page.getByText('The server is away.')).toBeVisible();
  await stack.startDatabase();
  await house.sent();
  await expect(page.getByText('The server is away.')).toBeHidden();
  expect((await stack.stored(demo.file.id)).pulls.length).toBe(demo.file.pulls.length + 1);
});

test('two browsers at once see each other, lose nothing, and undo names who is in the way', async ({
  browser,
  page,
  demo,
  stack,
}) => {
  const mine = await demo.open(page, 'lay-out', 'Living room', {});
  const other = await (await browser.newContext()).newPage();
  await other.addInitScript(() => localStorage.setItem('mule-tally.who', 'Mireille'));
  await demo.open(other, 'lay-out', 'Living room');

  const rename = async (where: typeof page, from: string, to: string) => {
    if (!(await where.getByLabel('Tag', { exact: true }).nth(1).isVisible()))
      await where.getByRole('button', { name: new RegExp(`^${from}\\b`) }).click();
    await where.getByLabel('Tag', { exact: true }).nth(1).fill(to);
    await where.getByLabel('Tag', { exact: true }).nth(1).press('Tab');
  };
  await rename(page, 'S2', 'MINE');
  await expect(other.getByRole('button', { name: /^MINE/ })).toBeVisible();
  await rename(other, 'MINE', 'THEIRS');
  await expect(page.getByRole('button', { name: /^THEIRS/ })).toBeVisible();
  await page.getByRole('heading', { level: 1 }).click();
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(page.getByText('part of it has been changed since')).toBeVisible();
  await expect(page.getByRole('button', { name: /^THEIRS/ })).toBeVisible();

  // At the same moment, in two rooms.
  await mine.open('pull', 'Laundry');
  const theirs = await demo.open(other, 'pull', 'Bedroom 1');
  await Promise.all([mine.logPull('PANEL → R5'), theirs.logPull('PANEL → S7', 'Mireille')]);
  await expect(mine.room('Bedroom 1')).toContainText('1 of');
  await expect(theirs.room('Laundry')).toContainText('1 of 4');
  const pulls = async () => (await stack.stored(demo.file.id)).pulls.length;
  await expect.poll(pulls).toBe(demo.file.pulls.length + 2);
  await other.context().close();
});
