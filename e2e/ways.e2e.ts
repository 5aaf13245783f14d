import { HousePage } from './house-page';
import { expect, test } from './stack';

test('ways: drawn on the plan, forced by a dot, shut out and let in; drilled, plated and sealed by wall', async ({
  page,
  demo,
  stack,
}) => {
  test.slow();
  const file = { ...demo.file, id: crypto.randomUUID(), name: `${demo.file.name}, ways` };
  await stack.takeIn(file);
  const house = new HousePage(page, file, stack.url);
  const tagOf = (id: string) => file.boxes.find((box) => box.id === id)!.tag;
  const run = file.runs.find(({ from, to }) => tagOf(from.boxId) === 'R29' && tagOf(to.boxId) === 'R30')!;
  const stored = async () => (await stack.stored(file.id)).runs.find(({ id }) => id === run.id)!;

  // The way of a run: stretch by stretch, with what it takes.
  await house.open('lay-out', 'Study', { of: 'plan', run: run.id });
  await page.getByRole('button', { name: 'Runs', exact: true }).click();
  const way = page.getByRole('region', { name: 'Way of R29 → R30' });
  await expect(way).toContainText('18 ft');
  await expect(way.getByRole('listitem').first()).toContainText('of ');
  await expect(way).toContainText('13 holes');
  await expect(page.locator('polyline.run.chosen').first()).toBeVisible();

  // By keyboard: forced through another place, which is kept; let go again.
  const dot = page.getByRole('button', { name: 'Force the way through another place: arrow keys' }).first();
  await dot.press('ArrowRight');
  await expect.poll(async () => (await stored()).route?.length).toBe(1);
  await expect(way).toContainText('Forced through a point 1');
  await way.getByRole('button', { name: 'Let go' }).click();
  await expect.poll(async () => (await stored()).route).toBeUndefined();

  // A wall shut out: it goes another way, and is longer; let in again.
  await way
    .getByRole('button', { name: /^wall \d of / })
    .first()
    .click();
  await expect.poll(async () => (await stored()).shutOut?.length).toBe(1);
  await expect(way).toContainText('Shut out: wall');
  await expect(way).not.toContainText('18 ft');
  await way.getByRole('button', { name: 'Let in again' }).click();
  await expect(way).toContainText('18 ft');

  // The drill sheet: a wall at a time, ticked with one touch, and taken back.
  await house.open('lay-out', 'Kitchen', { of: 'drill' });
  const wall = page.getByRole('region', { name: /^Wall 3, / });
  await expect(wall).toContainText('of 1 in through the sole plate, sealed');
  const ticks = async () =>
    (await stack.stored(file.id)).records
      .filter(({ step }) => step === 'drilled-and-plated' || step === 'sealed')
      .map(({ step, corner, holes }) => `${step} ${corner ?? ''} ${holes ?? ''}`);
  await wall.getByRole('button', { name: 'Drilled and plated' }).click();
  await expect(wall).toContainText('✓ Drilled and plated');
  await wall.getByRole('button', { name: 'Sealed' }).click();
  await expect.poll(ticks).toEqual(['drilled-and-plated c2 4', 'sealed c2 1']);
  await expect(page.getByText('1 of 5', { exact: true })).toBeVisible();
  await page.getByText('Done, 1').click();
  await page.getByRole('button', { name: 'Not Sealed' }).click();
  await expect.poll(ticks).toEqual(['drilled-and-plated c2 4']);
  await expect(page.getByText('0 of 5', { exact: true })).toBeVisible();
});
