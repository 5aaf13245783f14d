import type {
  Actor,
  BatchAnswer,
  ChangeAnswer,
  ChangeOf,
  Diff,
  Document,
  EnvelopeOf,
  JournalEntry,
  ListName,
  Lists,
  ReadEnvelope,
} from '@mule-tally/core';
import { CHANGE_VERSION, applyDiff, isEmptyDiff, undoneBy } from '@mule-tally/core';
import { HttpProblem, isDatabaseAway, isHouseHeld } from '../api/problem.js';
import type { Orm } from '../storage/orm.js';
import type { Sql } from '../storage/sql.js';
import { inCrew } from '../storage/sql.js';
import type { NoWord, Proof, Word } from '../people/caller.js';
import type { Roster } from './in-the-way.js';
import { InTheWay } from './in-the-way.js';
import type { JournalQuery } from './journal.js';
import { Journal } from './journal.js';
import type { KeptDocuments } from './kept.js';
import { Queues } from './queues.js';
import { isOf, readRows, writeDiff } from './rows.js';
import type { Key, Shelf } from './shelf.js';

/** Behind by more than this, in entries or in bytes, reading the rows is cheaper than folding the journal. */
const FOLD_AT_MOST = 500;
const FOLD_BYTES = 2 * 1024 * 1024;
/** Changes of one batch that commit together. */
const PART = 20;

/**
 * What tells one database from another that has been put in its place: a restored one has other files. It stands in every
 * answer, so that whoever has read the old one reads anew.
 */
const EPOCH = `(select md5((select system_identifier from pg_control_system())::text || d.oid || pg_relation_filenode('house')) from pg_database d where d.datname = current_database()) as epoch`;

/** The row of a head, the database it stands in, and the number of the last entry of its journal. */
interface HeadRow {
  readonly epoch: string;
  readonly seq: number;
  readonly [column: string]: unknown;
}

/** A change that was sent; `with` is written in the same transaction, after it, where it is taken. */
export type Asked<B> = ReadEnvelope<B> & {
  readonly with?: (sql: Sql) => Promise<void>;
  /** On whose rights it is judged; or why it is taken from nobody here. */
  readonly word?: Word | NoWord;
};

/** What a document has become, with the answers to what made it so. */
export interface Outcome<L extends Lists, H extends { id: string }> {
  readonly answers: ChangeAnswer[];
  readonly document: Document<L, H>;
  readonly seq: number;
  readonly epoch: string;
}

const NOBODY = {
  code: 'person.unknown',
  message: 'Whoever made this is not on the list of the crew.',
} as const;

/** The word on which a change is taken: of one that was handed over, on the rights of whoever made it. */
function onRightsOf(makers: ReadonlyMap<string, Actor>, word: Word | NoWord, actorId: string): Word | NoWord {
  if (!('isForMaker' in word)) return word;
  return { ...word, actor: makers.get(actorId) ?? { id: actorId } };
}

const nameOfKey = (key: Key): string => key.join(' ');
const crewOf = (key: Key): string => key[0]!;

function repeated(
  change: ChangeOf<unknown>,
  earlier: { seq: number; body: unknown },
  noun: string,
  isSame: (stored: unknown, sent: unknown) => boolean,
): ChangeAnswer {
  if (isSame(earlier.body, change.body))
    return { id: change.id, status: 'already applied', seq: earlier.seq };
  return {
    id: change.id,
    status: 'refused',
    code: 'change.id-reused',
    message: `Another change of this ${noun} already has this id.`,
  };
}

/**
 * Documents of one kind in the database. Changes that arrive together for one share a transaction under the lock of its row:
 * apply with the core, write the rows that differ, append to the journal, each behind a savepoint; answers go out after the
 * commit. Nothing of a document lives only in this process.
 */
export class DocumentStore<L extends Lists, H extends { id: string }, B> {
  private readonly queues: Queues<Asked<B>, ChangeAnswer>;
  protected readonly entries: Journal<L, H, B>;
  private readonly tellers: InTheWay<L, H, B>;
  /** Of the database as it was last seen. */
  epoch = '';
  /** Told after a commit: of which document, and the number of its last entry. */
  onWritten: (key: Key, seq: number) => void = () => undefined;

  constructor(
    protected readonly orm: Orm,
    protected readonly shelf: Shelf<L, H, B>,
    private readonly roster: () => Roster,
    protected readonly now: () => Date,
    private readonly kept: KeptDocuments<L, H>,
  ) {
    this.entries = new Journal(shelf);
    this.tellers = new InTheWay(this.entries, roster);
    this.queues = new Queues(shelf.kind.noun, (name, asked) => this.applyTogether(name.split(' '), asked));
  }

  private get noun(): string {
    return this.shelf.kind.noun;
  }

  /** The document and the number of the entry that it stands at, as they are in one moment. */
  async document(key: Key): Promise<{ document: Document<L, H>; seq: number }> {
    return inCrew(this.orm, crewOf(key), (sql) => this.documentIn(sql, key), true);
  }

  protected async documentIn(sql: Sql, key: Key): Promise<{ document: Document<L, H>; seq: number }> {
    const row = await this.row(sql, key);
    return { document: await this.current(sql, key, row), seq: row.seq };
  }

  /** Bytes that the journal keeps of what these changes did. */
  async weightOfDiffs(key: Key, changeIds: readonly string[]): Promise<number> {
    return inCrew(this.orm, crewOf(key), (sql) => this.entries.weightOf(sql, key, changeIds), true);
  }

  /** Applies an ordered batch; each change is judged and answered alone. */
  async apply(key: Key, changes: readonly Asked<B>[], isGone?: () => boolean): Promise<BatchAnswer> {
    const answers: ChangeAnswer[] = [];
    // A long batch commits in parts, so that what is done is done.
    for (let start = 0; start < changes.length; start += PART)
      answers.push(...(await this.queues.add(nameOfKey(key), changes.slice(start, start + PART), isGone)));
    const written = answers.flatMap((answer) => ('seq' in answer ? [answer.seq] : []));
    const seq = written.length ? Math.max(...written) : (await this.head(key)).seq;
    return { answers, seq };
  }

  private async applyTogether(key: Key, asked: readonly Asked<B>[]): Promise<ChangeAnswer[]> {
    const outcome = await inCrew(this.orm, crewOf(key), async (sql) => this.applyIn(sql, key, asked));
    // Only what has been committed is remembered, and announced.
    this.kept.keep(nameOfKey(key), outcome);
    if (outcome.answers.some(({ status }) => status === 'applied')) this.onWritten(key, outcome.seq);
    return outcome.answers;
  }

  /**
   * Applies changes in a transaction that is open. What it gives is not to be remembered before the commit; nor is what it
   * starts from where the transaction is not its own, and may have written it.
   */
  protected async applyIn(
    sql: Sql,
    key: Key,
    asked: readonly Asked<B>[],
    isOwn = true,
  ): Promise<Outcome<L, H>> {
    const { shelf } = this;
    const row = await this.row(sql, key, true);
    const envelopes = asked.flatMap((read) => (read.ok ? [read.envelope] : []));
    const crew = await this.roster().known(
      key[0]!,
      envelopes.map(({ actorId }) => actorId),
      sql,
      row.epoch,
    );
    const earlier = await this.entries.earlier(
      sql,
      key,
      envelopes.map(({ change }) => change.id),
    );
    const history = await this.entries.history(
      sql,
      key,
      envelopes.flatMap(({ change }) => undoneBy(change.body)),
    );
    const brought = asked.flatMap((read) =>
      read.ok && read.word && 'isForMaker' in read.word ? [read.envelope.actorId] : [],
    );
    const makers = await this.roster().actors(crewOf(key), brought, sql);
    const start = await this.current(sql, key, row, isOwn);
    let document = start;
    let seq = row.seq;
    const answers: ChangeAnswer[] = [];
    for (const read of asked) {
      if (!read.ok) {
        answers.push({ id: read.id, status: 'refused', ...read.refusal });
        continue;
      }
      const { change, actorId } = read.envelope;
      const known = earlier.get(change.id);
      if (known) {
        answers.push(
          repeated(
            { ...change, body: shelf.stored(change.body, NOTHING).body },
            known,
            this.noun,
            shelf.isSame,
          ),
        );
        continue;
      }
      const word = onRightsOf(makers, read.word ?? {}, actorId);
      if ('code' in word) {
        answers.push({ id: change.id, status: 'refused', ...word });
        continue;
      }
      if (!crew.has(actorId) && !shelf.knows(document, change.body, actorId)) {
        answers.push({ id: change.id, status: 'refused', ...NOBODY });
        continue;
      }
      const undone = (id: string): Diff<ListName<L>> | undefined => history.get(id)?.diff;
      const noRight = word.actor && shelf.mayChange(word.actor, change.body, document, undone);
      if (noRight) {
        answers.push({ id: change.id, status: 'refused', ...noRight });
        continue;
      }
      let { envelope } = read;
      let applied = shelf.apply(document, change.body, undone);
      let over: string | undefined;
      if (!applied.ok && word.actor) {
        const rescued = await this.rescued(sql, key, document, change.body);
        const again = rescued && shelf.apply(document, rescued.body, undone);
        if (again?.ok) {
          applied = again;
          envelope = { ...envelope, change: { ...change, body: rescued!.body } };
          over = rescued!.said;
        }
      }
      if (!applied.ok) {
        const answer = await this.tellers.refusal(sql, key, document, change, applied.refusal, history);
        answers.push(await this.held(sql, key, read.envelope, word, answer));
        continue;
      }
      if (isEmptyDiff(applied.diff) && shelf.isIdle(change.body)) {
        await read.with?.(sql);
        answers.push({ id: change.id, status: 'already applied', seq });
        continue;
      }
      // Asked before the row has a new writer.
      over ??= await this.tellers.overwritten(sql, key, document, read.envelope, applied.overwrote);
      try {
        if (asked.length > 1) await sql.all('savepoint one_change');
        await this.write(sql, key, envelope, word.proof, applied.diff, seq + 1);
        await this.wasWritten(sql, key, applied.document, applied.diff);
        await read.with?.(sql);
      } catch (error) {
        // What the database cannot do at all fails the request; what it will not write, this change alone.
        if (asked.length < 2 || isDatabaseAway(error) || isHouseHeld(error)) throw error;
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
      document = applied.document;
      earlier.set(change.id, { seq, body: shelf.stored(envelope.change.body, NOTHING).body });
      history.set(change.id, { diff: applied.diff, seq });
      answers.push({
        id: change.id,
        status: 'applied',
        seq,
        diff: applied.diff,
        ...(over && { overwrote: over }),
      });
    }
    if (seq !== row.seq) {
      await this.writeHead(sql, key, document, start, seq);
      await this.wereTaken(
        sql,
        key,
        answers.flatMap(({ id, status }) => (status === 'applied' ? [id] : [])),
      );
    }
    return { answers, document, seq, epoch: row.epoch };
  }

  /** What a change brings back that was taken out meanwhile, where what is in the wall beats the plan. */
  protected rescued(
    _sql: Sql,
    _key: Key,
    _document: Document<L, H>,
    _body: B,
  ): Promise<{ readonly body: B; readonly said: string } | undefined> {
    return Promise.resolve(undefined);
  }

  /** A refused change, kept for a lead where it can be. */
  protected held(
    _sql: Sql,
    _key: Key,
    _envelope: EnvelopeOf<B>,
    _word: Word,
    answer: ChangeAnswer,
  ): Promise<ChangeAnswer> {
    return Promise.resolve(answer);
  }

  /** What follows from what a change wrote, in its transaction: projections over several documents. */
  protected wasWritten(
    _sql: Sql,
    _key: Key,
    _document: Document<L, H>,
    _diff: Diff<ListName<L>>,
  ): Promise<void> {
    return Promise.resolve();
  }

  /** Changes have been taken, some of which may have waited for a lead since they came for the first time. */
  protected wereTaken(_sql: Sql, _key: Key, _ids: readonly string[]): Promise<void> {
    return Promise.resolve();
  }

  private async writeHead(
    sql: Sql,
    key: Key,
    document: Document<L, H>,
    start: Document<L, H>,
    seq: number,
  ): Promise<void> {
    const { headTable, headKey, headColumns } = this.shelf;
    const isSame = document.head === start.head;
    const sets = isSame ? [] : headColumns.map(({ name, json }) => `${name} = ?${json ? '::jsonb' : ''}`);
    await sql.all(
      `update ${headTable} set ${['seq = ?', 'changed_at = ?', ...sets].join(', ')} where ${isOf(headKey)}`,
      [seq, this.now(), ...(isSame ? [] : this.shelf.headValues(document.head)), ...key],
    );
  }

  /** The rows that a change changed and its journal entry. */
  private async write(
    sql: Sql,
    key: Key,
    { change, actorId, deviceId, madeAt, clockOffsetMs }: EnvelopeOf<B>,
    proof: Proof | undefined,
    diff: Diff<ListName<L>>,
    seq: number,
  ): Promise<void> {
    await writeDiff(sql, this.shelf, key, diff, seq);
    const stored = this.shelf.stored(change.body, diff);
    const [changeText, diffText] = [
      JSON.stringify({ ...change, body: stored.body }),
      JSON.stringify(stored.diff),
    ];
    await sql.all(
      `insert into ${this.shelf.journal} (${this.shelf.rowKey.join(', ')}, seq, change_id, actor_id, device_id, made_at,
         proof, clock_offset_ms, version, "at", change, diff, change_bytes, diff_bytes)
       values (${key.map(() => '?').join(', ')}, ?, ?, ?, ?, ?, ?, ?, ${CHANGE_VERSION}, ?, ?::jsonb, ?::jsonb, ?, ?)`,
      [
        ...key,
        seq,
        change.id,
        actorId,
        deviceId ?? null,
        madeAt ?? null,
        proof ?? null,
        clockOffsetMs ?? null,
        this.now(),
        changeText,
        diffText,
        Buffer.byteLength(changeText),
        Buffer.byteLength(diffText),
      ],
    );
  }

  /** Journal entries after a number, or the newest ones before one. */
  async journal(
    key: Key,
    page: JournalQuery,
  ): Promise<{ entries: JournalEntry<Diff<ListName<L>>>[]; seq: number; more: boolean }> {
    return inCrew(
      this.orm,
      crewOf(key),
      async (sql) => {
        const { seq } = await this.row(sql, key);
        return { seq, ...(await this.entries.page(sql, key, page)) };
      },
      true,
    );
  }

  /** One entry, by its change: what a device needs to undo something that it no longer remembers. */
  async entry(key: Key, changeId: string): Promise<JournalEntry<Diff<ListName<L>>>> {
    const [entry] = await inCrew(
      this.orm,
      crewOf(key),
      async (sql) => {
        await this.row(sql, key);
        return this.entries.entries(sql, key, 'change_id = ?', changeId, true);
      },
      true,
    );
    if (!entry)
      throw new HttpProblem(404, 'change.unknown', `This change is not in the journal of this ${this.noun}.`);
    return entry;
  }

  /** The row of the head, as it stands. */
  protected head(key: Key): Promise<HeadRow> {
    return inCrew(this.orm, crewOf(key), (sql) => this.row(sql, key), true);
  }

  /** One query among what a crew has. */
  protected ask<Row>(crewId: string, query: string, values: readonly unknown[]): Promise<Row[]> {
    return inCrew(this.orm, crewId, (sql) => sql.all<Row>(query, values), true);
  }

  protected async row(sql: Sql, key: Key, isLocked = false): Promise<HeadRow> {
    const { headTable, headKey, headColumns } = this.shelf;
    const columns = ['id', ...headColumns.map(({ name }) => name), 'seq'].join(', ');
    const [row] = await sql.all<HeadRow>(
      `select ${columns}, ${EPOCH} from ${headTable} where ${isOf(headKey)}${isLocked ? ' for update' : ''}`,
      key,
    );
    if (!row) throw new HttpProblem(404, `${this.noun}.unknown`, `There is no such ${this.noun} here.`);
    this.epoch = row.epoch;
    return row;
  }

  /** The document at the number its row stands at: remembered, brought up with the journal, or read from its rows. */
  private async current(sql: Sql, key: Key, row: HeadRow, isCommitted = true): Promise<Document<L, H>> {
    const name = nameOfKey(key);
    const known = this.kept.get(name, row.epoch);
    if (known && known.seq === row.seq) return known.document;
    let document: Document<L, H> | undefined;
    if (this.shelf.folds && known && known.seq < row.seq && row.seq - known.seq <= FOLD_AT_MOST) {
      const newer = await this.entries.between(sql, key, known.seq, row.seq, FOLD_BYTES);
      if (newer.length === row.seq - known.seq)
        document = newer.reduce((at, diff) => applyDiff(at, diff), known.document);
    }
    document ??= await readRows(sql, this.shelf, key, this.shelf.headFrom(row));
    if (isCommitted) this.kept.keep(name, { seq: row.seq, document, epoch: row.epoch });
    return document;
  }
}

const NOTHING = { head: {}, rows: [] };
