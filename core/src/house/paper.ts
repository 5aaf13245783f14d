import * as z from 'zod';
import { Id, Name, Note, ShortText } from '../vocabulary/text.js';

/** Where something is, for lists that outlive what they name: ids as long as it is there, and what it was called then. */
const place = {
  roomId: Id.optional(),
  boxId: Id.optional(),
  runId: Id.optional(),
  circuitId: Id.optional(),
  /** In words, as it was called when this was entered. */
  place: Name.optional(),
};
const moment = z.iso.datetime({ offset: true });

/** What an inspector wrote up, who fixes it, and whether it has passed since. */
export const WriteUp = z.strictObject({
  id: Id,
  /** As the inspector wrote it. */
  words: Note,
  /** The section that was named. */
  section: ShortText.optional(),
  inspector: Name.optional(),
  /** The day of the inspection. */
  on: z.iso.date(),
  ...place,
  /** When it was entered, and by whom. */
  at: moment,
  by: Id,
  /** The person who is to fix it. */
  fixerId: Id.optional(),
  fixedAt: moment.optional(),
  fixedBy: Id.optional(),
  /** The day on which it is to be looked at again, and the one on which it passed. */
  againOn: z.iso.date().optional(),
  passedOn: z.iso.date().optional(),
});
export type WriteUp = z.infer<typeof WriteUp>;

/** Work that was asked for besides what was agreed: who asked, where, for how much, and the yes. */
export const Extra = z.strictObject({
  id: Id,
  what: Name,
  askedBy: Name,
  ...place,
  /** In the crew's own currency. */
  price: z.number().min(0).max(1_000_000),
  at: moment,
  by: Id,
  /** The yes: by initials, or by a photo that names this extra. */
  yesAt: moment.optional(),
  initials: ShortText.optional(),
  noAt: moment.optional(),
  doneAt: moment.optional(),
  doneBy: Id.optional(),
});
export type Extra = z.infer<typeof Extra>;
