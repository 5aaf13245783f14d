import { signal } from '@angular/core';
import { Subject } from 'rxjs';
import type {
  AppliedTo,
  BatchAnswer,
  ChangeBody,
  CrewBook,
  CrewChangeBody,
  CREW_LISTS,
  CrewHead,
  Diff,
  Document,
  EnvelopeOf,
  House,
  HouseHead,
  JournalEntry,
  ListName,
  Lists,
  TABLES,
} from '@mule-tally/core';
import { applyChange, applyCrewChange, emptyCrew, writeCrewFile, writeHouseFile } from '@mule-tally/core';
import { Refused, ServerAway } from '../sync/api';
import { CREW_BOOK } from '../sync/outbox';
import type { Entry, JournalPage, Transport } from '../sync/transport';

/** One document on a server, in memory: it judges changes with the core and keeps a journal. */
class FakeDocument<L extends Lists, H extends { id: string }, B> {
  readonly entries: JournalEntry<Diff<ListName<L>>>[] = [];

  constructor(
    public now: Document<L, H>,
    private readonly apply: (
      now: Document<L, H>,
      body: B,
      history: (id: string) => Diff<ListName<L>> | undefined,
    ) => AppliedTo<L, H>,
    readonly file: (now: Document<L, H>) => unknown,
  ) {}

  /** Takes a change, of this device or of another. */
  take({ change, actorId }: EnvelopeOf<B>): BatchAnswer['answers'][number] {
    const { id, body } = change;
    const known = this.entries.find(({ changeId }) => changeId === id);
    if (known) return { id, status: 'already applied', seq: known.seq };
    const applied = this.apply(
      this.now,
      body,
      (of) => this.entries.find(({ changeId }) => changeId === of)?.diff,
    );
    if (!applied.ok) {
      const { code, message } = applied.refusal;
      return { id, status: 'refused', code, message };
    }
    this.now = applied.document;
    const seq = this.entries.length + 1;
    const at = '2026-03-02T08:00:00Z';
    this.entries.push({ seq, changeId: id, actorId, at, change: change as never, diff: applied.diff });
    return { id, status: 'applied', seq, diff: applied.diff };
  }
}

/** A house and a crew book on a server, in memory. It loses, delays and refuses what it is told to. */
export class FakeServer implements Transport {
  epoch = 'first';
  readonly signedOut = new Subject<void>();
  readonly isTooOld = signal(false);
  clockOffsetMs: number | undefined;
  readonly requests: number[] = [];
  /** Documents in the order in which something was sent for them. */
  readonly asked: string[] = [];
  /** Called with each batch before it is looked at: what it throws is what the request ends with. */
  before: (changes: readonly EnvelopeOf[]) => void | Promise<void> = () => undefined;
  /** Called when a batch has been taken: what it throws is what becomes of the answer. */
  after: () => void = () => undefined;
  isAway = false;
  private readonly house: FakeDocument<typeof TABLES, HouseHead, ChangeBody>;
  readonly crew: FakeDocument<typeof CREW_LISTS, CrewHead, CrewChangeBody>;

  constructor(
    house: House,
    crew: CrewBook = emptyCrew({ id: '40000000-0000-4000-8000-00000000c0de', name: 'This crew' }),
  ) {
    this.house = new FakeDocument(house, applyChange, (now) => writeHouseFile(now, []));
    this.crew = new FakeDocument(crew, applyCrewChange, writeCrewFile);
  }

  get house_(): House {
    return this.house.now;
  }
  set house_(house: House) {
    this.house.now = house;
  }
  get entries(): readonly JournalEntry[] {
    return this.house.entries;
  }
  take(envelope: EnvelopeOf<ChangeBody>): BatchAnswer['answers'][number] {
    return this.house.take(envelope);
  }

  private reached(): void {
    if (this.isAway) throw new ServerAway('The server cannot be reached.');
  }

  private of(id: string): FakeDocument<Lists, { id: string }, unknown> {
    this.reached();
    if (id === CREW_BOOK) return this.crew as never;
    if (id !== this.house_.head.id) throw refusal(404, 'house.unknown');
    return this.house as never;
  }

  async change(id: string, changes: readonly EnvelopeOf[]): Promise<BatchAnswer> {
    const own = this.of(id);
    this.asked.push(id);
    this.requests.push(changes.length);
    await this.before(changes);
    const answers = changes.map((envelope) => own.take(envelope));
    this.after();
    return { answers, seq: own.entries.length };
  }

  async document(id: string): Promise<{ file: unknown; seq: number; text: string }> {
    await Promise.resolve();
    const own = this.of(id);
    const answer = { file: own.file(own.now), seq: own.entries.length };
    return { ...answer, text: JSON.stringify(answer) };
  }

  async journal(id: string, query: Record<string, number | string>): Promise<JournalPage> {
    await Promise.resolve();
    const own = this.of(id);
    const { after = 0, before = Infinity, limit = 200 } = query as Record<string, number>;
    const all = own.entries.filter(({ seq }) => seq > after && seq < before);
    return { seq: own.entries.length, entries: all.slice(0, limit), more: all.length > limit };
  }

  async entry(id: string, changeId: string): Promise<Entry> {
    await Promise.resolve();
    const known = this.of(id).entries.find((entry) => entry.changeId === changeId);
    if (!known) throw refusal(404, 'change.unknown');
    return known;
  }
}

export const refusal = (status: number, code: string): Refused =>
  new Refused({ type: '', title: '', status, code, detail: `No: ${code}.` });
