import * as z from 'zod';
import type { House } from '../house/house.js';
import { rowsOf } from '../house/house.js';
import { AssetId } from '../house/underlay.js';

/** Pictures that a house names. */
export function assetsOf(house: House): ReadonlySet<AssetId> {
  const named = new Set<AssetId>();
  for (const { record } of rowsOf(house, 'storeys')) if (record.underlay) named.add(record.underlay.asset);
  for (const { record } of rowsOf(house, 'photos')) named.add(record.asset).add(record.thumb);
  return named;
}

/** As much of a house file as says which pictures it names. */
const Naming = z.object({
  storeys: z.array(z.object({ underlay: z.object({ asset: AssetId }).optional() })),
  photos: z.array(z.object({ asset: AssetId, thumb: AssetId })).default([]),
});

/** Pictures that a house file names, without reading all of it; none where it is no house file. */
export const assetsInFile = (file: unknown): readonly AssetId[] => {
  const read = Naming.safeParse(file);
  if (!read.success) return [];
  const { storeys, photos } = read.data;
  return [
    ...new Set([
      ...storeys.flatMap(({ underlay }) => underlay?.asset ?? []),
      ...photos.flatMap(({ asset, thumb }) => [asset, thumb]),
    ]),
  ];
};

/** What the server says of a picture that it was sent. */
export const AssetTaken = z.object({ how: z.enum(['kept', 'known']) });
