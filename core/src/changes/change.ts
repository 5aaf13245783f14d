import * as z from 'zod';
import type { HouseFile } from '../house/house-file.js';
import type { RecordOf, TableName } from '../house/model.js';
import { LIMITS } from '../vocabulary/limits.js';
import { RuleKey, RuleOverride, RulebookBase } from '../vocabulary/rulebook-types.js';
import { TABLES, TABLE_NAMES } from '../house/model.js';
import { scan } from '../vocabulary/scan.js';
import { problemsOf } from '../vocabulary/schema-problems.js';
import { Id, Name } from '../vocabulary/text.js';

/** The version of the change format; journal entries carry it. */
export const CHANGE_VERSION = 1;

/** Fields of a record to write; null takes an optional field away. The merged record is checked whole. */
const Fields = z.record(z.string().regex(/^\w{1,60}$/), z.json());
export type Fields = z.infer<typeof Fields>;

const added = <T extends TableName, K extends string>(kind: K, table: T) =>
  z.strictObject({ kind: z.literal(kind), record: TABLES[table].schema });
const set = <K extends string>(kind: K) =>
  z.strictObject({ kind: z.literal(kind), recordId: Id, fields: Fields });
/** Without `withDependents` a record that others hang on stays, and the refusal says what hangs on it. */
const removed = <K extends string>(kind: K) =>
  z.strictObject({ kind: z.literal(kind), recordId: Id, withDependents: z.boolean().optional() });

const single = [
  z.strictObject({ kind: z.literal('house.set'), name: Name.optional(), base: RulebookBase.optional() }),
  /** `override` null goes back to the edition's value. */
  z.strictObject({
    kind: z.literal('rule.set'),
    key: RuleKey,
    override: RuleOverride.nullable(),
  }),
  added('storey.add', 'storeys'),
  set('storey.set'),
  removed('storey.remove'),
  added('room.add', 'rooms'),
  set('room.set'),
  removed('room.remove'),
  added('opening.add', 'openings'),
  set('opening.set'),
  removed('opening.remove'),
  added('catalogueBox.add', 'catalogueBoxes'),
  set('catalogueBox.set'),
  removed('catalogueBox.remove'),
  added('catalogueDevice.add', 'catalogueDevices'),
  set('catalogueDevice.set'),
  removed('catalogueDevice.remove'),
  added('box.add', 'boxes'),
  set('box.set'),
  removed('box.remove'),
  added('circuit.add', 'circuits'),
  set('circuit.set'),
  removed('circuit.remove'),
  added('device.add', 'devices'),
  set('device.set'),
  removed('device.remove'),
  added('point.add', 'points'),
  set('point.set'),
  removed('point.remove'),
  added('control.add', 'controls'),
  set('control.set'),
  removed('control.remove'),
  added('run.add', 'runs'),
  set('run.set'),
  removed('run.remove'),
  added('reel.add', 'reels'),
  set('reel.set'),
  removed('reel.remove'),
  added('pull.log', 'pulls'),
  set('pull.set'),
  removed('pull.remove'),
  added('record.add', 'records'),
  set('record.set'),
  removed('record.remove'),
] as const;

/** Restores what the change `of` wrote. Refused whole when any of it has been written since. */
const Revert = z.strictObject({ kind: z.literal('revert'), of: Id });

const SingleBody = z.discriminatedUnion('kind', [...single, Revert]);

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

export const ChangeBody = z.discriminatedUnion('kind', [...single, Revert, Replace, Group]);
export type ChangeBody = z.infer<typeof ChangeBody>;
export type SingleChangeBody = z.infer<typeof SingleBody>;

/** A change that a person made. The id is made where the person is; `by` is a name of the crew's list, unverified. */
export const Change = z.strictObject({
  id: Id,
  version: z.literal(CHANGE_VERSION),
  by: Name,
  body: ChangeBody,
});
export type Change = z.infer<typeof Change>;

type Verb = 'add' | 'log' | 'set' | 'remove';
const TABLE_BY_NOUN = new Map(
  Object.entries(TABLES).map(([table, { noun }]) => [noun as string, table as TableName]),
);

/** The list and the verb that a change of one record is about; undefined for the others. */
export function targetOf(kind: string): { table: TableName; verb: Exclude<Verb, 'log'> } | undefined {
  const [noun, verb] = kind.split('.') as [string, Verb | undefined];
  const table = TABLE_BY_NOUN.get(noun);
  if (!table || !verb) return undefined;
  return { table, verb: verb === 'log' ? 'add' : verb };
}

/** A change body that adds a record to a list. */
export const adding = <T extends TableName>(table: T, record: RecordOf<T>): SingleChangeBody =>
  ({ kind: table === 'pulls' ? 'pull.log' : `${TABLES[table].noun}.add`, record }) as SingleChangeBody;

/** A change body that writes fields of a record; null takes a field away. */
export const setting = (table: TableName, recordId: string, fields: Fields): SingleChangeBody =>
  ({ kind: `${TABLES[table].noun}.set`, recordId, fields }) as SingleChangeBody;

export const removing = (table: TableName, recordId: string, withDependents = false): SingleChangeBody =>
  ({
    kind: `${TABLES[table].noun}.remove`,
    recordId,
    ...(withDependents && { withDependents }),
  }) as SingleChangeBody;

const LISTS: ReadonlySet<string> = new Set(TABLE_NAMES);

/** What was sent as a change: the change, or why it is none. */
export type ReadChange =
  | { readonly ok: true; readonly change: Change }
  | {
      readonly ok: false;
      /** The id that it gave, as far as it gave one. */
      readonly id: string;
      readonly refusal: { readonly code: string; readonly message: string; readonly path: string };
    };

/** Reads one change that was sent, by itself: one that is broken stops no other. */
export function readChange(input: unknown): ReadChange {
  const given = typeof input === 'object' && input !== null ? (input as { id?: unknown }).id : undefined;
  const id = typeof given === 'string' ? given.slice(0, 60) : '';
  const refused = ({ message, path }: { message: string; path: string }): ReadChange => ({
    ok: false,
    id,
    refusal: { code: 'change.invalid', message, path },
  });
  const [unsafe] = scan(input, LISTS);
  if (unsafe) return refused(unsafe);
  const parsed = Change.safeParse(input, { reportInput: true });
  if (parsed.success) return { ok: true, change: parsed.data };
  return refused(problemsOf(parsed.error.issues)[0]!);
}
