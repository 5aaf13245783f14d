import type { Change } from '@mule-tally/core';

/** A change on its way to the server; `refusal` once the server has said no. */
export interface OutboxItem {
  readonly houseId: string;
  readonly change: Change;
  readonly refusal?: { readonly code: string; readonly message: string };
}

/** Where unsent changes are kept. */
export interface Outbox {
  /** Houses that have something unsent. */
  unsentHouses(): Promise<string[]>;
  outbox(houseId: string): Promise<{ key: number; item: OutboxItem }[]>;
  setOutboxItem(key: number, item: OutboxItem): Promise<void>;
  dropFromOutbox(keys: readonly number[]): Promise<void>;
}
