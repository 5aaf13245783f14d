import { expect, test } from './stack';

test('a database that is put back from a copy is noticed: read anew, with what is unsent on top', async ({
  page,
  demo,
  stack,
}) => {
  const house = await demo.open(page, 'pull', 'Laundry');
  await expect(page.getByText('PANEL → R5')).toBeVisible();
  await page.route('**/api/**', (route) => route.abort());
  await house.logPull('PANEL → R5');
  await expect(page.getByText('1 unsent')).toBeVisible();
  await stack.restoreWith(`update boxes set tag = 'AS BEFORE' where id = $1`, [house.boxId('R5')]);
  await page.unroute('**/api/**');
  await house.sent();
  await expect(house.pulled('PANEL → AS BEFORE')).toBeVisible();
  expect((await stack.stored(demo.file.id)).pulls.length).toBe(demo.file.pulls.length + 1);
});

test('a half-filled run and a half-named box survive a reload, and are let go of when they are done', async ({
  page,
  demo,
}) => {
  const house = await demo.open(page, 'pull', 'Laundry');
  await page.getByRole('button', { name: 'Add a run' }).click();
  await page.getByLabel('Label').fill('to the freezer');
  await page.getByLabel('Length (ft)').fill("22'6");
  await page.reload();
  await expect(page.getByLabel('Label')).toHaveValue('to the freezer');
  await expect(page.getByLabel('Length (ft)')).toHaveValue("22'6");
  await page.getByRole('button', { name: 'Close' }).click();
  await page.reload();
  await expect(house.room('Laundry')).toBeVisible();
  await expect(page.getByLabel('Label')).toBeHidden();

  await house.open('lay-out', 'Laundry');
  await page.getByRole('combobox', { name: 'New box' }).selectOption('Ceiling light');
  await page.getByLabel('Tag', { exact: true }).first().fill('FREEZER');
  await page.reload();
  await expect(page.getByLabel('Tag', { exact: true }).first()).toHaveValue('FREEZER');
  await page.getByRole('button', { name: 'Set the box' }).click();
  await expect(page.getByRole('button', { name: /^FREEZER/ })).toBeVisible();
  await expect(page.getByLabel('Tag', { exact: true }).first()).not.toHaveValue('FREEZER');
});

test('a device that keeps nothing says so, and what is entered goes out at once', async ({
  page,
  demo,
  stack,
}) => {
  await page.addInitScript(() => {
    IDBObjectStore.prototype.add = () => {
      throw new DOMException('full', 'QuotaExceededError');
    };
  });
  const house = await demo.open(page, 'pull', 'Laundry');
  await house.logPull('PANEL → R5');
  await expect(page.getByText('This device keeps nothing')).toBeVisible();
  await expect
    .poll(async () => (await stack.stored(demo.file.id)).pulls.length)
    .toBe(demo.file.pulls.length + 1);
});

test('a nameplate that is half given or no number says so and stays as typed; whole, it counts', async ({
  page,
  demo,
  stack,
}) => {
  const house = await demo.open(page, 'lay-out', 'Laundry');
  await page.getByText('Circuits', { exact: true }).click();
  const [mca, mocp] = ['MCA', 'MOCP'].map((part) => page.getByLabel(`${part} on the nameplate of circuit 4`));
  await mca!.fill('abc');
  await mca!.blur();
  await expect(page.getByRole('alert')).toHaveText('“abc” is not a number of amperes.');
  await mca!.fill('17.5');
  await mca!.blur();
  await expect(page.getByRole('alert')).toContainText('once both MCA and MOCP are there');
  await mocp!.fill('-30');
  await mocp!.blur();
  await expect(page.getByRole('alert')).toContainText('too small');
  await page.reload();
  await expect(mca!).toHaveValue('17.5');
  await expect(mocp!).toHaveValue('-30');
  await mocp!.fill('30');
  await mocp!.blur();
  await expect(page.getByRole('alert')).toBeHidden();
  await house.sent();
  const circuit = (await stack.stored(demo.file.id)).circuits.find(({ number }) => number === 4);
  expect(circuit?.nameplate).toEqual({ mca: 17.5, mocp: 30 });
});
