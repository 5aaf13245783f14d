import { randomUUID } from 'node:crypto';
import type {
  BatchAnswer,
  ChangeAnswer,
  Gone,
  HeldChange,
  ChangeBody,
  EnvelopeOf,
  House,
  HouseDiff,
  HouseFile,
  HouseHead,
  HouseSummary,
  LiveNumbers,
  FaultsFound,
  Places,
  ReelUsageLine,
  TABLES,
} from '@mule-tally/core';
import {
  CHANGE_VERSION,
  LIMITS,
  copyHouseFile,
  emptyHouse,
  houseOf,
  peopleIn,
  placesOf,
  rescue,
  roleOf,
  writeHouseFile,
} from '@mule-tally/core';
import { HttpProblem, isTaken } from '../api/problem.js';
import { CrewStore } from '../crew/crew-store.js';
import type { Word } from '../people/caller.js';
import type { Asked } from '../documents/document-store.js';
import { DocumentStore } from '../documents/document-store.js';
import { KeptDocuments } from '../documents/kept.js';
import { insertDocument } from '../documents/rows.js';
import type { Key } from '../documents/shelf.js';
import type { Orm } from '../storage/orm.js';
import type { Sql } from '../storage/sql.js';
import { inCrew } from '../storage/sql.js';
import { canBeHeld, decided, heldChange, heldOf, hold, taken } from './held.js';
import type { HouseKey } from './house-key.js';
import { HOUSE_SHELF } from './house-shelf.js';
import { foundIn } from './faults-found.js';
import { usageOf, writeAllUsage, writeUsage } from './reel-usage.js';

const keyOf = ({ crewId, houseId }: HouseKey): Key => [crewId, houseId];

/** The houses of a crew in the database, beside the crew's own book. Where both are written, the house is locked first. */
export class HouseStore extends DocumentStore<typeof TABLES, HouseHead, ChangeBody> {
  readonly crew: CrewStore;

  constructor(
    orm: Orm,
    private readonly newId: () => string = randomUUID,
    now: () => Date = () => new Date(),
    kept = new KeptDocuments<typeof TABLES, HouseHead>(),
  ) {
    super(orm, HOUSE_SHELF, () => this.crew, now, kept);
    this.crew = new CrewStore(orm, newId, now);
  }

  /** Houses of a crew, those changed last first, from a place in that order on. */
  async list(
    crewId: string,
    page = { offset: 0, limit: LIMITS.page as number },
    only?: string,
  ): Promise<HouseSummary[]> {
    const rows = await this.ask<Record<string, string | number | Date>>(
      crewId,
      `select h.id, h.name, h.base, h.seq, h.changed_at, coalesce(h.code->>'edition', h.elsewhere->>'base') as rules,
         (select count(*)::int from rooms r where r.crew_id = h.crew_id and r.house_id = h.id) as rooms,
         (select count(*)::int from boxes b where b.crew_id = h.crew_id and b.house_id = h.id) as boxes,
         (select count(*)::int from runs r where r.crew_id = h.crew_id and r.house_id = h.id) as runs,
         (select count(distinct p.run_id)::int from pulls p
            where p.crew_id = h.crew_id and p.house_id = h.id and p.state = 'in') as runs_in
       from (select * from house where crew_id = ? and (?::uuid is null or id = ?) order by changed_at desc, id limit ? offset ?) h
       order by h.changed_at desc, h.id`,
      [crewId, only ?? null, only ?? null, page.limit, page.offset],
    );
    return rows.map((row) => ({
      id: String(row['id']),
      name: String(row['name']),
      base: row['base'] as HouseSummary['base'],
      ...(row['rules'] && { rules: String(row['rules']) }),
      seq: Number(row['seq']),
      rooms: Number(row['rooms']),
      boxes: Number(row['boxes']),
      runs: Number(row['runs']),
      runsIn: Number(row['runs_in']),
      changedAt: new Date(row['changed_at'] as string).toISOString(),
    }));
  }

  async count(crewId: string): Promise<number> {
    const [row] = await this.ask<{ count: number }>(
      crewId,
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

  /** `also` is written in the same transaction, when the house is there. */
  private async insertOnce(
    key: HouseKey,
    house: House,
    also?: (sql: Sql) => Promise<void>,
  ): Promise<'made' | 'there'> {
    try {
      await inCrew(this.orm, key.crewId, async (sql) => {
        await insertDocument(sql, this.shelf, keyOf(key), house, this.now());
        await writeAllUsage(sql, key, house);
        await also?.(sql);
      });
      this.onWritten(keyOf(key), 0);
      if (also) await this.crew.announce(key.crewId);
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
    const row = await this.head(keyOf(key));
    if (row['name'] === house.head.name) return how;
    throw new HttpProblem(
      409,
      'house.exists',
      `There is already a house of this id: “${String(row['name'])}”.`,
      {
        houseId: key.houseId,
      },
    );
  }

  /** About how many records a house has; 0 for one that is not there. */
  async weight(key: HouseKey): Promise<number> {
    const counts = ['boxes', 'devices', 'points', 'runs', 'pulls', 'records'].map(
      (table) => `(select count(*) from ${table} where crew_id = h.crew_id and house_id = h.id)`,
    );
    const [row] = await this.ask<{ weight: string }>(
      key.crewId,
      `select ${counts.join(' + ')} as weight from house h where h.crew_id = ? and h.id = ?`,
      [key.crewId, key.houseId],
    );
    return Number(row?.weight ?? 0);
  }

  /** Bytes that the journal keeps of what these changes did. */
  async weightOfChanges(key: HouseKey, changeIds: readonly string[]): Promise<number> {
    return this.weightOfDiffs(keyOf(key), changeIds);
  }

  protected override async rescued(
    sql: Sql,
    key: Key,
    house: House,
    body: ChangeBody,
  ): Promise<{ body: ChangeBody; said: string } | undefined> {
    const gone = new Map<string, Gone>();
    // A run hangs on boxes, which hang on rooms, which hang on storeys.
    for (let depth = 0; depth < 5; depth++) {
      const found = rescue(house, body, gone);
      if (!found) return undefined;
      if ('body' in found) return { body: found.body, said: toldBack(found.back) };
      for (const { table, id, removed } of await this.entries.removed(sql, key, found.needs))
        gone.set(id, { table, record: removed!.record });
      if (!found.needs.every((id) => gone.has(id))) return undefined;
    }
    return undefined;
  }

  protected override async held(
    sql: Sql,
    [crewId, houseId]: Key,
    envelope: EnvelopeOf<ChangeBody>,
    word: Word,
    answer: ChangeAnswer,
  ): Promise<ChangeAnswer> {
    if (answer.status !== 'refused' || !word.actor || roleOf(word.actor, houseId) === 'lead') return answer;
    if (!canBeHeld(answer.code)) return answer;
    await hold(sql, { crewId: crewId!, houseId: houseId! }, envelope, answer, this.now());
    return { ...answer, isHeld: true };
  }

  protected override wasWritten(
    sql: Sql,
    [crewId, houseId]: Key,
    house: House,
    diff: HouseDiff,
  ): Promise<void> {
    return writeUsage(sql, { crewId: crewId!, houseId: houseId! }, house, diff);
  }

  /** What the houses of a crew took off its reels. */
  async reelUsage(crewId: string): Promise<ReelUsageLine[]> {
    return inCrew(this.orm, crewId, (sql) => usageOf(sql, crewId), true);
  }

  /** How often each kind of fault was found in each house of a crew. */
  async faultsFound(crewId: string): Promise<FaultsFound[]> {
    return inCrew(this.orm, crewId, (sql) => foundIn(sql, crewId), true);
  }

  protected override wereTaken(sql: Sql, [crewId, houseId]: Key, ids: readonly string[]): Promise<void> {
    return taken(sql, { crewId: crewId!, houseId: houseId! }, ids, this.now());
  }

  /** What hands did and the plan could not take, for a lead. */
  async heldChanges(key: HouseKey): Promise<HeldChange[]> {
    return inCrew(this.orm, key.crewId, (sql) => heldOf(sql, key), true);
  }

  /** A lead decides: it is taken, on their word, or left out. Where it still does not fit it stays, and says why. */
  async decide(
    key: HouseKey,
    changeId: string,
    take: boolean,
    word: Word,
  ): Promise<ChangeAnswer | undefined> {
    const by = word.actor?.id;
    if (!take) {
      await inCrew(this.orm, key.crewId, async (sql) => {
        await heldChange(sql, key, changeId);
        await decided(sql, key, changeId, by, false, this.now());
      });
      return undefined;
    }
    const envelope = await inCrew(this.orm, key.crewId, (sql) => heldChange(sql, key, changeId));
    const asked = {
      ok: true as const,
      envelope,
      word: { ...word, proof: 'imported' as const },
      with: (sql: Sql) => decided(sql, key, changeId, by, true, this.now()),
    };
    return (await this.apply(keyOf(key), [asked])).answers[0]!;
  }

  /** Another thread of this process has written: a house by crew and id, or a crew book. */
  onWrittenElsewhere(key: Key, seq: number): void {
    (key.length === 1 ? this.crew : this).onWritten(key, seq);
  }

  /** Where the journals of a crew stand: of its book, and of these houses, those that are there. */
  async numbers(crewId: string, houseIds: readonly string[]): Promise<LiveNumbers> {
    const rows = await this.ask<{ id: string | null; seq: number }>(
      crewId,
      `select null::uuid as id, seq from crew where id = ? union all
       select id, seq from house where crew_id = ? and id = any(?::uuid[])`,
      [crewId, crewId, `{${houseIds.join(',')}}`],
    );
    const houses = Object.fromEntries(rows.flatMap(({ id, seq }) => (id ? [[id, seq]] : [])));
    return { crew: rows.find(({ id }) => id === null)?.seq ?? 0, houses };
  }

  /** The house as a file, where its rows stand, and the number of the journal entry it stands at. */
  async read(key: HouseKey): Promise<{ file: HouseFile; seq: number; places: Places }> {
    return inCrew(
      this.orm,
      key.crewId,
      async (sql) => {
        const { document: house, seq } = await this.documentIn(sql, keyOf(key));
        const people = peopleIn(house).size ? await this.crew.peopleIn(sql, key.crewId) : [];
        return { file: writeHouseFile(house, people), seq, places: placesOf(house) };
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
    word: Word = {},
  ): Promise<{ id: string; how: string }> {
    const file = { ...lists, people: [] };
    // Those whose work the file tells of come on the crew's list with it, in one transaction: house first, then crew.
    const also = (sql: Sql): Promise<void> => this.crew.joinIn(sql, crewId, people);
    const key = { crewId, houseId: file.id };
    if (onExisting !== 'replace' && (await this.insertOnce(key, houseOf(file), also)) === 'made') {
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
      await this.insertOnce({ crewId, houseId: copy.id }, houseOf(copy), also);
      return { id: copy.id, how: 'copied' };
    }
    if ((await this.insertOnce(key, houseOf(file), also)) === 'made') return { id: file.id, how: 'imported' };
    const envelope: EnvelopeOf<ChangeBody> = {
      change: { id: this.newId(), version: CHANGE_VERSION, body: { kind: 'house.replace', file } },
      actorId,
    };
    const { answers } = await this.apply(keyOf(key), [{ ok: true, envelope, with: also, word }]);
    const [answer] = answers;
    if (answer!.status === 'refused') throw new HttpProblem(422, answer!.code, answer!.message);
    return { id: file.id, how: answer!.status === 'applied' ? 'replaced' : 'unchanged' };
  }

  /** A copy for the next lot: nothing pulled, nothing recorded. Asking again with the same new id makes no second one. */
  async duplicate(key: HouseKey, id: string, name: string): Promise<'made' | 'there'> {
    const { file } = await this.read(key);
    const copy = { ...copyHouseFile(file, name, this.newId, false), id };
    return this.insertAs({ crewId: key.crewId, houseId: id }, houseOf(copy));
  }

  /** Applies an ordered batch of changes of a house. */
  async applyBatch(
    key: HouseKey,
    changes: readonly Asked<ChangeBody>[],
    isGone?: () => boolean,
  ): Promise<BatchAnswer> {
    return this.apply(keyOf(key), changes, isGone);
  }
}

export const houseKey = keyOf;

/** What a change has brought back, in a sentence: the run, else the box, that everything else came for. */
function toldBack(back: readonly Gone[]): string {
  const { tag } = (back.find(({ table }) => table === 'boxes')?.record ?? {}) as { tag?: string };
  const what = back.some(({ table }) => table === 'runs') ? 'The run' : `The box${tag ? ` ${tag}` : ''}`;
  return `${what} had been taken out of the plan meanwhile. It stands again, because it is in the wall.`;
}
