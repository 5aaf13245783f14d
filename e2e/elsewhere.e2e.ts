import { readFileSync } from 'node:fs';
import { copyHouseFile, readHouseFile } from '../core/src/house/house-file.js';
import type { Page } from '@playwright/test';
import { HousePage } from './house-page';
import { IN_HOUSE } from './screens';
import { settled } from '../scripts/lib/settled.mjs';
import type { Stack } from './stack';
import { expect, test } from './stack';

/** A demo house of another country, as a house of its own. */
async function taken(page: Page, stack: Stack, lot: string, name: string) {
  const read = readHouseFile(readFileSync(new URL(`../demo/${lot}.house.json`, import.meta.url), 'utf8'));
  if (!read.ok) throw new Error('the demo is broken');
  const file = copyHouseFile(read.file, name, () => crypto.randomUUID(), true);
  await stack.takeIn(file);
  return { file, house: new HousePage(page, file, stack.url) };
}

/** Words, sections and units of the United States, by hand, on the screens of a house by the British rules. */
const US_ONLY =
  /receptacle|\bgrounds?\b(?! floor)|traveler|(?:three|four)-way|single-pole|\bpanels?\b|pigtail|\bNEC\b(?! 20\d\d, United)|\bIRC\b|\bcu in\b|\d (?:ft|in)\b|\bbreakers?\b|\b[AG]FCI\b|\bhots?\b|home run|raceway|drywall|\bstaples?\b|\bAWG\b|wire nut|twist-on|switch legs?\b|\bstor(?:y|ies)\b|rough-in|\battics?\b|\bclosets?\b|\bcolors?\b|foyer|\bcounters?\b|faucet|crawl space|top plate|\bcenter|\bmeters\b|millimeter|\byoke|\bpantry|luminaire|canopy|bonding conductor|\benergize|\b[1-9]\d\d\.\d+\(|\d"(?!,)/gi;

/** Units, sections and words of the United States on the screens of a house by the Canadian code. */
const NOT_CANADIAN =
  /\bNEC\b(?! 20\d\d, United)|\bIRC\b|\bcu in\b|\d (?:ft|in)\b|\bft\b|\d"(?!,)|\d'\d|\b[1-9]\d\d\.\d+\(|[Tt]raveler|\b[Pp]anels?\b|(?<!from the )\b[Gg]rounds?\b(?! floor|-fault| level)|\b[Yy]oke/g;

/** All that a screen says, what is folded and what is read aloud too. */
const everyWord = (page: Page): Promise<string> =>
  page.evaluate(() => {
    document.querySelectorAll('details').forEach((one) => (one.open = true));
    const aloud = [...document.querySelectorAll('[aria-label], [placeholder], [title]')].flatMap((one) =>
      ['aria-label', 'placeholder', 'title'].map((name) => one.getAttribute(name) ?? ''),
    );
    // The name of another house, where a reel was taken along.
    return [document.body.innerText, ...aloud].join('\n').replaceAll('Lot 12, two story', '');
  });

/** Words on all screens of a house, and on those of some of its boxes, that are not said where it stands. */
async function foreignWords(
  page: Page,
  { file, house }: Awaited<ReturnType<typeof taken>>,
  tags: readonly string[],
  foreign: RegExp,
): Promise<string[]> {
  const found: string[] = [];
  const look = async (where: string): Promise<void> => {
    await settled(page);
    found.push(...((await everyWord(page)).match(foreign) ?? []).map((word) => `${where}: ${word}`));
  };
  const screens: typeof IN_HOUSE = [
    ...IN_HOUSE,
    ...tags.flatMap((tag): typeof IN_HOUSE => [
      ['make-up', 'Kitchen', { box: house.boxId(tag) }],
      ['lay-out', 'Kitchen', { box: house.boxId(tag) }],
    ]),
  ];
  for (const [stage, room, query] of screens) {
    if (query['tab'] === 'crew') continue;
    const here = file.rooms.some(({ name }) => name === room) ? room : 'Kitchen';
    await house.open(stage, here, query);
    await look(`${stage} ${JSON.stringify(query)}`);
  }
  for (const button of ['Add a run', /^Log pull /, /^Edit run /]) {
    await house.open('pull', 'Kitchen');
    await page.getByRole('button', { name: button }).first().press('Enter');
    await look(String(button));
  }
  return found;
}

test('a terraced house by the British rules: nothing of another country on any screen, its plate from behind, its ring tested dead', async ({
  page,
  stack,
}) => {
  test.slow();
  const { file, house } = await taken(page, stack, 'plot-7', 'Terraced, elsewhere');
  const box = house.boxId('S2');
  expect(await foreignWords(page, { file, house }, ['S2', 'R11', 'CU'], US_ONLY)).toEqual([]);

  await house.open('make-up', 'Kitchen', { box });
  await expect(house.gauge()).toContainText('free, no rule');
  await expect(page.locator('main')).toContainText('Switch plate, 2 gang, one-way, seen from behind');

  // A spur on a spur, taken into the ring by hand: gone from the list.
  await house.open('check', 'Hall');
  const spur = page.locator('mt-finding', { hasText: 'Bring R11 into the ring' });
  await expect(spur).toContainText('BS 7671:2018 Appendix 15', { timeout: 60_000 });

  const ring = file.circuits.find(({ ring }) => ring)!;
  await house.open('check', 'Hall', { of: 'test', circuit: ring.id });
  await expect(page.getByRole('link', { name: 'Dead tests' })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Live' })).toHaveCount(0);
  for (const name of ['it shows live', 'and CPC: dead', 'On the live source again'])
    await page.getByRole('checkbox', { name }).first().click();
  await expect(page.getByText('Touch the two ends of the ring, brown with brown')).toBeVisible();
  // What the meter shows is held against the length of the ring, and written down.
  const shows = page.getByRole('textbox', { name: 'The meter shows, Ω' });
  await shows.fill('9');
  await page.getByRole('button', { name: 'Good', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('By the length of its cable it should read about');
  await shows.fill('9,5');
  await page.getByRole('button', { name: 'No good' }).click();
  await expect
    .poll(async () => {
      const record = (await stack.stored(file.id)).records.find(({ kind }) => kind === 'test');
      return [record?.result, record?.tested?.reading];
    })
    .toEqual(['fail', 9.5]);
});

test('a circuit is made a ring, and a leg that does not come home is found', async ({ page, stack }) => {
  const { file, house } = await taken(page, stack, 'plot-7', 'Terraced, cooker as ring');
  const cooker = file.circuits.find(({ name }) => name === 'Cooker')!;
  await house.open('lay-out', 'Kitchen', { of: 'circuits' });
  await page.getByRole('checkbox', { name: `Circuit ${cooker.number} is a ring` }).check();
  await expect
    .poll(async () => (await stack.stored(file.id)).circuits.find(({ id }) => id === cooker.id)?.ring)
    .toBe(true);
  await house.open('check', 'Kitchen');
  const missing = page.locator('mt-finding', { hasText: 'only one end is at its MCB' });
  await expect(missing).toBeVisible({ timeout: 60_000 });
  await missing.getByRole('button', { name: 'Let circuit 3 (Cooker) be no ring' }).click();
  await expect(missing).toHaveCount(0);
});

test('a house goes by another country’s code once it has been said what that takes, and back with one undo', async ({
  page,
  demo,
  stack,
}) => {
  const house = await demo.open(page, 'truck', 'Hall', { tab: 'rulebook' });
  const { id } = demo.file;
  const base = async () => (await stack.stored(id)).rulebook.base;
  const length = page.getByRole('textbox', { name: 'Length of a pigtail' });
  await length.fill('8');
  await length.press('Tab');
  await expect
    .poll(async () => Object.keys((await stack.stored(id)).rulebook.overrides))
    .toEqual(['makeup.pigtail']);
  const edition = page.getByRole('combobox', { name: 'Code edition of this house' });
  await edition.selectOption({ label: 'CEC 2021, Canada' });
  const asked = page.locator('.asked');
  await expect(asked).toContainText('Nothing has changed yet');
  await expect(asked).toContainText('14/4: runs: 1, not sold there');
  await asked.getByRole('button', { name: 'Leave it' }).click();
  await expect(edition).toHaveValue('us-2020');
  expect(await base()).toBe('us-2020');

  await edition.selectOption({ label: 'CEC 2021, Canada' });
  await asked.getByRole('button', { name: 'Go by CEC 2021' }).click();
  await expect(asked).toHaveCount(0);
  await expect(page.getByRole('textbox', { name: 'Length of a pigtail' })).toHaveValue('203.2');
  await expect.poll(base).toBe('ca-2021');
  await house.open('make-up', 'Hall', { box: house.boxId('S5') });
  await expect(page.getByRole('button', { name: /^1 All bonding conductors together/ })).toBeVisible();
  await expect(house.gauge()).toContainText('mL');
  await page.getByRole('button', { name: 'Undo', exact: true }).first().click();
  await expect(page.getByRole('button', { name: /^1 All grounds together/ })).toBeVisible();
  await expect.poll(base).toBe('us-2020');
  const { overrides } = (await stack.stored(id)).rulebook;
  expect(overrides['makeup.pigtail']?.value).toBe(8);
});

test('a bungalow by the Canadian code: its box in mL, its plan in meters, its room typed in meters', async ({
  page,
  stack,
}) => {
  test.slow();
  const { file, house } = await taken(page, stack, 'lot-3', 'Bungalow, elsewhere');
  expect(await foreignWords(page, { file, house }, ['S2', 'R2', 'PANEL'], NOT_CANADIAN)).toEqual([]);
  await house.open('check', 'Kitchen');
  const full = page.locator('mt-finding', { hasText: 'too full by 17 mL' });
  await expect(full).toContainText('CEC 2021 12-3034', { timeout: 60_000 });
  await full.getByRole('button', { name: /^Change S2 to Metal device 76 × 51 × 76 mm, 1 gang/ }).click();
  await expect(full).toHaveCount(0);
  await house.open('lay-out', 'Kitchen', { of: 'plan' });
  await expect(page.getByRole('button', { name: 'Kitchen, 4.11 × 3.48' })).toBeVisible();
  await house.open('lay-out', 'Kitchen', { of: 'rooms' });
  await page.getByRole('textbox', { name: 'New room' }).fill('Pantry 1.8 x 1.2');
  await page.getByRole('button', { name: 'Add the room' }).click();
  await expect
    .poll(async () => (await stack.stored(file.id)).rooms.find(({ name }) => name === 'Pantry')?.lengthIn)
    .toBeCloseTo(1800 / 25.4, 2);
  await house.open('lay-out', 'Kitchen', { of: 'plan' });
  await page.getByRole('button', { name: 'Kitchen, 4.11 × 3.48' }).press('Enter');
  const wide = page.getByRole('textbox', { name: 'Width, mm' }).first();
  await wide.fill('900');
  await wide.blur();
  await expect
    .poll(async () => (await stack.stored(file.id)).openings.map(({ widthIn }) => Math.round(widthIn * 25.4)))
    .toContain(900);
  await wide.fill('wide');
  await wide.blur();
  await expect(page.getByText('“wide” is no length')).toBeVisible();
  // Marks on the sheath are read by the meter.
  await house.open('pull', 'Kitchen');
  await page
    .getByRole('button', { name: /^Log pull / })
    .first()
    .click();
  await page.getByRole('textbox', { name: 'Mark at the start (m)' }).fill('10.5');
  await page.getByRole('textbox', { name: 'Mark at the end (m)' }).fill('14,25');
  const log = page.getByRole('button', { name: /^(Log it: in|It is right: log it)$/ });
  await log.click();
  if (await page.getByRole('button', { name: 'It is right: log it' }).isVisible()) await log.click();
  await expect
    .poll(async () => {
      const { startMark = 0, endMark = 0 } = (await stack.stored(file.id)).pulls.at(-1) ?? {};
      return [startMark, endMark].map((feet) => Math.round(feet * 12 * 2.54));
    })
    .toEqual([1050, 1425]);
});

test('the crew book by the edition of the device: its cable in meters, its price by the meter, its own habits', async ({
  page,
  stack,
}) => {
  const book = async () =>
    (await (await fetch(`${stack.url}/api/crew/book`)).json()) as {
      file: {
        stock: { name: string; cable: string; lengthIn: number }[];
        prices: { item?: string; amount: number }[];
        habits: { key: string; override: { value: unknown } }[];
      };
    };
  await page.goto(`${stack.url}/crew?part=stock`);
  await page.getByRole('combobox', { name: 'Shown by' }).selectOption('gb-2018');
  await page.getByRole('textbox', { name: 'Name', exact: true }).fill('Drum 1');
  await page.getByRole('combobox', { name: 'Cable' }).selectOption('2.5 T&E');
  await page.getByRole('textbox', { name: 'Length (m)' }).fill('50');
  await page.getByRole('button', { name: 'Put it in stock' }).click();
  await expect
    .poll(async () => {
      const drum = (await book()).file.stock.find(({ name }) => name === 'Drum 1');
      return drum && [drum.cable, Math.round(drum.lengthIn * 25.4)];
    })
    .toEqual(['2.5 T&E', 50_000]);
  await page.goto(`${stack.url}/crew?part=prices`);
  await page.getByRole('textbox', { name: 'Price, each metre' }).fill('0.9');
  await page.getByRole('button', { name: 'Keep the price' }).click();
  await expect(page.getByRole('textbox', { name: 'Price of Cable: 1.0 T&E' })).toHaveValue('0.9');
  await expect
    .poll(async () => (await book()).file.prices.find(({ item }) => item === '1.0 T&E')?.amount)
    .toBeCloseTo(0.9 * 0.3048, 6);
  // A habit that only this country knows, for its houses.
  await page.goto(`${stack.url}/crew?part=habits`);
  await page.getByRole('combobox', { name: 'A habit for' }).selectOption('plates.labels');
  await expect
    .poll(async () => (await book()).file.habits.find(({ key }) => key === 'plates.labels')?.override.value)
    .toBe('numbered');
  // By another edition it is named, and is none of its values.
  await page.getByRole('combobox', { name: 'Shown by' }).selectOption('us-2020');
  const habit = page.getByRole('row', { name: /^Gangs of a plate are marked/ });
  await expect(habit).toContainText('no value of this edition');
  await page.getByRole('combobox', { name: 'Shown by' }).selectOption('gb-2018');
  await expect(habit).toContainText('by numbers');
  await page.goto(`${stack.url}/new`);
  await expect(page.getByRole('combobox', { name: 'Code edition' })).toHaveValue('gb-2018');
  await expect(page.getByRole('textbox', { name: 'Name of floor 1' })).toHaveValue('Ground floor');
});

test('a fault somewhere else is looked for by the rules of where it is', async ({ page, stack }) => {
  await page.goto(`${stack.url}/fault`);
  await page.getByRole('combobox', { name: 'Code edition' }).selectOption('gb-2018');
  await expect(page.getByRole('combobox', { name: 'MCB' })).toHaveValue('6');
  await page.getByRole('textbox', { name: 'Name' }).fill('Landing');
  await page.getByRole('button', { name: 'Find the fault' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  await expect.poll(() => page.url()).toContain('of=find');
  const file = await stack.stored(/house\/([^/]+)\//.exec(page.url())![1]!);
  expect(file.rulebook.base).toBe('gb-2018');
  expect(file.runs.map(({ plannedCable }) => plannedCable)).toContain('1.0 3C&E');
  expect(file.devices.map(({ catalogueId }) => catalogueId)).toContain('gb-plate-1');
});

test('the rules of a house go out as a file and into another house; a file that is wrong changes nothing', async ({
  page,
  demo,
  stack,
}) => {
  const house = await demo.open(page, 'truck', 'Hall', { tab: 'rulebook' });
  const { id } = demo.file;
  const rulebook = async () => (await stack.stored(id)).rulebook;
  const pigtail = page.getByRole('textbox', { name: 'Length of a pigtail' });
  await pigtail.fill('8');
  await pigtail.press('Tab');
  await expect.poll(async () => Object.keys((await rulebook()).overrides)).toEqual(['makeup.pigtail']);
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save these rules as a file' }).click(),
  ]);
  const code = JSON.parse(readFileSync((await download.path())!, 'utf8'));
  expect(code.rules.find(({ key }: { key: string }) => key === 'makeup.pigtail').value).toBe(8);

  const pick = page.locator('mt-file-pick input');
  const give = (what: unknown) =>
    pick.setInputFiles({
      name: 'town.json',
      mimeType: 'application/json',
      buffer: Buffer.from(JSON.stringify(what)),
    });
  await give({ ...code, sizes: [] });
  await expect(page.getByText('Nothing of this file was taken:')).toBeVisible();
  await expect(
    page.getByText('A code says which sizes circuits are wired with: none is named.'),
  ).toBeVisible();
  expect((await rulebook()).code).toBeUndefined();

  await give({ ...code, name: 'A town', edition: 'Town 2026' });
  const asked = page.locator('.asked');
  await expect(asked).toContainText('Another code: Town 2026');
  await asked.getByRole('button', { name: 'Go by Town 2026' }).click();
  await expect(page.getByText('Goes by Town 2026, A town: a file of its own.')).toBeVisible();
  await expect.poll(async () => (await rulebook()).code?.edition).toBe('Town 2026');
  await page.goto(stack.url);
  await expect(page.getByText('rules Town 2026').first()).toBeVisible();
  await house.open('truck', 'Hall', { tab: 'rulebook' });
  await page.getByRole('button', { name: 'Undo', exact: true }).first().click();
  await expect.poll(async () => (await rulebook()).code).toBeUndefined();
});

test('a house whose rules are not here opens to be read, with a sentence, and goes out as it came', async ({
  page,
  demo,
  stack,
}) => {
  const file = copyHouseFile(demo.file, 'From far away', () => crypto.randomUUID(), true);
  const rulebook = { base: 'zz-2030', overrides: { 'zz.rule': { value: 3 } } };
  await stack.takeIn({ ...file, rulebook } as typeof file);
  const house = new HousePage(page, file, stack.url);
  await house.open('lay-out', 'Hall', { of: 'circuits' });
  await expect(
    page.getByText(
      'This house goes by rules that are not here (zz-2030): it can be read and exported, not changed. What is worked out here goes by NEC 2020.',
    ),
  ).toBeVisible();
  await expect(page.getByRole('textbox', { name: 'New circuit' })).toHaveCount(0);
  await house.open('pull', 'Hall');
  await expect(page.getByRole('button', { name: 'Add a run' })).toHaveCount(0);
  const { file: kept } = (await (await fetch(`${stack.url}/api/houses/${file.id}`)).json()) as {
    file: { rulebook: unknown };
  };
  expect(kept.rulebook).toEqual(rulebook);
});
