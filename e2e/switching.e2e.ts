import { readFileSync } from 'node:fs';
import { expect, test } from './stack';

test('the bench walks the make-up step by step, ticks it, follows a conductor, and gives the picture', async ({
  page,
  demo,
  stack,
}) => {
  const house = await demo.open(page, 'make-up', 'Long hall');
  await house.box('S14').click();
  const picture = page.locator('mt-box-picture');
  await expect(picture.getByRole('button', { name: /^red to S13: Traveler A of Long hall/ })).toBeVisible();
  await page.keyboard.press('n');
  await expect(page.getByText('1 of 6: All grounds together')).toBeVisible();
  await page.keyboard.press('d');
  await page.keyboard.press('n');
  await page.getByRole('button', { name: 'Made ✓', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Open it again' })).toBeVisible();
  await house.sent();
  const made = (await stack.stored(demo.file.id)).boxes.find(({ tag }) => tag === 'S14')!.asBuilt!;
  expect(made.map(({ ends }) => ends.length)).toEqual([2, 2]);
  const ticks = (await stack.stored(demo.file.id)).records.filter(
    ({ kind, boxId }) => kind === 'tick' && boxId === house.boxId('S14'),
  );
  expect(ticks.length).toBe(2);

  // The neutral, from the panel to the last light.
  await picture.getByRole('button', { name: /^white to S13/ }).press('Enter');
  await expect(page.locator('.way li')).toHaveCount(7);
  await expect(page.locator('.way li').first()).toContainText('PANEL: lands on breaker 12, neutral');

  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Picture as SVG' }).click(),
  ]);
  const svg = readFileSync(await download.path(), 'utf8');
  expect(svg).toContain('<svg');
  expect(svg).toContain('1: Switch, four-way');
  expect(svg).not.toContain('_ng');

  // On paper there is the sheet alone.
  await expect(page.getByRole('banner')).toBeVisible();
  await page.emulateMedia({ media: 'print' });
  for (const gone of [page.getByRole('banner'), page.locator('#rooms'), page.getByText('It’s different')])
    await expect(gone).toBeHidden();
  await expect(page.locator('mt-box-picture svg')).toBeVisible();
  await page.emulateMedia({ media: 'screen' });

  // A later order for a made-up box: reopen it, and say what to do there.
  await house.open('pull', 'Long hall');
  await page.getByRole('button', { name: 'Add a run' }).click();
  await page.getByLabel('From box').fill('S14');
  await page.keyboard.press('Enter');
  await page.getByLabel('To box').fill('R44');
  await page.keyboard.press('Enter');
  await page.getByRole('combobox', { name: 'Circuit', exact: true }).selectOption('12: Long hall');
  await page.getByRole('combobox', { name: 'Cable planned' }).selectOption('14/2');
  await page.getByRole('button', { name: 'Add the run' }).click();
  await house.stage('Check').click();
  await expect(page.getByText(/Reopen S14 and undo /).first()).toBeVisible();
});

test('a box that was made another way is recorded as it is: what is wrong is said, until it is taken back', async ({
  page,
  demo,
  stack,
}) => {
  const house = await demo.open(page, 'make-up', 'Long hall');
  await house.box('S14').click();
  await page.getByRole('button', { name: 'It’s different' }).click();
  const form = page.getByRole('region', { name: 'As it was made' });
  // Red goes straight through, past the four-way: one end picked in the picture, one in the list.
  await page
    .locator('mt-box-picture')
    .getByRole('button', { name: /^red to S13/ })
    .press('Enter');
  await form.getByRole('button', { name: 'red to S15' }).click();
  await form.getByLabel('Connector').selectOption('small twist-on');
  await expect(form.getByText('red to S13, red to S15')).toBeVisible();
  // What is half picked survives a reload.
  await page.reload();
  await page.getByRole('button', { name: 'It’s different' }).click();
  await expect(form.getByText('red to S13, red to S15')).toBeVisible();
  await expect(form.getByLabel('Connector')).toHaveValue('twist-small');
  await form.getByRole('button', { name: 'Splice these' }).click();
  await expect(form.getByRole('button', { name: 'red to S15, recorded' })).toBeVisible();
  await expect(page.getByText(/Reopen S14 and undo red to S13, red to S15/)).toBeVisible();
  await house.sent();
  const made = async () => (await stack.stored(demo.file.id)).boxes.find(({ tag }) => tag === 'S14')!.asBuilt;
  expect((await made())!.map(({ kind, connector }) => [kind, connector])).toEqual([
    ['splice', 'twist-small'],
  ]);
  await house.stage('Check').click();
  // It stands under the box that has to be opened again.
  const dark = page.getByText(/stays o.* when the switch in S14/).first();
  await page
    .locator('mt-check [role=tabpanel] > mt-finding')
    .filter({ has: dark })
    .getByText(/follows? from this/)
    .click();
  await expect(dark).toBeVisible();
  await house.stage('Make up').click();
  await house.box('S14').click();
  await page.getByRole('button', { name: 'It’s different' }).click();
  await form.getByRole('button', { name: 'Undo: red to S13, red to S15' }).click();
  await expect(page.getByText(/Reopen S14/)).toHaveCount(0);
  await house.sent();
  expect(await made()).toBeUndefined();
});

test('levers are thrown: what is hot and lit answers at once, and a fault is shown with one touch', async ({
  page,
  demo,
}) => {
  await demo.open(page, 'check', 'Long hall', { of: 'switching' });
  await expect(page.getByText('It works on paper.')).toBeVisible();
  await page.getByRole('combobox', { name: 'Show' }).selectOption('Long hall');
  const lamps = page.locator('g.load');
  await expect(lamps.first()).toHaveAttribute('data-state', 'off');
  for (const [tag, state] of [
    ['S13', 'on'],
    ['S15', 'off'],
    ['S16', 'on'],
  ] as const) {
    await page.getByRole('switch', { name: new RegExp(`^Switch in ${tag},`) }).press('Enter');
    await expect(lamps.first()).toHaveAttribute('data-state', state);
  }
  await expect(page.locator('.truth tbody tr')).toHaveCount(16);
  await expect(page.locator('.truth tr.here')).toContainText('up');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Netlist (SPICE)' }).click(),
  ]);
  expect(readFileSync(await download.path(), 'utf8')).toContain('.param lever_0_');

  // The box that somebody left in a mess.
  await page.getByRole('combobox', { name: 'Circuit', exact: true }).selectOption('14: Workshop lights');
  await expect(page.getByText('It does not work as it stands.')).toBeVisible();
  await page
    .getByRole('button', { name: /^Show: Bring hot and neutral together/ })
    .first()
    .click();
  await expect(
    page.getByRole('button', { name: /^Show: Bring hot and neutral together/ }).first(),
  ).toHaveClass(/active/);
  await expect(page.locator('path.look-at')).toHaveCount(1);
  const drawn = page.getByRole('group', { name: 'The circuit from the panel outward' });
  // What is reached by keys comes into the picture, however far out it lies.
  const far = drawn.getByRole('switch').last();
  await far.focus();
  const [frame, lever] = [(await drawn.boundingBox())!, (await far.boundingBox())!];
  expect(lever.x >= frame.x && lever.x + lever.width <= frame.x + frame.width).toBe(true);
  const width = async () => (await drawn.locator(':scope > g').boundingBox())!.width;
  const before = await width();
  await page.getByRole('button', { name: 'Larger picture' }).click();
  expect(await width()).toBeGreaterThan(before);
  // What is joined with it from another circuit is shown in the picture of that one.
  await page.getByRole('button', { name: /^\d+ more$/ }).click();
  await page.getByRole('button', { name: /^Show: Bring hot .* from PANEL to S1/ }).click();
  await expect(page.getByRole('combobox', { name: 'Circuit', exact: true }).locator(':checked')).toHaveText(
    '10: Garage',
  );
  await expect(page.locator('path.look-at')).toHaveCount(1);
});

test('a control is typed in one line, says what it means, and its feed is led to the other end', async ({
  page,
  demo,
  stack,
}) => {
  const house = await demo.open(page, 'lay-out', 'Family room', { of: 'controls' });
  // Off comes the closet light, to be typed again.
  const card = page
    .locator('mt-control-card')
    .filter({ has: page.locator('input[maxlength="200"]') })
    .nth(3);
  await card.getByRole('button', { name: 'Remove this switching' }).click();
  const line = page.getByLabel('Type it in words: a name, the switches, what they switch');
  // By touch first.
  const touch = (name: RegExp) => page.getByRole('group').getByRole('button', { name }).click();
  await touch(/^S19/);
  await expect(line).toHaveValue('S19 switches');
  await touch(/^L31/);
  await expect(line).toHaveValue('S19 switches L31');
  await expect(page.getByRole('button', { name: /^Add “.* light”/ })).toBeVisible();
  await touch(/^S19/);
  await expect(line).toHaveValue('switches L31');
  await line.fill('closet: S19 switches L99');
  await expect(page.getByText('There is no box L99.')).toBeVisible();
  await page.reload();
  await expect(line).toHaveValue('closet: S19 switches L99');
  await line.fill('closet: S19 -> L31');
  await expect(page.locator('form mt-outlook')).toContainText('S19 single-pole');
  await page.getByRole('button', { name: 'Add “Closet”' }).click();
  await house.sent();
  const closet = (await stack.stored(demo.file.id)).controls.find(({ name }) => name === 'Closet')!;
  expect([closet.places.length, closet.loads.length]).toEqual([1, 1]);

  const last = page.locator('mt-control-card').last();
  await last.getByRole('button', { name: 'What it means' }).click();
  await expect(last.getByRole('heading', { name: /L31 light end/ })).toBeVisible();
  await last.getByRole('button', { name: 'Let it come in at S19' }).click();
  await expect(last.getByRole('heading', { name: /S19 switch end · as it is/ })).toBeVisible();
  await house.sent();
  const stored = await stack.stored(demo.file.id);
  const s19 = stored.boxes.find(({ tag }) => tag === 'S19')!.id;
  expect(stored.runs.filter(({ to }) => 'boxId' in to && to.boxId === s19).length).toBe(2);
});

test('what one mistake brings with it stands under it, and goes with it', async ({ page, demo }) => {
  await demo.open(page, 'check', 'Garage');
  await expect(page.locator('.counts').getByText('4 Stop')).toBeVisible();
  const card = page
    .locator('mt-check [role=tabpanel] > mt-finding')
    .filter({ hasText: 'S21: 4 joints in it were made another way' });
  const joined = page.getByText(/Take the neutrals of .* apart in S21/);
  await expect(joined).toBeHidden();
  await card.getByText('8 follow from this').press('Enter');
  await expect(joined).toBeVisible();
  await card.getByRole('button', { name: 'All of it has been made again as it should be' }).click();
  await expect(page.locator('.counts').getByText('3 Stop')).toBeVisible();
  await expect(card).toHaveCount(0);
});
