import type { House } from '../house/house.js';
import { recordOf } from '../house/house.js';
import { touchKey } from './diff.js';
import type { ChangeBody, SingleChangeBody, Writings } from './change.js';
import { targetOf } from './change.js';

/** The change with what its maker saw in every field that it writes: what stands in the house before it. */
export function withWas(house: House, body: ChangeBody): ChangeBody {
  if (body.kind === 'house.replace' || body.kind === 'revert') return body;
  if (body.kind !== 'group') return seen(house, body, new Set());
  const written = new Set<string>();
  return { ...body, changes: body.changes.map((one) => seen(house, one, written)) };
}

/** `written` are fields that the group has written before: of those nobody has seen what they were. */
function seen(house: House, body: SingleChangeBody, written: Set<string>): SingleChangeBody {
  const { name, rulebook } = house.head;
  if (body.kind === 'house.set')
    return {
      ...body,
      was: { ...(body.name !== undefined && { name }), ...(body.base && { base: rulebook.base }) },
    };
  if (body.kind === 'rule.set') return { ...body, was: rulebook.overrides[body.key] ?? null };
  if (!('fields' in body)) return body;
  const { table } = targetOf(body.kind)!;
  const record = recordOf(house, table, body.recordId) as Record<string, unknown> | undefined;
  if (!record) return body;
  const fields: Writings = {};
  for (const [field, { to }] of Object.entries(body.fields)) {
    const key = `${touchKey(table, body.recordId)} ${field}`;
    fields[field] = written.has(key)
      ? { to }
      : { was: (record[field] ?? null) as Writings[string]['to'], to };
    written.add(key);
  }
  return { ...body, fields };
}
