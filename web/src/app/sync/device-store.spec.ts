import { signal } from '@angular/core';
import { Envelope, personOfVersion1 } from '@mule-tally/core';
import { openDB } from 'idb';
import { DeviceStore, openDevice } from './device-store';
import { kept } from './draft-store';
import { CREW_BOOK } from './outbox';

const HOUSE = '20000000-0000-4000-8000-000000000001';
const OTHER = '20000000-0000-4000-8000-000000000002';
const sent = (number: number): Envelope => ({
  change: {
    id: `30000000-0000-4000-8000-${String(number).padStart(12, '0')}`,
    version: 3,
    body: { kind: 'house.set', name: `House ${number}` },
  },
  actorId: personOfVersion1('Lead'),
});

describe('What the device keeps (IndexedDB)', () => {
  it('gives the outbox of each house in the order of entry, to another reader too', async () => {
    const device = new DeviceStore();
    for (const { key } of await device.outbox(HOUSE)) await device.dropFromOutbox([key]);
    for (let number = 1; number <= 12; number++)
      await device.enqueue({ documentId: number % 4 ? HOUSE : OTHER, ...sent(number) });
    const again = new DeviceStore();
    const kept = await again.outbox(HOUSE);
    expect(kept.map(({ item }) => item.change.id)).toEqual(
      [1, 2, 3, 5, 6, 7, 9, 10, 11].map((number) => sent(number).change.id),
    );
    const refusal = { code: 'change.stale-target', message: 'It is gone.' };
    await again.setOutboxItem(kept[1]!.key, { ...kept[1]!.item, refusal });
    await again.dropFromOutbox(kept.slice(2).map(({ key }) => key));
    expect((await device.outbox(HOUSE)).map(({ item }) => item.refusal)).toEqual([undefined, refusal]);
    for (const house of [HOUSE, OTHER])
      await device.dropFromOutbox((await device.outbox(house)).map(({ key }) => key));
    expect(await device.outbox(OTHER)).toEqual([]);
  });

  it('is brought over from version 1: what was unsent goes out in its envelope, refused or not', async () => {
    const name = 'mule-tally-spec-version-1';
    const old = await openDB(name, 1, {
      upgrade(db) {
        db.createObjectStore('outbox', { autoIncrement: true }).createIndex('house', 'houseId');
        db.createObjectStore('houses', { keyPath: 'id' });
        db.createObjectStore('undo');
      },
    });
    const change = (number: number, body: object) => ({
      id: sent(number).change.id,
      version: 1,
      by: 'Mireille',
      body,
    });
    const fields = { place: { heightIn: 48, reference: 'top' }, neutralException: null };
    const refusal = { code: 'change.stale-target', message: 'It is gone.' };
    await old.add('outbox', {
      houseId: HOUSE,
      change: change(1, { kind: 'box.set', recordId: OTHER, fields }),
    });
    await old.add('outbox', {
      houseId: HOUSE,
      change: change(2, { kind: 'box.remove', recordId: OTHER }),
      refusal,
    });
    await old.put('undo', { undo: [sent(1).change.id], redo: [] }, HOUSE);
    old.close();
    const device = await openDevice(name);
    const [first, second] = await device.getAll('outbox');
    for (const { documentId, refusal: _refusal, ...envelope } of [first!, second!])
      expect([documentId, Envelope.safeParse(envelope).success]).toEqual([HOUSE, true]);
    expect(first!.actorId).toBe(personOfVersion1('Mireille'));
    expect((first!.change.body as { fields: unknown }).fields).toEqual(
      jasmine.objectContaining({
        heightIn: { to: 48 },
        heightReference: { to: 'top' },
        corner: { to: null },
        neutralException: { to: null },
      }),
    );
    expect(second!.refusal).toEqual(refusal);
    expect((await device.get('undo', HOUSE))!.undo).toEqual([sent(1).change.id]);
    device.close();
    indexedDB.deleteDatabase(name);
  });
});

describe('Houses that are kept for the time without a server', () => {
  const diff = { head: { name: { from: 'A', to: 'B' } }, rows: [] };
  const entry = (seq: number) => ({
    seq,
    changeId: sent(seq).change.id,
    actorId: personOfVersion1('Lead'),
    at: '2026-03-02T08:00:00Z',
    diff,
  });

  it('come back as they were read, with what the journal brought since as far as it has no gap', async () => {
    const device = new DeviceStore();
    const keep = (seq: number) =>
      device.keepDocument({
        id: HOUSE,
        name: 'Lot 9',
        text: JSON.stringify({ file: { id: HOUSE }, seq }),
        seq,
      });
    await keep(4);
    await device.keepNews(HOUSE, [entry(5), entry(6)]);
    await device.keepNews(HOUSE, [entry(8)]);
    const kept = await new DeviceStore().document(HOUSE);
    expect([kept!.file, kept!.seq, kept!.news.map(({ seq }) => seq)]).toEqual([{ id: HOUSE }, 4, [5, 6]]);
    // Read anew, what came before is no news.
    await keep(6);
    expect((await device.document(HOUSE))!.news).toEqual([]);
    expect(await device.keptHouses()).toContain({ id: HOUSE, name: 'Lot 9' });
    expect(await device.document(OTHER)).toBeUndefined();
  });

  for (const version of [2, 3])
    it(`of version ${version} are read as they were kept, and so is what was unsent`, async () => {
      const name = `mule-tally-spec-version-${version}`;
      const old = await openDB(name, version, {
        upgrade(db) {
          db.createObjectStore('outbox', { autoIncrement: true }).createIndex('house', 'houseId');
          db.createObjectStore('houses', { keyPath: 'id' });
          db.createObjectStore('undo');
          if (version === 3) db.createObjectStore('news', { keyPath: ['houseId', 'seq'] });
        },
      });
      await old.put('houses', { id: HOUSE, file: { id: HOUSE, name: 'Lot 9' }, seq: 4 });
      await old.add('outbox', { houseId: HOUSE, ...sent(1) });
      const news = { seq: 5, changeId: sent(5).change.id, diff };
      if (version === 3) await old.add('news', { houseId: HOUSE, ...news });
      old.close();
      const device = await openDevice(name);
      expect(await device.getAll('news')).toEqual(version === 3 ? [{ documentId: HOUSE, ...news }] : []);
      expect((await device.get('documents', HOUSE))!.seq).toBe(4);
      const unsent = await device.getAllFromIndex('outbox', 'document', HOUSE);
      expect(unsent).toEqual([{ documentId: HOUSE, ...sent(1) }]);
      device.close();
      indexedDB.deleteDatabase(name);
    });

  it('of version 4 stand on named corners, what was unsent and what the journal brought', async () => {
    const name = 'mule-tally-spec-version-4';
    const old = await openDB(name, 4, {
      upgrade(db) {
        db.createObjectStore('outbox', { autoIncrement: true }).createIndex('document', 'documentId');
        db.createObjectStore('documents', { keyPath: 'id' });
        db.createObjectStore('news', { keyPath: ['documentId', 'seq'] });
        db.createObjectStore('undo');
      },
    });
    const { change, actorId } = sent(1);
    const body = { kind: 'box.set', recordId: OTHER, fields: { wall: { was: null, to: 2 } } };
    await old.add('outbox', { documentId: HOUSE, change: { ...change, version: 2, body }, actorId });
    const moved = (fields: object) => ({ head: {}, rows: [{ table: 'boxes', id: OTHER, changed: fields }] });
    await old.put('news', {
      documentId: HOUSE,
      seq: 5,
      changeId: sent(5).change.id,
      diff: moved({ wall: { from: 1, to: 3 } }),
    });
    old.close();
    const device = await openDevice(name);
    const [{ documentId, ...envelope } = { documentId: '' }] = await device.getAll('outbox');
    expect([documentId, Envelope.safeParse(envelope).success]).toEqual([HOUSE, true]);
    expect((envelope as Envelope).change.body).toEqual({
      ...body,
      fields: { corner: { was: null, to: 'c2' } },
    } as never);
    expect((await device.getAll('news'))[0]!.diff).toEqual(
      moved({ corner: { from: 'c1', to: 'c3' } }) as never,
    );
    device.close();
    indexedDB.deleteDatabase(name);
  });

  it('are told apart from the crew book, which is no house', async () => {
    const device = new DeviceStore();
    await device.keepDocument({ id: CREW_BOOK, name: 'This crew', text: '{"file":{}}', seq: 1 });
    expect((await device.keptHouses()).map(({ id }) => id)).not.toContain(CREW_BOOK);
    expect((await device.document(CREW_BOOK))!.seq).toBe(1);
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
