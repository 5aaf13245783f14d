import type { RecordOf, TableName } from '../house/model.js';
import { sameJson } from '../structures/equal.js';

/**
 * Some fields of the records of a list, as one fact: what is derived from them is not derived again when others change. The
 * fields that are read together are one part.
 */
export interface Part<T extends TableName = TableName, F extends keyof RecordOf<T> = keyof RecordOf<T>> {
  readonly table: T;
  readonly name: string;
  readonly fields: readonly F[];
}

const PARTS = new Map<TableName, Part[]>();

export function partOf<T extends TableName, F extends keyof RecordOf<T>>(
  table: T,
  name: string,
  fields: readonly F[],
): Part<T, F> {
  const part = { table, name, fields };
  PARTS.set(table, [...(PARTS.get(table) ?? []), part as unknown as Part]);
  return part;
}

/** The parts of a list in which two versions of a record differ; all of them for one that was added or removed. */
export function partsChanged(
  table: TableName,
  before: object | undefined,
  after: object | undefined,
): Part[] {
  const parts = PARTS.get(table) ?? [];
  if (!before || !after) return parts;
  const [old, now] = [before, after] as Record<string, unknown>[];
  return parts.filter(({ fields }) =>
    (fields as readonly string[]).some((field) => !sameJson(old![field], now![field])),
  );
}
