import * as z from 'zod';
import type { House, Row } from '../house/house.js';
import { rowOf, withHead, withRow } from '../house/house.js';
import type { HouseHead, RecordOf, TableName } from '../house/model.js';
import { RulebookBase } from '../rulebook/jurisdictions.js';
import { RuleOverride } from '../vocabulary/rulebook-types.js';
import { TABLE_NAMES } from '../house/model.js';
import { sameJson } from '../structures/equal.js';

/** A field before and after; an absent side means that the field is absent. */
const FieldChange = z.strictObject({ from: z.json().optional(), to: z.json().optional() });
export type FieldChange = z.infer<typeof FieldChange>;

const PlacedRecord = z.strictObject({ at: z.number(), record: z.looseObject({ id: z.string() }) });

/** What one change did to one row: added, removed, or changed and perhaps moved to another place of its list. */
export const RowDiff = z.strictObject({
  table: z.enum(TABLE_NAMES as [TableName, ...TableName[]]),
  id: z.string(),
  added: PlacedRecord.optional(),
  removed: PlacedRecord.optional(),
  changed: z.record(z.string(), FieldChange).optional(),
  moved: z.strictObject({ from: z.number(), to: z.number() }).optional(),
});
export type RowDiff = z.infer<typeof RowDiff>;

/** What one change did to the house: rows written from it, undo built from it, journal kept of it. */
export const HouseDiff = z.strictObject({
  /** Fields `name`, `base` and one `override:<key>` for each house value of the rulebook. */
  head: z.record(z.string(), FieldChange),
  rows: z.array(RowDiff),
});
export type HouseDiff = z.infer<typeof HouseDiff>;

/** Which row, or `head`. */
export type Touched = ReadonlyMap<string, { readonly table: TableName; readonly id: string }>;
export const touchKey = (table: TableName, id: string): string => `${table}/${id}`;

const OVERRIDE = 'override:';
/** The field of the head that is a house value of the rulebook. */
export const overrideField = (key: string): string => OVERRIDE + key;

const headFields = (head: HouseHead): Record<string, unknown> => ({
  name: head.name,
  base: head.rulebook.base,
  ...Object.fromEntries(
    Object.entries(head.rulebook.overrides).map(([key, value]) => [OVERRIDE + key, value]),
  ),
});

function headOf(id: string, fields: Record<string, unknown>): HouseHead {
  const overrides = Object.entries(fields)
    .filter(([field, value]) => field.startsWith(OVERRIDE) && value !== undefined)
    .map(([field, value]) => [field.slice(OVERRIDE.length), RuleOverride.parse(value)] as const);
  return {
    id,
    name: String(fields['name']),
    rulebook: { base: RulebookBase.parse(fields['base']), overrides: Object.fromEntries(overrides) },
  };
}

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

/** The difference between two versions of a house in the rows that are known to have been touched. */
export function diffOf(before: House, after: House, touched: Touched): HouseDiff {
  const rows: RowDiff[] = [];
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
    before.head === after.head ? {} : fieldChanges(headFields(before.head), headFields(after.head));
  return { head, rows };
}

/** The rows in which two versions of a house differ, by identity: a look at every row, without comparing contents. */
export function touchedBetween(before: House, after: House): Touched {
  const touched = new Map<string, { table: TableName; id: string }>();
  for (const table of TABLE_NAMES) {
    const old = before.tables[table];
    const now = after.tables[table];
    if (old === now) continue;
    for (const [id, row] of now) if (old.get(id) !== row) touched.set(touchKey(table, id), { table, id });
    for (const id of old.keys()) if (!now.has(id)) touched.set(touchKey(table, id), { table, id });
  }
  return touched;
}

export const isEmptyDiff = (diff: HouseDiff): boolean =>
  diff.rows.length === 0 && Object.keys(diff.head).length === 0;

/** The diff that undoes this one. */
export function invert(diff: HouseDiff): HouseDiff {
  const turn = (changes: Record<string, FieldChange>): Record<string, FieldChange> =>
    Object.fromEntries(
      Object.entries(changes).map(([field, { from, to }]) => [
        field,
        { ...(to !== undefined && { from: to }), ...(from !== undefined && { to: from }) },
      ]),
    );
  return {
    head: turn(diff.head),
    rows: diff.rows
      .map(({ table, id, added, removed, changed, moved }): RowDiff => {
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
export interface Conflict {
  readonly table?: TableName;
  readonly id?: string;
  readonly field?: string;
}

const stored = (row: { at: number; record: { id: string } }): Row => row as Row;

/** Every place where the house no longer holds what the diff starts from. Empty when it can be applied. */
export function conflictsOf(house: House, diff: HouseDiff): Conflict[] {
  const conflicts: Conflict[] = [];
  const now = headFields(house.head);
  for (const [field, { from }] of Object.entries(diff.head)) {
    if (!sameJson(now[field], from)) conflicts.push({ field });
  }
  for (const { table, id, added, removed, changed } of diff.rows) {
    const row = rowOf(house, table, id);
    if (added) {
      if (row) conflicts.push({ table, id });
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

/** The house with a diff applied that has no conflicts with it. Used by the journal's readers: it checks no rules. */
export function applyDiff(house: House, diff: HouseDiff): House {
  let next = house;
  if (Object.keys(diff.head).length) {
    const fields = headFields(house.head);
    for (const [field, { to }] of Object.entries(diff.head)) fields[field] = to;
    next = withHead(next, headOf(house.head.id, fields));
  }
  for (const { table, id, added, removed, changed, moved } of diff.rows) {
    if (removed) next = withRow(next, table, id, undefined);
    else if (added) next = withRow(next, table, id, stored(added));
    else {
      const row = rowOf(next, table, id);
      if (!row) continue;
      const record: Record<string, unknown> = { ...row.record };
      for (const [field, { to }] of Object.entries(changed ?? {})) {
        if (to === undefined) delete record[field];
        else record[field] = to;
      }
      next = withRow(next, table, id, { at: moved?.to ?? row.at, record: record as RecordOf<TableName> });
    }
  }
  return next;
}
