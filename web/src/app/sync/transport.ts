import type { BatchAnswer, Diff, EnvelopeOf, JournalEntry, Places } from '@mule-tally/core';

/** An entry of the journal of a document of any kind. */
export type Entry = JournalEntry<Diff>;

/** Takes batches of changes. A change that is sent again is taken once. Throws `Refused` for a whole request, or `ServerAway`. */
export interface Receiver {
  change(documentId: string, changes: readonly EnvelopeOf[]): Promise<BatchAnswer>;
}

/** A page of a journal: all entries of it, or those before a number; without the changes where only diffs are asked for. */
export interface JournalPage {
  readonly seq: number;
  readonly entries: readonly Entry[];
  readonly more: boolean;
}

/** What the documents of this device need of the server. Sign-in and another protocol take the place of this alone. */
export interface Transport extends Receiver {
  /** Which database the last answer was of; empty before the first that said so. */
  readonly epoch: string;
  /**
   * The document, where its rows stand, and the number of the journal at which it does; `text` is the answer as it came, JSON
   * with `file`, `places` and `seq`.
   */
  document(id: string): Promise<{ file: unknown; seq: number; places?: Places; text: string }>;
  journal(documentId: string, query: Record<string, number | string>): Promise<JournalPage>;
  entry(documentId: string, changeId: string): Promise<Entry>;
}
