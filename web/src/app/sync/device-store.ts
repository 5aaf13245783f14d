import { upgradeEnvelope } from '@mule-tally/core';
import { Injectable, signal } from '@angular/core';
import type { Envelope, HouseFile } from '@mule-tally/core';
import type { DBSchema, IDBPDatabase, IDBPObjectStore } from 'idb';
import { openDB } from 'idb';
import type { Outbox, OutboxItem } from './outbox';

export interface UndoStacks {
  readonly undo: readonly string[];
  readonly redo: readonly string[];
}

interface Schema extends DBSchema {
  /** Keys count up: the order in which things were entered on this device. */
  outbox: { key: number; value: OutboxItem; indexes: { house: string } };
  houses: { key: string; value: { id: string; file: HouseFile; seq: number } };
  undo: { key: string; value: UndoStacks };
}

/**
 * Unsent changes of version 1, each in its envelope. Houses that are kept are brought over when they are read.
 */
async function bringOver(
  outbox: IDBPObjectStore<Schema, ['outbox', 'houses', 'undo'], 'outbox', 'versionchange'>,
): Promise<void> {
  for (let at = await outbox.openCursor(); at; at = await at.continue()) {
    const { change, ...rest } = at.value;
    await at.update({ ...rest, ...(upgradeEnvelope(change) as Envelope) });
  }
}

/** The database of this device under a name, in the shape of this program. */
export const openDevice = (name: string): Promise<IDBPDatabase<Schema>> =>
  openDB<Schema>(name, 2, {
    async upgrade(db, from, _to, transaction) {
      if (from === 1) return bringOver(transaction.objectStore('outbox') as never);
      db.createObjectStore('outbox', { autoIncrement: true }).createIndex('house', 'houseId');
      db.createObjectStore('houses', { keyPath: 'id' });
      db.createObjectStore('undo');
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

  async keepHouse(file: HouseFile, seq: number): Promise<void> {
    await this.tried(async (db) => void (await db.put('houses', { id: file.id, file, seq })), undefined);
  }

  async house(id: string): Promise<{ file: HouseFile; seq: number } | undefined> {
    return this.tried((db) => db.get('houses', id), undefined);
  }

  async keptHouses(): Promise<{ id: string; name: string }[]> {
    const houses = await this.tried((db) => db.getAll('houses'), []);
    return houses.map(({ id, file }) => ({ id, name: file.name }));
  }

  async keepUndo(houseId: string, stacks: UndoStacks): Promise<void> {
    await this.tried(async (db) => void (await db.put('undo', stacks, houseId)), undefined);
  }

  async undo(houseId: string): Promise<UndoStacks> {
    return (await this.tried((db) => db.get('undo', houseId), undefined)) ?? { undo: [], redo: [] };
  }
}
