import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { CREW } from './screens';
import { settled } from '../scripts/lib/settled.mjs';
import { expect, test } from './stack';

test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });

/** What is seen of the first screen: the main act, other targets too small or too near one another, and what sticks out. */
const firstScreen = (page: Page) =>
  page.evaluate(() => {
    const isOnTop = (element: Element): boolean => {
      const { left, top, width, height } = element.getBoundingClientRect();
      const [x, y] = [left + width / 2, top + height / 2];
      if (!width || !height || y < 0 || y > innerHeight || x < 0 || x > innerWidth) return false;
      const hit = document.elementFromPoint(x, y);
      return !!hit && (element.contains(hit) || hit.contains(element));
    };
    // What lies under the bar of the main act is as long as it is seen.
    const bar = document.querySelector('.act-bar');
    const uncovered = (element: Element): DOMRect => {
      const rect = element.getBoundingClientRect();
      const until = bar && !bar.contains(element) ? bar.getBoundingClientRect().top : innerHeight;
      return new DOMRect(rect.x, rect.y, rect.width, Math.min(rect.height, until - rect.y));
    };
    const targets = [...document.querySelectorAll('button, a, select, input, summary')]
      .filter((element) => !element.closest('svg') && isOnTop(element))
      .map((element) => ({
        name: (element.getAttribute('aria-label') ?? element.textContent ?? '').trim().slice(0, 40),
        isMain: element.matches('.act-bar .btn-main'),
        height: element.getBoundingClientRect().height,
        width: element.getBoundingClientRect().width,
        rect: uncovered(element),
      }));
    const near = targets.flatMap((one, at) =>
      targets.slice(at + 1).flatMap((other) => {
        const dx = Math.max(one.rect.left - other.rect.right, other.rect.left - one.rect.right);
        const dy = Math.max(one.rect.top - other.rect.bottom, other.rect.top - one.rect.bottom);
        return Math.max(dx, dy) < 7.5 ? [`${one.name} | ${other.name}`] : [];
      }),
    );
    const header = document.querySelector('header.top')!.getBoundingClientRect();
    return {
      header: header.height,
      main: targets
        .filter(({ isMain }) => isMain)
        .map(({ name, rect }) => ({ name, height: rect.height, isAll: rect.bottom <= innerHeight })),
      small: targets.filter(({ height, width }) => height < 55.5 || width < 55.5).map(({ name }) => name),
      near,
      overhang: document.documentElement.scrollWidth - innerWidth,
    };
  });

test('pull: the next run is in with one touch, what is done folds, and one touch takes it back', async ({
  page,
  demo,
  stack,
}) => {
  const house = await demo.open(page, 'pull', 'Garage');
  await house.pickRoom('Laundry');
  const next = page.locator('mt-next-pull');
  await expect(next).toContainText('R25');
  await expect(next).toContainText('S22');
  for (const [part, size] of [
    ['.ends strong', 32],
    ['.feet', 32],
  ] as const)
    expect(
      Number.parseFloat(
        await next
          .locator(part)
          .first()
          .evaluate((element) => getComputedStyle(element).fontSize),
      ),
    ).toBeGreaterThanOrEqual(size);
  const screen = await firstScreen(page);
  expect(screen).toEqual({
    header: expect.any(Number),
    main: [{ name: 'In', height: expect.any(Number), isAll: true }],
    small: [],
    near: [],
    overhang: 0,
  });
  expect(screen.header).toBeLessThanOrEqual(57.5);
  expect(screen.main[0]!.height).toBeGreaterThanOrEqual(72);
  await page.getByRole('button', { name: 'In', exact: true }).tap();
  await expect(page.getByText('1 of 4 runs in').first()).toBeAttached();
  await house.sent();
  const pulls = async () => (await stack.stored(demo.file.id)).pulls.length;
  expect(await pulls()).toBe(demo.file.pulls.length + 1);
  // For ten seconds it is taken back with one touch.
  await page.locator('.undo-bar').getByRole('button', { name: 'Undo' }).tap();
  await expect(page.getByText('0 of 4 runs in').first()).toBeAttached();
  await house.sent();
  expect(await pulls()).toBe(demo.file.pulls.length);
  // Short, later, or another cable.
  const shown = await next.locator('.ends').innerText();
  await page.getByRole('button', { name: 'Problem' }).tap();
  expect((await firstScreen(page)).near).toEqual([]);
  await page.getByRole('button', { name: 'Later' }).tap();
  await expect(next.locator('.ends')).not.toHaveText(shown);
});

test('walk: a circuit counted box by box names the jumper that is missing; put right and counted again it is signed off', async ({
  page,
  demo,
  stack,
}) => {
  const circuit = demo.file.circuits.find(({ number }) => number === 7)!;
  const house = await demo.open(page, 'walk', 'Laundry', { circuit: circuit.id });
  const box = page.locator('mt-box-count');
  const tag = box.locator('.box strong');
  const screen = await firstScreen(page);
  expect(screen).toEqual({
    header: expect.any(Number),
    main: [{ name: 'All here, next', height: expect.any(Number), isAll: true }],
    small: [],
    near: [],
    overhang: 0,
  });
  const power = demo.file.runs.filter(
    ({ circuitIds, purpose }) => circuitIds.includes(circuit.id) && (purpose ?? 'power') === 'power',
  );
  const [jumper] = power.filter(({ from }) => from.boxId !== circuit.panelId);
  const ends = [jumper!.from.boxId, jumper!.to.boxId].map(
    (id) => demo.file.boxes.find((one) => one.id === id)!.tag,
  );
  let counted = 0;
  for (; await box.isVisible(); counted++) {
    const here = await tag.innerText();
    if (ends.includes(here)) {
      await page.getByRole('button', { name: 'It differs' }).tap();
      await page.getByRole('button', { name: 'One power less' }).tap();
      await page.getByRole('button', { name: /^I see/ }).tap();
    } else await page.getByRole('button', { name: 'All here, next' }).tap();
    await expect(page.locator('mt-box-count .box strong', { hasText: new RegExp(`^${here}$`) })).toHaveCount(
      0,
    );
  }
  await expect(page.getByText('Every box was counted.')).toBeVisible();
  await expect(page.getByText('2 boxes differ')).toBeVisible();
  await expect(
    page.getByText(/^Pull the missing jumper/).filter({ hasText: `from ${ends[0]} to ${ends[1]}` }),
  ).toBeVisible();
  await expect(page.getByRole('button', { name: 'Sign off 7' })).toHaveCount(0);
  // Put right, and counted again.
  for (const end of ends) {
    await page
      .locator('.boxes .line')
      .filter({ has: page.locator('strong', { hasText: new RegExp(`^${end}$`) }) })
      .tap();
    await expect(tag).toHaveText(end);
    await page.getByRole('button', { name: 'All here, next' }).tap();
    await expect(box).toHaveCount(0);
  }
  await expect(page.getByText('2 boxes differ')).toHaveCount(0);
  await page.getByRole('button', { name: 'Sign off 7' }).tap();
  await expect(page.getByText('signed off', { exact: false }).first()).toBeVisible();
  await house.sent();
  const { records } = await stack.stored(demo.file.id);
  const own = records.filter(({ circuitId }) => circuitId === circuit.id);
  expect(own.filter(({ counted: count }) => count).length).toBe(counted + 2);
  expect(own.filter(({ result }) => result === 'pass').length).toBe(1);
});

test('set: the next box to nail up, where and how high; one touch each, and what cannot go there comes last', async ({
  page,
  demo,
  stack,
}) => {
  const house = await demo.open(page, 'lay-out', 'Living room', { of: 'set' });
  const sheet = page.locator('mt-set-sheet');
  await expect(sheet).toContainText('48 in');
  const screen = await firstScreen(page);
  expect(screen).toEqual({
    header: expect.any(Number),
    main: [{ name: 'Set, next', height: expect.any(Number), isAll: true }],
    small: [],
    near: [],
    overhang: 0,
  });
  expect(screen.main[0]!.height).toBeGreaterThanOrEqual(72);
  const tag = await sheet.locator('.big strong').innerText();
  await page.getByRole('button', { name: 'Set, next' }).tap();
  await expect(sheet.locator('.big strong')).not.toHaveText(tag);
  await house.sent();
  const { records, boxes } = await stack.stored(demo.file.id);
  expect(records.map(({ step, boxId }) => [step, boxId])).toContainEqual(['set', house.boxId(tag)]);
  expect(boxes.length).toBe(demo.file.boxes.length);
  const put = await sheet.locator('.big strong').innerText();
  await page.getByRole('button', { name: 'Can’t go here' }).tap();
  await expect(sheet.locator('.big strong')).not.toHaveText(put);
});

test('bench: the caution before the first step, then a step a touch, or the whole box with one', async ({
  page,
  demo,
  stack,
}) => {
  const house = await demo.open(page, 'make-up', 'Hall');
  await house.box('S5').tap();
  await expect(page.getByText('Turn breaker 5', { exact: false })).toBeVisible();
  const first = await firstScreen(page);
  expect([first.main.map(({ name }) => name), first.small, first.near]).toEqual([['First step'], [], []]);
  await page.getByRole('button', { name: 'First step' }).tap();
  const picture = page.locator('mt-box-picture svg');
  await expect(page.getByText('1 of 8: All grounds together.')).toBeInViewport();
  expect((await picture.boundingBox())!.height).toBeGreaterThanOrEqual(340);
  await expect(page.getByText(/breaker 5 OFF, locked or tagged/)).toBeInViewport();
  const step = await firstScreen(page);
  expect(step).toEqual({
    header: expect.any(Number),
    main: [{ name: 'Made, next', height: expect.any(Number), isAll: true }],
    small: [],
    near: [],
    overhang: 0,
  });
  expect(step.main[0]!.height).toBeGreaterThanOrEqual(72);
  await page.getByRole('button', { name: 'Made, next' }).tap();
  await expect(page.getByText('2 of 8: Neutrals of circuit 5.')).toBeInViewport();
  const made = async () =>
    (await stack.stored(demo.file.id)).boxes.find(({ tag }) => tag === 'S5')!.asBuilt?.length ?? 0;
  await house.sent();
  expect(await made()).toBe(1);
  await page.getByRole('button', { name: 'Box made up' }).tap();
  await expect(page.getByText('Whole box. 8 steps, 8 made.')).toBeVisible();
  await house.sent();
  expect(await made()).toBe(8);
  await page.locator('.undo-bar').getByRole('button', { name: 'Undo' }).tap();
  await expect(page.getByText('Whole box. 8 steps, 1 made.')).toBeVisible();
  // The caution stands again before the next box is begun.
  await page.getByRole('link', { name: 'All boxes of the room' }).first().tap();
  await house.box('L13').tap();
  await expect(page.getByText('prove dead', { exact: false })).toBeVisible();
});

for (const language of ['en', 'es'])
  test(`what was found fits three lines and says what to do first (${language})`, async ({ page, demo }) => {
    await page.addInitScript((spoken) => localStorage.setItem('mule-tally.language', spoken), language);
    await demo.open(page, 'check', 'Living room');
    await expect(page.locator('mt-finding').first()).toBeVisible();
    const screen = await firstScreen(page);
    expect([screen.main.length, screen.small, screen.near, screen.overhang]).toEqual([1, [], [], 0]);
    const findings = page.locator('mt-finding');
    for (const summary of await page.locator('details.follows > summary').all()) await summary.tap();
    const long = await page
      .locator('mt-finding .told')
      .evaluateAll((all) =>
        all
          .filter(
            (told) =>
              told.getBoundingClientRect().height / Number.parseFloat(getComputedStyle(told).lineHeight) >
              3.1,
          )
          .map(({ textContent }) => textContent),
      );
    expect(long).toEqual([]);
    expect(await findings.count()).toBeGreaterThan(10);
  });

for (const language of ['en', 'es'])
  test(`nothing sticks out on any sheet, and nothing is smaller than a glove (${language})`, async ({
    page,
    demo,
    stack,
  }) => {
    test.slow();
    await page.addInitScript((spoken) => localStorage.setItem('mule-tally.language', spoken), language);
    const house = await demo.open(page, 'pull', 'Hall');
    const look = async (where: string): Promise<void> => {
      await settled(page);
      const { small, overhang } = await firstScreen(page);
      expect([overhang, small], where).toEqual([0, []]);
    };
    for (const [stage, room, query] of [
      ['pull', 'Hall', {}],
      ['pull', 'Living room', {}],
      ['make-up', 'Hall', {}],
      ['make-up', 'Hall', { box: house.boxId('S5') }],
      ['check', 'Hall', { of: 'switching' }],
      ['check', 'Hall', {}],
      ['lay-out', 'Hall', {}],
      ['lay-out', 'Hall', { of: 'controls' }],
      ['lay-out', 'Hall', { of: 'draft' }],
      ['lay-out', 'Hall', { of: 'plan' }],
      ['lay-out', 'Hall', { of: 'set' }],
      ['lay-out', 'Hall', { of: 'panel' }],
      ['lay-out', 'Hall', { of: 'asks' }],
      ['truck', 'Hall', { tab: 'house' }],
      ['truck', 'Hall', { tab: 'rulebook' }],
    ] as const) {
      await house.open(stage, room, query);
      await look(`${stage} ${JSON.stringify(query)}`);
    }
    for (const path of CREW) {
      await page.goto(stack.url + path);
      await page.getByRole('heading', { level: 1 }).waitFor();
      await settled(page);
      expect(await page.evaluate(() => document.documentElement.scrollWidth - innerWidth), path).toBe(0);
    }
  });

for (const theme of ['paper', 'attic', 'sun'])
  test(`axe finds nothing serious on a phone in the ${theme} theme`, async ({ page, demo }) => {
    await page.addInitScript((wanted) => localStorage.setItem('mule-tally.theme', wanted), theme);
    const house = await demo.open(page, 'pull', 'Hall');
    for (const [stage, query] of [
      ['pull', {}],
      ['make-up', { box: house.boxId('S5') }],
      ['check', {}],
    ] as const) {
      await house.open(stage, 'Hall', query);
      const { violations } = await new AxeBuilder({ page }).analyze();
      expect(
        violations
          .filter(({ impact }) => impact === 'serious' || impact === 'critical')
          .map(({ id, nodes }) => `${id}: ${nodes[0]?.target.join(' ')}`),
        stage,
      ).toEqual([]);
    }
  });
