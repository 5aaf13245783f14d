import type { HouseReader } from '../derive/reader.js';
import { partOf } from '../derive/part.js';
import { farBox, roomOf } from './box-facts.js';
import type { Run } from '../house/model.js';

const BOX_TAG = partOf('boxes', 'tag', ['tag']);
const ROOM_NAME = partOf('rooms', 'name', ['name']);

/** How people are told which record is meant. */
export const boxName = (reader: HouseReader, boxId: string): string =>
  reader.part(BOX_TAG, boxId)?.tag ?? 'a box';

/** The name of the room that a box is in; empty where that is not known. */
export function roomName(reader: HouseReader, boxId: string): string {
  const room = roomOf(reader, boxId);
  return (room && reader.part(ROOM_NAME, room.id)?.name) ?? '';
}

export const runName = (reader: HouseReader, run: Run): string =>
  `${boxName(reader, run.from.boxId)} → ${boxName(reader, run.to.boxId)}`;

/** Where a run leads from a box: the tag of the box at its other end. */
export const farName = (reader: HouseReader, run: Run, boxId: string): string =>
  boxName(reader, farBox(run, boxId));
