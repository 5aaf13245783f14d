import type { Problem } from '../vocabulary/problem.js';
import type { Document, ListName, Lists } from './document.js';
import { mentionsOf, rowOf, tableHolding } from './document.js';

/** Mentions in one record of records that the document does not hold, with their path from `root`. */
export function danglingIn<L extends Lists, H extends { id: string }>(
  document: Document<L, H>,
  table: ListName<L>,
  record: object,
  root: string,
): Problem[] {
  const { lists, noun } = document.kind;
  return mentionsOf(document, table, record)
    .filter(({ reference, id }) => !rowOf(document, reference.table, id))
    .map(({ reference, id, at }) => {
      const elsewhere = tableHolding(document, id);
      return {
        code: `${noun}.dangling`,
        message: elsewhere
          ? `This should name a ${lists[reference.table]!.noun}, but ${id} is a ${lists[elsewhere]!.noun}.`
          : `This names a ${lists[reference.table]!.noun} that the ${noun} does not have (${id}).`,
        path: `${root}${at}`,
      };
    });
}
