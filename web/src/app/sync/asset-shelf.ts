import { Injectable, signal } from '@angular/core';
import type { AssetType, AssetUse } from '@mule-tally/core';
import type { DBSchema, IDBPDatabase } from 'idb';
import { openDB } from 'idb';
import { databaseName } from './own-database';

/** A picture as this device keeps it. */
export interface ShelvedAsset {
  readonly sha256: string;
  readonly type: AssetType;
  readonly bytes: ArrayBuffer;
  /** What it is kept for; without it a plan sheet. */
  readonly use?: AssetUse;
  /** The server has not been sent it yet. */
  readonly waits?: 'to-send';
  /** Why the server does not take it: for a person to decide. */
  readonly refusal?: { readonly code: string; readonly message: string };
}

/** Takes pictures; one that is there already is taken again as it is. Throws `Refused` or `ServerAway`. */
export interface AssetTaker {
  putAsset(asset: ShelvedAsset): Promise<void>;
}

interface Schema extends DBSchema {
  assets: { key: string; value: ShelvedAsset; indexes: { waits: string } };
}

/**
 * Pictures in IndexedDB, in a database beside that of houses and changes: those that wait to be sent, those of houses that were
 * opened here. Where the device keeps nothing they stay in memory and go out from there; `isFailing` says so.
 */
@Injectable({ providedIn: 'root' })
export class AssetShelf {
  private readonly opened = openDB<Schema>(`${databaseName()}-pictures`, 1, {
    upgrade(db) {
      db.createObjectStore('assets', { keyPath: 'sha256' }).createIndex('waits', 'waits');
    },
  });
  private readonly memory = new Map<string, ShelvedAsset>();
  readonly isFailing = signal(false);

  constructor() {
    this.opened.catch(() => this.isFailing.set(true));
  }

  private async tried<T>(work: (db: IDBPDatabase<Schema>) => Promise<T>, without: T): Promise<T> {
    try {
      return await work(await this.opened);
    } catch {
      this.isFailing.set(true);
      return without;
    }
  }

  /** Keeps a picture. One that waits goes on waiting where the same one comes from elsewhere. */
  async keep(asset: ShelvedAsset): Promise<void> {
    if (!asset.waits && (await this.get(asset.sha256))) return;
    await this.put(asset);
  }

  private async put(asset: ShelvedAsset): Promise<void> {
    const isKept = await this.tried(async (db) => (await db.put('assets', asset), true), false);
    if (isKept) this.memory.delete(asset.sha256);
    else this.memory.set(asset.sha256, asset);
  }

  async get(sha256: string): Promise<ShelvedAsset | undefined> {
    return this.memory.get(sha256) ?? (await this.tried((db) => db.get('assets', sha256), undefined));
  }

  /** What has not been sent, and what the server has not taken. */
  async waiting(): Promise<readonly ShelvedAsset[]> {
    const kept = await this.tried((db) => db.getAllFromIndex('assets', 'waits', 'to-send'), []);
    return [...kept, ...[...this.memory.values()].filter(({ waits }) => waits)];
  }

  /** The server has it. */
  async sent(sha256: string): Promise<void> {
    const own = await this.get(sha256);
    if (!own) return;
    const { sha256: id, type, bytes } = own;
    await this.put({ sha256: id, type, bytes });
  }

  async refuse(sha256: string, refusal: ShelvedAsset['refusal']): Promise<void> {
    const own = await this.get(sha256);
    if (!own) return;
    const { refusal: _, ...rest } = own;
    await this.put({ ...rest, ...(refusal && { refusal }) });
  }

  async drop(sha256: string): Promise<void> {
    this.memory.delete(sha256);
    await this.tried((db) => db.delete('assets', sha256), undefined);
  }
}
