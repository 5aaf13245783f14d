import type { RoomKind } from '../vocabulary/kinds.js';
import type { Rulebook } from './rulebook.js';

/** Rooms in which receptacles have ground-fault protection, by the edition of the house (NEC 210.8(A), from memory). */
export const needsGfci = (rules: Rulebook, kind: RoomKind): boolean =>
  rules.list('gfci.rooms').includes(kind);

/**
 * Rooms with a ceiling from which a paddle fan could hang (habitable rooms and porches: common practice). In a bath or a water
 * closet a fan is an exhaust fan with a housing of its own.
 */
export const FAN_ROOMS: readonly RoomKind[] = [
  'kitchen',
  'dining',
  'living',
  'family',
  'bedroom',
  'office',
  'porch',
  'other',
];
export const EXHAUST_ROOMS: readonly RoomKind[] = ['bath', 'water-closet', 'laundry'];
