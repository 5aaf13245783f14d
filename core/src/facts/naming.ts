import type { HouseReader } from '../derive/reader.js';
import { farBox } from './box-facts.js';
import type { Run } from '../house/model.js';

/** How people are told which record is meant. */
export const boxName = (reader: HouseReader, boxId: string): string =>
  reader.get('boxes', boxId)?.tag ?? 'a box';

export function circuitName(reader: HouseReader, circuitId: string): string {
  const circuit = reader.get('circuits', circuitId);
  return circuit ? `circuit ${circuit.number} (${circuit.name})` : 'a circuit';
}

export const runName = (reader: HouseReader, run: Run): string =>
  `${boxName(reader, run.from.boxId)} → ${'boxId' in run.to ? boxName(reader, run.to.boxId) : run.to.loose}`;

/** Where a run leads from a box: the tag of the box at its other end, or where it ends loose. */
export function farName(reader: HouseReader, run: Run, boxId: string): string {
  const far = farBox(run, boxId);
  return far ? boxName(reader, far) : 'loose' in run.to ? run.to.loose : '';
}
