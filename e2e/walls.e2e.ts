import type { Page } from '@playwright/test';
import { readFileSync, writeFileSync } from 'node:fs';
import { adding } from '../core/src/changes/change.js';
import { CHANGE_VERSION } from '../core/src/documents/envelope.js';
import { HousePage } from './house-page';
import { expect, test } from './stack';

const SHOT = readFileSync(new URL('../demo/pictures/photo-1-large.jpg', import.meta.url).pathname);

/** A photo as phones take them: its place and time stand beside its points (EXIF, a marker of ours inside). */
function withPlace(jpeg: Buffer): Buffer {
  const exif = Buffer.concat([Buffer.from('Exif\0\0'), Buffer.from('SECRETPLACE-47.3N-8.5E')]);
  const length = Buffer.alloc(2);
  length.writeUInt16BE(exif.length + 2);
  return Buffer.concat([jpeg.subarray(0, 2), Buffer.from([0xff, 0xe1]), length, exif, jpeg.subarray(2)]);
}
const choose = (page: Page, name: string, mimeType: string, buffer: Buffer) =>
  page.locator('mt-walls-sheet input[type=file]').setInputFiles({ name, mimeType, buffer });

test('a room that is only named: every wall with one touch, without a server, then a box marked by keyboard', async ({
  page,
  demo,
  stack,
  context,
}) => {
  test.slow();
  await context.grantPermissions(['camera']);
  const [floor] = demo.file.storeys;
  const { underlay: _, ...storey } = floor!;
  const attic = {
    id: crypto.randomUUID(),
    storeyId: storey.id,
    name: 'Attic room',
    kind: 'other' as const,
    order: 99,
  };
  const file = {
    ...demo.file,
    id: crypto.randomUUID(),
    name: `${demo.file.name}, walls`,
    rooms: [...demo.file.rooms, attic],
    photos: [],
    writeUps: [],
    extras: [],
  };
  await stack.takeIn(file);
  const house = new HousePage(page, file, stack.url);
  await house.open('check', 'Attic room', { of: 'walls' });
  const sheet = page.locator('mt-walls-sheet');
  await sheet.getByRole('button', { name: 'Open the camera' }).click();
  await page.route('**/api/**', (route) => route.abort());
  for (const wall of ['Wall 1', 'Wall 2']) {
    await expect(sheet.locator('p.of')).toContainText(`Attic room · ${wall}`);
    await sheet.getByRole('button', { name: 'Shoot, next' }).click();
  }
  await expect(sheet.locator('p.of')).toContainText('Attic room · Wall 3');
  await expect(sheet.locator('p.of')).toContainText('2 of 5');
  // What is no photo is refused by what is in it, whatever it is called; nothing changes.
  await choose(page, 'wall.jpg', 'image/jpeg', Buffer.from('<html><script>alert(1)</script></html>'));
  await expect(sheet.getByRole('alert')).toContainText('This is no picture that can be kept');
  await choose(page, 'wall.jpg', 'image/jpeg', Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>'));
  await expect(sheet.getByRole('alert')).toContainText('This is no picture that can be kept');
  const heic = Buffer.concat([Buffer.from([0, 0, 0, 24]), Buffer.from('ftypheic\0\0\0\0mif1heic'), SHOT]);
  await choose(page, 'wall.jpg', 'image/jpeg', heic);
  await expect(sheet.getByRole('alert')).toContainText('HEIC');
  // 40 MB off a phone, its place beside the points.
  const large = test.info().outputPath('wall.jpg');
  writeFileSync(large, Buffer.concat([withPlace(SHOT), Buffer.alloc(40_000_000)]));
  await page.locator('mt-walls-sheet input[type=file]').setInputFiles(large);
  await expect(sheet.locator('p.of')).toContainText('Attic room · Wall 4');
  await sheet.getByRole('button', { name: 'Nothing in it' }).click();
  await expect(sheet.locator('p.of')).toContainText('4 of 5');
  await page.unroute('**/api/**');
  const photos = async () => (await stack.stored(file.id)).photos;
  await expect.poll(async () => (await photos()).map(({ corner }) => corner)).toEqual(['c0', 'c1', 'c2']);
  for (const { asset, thumb } of await photos())
    for (const [hash, most] of [
      [asset, 250_000],
      [thumb, 15_000],
    ] as const) {
      await expect.poll(async () => (await fetch(`${stack.url}/api/assets/${hash}`)).status).toBe(200);
      const bytes = Buffer.from(await (await fetch(`${stack.url}/api/assets/${hash}`)).arrayBuffer());
      expect(bytes.length).toBeLessThanOrEqual(most);
      expect(bytes.includes('SECRETPLACE')).toBe(false);
    }
  // The server asks too how large a photo may be.
  const refused = await fetch(`${stack.url}/api/assets/${'0'.repeat(64)}?as=thumb`, {
    method: 'PUT',
    headers: { 'content-type': 'image/jpeg', origin: stack.url },
    body: new Uint8Array(SHOT),
  });
  expect([refused.status, (await refused.json()).code]).toEqual([413, 'asset.too-large']);

  // A wall that is drawn: behind it, and a box marked in its photo by touch, moved by keys.
  const kitchen = demo.file.photos[0]!;
  const tag = file.boxes.find(({ id }) => id === kitchen.marks![0]!.boxId)!.tag;
  await house.open('check', 'Kitchen', { of: 'walls' });
  await choose(page, 'wall.jpg', 'image/jpeg', SHOT);
  await expect(sheet.locator('p.of')).toContainText('Kitchen · Wall 2');
  await sheet.getByRole('button', { name: /Wall 1/ }).click();
  await sheet.getByRole('button', { name: /^Photo by/ }).click();
  await sheet.getByRole('combobox', { name: 'Mark a box' }).selectOption(tag);
  await sheet.getByRole('group', { name: 'Marks in the photo' }).click({ position: { x: 120, y: 90 } });
  const mark = async () => (await photos()).find(({ roomId }) => roomId === kitchen.roomId)?.marks?.[0];
  await expect.poll(async () => (await mark())?.boxId).toBe(kitchen.marks![0]!.boxId);
  const before = (await mark())!;
  await sheet.getByRole('button', { name: new RegExp(`^${tag}:`) }).press('ArrowRight');
  await expect.poll(async () => (await mark())?.x).toBeCloseTo(before.x + 0.01, 6);
  await sheet.getByRole('button', { name: `Tape to ${tag}` }).click();
  await expect(sheet.locator('mt-standing-wall .tape')).toBeVisible();

  // After the board: one is buried, the tape and the photo find it; the others show with one touch.
  await house.open('check', 'Kitchen', { of: 'board' });
  const board = page.locator('mt-board-sheet');
  await board.getByRole('button', { name: `${tag} is not to be seen` }).click();
  await expect(board.locator('[data-is=missing]')).toContainText('from the right corner');
  await expect(board.locator('[data-is=missing]').getByRole('button', { name: /^Photo by/ })).toBeVisible();
  await board.getByRole('button', { name: /^The other \d+ show$/ }).click();
  const boxes = file.boxes.filter(({ roomId }) => roomId === kitchen.roomId).length;
  await expect(board.locator('p.of')).toContainText(`Boxes showing: ${boxes - 1} of ${boxes}`);
});

test('a circuit rung out: good, no good and where to look, again after the board, made up otherwise since', async ({
  page,
  demo,
  stack,
}) => {
  const file = {
    ...demo.file,
    id: crypto.randomUUID(),
    name: `${demo.file.name}, rung`,
    records: demo.file.records.filter(({ kind }) => kind !== 'test'),
  };
  await stack.takeIn(file);
  const house = new HousePage(page, file, stack.url);
  const circuit = file.circuits.find(({ name }) => name.startsWith('Dining'))!;
  await house.open('check', 'Dining', { of: 'test', circuit: circuit.id });
  const sheet = page.locator('mt-test-sheet');
  // First it is proven dead: once for this person and circuit.
  await expect(sheet.locator('mt-prove-dead')).toContainText('A non-contact tester alone is not enough');
  await expect(sheet.getByRole('button', { name: 'Good', exact: true })).toHaveCount(0);
  for (const tick of ['a known live source', 'On the work', 'the live source again'])
    await sheet.getByRole('checkbox', { name: tick }).click();
  await expect(sheet).toContainText('Proven dead by you');
  await expect(sheet.locator('.expect')).toContainText('Nothing rings.');
  await sheet.getByRole('button', { name: 'No good' }).click();
  await expect(sheet.locator('.step')).toContainText('a splice that was missed');
  const tests = async () => (await stack.stored(file.id)).records.filter(({ kind }) => kind === 'test');
  await expect.poll(async () => (await tests()).map(({ result }) => result)).toEqual(['fail']);
  // Found and mended: every step is good, one touch each, until nothing is left.
  const good = sheet.getByRole('button', { name: 'Good', exact: true });
  const of = Number(/of (\d+)/.exec((await sheet.locator('p.of strong').textContent()) ?? '')![1]);
  for (let step = 0; step < of; step++) await good.click();
  await expect(sheet).toContainText('Rung out.');
  await expect.poll(async () => (await tests()).length).toBe(of + 1);
  // After the board all of it is asked again.
  await page.getByRole('link', { name: 'Board up' }).click();
  await expect(sheet.locator('p.of')).toContainText(`1 of ${of}`);
  await page
    .getByRole('navigation', { name: 'Which routine' })
    .getByRole('link', { name: 'Ring out' })
    .click();
  // Another cable is pulled into it: what goes through it is to be tested again.
  const run = file.runs.find(
    ({ circuitIds, from }) => circuitIds.includes(circuit.id) && from.boxId === circuit.panelId,
  )!;
  const answer = await fetch(`${stack.url}/api/houses/${file.id}/changes`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', origin: stack.url },
    body: JSON.stringify({
      changes: [
        {
          actorId: file.people[0]!.id,
          change: {
            id: crypto.randomUUID(),
            version: CHANGE_VERSION,
            body: adding('pulls', {
              id: crypto.randomUUID(),
              runId: run.id,
              cable: run.plannedCable!,
              at: '2026-03-12T10:00:00Z',
              by: file.people[0]!.id,
              state: 'in',
            }),
          },
        },
      ],
    }),
  });
  expect(answer.status).toBe(200);
  await expect(sheet.locator('.step')).toContainText('Made up otherwise since it was tested');
});
