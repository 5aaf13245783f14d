import type { Page } from '@playwright/test';
import type { HouseFile } from '../core/src/house/house-file.js';
import { HousePage } from './house-page';
import { expect, test } from './stack';

/** Drags from the middle of something by so many pixels. */
async function drag(page: Page, name: string | RegExp, dx: number, dy: number): Promise<void> {
  const box = (await page.getByRole('button', { name }).boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + dx / 2, y + dy / 2, { steps: 4 });
  await page.mouse.move(x + dx, y + dy, { steps: 4 });
  await page.mouse.up();
}

test('the plan: rooms laid in rows, moved, given doors and outlines; a box is dragged along its wall', async ({
  page,
  demo,
  stack,
}) => {
  test.slow();
  // The demo house as a lead has it who has drawn nothing yet.
  const file: HouseFile = {
    ...demo.file,
    id: crypto.randomUUID(),
    name: `${demo.file.name}, not drawn`,
    openings: [],
    rooms: demo.file.rooms.map(({ outline: _drawn, ...room }) => room),
    boxes: demo.file.boxes.map(({ corner: _c, alongIn: _a, xIn: _x, yIn: _y, ...box }) => box),
  };
  await stack.takeIn(file);
  const house = new HousePage(page, file, stack.url);
  await house.open('lay-out', 'Kitchen', { of: 'plan' });
  const rooms = async () => (await stack.stored(file.id)).rooms;
  const outlineOf = async (name: string) => (await rooms()).find((room) => room.name === name)!.outline;
  await expect(page.getByText('9 rooms of this floor are not drawn.')).toBeVisible();
  await page.getByRole('button', { name: 'Lay them in rows, by size' }).click();
  await expect(page.getByRole('button', { name: /^Kitchen, 14' × 12'/ })).toBeVisible();
  await expect.poll(async () => (await outlineOf('Kitchen'))?.length).toBe(4);
  const before = (await outlineOf('Kitchen'))!;
  const heights = async () => (await outlineOf('Kitchen'))!.map(({ yIn }) => yIn);

  // By keyboard a foot at a time, by dragging to where the walls of others are.
  await page.getByRole('button', { name: /^Kitchen, / }).press('ArrowDown');
  await expect.poll(heights).toEqual(before.map(({ yIn }) => yIn - 12));
  await drag(page, /^Kitchen, /, 0, -12);
  await expect.poll(heights).not.toEqual(before.map(({ yIn }) => yIn - 12));

  // A typed outline, clear between the studs; what is none is said, and nothing is lost.
  await page.getByLabel('Outline, clear between the studs').fill('L 14 x 12 less 4 x 3');
  await page.keyboard.press('Tab');
  await expect(page.getByRole('button', { name: /^Kitchen, 14' × 12'/ })).toBeVisible();
  await expect.poll(async () => (await outlineOf('Kitchen'))?.length).toBe(6);
  await page.getByLabel('Outline, clear between the studs').fill('big');
  await page.keyboard.press('Tab');
  await expect(page.getByRole('alert')).toContainText('is no outline');

  // A door, and a box that gets a place by a touch and is then moved along its wall.
  await page.getByRole('button', { name: 'Add a door' }).click();
  await expect(page.getByLabel('From its corner, in')).toHaveValue('6');
  await page.getByRole('button', { name: 'R7', exact: true }).click();
  const kitchen = (await page.getByRole('button', { name: /^Kitchen, / }).boundingBox())!;
  await page.mouse.click(kitchen.x + kitchen.width / 3, kitchen.y + kitchen.height - 6);
  const r7 = page.getByRole('button', { name: 'R7, Kitchen' });
  await expect(r7).toBeVisible();
  const placeOf = async () => (await stack.stored(file.id)).boxes.find(({ id }) => id === house.boxId('R7'))!;
  await expect.poll(async () => (await placeOf()).corner).toBe('c0');
  const { alongIn } = await placeOf();
  await r7.press('ArrowRight');
  await expect.poll(async () => (await placeOf()).alongIn).toBe(alongIn! + 1);
  await drag(page, 'R7, Kitchen', 40, 0);
  await expect.poll(async () => (await placeOf()).alongIn!).toBeGreaterThan(alongIn! + 5);

  // Larger and smaller move one layer; its drawing stays.
  const layer = page.locator('mt-plan-sheet svg > g').first();
  const was = await layer.getAttribute('transform');
  await page.getByRole('button', { name: 'Larger' }).click();
  await expect(layer).not.toHaveAttribute('transform', was!);
});
