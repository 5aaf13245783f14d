import type { BoxType, DeviceType } from '../vocabulary/catalogue-types.js';
import type { Jurisdiction } from '../vocabulary/jurisdiction.js';
import { JURISDICTIONS } from './jurisdictions.js';
import type { Rulebook } from './rulebook.js';

/** What houses of any country may name: a record keeps its meaning wherever it is read. */
export const BOX_TYPES: readonly BoxType[] = JURISDICTIONS.flatMap(({ boxes }) => boxes);
export const DEVICE_TYPES: readonly DeviceType[] = JURISDICTIONS.flatMap(({ devices }) => devices);

/** Where several countries have one, as the first has it: what they call it is another matter. */
const byId = <T extends { readonly id: string }>(types: readonly T[]): ReadonlyMap<string, T> =>
  new Map(types.toReversed().map((type) => [type.id, type]));
const BOXES = byId(BOX_TYPES);
const DEVICES = byId(DEVICE_TYPES);

export const isBuiltInBox = (id: string): boolean => BOXES.has(id);
export const isBuiltInDevice = (id: string): boolean => DEVICES.has(id);
export const builtInBox = (id: string): BoxType | undefined => BOXES.get(id);
const SOLD = new WeakMap<Jurisdiction, ReadonlyMap<string, DeviceType>>();
/** A device as the country of a house has it; one that is not sold there as the first that has it. */
export function deviceSoldIn({ jurisdiction }: Rulebook, id: string): DeviceType | undefined {
  let sold = SOLD.get(jurisdiction);
  if (!sold) SOLD.set(jurisdiction, (sold = byId(jurisdiction.devices)));
  return sold.get(id) ?? DEVICES.get(id);
}
/** What a box is called where the house stands. */
export const boxSoldIn = ({ jurisdiction }: Rulebook, id: string): BoxType | undefined =>
  (BOXES.get(id)?.volumeIn3 === undefined ? jurisdiction.boxes.find((box) => box.id === id) : undefined) ??
  BOXES.get(id);
export const builtInDevice = (id: string): DeviceType | undefined => DEVICES.get(id);
