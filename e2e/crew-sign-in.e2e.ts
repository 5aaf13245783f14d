import { codeFrom, join, phoneOf, setUp, test, typeCode } from './crew';
import { HousePage } from './house-page';
import { expect } from './stack';

test('a crew is set up, a phone joins by six figures, pulls are seen at once, and a lost phone is out in two touches', async ({
  page: lead,
  browser,
  own,
}) => {
  const file = await own.demoHouse('Lot 30');
  await lead.goto(own.url);
  await expect(lead.getByText('Nobody has set up a crew here.')).toBeVisible();
  await setUp(lead, own);

  const phone = await phoneOf(browser);
  await phone.goto(`${own.url}/house/${file.id}/pull`);
  await phone.getByRole('link', { name: 'Join by a lead’s phone' }).tap();
  await lead.getByRole('button', { name: 'Let a hand in' }).click();
  await typeCode(phone, '000000');
  await expect(phone.getByRole('alert')).toContainText('opens nothing');
  await typeCode(phone, await codeFrom(lead));
  await phone.getByLabel(/Not on the list/).fill('Basil');
  await phone.getByRole('button', { name: 'Start' }).tap();
  await expect(phone.getByText('you are Basil')).toBeVisible();
  await expect(lead.getByText('Basil is in.')).toBeVisible();
  await expect(phone.getByRole('link', { name: 'New house' })).toHaveCount(0);

  // What the hand pulls stands on the lead's screen without anybody touching that.
  const leadHouse = new HousePage(lead, file, own.url);
  await leadHouse.open('pull', 'Laundry');
  const house = new HousePage(phone, file, own.url);
  await house.open('pull', 'Laundry');
  await expect(phone.getByRole('button', { name: 'Add a run' })).toHaveCount(0);
  await expect(lead.getByRole('img', { name: 'Basil is here' })).toBeVisible();
  await phone.getByRole('button', { name: 'In', exact: true }).tap();
  await expect(lead.getByText('1 of 4 runs in').first()).toBeAttached({ timeout: 3000 });

  await house.sent();
  // A day without a network; meanwhile the phone is said to be lost.
  await phone.context().setOffline(true);
  await phone.getByRole('button', { name: 'In', exact: true }).tap();
  await expect(phone.getByText('2 of 4 runs in').first()).toBeAttached();
  await lead.goto(`${own.url}/crew?part=people`);
  const line = lead
    .getByRole('row')
    .filter({ hasText: 'Basil' })
    .filter({ has: lead.getByRole('button', { name: 'Lost' }) });
  await line.getByRole('button', { name: 'Lost' }).click();
  await lead.getByRole('button', { name: 'Lock it out now' }).click();
  await expect(lead.getByText('revoked')).toBeVisible();
  await phone.context().setOffline(false);
  await expect(phone.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await expect(phone.getByText('1 entry on this device is kept')).toBeVisible();

  // Let in again, as the same person: what was kept goes out.
  await lead.getByRole('combobox', { name: 'Another device for somebody' }).selectOption('Basil');
  await phone.getByRole('link', { name: 'Join by a lead’s phone' }).tap();
  await typeCode(phone, await codeFrom(lead));
  await phone.getByRole('button', { name: 'Start' }).tap();
  await expect(phone.getByText('you are Basil')).toBeVisible();
  await leadHouse.open('pull', 'Laundry');
  await expect(lead.getByText('2 of 4 runs in').first()).toBeAttached();

  // An inspector's link: one house, to read.
  await lead.goto(`${own.url}/crew?part=people`);
  await lead.getByRole('button', { name: 'Make a link' }).click();
  const link = await lead.getByRole('textbox', { name: 'Link' }).inputValue();
  const guest = await phoneOf(browser);
  await guest.goto(link);
  await guest.getByRole('button', { name: 'Start' }).tap();
  await expect(guest).toHaveURL(new RegExp(file.id));
  await guest.getByRole('heading', { level: 1 }).waitFor();
  await expect(guest.getByRole('button', { name: 'In', exact: true })).toHaveCount(0);
  await guest.context().close();
  await phone.context().close();
});

test('a shared tablet: each takes their turn with a PIN, without a network too, and the log says how that is known', async ({
  page: lead,
  browser,
  own,
}) => {
  const file = await own.demoHouse('Lot 31');
  await setUp(lead, own);
  const tablet = await phoneOf(browser);
  const joins = (name: string): Promise<void> => join(lead, tablet, own.url, name);
  const pin = async (figures: string): Promise<void> => {
    await tablet.goto(`${own.url}/crew?part=people`);
    await tablet.getByLabel('Four to eight figures').fill(figures);
    await tablet.getByRole('button', { name: 'Set it' }).tap();
    await expect(tablet.getByText('Set: on this device')).toBeVisible();
  };
  await joins('Basil');
  await lead
    .getByRole('row')
    .filter({ hasText: 'Basil' })
    .getByRole('switch', { name: /is shared/ })
    .click();
  await expect(lead.getByRole('switch', { name: /is shared/, checked: true })).toBeVisible();
  await pin('2468');
  await joins('Clement');
  await pin('1357');

  const house = new HousePage(tablet, file, own.url);
  await house.open('pull', 'Laundry');
  await tablet.context().setOffline(true);
  await tablet.getByRole('button', { name: 'Menu' }).tap();
  const turn = tablet.getByRole('combobox', { name: 'Whose turn it is' });
  await expect(turn.locator(':checked')).toHaveText('Clement');
  const enter = async (figures: string): Promise<void> => {
    for (const figure of figures) await tablet.getByRole('button', { name: figure, exact: true }).tap();
    await tablet.getByRole('button', { name: 'Take the turn' }).tap();
  };
  await turn.selectOption('Basil');
  await enter('1111');
  await expect(tablet.getByRole('alert')).toContainText('not it');
  await enter('2468');
  await expect(turn.locator(':checked')).toHaveText('Basil');
  await tablet.getByRole('button', { name: 'Menu' }).tap();
  await tablet.getByRole('button', { name: 'In', exact: true }).tap();
  await tablet.context().setOffline(false);
  const log = () =>
    lead.evaluate(async (id) => {
      const journal = (await (await fetch(`/api/houses/${id}/journal?after=0`)).json()) as {
        entries: { actorId: string; proof: string }[];
      };
      const crew = (await (await fetch('/api/crew')).json()) as { people: { id: string; name: string }[] };
      return journal.entries.map(({ actorId, proof }) => [
        crew.people.find(({ id: own }) => own === actorId)?.name,
        proof,
      ]);
    }, file.id);
  await expect.poll(log).toEqual([['Basil', 'pin']]);
  await tablet.context().close();
});
