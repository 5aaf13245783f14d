import * as z from 'zod';
import type { HouseFile } from '../house/house-file.js';
import type { RecordOf, TableName } from '../house/model.js';
import { RulebookBase } from '../rulebook/jurisdictions.js';
import { OwnCode } from '../vocabulary/own-code.js';
import { PowerState } from '../vocabulary/kinds.js';
import { RuleKey, RuleOverride } from '../vocabulary/rulebook-types.js';
import type { AddTo, RemoveFrom, SetIn } from '../documents/change-kinds.js';
import { Revert, changeKindsOf, groupOf } from '../documents/change-kinds.js';
import type { ChangeOf, EnvelopeOf, ReadEnvelope } from '../documents/envelope.js';
import { envelopeSchema, readEnvelope } from '../documents/envelope.js';
import { TABLES, TABLE_NAMES } from '../house/model.js';
import { upgradeEnvelope } from '../house/upgrades.js';
import { Name } from '../vocabulary/text.js';

/** Values of fields of a record of a list; null takes one away. */
export type Fields<T extends TableName = TableName> = {
  readonly [K in keyof Omit<RecordOf<T>, 'id'>]?: RecordOf<T>[K] | null;
};

export type AddBody<T extends TableName = TableName> = AddTo<typeof TABLES, T>;
export type SetBody<T extends TableName = TableName> = SetIn<typeof TABLES, T>;
export type RemoveBody<T extends TableName = TableName> = RemoveFrom<typeof TABLES, T>;

/** Changes of single records: they come from the lists of the house file. */
export const HOUSE_CHANGES = changeKindsOf(TABLES);
/** The list and the verb that a change of one record is about; undefined for the others. */
export const targetOf = HOUSE_CHANGES.targetOf;
/** A change body that adds a record to a list. */
export const adding = HOUSE_CHANGES.adding as <T extends TableName>(
  table: T,
  record: RecordOf<T>,
) => SingleChangeBody;
/** A change body that writes fields of a record; null takes a field away. */
export const setting = HOUSE_CHANGES.setting as <T extends TableName>(
  table: T,
  recordId: string,
  fields: Fields<T>,
) => SetBody<T>;
export const removing = HOUSE_CHANGES.removing as (
  table: TableName,
  recordId: string,
  withDependents?: boolean,
) => SingleChangeBody;

const HouseSet = z.strictObject({
  kind: z.literal('house.set'),
  name: Name.optional(),
  base: RulebookBase.optional(),
  /** A code of its own over the edition; null goes back to the edition alone. */
  code: OwnCode.nullable().optional(),
  power: PowerState.optional(),
  /** What the person saw. */
  was: z
    .strictObject({ name: Name.optional(), base: RulebookBase.optional(), power: PowerState.optional() })
    .optional(),
});
const RuleSet = z.strictObject({
  kind: z.literal('rule.set'),
  key: RuleKey,
  /** Null goes back to the edition's value. */
  override: RuleOverride.nullable(),
  was: RuleOverride.nullable().optional(),
});
const single = [HouseSet, RuleSet, Revert, ...HOUSE_CHANGES.schemas] as const;

export type SingleChangeBody =
  z.infer<typeof HouseSet> | z.infer<typeof RuleSet> | Revert | AddBody | SetBody | RemoveBody;

const SingleBody = z.discriminatedUnion('kind', single) as unknown as z.ZodType<SingleChangeBody>;

/** Puts another house file of the same id in the place of everything there is; undone like any other change. */
const Replace = z.strictObject({
  kind: z.literal('house.replace'),
  /** Judged when it is applied, as any house file is: record by record, no further than the hundredth problem. */
  file: z.custom<HouseFile>((file) => typeof file === 'object' && file !== null, 'a house file is expected'),
});

/** Several changes as one: one journal entry, one undo, all or nothing. */
const Group = groupOf(SingleBody);

export type ChangeBody = SingleChangeBody | z.infer<typeof Replace> | z.infer<typeof Group>;
export const ChangeBody = z.discriminatedUnion('kind', [
  ...single,
  Replace,
  Group,
]) as unknown as z.ZodType<ChangeBody>;

/** A change of a house. */
export type Change = ChangeOf<ChangeBody>;
export type Envelope = EnvelopeOf<ChangeBody>;
export const Envelope = envelopeSchema(ChangeBody);

const LISTS: ReadonlySet<string> = new Set(TABLE_NAMES);

/** What was sent as a change of a house: the change, or why it is none. */
export type ReadChange = ReadEnvelope<ChangeBody>;

/** Reads one change of a house. One of an older version is brought to this. */
export const readChange = (input: unknown): ReadChange =>
  readEnvelope(input, Envelope, LISTS, (given) => upgradeEnvelope(given));
