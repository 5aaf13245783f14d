import { upgradeDiff, upgradeEnvelope } from '@mule-tally/core';
import { Injectable, signal } from '@angular/core';
import type { DeviceLine, Diff, Envelope, HouseFile, ReelUsageLine } from '@mule-tally/core';
import type { DBSchema, IDBPDatabase, IDBPTransaction, StoreNames } from 'idb';
import { openDB } from 'idb';
import type { Outbox, OutboxItem } from './outbox';
import { CREW_BOOK } from './outbox';
import { databaseName } from './own-database';
import type { Entry } from './transport';

export interface UndoStacks {
  readonly undo: readonly string[];
  readonly redo: readonly string[];
}

/** A document as it was read: the text of the answer, JSON with `file`; version 2 kept the file itself. */
interface KeptDocument {
  readonly id: string;
  readonly name?: string;
  readonly text?: string;
  readonly file?: HouseFile;
  readonly seq: number;
}

/** An entry of the journal of which only what it did is kept. */
interface KeptEntry {
  readonly documentId: string;
  readonly seq: number;
  readonly changeId: string;
  readonly diff: Diff;
}

interface Schema extends DBSchema {
  /** Keys count up: the order in which things were entered on this device. */
  outbox: { key: number; value: OutboxItem; indexes: { document: string } };
  documents: { key: string; value: KeptDocument };
  /** What the journal brought since a document was kept: by document and number. */
  news: { key: [string, number]; value: KeptEntry };
  undo: { key: string; value: UndoStacks };
  /** The devices of the crew, as a lead's device knows them: whose key signs what. */
  devices: { key: string; value: DeviceLine };
  /** What houses took off the crew's reels, as it was told last: one list. */
  reels: { key: string; value: readonly ReelUsageLine[] };
}

type Upgrading = IDBPTransaction<Schema, StoreNames<Schema>[], 'versionchange'>;

/** What was kept when there were houses only: unsent changes (of version 1 each in its envelope), kept houses. */
async function bringOver(db: IDBPDatabase<Schema>, transaction: Upgrading, from: number): Promise<void> {
  const old = transaction as unknown as IDBPTransaction<unknown, string[], 'versionchange'>;
  const outbox = old.objectStore('outbox');
  outbox.deleteIndex('house');
  for (let at = await outbox.openCursor(); at; at = await at.continue()) {
    const { change, houseId, ...rest } = at.value as { change: unknown; houseId: string };
    const envelope = from === 1 ? (upgradeEnvelope(change) as Envelope) : { change };
    await at.update({ ...rest, documentId: houseId, ...envelope });
  }
  const documents = transaction.objectStore('documents');
  for (const kept of (await old.objectStore('houses').getAll()) as KeptDocument[]) await documents.put(kept);
  (db as unknown as IDBPDatabase).deleteObjectStore('houses');
}

/** What was unsent, and what the journal brought, brought to the version of the house file that this program reads. */
async function bringUp(transaction: Upgrading): Promise<void> {
  const outbox = transaction.objectStore('outbox');
  for (let at = await outbox.openCursor(); at; at = await at.continue()) {
    const { change, actorId } = upgradeEnvelope({
      change: at.value.change,
      actorId: at.value.actorId,
    }) as Envelope;
    await at.update({ ...at.value, change, actorId });
  }
  const news = transaction.objectStore('news');
  for (let at = await news.openCursor(); at; at = await at.continue())
    await at.update({ ...at.value, diff: upgradeDiff(at.value.diff, 2) as Diff });
}

/** All that is kept of the journal of a document. */
const newsOf = (documentId: string): IDBKeyRange =>
  IDBKeyRange.bound([documentId, 0], [documentId, Infinity]);

/** The database of this device under a name, in the shape of this program. */
export const openDevice = (name: string): Promise<IDBPDatabase<Schema>> =>
  openDB<Schema>(name, 7, {
    async upgrade(db, from, _to, transaction) {
      if (from < 1) {
        db.createObjectStore('outbox', { autoIncrement: true }).createIndex('document', 'documentId');
        db.createObjectStore('undo');
      } else if (from < 4) transaction.objectStore('outbox').createIndex('document', 'documentId');
      if (from < 4) {
        db.createObjectStore('documents', { keyPath: 'id' });
        const old = transaction as unknown as IDBPTransaction<unknown, string[], 'versionchange'>;
        const news =
          from === 3 ? ((await old.objectStore('news').getAll()) as (KeptEntry & { houseId: string })[]) : [];
        if (from === 3) db.deleteObjectStore('news');
        const store = db.createObjectStore('news', { keyPath: ['documentId', 'seq'] });
        for (const { houseId, ...entry } of news) await store.put({ ...entry, documentId: houseId });
        if (from > 0) await bringOver(db, transaction, from);
      }
      if (from < 6) db.createObjectStore('devices', { keyPath: 'id' });
      if (from < 7) db.createObjectStore('reels');
      if (from > 0 && from < 6) await bringUp(transaction);
    },
  });

/** Keys of what is only in memory: after all that is in the database. */
const IN_MEMORY = 2 ** 40;

/**
 * What this device keeps in IndexedDB: what has not been sent, the last known houses and crew book. Where the device keeps nothing (it is
 * full, or a private window), unsent changes stay in memory and go out from there; `isFailing` says so until one is kept again.
 */
@Injectable({ providedIn: 'root' })
export class DeviceStore implements Outbox {
  private readonly opened = openDevice(databaseName());
  private readonly memory = new Map<number, OutboxItem>();
  private nextInMemory = IN_MEMORY;

  /** Something could not be kept on this device. */
  readonly isFailing = signal(false);

  constructor() {
    // A database that does not open at all is met at every use.
    this.opened.catch(() => this.isFailing.set(true));
  }

  /** What the database gives, or `without` where it gives nothing. */
  private async tried<T>(work: (db: IDBPDatabase<Schema>) => Promise<T>, without: T): Promise<T> {
    try {
      return await work(await this.opened);
    } catch {
      this.isFailing.set(true);
      return without;
    }
  }

  async enqueue(item: OutboxItem): Promise<void> {
    // Behind what waits in memory, so that the order stays that of entry.
    const isKept =
      this.memory.size === 0 && (await this.tried(async (db) => (await db.add('outbox', item), true), false));
    if (isKept) this.isFailing.set(false);
    else this.memory.set(this.nextInMemory++, item);
  }

  /**
   * Several changes that somebody else made, behind what waits: all of them, or none. Those that wait already are left out. Gives
   * how many were new; undefined where the device keeps none.
   */
  async enqueueAll(items: readonly OutboxItem[]): Promise<number | undefined> {
    return this.tried(async (db) => {
      const transaction = db.transaction('outbox', 'readwrite');
      const known = new Set((await transaction.store.getAll()).map(({ change }) => change.id));
      const news = items.filter(({ change }) => !known.has(change.id));
      await Promise.all([...news.map((item) => transaction.store.add(item)), transaction.done]);
      return news.length;
    }, undefined);
  }

  async outbox(documentId: string): Promise<{ key: number; item: OutboxItem }[]> {
    const found = await this.tried(async (db) => {
      const index = db.transaction('outbox').store.index('document');
      const [keys, items] = await Promise.all([index.getAllKeys(documentId), index.getAll(documentId)]);
      return keys.map((key, at) => ({ key, item: items[at]! }));
    }, []);
    const own = [...this.memory].filter(([, item]) => item.documentId === documentId);
    return [...found, ...own.map(([key, item]) => ({ key, item }))].sort((a, b) => a.key - b.key);
  }

  /** How much is unsent of each document, what was refused and waits for a person among it. */
  async unsentCounts(): Promise<ReadonlyMap<string, number>> {
    const found = await this.tried((db) => db.getAll('outbox'), []);
    const counts = new Map<string, number>();
    for (const { documentId } of [...found, ...this.memory.values()])
      counts.set(documentId, (counts.get(documentId) ?? 0) + 1);
    return counts;
  }

  async unsentDocuments(): Promise<string[]> {
    const found = await this.tried(
      async (db) => (await db.getAll('outbox')).filter(({ refusal }) => !refusal),
      [],
    );
    const own = [...this.memory.values()].filter(({ refusal }) => !refusal);
    return [...new Set([...found, ...own].map(({ documentId }) => documentId))];
  }

  async setOutboxItem(key: number, item: OutboxItem): Promise<void> {
    if (this.memory.has(key)) this.memory.set(key, item);
    else await this.tried(async (db) => void (await db.put('outbox', item, key)), undefined);
  }

  async dropFromOutbox(keys: readonly number[]): Promise<void> {
    const stored = keys.filter((key) => !this.memory.delete(key));
    if (stored.length === 0) return;
    await this.tried(async (db) => {
      const transaction = db.transaction('outbox', 'readwrite');
      await Promise.all([...stored.map((key) => transaction.store.delete(key)), transaction.done]);
    }, undefined);
  }

  /** Takes changes of a document out of what waits. */
  async dropChanges(documentId: string, ids: ReadonlySet<string>): Promise<void> {
    const kept = await this.outbox(documentId);
    await this.dropFromOutbox(kept.filter(({ item }) => ids.has(item.change.id)).map(({ key }) => key));
  }

  /** Keeps a document as it was read; what was kept of it before goes. */
  async keepDocument(document: { id: string; name: string; text: string; seq: number }): Promise<void> {
    await this.tried(async (db) => {
      const transaction = db.transaction(['documents', 'news'], 'readwrite');
      await Promise.all([
        transaction.objectStore('documents').put(document),
        transaction.objectStore('news').delete(newsOf(document.id)),
        transaction.done,
      ]);
    }, undefined);
  }

  /** Keeps what the journal of a kept document has brought. */
  async keepNews(documentId: string, entries: readonly Entry[]): Promise<void> {
    await this.tried(async (db) => {
      const transaction = db.transaction('news', 'readwrite');
      await Promise.all([
        ...entries.map(({ seq, changeId, diff }) =>
          transaction.store.put({ documentId, seq, changeId, diff }),
        ),
        transaction.done,
      ]);
    }, undefined);
  }

  /** The document as it was kept, and what the journal has brought since, as far as it goes on without a gap. */
  async document(
    id: string,
  ): Promise<{ file: unknown; places?: unknown; seq: number; news: readonly KeptEntry[] } | undefined> {
    return this.tried(async (db) => {
      const kept = await db.get('documents', id);
      if (!kept) return undefined;
      const news: KeptEntry[] = [];
      for (const entry of await db.getAll('news', newsOf(id)))
        if (entry.seq === (news.at(-1)?.seq ?? kept.seq) + 1) news.push(entry);
      const answer = kept.text ? (JSON.parse(kept.text) as { file?: unknown; places?: unknown }) : {};
      return { file: kept.file ?? answer.file, places: answer.places, seq: kept.seq, news };
    }, undefined);
  }

  /** Number of the last entry of the journal that has been kept of a document; undefined where nothing of it is. */
  async seqOf(id: string): Promise<number | undefined> {
    const document = await this.document(id);
    return document?.news.at(-1)?.seq ?? document?.seq;
  }

  async keepDevices(devices: readonly DeviceLine[]): Promise<void> {
    await this.tried(async (db) => {
      const transaction = db.transaction('devices', 'readwrite');
      await Promise.all([
        transaction.store.clear(),
        ...devices.map((device) => transaction.store.put(device)),
        transaction.done,
      ]);
    }, undefined);
  }

  async knownDevice(id: string): Promise<DeviceLine | undefined> {
    return this.tried((db) => db.get('devices', id), undefined);
  }

  async keepReelUsage(lines: readonly ReelUsageLine[]): Promise<void> {
    await this.tried(async (db) => void (await db.put('reels', lines, 'all')), undefined);
  }

  async reelUsage(): Promise<readonly ReelUsageLine[]> {
    return (await this.tried((db) => db.get('reels', 'all'), undefined)) ?? [];
  }

  async keptHouses(): Promise<{ id: string; name: string }[]> {
    const houses = await this.tried((db) => db.getAll('documents'), []);
    return houses
      .filter(({ id }) => id !== CREW_BOOK)
      .map(({ id, file, name }) => ({ id, name: name ?? file?.name ?? '' }));
  }

  async keepUndo(documentId: string, stacks: UndoStacks): Promise<void> {
    await this.tried(async (db) => void (await db.put('undo', stacks, documentId)), undefined);
  }

  async undo(documentId: string): Promise<UndoStacks> {
    return (await this.tried((db) => db.get('undo', documentId), undefined)) ?? { undo: [], redo: [] };
  }
}
