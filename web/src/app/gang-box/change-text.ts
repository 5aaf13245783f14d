import type { ChangeBody, SingleChangeBody, TableName } from '@mule-tally/core';
import { TABLES, targetOf } from '@mule-tally/core';

/** What the records of a list are called, where that is not the noun of their changes. */
const WORDS: Partial<Record<TableName, string>> = {
  catalogueBoxes: 'own box type',
  catalogueDevices: 'own device type',
};

function single(body: SingleChangeBody): string {
  switch (body.kind) {
    case 'house.set':
      return body.name ? `Renamed the house to “${body.name}”` : 'Changed the code edition';
    case 'rule.set':
      return body.override
        ? `Set rule ${body.key} to ${String(body.override.value)}`
        : `Set rule ${body.key} back`;
    case 'revert':
      return 'Undid an earlier change';
    default: {
      const target = targetOf(body.kind);
      if (!target) return body.kind;
      const what = WORDS[target.table] ?? TABLES[target.table].noun;
      if ('record' in body) {
        const record = body.record as { tag?: string; name?: string };
        const done = target.table === 'pulls' ? 'Logged' : 'Added';
        return `${done} ${what} ${record.tag ?? record.name ?? ''}`.trim();
      }
      return 'fields' in body
        ? `Changed ${Object.keys(body.fields).join(', ')} of a ${what}`
        : `Removed a ${what}`;
    }
  }
}

/** A change in words, for the journal. */
export function changeText(body: ChangeBody): string {
  if (body.kind === 'group')
    return body.title ?? `${body.changes.length} changes at once: ${single(body.changes[0]!)}`;
  if (body.kind === 'house.replace') return 'Replaced the whole house with a file';
  return single(body);
}
