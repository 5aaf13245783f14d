import * as z from 'zod';
import type { House } from '../house/house.js';
import { rowsOf } from '../house/house.js';
import type { AssetId } from '../house/underlay.js';

/** Pictures that a house names. */
export function assetsOf(house: House): ReadonlySet<AssetId> {
  const named = new Set<AssetId>();
  for (const { record } of rowsOf(house, 'storeys')) if (record.underlay) named.add(record.underlay.asset);
  return named;
}

/** What the server says of a picture that it was sent. */
export const AssetTaken = z.object({ how: z.enum(['kept', 'known']) });
