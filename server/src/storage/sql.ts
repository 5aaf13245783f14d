import type { Transaction } from '@mikro-orm/core';
import type { Orm } from './orm.js';

/** Runs SQL within a transaction. Placeholders are question marks; rows come back as plain objects. */
export interface Sql {
  all<Row = Record<string, unknown>>(sql: string, values?: readonly unknown[]): Promise<Row[]>;
}

/**
 * Values travel beside the text, as parameters of the protocol: the connection's own way of writing them into the text would
 * cost seconds for a large change.
 */
export const sqlOf = (orm: Orm, transaction?: Transaction): Sql => ({
  async all<Row>(sql: string, values: readonly unknown[] = []): Promise<Row[]> {
    const query = orm.em
      .getConnection()
      .getKnex()
      .raw<{ rows: Row[] }>(sql, values as never);
    if (transaction) query.transacting(transaction);
    return (await query).rows;
  },
});

/**
 * The one way to what a crew has: a transaction whose connection says which crew it is, so that the policies of the database
 * show the rows of this crew and of no other. What it throws rolls it back. Queries name their crew all the same.
 */
export const inCrew = <T>(
  orm: Orm,
  crewId: string,
  work: (sql: Sql) => Promise<T>,
  reading = false,
): Promise<T> =>
  orm.em.getConnection().transactional(
    async (transaction) => {
      const sql = sqlOf(orm, transaction);
      await sql.all("select set_config('app.crew', ?, true)", [crewId]);
      return work(sql);
    },
    { ...(reading && { isolationLevel: 'repeatable read' as never, readOnly: true }) },
  );
