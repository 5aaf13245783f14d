import type { BatchAnswer, Crew, Envelope, House, JournalEntry, Person } from '@mule-tally/core';
import { applyChange, writeHouseFile } from '@mule-tally/core';
import { Refused, ServerAway } from '../sync/api';
import type { JournalPage, Transport } from '../sync/transport';

/**
 * One house on a server, in memory: it judges changes with the core and keeps a journal. It loses, delays and refuses what it
 * is told to.
 */
export class FakeServer implements Transport {
  epoch = 'first';
  readonly entries: JournalEntry[] = [];
  readonly requests: number[] = [];
  /** Called with each batch before it is looked at: what it throws is what the request ends with. */
  before: (changes: readonly Envelope[]) => void | Promise<void> = () => undefined;
  /** Called when a batch has been taken: what it throws is what becomes of the answer. */
  after: () => void = () => undefined;
  isAway = false;

  constructor(public house_: House) {}

  private reached(): void {
    if (this.isAway) throw new ServerAway('The server cannot be reached.');
  }

  async change(houseId: string, changes: readonly Envelope[]): Promise<BatchAnswer> {
    this.reached();
    if (houseId !== this.house_.head.id) throw refusal(404, 'house.unknown');
    this.requests.push(changes.length);
    await this.before(changes);
    const answers = changes.map((envelope) => this.take(envelope));
    this.after();
    return { answers, seq: this.entries.length };
  }

  /** Takes a change, of this device or of another. */
  take({ change, actorId }: Envelope): BatchAnswer['answers'][number] {
    const known = this.entries.find(({ changeId }) => changeId === change.id);
    if (known) return { id: change.id, status: 'already applied', seq: known.seq };
    const applied = applyChange(
      this.house_,
      change.body,
      (id) => this.entries.find(({ changeId }) => changeId === id)?.diff,
    );
    if (!applied.ok) return { id: change.id, status: 'refused', ...applied.refusal };
    this.house_ = applied.document;
    const seq = this.entries.length + 1;
    const at = '2026-03-02T08:00:00Z';
    this.entries.push({ seq, changeId: change.id, actorId, at, change, diff: applied.diff });
    return { id: change.id, status: 'applied', seq, diff: applied.diff };
  }

  async house(id: string): Promise<{ file: unknown; seq: number; text: string }> {
    await Promise.resolve();
    this.reached();
    if (id !== this.house_.head.id) throw refusal(404, 'house.unknown');
    const answer = { file: writeHouseFile(this.house_, []), seq: this.entries.length };
    return { ...answer, text: JSON.stringify(answer) };
  }

  async journal(_houseId: string, query: Record<string, number | string>): Promise<JournalPage> {
    await Promise.resolve();
    this.reached();
    const { after = 0, before = Infinity, limit = 200 } = query as Record<string, number>;
    const all = this.entries.filter(({ seq }) => seq > after && seq < before);
    return { seq: this.entries.length, entries: all.slice(0, limit), more: all.length > limit };
  }

  async entry(_houseId: string, changeId: string): Promise<JournalEntry> {
    await Promise.resolve();
    this.reached();
    const known = this.entries.find((entry) => entry.changeId === changeId);
    if (!known) throw refusal(404, 'change.unknown');
    return known;
  }

  async crew(): Promise<Crew> {
    await Promise.resolve();
    this.reached();
    return { people: [] } as unknown as Crew;
  }

  async addPerson(person: Person): Promise<Person> {
    await Promise.resolve();
    this.reached();
    return person;
  }
}

export const refusal = (status: number, code: string): Refused =>
  new Refused({ type: '', title: '', status, code, detail: `No: ${code}.` });
