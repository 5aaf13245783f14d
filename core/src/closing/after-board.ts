import type { Derivation, HouseReader } from '../derive/reader.js';
import { boxFacts, boxesInRoom } from '../facts/box-facts.js';
import { BURIED_POINT } from '../house/model.js';
import type { WorkRecord } from '../house/model.js';
import { middleOf, roomLayout } from '../plan/room-layout.js';
import { wallNumber } from '../plan/wall-number.js';

/** What a hand says of a box after the board is up: it shows (pass), or it does not (fail). */
export const SHOWING_STEP = 'showing';

/** Where a tape finds something on a wall, inches: from its two corners, as one faces it, and over the finished floor. */
export interface TapePlace {
  readonly number: number;
  readonly fromRightIn: number;
  readonly fromLeftIn: number;
  readonly upIn?: number;
}

/** A box after the board is up. */
export interface BoxShowing {
  readonly boxId: string;
  readonly is: 'shows' | 'missing' | 'open';
  /** Who looked last, and when. */
  readonly seen?: WorkRecord;
  readonly tape?: TapePlace;
}

export interface RoomShowing {
  readonly roomId: string;
  readonly boxes: readonly BoxShowing[];
  readonly showing: number;
  readonly missing: number;
  readonly of: number;
}

/** Where a tape finds a box; undefined where its room is not drawn or it is on no wall. */
export function tapeOf(reader: HouseReader, boxId: string): TapePlace | undefined {
  const box = reader.get('boxes', boxId);
  if (!box?.roomId || box.corner === undefined || box.alongIn === undefined) return undefined;
  const layout = roomLayout(reader, box.roomId);
  const wall = layout?.walls.find(({ corner }) => corner === box.corner);
  const number = wallNumber(layout?.room, box.corner);
  if (!wall || number === undefined) return undefined;
  const { heightIn, heightReference } = box;
  const fromRightIn = box.alongIn - wall.startIn;
  return {
    number,
    fromRightIn,
    fromLeftIn: wall.lengthIn - fromRightIn,
    ...(heightIn !== undefined && { upIn: middleOf(heightIn, heightReference) }),
  };
}

/** By room id. */
const ROOM_SHOWING: Derivation<RoomShowing> = {
  name: 'boxes showing',
  compute: (reader, roomId) => {
    const boxes = boxesInRoom(reader, roomId)
      // What has no box does not show: it comes out of the board as a cable.
      .filter((box) => box.catalogueId !== BURIED_POINT && boxFacts(reader, box).kind !== 'panel')
      .map(({ id }): BoxShowing => {
        const seen = reader
          .mentioning('records', id)
          .findLast(({ kind, step }) => kind === 'tick' && step === SHOWING_STEP);
        const tape = tapeOf(reader, id);
        return {
          boxId: id,
          is: !seen ? 'open' : seen.result === 'fail' ? 'missing' : 'shows',
          ...(seen && { seen }),
          ...(tape && { tape }),
        };
      });
    const count = (is: BoxShowing['is']): number => boxes.filter((box) => box.is === is).length;
    return { roomId, boxes, showing: count('shows'), missing: count('missing'), of: boxes.length };
  },
};

/** Boxes of a room after the board is up: which show, which do not, where a tape finds those. */
export const roomShowing = (reader: HouseReader, roomId: string): RoomShowing =>
  reader.derive(ROOM_SHOWING, roomId);
