import type {
  Actor,
  CREW_LISTS,
  CrewChangeBody,
  CrewFile,
  CrewHead,
  EnvelopeOf,
  Member,
  Person,
  Places,
} from '@mule-tally/core';
import {
  CHANGE_VERSION,
  CREW_CHANGES,
  personOfVersion1,
  placesOf,
  withErasable,
  writeCrewFile,
} from '@mule-tally/core';
import type { Asked } from '../documents/document-store.js';
import type { Roster } from '../documents/in-the-way.js';
import { HttpProblem } from '../api/problem.js';
import type { ActorRow } from '../people/caller.js';
import { actorOf } from '../people/caller.js';
import { DocumentStore } from '../documents/document-store.js';
import { KeptDocuments } from '../documents/kept.js';
import type { Orm } from '../storage/orm.js';
import type { Sql } from '../storage/sql.js';
import { inCrew } from '../storage/sql.js';
import { CREW_SHELF } from './crew-shelf.js';

/** Crew books in the database. `people` is the only place in which names stand. */
export class CrewStore extends DocumentStore<typeof CREW_LISTS, CrewHead, CrewChangeBody> implements Roster {
  constructor(
    orm: Orm,
    private readonly newId: () => string,
    now: () => Date = () => new Date(),
  ) {
    super(orm, CREW_SHELF, () => this, now, new KeptDocuments<typeof CREW_LISTS, CrewHead>());
  }

  /** Everybody, those who came first before the others. */
  people(crewId: string): Promise<Member[]> {
    return inCrew(this.orm, crewId, (sql) => this.peopleIn(sql, crewId), true);
  }

  async peopleIn(sql: Sql, crewId: string): Promise<Member[]> {
    const rows = await sql.all<{ id: string; name: string; left: boolean | null }>(
      'select id, name, "left" from people where crew_id = ? order by list_place, id',
      [crewId],
    );
    return rows.map(({ id, name, left }) => ({ id, name, ...(left !== null && { left }) }));
  }

  async nameOf(crewId: string, id: string, sql: Sql): Promise<string | undefined> {
    const [row] = await sql.all<{ name: string }>('select name from people where crew_id = ? and id = ?', [
      crewId,
      id,
    ]);
    return row?.name;
  }

  async actors(crewId: string, ids: readonly string[], sql: Sql): Promise<ReadonlyMap<string, Actor>> {
    if (ids.length === 0) return new Map();
    const rows = await sql.all<ActorRow>(
      'select id, name, role, role_in from people where crew_id = ? and id = any(?::uuid[])',
      [crewId, `{${[...new Set(ids)].join(',')}}`],
    );
    return new Map(rows.map((row) => [row.id, actorOf(row)]));
  }

  /** Who has been found on a list before, by database, crew and id: what they sent before they were taken off is theirs. */
  private readonly met = new Set<string>();

  /** Which of these are on the list. */
  async known(crewId: string, ids: readonly string[], sql: Sql, epoch: string): Promise<ReadonlySet<string>> {
    const key = (id: string): string => `${epoch} ${crewId} ${id}`;
    if (ids.every((id) => this.met.has(key(id)))) return new Set(ids);
    const rows = await sql.all<{ id: string }>(
      'select id from people where crew_id = ? and id = any(?::uuid[])',
      [crewId, `{${[...new Set(ids)].join(',')}}`],
    );
    if (this.met.size > 10_000) this.met.clear();
    for (const { id } of rows) this.met.add(key(id));
    return new Set(rows.map(({ id }) => id));
  }

  /**
   * Puts people on the list, each under their own id and by their own change: who is there already stays as they are, and a
   * name that somebody else has gets a number.
   */
  async joinIn(sql: Sql, crewId: string, people: readonly Person[]): Promise<void> {
    const there = new Set((await this.peopleIn(sql, crewId)).map(({ id }) => id));
    const asked = people
      .filter(({ id }) => !there.has(id))
      .map((person): Asked<CrewChangeBody> => {
        const body = CREW_CHANGES.adding('people', { id: person.id, name: person.name });
        const envelope: EnvelopeOf<CrewChangeBody> = {
          change: { id: this.newId(), version: CHANGE_VERSION, body },
          actorId: person.id,
        };
        return { ok: true, envelope };
      });
    if (asked.length) await this.applyIn(sql, [crewId], asked, false);
  }

  /** Changes of the book that come with something else, in its transaction; all of them, or it fails. */
  async changeIn(
    sql: Sql,
    crewId: string,
    actorId: string,
    bodies: readonly CrewChangeBody[],
  ): Promise<void> {
    const asked = bodies.map((body): Asked<CrewChangeBody> => {
      const change = { id: this.newId(), version: CHANGE_VERSION, body } as const;
      return { ok: true, envelope: { change, actorId }, word: { proof: 'verified' } };
    });
    const { answers } = await this.applyIn(sql, [crewId], asked, false);
    const refused = answers.find((answer) => answer.status === 'refused');
    if (refused) throw new HttpProblem(409, refused.code, refused.message);
  }

  /** Puts people on the list. Gives them as they stand there. */
  async join(crewId: string, people: readonly Person[]): Promise<Member[]> {
    const members = await inCrew(this.orm, crewId, async (sql) => {
      await this.joinIn(sql, crewId, people);
      const ids = new Set(people.map(({ id }) => id));
      return (await this.peopleIn(sql, crewId)).filter(({ id }) => ids.has(id));
    });
    await this.announce(crewId);
    return members;
  }

  /** Tells of what was written in a transaction of somebody else, once that is committed. */
  async announce(crewId: string): Promise<void> {
    this.onWritten([crewId], (await this.head([crewId])).seq);
  }

  /** Those whom devices of version 1 still send by name. */
  async know(crewId: string, names: ReadonlySet<string>): Promise<void> {
    await this.join(
      crewId,
      [...names].map((name) => ({ id: personOfVersion1(name), name })),
    );
  }

  /** The book as a file, where its rows stand, and the number of the entry of its journal that it stands at. */
  async read(crewId: string): Promise<{ file: CrewFile; seq: number; places: Places }> {
    const { document, seq } = await this.document([crewId]);
    return { file: writeCrewFile(document), seq, places: placesOf(document) };
  }

  /** Entries as they are read: with the names as they stand by now. */
  async shown<E extends { readonly diff: Parameters<typeof withErasable<typeof CREW_LISTS, CrewHead>>[1] }>(
    crewId: string,
    entries: readonly E[],
  ): Promise<E[]> {
    const { document } = await this.document([crewId]);
    return entries.map((entry) => ({ ...entry, diff: withErasable(document, entry.diff) }));
  }
}
