import type { Derivation, HouseReader } from '../derive/reader.js';
import type { BoxFacts } from '../facts/box-facts.js';
import { boxFacts, devicesIn } from '../facts/box-facts.js';
import type { Band, Box, Device, Point, Room } from '../house/model.js';
import type { HeightReference } from '../vocabulary/kinds.js';
import type { OpeningSeen } from './doors.js';
import { openingsSeen } from './doors.js';
import type { FaceIn, Outline, Place } from './outline.js';
import { outlineProblem } from './outline.js';
import { outlineOf, placeOfBox } from './storey-plan.js';
import { facesOf } from './wall-depths.js';
import type { WallOfRoom } from './wall-runs.js';
import { wallsOfRoom } from './wall-runs.js';

/** Half the height of a single-gang box, in inches: common practice. */
const HALF_BOX_IN = 1.875;
/** Width of a gang of a box, and of its two sides: inches, common practice. */
const GANG_IN = 1.8;
const SIDES_IN = 0.5;

/** A box as the layout sees it. */
export interface LaidBox {
  readonly box: Box;
  readonly facts: BoxFacts;
  readonly devices: readonly Device[];
  readonly points: readonly Point[];
  readonly halfWidthIn: number;
  /** Height of its middle over the finished floor; undefined while nobody has said it. */
  readonly middleIn?: number;
  /** On its wall. */
  readonly corner?: string;
  readonly alongIn?: number;
  /** On the plan. */
  readonly place?: Place;
}

/** A room with what stands in it. */
export interface RoomLayout {
  readonly room: Room;
  /** Undefined where it is not drawn, or what is drawn encloses no room. */
  readonly outline?: Outline;
  readonly walls: readonly WallOfRoom[];
  readonly openings: readonly OpeningSeen[];
  readonly bands: readonly Band[];
  readonly boxes: readonly LaidBox[];
  readonly faceIn: FaceIn;
}

/** Height of the middle of a box, of which the top, the middle or the bottom has been measured. Inches. */
export function middleOf(heightIn: number, reference: HeightReference | undefined): number {
  const up = reference === 'top' ? -HALF_BOX_IN : reference === 'bottom' ? HALF_BOX_IN : 0;
  return heightIn + up;
}

export const halfWidthOf = (gangs: number): number => (Math.max(1, gangs) * GANG_IN + SIDES_IN) / 2;

function laid(reader: HouseReader, outline: Outline | undefined, box: Box): LaidBox {
  const facts = boxFacts(reader, box);
  const devices = devicesIn(reader, box.id);
  const place = placeOfBox(outline, box);
  const { corner, heightIn, heightReference, alongIn } = box;
  return {
    box,
    facts,
    devices,
    points: devices.flatMap(({ id }) => reader.mentioning('points', id)),
    halfWidthIn: halfWidthOf(facts.gangs),
    ...(heightIn !== undefined && { middleIn: middleOf(heightIn, heightReference) }),
    ...(corner !== undefined && alongIn !== undefined && !box.facesOut && { corner, alongIn }),
    ...(place && { place: { xIn: place.xIn, yIn: place.yIn } }),
  };
}

/** By room id. */
const ROOM_LAYOUT: Derivation<RoomLayout | undefined> = {
  name: 'room layout',
  compute: (reader, roomId) => {
    const room = reader.get('rooms', roomId);
    if (!room) return undefined;
    const drawn = outlineOf(room);
    const outline = drawn && !outlineProblem(drawn) ? drawn : undefined;
    const faceIn = facesOf(reader, roomId);
    return {
      room,
      ...(outline && { outline }),
      walls: outline ? wallsOfRoom(outline, faceIn) : [],
      openings: outline ? openingsSeen(reader, room, outline) : [],
      bands: reader.mentioning('bands', roomId),
      boxes: reader.mentioning('boxes', roomId).map((box) => laid(reader, outline, box)),
      faceIn,
    };
  },
};

export const roomLayout = (reader: HouseReader, roomId: string): RoomLayout | undefined =>
  reader.derive(ROOM_LAYOUT, roomId);
