import type { SingleChangeBody } from '../changes/change.js';
import { adding, setting } from '../changes/change.js';
import type { HouseReader } from '../derive/reader.js';
import type { Room } from '../house/model.js';
import type { Outline } from './outline.js';
import { builtStorey } from './storey-plan.js';

/** An outline that somebody wants in the house: under a name, as a kind of room. */
export interface OutlineTaken {
  readonly name: string;
  readonly kind: Room['kind'];
  readonly outline: Outline;
}

/** Between what is drawn already and what comes from elsewhere, in inches. */
const APART_IN = 60;

const known = (name: string): string => name.trim().toLowerCase();

/**
 * The changes by which outlines come into a story: those of rooms that are there by name and are not drawn become theirs, others
 * are new rooms, behind all others in walking order. All keep their places among each other; they come to lie beside what is
 * drawn, or at the corner of the plan. `newId` gives ids for new rooms.
 */
export function takeOutlines(
  reader: HouseReader,
  storeyId: string,
  taken: readonly OutlineTaken[],
  newId: () => string,
): readonly SingleChangeBody[] {
  const corners = taken.flatMap(({ outline }) => outline);
  if (corners.length === 0) return [];
  const drawn = builtStorey(reader, storeyId).rooms.flatMap(({ outline }) => outline);
  const least = (values: readonly number[]): number => values.reduce((low, value) => Math.min(low, value));
  const most = (values: readonly number[]): number => values.reduce((high, value) => Math.max(high, value));
  const [left, low] = [least(corners.map(({ xIn }) => xIn)), least(corners.map(({ yIn }) => yIn))];
  const [toX, toY] = drawn.length
    ? [most(drawn.map(({ xIn }) => xIn)) + APART_IN, least(drawn.map(({ yIn }) => yIn))]
    : [0, 0];
  const round = (inches: number): number => Math.round(inches * 100) / 100;
  const undrawn = new Map(
    reader
      .mentioning('rooms', storeyId)
      .filter(({ outline }) => !outline)
      .map((room) => [known(room.name), room]),
  );
  let order = most([0, ...reader.all('rooms').map((room) => room.order)]);
  return taken.map(({ name, kind, outline: own }) => {
    const outline = own.map(({ id, xIn, yIn }) => ({
      id,
      xIn: round(xIn - left + toX),
      yIn: round(yIn - low + toY),
    }));
    const room = undrawn.get(known(name));
    if (room) {
      undrawn.delete(known(name));
      return setting('rooms', room.id, { outline });
    }
    order = Math.min(100_000, Math.floor(order) + 1);
    return adding('rooms', { id: newId(), storeyId, name, kind, order, outline });
  });
}
