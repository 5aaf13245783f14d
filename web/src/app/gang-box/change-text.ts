import type { ChangeBody, SingleChangeBody } from '@mule-tally/core';
import { targetOf } from '@mule-tally/core';

const WORDS: Record<string, string> = { catalogueBox: 'own box type', catalogueDevice: 'own device type' };

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
      const [noun, verb] = body.kind.split('.') as [string, string];
      const what = WORDS[noun] ?? noun;
      if ('record' in body) {
        const record = body.record as { tag?: string; name?: string };
        return `${verb === 'log' ? 'Logged' : 'Added'} ${what} ${record.tag ?? record.name ?? ''}`.trim();
      }
      if ('fields' in body) return `Changed ${Object.keys(body.fields).join(', ')} of a ${what}`;
      return targetOf(body.kind) ? `Removed a ${what}` : body.kind;
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
