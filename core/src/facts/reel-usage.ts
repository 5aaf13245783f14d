import * as z from 'zod';
import type { Pull } from '../house/model.js';
import { FootMark, Id } from '../vocabulary/text.js';

/** Days and stretches that are kept of what a house took off a reel: the newest. */
const DAYS = 60;
const STRETCHES = 200;

/** What one house took off one reel. */
export const ReelUsage = z.strictObject({
  /** Inches, of every pull whose length is known, what was scrapped among them. */
  usedIn: z.number().min(0),
  pulls: z.int().min(0),
  /** Who took from it on which day (ISO 8601, by the clocks of their devices), the oldest first. */
  days: z.array(z.strictObject({ day: z.iso.date(), by: z.array(Id) })),
  /** Between which foot marks it was taken, the lower first, and by whom. */
  stretches: z.array(z.strictObject({ from: FootMark, to: FootMark, by: z.array(Id) })),
});
export type ReelUsage = z.infer<typeof ReelUsage>;

/** Length of a pull in inches: as entered, or from its foot marks (which may run either way along the sheath). */
export function pulledLengthIn(pull: Pull): number | undefined {
  if (pull.lengthIn !== undefined) return pull.lengthIn;
  if (pull.startMark === undefined || pull.endMark === undefined) return undefined;
  return Math.abs(pull.endMark - pull.startMark) * 12;
}

/** What these pulls, all of one house and off one reel, took off it. */
export function reelUsageOf(pulls: readonly Pull[]): ReelUsage {
  const days = new Map<string, Set<string>>();
  const segments = new Map<string, Pull[]>();
  for (const pull of pulls) {
    const day = pull.at.slice(0, 10);
    days.set(day, (days.get(day) ?? new Set()).add(pull.by));
    // Cable that was shared out has the first mark on its first run and the last on its last.
    const segment = pull.segmentId ?? pull.id;
    segments.set(segment, [...(segments.get(segment) ?? []), pull]);
  }
  const stretches = [...segments.values()].flatMap((own) => {
    const marks = own.flatMap(({ startMark, endMark }) => [startMark ?? [], endMark ?? []].flat());
    const [from, to] = [Math.min(...marks), Math.max(...marks)];
    return from < to ? [{ from, to, by: [...new Set(own.map(({ by }) => by))] }] : [];
  });
  return {
    usedIn: pulls.reduce((sum, pull) => sum + (pulledLengthIn(pull) ?? 0), 0),
    pulls: pulls.length,
    days: [...days]
      .map(([day, by]) => ({ day, by: [...by] }))
      .sort((a, b) => (a.day < b.day ? -1 : 1))
      .slice(-DAYS),
    stretches: stretches.slice(-STRETCHES),
  };
}
