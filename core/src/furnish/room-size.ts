import type { HouseReader } from '../derive/reader.js';
import type { Room } from '../house/model.js';
import { clearOf, distance, outlineProblem, signedArea } from '../plan/outline.js';
import { outlineOf } from '../plan/storey-plan.js';
import { facesOf } from '../plan/wall-depths.js';
import type { KitMeasure } from '../vocabulary/room-kit-types.js';

/** How large a room is, clear between its walls, in inches and square inches. */
export interface RoomSize {
  readonly lengthIn: number;
  readonly widthIn: number;
  readonly areaIn2: number;
  /** All the way round, along the faces of its walls. */
  readonly wallIn: number;
  /** Nobody has said it: rooms of its kind are taken to be so. */
  readonly isAssumed: boolean;
}

const rectangle = (lengthIn: number, widthIn: number, isAssumed: boolean): RoomSize => ({
  lengthIn,
  widthIn,
  areaIn2: lengthIn * widthIn,
  wallIn: 2 * (lengthIn + widthIn),
  isAssumed,
});

/** As it is drawn, as somebody has entered it, or as such rooms are commonly. */
export function sizeOfRoom(
  reader: HouseReader,
  room: Pick<Room, 'kind' | 'lengthIn' | 'widthIn' | 'outline'> & { readonly id?: string },
): RoomSize {
  const outline = outlineOf(room);
  if (outline && !outlineProblem(outline)) {
    const face = (room.id !== undefined && clearOf(outline, facesOf(reader, room.id))) || outline;
    const spread = (field: 'xIn' | 'yIn'): number =>
      Math.max(...face.map((corner) => corner[field])) - Math.min(...face.map((corner) => corner[field]));
    return {
      lengthIn: spread('xIn'),
      widthIn: spread('yIn'),
      areaIn2: signedArea(face),
      wallIn: face.reduce((sum, corner, at) => sum + distance(corner, face[(at + 1) % face.length]!), 0),
      isAssumed: false,
    };
  }
  const { kind, lengthIn, widthIn } = room;
  if (lengthIn && widthIn) return rectangle(lengthIn, widthIn, false);
  const kit = reader.rules().jurisdiction.roomKits.find(({ roomKind }) => roomKind === kind);
  const [length, width] = kit?.assumedIn ?? [144, 120];
  return rectangle(lengthIn ?? length, widthIn ?? width, true);
}

/** Floor of a room in square feet. */
export const areaFt2 = ({ areaIn2 }: RoomSize): number => areaIn2 / 144;

/** What a kit counts by, in feet or square feet. */
export function measured(size: RoomSize, of: KitMeasure): number {
  if (of === 'area-ft2') return areaFt2(size);
  if (of === 'length-ft') return Math.max(size.lengthIn, size.widthIn) / 12;
  return size.wallIn / 12;
}
