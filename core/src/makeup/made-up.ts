import type { HouseReader } from '../derive/reader.js';
import { makeUpBox } from './make-up-box.js';

/** Whether every step of a box was made, but for those that cannot be said yet; undefined where nothing is to be made in it. */
export function isMadeUp(reader: HouseReader, boxId: string): boolean | undefined {
  const steps = makeUpBox(reader, boxId).steps.filter(({ stage }) => stage !== 'open');
  return steps.length ? steps.every(({ made }) => made) : undefined;
}
