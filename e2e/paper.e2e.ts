import { readFileSync } from 'node:fs';
import { HousePage } from './house-page';
import { expect, test } from './stack';

/** A photo that is already small. */
const SLIP = readFileSync(new URL('../docs/screenshots/phone-pull.png', import.meta.url));

test('what stands before the inspector is ticked off, and what was written up is fixed and passes', async ({
  page,
  demo,
  stack,
}) => {
  test.slow();
  // One write-up is about a box that is gone: only words say where it was.
  const file = { ...demo.file, id: crypto.randomUUID(), name: `${demo.file.name}, seen` };
  const [first] = file.writeUps;
  file.writeUps = [
    ...file.writeUps,
    {
      ...{ id: crypto.randomUUID(), words: 'Box too full.', on: '2026-03-12', place: 'S99 · Porch' },
      ...{ at: first!.at, by: first!.by },
    },
  ];
  await stack.takeIn(file);
  const house = new HousePage(page, file, stack.url);
  await house.open('check', 'Kitchen', { of: 'ready' });
  const ready = page.locator('mt-ready-sheet');
  await expect(ready.locator('.verdict')).toContainText('Not yet', { timeout: 60_000 });
  const home = ready.locator('li[data-code=home-runs]');
  await expect(home.locator('.count')).toHaveText('16 of 20');
  await home.getByText('Tick', { exact: true }).click();
  await home.locator('.ticks').getByRole('button').first().click();
  await expect(home.locator('.count')).toHaveText('15 of 20', { timeout: 60_000 });
  await home.getByRole('button', { name: 'All 15: Written' }).click();
  await expect(home.locator('.count')).toHaveText('✓', { timeout: 60_000 });
  const ticks = async (): Promise<number> =>
    (await stack.stored(file.id)).records.filter(({ step }) => step === 'home-run-marked').length;
  await expect.poll(ticks).toBe(20);

  await page.getByRole('link', { name: 'Write-ups', exact: true }).click();
  const sheet = page.locator('mt-write-ups');
  await expect(sheet.locator('.verdict')).toContainText('3 write-ups');
  const gone = sheet.locator('li', { hasText: 'Box too full.' });
  await expect(gone).toContainText('S99 · Porch');
  await expect(gone).toContainText('no longer in the plan');
  // Without words nothing is written down; with them it is, where one stands.
  await sheet.getByRole('button', { name: 'Write it down' }).click();
  await expect(sheet.locator('.rows > li')).toHaveCount(3);
  await sheet.getByLabel('In the inspector’s words').fill('Ground not bonded to the metal box.');
  await sheet.getByLabel('Section').fill('250.148');
  await sheet.getByRole('button', { name: 'Write it down' }).click();
  const fresh = sheet.locator('li', { hasText: 'Ground not bonded' });
  await expect(fresh).toContainText('Kitchen');
  await expect(fresh).toContainText('nobody yet');
  await fresh.getByRole('combobox').selectOption({ label: 'Mireille' });
  await expect(fresh).toContainText('To fix: Mireille');
  await fresh.getByRole('button', { name: /^Fixed:/ }).click();
  await expect(fresh).toContainText('To be looked at again');
  await fresh.getByRole('button', { name: /^Passed:/ }).click();
  await expect(fresh).toContainText('✓ passed');
  await expect
    .poll(async () => (await stack.stored(file.id)).writeUps.filter(({ passedOn }) => passedOn).length)
    .toBe(1);
  await page.reload();
  await expect(sheet.locator('.verdict')).toContainText('3 write-ups');
});

test('an extra is agreed on in four touches, and a cable that another trade cut is pulled again', async ({
  page,
  demo,
  stack,
}) => {
  const file = { ...demo.file, id: crypto.randomUUID(), name: `${demo.file.name}, more` };
  await stack.takeIn(file);
  const house = new HousePage(page, file, stack.url);
  await house.open('check', 'Family room', { of: 'extras' });
  const sheet = page.locator('mt-extras-sheet');
  await expect(sheet.locator('.sum')).toContainText('95.00');
  // Nothing said yet: nothing is written down, and it says what is missing.
  await sheet.getByRole('button', { name: 'No answer yet' }).click();
  await expect(sheet.getByRole('alert')).toContainText('Who asked, what, and for how much');
  // Where one stands is where it is asked for: who, what at its price, the yes.
  await sheet.getByRole('button', { name: 'Owner', exact: true }).click();
  await sheet.getByRole('button', { name: /^One more receptacle/ }).click();
  await sheet.locator('form input[type=file]').setInputFiles({
    name: 'slip.png',
    mimeType: 'image/png',
    buffer: SLIP,
  });
  await expect(sheet.locator('.rows > li')).toHaveCount(3);
  await expect(sheet.locator('.sum')).toContainText('190.00');
  await expect(sheet.locator('.rows > li', { hasText: 'Yes, by photo' })).toHaveCount(1);
  // Of what nobody has said yes to it says so, until somebody does.
  const light = sheet.locator('.rows > li', { hasText: 'Light over the counter' });
  await expect(light).toContainText('do not build it');
  await light.getByLabel(/^Initials for/).fill('B.R.');
  await light.getByRole('button', { name: /^Yes:/ }).click();
  await expect(light).toContainText('Yes: B.R.');
  await expect(sheet.locator('.sum')).toContainText('370.00');
  const stored = async () => (await stack.stored(file.id)).extras;
  await expect.poll(async () => (await stored()).filter(({ initials }) => initials).length).toBe(2);
  await expect
    .poll(async () => (await stack.stored(file.id)).photos.filter(({ extraId }) => extraId).length)
    .toBe(1);

  // A run that is in, cut by the plumber: it stands open again, and the punch list says so.
  const pull = file.pulls.find(({ state, runId }) => {
    const run = file.runs.find(({ id }) => id === runId)!;
    return state === 'in' && file.boxes.find(({ id }) => id === run.to.boxId)?.tag === 'R7';
  })!;
  const run = file.runs.find(({ id }) => id === pull.runId)!;
  const tagOf = (id: string): string => file.boxes.find((box) => box.id === id)!.tag;
  const name = `${tagOf(run.from.boxId)} → ${tagOf(run.to.boxId)}`;
  await house.open('pull', 'Kitchen');
  await house.pulled(name).click();
  await page.getByRole('button', { name: 'Cut by another trade' }).click();
  const line = page.locator('mt-struck-line', { hasText: 'pull it again' });
  await expect(line).toBeVisible();
  await line.getByRole('button', { name: 'plumber' }).click();
  await expect(line).toContainText('plumber');
  await expect
    .poll(async () => (await stack.stored(file.id)).pulls.find(({ id }) => id === pull.id)?.state)
    .toBe('scrapped');
  await house.open('check', 'Kitchen');
  const told = page.locator('mt-finding', { hasText: 'another trade cut it (plumber)' });
  await expect(told).toHaveCount(1, { timeout: 60_000 });
  await house.open('pull', 'Kitchen');
  await house.logPull(name);
  await house.open('check', 'Kitchen');
  await expect(page.locator('mt-finding').first()).toBeVisible({ timeout: 60_000 });
  await expect(told).toHaveCount(0);
});
