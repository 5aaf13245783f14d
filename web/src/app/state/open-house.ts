import { Injectable, signal } from '@angular/core';
import type { Applied, ChangeBody, Envelope, House, HouseDiff, JournalEntry } from '@mule-tally/core';
import { applyChange, applyDiff, diffOf, isEmptyDiff, touchedBetween, withWas } from '@mule-tally/core';
import type { OutboxItem } from '../sync/outbox';

/** The house at a number of its journal. */
interface Head {
  readonly house: House;
  readonly seq: number;
}

/** A change as it would be made now: `body` has what the person saw. */
export interface Tried {
  readonly body: ChangeBody;
  readonly applied: Applied;
}

/**
 * The house that is open, as the server has it and as it is shown: that with what is unsent on top. It lives here and nowhere
 * else; what is derived of it follows `view`.
 */
@Injectable({ providedIn: 'root' })
export class OpenHouse {
  private readonly headNow = signal<Head | undefined>(undefined);
  private readonly viewNow = signal<House | undefined>(undefined);
  /** What changes did, by change id: so that they can be undone. */
  private readonly history = new Map<string, HouseDiff>();
  private read: { readonly house: House; readonly text: string } | undefined;
  /** What is unsent and not refused, in the order of entry. */
  private pending: readonly Envelope[] = [];

  readonly head = this.headNow.asReadonly();
  readonly view = this.viewNow.asReadonly();

  /** `text` is the answer that the house was read from. */
  open(
    house: House,
    seq: number,
    outbox: readonly OutboxItem[],
    entries: readonly Pick<JournalEntry, 'changeId' | 'diff'>[],
    text?: string,
  ): void {
    this.close();
    this.read = text === undefined ? undefined : { house, text };
    for (const { changeId, diff } of entries) this.history.set(changeId, diff);
    this.headNow.set({ house, seq });
    this.pending = outbox.filter(({ refusal }) => !refusal);
    this.show();
  }

  /** The text that the present head was read from, as long as it is that. */
  textOfHead(): string | undefined {
    return this.read?.house === this.headNow()?.house ? this.read?.text : undefined;
  }

  close(): void {
    this.read = undefined;
    this.history.clear();
    this.pending = [];
    this.headNow.set(undefined);
    this.viewNow.set(undefined);
  }

  /** Whether it is known what a change did. */
  knows(changeId: string): boolean {
    return this.history.has(changeId);
  }

  remember(changeId: string, diff: HouseDiff): void {
    this.history.set(changeId, diff);
  }

  /** What a change would do to what is shown; undefined while no house is open. */
  tried(asked: ChangeBody): Tried | undefined {
    const view = this.viewNow();
    if (!view) return undefined;
    const body = withWas(view, asked);
    return { body, applied: this.apply(view, body) };
  }

  /** A change was made here: it is shown, and waits to be sent. */
  made(envelope: Envelope, { document, diff }: Extract<Applied, { ok: true }>): void {
    this.history.set(envelope.change.id, diff);
    this.pending = [...this.pending, envelope];
    this.viewNow.set(document);
  }

  /** Entries of the journal came, some of them perhaps not for the first time; gives those that are new. */
  arrived(entries: readonly JournalEntry[]): readonly JournalEntry[] {
    const head = this.headNow();
    const newer = head ? entries.filter(({ seq }) => seq > head.seq) : [];
    if (!head || newer.length === 0) return [];
    for (const { changeId, diff } of newer) this.history.set(changeId, diff);
    const ids = new Set(newer.map(({ changeId }) => changeId));
    this.pending = this.pending.filter(({ change }) => !ids.has(change.id));
    this.headNow.set({
      house: newer.reduce((house, { diff }) => applyDiff(house, diff), head.house),
      seq: newer.at(-1)!.seq,
    });
    this.show();
    return newer;
  }

  /** The outbox has changed otherwise: an item was refused, dropped, sent again, or came from another tab. */
  rebase(outbox: readonly OutboxItem[]): void {
    const next = outbox.filter(({ refusal }) => !refusal);
    const isSame =
      next.length === this.pending.length &&
      next.every(({ change }, at) => change.id === this.pending[at]!.change.id);
    if (isSame || !this.headNow()) return;
    this.pending = next;
    this.show();
  }

  /** Head with what is unsent on top. What does not apply here any more waits for the server's word, and is left out. */
  private show(): void {
    let view = this.headNow()!.house;
    for (const { change } of this.pending) {
      const applied = this.apply(view, change.body);
      if (!applied.ok) continue;
      view = applied.document;
      this.history.set(change.id, applied.diff);
    }
    const shown = this.viewNow();
    // What was made here comes back in the journal: nothing has changed, and nothing is derived again.
    const isSame = shown && isEmptyDiff(diffOf(shown, view, touchedBetween(shown, view)));
    if (!isSame) this.viewNow.set(view);
  }

  private apply(house: House, body: ChangeBody): Applied {
    return applyChange(house, body, (id) => this.history.get(id));
  }
}
