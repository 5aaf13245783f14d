import type { ChangeKinds, Writings } from './change-kinds.js';
import { touchKey } from './diff.js';
import type { Document, Lists } from './document.js';
import { recordOf } from './document.js';

/**
 * A change of one record with what its maker saw in every field that it writes: what stands in the document before it.
 * `written` are fields that the group has written before: of those nobody has seen what they were.
 */
export function withWasOf<L extends Lists, H extends { id: string }, B extends { readonly kind: string }>(
  document: Document<L, H>,
  kinds: ChangeKinds<L>,
  body: B,
  written: Set<string>,
): B {
  const { fields, recordId } = body as { fields?: Writings; recordId?: string };
  const target = kinds.targetOf(body.kind);
  if (!target || !fields || recordId === undefined) return body;
  const record = recordOf(document, target.table, recordId) as Record<string, unknown> | undefined;
  if (!record) return body;
  const seen: Writings = {};
  for (const [field, { to }] of Object.entries(fields)) {
    const key = `${touchKey(target.table, recordId)} ${field}`;
    seen[field] = written.has(key) ? { to } : { was: (record[field] ?? null) as Writings[string]['to'], to };
    written.add(key);
  }
  return { ...body, fields: seen };
}
