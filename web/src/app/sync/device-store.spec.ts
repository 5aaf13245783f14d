import { signal } from '@angular/core';
import type { Change } from '@mule-tally/core';
import { DeviceStore } from './device-store';
import { kept } from './draft-store';

const HOUSE = '20000000-0000-4000-8000-000000000001';
const OTHER = '20000000-0000-4000-8000-000000000002';
const change = (number: number): Change => ({
  id: `30000000-0000-4000-8000-${String(number).padStart(12, '0')}`,
  version: 1,
  by: 'Lead',
  body: { kind: 'house.set', name: `House ${number}` },
});

describe('What the device keeps (IndexedDB)', () => {
  it('gives the outbox of each house in the order of entry, to another reader too', async () => {
    const device = new DeviceStore();
    for (const { key } of await device.outbox(HOUSE)) await device.dropFromOutbox([key]);
    for (let number = 1; number <= 12; number++)
      await device.enqueue({ houseId: number % 4 ? HOUSE : OTHER, change: change(number) });
    const again = new DeviceStore();
    const kept = await again.outbox(HOUSE);
    expect(kept.map(({ item }) => item.change.id)).toEqual(
      [1, 2, 3, 5, 6, 7, 9, 10, 11].map((number) => change(number).id),
    );
    const refusal = { code: 'change.stale-target', message: 'It is gone.' };
    await again.setOutboxItem(kept[1]!.key, { ...kept[1]!.item, refusal });
    await again.dropFromOutbox(kept.slice(2).map(({ key }) => key));
    expect((await device.outbox(HOUSE)).map(({ item }) => item.refusal)).toEqual([undefined, refusal]);
    for (const house of [HOUSE, OTHER])
      await device.dropFromOutbox((await device.outbox(house)).map(({ key }) => key));
    expect(await device.outbox(OTHER)).toEqual([]);
  });
});

describe('What is half entered', () => {
  it('is kept at once, until it is empty again; what cannot be read is nothing', () => {
    const stored = () => localStorage.getItem('mule-tally.draft.spec');
    const empty = { name: '' };
    const draft = () => kept(() => 'spec', empty);
    draft().set({ name: 'Lot 9' });
    expect(draft().value()).toEqual({ name: 'Lot 9' });
    localStorage.setItem('mule-tally.draft.spec', '{"name":');
    expect(draft().value()).toBe(empty);
    draft().set(empty);
    expect(stored()).toBeNull();
  });

  it('belongs to its name', () => {
    const box = signal('S1');
    const line = kept(() => `spec.${box()}`, '');
    line.set('S1 -> L1');
    box.set('S2');
    expect(line.value()).toBe('');
    box.set('S1');
    expect(line.value()).toBe('S1 -> L1');
    line.set('');
  });
});
