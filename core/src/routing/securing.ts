import type { HouseReader } from '../derive/reader.js';
import { shapeOfBox } from '../facts/box-facts.js';
import type { Way } from './way.js';

/** Staples of a run: as the code asks, and as the crew does it. */
export interface Staples {
  readonly rule: number;
  readonly habit: number;
}

/**
 * How many staples a cable of this length takes between what holds it anyway (bored holes, by where they are along it): within so much
 * of either end, and nowhere farther apart than `everyIn`. Inches; 334.30 and 314.17, from memory.
 */
export function staplesBetween(
  lengthIn: number,
  holesAtIn: readonly number[],
  firstWithinIn: number,
  lastWithinIn: number,
  everyIn: number,
): number {
  const held = [...holesAtIn].filter((at) => at >= 0 && at <= lengthIn).sort((a, b) => a - b);
  let staples = 0;
  if (!(held[0] !== undefined && held[0] <= firstWithinIn + 1e-9)) {
    held.unshift(Math.min(firstWithinIn, lengthIn / 2));
    staples++;
  }
  if (lengthIn - held.at(-1)! > lastWithinIn + 1e-9) {
    held.push(lengthIn - lastWithinIn);
    staples++;
  }
  for (let at = 1; at < held.length; at++)
    staples += Math.max(0, Math.ceil((held[at]! - held[at - 1]!) / everyIn - 1e-9) - 1);
  return staples;
}

/** How near to a box cable is held: 8 in at a single-gang nonmetallic one without a clamp (314.17), 12 in elsewhere (334.30). */
export function heldWithin(reader: HouseReader, boxId: string): number {
  const { material, gangs, clamps } = shapeOfBox(reader, boxId);
  const isPlain = material !== 'metal' && gangs === 1 && clamps === 'none';
  return reader.rules().number(isPlain ? 'secure.fromPlainBox' : 'secure.fromBox');
}

/** The staples that a way takes, box to box; of one that is not known, as if nothing were bored. */
export function staplesOf(reader: HouseReader, way: Way, fromId: string, toId: string): Staples {
  const rules = reader.rules();
  const held = way.crossings.map(({ pastIn }) => pastIn);
  const [first, last] = [heldWithin(reader, fromId), heldWithin(reader, toId)];
  const habit = rules.number('secure.habitFromBox');
  const every = rules.number('secure.every');
  return {
    rule: staplesBetween(way.lengthIn, held, first, last, every),
    habit: staplesBetween(
      way.lengthIn,
      held,
      Math.min(first, habit),
      Math.min(last, habit),
      Math.min(every, rules.number('secure.habitEvery')),
    ),
  };
}
