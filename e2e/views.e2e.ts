import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { CREW } from './screens';
import { expect, test } from './stack';

async function seriousProblems(page: Page): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page }).analyze();
  return violations
    .filter(({ impact }) => impact === 'serious' || impact === 'critical')
    .map(
      ({ id, nodes }) =>
        `${id}: ${nodes
          .map(({ target }) => target.join(' '))
          .slice(0, 3)
          .join(' | ')}`,
    );
}

test('axe finds nothing serious in any view', async ({ page, demo, stack }) => {
  test.slow();
  for (const path of ['/', '/new', '/fault', ...CREW]) {
    await page.goto(stack.url + path);
    await page.getByRole('heading', { level: 1 }).waitFor();
    expect(await seriousProblems(page), path).toEqual([]);
  }
  const house = await demo.open(page, 'pull', 'Stairs');
  const views: [string, Record<string, string>][] = [
    ['pull', {}],
    ['walk', {}],
    ['make-up', { box: house.boxId('L18') }],
    ['lay-out', { box: house.boxId('L18') }],
    ['lay-out', { of: 'controls' }],
    ['lay-out', { of: 'circuits' }],
    ['lay-out', { of: 'rooms' }],
    ['check', {}],
    ['check', { of: 'switching' }],
    ['pull', { plan: '1' }],
    ['truck', { tab: 'rulebook' }],
    ['truck', { tab: 'journal' }],
    ['truck', { tab: 'material' }],
    ['truck', { tab: 'charts' }],
    ['truck', { tab: 'crew' }],
  ];
  for (const [stage, query] of views) {
    await house.open(stage, 'Stairs', query);
    expect(await seriousProblems(page), `${stage} ${JSON.stringify(query)}`).toEqual([]);
  }
  await page.getByRole('button', { name: 'Keys' }).click();
  await expect(page.getByRole('heading', { name: 'Keys' })).toBeVisible();
  expect(await seriousProblems(page)).toEqual([]);
});

for (const theme of ['attic', 'sun']) {
  test(`axe finds nothing serious in the ${theme} theme`, async ({ page, demo }) => {
    await page.addInitScript((wanted) => localStorage.setItem('mule-tally.theme', wanted), theme);
    const house = await demo.open(page, 'pull', 'Living room');
    for (const [stage, query] of [
      ['pull', {}],
      ['make-up', { box: house.boxId('S2') }],
      ['check', {}],
    ] as const) {
      await house.open(stage, 'Living room', query);
      expect(await seriousProblems(page), stage).toEqual([]);
    }
  });
}

test('the sheet of keys opens, and the keys do what it says', async ({ page, demo }) => {
  await demo.open(page, 'pull', 'Garage');
  await page.keyboard.press('?');
  await expect(page.getByRole('heading', { name: 'Keys' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('heading', { name: 'Keys' })).toBeHidden();
  await page.keyboard.press('j');
  await expect(page.getByRole('heading', { level: 1, name: 'Laundry' })).toBeVisible();
  await page.keyboard.press('m');
  await expect(page).toHaveURL(/make-up/);
  await page.keyboard.press('c');
  await expect(page.getByRole('heading', { level: 1, name: 'Check' })).toBeVisible();
});

test('a box of four gangs stands on the screen of a laptop, its fill and its steps beside the picture', async ({
  page,
  demo,
}) => {
  const house = await demo.open(page, 'make-up', 'Hall');
  const isWhole = async (selector: string): Promise<boolean> => {
    const { y, height } = (await page.locator(selector).boundingBox())!;
    return y >= 0 && y + height <= 800;
  };
  for (const [room, tag] of [
    ['Living room', 'S2'],
    ['Hall', 'S5'],
  ] as const) {
    await house.open('make-up', room, { box: house.boxId(tag) });
    for (const part of ['mt-box-picture svg', 'mt-bench mt-fill-gauge', '.steps', '.stepper'])
      expect(await isWhole(part), `${part} of ${tag}`).toBe(true);
  }
  const [picture, steps] = [
    (await page.locator('mt-box-picture svg').boundingBox())!,
    (await page.locator('.steps').boundingBox())!,
  ];
  expect(steps.x).toBeGreaterThan(picture.x + picture.width);
});

test('the rulebook is searched, shows what the house changed first, and goes back to the edition', async ({
  page,
  demo,
}) => {
  await demo.open(page, 'truck', 'Hall', { tab: 'rulebook' });
  const chapters = page.locator('mt-rulebook section');
  await expect(chapters.first().getByRole('heading')).toHaveText('Box fill');
  await page.getByRole('searchbox', { name: 'Look for' }).fill('pigtail length');
  await expect(page.locator('.rule')).toHaveCount(1);
  const length = page.getByRole('textbox', { name: 'Length of a pigtail' });
  await length.fill('8');
  await length.press('Tab');
  await page.getByRole('searchbox', { name: 'Look for' }).fill('');
  await expect(chapters.first().getByRole('heading')).toHaveText('Changed for this house');
  await page.getByRole('button', { name: 'Back to the edition’s value' }).click();
  await expect(chapters.first().getByRole('heading')).toHaveText('Box fill');
});

test('the caution goes by the power of the house, as the lead says it', async ({ page, demo, stack }) => {
  const house = await demo.open(page, 'make-up', 'Hall', {});
  await house.box('S5').click();
  await expect(page.getByText('Power not said: take it as live.')).toBeVisible();
  await page.getByRole('link', { name: 'Power of the house' }).click();
  await page.getByRole('combobox', { name: /^Power in the house/ }).selectOption('no-service');
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeEnabled();
  await house.sent();
  await house.open('make-up', 'Hall', { box: house.boxId('S5') });
  await expect(page.getByText('No service yet: the panel is not connected.', { exact: false })).toBeVisible();
  await expect(page.getByText(/Turn breaker/)).toHaveCount(0);
  expect((await stack.stored(demo.file.id)).power).toBe('no-service');
});

test('an empty house says what to do in every stage', async ({ page, stack }) => {
  const id = crypto.randomUUID();
  await fetch(`${stack.url}/api/houses`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ id, name: 'Empty', base: 'us-2020' }),
  });
  for (const stage of ['pull', 'make-up', 'lay-out', 'check', 'truck']) {
    await page.goto(`${stack.url}/house/${id}/${stage}`);
    await expect(page.getByText('No room yet. Add one in Lay out.')).toBeVisible();
  }
  await page.goto(`${stack.url}/house/${crypto.randomUUID()}/pull`);
  await expect(page.getByRole('heading', { name: 'No such house' })).toBeVisible();
});
