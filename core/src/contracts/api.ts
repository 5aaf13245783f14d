import * as z from 'zod';
import { HouseDiff } from '../changes/diff.js';
import { Member } from '../crew/crew.js';
import { CrewDiff } from '../crew/crew-change.js';
import { ReelUsage } from '../facts/reel-usage.js';
import { Person, Reel } from '../house/model.js';
import { LIMITS } from '../vocabulary/limits.js';
import { RulebookBase } from '../rulebook/jurisdictions.js';
import { Id, Name } from '../vocabulary/text.js';

/** What server and screens say to each other. Problems travel as RFC 9457 problem details. */

export const ProblemDetails = z.looseObject({
  type: z.string(),
  title: z.string(),
  status: z.int(),
  /** Stable code, for programs. */
  code: z.string(),
  /** Sentence, for people. */
  detail: z.string(),
  path: z.string().optional(),
  problems: z.array(z.strictObject({ code: z.string(), message: z.string(), path: z.string() })).optional(),
});
export type ProblemDetails = z.infer<typeof ProblemDetails>;

export const HouseSummary = z.strictObject({
  id: Id,
  name: Name,
  base: RulebookBase,
  /** What its own code is called, or the edition that is not here. */
  rules: z.string().optional(),
  seq: z.int(),
  rooms: z.int(),
  boxes: z.int(),
  runs: z.int(),
  runsIn: z.int(),
  changedAt: z.string(),
});
export type HouseSummary = z.infer<typeof HouseSummary>;

export const NewHouse = z.strictObject({ id: Id, name: Name, base: RulebookBase });
export type NewHouse = z.infer<typeof NewHouse>;

/** A copy for the next lot: new ids, no pulls, no records. `id` is made by the client, so that asking twice copies once. */
export const DuplicateHouse = z.strictObject({ id: Id, name: Name });
export type DuplicateHouse = z.infer<typeof DuplicateHouse>;

export const OnExisting = z.enum(['refuse', 'copy', 'replace']);
export type OnExisting = z.infer<typeof OnExisting>;

/** The envelope of a batch; each change in it is read and judged by itself. */
export const ChangeBatch = z.strictObject({ changes: z.array(z.unknown()).min(1).max(LIMITS.batch) });
export type ChangeBatch = z.infer<typeof ChangeBatch>;

/** A change as it stands in a journal: shown, never applied again, so that an old or odd one stops nobody. */
export const StoredChange = z.looseObject({ id: z.string(), body: z.looseObject({ kind: z.string() }) });
export type StoredChange = z.infer<typeof StoredChange>;

/** An entry of the journal of a document, whose diffs are of this schema. */
export const journalEntryOf = <D>(diff: z.ZodType<D>) =>
  z.strictObject({
    seq: z.int(),
    changeId: z.string(),
    /** Who made it; names stand in the crew's list. */
    actorId: Id,
    deviceId: Id.optional(),
    /** By the clock of the device that it was made on, ISO 8601. */
    madeAt: z.string().optional(),
    /** How it is known who made it: signed in, by PIN on a shared device, brought by a lead or in a file; else it is not. */
    proof: z.enum(['verified', 'pin', 'imported']).optional(),
    /** The device's clock less the server's, in milliseconds. */
    clockOffsetMs: z.int().optional(),
    /** Server's time, ISO 8601. */
    at: z.string(),
    /** Left out where only diffs were asked for. */
    change: StoredChange.optional(),
    diff,
  });
export const JournalEntry = journalEntryOf(HouseDiff);
export type JournalEntry<D = HouseDiff> = Omit<z.infer<typeof JournalEntry>, 'diff'> & { readonly diff: D };
export const CrewEntry = journalEntryOf(CrewDiff);

export const ChangeAnswer = z.discriminatedUnion('status', [
  z.strictObject({
    id: z.string(),
    status: z.literal('applied'),
    seq: z.int(),
    /** What it did, in the shape of its document. */
    diff: z.unknown(),
    /** What others had written in the meantime and was written over, in words with their names. */
    overwrote: z.string().optional(),
  }),
  z.strictObject({ id: z.string(), status: z.literal('already applied'), seq: z.int() }),
  z.strictObject({
    id: z.string(),
    status: z.literal('refused'),
    code: z.string(),
    message: z.string(),
    path: z.string().optional(),
    /** It is kept on the server for a lead to decide: whoever sent it has done their part. */
    isHeld: z.literal(true).optional(),
  }),
]);
export type ChangeAnswer = z.infer<typeof ChangeAnswer>;

/** What a hand did and the plan could not take, waiting for a lead. */
export const HeldChange = z.strictObject({
  changeId: z.string(),
  actorId: Id,
  madeAt: z.string().optional(),
  body: z.looseObject({ kind: z.string() }),
  code: z.string(),
  message: z.string(),
  at: z.string(),
});
export type HeldChange = z.infer<typeof HeldChange>;
export const HeldDecision = z.strictObject({ take: z.boolean() });

/** What one house took off one reel, as it was written with its last pull. */
export const ReelUsageLine = z.strictObject({
  houseId: Id,
  houseName: Name,
  /** As the house knows it; the crew's own stock may have it otherwise, or no more. */
  reel: Reel,
  usage: ReelUsage,
});
export type ReelUsageLine = z.infer<typeof ReelUsageLine>;

/** How often a kind of fault was found in a house, as its records say. */
export const FaultsFound = z.strictObject({
  houseId: Id,
  fault: z.string().min(1).max(60),
  count: z.int().positive(),
});
export type FaultsFound = z.infer<typeof FaultsFound>;

export const BatchAnswer = z.strictObject({ answers: z.array(ChangeAnswer), seq: z.int() });
export type BatchAnswer = z.infer<typeof BatchAnswer>;

export const Crew = z.strictObject({ id: Id, name: Name, people: z.array(Member) });
export type Crew = z.infer<typeof Crew>;
/** The id is made where the person is entered; a name that is there already keeps its own. */
export const NewPerson = Person;
