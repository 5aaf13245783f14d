import { readFileSync } from 'node:fs';
import { copyHouseFile, readHouseFile } from '../core/src/house/house-file.js';
import { HousePage } from './house-page';
import { expect, test } from './stack';

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
  const read = readHouseFile(readFileSync(new URL('../demo/lot-3.house.json', import.meta.url), 'utf8'));
  if (!read.ok) throw new Error('the demo is broken');
  const file = copyHouseFile(read.file, 'Bungalow, elsewhere', () => crypto.randomUUID(), true);
  await stack.takeIn(file);
  const house = new HousePage(page, file, stack.url);
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
});
