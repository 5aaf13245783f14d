import { randomUUID } from 'node:crypto';
import { copyHouseFile } from '../core/src/house/house-file.js';
import { SHARED_BY_COST, twoBedrooms } from '../core/src/testing/two-bedrooms.js';
import { expect, test } from './stack';

test('the planner finds a better plan beside the screen, around what is kept, and it is taken and undone as one', async ({
  page,
  demo,
  stack,
}) => {
  await demo.open(page, 'pull', 'Bedroom 1');
  const runs = async () => (await stack.stored(demo.file.id)).runs;
  const before = await runs();

  await page.getByRole('button', { name: 'Plan the pulls' }).click();
  await page.getByRole('combobox', { name: 'Plan' }).selectOption('Circuit 8: Bedrooms 1 and 2');
  await page.getByRole('button', { name: 'Plan', exact: true }).click();
  await expect(page.getByText(/^Saves \d+/)).toBeVisible();
  const compared = page.getByRole('table', { name: 'As it stands, and as planned' });
  const figures = async (name: string): Promise<number[]> =>
    (await compared.getByRole('row', { name }).getByRole('cell').allTextContents()).map(parseFloat);
  const [stands, planned] = await figures('Cable, work and boxes');
  expect(planned!).toBeLessThan(stands!);
  // What each way costs comes after.
  await expect(page.getByText(/costs (nothing|\d+)/).first()).toBeVisible();

  // The first old run is kept: it is in no list of what goes, and what it costs is said.
  const keep = page.getByRole('button', { name: /^Keep / }).first();
  const name = (await keep.getAttribute('aria-label'))!.replace('Keep ', '');
  await keep.click();
  await expect(page.getByRole('heading', { name: 'Kept runs' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Take this plan' })).toBeVisible();
  await expect(page.getByRole('button', { name: `Keep ${name}` })).toHaveCount(0);
  const keptLine = page
    .getByRole('listitem')
    .filter({ has: page.getByRole('button', { name: /^Let go of/ }) });
  await expect(keptLine).toContainText(/costs (nothing|\d+)/);

  await page.getByRole('button', { name: 'Take this plan' }).click();
  await expect(page.getByText('Undo brings the old runs back.')).toBeVisible();
  const ids = (of: typeof before): string[] => of.map(({ id }) => id).sort();
  await expect.poll(async () => ids(await runs())).not.toEqual(ids(before));
  const after = await runs();
  expect(after.filter(({ kept }) => kept).length).toBe(1);
  // Circuits that were not planned, and what is pulled, are as they were.
  const circuit = demo.file.circuits.find(({ number }) => number === 8)!.id;
  const pulled = new Set(demo.file.pulls.map(({ runId }) => runId));
  for (const run of before)
    if (pulled.has(run.id) || !run.circuitIds.includes(circuit)) expect(after).toContainEqual(run);

  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(async () => ids(await runs())).toEqual(ids(before));
});

test('a plan for the whole house can be cut short, and on a phone nothing is wider than the screen', async ({
  page,
  demo,
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await demo.open(page, 'pull', 'Hall', { plan: '1' });
  await page.getByRole('button', { name: 'Plan', exact: true }).click();
  await page.getByRole('button', { name: 'That is enough' }).click();
  await expect(page.getByRole('button', { name: 'Take this plan' })).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  // Another school: what was planned is not what is asked for any more.
  await page.getByRole('checkbox', { name: 'Receptacles apart from lights' }).check();
  await page.getByRole('button', { name: 'Plan', exact: true }).click();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByRole('button', { name: 'Take this plan' })).toHaveCount(0);
});

test('two home runs far from the panel become one where the house allows it, and are two again when undone', async ({
  page,
  demo,
  stack,
}) => {
  const people = demo.file.people;
  const file = copyHouseFile({ ...twoBedrooms(SHARED_BY_COST), people }, 'Two bedrooms', randomUUID, true);
  await stack.takeIn(file);
  await page.goto(`${stack.url}/house/${file.id}/pull?plan=1`);
  const shares = page.getByText('A shared neutral needs breakers with one handle');
  await page.getByRole('button', { name: 'Plan', exact: true }).click();
  await expect(page.getByText(/Nothing (is )?better|Saves/).first()).toBeVisible();
  await expect(shares).toHaveCount(0);
  await page.getByRole('checkbox', { name: 'Two home runs as one, with a shared neutral' }).check();
  await page.getByRole('button', { name: 'Plan', exact: true }).click();
  await expect(shares).toBeVisible();
  await page.getByRole('button', { name: 'Take this plan' }).click();
  const both = async (): Promise<number> =>
    (await stack.stored(file.id)).runs.filter(({ circuitIds }) => circuitIds.length === 2).length;
  await expect.poll(both).toBe(1);
  const groups = (await stack.stored(file.id)).circuits.map(({ neutralGroup }) => neutralGroup);
  expect(groups).toEqual(['1 + 2', '1 + 2']);
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect.poll(both).toBe(0);
});
