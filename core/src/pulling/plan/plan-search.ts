import type { Edge, Judge } from './plan-judge.js';
import type { Trees } from './plan-trees.js';
import { byBox, byOne, byTwo } from './plan-trees.js';

/** A generator of numbers from 0 to 1, the same for the same seed (mulberry32, from the literature, from memory). */
function numbers(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}
/** Of the slow judge so many times fewer trees are asked. */
export const SLOWER = 20;
/** How far a search has come, and what the best so far costs. */
export interface Searched {
  readonly step: number;
  readonly cost: number;
}
/** So often the search is heated up, each time from the best; what is so much dearer, by its part of the whole, is taken at first. */
const PHASES = 3;
const HEAT = 0.03;
/** How often a box is put elsewhere in place of a run. */
const INSERTED = 0.5;

/**
 * A tree at once, then better by exchanging one run for another, or putting one box elsewhere, as long as there are steps. Yields what
 * the best so far costs; whoever runs it may say *enough*. Deterministic for a seed and a number of steps.
 */
export function* search(
  trees: Trees,
  judge: Judge,
  start: readonly Edge[],
  { steps: all, seed }: { readonly steps: number; readonly seed: number },
  slower: number,
): Generator<Searched, Edge[], boolean | undefined> {
  const steps = Math.ceil(all / slower);
  // By the slow judge what is found is polished less.
  const polished = slower === 1 ? 4 * steps : steps;
  const totalOf = (edges: readonly Edge[]): number => judge.costOf(edges).total;
  const starts = [[...start], trees.completed([]), trees.chain()];
  let best = starts.reduce((least, edges) => (totalOf(edges) < totalOf(least) ? edges : least));
  if (yield { step: 0, cost: totalOf(best) }) return best;
  const random = numbers(seed);
  let now = best;
  const phase = Math.ceil(steps / PHASES);
  for (let step = 1; step <= steps; step++) {
    // Where it has gone astray it begins again: from the other trees that were made at once, then from the best.
    if (step % phase === 0) now = starts[step / phase] ?? best;
    const next = (random() < INSERTED && trees.inserted(now, random)) || trees.exchanged(now, random);
    const heat = totalOf(best) * HEAT * (1 - (step % phase) / phase);
    const more = totalOf(next) - totalOf(now);
    if (more <= 0 || (heat > 0 && random() < Math.exp(-more / heat))) now = next;
    if (totalOf(now) < totalOf(best) - 1e-9) best = now;
    if (step % 20 === 0 && (yield { step: step * slower, cost: totalOf(best) })) return best;
  }
  const told = (edges: readonly Edge[]): Searched => ({ step: all, cost: totalOf(edges) });
  const one = (edges: readonly Edge[]): Iterable<Edge[]> => byOne(trees, edges);
  best = yield* descend(one, totalOf, told, best, polished);
  if (best.length > MOST_BY_TWO)
    return yield* descend((edges) => byBox(trees, edges), totalOf, told, best, polished);
  for (let restart = 0; slower === 1 && restart < steps / STEPS_PER_RESTART; restart++) {
    const other = yield* descend(one, totalOf, () => told(best), trees.any(random), MOST_POLISHED);
    if (totalOf(other) < totalOf(best) - 1e-9) best = other;
  }
  // What no single exchange betters, two at once may.
  return yield* descend((edges) => byTwo(trees, edges), totalOf, told, best, steps);
}

/** Trees that are looked at from one that is drawn. */
const MOST_POLISHED = 300;
/** To so many runs, two at once are exchanged for any two others, and one of so many steps begins at a tree that is drawn. */
const MOST_BY_TWO = 7;
const STEPS_PER_RESTART = 75;

/** To a neighbor that is better, and from there again, as long as there is one; at most so many are looked at. */
function* descend(
  neighborsOf: (edges: readonly Edge[]) => Iterable<Edge[]>,
  totalOf: (edges: readonly Edge[]) => number,
  told: (edges: readonly Edge[]) => Searched,
  found: Edge[],
  most: number,
): Generator<Searched, Edge[], boolean | undefined> {
  let best = found;
  let tried = 0;
  for (let isBetter = true; isBetter;) {
    isBetter = false;
    for (const next of neighborsOf(best)) {
      if (++tried > most) return best;
      if (tried % 20 === 0 && (yield told(best))) return best;
      if (totalOf(next) >= totalOf(best) - 1e-9) continue;
      best = next;
      isBetter = true;
      break;
    }
  }
  return best;
}
