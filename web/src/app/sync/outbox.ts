import type { Envelope } from '@mule-tally/core';

/** A change on its way to the server; `refusal` once the server has said no. */
export interface OutboxItem extends Envelope {
  readonly houseId: string;
  readonly refusal?: { readonly code: string; readonly message: string };
}

/** The change as it travels. */
export const envelopeOf = ({ change, actorId, deviceId, madeAt }: OutboxItem): Envelope => ({
  change,
  actorId,
  ...(deviceId && { deviceId }),
  ...(madeAt && { madeAt }),
});

/** Where unsent changes are kept. */
export interface Outbox {
  /** Houses that have something unsent. */
  unsentHouses(): Promise<string[]>;
  outbox(houseId: string): Promise<{ key: number; item: OutboxItem }[]>;
  setOutboxItem(key: number, item: OutboxItem): Promise<void>;
  dropFromOutbox(keys: readonly number[]): Promise<void>;
}
