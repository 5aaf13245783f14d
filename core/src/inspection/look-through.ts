import type { HouseReader } from '../derive/reader.js';
import type { Steps } from '../structures/steps.js';
import { BOX_FINDINGS } from './box-findings.js';
import type { Cause } from './causes.js';
import { causesIn } from './causes.js';
import { CIRCUIT_FINDINGS } from './circuit-findings.js';
import { ROOM_FINDINGS } from './inspect-house.js';
import { walkFindings } from './walk-findings.js';
import { WAY_FINDINGS } from './way-findings.js';

/** How far a long job has come, in parts of about one size. */
export interface Progress {
  readonly done: number;
  readonly of: number;
}

/** What is found in a house, and how much of it is to stop for in each room and each box, by id. */
export interface HouseLook {
  readonly causes: readonly Cause[];
  readonly stopsInRoom: Readonly<Record<string, number>>;
  readonly stopsInBox: Readonly<Record<string, number>>;
}

/**
 * Looks through a whole house, circuit by circuit and box by box, and stops after each so that whoever runs it can see to
 * something else. What it has derived so far is kept by the reader: begun again, it is quickly there.
 */
export function* lookThrough(reader: HouseReader): Steps<HouseLook, Progress> {
  const [circuits, boxes, rooms] = [reader.all('circuits'), reader.all('boxes'), reader.all('rooms')];
  const of = circuits.length + boxes.length;
  let done = 0;
  for (const { id } of circuits) {
    reader.derive(CIRCUIT_FINDINGS, id);
    yield { done: ++done, of };
  }
  const stopsInBox: Record<string, number> = {};
  for (const { id } of boxes) {
    stopsInBox[id] = stopsIn(reader.derive(BOX_FINDINGS, id));
    yield { done: ++done, of };
  }
  // Ways are searched for: each is a step of its own.
  for (const { id } of reader.all('runs')) {
    reader.derive(WAY_FINDINGS, id);
    yield { done, of };
  }
  const stopsInRoom = Object.fromEntries(
    rooms.map(({ id }) => [id, stopsIn(reader.derive(ROOM_FINDINGS, id))]),
  );
  yield { done, of };
  for (const { severity, where } of walkFindings(reader)) {
    if (severity !== 'stop') continue;
    const { boxId, roomId } = where;
    if (boxId) stopsInBox[boxId] = (stopsInBox[boxId] ?? 0) + 1;
    if (roomId) stopsInRoom[roomId] = (stopsInRoom[roomId] ?? 0) + 1;
  }
  yield { done, of };
  return { causes: causesIn(reader), stopsInRoom, stopsInBox };
}

const stopsIn = (findings: readonly { readonly severity: string }[]): number =>
  findings.filter(({ severity }) => severity === 'stop').length;
