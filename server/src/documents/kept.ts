import type { Document, Lists } from '@mule-tally/core';
import { LRUCache } from 'lru-cache';

/** What the documents in the memory of one process may take together, in bytes. */
const BUDGET = 256 * 1024 * 1024;
/** What a record and its place in the index take, as measured on the demo house. */
const BYTES_PER_RECORD = 1100;

interface Sized {
  readonly kind: { readonly names: readonly string[] };
  readonly tables: Readonly<Record<string, { readonly size: number }>>;
}
const bytesOf = ({ kind, tables }: Sized): number =>
  4000 + kind.names.reduce((sum, table) => sum + tables[table]!.size, 0) * BYTES_PER_RECORD;

export interface KeptDocument<L extends Lists, H extends { id: string }> {
  readonly seq: number;
  readonly document: Document<L, H>;
  /** The database that it was read from. */
  readonly epoch: string;
}

/** Documents in memory, those that were used last, as many as their bytes allow: only ever a shortcut. */
export class KeptDocuments<L extends Lists, H extends { id: string }> {
  private readonly documents: LRUCache<string, KeptDocument<L, H>>;

  constructor(budget = BUDGET) {
    this.documents = new LRUCache({
      maxSize: budget,
      // One that is larger than all together may be is kept alone.
      sizeCalculation: ({ document }) => Math.min(bytesOf(document as unknown as Sized), budget),
    });
  }

  get(name: string, epoch: string): KeptDocument<L, H> | undefined {
    const known = this.documents.get(name);
    return known?.epoch === epoch ? known : undefined;
  }

  /** Keeps a version, unless a later one of the same database is there. */
  keep(name: string, kept: KeptDocument<L, H>): void {
    const known = this.documents.peek(name);
    if (known && known.epoch === kept.epoch && known.seq > kept.seq) return;
    this.documents.set(name, kept);
  }
}
