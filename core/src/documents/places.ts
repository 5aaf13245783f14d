import * as z from 'zod';
import type { SortedMap } from '../structures/sorted-map.js';
import type { Document, Lists, Placed } from './document.js';
import { rowsOf } from './document.js';

/**
 * Where the rows of each list stand, in the order of the list. A file says the order alone and closes the gaps; whoever goes on
 * with the journal of a document needs its places, or what comes back to one would come to stand elsewhere.
 */
export const Places = z.record(z.string(), z.array(z.int()));
export type Places = z.infer<typeof Places>;

export const placesOf = <L extends Lists, H extends { id: string }>(document: Document<L, H>): Places =>
  Object.fromEntries(document.kind.names.map((list) => [list, rowsOf(document, list).map(({ at }) => at)]));

/** The document with its rows at these places. A list of which they say nothing, or not as much as it has, stays as it is. */
export function placedAt<L extends Lists, H extends { id: string }>(
  document: Document<L, H>,
  places: Places | undefined,
): Document<L, H> {
  if (!places) return document;
  let { nextAt } = document;
  const tables: Record<string, unknown> = {};
  for (const list of document.kind.names) {
    const own = Object.hasOwn(places, list) ? places[list]! : [];
    const rows = rowsOf(document, list);
    if (own.length !== rows.length) continue;
    const byId = new Map(rows.map(({ record }, index) => [record.id, own[index]!]));
    for (const at of own) nextAt = Math.max(nextAt, at + 1);
    tables[list] = (document.tables[list] as unknown as SortedMap<Placed>).mapped((row) => ({
      ...row,
      at: byId.get(row.record.id)!,
    }));
  }
  return { ...document, tables: { ...document.tables, ...tables } as typeof document.tables, nextAt };
}
