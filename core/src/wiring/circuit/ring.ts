import type { Run } from '../../house/model.js';
import { boxesOf } from '../../facts/box-facts.js';
import type { CircuitTree } from './circuit-tree.js';
import { wayUp } from './circuit-tree.js';

/** A closed ring: its runs in the order in which it goes round, from the panel and back to it, and the boxes between them. */
export interface Ring {
  readonly runs: readonly Run[];
  readonly boxIds: readonly string[];
}

/** The ring that a tree is closed to; undefined where it is none. */
export function ringOf(tree: CircuitTree): Ring | undefined {
  if (!tree.ring) return undefined;
  const [a, b] = boxesOf(tree.ring).map((boxId) => wayUp(tree, boxId));
  const runsOf = (way: readonly string[]): Run[] => way.flatMap((node) => tree.feed.get(node)?.run ?? []);
  return {
    runs: [...runsOf(a!).reverse(), tree.ring, ...runsOf(b!)],
    boxIds: [...a!.toReversed().slice(1), ...b!.slice(0, -1)],
  };
}
