import type { CircuitPlan, KitSource, PublishedKit } from '../../../vocabulary/room-kit-types.js';
import { US_CIRCUIT_PLANS, US_ROOM_KITS } from '../us/room-kits.js';

/** What a section of the other country asks, as it stands here: from memory, less sure. */
const SECTIONS: readonly (readonly [RegExp, string])[] = [
  [/^210\.70/, '30-500'],
  [/^210\.52\(A\)|^210\.52\(H\)|^210\.52\(G\)|^210\.52\(E\)|^210\.52\(F\)/, '26-724'],
  [/^210\.52\(C\)|^210\.11\(C\)\(1\)/, '26-722'],
  [/^210\.52\(D\)/, '26-720'],
  [/^210\.11\(C\)\((2|4)\)/, '26-726'],
  [/^210\.11\(A\)/, '8-304'],
  [/^R314/, '9.10.19 of the building code'],
];

/** Where it is asked here; a habit where no section is known to us. */
function sourceHere({ section, ...source }: KitSource): KitSource {
  const own = section && SECTIONS.find(([there]) => there.test(section))?.[1];
  if (!section) return source;
  return own ? { ...source, section: own } : { provenance: 'common practice' };
}

/** What a room usually gets: the same things as to the south, by the sections of this side. */
export const CA_ROOM_KITS: readonly PublishedKit[] = US_ROOM_KITS.map((kit) => ({
  ...kit,
  sources: Object.fromEntries(Object.entries(kit.sources).map(([key, source]) => [key, sourceHere(source)])),
}));

/**
 * Circuits that are asked for: counters on 20 A, as is commonly done; 15 A split on a cable of three conductors is drawn as a multiwire
 * circuit. Baths, outside and dining rooms have none of their own asked for, but a crew's habit.
 */
export const CA_CIRCUIT_PLANS: readonly CircuitPlan[] = US_CIRCUIT_PLANS.map((plan) => ({
  ...plan,
  amps: ['counter', 'laundry', 'garage'].includes(plan.use) ? plan.amps : 15,
  source: sourceHere(plan.source),
}));
