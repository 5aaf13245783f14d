import { ServerAway } from './api';
import { JournalPuller, OtherDatabase } from './journal-puller';
import type { Outbox } from './outbox';
import { CREW_BOOK } from './outbox';
import type { Sent } from './sender';
import { Sender } from './sender';
import type { Entry, Transport } from './transport';

/** A document that is open, as far as the exchange has to do with it. */
export interface OpenAt {
  readonly documentId: string;
  /** Number of the last entry that has arrived, and the database it is of; asked for when what was unsent is out. */
  now(): { readonly seq: number; readonly epoch: string };
  take(entries: readonly Entry[]): void;
}

/** How an exchange ended. */
export type Exchanged =
  | { readonly kind: 'done'; readonly sent: ReadonlyMap<string, Sent> }
  | { readonly kind: 'away' }
  | { readonly kind: 'other-database' }
  /** Something that says nothing about the server; it is tried again next time. */
  | { readonly kind: 'failed' };

/** One sender for all tabs of this browser. */
const inTurn = <Result>(work: () => Promise<Result>): Promise<Result> =>
  navigator.locks.request('mule-tally-sender', work) as Promise<Result>;

/**
 * Sends what is unsent, of documents that were left behind too, then fetches the journals of those that are open: the only way
 * by which their heads move on.
 */
export class Exchange {
  private readonly sender: Sender;
  private readonly puller: JournalPuller;

  constructor(
    outbox: Outbox,
    server: Transport,
    private readonly alone = inTurn,
  ) {
    this.sender = new Sender(outbox, server);
    this.puller = new JournalPuller(server);
  }

  async run(open: readonly OpenAt[]): Promise<Exchanged> {
    try {
      const first = open.find(({ documentId }) => documentId !== CREW_BOOK)?.documentId;
      await this.alone(() => this.sender.sendAll(first));
      for (const { documentId, now, take } of open) {
        const { seq, epoch } = now();
        // What was sent stands on the last page at the latest: it stays in the view until that has arrived.
        for await (const entries of this.puller.since(documentId, seq, epoch)) take(entries);
      }
      return { kind: 'done', sent: this.sender.taken() };
    } catch (error) {
      if (error instanceof OtherDatabase) return { kind: 'other-database' };
      return { kind: error instanceof ServerAway ? 'away' : 'failed' };
    }
  }
}
