/** So many states are searched for the shortest walk; above it the next step is the one that shows most. */
const MOST_STATES = 1 << 20;

const bits = (value: number): number => {
  let count = 0;
  for (let left = value; left; left &= left - 1) count++;
  return count;
};

/** Positions of `count` levers as masks, one thrown at a time, each once: Gray code. */
export const grayCode = (count: number): number[] =>
  Array.from({ length: 1 << count }, (_, at) => at ^ (at >> 1));

/** Sets of which each of the others holds one: what shows these shows all. */
function least(sets: readonly ReadonlySet<number>[]): ReadonlySet<number>[] {
  const kept: ReadonlySet<number>[] = [];
  for (const one of [...sets].filter(({ size }) => size > 0).sort((a, b) => a.size - b.size))
    if (!kept.some((other) => [...other].every((position) => one.has(position)))) kept.push(one);
  return kept;
}

/**
 * A walk over positions of `count` levers, one thrown at a time, from all down, that comes through at least one position of every set:
 * the shortest where that can be searched, else one that goes to what shows most for the fewest levers. Positions are masks; the first
 * is 0. At most 20 levers.
 */
export function shortestWalk(count: number, shows: readonly ReadonlySet<number>[]): number[] {
  const sets = least(shows);
  const seen = (position: number): number =>
    sets.reduce((mask, set, nth) => (set.has(position) ? mask | (1 << nth) : mask), 0);
  if (sets.length > 20 || (1 << count) * 2 ** sets.length > MOST_STATES) return greedyWalk(count, sets);
  const all = (1 << sets.length) - 1;
  const at = new Map<number, number>(
    Array.from({ length: 1 << count }, (_, position) => [position, seen(position)]),
  );
  const width = 1 << sets.length;
  const from = new Int32Array((1 << count) * width).fill(-2);
  const start = seen(0);
  from[start] = -1;
  let edge = [start];
  while (edge.length) {
    const further: number[] = [];
    for (const state of edge) {
      const [position, covered] = [Math.floor(state / width), state % width];
      if (covered === all) {
        const walk: number[] = [];
        for (let back = state; back >= 0; back = from[back]!) walk.unshift(Math.floor(back / width));
        return walk;
      }
      for (let lever = 0; lever < count; lever++) {
        const next = position ^ (1 << lever);
        const there = next * width + (covered | at.get(next)!);
        if (from[there] !== -2) continue;
        from[there] = state;
        further.push(there);
      }
    }
    edge = further;
  }
  return [0];
}

/** Goes again and again to the position that shows most of what is left for the levers thrown. */
function greedyWalk(count: number, sets: readonly ReadonlySet<number>[]): number[] {
  const walk = [0];
  let left = sets.filter((set) => !set.has(0));
  while (left.length) {
    const here = walk.at(-1)!;
    const worth = new Map<number, number>();
    for (const set of left) for (const position of set) worth.set(position, (worth.get(position) ?? 0) + 1);
    const [to] = [...worth].sort(
      ([a, na], [b, nb]) =>
        nb / bits(b ^ here) - na / bits(a ^ here) || bits(a ^ here) - bits(b ^ here) || a - b,
    )[0]!;
    for (let lever = 0; lever < count; lever++)
      if ((to ^ walk.at(-1)!) & (1 << lever)) {
        walk.push(walk.at(-1)! ^ (1 << lever));
        left = left.filter((set) => !set.has(walk.at(-1)!));
      }
  }
  return walk;
}
