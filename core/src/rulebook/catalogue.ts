import type { BoxType, DeviceType } from '../vocabulary/catalogue-types.js';
import { JURISDICTIONS } from './jurisdictions.js';

/** What houses of any country may name: a record keeps its meaning wherever it is read. */
export const BOX_TYPES: readonly BoxType[] = JURISDICTIONS.flatMap(({ boxes }) => boxes);
export const DEVICE_TYPES: readonly DeviceType[] = JURISDICTIONS.flatMap(({ devices }) => devices);

const BOXES = new Map(BOX_TYPES.map((type) => [type.id, type]));
const DEVICES = new Map(DEVICE_TYPES.map((type) => [type.id, type]));

export const isBuiltInBox = (id: string): boolean => BOXES.has(id);
export const isBuiltInDevice = (id: string): boolean => DEVICES.has(id);
export const builtInBox = (id: string): BoxType | undefined => BOXES.get(id);
export const builtInDevice = (id: string): DeviceType | undefined => DEVICES.get(id);
