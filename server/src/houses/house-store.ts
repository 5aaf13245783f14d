import type {
  BatchAnswer,
  Change,
  ChangeAnswer,
  ChangeBody,
  Conflict,
  Envelope,
  House,
  HouseFile,
  HouseSummary,
  JournalEntry,
  ReadChange,
  Refusal,
  StoredChange,
} from '@mule-tally/core';
import {
  CHANGE_VERSION,
  HouseDiff,
  LIMITS,
  TABLES,
  applyChange,
  applyDiff,
  copyHouseFile,
  emptyHouse,
  houseOf,
  isEmptyDiff,
  peopleIn,
  personOfVersion1,
  recordOf,
  sameJson,
  upgradeChange,
  upgradeDiff,
  writeHouseFile,
} from '@mule-tally/core';
import { People } from '../crew/people.js';
import { HttpProblem, isDatabaseAway, isHouseHeld, isTaken } from '../api/problem.js';
import { columnName } from '../storage/entities.js';
import type { Orm } from '../storage/orm.js';
import type { Sql } from '../storage/sql.js';
import { inTransaction, plainSql } from '../storage/sql.js';
import { HouseQueues } from './house-queue.js';
import { KeptHouses } from './kept-houses.js';
import type { HeadRow, HouseKey } from './rows.js';
import { insertHouse, readRows, writeDiff } from './rows.js';

/** Behind by more than this, in entries or in bytes, reading the rows is cheaper than folding the journal. */
const FOLD_AT_MOST = 500;
const FOLD_BYTES = 2 * 1024 * 1024;
/** Changes of one batch that commit together. */
const PART = 20;
/** How far back is looked for who removed something. */
const WINDOW = 200;

/**
 * What tells one database from another that has been put in its place: a restored one has other files. It stands in every
 * answer, so that whoever has read the old one reads anew.
 */
const EPOCH = `(select md5((select system_identifier from pg_control_system())::text || d.oid || pg_relation_filenode('house')) from pg_database d where d.datname = current_database()) as epoch`;
const HEAD = `select id, name, base, overrides, seq, ${EPOCH} from house where crew_id = ? and id = ?`;

interface CurrentRow extends HeadRow {
  readonly epoch: string;
}

const targets = (body: ChangeBody): string[] =>
  body.kind === 'revert'
    ? [body.of]
    : body.kind === 'group'
      ? body.changes.flatMap((change) => (change.kind === 'revert' ? [change.of] : []))
      : [];

/** What one transaction knows of changes made before and in it. */
interface Earlier {
  readonly seq: number;
  readonly body: unknown;
}

/** A diff as a journal keeps it, of whatever version: brought over where it is read, never rewritten. */
const diffFrom = (row: { readonly diff: unknown; readonly version: number }): HouseDiff =>
  HouseDiff.parse(upgradeDiff(row.diff, row.version));
/** Who made an entry: by id, and before version 2 by name. */
const actorFrom = (row: { readonly actor_id: string | null; readonly by: string | null }): string =>
  row.actor_id ?? personOfVersion1(row.by ?? '');

/**
 * Houses in the database. Changes that arrive together for a house share a transaction under the lock of its row: apply with
 * the core, write the rows that differ, append to the journal, each behind a savepoint; answers go out after the commit.
 * Nothing of a house lives only in this process.
 */
export class HouseStore {
  private readonly kept: KeptHouses;
  readonly people: People;
  private readonly queues: HouseQueues<ReadChange, ChangeAnswer>;
  /** Of the database as it was last seen. */
  epoch = '';

  constructor(
    private readonly orm: Orm,
    private readonly newId: () => string,
    private readonly now: () => Date = () => new Date(),
    kept = new KeptHouses(),
  ) {
    this.kept = kept;
    this.people = new People(orm);
    this.queues = new HouseQueues((name, changes) => this.applyTogether(keyOfKept(name), changes));
  }

  /** Houses of a crew, those changed last first, from a place in that order on. */
  async list(crewId: string, page = { offset: 0, limit: LIMITS.page as number }): Promise<HouseSummary[]> {
    const rows = await plainSql(this.orm).all<Record<string, string | number | Date>>(
      `select h.id, h.name, h.base, h.seq, h.changed_at,
         (select count(*)::int from rooms r where r.crew_id = h.crew_id and r.house_id = h.id) as rooms,
         (select count(*)::int from boxes b where b.crew_id = h.crew_id and b.house_id = h.id) as boxes,
         (select count(*)::int from runs r where r.crew_id = h.crew_id and r.house_id = h.id) as runs,
         (select count(distinct p.run_id)::int from pulls p
            where p.crew_id = h.crew_id and p.house_id = h.id and p.state = 'in') as runs_in
       from (select * from house where crew_id = ? order by changed_at desc, id limit ? offset ?) h
       order by h.changed_at desc, h.id`,
      [crewId, page.limit, page.offset],
    );
    return rows.map((row) => ({
      id: String(row['id']),
      name: String(row['name']),
      base: row['base'] as HouseSummary['base'],
      seq: Number(row['seq']),
      rooms: Number(row['rooms']),
      boxes: Number(row['boxes']),
      runs: Number(row['runs']),
      runsIn: Number(row['runs_in']),
      changedAt: new Date(row['changed_at'] as string).toISOString(),
    }));
  }

  async count(crewId: string): Promise<number> {
    const [row] = await plainSql(this.orm).all<{ count: number }>(
      'select count(*)::int as count from house where crew_id = ?',
      [crewId],
    );
    return row!.count;
  }

  /** An empty house. The same request again is no second house; another one of the same id is refused. */
  async create(
    crewId: string,
    head: { id: string; name: string; base: HouseSummary['base'] },
  ): Promise<'made' | 'there'> {
    const house = emptyHouse({ id: head.id, name: head.name, rulebook: { base: head.base, overrides: {} } });
    return this.insertAs({ crewId, houseId: head.id }, house);
  }

  private async insertOnce(key: HouseKey, house: House): Promise<'made' | 'there'> {
    try {
      await inTransaction(this.orm, (sql) => insertHouse(sql, key, house, this.now()));
      return 'made';
    } catch (error) {
      if (isTaken(error)) return 'there';
      throw error;
    }
  }

  /** Puts a house there under its id; one of another name that is there already is told. */
  private async insertAs(key: HouseKey, house: House): Promise<'made' | 'there'> {
    const how = await this.insertOnce(key, house);
    if (how === 'made') return how;
    const row = await this.row(plainSql(this.orm), key);
    if (row.name === house.head.name) return how;
    throw new HttpProblem(409, 'house.exists', `There is already a house of this id: “${row.name}”.`, {
      houseId: key.houseId,
    });
  }

  /** About how many records a house has; 0 for one that is not there. */
  async weight(key: HouseKey): Promise<number> {
    const counts = ['boxes', 'devices', 'points', 'runs', 'pulls', 'records'].map(
      (table) => `(select count(*) from ${table} where crew_id = h.crew_id and house_id = h.id)`,
    );
    const [row] = await plainSql(this.orm).all<{ weight: string }>(
      `select ${counts.join(' + ')} as weight from house h where h.crew_id = ? and h.id = ?`,
      [key.crewId, key.houseId],
    );
    return Number(row?.weight ?? 0);
  }

  /** Bytes that the journal keeps of what these changes did. */
  async weightOfChanges(key: HouseKey, changeIds: readonly string[]): Promise<number> {
    if (changeIds.length === 0) return 0;
    const [row] = await plainSql(this.orm).all<{ bytes: string | null }>(
      `select sum(diff_bytes) as bytes from journal
       where crew_id = ? and house_id = ? and change_id = any(?::uuid[])`,
      [key.crewId, key.houseId, `{${changeIds.join(',')}}`],
    );
    return Number(row?.bytes ?? 0);
  }

  /** The house as a file, and the number of the journal entry it stands at. */
  async read(key: HouseKey): Promise<{ file: HouseFile; seq: number }> {
    return inTransaction(
      this.orm,
      async (sql) => {
        const row = await this.row(sql, key);
        const house = await this.current(sql, key, row);
        const people = peopleIn(house).size ? await this.people.all(key.crewId, sql) : [];
        return { file: writeHouseFile(house, people), seq: row.seq };
      },
      true,
    );
  }

  /** Takes in a house file: as itself, as a copy under new ids, or in the place of the house of the same id. */
  async import(
    crewId: string,
    { people, ...lists }: HouseFile,
    actorId: string,
    onExisting: 'refuse' | 'copy' | 'replace',
  ): Promise<{ id: string; how: string }> {
    const file = { ...lists, people: [] };
    // Those whose work the file tells of.
    await this.people.add(crewId, people);
    const key = { crewId, houseId: file.id };
    if (onExisting !== 'replace' && (await this.insertOnce(key, houseOf(file))) === 'made') {
      return { id: file.id, how: 'imported' };
    }
    if (onExisting === 'refuse') {
      throw new HttpProblem(
        409,
        'house.exists',
        'This house is here already. Take it in as a copy, or replace the one that is here.',
        { houseId: file.id },
      );
    }
    if (onExisting === 'copy') {
      const copy = copyHouseFile(file, `${file.name} (copy)`.slice(0, 200), this.newId, true);
      await this.insertOnce({ crewId, houseId: copy.id }, houseOf(copy));
      return { id: copy.id, how: 'copied' };
    }
    if ((await this.insertOnce(key, houseOf(file))) === 'made') return { id: file.id, how: 'imported' };
    const change: Change = {
      id: this.newId(),
      version: CHANGE_VERSION,
      body: { kind: 'house.replace', file },
    };
    const [answer] = await this.enqueue(key, [{ ok: true, envelope: { change, actorId } }]);
    if (answer!.status === 'refused') throw new HttpProblem(422, answer!.code, answer!.message);
    return { id: file.id, how: answer!.status === 'applied' ? 'replaced' : 'unchanged' };
  }

  /** A copy for the next lot: nothing pulled, nothing recorded. Asking again with the same new id makes no second one. */
  async duplicate(key: HouseKey, id: string, name: string): Promise<'made' | 'there'> {
    const { file } = await this.read(key);
    const copy = { ...copyHouseFile(file, name, this.newId, false), id };
    return this.insertAs({ crewId: key.crewId, houseId: id }, houseOf(copy));
  }

  /** Applies an ordered batch; each change is judged and answered alone. */
  async applyBatch(
    key: HouseKey,
    changes: readonly ReadChange[],
    isGone?: () => boolean,
  ): Promise<BatchAnswer> {
    const answers: ChangeAnswer[] = [];
    // A long batch commits in parts, so that what is done is done.
    for (let start = 0; start < changes.length; start += PART)
      answers.push(...(await this.enqueue(key, changes.slice(start, start + PART), isGone)));
    const written = answers.flatMap((answer) => ('seq' in answer ? [answer.seq] : []));
    const seq = written.length ? Math.max(...written) : (await this.row(plainSql(this.orm), key)).seq;
    return { answers, seq };
  }

  private async enqueue(
    key: HouseKey,
    changes: readonly ReadChange[],
    isGone?: () => boolean,
  ): Promise<ChangeAnswer[]> {
    return this.queues.add(keptKey(key), changes, isGone);
  }

  /** Applies changes of one house in one transaction. */
  private async applyTogether(key: HouseKey, changes: readonly ReadChange[]): Promise<ChangeAnswer[]> {
    const outcome = await inTransaction(this.orm, async (sql) => {
      const row = await this.row(sql, key, true);
      const asked = changes.flatMap((read) => (read.ok ? [read.envelope.change] : []));
      const crew = await this.people.known(
        key.crewId,
        changes.flatMap((read) => (read.ok ? [read.envelope.actorId] : [])),
        sql,
        row.epoch,
      );
      const earlier = await this.earlier(sql, key, asked);
      const history = await this.history(
        sql,
        key,
        asked.flatMap(({ body }) => targets(body)),
      );
      const start = await this.current(sql, key, row);
      let house = start;
      let seq = row.seq;
      const answers: ChangeAnswer[] = [];
      for (const read of changes) {
        if (!read.ok) {
          answers.push({ id: read.id, status: 'refused', ...read.refusal });
          continue;
        }
        const { change, actorId } = read.envelope;
        const known = earlier.get(change.id);
        if (known) {
          answers.push(repeated(change, known));
          continue;
        }
        if (!crew.has(actorId)) {
          answers.push({ id: change.id, status: 'refused', ...NOBODY });
          continue;
        }
        const applied = applyChange(house, change.body, (id) => history.get(id)?.diff);
        if (!applied.ok) {
          answers.push(await this.refusal(sql, key, house, change, applied.refusal, history));
          continue;
        }
        if (isEmptyDiff(applied.diff) && change.body.kind === 'house.replace') {
          answers.push({ id: change.id, status: 'already applied', seq });
          continue;
        }
        // Asked before the row has a new writer.
        const over = await this.overwritten(
          sql,
          key,
          house,
          { ...read.envelope, actorId },
          applied.overwrote,
        );
        try {
          await this.write(sql, key, read.envelope, applied.diff, seq + 1, changes.length > 1);
        } catch (error) {
          // What the database cannot do at all fails the request; what it will not write, this change alone.
          if (changes.length < 2 || isDatabaseAway(error) || isHouseHeld(error)) throw error;
          await sql.all('rollback to savepoint one_change');
          answers.push({
            id: change.id,
            status: 'refused',
            code: 'server.failed',
            message: 'The server could not write this change. Try again.',
          });
          continue;
        }
        seq += 1;
        house = applied.document;
        earlier.set(change.id, { seq, body: change.body });
        history.set(change.id, { diff: applied.diff, seq });
        answers.push({
          id: change.id,
          status: 'applied',
          seq,
          diff: applied.diff,
          ...(over && { overwrote: over }),
        });
      }
      if (house !== start || seq !== row.seq) {
        const { name, rulebook } = house.head;
        await sql.all(
          house.head === start.head
            ? 'update house set seq = ?, changed_at = ? where crew_id = ? and id = ?'
            : 'update house set seq = ?, changed_at = ?, name = ?, base = ?, overrides = ?::jsonb where crew_id = ? and id = ?',
          [
            seq,
            this.now(),
            ...(house.head === start.head ? [] : [name, rulebook.base, JSON.stringify(rulebook.overrides)]),
            key.crewId,
            key.houseId,
          ],
        );
      }
      return { answers, house, seq, epoch: row.epoch };
    });
    // Only what has been committed is remembered. Live updates will be announced from here (NOTIFY) when they come.
    this.kept.keep(keptKey(key), outcome);
    return outcome.answers;
  }

  /** The rows that a change changed and its journal entry. */
  private async write(
    sql: Sql,
    key: HouseKey,
    { change, actorId, deviceId, madeAt }: Envelope,
    diff: HouseDiff,
    seq: number,
    isAmongOthers: boolean,
  ): Promise<void> {
    if (isAmongOthers) await sql.all('savepoint one_change');
    await writeDiff(sql, key, diff, seq);
    const [changeText, diffText] = [JSON.stringify(change), JSON.stringify(diff)];
    await sql.all(
      `insert into journal (crew_id, house_id, seq, change_id, actor_id, device_id, made_at, version, "at", change, diff,
         change_bytes, diff_bytes)
       values (?, ?, ?, ?, ?, ?, ?, ${CHANGE_VERSION}, ?, ?::jsonb, ?::jsonb, ?, ?)`,
      [
        key.crewId,
        key.houseId,
        seq,
        change.id,
        actorId,
        deviceId ?? null,
        madeAt ?? null,
        this.now(),
        changeText,
        diffText,
        Buffer.byteLength(changeText),
        Buffer.byteLength(diffText),
      ],
    );
  }

  /** Which of these changes are in the journal already. */
  private async earlier(sql: Sql, key: HouseKey, changes: readonly Change[]): Promise<Map<string, Earlier>> {
    if (changes.length === 0) return new Map();
    const rows = await sql.all<{ change_id: string; seq: number; change: unknown }>(
      `select change_id, seq, change from journal
       where crew_id = ? and house_id = ? and change_id = any(?::uuid[])`,
      [key.crewId, key.houseId, `{${changes.map(({ id }) => id).join(',')}}`],
    );
    return new Map(
      rows.map((row) => [
        row.change_id,
        { seq: row.seq, body: (upgradeChange(row.change) as { body: unknown }).body },
      ]),
    );
  }

  private async history(
    sql: Sql,
    key: HouseKey,
    ids: readonly string[],
  ): Promise<Map<string, { diff: HouseDiff; seq: number }>> {
    if (ids.length === 0) return new Map();
    const rows = await sql.all<{ change_id: string; seq: number; diff: unknown; version: number }>(
      `select change_id, seq, diff, version from journal where crew_id = ? and house_id = ? and change_id = any(?::uuid[])`,
      [key.crewId, key.houseId, `{${ids.join(',')}}`],
    );
    return new Map(rows.map((row) => [row.change_id, { diff: diffFrom(row), seq: row.seq }]));
  }

  /** A refused change, and for an undo that comes too late: who changed what since. */
  private async refusal(
    sql: Sql,
    key: HouseKey,
    house: House,
    change: Change,
    refusal: Refusal,
    history: ReadonlyMap<string, { seq: number }>,
  ): Promise<ChangeAnswer> {
    let { message } = refusal;
    const since = Math.min(...targets(change.body).flatMap((id) => history.get(id)?.seq ?? []));
    if (refusal.conflicts?.length && Number.isFinite(since)) {
      const said: string[] = [];
      for (const conflict of refusal.conflicts.slice(0, 3))
        said.push(
          `${(await this.whoWrote(sql, key, since, conflict)) ?? 'Somebody'} changed ${whatOf(house, conflict)}.`,
        );
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
  private async overwritten(
    sql: Sql,
    key: HouseKey,
    house: House,
    author: Author,
    conflicts: readonly Conflict[],
  ): Promise<string | undefined> {
    const said: string[] = [];
    for (const conflict of conflicts.slice(0, 3)) {
      const who = await this.whoWrote(sql, key, 0, conflict, author);
      if (who) said.push(`${who} had changed ${whatOf(house, conflict)} meanwhile; yours stands now.`);
    }
    return said.length ? [...new Set(said)].join(' ') : undefined;
  }

  /** Who wrote a field since: the row knows its last writer; for what is gone, and for the head, a look some way back. */
  private async whoWrote(
    sql: Sql,
    key: HouseKey,
    since: number,
    { table, id, field }: Conflict,
    otherThan?: Author,
  ): Promise<string | undefined> {
    const name = async (row: WrittenRow): Promise<string | undefined> => {
      const actorId = actorFrom(row);
      const isOwn = actorId === otherThan?.actorId && (row.device_id ?? undefined) === otherThan.deviceId;
      return isOwn
        ? undefined
        : (await this.people.all(key.crewId, sql)).find(({ id: own }) => own === actorId)?.name;
    };
    const isOf = (entry: { diff: unknown; version: number }): boolean => {
      const { head, rows } = diffFrom(entry);
      if (!table || !id) return field !== undefined && field in head;
      return rows.some((row) => row.id === id && (!field || !row.changed || field in row.changed));
    };
    if (table && id) {
      const [last] = await sql.all<WrittenRow>(
        `select j.by, j.actor_id, j.device_id, j.diff, j.version from "${columnName(table)}" r
         join journal j on j.crew_id = r.crew_id and j.house_id = r.house_id and j.seq = r.written_seq
         where r.crew_id = ? and r.house_id = ? and r.id = ?`,
        [key.crewId, key.houseId, id],
      );
      if (last && isOf(last)) return name(last);
    }
    const window = await sql.all<WrittenRow>(
      `select "by", actor_id, device_id, diff, version from journal where crew_id = ? and house_id = ? and seq > ? and diff_bytes < ?
       order by seq desc limit ${WINDOW}`,
      [key.crewId, key.houseId, since, LIMITS.pageBytes],
    );
    const found = window.find(isOf);
    return found && name(found);
  }

  /**
   * Journal entries after a number, or the newest ones before one. A page ends by count and by bytes; an entry that is larger
   * than a page travels alone.
   */
  async journal(
    key: HouseKey,
    page: { after?: number; before?: number; limit: number; diffsOnly?: boolean },
  ): Promise<{ entries: JournalEntry[]; seq: number; more: boolean }> {
    const sql = plainSql(this.orm);
    const { seq } = await this.row(sql, key);
    const forth = page.after !== undefined;
    const bytes = page.diffsOnly ? 'diff_bytes' : 'change_bytes + diff_bytes';
    const sizes = await sql.all<{ seq: number; bytes: number }>(
      `select seq, ${bytes} as bytes from journal where crew_id = ? and house_id = ?
       ${forth ? 'and seq > ?' : ''} ${page.before !== undefined ? 'and seq < ?' : ''}
       order by seq ${forth ? 'asc' : 'desc'} limit ?`,
      [
        key.crewId,
        key.houseId,
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
    const rows = await this.entries(sql, key, 'seq = any(?::int[])', `{${taken.join(',')}}`, page.diffsOnly);
    if (!forth) rows.reverse();
    return { seq, entries: rows, more: sizes.length > count };
  }

  /** One entry, by its change: what a device needs to undo something that it no longer remembers. */
  async entry(key: HouseKey, changeId: string): Promise<JournalEntry> {
    const sql = plainSql(this.orm);
    await this.row(sql, key);
    const [entry] = await this.entries(sql, key, 'change_id = ?', changeId, true);
    if (!entry)
      throw new HttpProblem(404, 'change.unknown', 'This change is not in the journal of this house.');
    return entry;
  }

  private async entries(
    sql: Sql,
    key: HouseKey,
    which: string,
    value: unknown,
    diffsOnly = false,
  ): Promise<JournalEntry[]> {
    const rows = await sql.all<Record<string, unknown>>(
      `select seq, change_id, "by", actor_id, device_id, made_at, version, "at", diff${diffsOnly ? '' : ', change'} from journal
       where crew_id = ? and house_id = ? and ${which} order by seq`,
      [key.crewId, key.houseId, value],
    );
    return rows.map((row) => ({
      seq: Number(row['seq']),
      changeId: String(row['change_id']),
      actorId: actorFrom(row as unknown as WrittenRow),
      ...(row['device_id'] !== null && { deviceId: String(row['device_id']) }),
      ...(row['made_at'] !== null && { madeAt: new Date(row['made_at'] as string).toISOString() }),
      at: new Date(row['at'] as string).toISOString(),
      ...(!diffsOnly && { change: upgradeChange(row['change']) as StoredChange }),
      diff: upgradeDiff(row['diff'], Number(row['version'])) as HouseDiff,
    }));
  }

  private async row(sql: Sql, key: HouseKey, isLocked = false): Promise<CurrentRow> {
    const [row] = await sql.all<CurrentRow>(`${HEAD}${isLocked ? ' for update' : ''}`, [
      key.crewId,
      key.houseId,
    ]);
    if (!row) throw new HttpProblem(404, 'house.unknown', 'There is no such house here.');
    this.epoch = row.epoch;
    return row;
  }

  /** The house at the number its row stands at: remembered, brought up with the journal, or read from its rows. */
  private async current(sql: Sql, key: HouseKey, row: CurrentRow): Promise<House> {
    const name = keptKey(key);
    const known = this.kept.get(name, row.epoch);
    if (known && known.seq === row.seq) return known.house;
    let house: House | undefined;
    if (known && known.seq < row.seq && row.seq - known.seq <= FOLD_AT_MOST) {
      const newer = await sql.all<{ diff: unknown; version: number }>(
        `select diff, version from journal where crew_id = ? and house_id = ? and seq > ? and seq <= ?
         and (select coalesce(sum(diff_bytes), 0) from journal
              where crew_id = ? and house_id = ? and seq > ? and seq <= ?) < ? order by seq`,
        [
          ...[key.crewId, key.houseId, known.seq, row.seq],
          ...[key.crewId, key.houseId, known.seq, row.seq],
          FOLD_BYTES,
        ],
      );
      if (newer.length === row.seq - known.seq)
        house = newer.reduce((at, entry) => applyDiff(at, diffFrom(entry)), known.house);
    }
    house ??= await readRows(sql, key, row);
    this.kept.keep(name, { seq: row.seq, house, epoch: row.epoch });
    return house;
  }
}

/** Who makes a change, and on which of their devices: what was entered on another one was not seen on this. */
type Author = Pick<Envelope, 'actorId' | 'deviceId'>;

interface WrittenRow {
  readonly by: string | null;
  readonly actor_id: string | null;
  readonly device_id: string | null;
  readonly diff: unknown;
  readonly version: number;
}

/** Until people sign in, whoever is on the crew's list may be spoken for by any device. */
const NOBODY = {
  code: 'person.unknown',
  message: 'Whoever made this is not on the list of the crew.',
} as const;

const keptKey = (key: HouseKey): string => `${key.crewId} ${key.houseId}`;
const keyOfKept = (name: string): HouseKey => {
  const [crewId, houseId] = name.split(' ') as [string, string];
  return { crewId, houseId };
};

function repeated(change: Change, earlier: Earlier): ChangeAnswer {
  if (sameJson(earlier.body, change.body))
    return { id: change.id, status: 'already applied', seq: earlier.seq };
  return {
    id: change.id,
    status: 'refused',
    code: 'change.id-reused',
    message: 'Another change of this house already has this id.',
  };
}

/** "the tag of box S1" */
function whatOf(house: House, { table, id, field }: Conflict): string {
  if (!table) return `the house’s ${field ?? 'settings'}`;
  const record = id ? recordOf(house, table, id) : undefined;
  const name = record && ('tag' in record ? record.tag : 'name' in record ? record.name : undefined);
  return `${field ? `the ${field} of ` : ''}${name ? `${TABLES[table].noun} ${name}` : `a ${TABLES[table].noun}`}`;
}
