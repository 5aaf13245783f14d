import type { BatchAnswer } from '@mule-tally/core';
import { LIMITS } from '@mule-tally/core';
import { Refused } from './api';
import type { Outbox, OutboxItem } from './outbox';
import { CREW_BOOK, envelopeOf } from './outbox';
import type { Receiver } from './transport';

export interface Sent {
  readonly done: readonly string[];
  readonly refused: readonly { readonly id: string; readonly code: string; readonly message: string }[];
  /** What was written over that others had written since, in the server's words. */
  readonly overwrote: readonly string[];
}
/** What was answered so far. */
interface Answered extends Sent {
  readonly done: string[];
  readonly refused: { readonly id: string; readonly code: string; readonly message: string }[];
  readonly overwrote: string[];
}

/** Changes in one request, and about how many bytes of them. */
const BATCH = 100;
const BYTES = LIMITS.changeBytes / 4;

type Kept = { key: number; item: OutboxItem };

/** As many of these as go into one request; one that is larger than a request goes by itself. */
function batchOf(unsent: readonly Kept[]): Kept[] {
  const batch: Kept[] = [];
  let bytes = 0;
  for (const kept of unsent) {
    const own = JSON.stringify(kept.item.change).length;
    if (batch.length && (batch.length === BATCH || bytes + own > BYTES)) break;
    batch.push(kept);
    bytes += own;
  }
  return batch;
}

/**
 * Sends what is in the outbox, document by document and in the order of entry. Each change is judged alone: one that the server
 * refuses, or that spoils a whole request, keeps its refusal and stays for a person to decide; it never holds up the others.
 */
export class Sender {
  constructor(
    private readonly store: Outbox,
    private readonly server: Receiver,
  ) {}

  /** What was answered and has not been taken yet: an exchange that fails on its way takes nothing of it along. */
  private answered = new Map<string, Answered>();

  /** What was answered since this was asked for last. */
  taken(): ReadonlyMap<string, Sent> {
    const { answered } = this;
    this.answered = new Map();
    return answered;
  }

  /**
   * The crew book first, so that whoever has changed something is on the list before it; then the open house. Fails only where
   * the server is away; what was answered until then is settled.
   */
  async sendAll(first?: string): Promise<void> {
    const unsent = await this.store.unsentDocuments();
    const early = [CREW_BOOK, first].filter((id) => id !== undefined && unsent.includes(id)) as string[];
    for (const documentId of new Set([...early, ...unsent])) await this.sendDocument(documentId);
  }

  private async sendDocument(documentId: string): Promise<void> {
    const answered: Answered = this.answered.get(documentId) ?? { done: [], refused: [], overwrote: [] };
    this.answered.set(documentId, answered);
    const { done, refused, overwrote } = answered;
    const refuse = async ({ key, item }: Kept, code: string, message: string): Promise<void> => {
      refused.push({ id: item.change.id, code, message });
      await this.store.setOutboxItem(key, { ...item, refusal: { code, message } });
    };
    /** A request that was refused as a whole is sent again change by change, to find the one. */
    let alone = 0;
    for (;;) {
      // Read again after each batch: what was entered meanwhile goes out too.
      const unsent = (await this.store.outbox(documentId)).filter(({ item }) => !item.refusal);
      const batch = alone > 0 ? unsent.slice(0, 1) : batchOf(unsent);
      if (batch.length === 0) return;
      let answers: BatchAnswer['answers'];
      try {
        ({ answers } = await this.server.change(
          documentId,
          batch.map(({ item }) => envelopeOf(item)),
        ));
      } catch (error) {
        if (!(error instanceof Refused)) throw error;
        if (batch.length > 1) alone = batch.length;
        else {
          alone = Math.max(0, alone - 1);
          await refuse(batch[0]!, error.problem.code, error.message);
        }
        continue;
      }
      alone = Math.max(0, alone - 1);
      const finished: number[] = [];
      for (const [index, kept] of batch.entries()) {
        const answer = answers[index];
        if (!answer) continue;
        if (answer.status === 'refused' && answer.isHeld) {
          done.push(kept.item.change.id);
          finished.push(kept.key);
          overwrote.push($localize`${answer.message} It is kept for a lead to decide.`);
        } else if (answer.status === 'refused') await refuse(kept, answer.code, answer.message);
        else {
          done.push(kept.item.change.id);
          finished.push(kept.key);
          if (answer.status === 'applied' && answer.overwrote) overwrote.push(answer.overwrote);
        }
      }
      await this.store.dropFromOutbox(finished);
      if (answers.length === 0) return;
    }
  }
}
