import { upgradeEnvelope } from '@mule-tally/core';
import { Injectable, signal } from '@angular/core';
import type { Envelope, HouseDiff, HouseFile, JournalEntry } from '@mule-tally/core';
import type { DBSchema, IDBPDatabase, IDBPObjectStore, StoreNames } from 'idb';
import { openDB } from 'idb';
import type { Outbox, OutboxItem } from './outbox';

export interface UndoStacks {
  readonly undo: readonly string[];
  readonly redo: readonly string[];
}

/** A house as it was read: the text of the answer, JSON with `file`; version 2 kept the file itself. */
interface KeptHouse {
  readonly id: string;
  readonly name?: string;
  readonly text?: string;
  readonly file?: HouseFile;
  readonly seq: number;
}

/** An entry of the journal of which only what it did is kept. */
interface KeptEntry {
  readonly houseId: string;
  readonly seq: number;
  readonly changeId: string;
  readonly diff: HouseDiff;
}

interface Schema extends DBSchema {
  /** Keys count up: the order in which things were entered on this device. */
  outbox: { key: number; value: OutboxItem; indexes: { house: string } };
  houses: { key: string; value: KeptHouse };
  /** What the journal brought since a house was kept: by house and number. */
  news: { key: [string, number]; value: KeptEntry };
  undo: { key: string; value: UndoStacks };
}

/**
 * Unsent changes of version 1, each in its envelope. Houses that are kept are brought over when they are read.
 */
async function bringOver(
  outbox: IDBPObjectStore<Schema, StoreNames<Schema>[], 'outbox', 'versionchange'>,
): Promise<void> {
  for (let at = await outbox.openCursor(); at; at = await at.continue()) {
    const { change, ...rest } = at.value;
    await at.update({ ...rest, ...(upgradeEnvelope(change) as Envelope) });
  }
}

/** All that is kept of the journal of a house. */
const newsOf = (houseId: string): IDBKeyRange => IDBKeyRange.bound([houseId, 0], [houseId, Infinity]);

/** The database of this device under a name, in the shape of this program. */
export const openDevice = (name: string): Promise<IDBPDatabase<Schema>> =>
  openDB<Schema>(name, 3, {
    async upgrade(db, from, _to, transaction) {
      if (from < 1) {
        db.createObjectStore('outbox', { autoIncrement: true }).createIndex('house', 'houseId');
        db.createObjectStore('houses', { keyPath: 'id' });
        db.createObjectStore('undo');
      }
      if (from < 3) db.createObjectStore('news', { keyPath: ['houseId', 'seq'] });
      if (from === 1) await bringOver(transaction.objectStore('outbox'));
    },
  });

/** Keys of what is only in memory: after all that is in the database. */
const IN_MEMORY = 2 ** 40;

/**
 * What this device keeps in IndexedDB: what has not been sent, the last known houses. Where the device keeps nothing (it is
 * full, or a private window), unsent changes stay in memory and go out from there; `isFailing` says so until one is kept again.
 */
@Injectable({ providedIn: 'root' })
export class DeviceStore implements Outbox {
  private readonly opened = openDevice('mule-tally');
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

  async outbox(houseId: string): Promise<{ key: number; item: OutboxItem }[]> {
    const found = await this.tried(async (db) => {
      const kept: { key: number; item: OutboxItem }[] = [];
      const { store } = db.transaction('outbox');
      for (let at = await store.index('house').openCursor(houseId); at; at = await at.continue())
        kept.push({ key: at.primaryKey, item: at.value });
      return kept;
    }, []);
    const own = [...this.memory].filter(([, item]) => item.houseId === houseId);
    return [...found, ...own.map(([key, item]) => ({ key, item }))].sort((a, b) => a.key - b.key);
  }

  async unsentHouses(): Promise<string[]> {
    const found = await this.tried(
      async (db) => (await db.getAll('outbox')).filter(({ refusal }) => !refusal),
      [],
    );
    const own = [...this.memory.values()].filter(({ refusal }) => !refusal);
    return [...new Set([...found, ...own].map(({ houseId }) => houseId))];
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

  /** Keeps a house as it was read; what was kept of it before goes. */
  async keepHouse(house: { id: string; name: string; text: string; seq: number }): Promise<void> {
    await this.tried(async (db) => {
      const transaction = db.transaction(['houses', 'news'], 'readwrite');
      await Promise.all([
        transaction.objectStore('houses').put(house),
        transaction.objectStore('news').delete(newsOf(house.id)),
        transaction.done,
      ]);
    }, undefined);
  }

  /** Keeps what the journal of a kept house has brought. */
  async keepNews(houseId: string, entries: readonly JournalEntry[]): Promise<void> {
    await this.tried(async (db) => {
      const transaction = db.transaction('news', 'readwrite');
      await Promise.all([
        ...entries.map(({ seq, changeId, diff }) => transaction.store.put({ houseId, seq, changeId, diff })),
        transaction.done,
      ]);
    }, undefined);
  }

  /** The house as it was kept, and what the journal has brought since, as far as it goes on without a gap. */
  async house(id: string): Promise<{ file: unknown; seq: number; news: readonly KeptEntry[] } | undefined> {
    return this.tried(async (db) => {
      const kept = await db.get('houses', id);
      if (!kept) return undefined;
      const news: KeptEntry[] = [];
      for (const entry of await db.getAll('news', newsOf(id)))
        if (entry.seq === (news.at(-1)?.seq ?? kept.seq) + 1) news.push(entry);
      const text = kept.text && (JSON.parse(kept.text) as { file?: unknown });
      return { file: kept.file ?? (text || undefined)?.file, seq: kept.seq, news };
    }, undefined);
  }

  async keptHouses(): Promise<{ id: string; name: string }[]> {
    const houses = await this.tried((db) => db.getAll('houses'), []);
    return houses.map(({ id, file, name }) => ({ id, name: name ?? file?.name ?? '' }));
  }

  async keepUndo(houseId: string, stacks: UndoStacks): Promise<void> {
    await this.tried(async (db) => void (await db.put('undo', stacks, houseId)), undefined);
  }

  async undo(houseId: string): Promise<UndoStacks> {
    return (await this.tried((db) => db.get('undo', houseId), undefined)) ?? { undo: [], redo: [] };
  }
}
