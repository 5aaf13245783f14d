import type { JournalEntry } from '@mule-tally/core';
import { ServerAway } from './api';
import { JournalPuller, OtherDatabase } from './journal-puller';
import type { Outbox } from './outbox';
import type { Sent } from './sender';
import { Sender } from './sender';
import type { Transport } from './transport';

/** The house that is open, as far as the exchange has to do with it. */
export interface OpenAt {
  readonly houseId: string;
  /** Number of the last entry that has arrived, and the database it is of; asked for when what was unsent is out. */
  now(): { readonly seq: number; readonly epoch: string };
  take(entries: readonly JournalEntry[]): void;
}

/** How an exchange ended. */
export type Exchanged =
  | { readonly kind: 'done'; readonly sent: Sent }
  | { readonly kind: 'away' }
  | { readonly kind: 'other-database' }
  /** Something that says nothing about the server; it is tried again next time. */
  | { readonly kind: 'failed' };

const NOTHING_SENT: Sent = { done: [], refused: [], overwrote: [] };

/** One sender for all tabs of this browser. */
const inTurn = <Result>(work: () => Promise<Result>): Promise<Result> =>
  navigator.locks.request('mule-tally-sender', work) as Promise<Result>;

/**
 * Sends what is unsent, of houses that were left behind too, then fetches the journal of the open one: the only way by which
 * its head moves on.
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

  async run(open?: OpenAt): Promise<Exchanged> {
    try {
      const sent = await this.alone(() => this.sender.sendAll(open?.houseId));
      if (!open) return { kind: 'done', sent: NOTHING_SENT };
      const { seq, epoch } = open.now();
      // What was sent stands on the last page at the latest: it stays in the view until that has arrived.
      for await (const entries of this.puller.since(open.houseId, seq, epoch)) open.take(entries);
      return { kind: 'done', sent: sent.get(open.houseId) ?? NOTHING_SENT };
    } catch (error) {
      if (error instanceof OtherDatabase) return { kind: 'other-database' };
      return { kind: error instanceof ServerAway ? 'away' : 'failed' };
    }
  }
}
