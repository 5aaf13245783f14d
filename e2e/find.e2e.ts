import { readerOf } from '../core/src/derive/reader.js';
import { diagnosisOf } from '../core/src/diagnosis/known.js';
import { nextStep } from '../core/src/diagnosis/next-step.js';
import { toldOf } from '../core/src/diagnosis/search.js';
import { houseOf } from '../core/src/house/house-file.js';
import type { HouseFile } from '../core/src/house/house-file.js';
import { buildNetlist } from '../core/src/wiring/netlist/build-netlist.js';
import { operate } from '../core/src/wiring/netlist/operate.js';
import { HousePage } from './house-page';
import { expect, test } from './stack';

/** The long hall, in which a traveler landed on the common: what each light does with the levers so, operated afresh. */
function longHall(file: HouseFile) {
  const circuit = file.circuits.find(({ name }) => name === 'Long hall')!;
  const reader = readerOf(houseOf(file));
  const { hypotheses, wirings } = diagnosisOf(reader, circuit.id);
  const fault = hypotheses.find(({ kind }) => kind === 'traveler on common')!;
  const netlist = buildNetlist(reader, wirings, fault.joints);
  const does = (up: readonly string[], pointId: string): string => {
    const { loads, shorts } = operate(netlist, new Set(up));
    const load = loads.find(
      (one, at) => one.pointId === pointId && netlist.loads[at]!.role !== 'electronics',
    )!;
    if (shorts.length) return 'It trips';
    return load.state === 'on' ? 'It is on' : load.state === 'off' ? 'It is off' : 'Dim or too bright';
  };
  return { circuit, fault, does };
}

test('a fault is found by answering what it asks, kept, and says what to test again', async ({
  page,
  demo,
  stack,
}) => {
  test.slow();
  const file = { ...demo.file, id: crypto.randomUUID(), name: `${demo.file.name}, dark` };
  await stack.takeIn(file);
  const { circuit, fault, does } = longHall(file);
  const house = new HousePage(page, file, stack.url);
  await house.open('check', 'Long hall', { of: 'find' });
  // The search that was begun is the one that is shown.
  const sheet = page.locator('mt-find-sheet');
  await expect(sheet.locator('p.of')).toContainText('Long hall');
  await expect(sheet.locator('p.of')).toContainText('3 told');
  let told = 3;
  for (let nth = 0; nth < 30; nth++) {
    const stored = await stack.stored(file.id);
    const reader = readerOf(houseOf(stored));
    const step = nextStep(
      diagnosisOf(reader, circuit.id),
      toldOf(reader, circuit.id).map(({ evidence }) => evidence),
    )!;
    if (step.kind === 'look' && step.place.key === fault.place.key) break;
    if (step.kind === 'see')
      await sheet
        .getByRole('button', { name: does(step.up, step.pointId), exact: true })
        .first()
        .click();
    else if (step.kind === 'look') await sheet.getByRole('button', { name: 'Not here' }).click();
    told++;
    await expect(sheet.locator('p.of')).toContainText(`${told} told`);
    await expect
      .poll(async () => toldOf(readerOf(houseOf(await stack.stored(file.id))), circuit.id).length)
      .toBe(told);
  }
  // Before hands go into the box it is proven dead.
  for (const tick of ['a known live source', 'On the work', 'the live source again'])
    await sheet.getByRole('checkbox', { name: tick }).click();
  await expect(sheet.locator('.do')).toContainText('Turn its breaker off and prove it dead. Open');
  await sheet.locator('.step').getByRole('button', { name: 'Found it' }).click();
  await sheet
    .getByRole('button', { name: /traveler landed on the common/ })
    .first()
    .click();
  await expect(sheet).toContainText('Once it is mended, test again:');
  const isKept = async () => (await stack.stored(file.id)).records.some(({ kind }) => kind === 'found');
  await expect.poll(isKept).toBe(true);
  const stored = await stack.stored(file.id);
  const { cause } = stored.records.find(({ kind }) => kind === 'found')!;
  expect(cause).toMatchObject({ fault: 'traveler on common', place: { kind: 'box', id: fault.place.id } });

  // The trim test from there: good, then no good, which looks for the fault with everything read so far.
  await sheet.getByRole('link', { name: /^Trim test/ }).click();
  const trim = page.locator('mt-trim-sheet');
  await trim.getByRole('button', { name: 'Good', exact: true }).click();
  await expect(trim.locator('p.of')).toContainText(/^.*2 of \d+/);
  await trim.getByRole('button', { name: 'No good', exact: true }).click();
  await expect(sheet.locator('p.of')).toContainText('2 told');
  await expect(sheet.locator('.suspects')).toContainText('Says');
  // What is said twice and otherwise does not go together, and is taken back.
  const [answer] = await sheet.locator('.step .btn-main').allTextContents();
  await sheet.locator('.step .btn-main').first().click();
  await expect(sheet.locator('p.of')).toContainText('3 told');
  expect(answer).toBeTruthy();
});

test('a live test: only with power and by a lead, what is joined and capped, and what was left in', async ({
  page,
  demo,
  stack,
}) => {
  const file = {
    ...demo.file,
    id: crypto.randomUUID(),
    name: `${demo.file.name}, live`,
    power: 'temporary' as const,
  };
  await stack.takeIn(file);
  const { circuit } = longHall(file);
  const house = new HousePage(page, file, stack.url);
  await house.open('check', 'Long hall', { of: 'test', round: 'live', circuit: circuit.id });
  const sheet = page.locator('mt-live-sheet');
  await expect(sheet.getByRole('button', { name: 'Begin' })).toBeDisabled();
  const ticks = sheet.getByRole('checkbox');
  const count = await ticks.count();
  expect(count).toBeGreaterThan(5);
  for (let nth = 0; nth < count; nth++) await ticks.nth(nth).click();
  await sheet.getByRole('button', { name: 'Begin' }).click();
  await expect(sheet.locator('.do')).toContainText('put the breaker on');
  const good = sheet.getByRole('button', { name: 'Good', exact: true });
  const of = Number(/of (\d+)/.exec((await sheet.locator('p.of strong').textContent()) ?? '')![1]);
  for (let step = 1; step < of; step++) {
    await good.click();
    await expect(sheet.locator('p.of')).toContainText(`${step} of ${of}`);
  }
  // Joins come off again; one stays, and the trim sheet says so.
  await sheet.getByRole('checkbox').first().click();
  await expect(sheet).toContainText('Its breaker stays off and locked');
  await good.click();
  await page.getByRole('link', { name: 'Trim' }).click();
  await expect(page.locator('mt-trim-sheet')).toContainText('Joins of the live test were left in');

  // Another power, and it may not be done, and what was proven dead is to be proven again.
  await house.open('truck', 'Long hall', { tab: 'house' });
  await page.getByRole('combobox', { name: /Power/ }).selectOption('no-service');
  await expect.poll(async () => (await stack.stored(file.id)).power).toBe('no-service');
  await house.open('check', 'Long hall', { of: 'test', round: 'live', circuit: circuit.id });
  await expect(sheet).toContainText('the house has no power that this may be done with');
});

test('a Stop is left as the inspector allowed it, and stays a Stop', async ({ page, demo, stack }) => {
  const file = { ...demo.file, id: crypto.randomUUID(), name: `${demo.file.name}, allowed` };
  await stack.takeIn(file);
  const house = new HousePage(page, file, stack.url);
  await house.open('check', 'Living room');
  const card = page.locator('mt-finding').filter({ hasText: 'Set a larger box at S2' }).first();
  const stops = page.locator('.counts .stop').first();
  await expect(card).toBeVisible();
  await expect(page.getByRole('progressbar', { name: 'Looked through' })).toHaveCount(0);
  const before = await stops.textContent();
  await card.getByText('Did the inspector allow it?').click();
  await card.getByRole('textbox', { name: 'Inspector' }).fill('A. Plumb');
  await card.getByLabel('Day').fill('2026-03-12');
  await card.getByRole('button', { name: 'Keep it' }).click();
  await expect(card).toContainText('Inspector allowed: A. Plumb, 12 Mar 2026. It stays a Stop.');
  await expect(stops).toHaveText(before!);
  const kept = async () => (await stack.stored(file.id)).records.filter(({ kind }) => kind === 'accepted');
  await expect.poll(async () => (await kept()).length).toBe(1);
  // Another box, and it is another thing that was found.
  await card.getByRole('button', { name: /^Change S2 to Plastic, 1 gang/ }).click();
  await expect(page.locator('mt-finding').filter({ hasText: 'Inspector allowed:' })).toHaveCount(0);
});
