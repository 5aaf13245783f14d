import type { RoomKind } from '../vocabulary/kinds.js';
import type { Rulebook } from './rulebook.js';

/** Rooms in which receptacles have ground-fault protection, by the edition of the house. */
export const needsGfci = (rules: Rulebook, kind: RoomKind): boolean =>
  rules.list('gfci.rooms').includes(kind);
