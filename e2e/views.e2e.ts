import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { expect, test } from './stack';

/** Parts of the crew book. */
const CREW = ['people', 'stock', 'kits', 'habits', 'prices', 'connectors', 'journal'].map(
  (part) => `/crew?part=${part}`,
);

async function seriousProblems(page: Page, rules?: string[]): Promise<string[]> {
  const builder = new AxeBuilder({ page });
  const { violations } = await (rules ? builder.withRules(rules) : builder).analyze();
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
  for (const path of ['/', '/new', ...CREW]) {
    await page.goto(stack.url + path);
    await page.getByRole('heading', { level: 1 }).waitFor();
    expect(await seriousProblems(page), path).toEqual([]);
  }
  const house = await demo.open(page, 'pull', 'Stairs');
  const views: [string, Record<string, string>][] = [
    ['pull', {}],
    ['make-up', { box: house.boxId('L18') }],
    ['lay-out', { box: house.boxId('L18') }],
    ['lay-out', { of: 'controls' }],
    ['lay-out', { of: 'circuits' }],
    ['lay-out', { of: 'rooms' }],
    ['check', {}],
    ['check', { of: 'switching' }],
    ['truck', { tab: 'rulebook' }],
    ['truck', { tab: 'journal' }],
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
  test(`contrast holds in the ${theme} theme`, async ({ page, demo }) => {
    await page.addInitScript((wanted) => localStorage.setItem('mule-tally.theme', wanted), theme);
    const house = await demo.open(page, 'pull', 'Living room');
    for (const [stage, query] of [
      ['pull', {}],
      ['make-up', { box: house.boxId('S2') }],
      ['check', {}],
    ] as const) {
      await house.open(stage, 'Living room', query);
      expect(await seriousProblems(page, ['color-contrast']), stage).toEqual([]);
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

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });

  test('the room is found in the drawer, a pull is logged in two touches, nothing sticks out', async ({
    page,
    demo,
    stack,
  }) => {
    const house = await demo.open(page, 'pull', 'Garage');
    await page
      .getByRole('button', { name: /Garage/ })
      .first()
      .tap();
    await house.room('Laundry').tap();
    await page.getByRole('button', { name: 'Log pull PANEL → R5', exact: true }).tap();
    await page.getByRole('button', { name: 'Log it: in' }).tap();
    await expect(house.pulled('PANEL → R5')).toBeVisible();
    for (const [stage, query] of [
      ['pull', {}],
      ['make-up', {}],
      ['make-up', { box: house.boxId('S5') }],
      ['check', { of: 'switching' }],
      ['lay-out', {}],
      ['lay-out', { of: 'controls' }],
      ['check', {}],
    ] as const) {
      await house.open(stage, 'Hall', query);
      const overhang = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
      expect(overhang, stage).toBeLessThanOrEqual(0);
    }
    for (const path of CREW) {
      await page.goto(stack.url + path);
      await page.getByRole('tabpanel').waitFor();
      const overhang = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
      expect(overhang, path).toBeLessThanOrEqual(0);
    }
  });

  test('what is touched is at least 44 pixels high', async ({ page, demo }) => {
    await demo.open(page, 'pull', 'Living room');
    const small = await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('button, a.btn, select, input, nav a')]
        .filter((element) => element.offsetParent && element.getBoundingClientRect().height < 44)
        .map((element) => element.outerHTML.slice(0, 80)),
    );
    expect(small).toEqual([]);
  });
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
