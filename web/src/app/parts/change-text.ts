import type { ChangeBody, CrewChangeBody, CrewList, TableName } from '@mule-tally/core';
import { CREW_CHANGES, CREW_LISTS, TABLES, targetOf } from '@mule-tally/core';

/** What the records of a list are called, where that is not the noun of their changes. */
const WORDS: Partial<Record<TableName | CrewList, string>> = {
  catalogueBoxes: 'own box type',
  catalogueDevices: 'own device type',
  people: 'somebody of the crew',
  connectorNames: 'name of a connector',
  habits: 'habit',
};

const POWER = { 'no-service': 'no service', temporary: 'temporary', live: 'live' } as const;

/** A change of one record in words, by the list that it is about. */
function ofRecord(body: object, table: TableName | CrewList, noun: string): string {
  const what = WORDS[table] ?? noun;
  if ('record' in body) {
    const record = body.record as Partial<Record<'tag' | 'name' | 'item' | 'key' | 'kind', string>>;
    const done = table === 'pulls' ? 'Logged' : 'Added';
    const own =
      table === 'prices' ? `of ${record.item ?? record.kind ?? ''}` : record.key && `for ${record.key}`;
    return `${done} ${what} ${record.tag ?? own ?? record.name ?? ''}`.trim();
  }
  const an = what === WORDS.people ? what : `a ${what}`;
  return 'fields' in body
    ? `Changed ${Object.keys(body.fields as object).join(', ')} of ${an}`
    : `Removed ${an}`;
}

/** A change of a house in words, for its journal. */
export function changeText(body: ChangeBody): string {
  switch (body.kind) {
    case 'group':
      return body.title ?? `${body.changes.length} changes at once: ${changeText(body.changes[0]!)}`;
    case 'house.replace':
      return 'Replaced the whole house with a file';
    case 'house.set':
      return body.name
        ? `Renamed the house to “${body.name}”`
        : body.power
          ? `Power of the house: ${POWER[body.power]}`
          : 'Changed the code edition';
    case 'rule.set':
      return body.override
        ? `Set rule ${body.key} to ${String(body.override.value)}`
        : `Set rule ${body.key} back`;
    case 'revert':
      return 'Undid an earlier change';
    default: {
      const target = targetOf(body.kind);
      return target ? ofRecord(body, target.table, TABLES[target.table].noun) : body.kind;
    }
  }
}

/** A change of the crew book in words, for its journal. */
export function crewChangeText(body: CrewChangeBody): string {
  switch (body.kind) {
    case 'group':
      return body.title ?? `${body.changes.length} changes at once: ${crewChangeText(body.changes[0]!)}`;
    case 'crew.set':
      return `Renamed the crew to “${body.name}”`;
    case 'revert':
      return 'Undid an earlier change';
    default: {
      const target = CREW_CHANGES.targetOf(body.kind);
      return target ? ofRecord(body, target.table, CREW_LISTS[target.table].noun) : body.kind;
    }
  }
}
