import type { HistoryOf } from '../documents/apply.js';
import type { HandRights, NoRight } from '../documents/rights.js';
import { rightsProblem } from '../documents/rights.js';
import type { Actor } from '../vocabulary/roles.js';
import { roleOf } from '../vocabulary/roles.js';
import type { CREW_LISTS, CrewList } from './crew.js';
import type { CrewChangeBody } from './crew-change.js';
import { CREW_CHANGES } from './crew-change.js';

/** What hands write in the crew book: what comes off the truck, the language that they read, and that they leave. */
const handRights = (actor: Actor): HandRights<typeof CREW_LISTS> => ({
  stock: { add: true, set: true },
  people: {
    set: ['language', 'left'],
    // Nobody lets themselves in again.
    own: (id, fields) => id === actor.id && (!('left' in fields) || fields['left']!.to === true),
  },
});

/** Why somebody may not make this change of the crew book; nothing where they may. */
export const mayChangeCrew = (
  actor: Actor,
  body: CrewChangeBody,
  history?: HistoryOf<CrewList>,
): NoRight | undefined => rightsProblem(roleOf(actor), body, handRights(actor), CREW_CHANGES, history);
