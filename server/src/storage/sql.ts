import type { Transaction } from '@mikro-orm/core';
import type { Orm } from './orm.js';

/** Runs SQL, within a transaction or by itself. Placeholders are question marks; rows come back as plain objects. */
export interface Sql {
  all<Row = Record<string, unknown>>(sql: string, values?: readonly unknown[]): Promise<Row[]>;
}

/**
 * Values travel beside the text, as parameters of the protocol: the connection's own way of writing them into the text would
 * cost seconds for a large change.
 */
const sqlOf = (orm: Orm, transaction?: Transaction): Sql => ({
  async all<Row>(sql: string, values: readonly unknown[] = []): Promise<Row[]> {
    const query = orm.em
      .getConnection()
      .getKnex()
      .raw<{ rows: Row[] }>(sql, values as never);
    if (transaction) query.transacting(transaction);
    return (await query).rows;
  },
});

/** SQL outside of any transaction. */
export const plainSql = (orm: Orm): Sql => sqlOf(orm);

/** One transaction; what it throws rolls it back. */
export const inTransaction = <T>(orm: Orm, work: (sql: Sql) => Promise<T>, reading = false): Promise<T> =>
  orm.em.getConnection().transactional((transaction) => work(sqlOf(orm, transaction)), {
    ...(reading && { isolationLevel: 'repeatable read' as never, readOnly: true }),
  });
