import type { Diff, JournalEntry, ListName, Lists, RowDiffOf, StoredChange } from '@mule-tally/core';
import { LIMITS, personOfVersion1 } from '@mule-tally/core';
import { columnName } from '../storage/entities.js';
import type { Proof } from '../people/caller.js';
import type { Sql } from '../storage/sql.js';
import { isOf } from './rows.js';
import type { Key, Shelf } from './shelf.js';

/** How far back is looked for who removed something. */
const WINDOW = 200;

interface WrittenRow {
  readonly by?: string | null;
  readonly actor_id: string | null;
  readonly device_id: string | null;
  readonly diff: unknown;
  readonly version: number;
}

/** Who made an entry: by id, and before version 2 by name. */
const actorFrom = (row: Pick<WrittenRow, 'actor_id' | 'by'>): string =>
  row.actor_id ?? personOfVersion1(row.by ?? '');

/** Who wrote something, and on which of their devices. */
export interface Writer {
  readonly actorId: string;
  readonly deviceId?: string | undefined;
}

export interface JournalQuery {
  readonly after?: number;
  readonly before?: number;
  readonly limit: number;
  readonly diffsOnly?: boolean;
}

/** Reads the journals of documents of one kind. Entries are brought to the present version as they are read. */
export class Journal<L extends Lists, H extends { id: string }, B> {
  constructor(private readonly shelf: Shelf<L, H, B>) {}

  private get of(): string {
    return isOf(this.shelf.rowKey);
  }

  /** Columns of an entry without its change, which may be large. */
  private columns(alias = ''): string {
    const own = [
      'seq',
      'change_id',
      'actor_id',
      'device_id',
      'made_at',
      'proof',
      'clock_offset_ms',
      'version',
      '"at"',
      'diff',
    ];
    return [...own, ...(this.shelf.hasNames ? ['"by"'] : [])]
      .map((column) => `${alias && `${alias}.`}${column}`)
      .join(', ');
  }

  /** Which of these changes are in the journal already. */
  async earlier(
    sql: Sql,
    key: Key,
    ids: readonly string[],
  ): Promise<Map<string, { seq: number; body: unknown }>> {
    if (ids.length === 0) return new Map();
    const rows = await sql.all<{ change_id: string; seq: number; change: unknown }>(
      `select change_id, seq, change from ${this.shelf.journal} where ${this.of} and change_id = any(?::uuid[])`,
      [...key, `{${ids.join(',')}}`],
    );
    return new Map(
      rows.map((row) => [
        row.change_id,
        { seq: row.seq, body: (this.shelf.changeFrom(row.change) as { body: unknown }).body },
      ]),
    );
  }

  /** What changes did, by their ids. */
  async history(
    sql: Sql,
    key: Key,
    ids: readonly string[],
  ): Promise<Map<string, { diff: Diff<ListName<L>>; seq: number }>> {
    if (ids.length === 0) return new Map();
    const rows = await sql.all<{ change_id: string; seq: number; diff: unknown; version: number }>(
      `select change_id, seq, diff, version from ${this.shelf.journal} where ${this.of} and change_id = any(?::uuid[])`,
      [...key, `{${ids.join(',')}}`],
    );
    return new Map(
      rows.map((row) => [row.change_id, { diff: this.shelf.diffFrom(row.diff, row.version), seq: row.seq }]),
    );
  }

  /** Records of these ids as they last stood before they were removed. */
  async removed(sql: Sql, key: Key, ids: readonly string[]): Promise<RowDiffOf<ListName<L>>[]> {
    const found: RowDiffOf<ListName<L>>[] = [];
    for (const id of ids.slice(0, 20)) {
      const rows = await sql.all<{ diff: unknown; version: number }>(
        `select diff, version from ${this.shelf.journal} where ${this.of} and diff @> ?::jsonb order by seq desc limit 1`,
        [...key, JSON.stringify({ rows: [{ id }] })],
      );
      for (const row of rows)
        found.push(
          ...this.shelf
            .diffFrom(row.diff, row.version)
            .rows.filter((one) => one.id === id && one.removed !== undefined),
        );
    }
    return found;
  }

  /** Entries after a number up to another, unless they are more than so many bytes. */
  async between(
    sql: Sql,
    key: Key,
    after: number,
    upTo: number,
    bytes: number,
  ): Promise<Diff<ListName<L>>[]> {
    const range = [...key, after, upTo];
    const rows = await sql.all<{ diff: unknown; version: number }>(
      `select diff, version from ${this.shelf.journal} where ${this.of} and seq > ? and seq <= ?
       and (select coalesce(sum(diff_bytes), 0) from ${this.shelf.journal} where ${this.of} and seq > ? and seq <= ?) < ?
       order by seq`,
      [...range, ...range, bytes],
    );
    return rows.map((row) => this.shelf.diffFrom(row.diff, row.version));
  }

  /** Bytes that are kept of what these changes did. */
  async weightOf(sql: Sql, key: Key, changeIds: readonly string[]): Promise<number> {
    if (changeIds.length === 0) return 0;
    const [row] = await sql.all<{ bytes: string | null }>(
      `select sum(diff_bytes) as bytes from ${this.shelf.journal} where ${this.of} and change_id = any(?::uuid[])`,
      [...key, `{${changeIds.join(',')}}`],
    );
    return Number(row?.bytes ?? 0);
  }

  /** Who wrote a field since: the row knows its last writer; for what is gone, and for the head, a look some way back. */
  async whoWrote(
    sql: Sql,
    key: Key,
    since: number,
    { table, id, field }: { table?: string; id?: string; field?: string },
  ): Promise<Writer | undefined> {
    const { journal, rowKey } = this.shelf;
    const writer = (row: WrittenRow): Writer => ({
      actorId: actorFrom(row),
      deviceId: row.device_id ?? undefined,
    });
    const isAbout = (entry: { diff: unknown; version: number }): boolean => {
      const { head, rows } = this.shelf.diffFrom(entry.diff, entry.version);
      if (!table || !id) return field !== undefined && field in head;
      return rows.some((row) => row.id === id && (!field || !row.changed || field in row.changed));
    };
    if (table && id) {
      const same = rowKey.map((column) => `j.${column} = r.${column}`).join(' and ');
      const [last] = await sql.all<WrittenRow>(
        `select ${this.columns('j')} from "${columnName(table)}" r join ${journal} j on ${same} and j.seq = r.written_seq
         where ${isOf(rowKey, 'r')} and r.id = ?`,
        [...key, id],
      );
      if (last && isAbout(last)) return writer(last);
    }
    const window = await sql.all<WrittenRow>(
      `select ${this.columns()} from ${journal} where ${this.of} and seq > ? and diff_bytes < ? order by seq desc limit ${WINDOW}`,
      [...key, since, LIMITS.pageBytes],
    );
    const found = window.find(isAbout);
    return found && writer(found);
  }

  /**
   * Entries after a number, or the newest ones before one. A page ends by count and by bytes; an entry that is larger than a
   * page travels alone.
   */
  async page(
    sql: Sql,
    key: Key,
    page: JournalQuery,
  ): Promise<{ entries: JournalEntry<Diff<ListName<L>>>[]; more: boolean }> {
    const forth = page.after !== undefined;
    const bytes = page.diffsOnly ? 'diff_bytes' : 'change_bytes + diff_bytes';
    const sizes = await sql.all<{ seq: number; bytes: number }>(
      `select seq, ${bytes} as bytes from ${this.shelf.journal} where ${this.of}
       ${forth ? 'and seq > ?' : ''} ${page.before !== undefined ? 'and seq < ?' : ''}
       order by seq ${forth ? 'asc' : 'desc'} limit ?`,
      [
        ...key,
        ...(forth ? [page.after] : []),
        ...(page.before !== undefined ? [page.before] : []),
        page.limit + 1,
      ],
    );
    let sum = 0;
    let count = 0;
    for (const { bytes: own } of sizes.slice(0, page.limit)) {
      if (count > 0 && sum + own > LIMITS.pageBytes) break;
      sum += own;
      count++;
    }
    const taken = sizes.slice(0, count).map((row) => row.seq);
    const entries = await this.entries(
      sql,
      key,
      'seq = any(?::int[])',
      `{${taken.join(',')}}`,
      page.diffsOnly,
    );
    if (!forth) entries.reverse();
    return { entries, more: sizes.length > count };
  }

  async entries(
    sql: Sql,
    key: Key,
    which: string,
    value: unknown,
    diffsOnly = false,
  ): Promise<JournalEntry<Diff<ListName<L>>>[]> {
    const rows = await sql.all<WrittenRow & Record<string, unknown>>(
      `select ${this.columns()}${diffsOnly ? '' : ', change'} from ${this.shelf.journal} where ${this.of} and ${which} order by seq`,
      [...key, value],
    );
    return rows.map((row) => ({
      seq: Number(row['seq']),
      changeId: String(row['change_id']),
      actorId: actorFrom(row),
      ...(row.device_id !== null && { deviceId: row.device_id }),
      ...(row['made_at'] !== null && { madeAt: new Date(row['made_at'] as string).toISOString() }),
      ...(row['proof'] !== null && { proof: row['proof'] as Proof }),
      ...(row['clock_offset_ms'] !== null && { clockOffsetMs: Number(row['clock_offset_ms']) }),
      at: new Date(row['at'] as string).toISOString(),
      ...(!diffsOnly && { change: this.shelf.changeFrom(row['change']) as StoredChange }),
      diff: this.shelf.diffFrom(row.diff, row.version),
    }));
  }
}
