import * as z from 'zod';
import { scan } from '../vocabulary/scan.js';
import { problemsOf } from '../vocabulary/schema-problems.js';
import { Id } from '../vocabulary/text.js';

/** The version of the change format; journal entries carry it. */
export const CHANGE_VERSION = 3;

/** A change that a person made. The id is made where the person is. */
export interface ChangeOf<B> {
  readonly id: string;
  readonly version: typeof CHANGE_VERSION;
  readonly body: B;
}

/** A change on its way: who made it, on which device, and when by that device's clock. */
export interface EnvelopeOf<B = unknown> {
  readonly change: ChangeOf<B>;
  readonly actorId: string;
  readonly deviceId?: string | undefined;
  readonly madeAt?: string | undefined;
  /** The device's clock less the server's when they last spoke, in milliseconds. */
  readonly clockOffsetMs?: number | undefined;
  /** It came in a hand-over file: whoever sends it does so for whoever made it, and on their rights. */
  readonly isHandedOver?: true | undefined;
}

export const envelopeSchema = <B>(body: z.ZodType<B>): z.ZodType<EnvelopeOf<B>> =>
  z.strictObject({
    change: z.strictObject({ id: Id, version: z.literal(CHANGE_VERSION), body }),
    actorId: Id,
    deviceId: Id.optional(),
    madeAt: z.iso.datetime({ offset: true }).optional(),
    clockOffsetMs: z.int().min(-2_147_483_648).max(2_147_483_647).optional(),
    isHandedOver: z.literal(true).optional(),
  }) as unknown as z.ZodType<EnvelopeOf<B>>;

/** What was sent as a change: the change, or why it is none. */
export type ReadEnvelope<B> =
  | { readonly ok: true; readonly envelope: EnvelopeOf<B> }
  | {
      readonly ok: false;
      /** The id that it gave, as far as it gave one. */
      readonly id: string;
      readonly refusal: { readonly code: string; readonly message: string; readonly path: string };
    };

const idOf = (input: unknown): string => {
  const { change, id } = (typeof input === 'object' && input !== null ? input : {}) as {
    change?: { id?: unknown } | null;
    id?: unknown;
  };
  const given = change?.id ?? id;
  return typeof given === 'string' ? given.slice(0, 60) : '';
};

/**
 * Reads one change that was sent, by itself: one that is broken stops no other. `upgrade` brings one of an older version to
 * this; `longLists` are names of lists that may be as long as a document's.
 */
export function readEnvelope<B>(
  input: unknown,
  schema: z.ZodType<EnvelopeOf<B>>,
  longLists: ReadonlySet<string> = new Set(),
  upgrade: (input: unknown) => unknown = (as) => as,
): ReadEnvelope<B> {
  const refused = ({ message, path }: { message: string; path: string }): ReadEnvelope<B> => ({
    ok: false,
    id: idOf(input),
    refusal: { code: 'change.invalid', message, path },
  });
  const [unsafe] = scan(input, longLists);
  if (unsafe) return refused(unsafe);
  const parsed = schema.safeParse(upgrade(input), { reportInput: true });
  if (parsed.success) return { ok: true, envelope: parsed.data };
  return refused(problemsOf(parsed.error.issues)[0]!);
}
