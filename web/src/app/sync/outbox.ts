import type { EnvelopeOf } from '@mule-tally/core';

/** The crew book among the documents of a device; all others are houses, by their ids. */
export const CREW_BOOK = 'crew';

/** A change on its way to the server; `refusal` once the server has said no. */
export interface OutboxItem<Body = unknown> extends EnvelopeOf<Body> {
  /** The house that it is of, or the crew book. */
  readonly documentId: string;
  readonly refusal?: { readonly code: string; readonly message: string };
}

/** The change as it travels. */
export const envelopeOf = ({
  change,
  actorId,
  deviceId,
  madeAt,
  clockOffsetMs,
  isHandedOver,
}: OutboxItem): EnvelopeOf => ({
  change,
  actorId,
  ...(deviceId && { deviceId }),
  ...(madeAt && { madeAt }),
  ...(clockOffsetMs !== undefined && { clockOffsetMs }),
  ...(isHandedOver && { isHandedOver }),
});

/** Where unsent changes are kept. */
export interface Outbox {
  /** Documents that have something unsent. */
  unsentDocuments(): Promise<string[]>;
  outbox(documentId: string): Promise<{ key: number; item: OutboxItem }[]>;
  setOutboxItem(key: number, item: OutboxItem): Promise<void>;
  dropFromOutbox(keys: readonly number[]): Promise<void>;
}
