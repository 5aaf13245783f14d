import type { RoomKind } from '../vocabulary/kinds.js';
import type { Rulebook } from './rulebook.js';

/** Rooms in which receptacles have ground-fault protection, by the edition of the house. */
export const needsGfci = (rules: Rulebook, kind: RoomKind): boolean =>
  rules.list('gfci.rooms').includes(kind);

/** Outside there is no water to be near to: every receptacle is asked. */
const OUTSIDE: readonly RoomKind[] = ['porch', 'outdoors'];

/**
 * Whether a receptacle of so many volts in a room of a kind has ground-fault protection, by the edition of the house: in a
 * kitchen those of the counter, from 2023 on all (NEC 210.8(A), from memory). Where the code goes by the distance from water and that is known, by it
 * alone, in any room.
 */
export const receptacleNeedsGfci = (
  rules: Rulebook,
  kind: RoomKind,
  volts: number,
  servesCounter: boolean,
  nearWater?: boolean,
): boolean =>
  volts <= rules.number('gfci.volts') &&
  (nearWater !== undefined && !OUTSIDE.includes(kind)
    ? nearWater
    : needsGfci(rules, kind) && (kind !== 'kitchen' || servesCounter || rules.flag('gfci.wholeKitchen')));

/** Whether a circuit of so many volts and amperes that comes to a room has arc-fault protection (NEC 210.12(A), from memory). */
export const needsAfci = (rules: Rulebook, kind: RoomKind, volts: number, amps: number): boolean =>
  volts === rules.jurisdiction.lineVolts && amps <= 20 && rules.list('afci.rooms').includes(kind);
