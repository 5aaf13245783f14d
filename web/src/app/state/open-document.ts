import { signal } from '@angular/core';
import type {
  AppliedTo,
  Diff,
  Document,
  EnvelopeOf,
  HistoryOf,
  ListName,
  Lists,
  RecordIn,
} from '@mule-tally/core';
import { applyDiff, diffOf, isEmptyDiff, rowsOf, touchedBetween } from '@mule-tally/core';
import type { OutboxItem } from '../sync/outbox';

/** The document at a number of its journal. */
interface Head<L extends Lists, H extends { id: string }> {
  readonly document: Document<L, H>;
  readonly seq: number;
}

/** A change as it would be made now: `body` has what the person saw. */
export interface Tried<L extends Lists, H extends { id: string }, B> {
  readonly body: B;
  readonly applied: AppliedTo<L, H>;
}

/** What one change did, and which one it was. */
export type Done<L extends Lists> = { readonly changeId: string; readonly diff: Diff<ListName<L>> };

/**
 * A document that is open, as the server has it and as it is shown: that with what is unsent on top. It lives here and nowhere
 * else; what is derived of it follows `view`.
 */
export abstract class OpenDocument<L extends Lists, H extends { id: string }, B> {
  private readonly headNow = signal<Head<L, H> | undefined>(undefined);
  private readonly viewNow = signal<Document<L, H> | undefined>(undefined);
  /** What changes did, by change id: so that they can be undone. */
  private readonly history = new Map<string, Diff<ListName<L>>>();
  private read: { readonly document: Document<L, H>; readonly text: string } | undefined;
  /** What is unsent and not refused, in the order of entry. */
  private pending: readonly EnvelopeOf<B>[] = [];

  readonly head = this.headNow.asReadonly();
  readonly view = this.viewNow.asReadonly();

  /** Applies a change, as the server will. */
  protected abstract applied(
    document: Document<L, H>,
    body: B,
    history: HistoryOf<ListName<L>>,
  ): AppliedTo<L, H>;
  /** The change with what its maker saw. */
  protected abstract withWas(document: Document<L, H>, body: B): B;

  /** The records of a list as they are shown, in their order; none while nothing is open. */
  records<T extends ListName<L>>(list: T): readonly RecordIn<L, T>[] {
    const view = this.viewNow();
    return view ? rowsOf(view, list).map(({ record }) => record) : [];
  }

  /** `text` is the answer that the document was read from. */
  open(
    document: Document<L, H>,
    seq: number,
    outbox: readonly OutboxItem[],
    entries: readonly Done<L>[],
    text?: string,
  ): void {
    this.close();
    this.read = text === undefined ? undefined : { document, text };
    for (const { changeId, diff } of entries) this.history.set(changeId, diff);
    this.headNow.set({ document, seq });
    this.pending = waiting(outbox);
    this.show();
  }

  /** The text that the present head was read from, as long as it is that. */
  textOfHead(): string | undefined {
    return this.read?.document === this.headNow()?.document ? this.read?.text : undefined;
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

  /** What a change did, as far as it is known here. */
  did(changeId: string): Diff<ListName<L>> | undefined {
    return this.history.get(changeId);
  }

  remember(changeId: string, diff: Diff<ListName<L>>): void {
    this.history.set(changeId, diff);
  }

  /** What a change would do to what is shown; undefined while none is open. */
  tried(asked: B): Tried<L, H, B> | undefined {
    const view = this.viewNow();
    if (!view) return undefined;
    const body = this.withWas(view, asked);
    return { body, applied: this.apply(view, body) };
  }

  /** A change was made here: it is shown, and waits to be sent. */
  made(envelope: EnvelopeOf<B>, { document, diff }: Extract<AppliedTo<L, H>, { ok: true }>): void {
    this.history.set(envelope.change.id, diff);
    this.pending = [...this.pending, envelope];
    this.viewNow.set(document);
  }

  /**
   * Entries of the journal came, some of them perhaps not for the first time, or too early; gives those that go on from the
   * head. What is left out is fetched again.
   */
  arrived<E extends Done<L> & { readonly seq: number }>(entries: readonly E[]): readonly E[] {
    const head = this.headNow();
    const newer = head ? following(entries, head.seq) : [];
    if (!head || newer.length === 0) return [];
    for (const { changeId, diff } of newer) this.history.set(changeId, diff);
    const ids = new Set(newer.map(({ changeId }) => changeId));
    this.pending = this.pending.filter(({ change }) => !ids.has(change.id));
    this.headNow.set({
      document: newer.reduce((at, { diff }) => applyDiff(at, diff), head.document),
      seq: newer.at(-1)!.seq,
    });
    this.show();
    return newer;
  }

  /** The outbox has changed otherwise: an item was refused, dropped, sent again, or came from another tab. */
  rebase(outbox: readonly OutboxItem[]): void {
    const next = waiting<B>(outbox);
    const isSame =
      next.length === this.pending.length &&
      next.every(({ change }, at) => change.id === this.pending[at]!.change.id);
    if (isSame || !this.headNow()) return;
    this.pending = next;
    this.show();
  }

  /** Head with what is unsent on top. What does not apply here any more waits for the server's word, and is left out. */
  private show(): void {
    let view = this.headNow()!.document;
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

  private apply(document: Document<L, H>, body: B): AppliedTo<L, H> {
    return this.applied(document, body, (id) => this.history.get(id));
  }
}

/** Entries that go on from a number without a gap; those before it have arrived already. */
function following<E extends { readonly seq: number }>(entries: readonly E[], seq: number): readonly E[] {
  const newer: E[] = [];
  for (const entry of entries) if (entry.seq === (newer.at(-1)?.seq ?? seq) + 1) newer.push(entry);
  return newer;
}

/** What is unsent and not refused. */
const waiting = <B>(outbox: readonly OutboxItem[]): readonly EnvelopeOf<B>[] =>
  outbox.filter(({ refusal }) => !refusal) as readonly OutboxItem<B>[];
