import * as z from 'zod';
import { RuleKey, RuleOverride } from './rulebook-types.js';
import { MM2_KEYS } from './size.js';
import { Awg, Note, ShortText } from './text.js';

/** A size of conductor by its key: 14, "2.5mm2". */
const GaugeKey = z.union([Awg, z.enum(MM2_KEYS)]);

/** One value of a code: given, or the same as another value of the file. */
export const OwnRule = z.strictObject({
  key: RuleKey,
  value: RuleOverride.shape.value.optional(),
  /** The key of the rule whose value it has. */
  sameAs: RuleKey.optional(),
  unit: ShortText.optional(),
  provenance: z.enum(['published, from memory', 'common practice', 'school']),
  section: ShortText.optional(),
  /** Another publication than that of the code. */
  publication: ShortText.optional(),
  note: Note.optional(),
});
export type OwnRule = z.infer<typeof OwnRule>;

/**
 * A code that somebody has written down for where they build: it goes by an edition that is built in, chooses among built methods and sets
 * values. It brings no method of its own, and travels inside of every house that goes by it.
 */
export const OwnCode = z.strictObject({
  format: z.literal('mule-tally-jurisdiction'),
  version: z.literal(1),
  name: ShortText,
  /** What its publication is called, before the number of a section. */
  code: ShortText,
  edition: ShortText,
  /** The edition of the rulebook that holds where this file says nothing. */
  basedOn: z.string().max(40),
  fillMethod: z.enum(['volume-allowances', 'conductor-count', 'free-volume']).optional(),
  /** The country whose colours of conductors it has. */
  colours: z.string().max(12).optional(),
  neutralAtSwitches: z.boolean().optional(),
  /** Conductors of circuits, the thinnest first. */
  sizes: z.array(GaugeKey).max(20),
  rules: z.array(OwnRule).max(500),
});
export type OwnCode = z.infer<typeof OwnCode>;

/** The published JSON Schema (draft 2020-12) of a code's own file, generated from the Zod schema. */
export const codeFileJsonSchema = (): unknown => ({
  title: 'Mule Tally jurisdiction file',
  description:
    'Values in the units of the edition that it is based on. References (sameAs) name other values of the same file and come to an end.',
  ...(z.toJSONSchema(OwnCode, { io: 'input' }) as object),
});
