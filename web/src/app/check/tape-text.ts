import type { TapePlace, Units } from '@mule-tally/core/work';

/** Where a tape finds a box, from both corners and the floor. */
export function tapeText(units: Units, { fromRightIn, fromLeftIn, upIn }: TapePlace): string {
  const along = $localize`${units.long(fromRightIn)} from the right corner, ${units.long(fromLeftIn)} from the left`;
  return upIn === undefined ? along : $localize`${along}, ${units.short(upIn)} up to its middle`;
}
