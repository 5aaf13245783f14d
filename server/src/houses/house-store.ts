import { LockMode, UniqueConstraintViolationException } from '@mikro-orm/core';
import type { EntityManager } from '@mikro-orm/postgresql';
import type {
  BatchAnswer,
  Change,
  ChangeAnswer,
  ChangeBody,
  Conflict,
  House,
  HouseFile,
  HouseSummary,
  JournalEntry,
  Refusal,
} from '@mule-tally/core';
import {
  CHANGE_VERSION,
  HouseDiff,
  TABLES,
  applyChange,
  applyDiff,
  copyHouseFile,
  emptyHouse,
  houseOf,
  recordOf,
  sameJson,
  writeHouseFile,
} from '@mule-tally/core';
import { HttpProblem } from '../api/problem.js';
import type { HouseRow, JournalRow } from '../storage/entities.js';
import { HouseEntity, JournalEntity } from '../storage/entities.js';
import type { Orm } from '../storage/orm.js';
import type { HouseKey } from './rows.js';
import { insertHouse, readRows, writeDiff } from './rows.js';

/** Houses in the memory of one process; enough for a crew's working day, and only ever a shortcut. */
const KEPT_HOUSES = 20;
/** Behind by more than this, reading the rows is cheaper than folding the journal. */
const FOLD_AT_MOST = 500;

const targets = (body: ChangeBody): string[] =>
  body.kind === 'revert'
    ? [body.of]
    : body.kind === 'group'
      ? body.changes.flatMap((change) => (change.kind === 'revert' ? [change.of] : []))
      : [];

/**
 * Houses in the database. Every change is one transaction under the lock of its house's row: apply with the core, write
 * the rows that differ, append to the journal. Nothing of a house lives only in this process.
 */
export class HouseStore {
  private readonly kept = new Map<string, { seq: number; house: House }>();

  constructor(
    private readonly orm: Orm,
    private readonly newId: () => string,
    private readonly now: () => Date = () => new Date(),
  ) {}

  async list(crewId: string): Promise<HouseSummary[]> {
    const rows = await this.orm.em
      .fork()
      .getConnection()
      .execute<Record<string, string | number | Date>[]>(
        `select h.id, h.name, h.base, h.seq, h.changed_at,
         (select count(*)::int from rooms r where r.crew_id = h.crew_id and r.house_id = h.id) as rooms,
         (select count(*)::int from boxes b where b.crew_id = h.crew_id and b.house_id = h.id) as boxes,
         (select count(*)::int from runs r where r.crew_id = h.crew_id and r.house_id = h.id) as runs,
         (select count(distinct p.run_id)::int from pulls p
            where p.crew_id = h.crew_id and p.house_id = h.id and p.state = 'in') as runs_in
       from house h where h.crew_id = ? order by h.changed_at desc, h.id`,
        [crewId],
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

  /** An empty house. The same request again is no second house. */
  async create(
    crewId: string,
    head: { id: string; name: string; base: HouseSummary['base'] },
  ): Promise<'made' | 'there'> {
    const house = emptyHouse({ id: head.id, name: head.name, rulebook: { base: head.base, overrides: {} } });
    return this.insertOnce({ crewId, houseId: head.id }, house);
  }

  private async insertOnce(key: HouseKey, house: House): Promise<'made' | 'there'> {
    try {
      await this.orm.em.fork().transactional((em) => insertHouse(em, key, house));
      return 'made';
    } catch (error) {
      if (error instanceof UniqueConstraintViolationException) return 'there';
      throw error;
    }
  }

  /** The house as a file, and the number of the journal entry it stands at. */
  async read(key: HouseKey): Promise<{ file: HouseFile; seq: number }> {
    return this.orm.em.fork().transactional(
      async (em) => {
        const row = await this.row(em, key);
        return { file: writeHouseFile(await this.current(em, key, row)), seq: row.seq };
      },
      { isolationLevel: 'repeatable read' as never },
    );
  }

  /** Takes in a house file: as itself, as a copy under new ids, or in the place of the house of the same id. */
  async import(
    crewId: string,
    file: HouseFile,
    by: string,
    onExisting: 'refuse' | 'copy' | 'replace',
  ): Promise<{ id: string; how: string }> {
    const key = { crewId, houseId: file.id };
    if (onExisting !== 'replace' && (await this.insertOnce(key, houseOf(file))) === 'made') {
      return { id: file.id, how: 'imported' };
    }
    if (onExisting === 'refuse') {
      throw new HttpProblem(
        409,
        'house.exists',
        'This house is here already. Take it in as a copy, or replace the one that is here.',
        {
          houseId: file.id,
        },
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
      by,
      body: { kind: 'house.replace', file },
    };
    const answer = await this.apply(key, change);
    if (answer.status === 'refused') throw new HttpProblem(422, answer.code, answer.message);
    return { id: file.id, how: 'replaced' };
  }

  /** A copy for the next lot: nothing pulled, nothing recorded. Asking again with the same new id makes no second one. */
  async duplicate(key: HouseKey, id: string, name: string): Promise<'made' | 'there'> {
    const { file } = await this.read(key);
    const copy = { ...copyHouseFile(file, name, this.newId, false), id };
    return this.insertOnce({ crewId: key.crewId, houseId: id }, houseOf(copy));
  }

  /** Applies an ordered batch; each change commits alone and is answered alone. */
  async applyBatch(key: HouseKey, changes: readonly Change[]): Promise<BatchAnswer> {
    const answers: ChangeAnswer[] = [];
    for (const change of changes) answers.push(await this.apply(key, change));
    const row = await this.row(this.orm.em.fork(), key);
    return { answers, seq: row.seq };
  }

  private async apply(key: HouseKey, change: Change): Promise<ChangeAnswer> {
    const outcome = await this.orm.em.fork().transactional(async (em) => {
      const row = await this.row(em, key, LockMode.PESSIMISTIC_WRITE);
      const earlier = await em.findOne(JournalEntity, { ...key, changeId: change.id });
      if (earlier) return { answer: this.repeated(change, earlier) };
      const house = await this.current(em, key, row);
      const history = await this.history(em, key, targets(change.body));
      const applied = applyChange(house, change.body, (id) => history.get(id)?.diff);
      if (!applied.ok) {
        return { answer: await this.refusal(em, key, house, change, applied.refusal, history) };
      }
      const seq = row.seq + 1;
      await writeDiff(em, key, applied.diff);
      await em.insert(JournalEntity, {
        ...key,
        seq,
        changeId: change.id,
        by: change.by,
        at: this.now(),
        change,
        diff: applied.diff,
      });
      const { name, rulebook } = applied.house.head;
      await em.nativeUpdate(
        HouseEntity,
        { crewId: key.crewId, id: key.houseId },
        {
          seq,
          changedAt: this.now(),
          ...(Object.keys(applied.diff.head).length > 0 && {
            name,
            base: rulebook.base,
            overrides: rulebook.overrides,
          }),
        },
      );
      const answer: ChangeAnswer = { id: change.id, status: 'applied', seq, diff: applied.diff };
      return { answer, house: applied.house, seq };
    });
    // Only what has been committed is remembered. Live updates will be announced from here (NOTIFY) when they come.
    if (outcome.house) this.keep(key, outcome.seq, outcome.house);
    return outcome.answer;
  }

  private repeated(change: Change, earlier: JournalRow): ChangeAnswer {
    if (sameJson((earlier.change as Change).body, change.body)) {
      return { id: change.id, status: 'already applied', seq: earlier.seq };
    }
    return {
      id: change.id,
      status: 'refused',
      code: 'change.id-reused',
      message: 'Another change of this house already has this id.',
    };
  }

  private async history(em: EntityManager, key: HouseKey, ids: readonly string[]) {
    const history = new Map<string, { diff: HouseDiff; seq: number }>();
    if (ids.length === 0) return history;
    for (const entry of await em.find(JournalEntity, { ...key, changeId: { $in: [...ids] } })) {
      history.set(entry.changeId, { diff: HouseDiff.parse(entry.diff), seq: entry.seq });
    }
    return history;
  }

  /** A refused change, and for an undo that comes too late: who changed what since. */
  private async refusal(
    em: EntityManager,
    key: HouseKey,
    house: House,
    change: Change,
    refusal: Refusal,
    history: ReadonlyMap<string, { seq: number }>,
  ): Promise<ChangeAnswer> {
    let { message } = refusal;
    const since = Math.min(...[...history.values()].map(({ seq }) => seq));
    if (refusal.conflicts?.length && Number.isFinite(since)) {
      const later = await em.find(
        JournalEntity,
        { ...key, seq: { $gt: since } },
        { orderBy: { seq: 'desc' } },
      );
      const said = refusal.conflicts.slice(0, 3).map((conflict) => whoChanged(house, later, conflict));
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

  /** Journal entries after a number, or the newest ones. */
  async journal(
    key: HouseKey,
    page: { after?: number; before?: number; limit: number },
  ): Promise<{ entries: JournalEntry[]; seq: number }> {
    const em = this.orm.em.fork();
    const { seq } = await this.row(em, key);
    const rows = await em.find(
      JournalEntity,
      {
        ...key,
        ...(page.after !== undefined && { seq: { $gt: page.after } }),
        ...(page.before !== undefined && { seq: { $lt: page.before } }),
      },
      { orderBy: { seq: page.after !== undefined ? 'asc' : 'desc' }, limit: page.limit },
    );
    return {
      seq,
      entries: rows.map((row) => ({
        seq: row.seq,
        changeId: row.changeId,
        by: row.by,
        at: row.at.toISOString(),
        change: row.change as Change,
        diff: row.diff as HouseDiff,
      })),
    };
  }

  private async row(em: EntityManager, key: HouseKey, lockMode?: LockMode): Promise<HouseRow> {
    const row = await em.findOne(
      HouseEntity,
      { crewId: key.crewId, id: key.houseId },
      lockMode ? { lockMode } : {},
    );
    if (!row) throw new HttpProblem(404, 'house.unknown', 'There is no such house here.');
    return row;
  }

  /** The house at the number its row stands at: remembered, brought up with the journal, or read from its rows. */
  private async current(em: EntityManager, key: HouseKey, row: HouseRow): Promise<House> {
    const known = this.kept.get(keptKey(key));
    if (known && known.seq === row.seq) return known.house;
    if (known && known.seq < row.seq && row.seq - known.seq <= FOLD_AT_MOST) {
      const newer = await em.find(
        JournalEntity,
        { ...key, seq: { $gt: known.seq, $lte: row.seq } },
        { orderBy: { seq: 'asc' } },
      );
      if (newer.length === row.seq - known.seq) {
        return newer.reduce((house, entry) => applyDiff(house, HouseDiff.parse(entry.diff)), known.house);
      }
    }
    const house = await readRows(em, key, row);
    this.keep(key, row.seq, house);
    return house;
  }

  private keep(key: HouseKey, seq: number, house: House): void {
    const name = keptKey(key);
    const known = this.kept.get(name);
    if (known && known.seq > seq) return;
    this.kept.delete(name);
    this.kept.set(name, { seq, house });
    const oldest = this.kept.keys().next();
    if (this.kept.size > KEPT_HOUSES && !oldest.done) this.kept.delete(oldest.value);
  }
}

const keptKey = (key: HouseKey): string => `${key.crewId} ${key.houseId}`;

function whoChanged(house: House, later: readonly JournalRow[], { table, id, field }: Conflict): string {
  const entry = later.find(({ diff }) => {
    const { head, rows } = HouseDiff.parse(diff);
    if (!table || !id) return field !== undefined && field in head;
    return rows.some((row) => row.id === id && (!field || !row.changed || field in row.changed));
  });
  const record = table && id ? recordOf(house, table, id) : undefined;
  const name = record && ('tag' in record ? record.tag : 'name' in record ? record.name : undefined);
  const what = table
    ? `${field ? `the ${field} of ` : ''}${name ? `${TABLES[table].noun} ${name}` : `a ${TABLES[table].noun}`}`
    : `the house’s ${field ?? 'settings'}`;
  return entry ? `${entry.by} changed ${what}.` : `Somebody changed ${what}.`;
}
