import { writeFileSync } from 'node:fs';
import { DEMO, expect, test } from './stack';

test('import, log a pull, make up a box, overfill it, apply the fix, restart: still there', async ({
  page,
  stack,
  demo,
}) => {
  await page.goto(stack.url);
  await page.setInputFiles('input[type=file]', DEMO);
  // The server has loaded the demo when its database was empty.
  await page.getByRole('button', { name: 'Take it in as a copy' }).click();
  await expect(page.getByRole('link', { name: 'Pull' })).toBeVisible();

  const house = await demo.open(page, 'pull', 'Laundry');
  await expect(house.room('Laundry')).toContainText('0 of 4 runs in');
  await house.logPull('PANEL → R5');
  await expect(house.pulled('PANEL → R5')).toBeVisible();
  await expect(house.room('Laundry')).toContainText('1 of 4 runs in');
  await expect(page.getByRole('table').first()).toContainText('ft');

  await house.room('Bedroom 2').click();
  await house.stage('Make up').click();
  await house.box('S8').click();
  await expect(house.gauge()).toContainText('18 of 22.5 cu in');
  await expect(page.getByText('Land it on Switch, gang 1: leg.')).toBeVisible();
  await expect(page.locator('mt-caution')).toContainText('breaker 8');

  // A thicker cable, and another box: the fill answers at once.
  await page
    .getByLabel(/^Cable to R34/)
    .first()
    .selectOption('14/4');
  await expect(house.gauge()).toContainText('22 of 22.5 cu in');
  await page.getByRole('link', { name: 'Change the box' }).click();
  await page.getByRole('combobox', { name: 'Box', exact: true }).selectOption('plastic-1g-18');
  await house.stage('Make up').click();
  await expect(house.gauge()).toContainText('4 cu in over');
  await expect(page.getByText('it is too full by 4 cu in.')).toBeVisible();
  await page.getByRole('button', { name: /Change S8 to Plastic, 1 gang, 22.5/ }).click();
  await expect(house.gauge()).toContainText('0.5 cu in left');
  await house.sent();

  await stack.stopServer();
  await stack.startServer();
  await page.reload();
  await expect(house.gauge()).toContainText('22 of 22.5 cu in');
  const stored = await stack.stored(demo.file.id);
  expect(stored.pulls.length).toBe(demo.file.pulls.length + 1);
  expect(stored.boxes.find(({ tag }) => tag === 'S8')!.catalogueId).toBe('plastic-1g-22.5');
});

test('a house by keyboard, then its first box, run and control', async ({ page, stack }) => {
  await page.goto(`${stack.url}/new`);
  await page.getByLabel('Name', { exact: true }).fill('Keyboard house');
  await page.getByLabel('Room 1', { exact: true }).focus();
  await page.keyboard.type('Hall');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Room 2', { exact: true })).toBeFocused();
  await page.keyboard.type('Bedroom 1');
  await page.getByLabel('Circuit 1', { exact: true }).focus();
  await page.keyboard.type('Lights 15');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Circuit 2', { exact: true })).toBeFocused();
  await page.keyboard.type('Receptacles 20');
  // What is typed survives a reload.
  await page.reload();
  await expect(page.getByLabel('Circuit 2', { exact: true })).toHaveValue('Receptacles 20');
  await page.getByLabel('Room 1', { exact: true }).focus();
  await page.keyboard.press('Control+Enter');
  await expect(page).toHaveURL(/lay-out/);

  await page.getByRole('button', { name: 'Set the box' }).click();
  await expect(page.getByRole('button', { name: /S1/ })).toBeVisible();
  await page.getByRole('combobox', { name: 'New box' }).selectOption('Ceiling light');
  await page.getByRole('button', { name: 'Set the box' }).click();
  await page.getByRole('link', { name: 'Pull', exact: true }).click();
  for (const [from, to] of [
    ['PANEL', 'S1'],
    ['S1', 'L1'],
  ]) {
    await page.getByRole('button', { name: 'Add a run' }).click();
    await page.getByLabel('From box').fill(from!.slice(0, 3));
    await page.locator('ngb-typeahead-window').getByRole('option').first().click();
    await page.getByLabel('To box').fill(to!);
    await page.keyboard.press('Enter');
    await page.getByRole('combobox', { name: 'Circuit', exact: true }).selectOption('1: Lights');
    await page.getByRole('button', { name: 'Add the run' }).click();
    await expect(page.getByText(`${from} → ${to}`, { exact: true })).toBeVisible();
  }
  await page.getByRole('link', { name: 'Lay out', exact: true }).click();
  await page.getByRole('tab', { name: 'What switches what' }).click();
  await page.getByLabel('Type it in words: a name, the switches, what they switch').focus();
  await page.keyboard.type('hall light: S1 switches L1');
  await expect(page.getByText('S1 single-pole')).toBeVisible();
  await page.keyboard.press('Enter');
  await page.getByRole('link', { name: 'Make up', exact: true }).click();
  await page
    .getByRole('list', { name: 'Boxes of the room' })
    .getByRole('link')
    .filter({ hasText: 'S1' })
    .click();
  await expect(page.getByText('Leg: Hall light', { exact: true }).first()).toBeVisible();
  await page.getByRole('link', { name: 'Check', exact: true }).click();
  await expect(page.getByText('Nothing found. That is not an approval.')).toBeVisible();
});

test('bad files are refused with every problem, and nothing is taken in', async ({ page, stack }, info) => {
  await page.goto(stack.url);
  const give = (text: string) =>
    page.setInputFiles('input[type=file]', {
      name: 'x.json',
      mimeType: 'application/json',
      buffer: Buffer.from(text),
    });
  await give('not json');
  await expect(page.getByRole('alert')).toContainText('This is not JSON text');
  await give(
    JSON.stringify({
      format: 'mule-tally-house',
      version: 1,
      name: '<img src=x onerror=alert(1)>',
      colour: 1,
    }),
  );
  await expect(page.getByRole('alert')).toContainText('$.colour');
  const large = info.outputPath('large.json');
  writeFileSync(large, 'x'.repeat(17 * 1024 * 1024));
  await page.setInputFiles('input[type=file]', large);
  await expect(page.getByRole('alert')).toContainText('too large');
});

test('removing a box with pulled runs asks, keeps the pulls in the journal, and can be undone', async ({
  page,
  demo,
  stack,
}) => {
  const house = await demo.open(page, 'lay-out', 'Dining');
  await page.getByRole('button', { name: /^R18/ }).click();
  await page.getByRole('button', { name: 'Remove the box', exact: true }).click();
  const asked = page.getByRole('alertdialog');
  await expect(asked).toContainText('pulls');
  await expect(asked.getByRole('button', { name: 'Keep it' })).toBeFocused();
  await page.keyboard.press('Escape');
  await expect(asked).toBeHidden();
  await page.getByRole('button', { name: 'Remove the box', exact: true }).click();
  await page.getByRole('button', { name: 'Remove the box with its runs and pulls' }).click();
  await expect(page.getByRole('button', { name: /^R18/ })).toBeHidden();
  await house.sent();
  expect((await stack.stored(demo.file.id)).boxes.length).toBe(demo.file.boxes.length - 1);
  await page.keyboard.press('u');
  await expect(page.getByRole('button', { name: /^R18/ })).toBeVisible();
  await house.sent();
  expect(await stack.stored(demo.file.id)).toEqual(demo.file);
  await page.keyboard.press('Shift+U');
  await expect(page.getByRole('button', { name: /^R18/ })).toBeHidden();
});

test('a house rule loosened without a reason stands in the way until it has one', async ({ page, demo }) => {
  await demo.open(page, 'truck', 'Hall');
  const value = page.getByLabel('Device yoke, of the largest conductor connected to it');
  await value.fill('1');
  await value.press('Tab');
  await expect(page.getByText('Write down why house rule')).toBeVisible();
  const reason = page.getByLabel(/House value; the edition has 2/);
  await reason.fill('local amendment 7');
  await reason.press('Tab');
  await expect(page.getByText('Reason given: local amendment 7')).toBeVisible();
  const breaker = page.getByLabel('Largest breaker on 14 AWG copper');
  await breaker.fill('20');
  await breaker.press('Tab');
  await expect(page.getByText(/may only be stricter than 15/).first()).toBeVisible();
});

test('rooms and circuits are added, and the walk is changed by keys', async ({ page, demo, stack }) => {
  const house = await demo.open(page, 'lay-out', 'Garage', { of: 'rooms' });
  const add = page.getByRole('button', { name: 'Add the room' });
  await expect(add).toBeDisabled();
  await page.getByRole('textbox', { name: 'New room' }).fill('Porch');
  await page.getByRole('combobox', { name: 'Floor' }).selectOption({ label: 'First floor' });
  await add.click();
  await expect(page.getByRole('textbox', { name: 'New room' })).toHaveValue('');
  const walk = page.getByRole('list', { name: 'Rooms of First floor in walking order' });
  const names = () =>
    walk
      .getByRole('textbox', { name: /^Name of/ })
      .evaluateAll((all) => all.map((one) => (one as HTMLInputElement).value));
  await expect.poll(async () => (await names()).at(-1)).toBe('Porch');
  const place = page.getByRole('button', { name: 'Porch on the walk' });
  await place.focus();
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('ArrowUp');
  await expect(place).toBeFocused();
  await expect.poll(async () => (await names()).indexOf('Porch')).toBe((await names()).length - 3);

  await page.getByRole('tab', { name: 'Circuits' }).click();
  await page.getByRole('textbox', { name: 'New circuit' }).fill('Porch lights');
  await page.getByRole('combobox', { name: 'breaker', exact: true }).selectOption('20 A');
  await page.getByRole('button', { name: 'Add the circuit' }).click();
  const last = page.getByRole('row').last();
  await expect(last.getByRole('textbox').nth(1)).toHaveValue('Porch lights');
  await last.getByRole('combobox', { name: /Breaker of circuit/ }).selectOption('15 A');
  await house.sent();
  const { rooms, circuits } = await stack.stored(demo.file.id);
  expect(rooms.some(({ name }) => name === 'Porch')).toBeTruthy();
  expect(circuits.at(-1)).toMatchObject({ name: 'Porch lights', breakerAmps: 15, poles: 1 });
});
