import type { RoomKind } from '../../../vocabulary/kinds.js';

/**
 * Rooms with a ceiling from which a paddle fan could hang (habitable rooms and porches: common practice). In a bath or a water
 * closet a fan is an exhaust fan with a housing of its own.
 */
export const US_FAN_ROOMS: readonly RoomKind[] = [
  'kitchen',
  'dining',
  'living',
  'family',
  'bedroom',
  'office',
  'porch',
  'other',
];
export const US_EXHAUST_ROOMS: readonly RoomKind[] = ['bath', 'water-closet', 'laundry'];
