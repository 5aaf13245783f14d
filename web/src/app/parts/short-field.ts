import type { Units } from '@mule-tally/core/work';
import { readShort } from '@mule-tally/core/work';

/**
 * A width, a depth, a height as somebody typed it, in inches: a bare number is in the short unit of the house, any unit that is written
 * counts. A sentence where it is none.
 */
export function readShortField(
  typed: string,
  { system }: Pick<Units, 'system'>,
): { readonly inches: number } | { readonly problem: string } {
  const inches = readShort(typed, system);
  return inches === undefined || Number.isNaN(inches)
    ? { problem: $localize`“${typed.slice(0, 20)}” is no length: say it as 48, 4'2" or 1.2 m.` }
    : { inches };
}
