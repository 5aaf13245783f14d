import type { Page } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { HousePage } from './house-page';
import { expect, test } from './stack';

/** A text of the page that was saved as a file. */
async function saved(page: Page, press: () => Promise<void>): Promise<{ name: string; path: string }> {
  const [download] = await Promise.all([page.waitForEvent('download'), press()]);
  return { name: download.suggestedFilename(), path: await download.path() };
}
const SHEET = new URL('../demo/pictures/lot-12-first-floor.png', import.meta.url).pathname;

test('a plan sheet: of a PDF, fitted, kept away from the server, seen by others, taken along in a zip', async ({
  page,
  demo,
  stack,
  browser,
}) => {
  test.slow();
  const { underlay: _, ...floor } = demo.file.storeys[0]!;
  const file = {
    ...demo.file,
    id: crypto.randomUUID(),
    name: `${demo.file.name}, sheet`,
    storeys: [floor, ...demo.file.storeys.slice(1)],
    photos: [],
    writeUps: [],
    extras: [],
  };
  await stack.takeIn(file);
  const house = new HousePage(page, file, stack.url);
  const underlay = async () => (await stack.stored(file.id)).storeys[0]!.underlay;

  // What is none is refused in a sentence, whatever it is called, and nothing changes.
  await house.open('lay-out', 'Garage', { of: 'plan' });
  await page.getByText('Plan sheet under this floor').click();
  const panel = page.locator('mt-underlay-fields');
  const choose = (name: string, mimeType: string, bytes: Buffer | string) =>
    panel.locator('input[type=file]').setInputFiles({ name, mimeType, buffer: Buffer.from(bytes) });
  await choose('plan.png', 'image/png', 'no picture at all');
  await expect(panel.getByRole('alert')).toContainText('This is no picture that can be kept');
  await choose('cut.png', 'image/png', readFileSync(SHEET).subarray(0, 3000));
  await expect(panel.getByRole('alert')).toContainText('broken or cut off');
  const giant = Buffer.from(readFileSync(SHEET).subarray(0, 200));
  giant.writeUInt32BE(60_000, 16);
  giant.writeUInt32BE(60_000, 20);
  await choose('giant.png', 'image/png', giant);
  await expect(panel.getByRole('alert')).toContainText('more than this device can hold');
  await choose('plan.pdf', 'application/pdf', '%PDF-1.7\nnothing');
  await expect(panel.getByRole('alert')).toContainText('This PDF is broken');
  await choose('locked.pdf', 'application/pdf', LOCKED);
  await expect(panel.getByRole('alert')).toContainText('locked with a password');
  expect(await underlay()).toBeUndefined();

  // Without a server: a page of a PDF is kept on this device and drawn.
  const printed = await browser.newPage();
  await printed.setContent('<h1>Cover</h1><h1 style="break-before: page">Plan</h1><hr style="width: 500px">');
  const pdf = await printed.pdf({ format: 'Letter', landscape: true });
  await printed.close();
  await page.route('**/api/**', (route) => route.abort());
  await choose('set.pdf', 'application/pdf', pdf);
  await panel.getByRole('spinbutton', { name: 'Page, of 2' }).fill('2');
  await panel.getByRole('spinbutton', { name: 'Page, of 2' }).press('Tab');
  await panel.getByRole('button', { name: 'Put it under the plan' }).click();
  await expect(panel).toContainText('not to scale yet');
  await expect(panel).toContainText('Kept on this device');
  await expect(page.locator('image.sheet')).toHaveAttribute('href', /^blob:/);
  await page.unroute('**/api/**');
  await expect.poll(async () => (await underlay())?.name).toBe('set.pdf');
  const { asset } = (await underlay())!;
  await expect
    .poll(async () => (await fetch(`${stack.url}/api/assets/${asset}`)).headers.get('content-type'))
    .toMatch(/^image\/(webp|jpeg|png)$/);
  await expect(panel).not.toContainText('Kept on this device');

  // Another picture, set to scale by keyboard alone: both marks to the ends of a length, then straight.
  await panel.locator('input[type=file]').setInputFiles(SHEET);
  await expect(panel).toContainText('lot-12-first-floor.png · not to scale yet');
  await panel.getByRole('button', { name: 'Set to scale, straighten' }).click();
  const [first, second] = [
    page.getByRole('button', { name: /^First mark/ }),
    page.getByRole('button', { name: /^Second mark/ }),
  ];
  await first.press('ArrowLeft');
  await second.press('ArrowUp');
  await panel.getByRole('textbox', { name: 'From mark to mark it is, in the house' }).fill('nothing');
  await panel.getByRole('button', { name: 'Set to scale', exact: true }).click();
  await expect(panel.getByRole('alert')).toContainText('Type how long it is');
  await panel.getByRole('textbox', { name: 'From mark to mark it is, in the house' }).fill("44'");
  await panel.getByRole('button', { name: 'Set to scale', exact: true }).click();
  await expect(panel).toContainText('to scale by 44 ft');
  await panel.getByRole('button', { name: 'Turn so that this line is straight' }).click();
  await expect.poll(async () => (await underlay())?.turnDeg).not.toBe(0);
  const fitted = (await underlay())!;
  expect(fitted.scaledByIn).toBe(528);
  await panel.getByRole('button', { name: 'Move it' }).click();
  await page.getByRole('button', { name: /^Move the plan sheet/ }).press('ArrowRight');
  await expect.poll(async () => (await underlay())!.at.xIn - fitted.at.xIn).toBeCloseTo(12, 2);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(async () => (await underlay())!.at.xIn).toBeCloseTo(fitted.at.xIn, 2);

  // On another device, and there without network too once it was open.
  const other = await browser.newContext();
  const theirs = await other.newPage();
  const seen = new HousePage(theirs, file, stack.url);
  await seen.open('lay-out', 'Garage', { of: 'plan' });
  await expect(theirs.locator('image.sheet')).toHaveAttribute('href', /^blob:/);
  await other.close();

  // In a zip, and back as a copy: its picture is the same one.
  await page.goto(stack.url);
  const card = page.getByRole('article').filter({ hasText: file.name });
  const zip = await saved(page, () => card.getByRole('button', { name: 'Export with pictures' }).click());
  expect(zip.name).toMatch(/\.house\.zip$/);
  await expect(page.getByText('1 pictures are in the file.')).toBeVisible();
  await page.locator('input[type=file]').setInputFiles({
    name: 'broken.zip',
    mimeType: 'application/zip',
    buffer: readFileSync(zip.path).subarray(0, 4000),
  });
  await expect(page.getByRole('alert')).toContainText('This zip is broken');
  await page.locator('input[type=file]').setInputFiles({
    name: zip.name,
    mimeType: 'application/zip',
    buffer: readFileSync(zip.path),
  });
  await page.getByRole('button', { name: 'Take it in as a copy' }).click();
  await expect(page).toHaveURL(/\/house\//);
  const copied = /house\/([^/?]+)/.exec(page.url())![1]!;
  expect(copied).not.toBe(file.id);
  expect((await stack.stored(copied)).storeys[0]!.underlay!.asset).toBe((await underlay())!.asset);
});

test('drawings and tables: out, and in again with what cannot be taken named', async ({
  page,
  demo,
  stack,
}) => {
  test.slow();
  const file = { ...demo.file, id: crypto.randomUUID(), name: `${demo.file.name}, tables` };
  await stack.takeIn(file);
  const house = new HousePage(page, file, stack.url);
  await house.open('lay-out', 'Garage', { of: 'exchange' });
  const dxf = await saved(page, () => page.getByRole('button', { name: 'DXF in millimeters' }).click());
  expect(dxf.name).toMatch(/First floor\.dxf$/);
  const svg = await saved(page, () => page.getByRole('button', { name: 'SVG picture' }).click());
  expect(readFileSync(svg.path, 'utf8')).toContain('<svg xmlns');
  const panel = await saved(page, () => page.getByRole('button', { name: 'Panel directory (CSV)' }).click());
  expect(readFileSync(panel.path, 'utf8').trim().split('\r\n').length).toBe(file.circuits.length + 1);

  // The drawing in again, on a floor of its own, in the wrong unit at first.
  const drawing = page.locator('mt-drawing-in');
  await drawing.locator('input[type=file]').setInputFiles({
    name: 'no.dxf',
    mimeType: 'image/vnd.dxf',
    buffer: Buffer.from('no drawing'),
  });
  await expect(drawing.getByRole('alert')).toContainText('This is no DXF drawing');
  await page.getByRole('combobox', { name: 'Floor' }).selectOption({ label: 'Second floor' });
  await drawing.locator('input[type=file]').setInputFiles(dxf.path);
  await expect(drawing.getByRole('combobox', { name: 'It is drawn in' })).toHaveValue('millimeters');
  await drawing.getByRole('combobox', { name: 'It is drawn in' }).selectOption('inches');
  await expect(drawing.getByRole('alert')).toContainText('no house is');
  await drawing.getByRole('button', { name: 'Read it in millimeters' }).click();
  await expect(drawing).toContainText('44 ft');
  await expect(drawing).toContainText('484 sq ft');
  const takeRooms = drawing.getByRole('button', { name: 'Take 9 rooms onto Second floor' });
  await drawing.getByRole('textbox', { name: 'Name of the room' }).first().fill('Great hall');
  await takeRooms.click();
  await expect(drawing).toContainText('9 rooms were taken onto Second floor');
  await expect
    .poll(
      async () =>
        (await stack.stored(file.id)).rooms.find(({ name }) => name === 'Great hall')?.outline?.length,
    )
    .toBe(4);
  expect((await stack.stored(file.id)).rooms.length).toBe(file.rooms.length + 9);

  // The table of boxes, with one height changed, one new box and one bad row.
  const boxes = await saved(page, () =>
    page.getByRole('button', { name: 'Table of boxes (CSV)', exact: true }).click(),
  );
  const [head, ...rows] = readFileSync(boxes.path, 'utf8').trim().split('\r\n');
  expect(rows.length).toBe(file.boxes.filter(({ roomId }) => roomId).length);
  const at = rows.findIndex((row) => row.startsWith('R29,'));
  const cells = rows[at]!.split(',');
  cells[head!.split(',').indexOf('Height in')] = '33';
  rows[at] = cells.join(',');
  rows.push(
    'NEW1,Study,First floor,plastic-1g-18,,,48,1,30,switch,',
    'NEW2,Study,,plastic-1g-18,,,48,1,30,switch,',
    'NEW3,Nowhere,,plastic-1g-18,,,48,,,,',
  );
  const table = page.locator('mt-schedule-in');
  await table.locator('input[type=file]').setInputFiles({
    name: 'boxes.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from([head, ...rows].join('\r\n')),
  });
  await expect(table).toContainText('1 rows add a box, 1 change one');
  await expect(table.getByRole('alert')).toContainText(`Row ${rows.length + 1}`);
  await expect(table.getByRole('alert')).toContainText('There are 2 rooms called “Study”');
  await expect(table.getByRole('alert')).toContainText('There is no room called “Nowhere”');
  await table.getByRole('button', { name: 'Take the 2 good rows' }).click();
  await expect
    .poll(async () => {
      const now = (await stack.stored(file.id)).boxes;
      return ['R29', 'NEW1', 'NEW2', 'NEW3'].map((tag) => now.find((box) => box.tag === tag)?.heightIn);
    })
    .toEqual([33, 48, undefined, undefined]);
});

/** A PDF that asks for a password: the smallest that says so. */
const LOCKED = `%PDF-1.4
1 0 obj
<</Type/Catalog/Pages 2 0 R>>
endobj
2 0 obj
<</Type/Pages/Kids[3 0 R]/Count 1>>
endobj
3 0 obj
<</Type/Page/Parent 2 0 R/MediaBox[0 0 200 200]>>
endobj
4 0 obj
<</Filter/Standard/V 1/R 2/P -4/O<${'41'.repeat(32)}>/U<${'42'.repeat(32)}>>>
endobj
trailer
<</Root 1 0 R/Encrypt 4 0 R/ID[<${'43'.repeat(16)}><${'43'.repeat(16)}>]>>
%%EOF
`;
