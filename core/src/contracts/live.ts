import * as z from 'zod';
import { Id } from '../vocabulary/text.js';

/** What the server tells open browsers: numbers only, as server-sent events. What stands behind them is fetched. */

export const LIVE = {
  /** How often the numbers are told again, in ms. */
  heartbeatMs: 20_000,
} as const;

/** The last entry of the journal of the crew book, and of each house that was asked for and is there. */
export const LiveNumbers = z.strictObject({ crew: z.int(), houses: z.record(Id, z.int()) });
export type LiveNumbers = z.infer<typeof LiveNumbers>;

/** Something was written: in a house, or in the crew book where it is of none. */
export const LiveWritten = z.strictObject({ houseId: Id.nullable(), seq: z.int() });
export type LiveWritten = z.infer<typeof LiveWritten>;

/** Somebody is in a room of a house; in none any more. */
export const LiveHere = z.strictObject({ houseId: Id, personId: Id, roomId: Id.nullable() });
export type LiveHere = z.infer<typeof LiveHere>;
export const HereAsked = z.strictObject({ roomId: Id.nullable() });
