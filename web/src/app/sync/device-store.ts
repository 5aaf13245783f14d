import { Injectable } from '@angular/core';
import type { Change, HouseFile } from '@mule-tally/core';
import type { DBSchema, IDBPDatabase } from 'idb';
import { openDB } from 'idb';

/** A change on its way to the server; `refusal` once the server has said no. */
export interface OutboxItem {
  readonly houseId: string;
  readonly change: Change;
  readonly refusal?: { readonly code: string; readonly message: string };
}

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

/** What this device keeps in IndexedDB: what has not been sent, the last known houses. */
@Injectable({ providedIn: 'root' })
export class DeviceStore {
  private readonly opened: Promise<IDBPDatabase<Schema>> = openDB<Schema>('mule-tally', 1, {
    upgrade(db) {
      db.createObjectStore('outbox', { autoIncrement: true }).createIndex('house', 'houseId');
      db.createObjectStore('houses', { keyPath: 'id' });
      db.createObjectStore('undo');
    },
  });

  async enqueue(item: OutboxItem): Promise<void> {
    await (await this.opened).add('outbox', item);
  }

  async outbox(houseId: string): Promise<{ key: number; item: OutboxItem }[]> {
    const transaction = (await this.opened).transaction('outbox');
    const found: { key: number; item: OutboxItem }[] = [];
    for (let at = await transaction.store.index('house').openCursor(houseId); at; at = await at.continue()) {
      found.push({ key: at.primaryKey, item: at.value });
    }
    return found.sort((a, b) => a.key - b.key);
  }

  async setOutboxItem(key: number, item: OutboxItem): Promise<void> {
    await (await this.opened).put('outbox', item, key);
  }

  async dropFromOutbox(keys: readonly number[]): Promise<void> {
    const transaction = (await this.opened).transaction('outbox', 'readwrite');
    await Promise.all([...keys.map((key) => transaction.store.delete(key)), transaction.done]);
  }

  async keepHouse(file: HouseFile, seq: number): Promise<void> {
    await (await this.opened).put('houses', { id: file.id, file, seq });
  }

  async house(id: string): Promise<{ file: HouseFile; seq: number } | undefined> {
    return (await this.opened).get('houses', id);
  }

  async keptHouses(): Promise<{ id: string; name: string }[]> {
    return (await (await this.opened).getAll('houses')).map(({ id, file }) => ({ id, name: file.name }));
  }

  async keepUndo(houseId: string, stacks: UndoStacks): Promise<void> {
    await (await this.opened).put('undo', stacks, houseId);
  }

  async undo(houseId: string): Promise<UndoStacks> {
    return (await (await this.opened).get('undo', houseId)) ?? { undo: [], redo: [] };
  }
}
