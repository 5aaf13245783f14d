import * as z from 'zod';
import type { Edition, Jurisdiction } from '../vocabulary/jurisdiction.js';
import type { NeutralException } from '../vocabulary/kinds.js';
import { RuleKey, RuleOverride } from '../vocabulary/rulebook-types.js';
import { OwnCode } from '../vocabulary/own-code.js';
import { CA } from './jurisdictions/ca/ca.js';
import { GB } from './jurisdictions/gb/gb.js';
import { US } from './jurisdictions/us/us.js';

/** Every jurisdiction there is: one folder and one line here. */
export const JURISDICTIONS: readonly Jurisdiction[] = [US, CA, GB];

const BY_EDITION = new Map(
  JURISDICTIONS.flatMap((jurisdiction) =>
    jurisdiction.editions.map((edition) => [edition.id, { jurisdiction, edition }] as const),
  ),
);

/** Every edition that a house can be built by. */
export const EDITIONS: readonly Edition[] = JURISDICTIONS.flatMap(({ editions }) => editions);
/** The edition that a new house starts with. */
export const USUAL_EDITION = JURISDICTIONS[0]!.usual;

/** The id of an edition, checked against the list. */
export const RulebookBase = z
  .string()
  .max(40)
  .refine(
    (id) => BY_EDITION.has(id),
    `is not an edition of the rulebook (${EDITIONS.map(({ id }) => id).join(', ')})`,
  );
export type RulebookBase = z.infer<typeof RulebookBase>;

/** Whether an edition is known here. */
export const isEdition = (id: string): boolean => BY_EDITION.has(id);

/** A rulebook whose edition is not here, as a house file has it. */
export const Elsewhere = z.strictObject({
  base: z.string().min(1).max(60),
  code: z.json().optional(),
  overrides: z.record(z.string().max(80), z.json()),
});
export type Elsewhere = z.infer<typeof Elsewhere>;

export const HouseRulebook = z.strictObject({
  base: RulebookBase,
  /** A code of its own, over that edition. */
  code: OwnCode.optional(),
  /** What it goes by and is not here: kept as it came, while the house can only be read. */
  elsewhere: Elsewhere.optional(),
  overrides: z.record(RuleKey, RuleOverride),
});
export type HouseRulebook = z.infer<typeof HouseRulebook>;

const knownEdition = (base: string): { jurisdiction: Jurisdiction; edition: Edition } => {
  const known = BY_EDITION.get(base);
  if (!known) throw new Error(`the rulebook has no edition ${base}`);
  return known;
};

/** Whose edition it is. */
export const jurisdictionOf = (base: string): Jurisdiction => knownEdition(base).jurisdiction;
/** "NEC 2020" */
export const editionName = (base: string): string => knownEdition(base).edition.name;

/** "box can be reached without taking finish off" */
export const exceptionText = (jurisdiction: Jurisdiction, code: NeutralException): string =>
  jurisdiction.neutralExceptions.find((one) => one.code === code)?.text ?? 'another reason';
