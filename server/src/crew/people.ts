import type { Person } from '@mule-tally/core';
import { personOfVersion1 } from '@mule-tally/core';
import type { Orm } from '../storage/orm.js';
import type { Sql } from '../storage/sql.js';
import { plainSql } from '../storage/sql.js';

/** The people of a crew: the only place in which names stand. */
export class People {
  constructor(private readonly orm: Orm) {}

  /** Everybody, those who came first before the others. */
  async all(crewId: string, sql: Sql = plainSql(this.orm)): Promise<Person[]> {
    return sql.all<{ id: string; name: string }>(
      'select id, name from person where crew_id = ? order by added_at, name',
      [crewId],
    );
  }

  /** Who has been found on a list before, by database, crew and id: nobody is ever taken off one. */
  private readonly met = new Set<string>();

  /** Which of these are on the list. */
  async known(crewId: string, ids: readonly string[], sql: Sql, epoch: string): Promise<ReadonlySet<string>> {
    const key = (id: string): string => `${epoch} ${crewId} ${id}`;
    if (ids.every((id) => this.met.has(key(id)))) return new Set(ids);
    const rows = await sql.all<{ id: string }>(
      'select id from person where crew_id = ? and id = any(?::uuid[])',
      [crewId, `{${[...new Set(ids)].join(',')}}`],
    );
    if (this.met.size > 10_000) this.met.clear();
    for (const { id } of rows) this.met.add(key(id));
    return new Set(rows.map(({ id }) => id));
  }

  /**
   * Puts people on the list, each under their own id: who is there already stays as they are, and a name that somebody else
   * has gets a number. Gives them as they stand.
   */
  async add(crewId: string, people: readonly Person[]): Promise<Person[]> {
    const sql = plainSql(this.orm);
    const there: Person[] = [];
    for (const { id, name } of people)
      for (let number = 1, one: Person | undefined; !one; number++) {
        const own = number === 1 ? name : `${name.slice(0, 190)} (${number})`;
        await sql.all(
          `insert into person (crew_id, id, name, added_at) values (?, ?, ?, now()) on conflict do nothing`,
          [crewId, id, own],
        );
        [one] = await sql.all<Person>('select id, name from person where crew_id = ? and id = ?', [
          crewId,
          id,
        ]);
        if (one) there.push(one);
      }
    return there;
  }

  /** Those whom devices of version 1 still send by name. */
  async know(crewId: string, names: ReadonlySet<string>): Promise<void> {
    await this.add(
      crewId,
      [...names].map((name) => ({ id: personOfVersion1(name), name })),
    );
  }
}
