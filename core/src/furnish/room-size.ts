import type { HouseReader } from '../derive/reader.js';
import type { Room } from '../house/model.js';
import type { RoomKind } from '../vocabulary/kinds.js';
import type { KitMeasure } from '../vocabulary/room-kit-types.js';
import type { Jurisdiction } from '../vocabulary/jurisdiction.js';

/** How large a room is, clear between its walls, in inches. */
export interface RoomSize {
  readonly lengthIn: number;
  readonly widthIn: number;
  /** Nobody has said it: rooms of its kind are taken to be so. */
  readonly isAssumed: boolean;
}

const assumed = (jurisdiction: Jurisdiction, kind: RoomKind): readonly [number, number] =>
  jurisdiction.roomKits.find(({ roomKind }) => roomKind === kind)?.assumedIn ?? [144, 120];

/** As somebody has entered it, or as such rooms are commonly. */
export function sizeOfRoom(
  reader: HouseReader,
  { kind, lengthIn, widthIn }: Pick<Room, 'kind' | 'lengthIn' | 'widthIn'>,
): RoomSize {
  if (lengthIn && widthIn) return { lengthIn, widthIn, isAssumed: false };
  const [length, width] = assumed(reader.rules().jurisdiction, kind);
  return { lengthIn: lengthIn ?? length, widthIn: widthIn ?? width, isAssumed: true };
}

/** Floor of a room in square feet. */
export const areaFt2 = ({ lengthIn, widthIn }: RoomSize): number => (lengthIn * widthIn) / 144;

/** What a kit counts by, in feet or square feet. */
export function measured(size: RoomSize, of: KitMeasure): number {
  if (of === 'area-ft2') return areaFt2(size);
  if (of === 'length-ft') return Math.max(size.lengthIn, size.widthIn) / 12;
  return (2 * (size.lengthIn + size.widthIn)) / 12;
}
