import * as z from 'zod';
import { Note, ShortText } from './text.js';

export const RulebookBase = z.enum(['us-2017', 'us-2020', 'us-2023']);

export type RulebookBase = z.infer<typeof RulebookBase>;

export const RuleOverride = z.strictObject({
  value: z.union([z.number(), ShortText, z.boolean()]),
  reason: Note.optional(),
});

export type RuleOverride = z.infer<typeof RuleOverride>;

/** Name of a rulebook value. */
export const RuleKey = z
  .string()
  .min(1)
  .max(80)
  .regex(/^[\w./-]+$/, 'is not the name of a rule');

export const HouseRulebook = z.strictObject({
  base: RulebookBase,
  overrides: z.record(RuleKey, RuleOverride),
});
