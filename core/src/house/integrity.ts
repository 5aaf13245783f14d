import type { House } from './house.js';
import { rowOf, tableHolding } from './house.js';
import type { TableName } from './model.js';
import { TABLES } from './model.js';
import type { Problem } from '../vocabulary/problem.js';
import { mentionsIn } from './references.js';

/** Mentions in one record of records that the house does not hold, with their path from `root`. */
export function danglingIn(house: House, table: TableName, record: object, root: string): Problem[] {
  return mentionsIn(table, record)
    .filter(({ reference, id }) => !rowOf(house, reference.table, id))
    .map(({ reference, id, at }) => {
      const elsewhere = tableHolding(house, id);
      return {
        code: 'house.dangling',
        message: elsewhere
          ? `This should name a ${TABLES[reference.table].noun}, but ${id} is a ${TABLES[elsewhere].noun}.`
          : `This names a ${TABLES[reference.table].noun} that the house does not have (${id}).`,
        path: `${root}${at}`,
      };
    });
}
