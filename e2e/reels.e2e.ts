import { randomUUID } from 'node:crypto';
import type { CrewFile } from '../core/src/crew/crew.js';
import { expect, test } from './stack';

test('a reel is what all houses left of it: taken over, cut, counted, asked about when two take from it at once', async ({
  page,
  demo,
  stack,
}) => {
  const book = async (): Promise<CrewFile> =>
    ((await (await fetch(`${stack.url}/api/crew/book`)).json()) as { file: CrewFile }).file;
  const used = (houseReel: string): number =>
    demo.file.pulls
      .filter(({ reelId }) => reelId === houseReel)
      .reduce((sum, { lengthIn, startMark: from = 0, endMark: to = 0 }) => {
        return sum + (lengthIn === undefined ? Math.abs(to - from) * 12 : lengthIn);
      }, 0);
  const reel = demo.file.reels.find(({ cable, id }) => cable === '14/2' && used(id) > 0)!;
  const leftIn = reel.lengthIn - used(reel.id);

  // A reel that came with a house is the crew's with one touch, and what was pulled off it counts.
  await page.goto(`${stack.url}/crew`);
  await page.getByRole('tab', { name: 'Stock', exact: true }).click();
  const line = page.getByRole('listitem').filter({ hasText: demo.file.name }).filter({ hasText: reel.name });
  await line.getByRole('button', { name: /Put .* in stock/ }).click();
  // The stock has the reels of the demo as it was loaded first, under the same names.
  const left = page.getByLabel(`Length of ${reel.name}`, { exact: true }).last();
  const feet = (inches: number): RegExp => new RegExp(`^${Math.floor(inches / 12)} ft`);
  await expect(left).toHaveValue(feet(leftIn));

  // A piece of it lies by itself; more than is left is not cut off.
  await page
    .getByRole('button', { name: `Cut a piece off ${reel.name}` })
    .last()
    .click();
  const piece = page.getByLabel(/^Length of the piece/);
  await piece.fill('2000');
  await page.getByRole('button', { name: 'Put the piece in stock' }).click();
  await expect(page.getByRole('alert')).toContainText('Less than that is left');
  await piece.fill('40');
  await page.getByRole('button', { name: 'Put the piece in stock' }).click();
  await expect(page.getByLabel(`Length of Offcut of ${reel.name}`)).toHaveValue('40 ft');
  await expect(left).toHaveValue(feet(leftIn - 480));
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(page.getByLabel(`Length of Offcut of ${reel.name}`)).toHaveCount(0);
  await expect(left).toHaveValue(feet(leftIn));

  // Counted, it is what was counted: what came off it stays.
  await left.fill('300');
  await left.press('Tab');
  await expect
    .poll(async () => (await book()).stock.find(({ id }) => id === reel.id)?.lengthIn)
    .toBeCloseTo(3600 + used(reel.id), 3);

  // Somebody else takes from it in another house, on the day on which it is taken from in this one.
  const house = await demo.open(page, 'pull', 'Hall');
  const next = page.locator('mt-next-pull');
  const from = next.getByRole('combobox', { name: 'From reel' });
  await from.selectOption(reel.id);
  await expect(from.locator(':checked')).toContainText('300 ft');
  await next.getByRole('button', { name: 'In', exact: true }).click();
  await house.sent();
  await expect.poll(async () => (await stack.stored(demo.file.id)).pulls.at(-1)!.reelId).toBe(reel.id);
  const other = await stack.demoHouse('Lot 31, across the road');
  const pulls = (await stack.stored(demo.file.id)).pulls;
  const by = other.people.find(({ id }) => id !== pulls.at(-1)!.by)!;
  const bodies = [
    { kind: 'reel.add', record: { ...reel, lengthIn: 3600 + used(reel.id) } },
    {
      kind: 'pull.log',
      record: {
        ...{ id: randomUUID(), runId: other.runs[0]!.id, cable: '14/2', reelId: reel.id, lengthIn: 1200 },
        ...{ at: pulls.at(-1)!.at, by: by.id, state: 'in' },
      },
    },
  ];
  const answer = await fetch(`${stack.url}/api/houses/${other.id}/changes`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({
      changes: bodies.map((body) => ({ change: { id: randomUUID(), version: 3, body }, actorId: by.id })),
    }),
  });
  expect(
    ((await answer.json()) as { answers: { status: string }[] }).answers.map(({ status }) => status),
  ).toEqual(['applied', 'applied']);
  const asked = page.getByText(/was taken from in two houses/).first();
  await expect(asked).toContainText('Lot 31, across the road');
  await expect(asked).toContainText(by.name);
  await expect(
    page.locator('mt-reel-marks').getByRole('listitem').filter({ hasText: reel.name }),
  ).toContainText('about 1');

  // Without a network it is known as it was told last.
  await page.route('**/api/**', (route) => route.abort());
  await page.reload();
  await expect(asked).toContainText('Lot 31, across the road');
});
