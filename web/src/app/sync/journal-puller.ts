import type { Entry, Transport } from './transport';

const PAGE = 500;

/** Another database stands in the place of the one that was read: what is known of the document is to be read anew. */
export class OtherDatabase extends Error {}

/** Fetches what has been written in the journal of a document since a number, page by page, in order. */
export class JournalPuller {
  constructor(private readonly server: Transport) {}

  /** `epoch` is the database that the document was read from; empty where that is not known. */
  async *since(documentId: string, seq: number, epoch: string): AsyncGenerator<readonly Entry[]> {
    for (let after = seq, isMore = true; isMore;) {
      const { entries, more } = await this.server.journal(documentId, { after, limit: PAGE, diffs: 'only' });
      if (epoch && this.server.epoch !== epoch) throw new OtherDatabase();
      yield entries;
      after = entries.at(-1)?.seq ?? after;
      isMore = more && entries.length > 0;
    }
  }
}
