import type { House } from '@mule-tally/core';
import { TABLE_NAMES } from '@mule-tally/core';
import { LRUCache } from 'lru-cache';

/** What the houses in the memory of one process may take together, in bytes. */
const BUDGET = 256 * 1024 * 1024;
/** What a record and its place in the index take, as measured on the demo house. */
const BYTES_PER_RECORD = 1100;

const bytesOf = (house: House): number =>
  4000 + TABLE_NAMES.reduce((sum, table) => sum + house.tables[table].size, 0) * BYTES_PER_RECORD;

export interface KeptHouse {
  readonly seq: number;
  readonly house: House;
  /** The database that it was read from. */
  readonly epoch: string;
}

/** Houses in memory, those that were used last, as many as their bytes allow: only ever a shortcut. */
export class KeptHouses {
  private readonly houses: LRUCache<string, KeptHouse>;

  constructor(budget = BUDGET) {
    this.houses = new LRUCache({
      maxSize: budget,
      // One that is larger than all together may be is kept alone.
      sizeCalculation: ({ house }) => Math.min(bytesOf(house), budget),
    });
  }

  get(name: string, epoch: string): KeptHouse | undefined {
    const known = this.houses.get(name);
    return known?.epoch === epoch ? known : undefined;
  }

  /** Keeps a version, unless a later one of the same database is there. */
  keep(name: string, kept: KeptHouse): void {
    const known = this.houses.peek(name);
    if (known && known.epoch === kept.epoch && known.seq > kept.seq) return;
    this.houses.set(name, kept);
  }
}
