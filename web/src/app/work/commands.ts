import type {
  DrawnWay,
  DrillLook,
  RunStretches,
  FeedOption,
  LiveTest,
  Search,
  TrimTest,
  HouseLook,
  Outlook,
  PlanPrices,
  Progress,
  PullPlan,
  ReadyLine,
  TakeOff,
} from '@mule-tally/core/work';
import type { Finding } from '@mule-tally/core';
import type { PlanDrawing } from '@mule-tally/core/drawing';
import type { DraftLook } from '@mule-tally/core/furnish';
import { ChangeBody, HouseDiff, Id, RoomKit, RuleKey, ShortText } from '@mule-tally/core';
import * as z from 'zod';

/** Counts up with each version of the house that is shown. */
const Version = z.int().positive();
const AskId = z.int().positive();

/** What is planned, and how. */
export const PlanAsked = z.strictObject({
  circuitId: Id.optional(),
  roomId: Id.optional(),
  schools: z.strictObject({
    oneWay: z.boolean(),
    twoCables: z.boolean(),
    feed: z.enum(['cheaper', 'switch', 'light']),
    apart: z.boolean(),
    nearest: z.boolean(),
  }),
  /** Of the crew, a foot, by cable. */
  prices: z.record(ShortText, z.number().nonnegative()),
  steps: z.int().positive().max(20_000),
});
export type PlanAsked = z.infer<typeof PlanAsked>;

/** What is asked about a house. */
export const Question = z.discriminatedUnion('about', [
  /** Everything that is found in it. */
  z.strictObject({ about: z.literal('house') }),
  /** Where the cables of a story go. */
  z.strictObject({ about: z.literal('ways'), storeyId: Id }),
  /** What is drilled on the walls of a room. */
  z.strictObject({ about: z.literal('drill'), roomId: Id }),
  /** Where a run goes in walls. */
  z.strictObject({ about: z.literal('stretches'), runId: Id }),
  /** What stands between it and a passed rough-in. */
  z.strictObject({ about: z.literal('ready') }),
  /** How the search for a fault of a circuit stands; `skipped`: steps that nobody knows an answer to; `elsewhere`: what was found in the crew's other houses. */
  z.strictObject({
    about: z.literal('search'),
    circuitId: Id,
    skipped: z.array(z.string()),
    elsewhere: z.array(z.tuple([z.string(), z.int()])),
  }),
  /** How a circuit is tried once its devices are in, and before. */
  z.strictObject({ about: z.literal('trim'), circuitId: Id }),
  z.strictObject({ about: z.literal('live'), circuitId: Id }),
  /** All that is drawn of a story, for other programs. */
  z.strictObject({ about: z.literal('drawing'), storeyId: Id }),
  /** What the counts of a walk come to. */
  z.strictObject({ about: z.literal('walk') }),
  /** What the house, or a room of it, takes; with other houses as their answers came: JSON with `file`. */
  z.strictObject({ about: z.literal('material'), roomId: Id.optional(), others: z.array(z.string()) }),
  /** Where the feed of a control could come to. */
  z.strictObject({ about: z.literal('feed-ends'), controlId: Id }),
  /** What a change would mean for a control; without one, as it stands. */
  z.strictObject({ about: z.literal('outlook'), controlId: Id, change: ChangeBody.optional() }),
  /** Which box feeds which, better than it stands; and what schools and kept runs cost. */
  z.strictObject({ about: z.literal('plan'), plan: PlanAsked }),
  z.strictObject({ about: z.literal('plan-prices'), plan: PlanAsked }),
  /** What drafting the house would make of it, with the kits of the crew. */
  z.strictObject({
    about: z.literal('draft'),
    kits: z.array(RoomKit.extend({ id: Id })),
    rules: z.record(RuleKey, ShortText),
    leaveOut: z.array(Id),
    include: z.array(Id),
  }),
]);
export type Question = z.infer<typeof Question>;

/** What each kind of question is answered with. */
export interface AnswerTo {
  readonly house: HouseLook;
  readonly ways: readonly DrawnWay[];
  readonly drill: DrillLook;
  readonly stretches: RunStretches;
  readonly ready: readonly ReadyLine[];
  readonly search: Search;
  readonly trim: TrimTest;
  readonly live: LiveTest;
  readonly drawing: PlanDrawing;
  readonly walk: readonly Finding[];
  readonly material: TakeOff;
  readonly 'feed-ends': readonly FeedOption[];
  readonly outlook: Outlook;
  readonly plan: PullPlan;
  readonly 'plan-prices': PlanPrices;
  readonly draft: DraftLook;
}

/** How far an answer has come; of a plan what the best so far costs, and what stood. */
export type Heard = Progress & { readonly cost?: number; readonly before?: number };

/** What the screen sends: the house once as text (JSON with `file`), then what changes in it; questions, and that one is no longer asked. */
export const Command = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('open'), version: Version, text: z.string() }),
  z.strictObject({ kind: z.literal('diff'), version: Version, diff: HouseDiff }),
  z.strictObject({ kind: z.literal('ask'), ask: AskId, question: Question }),
  z.strictObject({ kind: z.literal('cancel'), ask: AskId }),
  /** What has been found so far is enough: it is the answer. */
  z.strictObject({ kind: z.literal('enough'), ask: AskId }),
]);
export type Command = z.infer<typeof Command>;

/** What comes back. Every answer names the version of the house that it is about. */
export type Answer =
  | ({ readonly kind: 'progress'; readonly ask: number } & Heard)
  | {
      readonly kind: 'answer';
      readonly ask: number;
      readonly version: number;
      readonly about: Question['about'];
      readonly value: AnswerTo[Question['about']];
    }
  | { readonly kind: 'failed'; readonly ask: number; readonly message: string };
