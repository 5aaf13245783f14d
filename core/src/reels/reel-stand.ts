import type { ReelUsage } from '../facts/reel-usage.js';

/** What a house took off a reel. */
export interface UsageIn {
  readonly houseId: string;
  readonly usage: ReelUsage;
}

/** What does not fit together in what was logged off a reel: asked about, never refused. */
export type ReelQuestion =
  /** More came off it than it had. */
  | { readonly kind: 'overdrawn'; readonly byIn: number }
  /** Taken from by several people, in several houses, on one day: one of them had another reel. */
  | {
      readonly kind: 'two-houses';
      readonly day: string;
      readonly at: readonly { readonly houseId: string; readonly by: readonly string[] }[];
    }
  /** Two stretches of it were told twice: between these foot marks. */
  | {
      readonly kind: 'same-feet';
      readonly from: number;
      readonly to: number;
      readonly at: readonly { readonly houseId: string; readonly by: readonly string[] }[];
    };

export interface ReelStand {
  readonly usedIn: number;
  /** Under 0 where more came off it than it had. */
  readonly leftIn: number;
  readonly questions: readonly ReelQuestion[];
}

/** Foot marks are read to the half foot: less than this is no overlap. */
const SAME_FEET = 1;
/** Questions of one kind that are asked about one reel at a time. */
const ASKED = 3;

function twoHouses(uses: readonly UsageIn[]): ReelQuestion[] {
  const byDay = new Map<string, { houseId: string; by: readonly string[] }[]>();
  for (const { houseId, usage } of uses)
    for (const { day, by } of usage.days) byDay.set(day, [...(byDay.get(day) ?? []), { houseId, by }]);
  return (
    [...byDay]
      // Whoever takes a reel along from house to house has it all day.
      .filter(([, at]) => at.length > 1 && new Set(at.flatMap(({ by }) => by)).size > 1)
      .sort(([a], [b]) => (a < b ? 1 : -1))
      .map(([day, at]) => ({ kind: 'two-houses', day, at }))
  );
}

function sameFeet(uses: readonly UsageIn[]): ReelQuestion[] {
  const all = uses
    .flatMap(({ houseId, usage }) => usage.stretches.map((stretch) => ({ houseId, ...stretch })))
    .sort((a, b) => a.from - b.from || a.to - b.to);
  const questions: ReelQuestion[] = [];
  // The one before that reaches farthest is the one that a later one runs into.
  let before: (typeof all)[number] | undefined;
  for (const one of all) {
    if (before && Math.min(before.to, one.to) - one.from >= SAME_FEET)
      questions.push({
        kind: 'same-feet',
        from: one.from,
        to: Math.min(before.to, one.to),
        at: [before, one].map(({ houseId, by }) => ({ houseId, by })),
      });
    if (!before || one.to > before.to) before = one;
  }
  return questions;
}

/**
 * How a reel stands after what all houses took off it, and what does not fit together in it. A reel is in one place at a time: what two
 * people took in two houses on one day, or twice between the same foot marks, came off two reels. Common practice.
 */
export function reelStand(lengthIn: number, uses: readonly UsageIn[]): ReelStand {
  const usedIn = uses.reduce((sum, { usage }) => sum + usage.usedIn, 0);
  const leftIn = lengthIn - usedIn;
  return {
    usedIn,
    leftIn,
    questions: [
      ...(leftIn < -0.5 ? [{ kind: 'overdrawn' as const, byIn: -leftIn }] : []),
      ...twoHouses(uses).slice(0, ASKED),
      ...sameFeet(uses).slice(0, ASKED),
    ],
  };
}
