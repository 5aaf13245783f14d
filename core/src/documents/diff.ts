import * as z from 'zod';
import { sameJson } from '../structures/equal.js';
import type { Document, DocumentKind, ListName, Lists } from './document.js';
import { rowOf, tableHolding, withHead, withRow } from './document.js';

/** A field before and after; an absent side means that the field is absent. */
const FieldChange = z.strictObject({ from: z.json().optional(), to: z.json().optional() });
export type FieldChange = z.infer<typeof FieldChange>;

const PlacedRecord = z.strictObject({ at: z.number(), record: z.looseObject({ id: z.string() }) });
type Any = { id: string };

/** What one change did to one row: added, removed, or changed and perhaps moved to another place of its list. */
export interface RowDiff<T extends string = string> {
  readonly table: T;
  readonly id: string;
  readonly added?: z.infer<typeof PlacedRecord> | undefined;
  readonly removed?: z.infer<typeof PlacedRecord> | undefined;
  readonly changed?: Readonly<Record<string, FieldChange>> | undefined;
  readonly moved?: { readonly from: number; readonly to: number } | undefined;
}

/** What one change did to a document: rows written from it, undo built from it, journal kept of it. */
export interface Diff<T extends string = string> {
  readonly head: Readonly<Record<string, FieldChange>>;
  readonly rows: readonly RowDiff<T>[];
}

/** The schema of what a change did to documents with these lists. */
export const diffSchema = <T extends string>(names: readonly T[]): z.ZodType<Diff<T>> =>
  z.strictObject({
    /** Fields of the head, as the kind of document names them. */
    head: z.record(z.string(), FieldChange),
    rows: z.array(
      z.strictObject({
        table: z.enum(names as unknown as [T, ...T[]]),
        id: z.string(),
        added: PlacedRecord.optional(),
        removed: PlacedRecord.optional(),
        changed: z.record(z.string(), FieldChange).optional(),
        moved: z.strictObject({ from: z.number(), to: z.number() }).optional(),
      }),
    ),
  }) as unknown as z.ZodType<Diff<T>>;

/** Which rows. */
export type Touched<T extends string = string> = ReadonlyMap<
  string,
  { readonly table: T; readonly id: string }
>;
export const touchKey = (table: string, id: string): string => `${table}/${id}`;

function fieldChanges(before: object, after: object): Record<string, FieldChange> {
  const from = before as Record<string, unknown>;
  const to = after as Record<string, unknown>;
  const changes: Record<string, FieldChange> = {};
  for (const field of new Set([...Object.keys(from), ...Object.keys(to)])) {
    if (sameJson(from[field], to[field])) continue;
    changes[field] = {
      ...(from[field] !== undefined && { from: from[field] as FieldChange['from'] }),
      ...(to[field] !== undefined && { to: to[field] as FieldChange['to'] }),
    };
  }
  return changes;
}

/** The difference between two versions of a document in the rows that are known to have been touched. */
export function diffOf<L extends Lists, H extends Any>(
  before: Document<L, H>,
  after: Document<L, H>,
  touched: Touched<ListName<L>>,
): Diff<ListName<L>> {
  const { kind } = before;
  const rows: RowDiff<ListName<L>>[] = [];
  for (const { table, id } of touched.values()) {
    const old = rowOf(before, table, id);
    const now = rowOf(after, table, id);
    if (old === now) continue;
    if (!old) rows.push({ table, id, added: now! });
    else if (!now) rows.push({ table, id, removed: old });
    else {
      const changed = fieldChanges(old.record, now.record);
      const moved = old.at === now.at ? undefined : { from: old.at, to: now.at };
      if (moved || Object.keys(changed).length) rows.push({ table, id, changed, ...(moved && { moved }) });
    }
  }
  const head =
    before.head === after.head ? {} : fieldChanges(kind.fieldsOf(before.head), kind.fieldsOf(after.head));
  return { head, rows };
}

/** The rows in which two versions of a document differ, by identity: a look at every row, without comparing contents. */
export function touchedBetween<L extends Lists, H extends Any>(
  before: Document<L, H>,
  after: Document<L, H>,
): Touched<ListName<L>> {
  const touched = new Map<string, { table: ListName<L>; id: string }>();
  for (const table of before.kind.names) {
    const old = before.tables[table];
    const now = after.tables[table];
    if (old === now) continue;
    for (const [id, row] of now) if (old.get(id) !== row) touched.set(touchKey(table, id), { table, id });
    for (const id of old.keys()) if (!now.has(id)) touched.set(touchKey(table, id), { table, id });
  }
  return touched;
}

export const isEmptyDiff = (diff: Diff): boolean =>
  diff.rows.length === 0 && Object.keys(diff.head).length === 0;

/** The diff that undoes this one. */
export function invert<T extends string>(diff: Diff<T>): Diff<T> {
  const turn = (changes: Readonly<Record<string, FieldChange>>): Record<string, FieldChange> =>
    Object.fromEntries(
      Object.entries(changes).map(([field, { from, to }]) => [
        field,
        { ...(to !== undefined && { from: to }), ...(from !== undefined && { to: from }) },
      ]),
    );
  return {
    head: turn(diff.head),
    rows: diff.rows
      .map(({ table, id, added, removed, changed, moved }): RowDiff<T> => {
        if (added) return { table, id, removed: added };
        if (removed) return { table, id, added: removed };
        return {
          table,
          id,
          changed: turn(changed ?? {}),
          ...(moved && { moved: { from: moved.to, to: moved.from } }),
        };
      })
      .reverse(),
  };
}

/** Where a diff does not meet what it expects: the row (no table for the head) and the field, if it is one field. */
export interface Conflict<T extends string = string> {
  readonly table?: T;
  readonly id?: string;
  readonly field?: string;
}

/** Every place where the document no longer holds what the diff starts from. Empty when it can be applied. */
export function conflictsOf<L extends Lists, H extends Any>(
  document: Document<L, H>,
  diff: Diff<ListName<L>>,
): Conflict<ListName<L>>[] {
  const conflicts: Conflict<ListName<L>>[] = [];
  const now = document.kind.fieldsOf(document.head);
  const goes = new Set(diff.rows.flatMap(({ table, id, removed }) => (removed ? touchKey(table, id) : [])));
  for (const [field, { from }] of Object.entries(diff.head)) {
    if (!sameJson(now[field], from)) conflicts.push({ field });
  }
  for (const { table, id, added, removed, changed } of diff.rows) {
    const row = rowOf(document, table, id);
    if (added) {
      // An id is of one record of the whole document; another list may have it by now.
      const holder = tableHolding(document, id);
      if (holder && !(holder !== table && goes.has(touchKey(holder, id))))
        conflicts.push({ table: holder, id });
    } else if (!row) {
      conflicts.push({ table, id });
    } else if (removed) {
      for (const field of Object.keys(fieldChanges(row.record, removed.record)))
        conflicts.push({ table, id, field });
    } else {
      for (const [field, { from }] of Object.entries(changed ?? {})) {
        if (!sameJson((row.record as Record<string, unknown>)[field], from))
          conflicts.push({ table, id, field });
      }
    }
  }
  return conflicts;
}

/** The document with a diff applied that has no conflicts with it. Used by the journal's readers: it checks no rules. */
export function applyDiff<L extends Lists, H extends Any>(
  document: Document<L, H>,
  diff: Diff<ListName<L>>,
): Document<L, H> {
  const { kind } = document;
  let next = document;
  if (Object.keys(diff.head).length) {
    const fields = kind.fieldsOf(document.head);
    for (const [field, { to }] of Object.entries(diff.head)) fields[field] = to;
    next = withHead(next, kind.headOf(document.head.id, fields));
  }
  for (const { table, id, added, removed, changed, moved } of diff.rows) {
    if (removed) next = withRow(next, table, id, undefined);
    else if (added) next = withRow(next, table, id, added as never);
    else {
      const row = rowOf(next, table, id);
      if (!row) continue;
      const record: Record<string, unknown> = { ...row.record };
      for (const [field, { to }] of Object.entries(changed ?? {})) {
        if (to === undefined) delete record[field];
        else record[field] = to;
      }
      next = withRow(next, table, id, { at: moved?.to ?? row.at, record: record as never });
    }
  }
  return next;
}

/** An entry of the journal without what can be erased: that it was written stays, what was written does not. */
export function withoutErasable<T extends string>(
  { lists }: Pick<DocumentKind, 'lists'>,
  diff: Diff<T>,
): Diff<T> {
  return {
    head: diff.head,
    rows: diff.rows.map((row) => {
      const { erasable } = lists[row.table]!;
      if (!erasable) return row;
      const bare = (placed: RowDiff['added']): RowDiff['added'] =>
        placed && {
          at: placed.at,
          record: without(placed.record, erasable) as { id: string },
        };
      return {
        ...row,
        ...(row.added && { added: bare(row.added) }),
        ...(row.removed && { removed: bare(row.removed) }),
        ...(row.changed && {
          changed: Object.fromEntries(
            Object.entries(row.changed).map(([field, change]) => [
              field,
              erasable.includes(field) ? {} : change,
            ]),
          ),
        }),
      };
    }),
  };
}

/** A record but for some of its fields. */
export const without = (record: object, fields: readonly string[]): object =>
  Object.fromEntries(Object.entries(record).filter(([field]) => !fields.includes(field)));

/** An entry of the journal as it is read: what can be erased, as it stands in the rows by now. */
export function withErasable<L extends Lists, H extends Any>(
  document: Document<L, H>,
  diff: Diff<ListName<L>>,
): Diff<ListName<L>> {
  const { lists } = document.kind;
  return {
    head: diff.head,
    rows: diff.rows.map((row) => {
      const { erasable } = lists[row.table]!;
      const now =
        erasable && (rowOf(document, row.table, row.id)?.record as Record<string, unknown> | undefined);
      if (!erasable || !now) return row;
      const standing = Object.fromEntries(
        erasable.flatMap((field) => (field in now ? [[field, now[field]]] : [])),
      );
      return {
        ...row,
        ...(row.added && { added: { at: row.added.at, record: { ...row.added.record, ...standing } } }),
        ...(row.changed && {
          changed: Object.fromEntries(
            Object.entries(row.changed).map(([field, change]) => [
              field,
              field in standing ? { to: standing[field] as FieldChange['to'] } : change,
            ]),
          ),
        }),
      };
    }),
  };
}
