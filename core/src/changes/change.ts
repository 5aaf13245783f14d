import * as z from 'zod';
import type { HouseFile } from '../house/house-file.js';
import type { RecordOf, TableName } from '../house/model.js';
import { RulebookBase } from '../rulebook/jurisdictions.js';
import { RuleKey, RuleOverride } from '../vocabulary/rulebook-types.js';
import type { AddTo, RemoveFrom, SetIn } from '../documents/change-kinds.js';
import { Revert, changeKindsOf, groupOf } from '../documents/change-kinds.js';
import { TABLES, TABLE_NAMES } from '../house/model.js';
import { upgradeEnvelope } from '../house/upgrades.js';
import { scan } from '../vocabulary/scan.js';
import { problemsOf } from '../vocabulary/schema-problems.js';
import { Id, Name } from '../vocabulary/text.js';

/** The version of the change format; journal entries carry it. */
export const CHANGE_VERSION = 2;

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
  /** What the person saw. */
  was: z.strictObject({ name: Name.optional(), base: RulebookBase.optional() }).optional(),
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

/** A change that a person made. The id is made where the person is. */
export const Change = z.strictObject({ id: Id, version: z.literal(CHANGE_VERSION), body: ChangeBody });
export type Change = z.infer<typeof Change>;

/** A change on its way: who made it, on which device, and when by that device's clock. */
export const Envelope = z.strictObject({
  change: Change,
  actorId: Id,
  deviceId: Id.optional(),
  madeAt: z.iso.datetime({ offset: true }).optional(),
});
export type Envelope = z.infer<typeof Envelope>;

const LISTS: ReadonlySet<string> = new Set(TABLE_NAMES);

/** What was sent as a change: the change, or why it is none. */
export type ReadChange =
  | { readonly ok: true; readonly envelope: Envelope }
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

/** Reads one change that was sent, by itself: one that is broken stops no other. One of an older version is brought to this. */
export function readChange(input: unknown): ReadChange {
  const refused = ({ message, path }: { message: string; path: string }): ReadChange => ({
    ok: false,
    id: idOf(input),
    refusal: { code: 'change.invalid', message, path },
  });
  const [unsafe] = scan(input, LISTS);
  if (unsafe) return refused(unsafe);
  const parsed = Envelope.safeParse(upgradeEnvelope(input), { reportInput: true });
  if (parsed.success) return { ok: true, envelope: parsed.data };
  return refused(problemsOf(parsed.error.issues)[0]!);
}
