import type { Glossary } from '@mule-tally/core';
import type { SeenCount } from '@mule-tally/core/work';

/** "2 power + 1 leg": what enters a box, as it is read out on a walk. */
export function countText({ power, leg }: SeenCount, glossary: Glossary): string {
  const parts = [
    ...(power ? [$localize`${power} power`] : []),
    ...(leg ? [leg === 1 ? `1 ${glossary.leg}` : $localize`${leg} ${glossary['switch legs']}`] : []),
  ];
  return parts.join(' + ') || $localize`nothing`;
}
