import type {
  Actor,
  AppliedTo,
  Diff,
  Document,
  DocumentKind,
  HistoryOf,
  ListName,
  Lists,
  NoRight,
} from '@mule-tally/core';
import type { Column } from '../storage/entities.js';

/** Ids that name a document in the database: crew and house, or the crew alone. */
export type Key = readonly string[];

/** Where documents of one kind are kept, and how they are changed. */
export interface Shelf<L extends Lists, H extends { id: string }, B> {
  readonly kind: DocumentKind<L, H>;
  /** Table of the heads, its key, and the columns of the head. */
  readonly headTable: string;
  readonly headKey: readonly string[];
  readonly headColumns: readonly { readonly name: string; readonly json?: true }[];
  headFrom(row: Record<string, unknown>): H;
  /** Values of the head in the order of its columns. */
  headValues(head: H): readonly unknown[];
  /** The same key in the tables of the lists and of the journal. */
  readonly rowKey: readonly string[];
  readonly columns: Readonly<Record<ListName<L>, readonly Column[]>>;
  readonly journal: string;
  /** Its oldest entries name who made them: from before people had ids. */
  readonly hasNames: boolean;
  /** Whether what stands in the journal is all that is needed to bring an older version up. */
  readonly folds: boolean;
  apply(document: Document<L, H>, body: B, history: HistoryOf<ListName<L>>): AppliedTo<L, H>;
  /** Why somebody may not make a change; nothing where they may. */
  mayChange(
    actor: Actor,
    body: B,
    document: Document<L, H>,
    history: HistoryOf<ListName<L>>,
  ): NoRight | undefined;
  /** Whether a change that does nothing is not to be journaled. */
  isIdle(body: B): boolean;
  /** Body and diff as they are journaled, and as they are read again, of whatever version. */
  stored(body: B, diff: Diff<ListName<L>>): { readonly body: unknown; readonly diff: Diff<ListName<L>> };
  /** Whether what stands in the journal is this change. */
  isSame(stored: unknown, sent: unknown): boolean;
  changeFrom(stored: unknown): unknown;
  diffFrom(stored: unknown, version: number): Diff<ListName<L>>;
  /** Whether the document itself has somebody on its list, or they may enter themselves with this. */
  knows(document: Document<L, H>, body: B, actorId: string): boolean;
}
