import * as z from 'zod';
import type { HouseFile } from '../house/house-file.js';
import type { RecordOf, TableName } from '../house/model.js';
import { LIMITS } from '../vocabulary/limits.js';
import { RulebookBase } from '../rulebook/jurisdictions.js';
import { RuleKey, RuleOverride } from '../vocabulary/rulebook-types.js';
import { TABLES, TABLE_NAMES } from '../house/model.js';
import { upgradeEnvelope } from '../house/upgrades.js';
import { scan } from '../vocabulary/scan.js';
import { problemsOf } from '../vocabulary/schema-problems.js';
import { Id, Name } from '../vocabulary/text.js';

/** The version of the change format; journal entries carry it. */
export const CHANGE_VERSION = 2;

/**
 * One field to write: `to`, where null takes an optional field away. `was` is what the person saw there, null for nothing;
 * left out where nobody has looked, as in changes of version 1.
 */
const Writing = z.strictObject({ was: z.json().optional(), to: z.json() });
/** Fields of a record to write. The merged record is checked whole. */
const Writings = z.record(z.string().regex(/^\w{1,60}$/), Writing);
export type Writings = z.infer<typeof Writings>;
/** Values of fields of a record of a list; null takes one away. */
export type Fields<T extends TableName = TableName> = {
  readonly [K in keyof Omit<RecordOf<T>, 'id'>]?: RecordOf<T>[K] | null;
};

type Tables = typeof TABLES;
type Noun<T extends TableName> = Tables[T]['noun'];
/** The word for adding a record: pulls are logged. */
type Adding<T extends TableName> = Tables[T] extends { adding: infer V extends string } ? V : 'add';

export type AddBody<T extends TableName = TableName> = {
  [K in T]: { kind: `${Noun<K>}.${Adding<K>}`; record: RecordOf<K> };
}[T];
export type SetBody<T extends TableName = TableName> = {
  [K in T]: { kind: `${Noun<K>}.set`; recordId: string; fields: Writings };
}[T];
/** Without `withDependents` a record that others hang on stays, and the refusal says what hangs on it. */
export type RemoveBody<T extends TableName = TableName> = {
  [K in T]: { kind: `${Noun<K>}.remove`; recordId: string; withDependents?: boolean | undefined };
}[T];

const adds = (table: TableName): string => {
  const { noun, ...more } = TABLES[table];
  return `${noun}.${'adding' in more ? more.adding : 'add'}`;
};

/** Adding, writing and removing a record of each list. */
const ofTables = TABLE_NAMES.flatMap((table) => [
  z.strictObject({ kind: z.literal(adds(table)), record: TABLES[table].schema }),
  z.strictObject({ kind: z.literal(`${TABLES[table].noun}.set`), recordId: Id, fields: Writings }),
  z.strictObject({
    kind: z.literal(`${TABLES[table].noun}.remove`),
    recordId: Id,
    withDependents: z.boolean().optional(),
  }),
]);

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
/** Restores what the change `of` wrote. Refused whole when any of it has been written since. */
const Revert = z.strictObject({ kind: z.literal('revert'), of: Id });
const single = [HouseSet, RuleSet, Revert, ...ofTables] as const;

export type SingleChangeBody =
  | z.infer<typeof HouseSet>
  | z.infer<typeof RuleSet>
  | z.infer<typeof Revert>
  | AddBody
  | SetBody
  | RemoveBody;

const SingleBody = z.discriminatedUnion('kind', single) as unknown as z.ZodType<SingleChangeBody>;

/** Puts another house file of the same id in the place of everything there is; undone like any other change. */
const Replace = z.strictObject({
  kind: z.literal('house.replace'),
  /** Judged when it is applied, as any house file is: record by record, no further than the hundredth problem. */
  file: z.custom<HouseFile>((file) => typeof file === 'object' && file !== null, 'a house file is expected'),
});

/** Several changes as one: one journal entry, one undo, all or nothing. */
const Group = z.strictObject({
  kind: z.literal('group'),
  title: Name.optional(),
  changes: z.array(SingleBody).min(1).max(LIMITS.group),
});

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

/** The list and the verb that a change of one record is about. */
export interface ChangeTarget {
  readonly table: TableName;
  readonly verb: 'add' | 'set' | 'remove';
}

/** By the kind of change; the kinds come from the tables. */
const TARGETS: ReadonlyMap<string, ChangeTarget> = new Map(
  TABLE_NAMES.flatMap((table): [string, ChangeTarget][] => [
    [adds(table), { table, verb: 'add' }],
    [`${TABLES[table].noun}.set`, { table, verb: 'set' }],
    [`${TABLES[table].noun}.remove`, { table, verb: 'remove' }],
  ]),
);

/** The list and the verb that a change of one record is about; undefined for the others. */
export const targetOf = (kind: string): ChangeTarget | undefined => TARGETS.get(kind);

/** A change body that adds a record to a list. */
export const adding = <T extends TableName>(table: T, record: RecordOf<T>): SingleChangeBody =>
  ({ kind: adds(table), record }) as SingleChangeBody;

/** A change body that writes fields of a record; null takes a field away. */
export const setting = <T extends TableName>(table: T, recordId: string, fields: Fields<T>): SetBody<T> =>
  ({
    kind: `${TABLES[table].noun}.set`,
    recordId,
    fields: Object.fromEntries(Object.entries(fields).map(([field, to]) => [field, { to }])),
  }) as SetBody<T>;

export const removing = (table: TableName, recordId: string, withDependents = false): SingleChangeBody =>
  ({
    kind: `${TABLES[table].noun}.remove`,
    recordId,
    ...(withDependents && { withDependents }),
  }) as SingleChangeBody;

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
