import type { Glossary, HouseReader, Run } from '@mule-tally/core';
import type { Phrases } from '@mule-tally/core/work';
import { boxFacts } from '@mule-tally/core';

/** Where a run enters the boxes at its ends: "panel → slot 1", "any knockout → slot 2". */
export function slotsOf(
  reader: HouseReader,
  phrases: Phrases,
  { panel }: Glossary,
  { from, to }: Run,
): string {
  const slot = (end: Run['from']): string => {
    const box = reader.get('boxes', end.boxId);
    if (box && boxFacts(reader, box).kind === 'panel') return panel;
    return end.slot ? phrases.slot(end.slot) : $localize`any knockout`;
  };
  return `${slot(from)} → ${slot(to)}`;
}
