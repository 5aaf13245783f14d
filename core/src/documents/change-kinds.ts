import * as z from 'zod';
import { LIMITS } from '../vocabulary/limits.js';
import { Id, Name } from '../vocabulary/text.js';
import type { List, ListName, Lists, RecordIn } from './document.js';

/**
 * One field to write: `to`, where null takes an optional field away. `was` is what the person saw there, null for nothing;
 * left out where nobody has looked, as in changes of version 1.
 */
const Writing = z.strictObject({ was: z.json().optional(), to: z.json() });
/** Fields of a record to write. The merged record is checked whole. */
const Writings = z.record(z.string().regex(/^\w{1,60}$/), Writing);
export type Writings = z.infer<typeof Writings>;

type Noun<L extends Lists, T extends ListName<L>> = L[T]['noun'];
/** The word for adding a record: pulls are logged. */
type Adding<L extends Lists, T extends ListName<L>> = L[T] extends { adding: infer V extends string }
  ? V
  : 'add';

export type AddTo<L extends Lists, T extends ListName<L> = ListName<L>> = {
  [K in T]: { kind: `${Noun<L, K>}.${Adding<L, K>}`; record: RecordIn<L, K> };
}[T];
export type SetIn<L extends Lists, T extends ListName<L> = ListName<L>> = {
  [K in T]: { kind: `${Noun<L, K>}.set`; recordId: string; fields: Writings };
}[T];
/** Without `withDependents` a record that others hang on stays, and the refusal says what hangs on it. */
export type RemoveFrom<L extends Lists, T extends ListName<L> = ListName<L>> = {
  [K in T]: { kind: `${Noun<L, K>}.remove`; recordId: string; withDependents?: boolean | undefined };
}[T];

/** Restores what the change `of` wrote. Refused whole when any of it has been written since. */
export const Revert = z.strictObject({ kind: z.literal('revert'), of: Id });
export type Revert = z.infer<typeof Revert>;

/** The changes that a change would take back, by itself or in its group. */
export const undoneBy = (body: unknown): readonly string[] => {
  const { changes = [body] } = body as { changes?: readonly unknown[] };
  const all = changes as readonly Partial<Revert>[];
  return all.flatMap(({ kind, of }) => (kind === 'revert' && of ? [of] : []));
};

/** The list and the verb that a change of one record is about. */
export interface ChangeTarget<T extends string = string> {
  readonly table: T;
  readonly verb: 'add' | 'set' | 'remove';
}

/** What changes of the records of a document look like: they come from its lists, and nothing decodes their names. */
export interface ChangeKinds<L extends Lists> {
  /** Schemas of adding, writing and removing a record of each list. */
  readonly schemas: readonly z.ZodObject[];
  /** The list and the verb that a change of one record is about; undefined for the others. */
  targetOf(kind: string): ChangeTarget<ListName<L>> | undefined;
  adding<T extends ListName<L>>(table: T, record: RecordIn<L, T>): AddTo<L, T>;
  /** Writes fields of a record; null takes a field away. */
  setting<T extends ListName<L>>(
    table: T,
    recordId: string,
    fields: { readonly [K in keyof Omit<RecordIn<L, T>, 'id'>]?: RecordIn<L, T>[K] | null },
  ): SetIn<L, T>;
  removing<T extends ListName<L>>(table: T, recordId: string, withDependents?: boolean): RemoveFrom<L, T>;
}

export function changeKindsOf<L extends Lists>(lists: L): ChangeKinds<L> {
  const names = Object.keys(lists) as ListName<L>[];
  const list = (table: string): List => lists[table]!;
  const adds = (table: string): string => `${list(table).noun}.${list(table).adding ?? 'add'}`;
  const targets = new Map(
    names.flatMap((table): [string, ChangeTarget<ListName<L>>][] => [
      [adds(table), { table, verb: 'add' }],
      [`${list(table).noun}.set`, { table, verb: 'set' }],
      [`${list(table).noun}.remove`, { table, verb: 'remove' }],
    ]),
  );
  return {
    schemas: names.flatMap((table) => [
      z.strictObject({ kind: z.literal(adds(table)), record: list(table).schema }),
      z.strictObject({ kind: z.literal(`${list(table).noun}.set`), recordId: Id, fields: Writings }),
      z.strictObject({
        kind: z.literal(`${list(table).noun}.remove`),
        recordId: Id,
        withDependents: z.boolean().optional(),
      }),
    ]),
    targetOf: (kind) => targets.get(kind),
    adding: (table, record) => ({ kind: adds(table), record }) as never,
    setting: (table, recordId, fields) =>
      ({
        kind: `${list(table).noun}.set`,
        recordId,
        fields: Object.fromEntries(Object.entries(fields).map(([field, to]) => [field, { to }])),
      }) as never,
    removing: (table, recordId, withDependents = false) =>
      ({ kind: `${list(table).noun}.remove`, recordId, ...(withDependents && { withDependents }) }) as never,
  };
}

/** Several changes as one: one journal entry, one undo, all or nothing. */
export const groupOf = <S extends z.ZodType>(single: S) =>
  z.strictObject({
    kind: z.literal('group'),
    title: Name.optional(),
    changes: z.array(single).min(1).max(LIMITS.group),
  });
