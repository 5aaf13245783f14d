import type { RoomKind } from '@mule-tally/core';

const WORDS: readonly (readonly [RegExp, RoomKind])[] = [
  [/kitchen/i, 'kitchen'],
  [/dining/i, 'dining'],
  [/family/i, 'family'],
  [/living|lounge|great room/i, 'living'],
  [/bed|guest room/i, 'bedroom'],
  [/powder|water closet|wc/i, 'water-closet'],
  [/bath|shower|ensuite/i, 'bath'],
  [/foyer|vestibule/i, 'foyer'],
  [/hall|landing|entry/i, 'hall'],
  [/stair/i, 'stairs'],
  [/laundry|mud/i, 'laundry'],
  [/closet|pantry/i, 'closet'],
  [/office|study|den/i, 'office'],
  [/garage/i, 'garage'],
  [/porch|deck|patio/i, 'porch'],
  [/utility|mechanical/i, 'utility'],
  [/attic/i, 'attic'],
  [/basement|cellar/i, 'basement'],
  [/outdoor|outside|yard/i, 'outdoors'],
];

/** What kind of room it is by what it is called; 'other' where its name does not say. */
export const kindFromName = (name: string): RoomKind =>
  WORDS.find(([word]) => word.test(name))?.[1] ?? 'other';
