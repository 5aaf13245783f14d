import { supplyOf } from '../../facts/circuit-facts.js';
import type { HouseReader } from '../../derive/reader.js';
import { farBox, roomOf, runsAt, shapeOfBox } from '../../facts/box-facts.js';
import type { Colour } from '../../vocabulary/text.js';
import { coloursOf } from '../circuit/marking.js';
import { wireCircuit } from './wire-circuit.js';

/** Why a box has to be made for a fan; undefined where it need not be. */
export type FanDuty = 'fan' | 'spare switched conductors';

/** A spare conductor that comes from a box with switches: it can be switched by itself. */
function hasSpareLeg(reader: HouseReader, boxId: string): boolean {
  return runsAt(reader, boxId).some((run) => {
    const far = farBox(run, boxId);
    if (run.kind === 'low-voltage' || !far || !run.circuitIds[0]) return false;
    const isSwitchBox = reader
      .mentioning('devices', far)
      .some(({ id }) => reader.mentioning('points', id).some(({ role }) => role === 'lever'));
    if (!isSwitchBox || !supplyOf(reader, run.circuitIds[0])) return false;
    const { neutral } = coloursOf(reader, run);
    const carries = wireCircuit(reader, run.circuitIds[0]).runs.get(run.id)?.carries;
    return carries
      ? [...carries].some(([key, what]) => what === 'spare' && !neutral.includes(key as Colour))
      : false;
  });
}

/**
 * Whether a box has to be made for a fan (NEC 314.27(C), from memory): a fan hangs on it, or separately switched spare
 * conductors come to it where a fan could hang. A fan in a bath or a water closet has a housing of its own (common practice).
 */
export function fanDuty(reader: HouseReader, boxId: string): FanDuty | undefined {
  const { kind } = shapeOfBox(reader, boxId);
  const room = roomOf(reader, boxId)?.kind ?? 'other';
  const { fanRooms, exhaustRooms, boxes } = reader.rules().jurisdiction;
  // Where no box is made for fans they hang from a fixing of their own.
  if (!boxes.some(({ fanRated }) => fanRated)) return undefined;
  if (kind === 'panel' || kind === 'low-voltage' || exhaustRooms.includes(room)) return undefined;
  const roles = reader
    .mentioning('devices', boxId)
    .flatMap(({ id }) => reader.mentioning('points', id).map(({ role }) => role));
  if (roles.includes('fan')) return 'fan';
  const couldHang =
    kind === 'ceiling' &&
    fanRooms.includes(room) &&
    roles.every((role) => role === 'lamp') &&
    roles.length > 0;
  return couldHang && hasSpareLeg(reader, boxId) ? 'spare switched conductors' : undefined;
}
