import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { join, phoneOf, setUp, test } from './crew';
import { HousePage } from './house-page';
import { expect } from './stack';

/** A lead takes a file in, or is told why not. */
const take = async (lead: Page, text: string): Promise<void> => {
  await lead
    .getByLabel('Take in a hand-over file')
    .setInputFiles({ name: 'hand-over.txt', mimeType: 'text/plain', buffer: Buffer.from(text) });
};

test('with no network at all a hand’s day goes to the lead’s phone as a signed file: seen at once, safe to give twice', async ({
  page: lead,
  browser,
  own,
}) => {
  const file = await own.demoHouse('Lot 32');
  await setUp(lead, own);
  const phone = await phoneOf(browser);
  await join(lead, phone, own.url, 'Basil');

  const house = new HousePage(phone, file, own.url);
  await house.open('pull', 'Laundry');
  // What only a lead does stands there to be read.
  await house.open('lay-out', 'Laundry', { of: 'boxes' });
  await expect(phone.getByRole('button', { name: 'Set the box' })).toHaveCount(0);
  await phone
    .getByRole('button', { name: /^PANEL|^L/ })
    .first()
    .tap();
  await expect(phone.locator('mt-box-editor select').first()).toBeDisabled();
  // Sheets of a page that keeps nothing come with a network.
  await house.open('truck', 'Laundry', { tab: 'unsent' });
  await phone.getByRole('button', { name: /^What I am doing/ }).tap();
  await house.stage('Pull').tap();
  const leadHouse = new HousePage(lead, file, own.url);
  // The lead's device learns whose key signs what.
  const learnt = lead.waitForResponse(/\/devices$/);
  await leadHouse.open('truck', 'Laundry', { tab: 'unsent' });
  await (await learnt).finished();
  await expect(lead.getByText('Everything has been sent.')).toBeVisible();

  await own.stopServer();
  let saved: string;
  try {
    for (let done = 1; done <= 2; done++) {
      await phone.getByRole('button', { name: 'In', exact: true }).tap();
      await expect(phone.getByText(`${done} of 4 runs in`).first()).toBeAttached();
    }
    await phone.getByRole('button', { name: 'Menu' }).tap();
    await phone.getByRole('link', { name: 'Truck' }).tap();
    await expect(phone.getByText('2 changes are unsent on this device.')).toBeVisible();
    const [download] = await Promise.all([
      phone.waitForEvent('download'),
      phone.getByRole('button', { name: 'Save the hand-over file' }).tap(),
    ]);
    saved = readFileSync(await download.path(), 'utf8');
    await expect(phone.getByText('2 changes stand in the file.')).toBeVisible();

    await take(lead, saved.slice(0, -40));
    await expect(lead.getByRole('alert')).toContainText('cut off on its way');
    await take(lead, saved.replaceAll(file.id, file.rooms[0]!.id));
    await expect(lead.getByRole('alert')).toContainText('changed on its way');
    await take(lead, saved);
    await expect(lead.getByRole('alertdialog')).toContainText('Basil');
    await lead.getByRole('button', { name: 'Take it in' }).click();
    await expect(lead.getByText('Taken in: 2 of 2 changes')).toBeVisible();
    await expect(lead.getByText('2 of 4 runs in').first()).toBeAttached();
    await take(lead, saved);
    await lead.getByRole('button', { name: 'Take it in' }).click();
    await expect(lead.getByText('Taken in: 0 of 2 changes')).toBeVisible();
  } finally {
    await own.startServer();
  }
  const log = () =>
    lead.evaluate(async (id) => {
      const answer = await fetch(`/api/houses/${id}/journal?after=0`);
      const { entries } = (await answer.json()) as { entries: { proof: string; changeId: string }[] };
      return entries.map(({ proof }) => proof);
    }, file.id);
  await expect.poll(log).toHaveLength(2);
  const proofs = await log();
  // The phone, back with a network, sends the same: it finds all of it done.
  await expect(phone.getByText('Everything has been sent.')).toBeVisible();
  await take(lead, saved);
  await lead.getByRole('button', { name: 'Take it in' }).click();
  await expect(lead.getByText('Everything has been sent.')).toBeVisible();
  expect(await log()).toEqual(proofs);

  // What cannot be taken from a hand waits for the lead: said where they are, one sentence and two buttons.
  await phone.evaluate(async (id) => {
    const me = (await (await fetch('/api/me')).json()) as { person: { id: string } };
    const body = {
      kind: 'ask.set',
      recordId: crypto.randomUUID(),
      fields: { doneAt: { to: '2026-11-27T08:00:00Z' } },
    };
    const change = { id: crypto.randomUUID(), version: 3, body };
    await fetch(`/api/houses/${id}/changes`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ changes: [{ change, actorId: me.person.id }] }),
    });
  }, file.id);
  await leadHouse.open('pull', 'Laundry');
  await lead.getByText('One thing that a hand did could not be taken').getByRole('link').click();
  await expect(lead.getByRole('tab', { name: 'To decide, 1' })).toBeVisible();
  await lead.getByRole('button', { name: 'Take it', exact: true }).click();
  await expect(lead.getByRole('alert')).toBeVisible();
  await lead.getByRole('button', { name: 'Leave it out' }).click();
  await expect(lead.getByText('Nothing waits for you')).toBeVisible();
  await expect(lead.getByText('could not be taken and waits')).toHaveCount(0);

  // A phone whose clock is hours off says so, and what it enters is taken all the same.
  await phone.clock.setSystemTime(Date.now() + 3 * 3_600_000);
  await house.open('pull', 'Laundry');
  await expect(phone.getByText('The clock of this device is off by 180 min.')).toBeVisible();
  await phone.getByRole('button', { name: 'In', exact: true }).tap();
  await house.sent();
  await leadHouse.open('truck', 'Laundry', { tab: 'journal' });
  await expect(lead.getByText('clock off by 180 min')).toBeVisible();
  await phone.context().close();
});
