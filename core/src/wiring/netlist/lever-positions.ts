import type { Netlist } from './netlist.js';

/** Up to so many levers every position is operated. */
const ALL_POSITIONS_TO = 12;
const SAMPLES = 512;

/** Positions of the levers of a part, those with the fewest levers up first. */
export interface LeverPositions {
  /** For each position 1 for every lever that is up. */
  readonly levers: readonly Uint8Array[];
  readonly sampled: boolean;
  /** The position that differs from this one by a lever; undefined where that one is not among the samples. */
  readonly flipped: (position: number, lever: number) => number | undefined;
}

const bits = (value: number): number => {
  let count = 0;
  for (let left = value; left; left &= left - 1) count++;
  return count;
};

/** Every position of `count` levers, the fewest up first, so that the first that shows something is the smallest. */
export function allPositions(count: number): number[] {
  return Array.from({ length: 1 << count }, (_, index) => index).sort((a, b) => bits(a) - bits(b) || a - b);
}

function everyPosition(count: number): LeverPositions {
  const masks = allPositions(count);
  const at = new Int32Array(masks.length);
  masks.forEach((mask, position) => (at[mask] = position));
  return {
    levers: masks.map((mask) => Uint8Array.from({ length: count }, (_, lever) => (mask >>> lever) & 1)),
    sampled: false,
    flipped: (position, lever) => at[masks[position]! ^ (1 << lever)],
  };
}

/** Positions depend on the number of levers only. */
const EVERY: readonly LeverPositions[] = [0, 1, 2, 3, 4].map(everyPosition);

/** The same samples every time: a small generator with a fixed start. */
function samplePositions(count: number): Uint8Array[] {
  let seed = 12345;
  const next = (): number => {
    seed = (Math.imul(seed, 1103515245) + 12345) & 0x7fffffff;
    return seed >>> 16;
  };
  return Array.from({ length: SAMPLES }, () => Uint8Array.from({ length: count }, () => next() & 1));
}

const keyOf = (levers: Uint8Array): string => String.fromCharCode(...levers);

/** Each control in every position of its own levers, with all others down and with all others up. */
function controlPositions(part: Netlist): Uint8Array[] {
  const count = part.levers.length;
  const positions = new Map<string, Uint8Array>();
  for (const places of part.places.values()) {
    const own = part.levers.flatMap(({ pointId }, index) => (places.includes(pointId) ? [index] : []));
    if (own.length === 0 || own.length > ALL_POSITIONS_TO) continue;
    for (const rest of [0, 1]) {
      for (const mask of allPositions(own.length)) {
        const levers = new Uint8Array(count).fill(rest);
        own.forEach((at, index) => (levers[at] = (mask >>> index) & 1));
        positions.set(keyOf(levers), levers);
      }
    }
  }
  return [...positions.values()];
}

/** Every position of a part; with more than twelve levers each control in full and fixed samples of the rest. */
export function leverPositions(part: Netlist): LeverPositions {
  const count = part.levers.length;
  if (count <= ALL_POSITIONS_TO) return EVERY[count] ?? everyPosition(count);
  const levers = [...controlPositions(part), ...samplePositions(count)];
  const at = new Map(levers.map((position, index) => [keyOf(position), index]));
  return {
    levers,
    sampled: true,
    flipped: (position, lever) => {
      const other = Uint8Array.from(levers[position]!);
      other[lever] = other[lever] ? 0 : 1;
      return at.get(keyOf(other));
    },
  };
}
