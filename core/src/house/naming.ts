import type { HouseReader } from '../derive/reader.js';
import type { Run } from './model.js';

/** How people are told which record is meant. */
export const boxName = (reader: HouseReader, boxId: string): string =>
  reader.get('boxes', boxId)?.tag ?? 'a box';

export function circuitName(reader: HouseReader, circuitId: string): string {
  const circuit = reader.get('circuits', circuitId);
  return circuit ? `circuit ${circuit.number} (${circuit.name})` : 'a circuit';
}

export const runName = (reader: HouseReader, run: Run): string =>
  `${boxName(reader, run.from.boxId)} → ${'boxId' in run.to ? boxName(reader, run.to.boxId) : run.to.loose}`;
