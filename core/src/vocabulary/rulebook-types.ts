import * as z from 'zod';
import { Note, ShortText } from './text.js';

export const RuleOverride = z.strictObject({
  value: z.union([z.number(), ShortText, z.boolean(), z.array(ShortText).max(60)]),
  reason: Note.optional(),
});

export type RuleOverride = z.infer<typeof RuleOverride>;

/** Name of a rulebook value. */
export const RuleKey = z
  .string()
  .min(1)
  .max(80)
  .regex(/^[\w./-]+$/, 'is not the name of a rule');
