import { withWasOf } from '../documents/seen.js';
import type { House } from '../house/house.js';
import type { ChangeBody, SingleChangeBody } from './change.js';
import { HOUSE_CHANGES } from './change.js';

/** The change with what its maker saw in every field that it writes: what stands in the house before it. */
export function withWas(house: House, body: ChangeBody): ChangeBody {
  if (body.kind === 'house.replace' || body.kind === 'revert') return body;
  if (body.kind !== 'group') return seen(house, body, new Set());
  const written = new Set<string>();
  return { ...body, changes: body.changes.map((one) => seen(house, one, written)) };
}

function seen(house: House, body: SingleChangeBody, written: Set<string>): SingleChangeBody {
  const { name, rulebook, power } = house.head;
  if (body.kind === 'house.set')
    return {
      ...body,
      was: {
        ...(body.name !== undefined && { name }),
        ...(body.base && { base: rulebook.base }),
        ...(body.power && power && { power }),
      },
    };
  if (body.kind === 'rule.set') return { ...body, was: rulebook.overrides[body.key] ?? null };
  return withWasOf(house, HOUSE_CHANGES, body, written);
}
