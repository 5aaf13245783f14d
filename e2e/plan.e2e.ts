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
    bands: [],
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
  const fromCorner = page.getByLabel('From its corner, in');
  await expect(fromCorner).toHaveValue('6');
  // One that does not fit into its wall is kept, and told.
  const past = page.getByText('It reaches past the end of its wall.');
  for (const [inches, told] of [
    ['900', 1],
    ['6', 0],
  ] as const) {
    await fromCorner.fill(inches);
    await fromCorner.blur();
    await expect(past).toHaveCount(told);
  }
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

test('the plan of a drawn house: a sentence, corners and walls, a room split and joined, a counter and its way out', async ({
  page,
  demo,
  stack,
}) => {
  test.slow();
  const house = await demo.open(page, 'lay-out', 'Dining', { of: 'plan' });
  const stored = () => stack.stored(demo.file.id);
  const count = async () => ({ rooms: (await stored()).rooms.length, boxes: (await stored()).boxes.length });
  const dining = async () => (await stored()).rooms.find(({ name }) => name === 'Dining')!.outline!;
  const before = await count();

  // What is not understood is said and stays typed; what is, stands where it says.
  const sentence = page.getByLabel('In a sentence');
  await sentence.fill('somewhere nice');
  await sentence.press('Enter');
  await expect(page.getByRole('alert')).toContainText('says not what, or not where');
  await expect(sentence).toHaveValue('somewhere nice');
  await sentence.fill('two gang right of the door at 48');
  await sentence.press('Enter');
  await expect(page.getByRole('status').filter({ hasText: /^Set S\d+/ })).toBeVisible();
  await expect.poll(count).toEqual({ ...before, boxes: before.boxes + 1 });
  const set = (await stored()).boxes.at(-1)!;
  expect([set.corner, set.heightIn, set.roomId]).toEqual([
    'c0',
    48,
    demo.file.rooms.find(({ name }) => name === 'Dining')!.id,
  ]);

  // A corner by keyboard, a wall by dragging.
  const first = (await dining())[1]!;
  await page.getByRole('button', { name: 'Corner 2', exact: true }).press('ArrowRight');
  await expect.poll(async () => (await dining())[1]!.xIn).toBe(first.xIn + 12);
  await page.getByRole('button', { name: 'Corner 2', exact: true }).press('ArrowLeft');
  await expect.poll(async () => (await dining())[1]!.xIn).toBe(first.xIn);
  await drag(page, 'Wall 3', 0, -30);
  await expect.poll(async () => (await dining())[2]!.yIn).toBeGreaterThan(first.yIn + 144);

  // Split across the middle, and joined again: nothing is lost.
  await page.getByText('Corners, split, join').click();
  await page.getByRole('button', { name: 'Split', exact: true }).click();
  await expect.poll(async () => (await count()).rooms).toBe(before.rooms + 1);
  await page.getByLabel('Join with').selectOption({ label: 'Dining 2' });
  await page.getByRole('button', { name: 'Join', exact: true }).click();
  await expect.poll(count).toEqual({ ...before, boxes: before.boxes + 1 });

  // A counter asks for receptacles, and one touch sets one.
  await page.getByLabel('What is built in').selectOption('counter');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect.poll(async () => (await stored()).bands.length).toBe(demo.file.bands.length + 1);
  await house.stage('Check').click();
  const card = page.locator('mt-finding').filter({ hasText: 'at the counter of Dining' }).first();
  await expect(card).toContainText('210.52(C)(1)');
  await card.getByRole('button', { name: /receptacle in Dining/ }).click();
  await expect.poll(async () => (await count()).boxes).toBe(before.boxes + 2);

  // The plan stands beside the work, to look at.
  // By keyboard: what was found moves while it is looked through anew, and a touch may fall beside.
  await page.locator('mt-on-plan summary').press('Enter');
  await expect(page.locator('mt-plan-view svg')).toBeVisible();
});
