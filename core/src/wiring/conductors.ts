import type { Conductor } from '../house/box-facts.js';
import type { Colour } from '../house/text.js';
import type { Carried, Signal } from './signal.js';

export interface Assignment {
  /** What every insulated conductor carries, by conductor key. */
  readonly carries: ReadonlyMap<string, Carried>;
  readonly missing: readonly Signal[];
}

/** Wished colours of a signal, best first. White is only ever neutral here; nothing is re-identified. */
export type ColourWish = (signal: Signal) => readonly Colour[];

const ORDER: readonly ((signal: Signal) => boolean)[] = [
  (signal) => signal === 'neutral',
  (signal) => signal === 'hot',
  (signal) => signal === 'interconnect',
];

const rank = (signal: Signal): number => {
  const place = ORDER.findIndex((is) => is(signal));
  return place === -1 ? ORDER.length : place;
};

/**
 * Gives the signals that a run must carry to its conductors: neutral on white, hot on black, the rest by wish and then by
 * what is left. What finds no conductor is missing; conductors left over are spares.
 */
export function assignConductors(
  needs: readonly Signal[],
  conductors: readonly Conductor[],
  wish: ColourWish,
): Assignment {
  const free = conductors.filter((conductor) => !conductor.ground);
  const carries = new Map<string, Carried>();
  const missing: Signal[] = [];
  // A leg that wishes for black waits for one that must have it: hot goes first.
  const ordered = [...needs].sort(
    (a, b) => rank(a) - rank(b) || firstWish(a, wish) - firstWish(b, wish) || (a < b ? -1 : 1),
  );
  for (const signal of ordered) {
    const wished = wish(signal);
    const colour = wished.find((candidate) => free.some((conductor) => conductor.colour === candidate));
    const index = free.findIndex((conductor) => conductor.colour === colour);
    if (colour === undefined || index === -1) {
      missing.push(signal);
      continue;
    }
    carries.set(free[index]!.key, signal);
    free.splice(index, 1);
  }
  for (const conductor of free) carries.set(conductor.key, 'spare');
  return { carries, missing };
}

const WISH_RANK: readonly Colour[] = ['BK', 'RD', 'BU'];
const firstWish = (signal: Signal, wish: ColourWish): number => WISH_RANK.indexOf(wish(signal)[0] ?? 'BU');
