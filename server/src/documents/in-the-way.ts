import type {
  Actor,
  ChangeAnswer,
  ChangeOf,
  ConflictIn,
  Document,
  ListName,
  Lists,
  RefusalIn,
} from '@mule-tally/core';
import { recordOf, undoneBy } from '@mule-tally/core';
import type { Sql } from '../storage/sql.js';
import type { Journal, Writer } from './journal.js';
import type { Key } from './shelf.js';

/** Who is on the list of the crew. */
export interface Roster {
  known(crewId: string, ids: readonly string[], sql: Sql, epoch: string): Promise<ReadonlySet<string>>;
  nameOf(crewId: string, id: string, sql: Sql): Promise<string | undefined>;
  /** These people with their roles, those who are on the list. */
  actors(crewId: string, ids: readonly string[], sql: Sql): Promise<ReadonlyMap<string, Actor>>;
}

/** Says who did what stands in the way of a change, or was written over by it: by name, where the crew's list has one. */
export class InTheWay<L extends Lists, H extends { id: string }, B> {
  constructor(
    private readonly entries: Journal<L, H, B>,
    private readonly roster: () => Roster,
  ) {}

  /** A refused change, and for an undo that comes too late: who changed what since. */
  async refusal(
    sql: Sql,
    key: Key,
    document: Document<L, H>,
    change: ChangeOf<B>,
    refusal: RefusalIn<ListName<L>>,
    history: ReadonlyMap<string, { seq: number }>,
  ): Promise<ChangeAnswer> {
    let { message } = refusal;
    const since = Math.min(...undoneBy(change.body).flatMap((id) => history.get(id)?.seq ?? []));
    if (refusal.conflicts?.length && Number.isFinite(since)) {
      const said: string[] = [];
      for (const conflict of refusal.conflicts.slice(0, 3)) {
        const who = await this.entries.whoWrote(sql, key, since, conflict);
        const name = who && (await this.roster().nameOf(key[0]!, who.actorId, sql));
        said.push(`${name ?? 'Somebody'} changed ${whatOf(document, conflict)}.`);
      }
      message = `${message} ${[...new Set(said)].join(' ')}`.trim();
    }
    return {
      id: change.id,
      status: 'refused',
      code: refusal.code,
      message,
      ...(refusal.path && { path: refusal.path }),
    };
  }

  /** What a change wrote over that others had written since its maker looked, with their names; nothing where nobody else did. */
  async overwritten(
    sql: Sql,
    key: Key,
    document: Document<L, H>,
    author: Writer,
    conflicts: readonly ConflictIn<ListName<L>>[],
  ): Promise<string | undefined> {
    const said: string[] = [];
    for (const conflict of conflicts.slice(0, 3)) {
      const who = await this.entries.whoWrote(sql, key, 0, conflict);
      // What was entered on another of their devices was not seen on this one.
      if (!who || (who.actorId === author.actorId && who.deviceId === author.deviceId)) continue;
      const name = await this.roster().nameOf(key[0]!, who.actorId, sql);
      if (name) said.push(`${name} had changed ${whatOf(document, conflict)} meanwhile; yours stands now.`);
    }
    return said.length ? [...new Set(said)].join(' ') : undefined;
  }
}

/** "the tag of box S1" */
function whatOf<L extends Lists, H extends { id: string }>(
  document: Document<L, H>,
  { table, id, field }: ConflictIn<ListName<L>>,
): string {
  const { noun, lists } = document.kind;
  if (!table) return `the ${noun}’s ${field ?? 'settings'}`;
  const record = id
    ? (recordOf(document, table, id) as { tag?: string; name?: string } | undefined)
    : undefined;
  const name = record?.tag ?? record?.name;
  const own = lists[table]!.noun;
  return `${field ? `the ${field} of ` : ''}${name ? `${own} ${name}` : `a ${own}`}`;
}
