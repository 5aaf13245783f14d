import type { RoomKind } from '../vocabulary/kinds.js';

/**
 * Rooms in which a grounded conductor is asked for at the switches of their lights: bathrooms, hallways, stairways and
 * habitable rooms (NEC 404.2(C), from memory; which rooms are habitable is the local code's to say).
 */
export const NEUTRAL_ROOMS: readonly RoomKind[] = [
  'kitchen',
  'dining',
  'living',
  'family',
  'bedroom',
  'bath',
  'water-closet',
  'hall',
  'stairs',
  'office',
];

/** Reasons for which a switch box may go without a neutral (NEC 404.2(C) exceptions, from memory); a lead picks one. */
export const NEUTRAL_EXCEPTIONS: readonly string[] = [
  'Raceway to the box is large enough to add a neutral',
  'Box can be reached without taking finish off',
  'Snap switch with integral enclosure',
  'Lighting is controlled automatically',
  'Switch controls a receptacle',
];
