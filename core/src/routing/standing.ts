import type { Derivation, HouseReader } from '../derive/reader.js';
import { partOf } from '../derive/part.js';
import { devicesIn, roomOf, shapeOfBox } from '../facts/box-facts.js';
import { middleOf } from '../plan/room-layout.js';

/** Where a box stands, as far as somebody said: on a wall of its room, in its ceiling or floor, or nowhere on the plan. */
export interface Standing {
  readonly roomId?: string;
  readonly storeyId?: string;
  readonly isPanel: boolean;
  /** It hangs in or on the ceiling. */
  readonly isOverhead: boolean;
  /** The wall of its room that begins at this corner, and how far along it. */
  readonly corner?: string;
  readonly alongIn?: number;
  /** Its place on the plan of the story, where it is on no wall. */
  readonly xIn?: number;
  readonly yIn?: number;
  /** Its middle, over the subfloor of its story; undefined overhead. Of a box of which nobody has said it, as high as such boxes are. */
  readonly heightIn?: number;
}

/** Heights of boxes of which nobody has said any, over the floor: inches, common practice. */
const USUAL_HEIGHT_IN = { panel: 60, switch: 48, outlet: 16 } as const;

const BOX_PLACE = partOf('boxes', 'place', [
  'corner',
  'alongIn',
  'xIn',
  'yIn',
  'heightIn',
  'heightReference',
]);
const ROOM_FLOOR = partOf('rooms', 'floor', ['storeyId', 'floorBuildIn']);

/** By box id. */
const STANDING: Derivation<Standing> = {
  name: 'where a box stands',
  cutsOff: true,
  compute: (reader, boxId) => {
    const box = reader.part(BOX_PLACE, boxId);
    if (!box) return { isPanel: false, isOverhead: false };
    const room = roomOf(reader, boxId);
    const floor = room && reader.part(ROOM_FLOOR, room.id);
    const { kind } = shapeOfBox(reader, boxId);
    const { corner, alongIn, xIn, yIn } = box;
    const isOnWall = corner !== undefined && alongIn !== undefined;
    const isPlaced = !isOnWall && xIn !== undefined && yIn !== undefined;
    const isPanel = kind === 'panel';
    const isOverhead = (kind === 'ceiling' || kind === 'light-box') && !isOnWall;
    const isSwitch = (): boolean =>
      devicesIn(reader, boxId).some(({ id }) =>
        reader.mentioning('points', id).some(({ role }) => role === 'lever'),
      );
    const heightIn =
      (floor?.floorBuildIn ?? 0) +
      (box.heightIn !== undefined
        ? middleOf(box.heightIn, box.heightReference)
        : USUAL_HEIGHT_IN[isPanel ? 'panel' : isSwitch() ? 'switch' : 'outlet']);
    return {
      ...(room && { roomId: room.id }),
      ...(floor && { storeyId: floor.storeyId }),
      isPanel,
      isOverhead,
      ...(isOnWall && { corner, alongIn }),
      ...(isPlaced && { xIn, yIn }),
      ...(!isOverhead && { heightIn }),
    };
  },
};

export const standingOf = (reader: HouseReader, boxId: string): Standing => reader.derive(STANDING, boxId);
