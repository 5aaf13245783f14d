import type { NeutralException, RoomKind } from '../../../vocabulary/kinds.js';

/**
 * Rooms in which a grounded conductor is asked for at the switches of their lights: bathrooms, hallways, stairways and
 * habitable rooms (NEC 404.2(C), from memory; which rooms are habitable is the local code's to say).
 */
export const US_NEUTRAL_ROOMS: readonly RoomKind[] = [
  'kitchen',
  'dining',
  'living',
  'family',
  'bedroom',
  'bath',
  'water-closet',
  'hall',
  'foyer',
  'stairs',
  'office',
];

/** Reasons for which a switch box may go without a neutral (NEC 404.2(C) exceptions, from memory); a lead picks one. */
export const US_NEUTRAL_EXCEPTIONS: readonly { readonly code: NeutralException; readonly text: string }[] = [
  { code: 'raceway', text: 'raceway to the box is large enough to add a neutral' },
  { code: 'reachable', text: 'box can be reached without taking finish off' },
  { code: 'integral-enclosure', text: 'snap switch with integral enclosure' },
  { code: 'automatic', text: 'lighting is controlled automatically' },
  { code: 'receptacle', text: 'switch controls a receptacle' },
  {
    code: 'replacement',
    text: 'replacement of a switch that was there before the rule, where finish would have to be opened',
  },
];
