import type { NoRight } from '../documents/rights.js';
import { rightsProblem } from '../documents/rights.js';
import type { House } from '../house/house.js';
import { recordOf } from '../house/house.js';
import type { TABLES } from '../house/model.js';
import type { Actor } from '../vocabulary/roles.js';
import { roleOf } from '../vocabulary/roles.js';
import type { HandRights } from '../documents/rights.js';
import type { History } from './apply.js';
import type { ChangeBody } from './change.js';
import { HOUSE_CHANGES } from './change.js';

/** What hands do in a house: the work, and saying that it is done. What the house is to become is the lead's. */
const handRights = (house: House): HandRights<typeof TABLES> => ({
  pulls: { add: true, set: true, remove: true },
  records: {
    add: true,
    set: true,
    remove: true,
    // What is found and stays as it is, is a lead's to say.
    adds: ({ kind }) => kind !== 'accepted',
    own: (id, { kind, accepted }) =>
      recordOf(house, 'records', id)?.kind !== 'accepted' &&
      kind?.to !== 'accepted' &&
      (accepted?.to ?? null) === null,
  },
  reels: { add: true, set: true, remove: true },
  photos: { add: true, set: true, remove: true },
  // That it was written up, and is fixed; who is to fix it and whether it passed is a lead's to say.
  writeUps: { add: true, set: ['fixedAt', 'fixedBy'] },
  // Who asks, asks whoever is there; what was agreed on stays as it was agreed.
  extras: { add: true, set: ['yesAt', 'initials', 'noAt', 'doneAt', 'doneBy'] },
  // How it was made up, where along the wall it was nailed up, what stood in the way.
  boxes: { set: ['asBuilt', 'alongIn', 'placeNote', 'setOutIn'] },
  // What stands in the way, and that it has been seen to.
  asks: { add: true, set: ['doneAt', 'doneBy'] },
  runs: {
    set: ['measuredLengthIn', 'from', 'to'],
    // Through which hole a cable has come in; not from where to where it goes.
    own: (id, fields) => {
      const run = recordOf(house, 'runs', id);
      return (['from', 'to'] as const).every((end) => {
        const written = fields[end]?.to as { boxId?: string } | null | undefined;
        return !(end in fields) || !run || written?.boxId === run[end].boxId;
      });
    },
  },
});

/**
 * Why somebody may not make this change of a house; nothing where they may. Asked by the server before it applies a change, and
 * by the screens to show what can be done. `history` gives what earlier changes did, for undoing.
 */
export const mayChange = (
  actor: Actor,
  body: ChangeBody,
  house: House,
  history?: History,
): NoRight | undefined =>
  rightsProblem(roleOf(actor, house.head.id), body, handRights(house), HOUSE_CHANGES, history);
