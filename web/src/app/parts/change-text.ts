import type { ChangeBody, CrewChangeBody, CrewList, TableName } from '@mule-tally/core';
import { CREW_CHANGES, targetOf } from '@mule-tally/core';

/** What the records of a list are called. */
const WORDS: Readonly<Record<TableName | CrewList, string>> = {
  storeys: $localize`floor`,
  rooms: $localize`room`,
  openings: $localize`opening`,
  catalogueBoxes: $localize`own box type`,
  catalogueDevices: $localize`own device type`,
  boxes: $localize`box`,
  circuits: $localize`circuit`,
  devices: $localize`device`,
  points: $localize`switch, light or outlet`,
  bands: $localize`built-in`,
  beams: $localize`beam`,
  controls: $localize`switching`,
  runs: $localize`run`,
  reels: $localize`reel`,
  pulls: $localize`pull`,
  records: $localize`record`,
  people: $localize`somebody of the crew`,
  stock: $localize`reel`,
  kits: $localize`kit`,
  habits: $localize`habit`,
  prices: $localize`price`,
  connectorNames: $localize`name of a connector`,
  roomKits: $localize`room kit`,
  asks: $localize`thing to ask for`,
  photos: $localize`photo`,
  writeUps: $localize`write-up`,
  extras: $localize`extra`,
  drafts: $localize`list of what was drafted`,
};

const POWER = {
  'no-service': $localize`no service`,
  temporary: $localize`temporary`,
  live: $localize`live`,
} as const;

/** What fields are called that are written on site. */
const FIELDS: Readonly<Record<string, string>> = {
  doneAt: $localize`done`,
  doneBy: $localize`by whom`,
  measuredLengthIn: $localize`measured length`,
  asBuilt: $localize`as it was made`,
  alongIn: $localize`place along the wall`,
  placeNote: $localize`why not where it was to go`,
  setOutIn: $localize`how far it stands out`,
  fixedAt: $localize`fixed`,
  fixedBy: $localize`by whom`,
  yesAt: $localize`the yes`,
  initials: $localize`initials`,
  noAt: $localize`the no`,
  passedOn: $localize`passed`,
};

/** How runs and boxes of the open house are called. */
export interface NamesOfHouse {
  ends(runId: string | undefined): string;
  box(boxId: string | undefined): string;
}

/** Which run or box a change is about, where it says. */
function whichOf(body: object, table: TableName | CrewList, names: NamesOfHouse | undefined): string {
  const { record, recordId } = body as { record?: { runId?: string }; recordId?: string };
  if (!names) return '';
  if (record) return record.runId ? names.ends(record.runId) : '';
  return table === 'runs' ? names.ends(recordId) : table === 'boxes' ? names.box(recordId) : '';
}

/** A change of one record in words, by the list that it is about. */
function ofRecord(body: object, table: TableName | CrewList, names?: NamesOfHouse): string {
  const which = whichOf(body, table, names);
  const what = which ? `${WORDS[table]} ${which}` : WORDS[table];
  if ('record' in body) {
    const record = body.record as Partial<Record<'tag' | 'name' | 'item' | 'key' | 'kind', string>>;
    const own = record.tag ?? (table === 'prices' ? (record.item ?? record.kind) : undefined);
    const name = own ?? record.key ?? record.name ?? '';
    if (table === 'pulls') return which ? $localize`Logged a pull: ${which}` : $localize`Logged a pull`;
    return $localize`Added: ${what} ${name}`.trim();
  }
  return 'fields' in body
    ? $localize`Changed ${Object.keys(body.fields as object)
        .map((field) => FIELDS[field] ?? field)
        .join(', ')}\: ${what}`
    : $localize`Removed: ${what}`;
}

const together = (count: number, first: string): string => $localize`${count} changes at once: ${first}`;

/** A change of a house in words, for its log. */
export function changeText(body: ChangeBody, names?: NamesOfHouse): string {
  switch (body.kind) {
    case 'group':
      return body.title ?? together(body.changes.length, changeText(body.changes[0]!, names));
    case 'house.replace':
      return $localize`Replaced the whole house with a file`;
    case 'house.set':
      return body.name
        ? $localize`Renamed the house to “${body.name}”`
        : body.power
          ? $localize`Power of the house: ${POWER[body.power]}`
          : $localize`Changed the code edition`;
    case 'rule.set':
      return body.override
        ? $localize`Set rule ${body.key} to ${String(body.override.value)}`
        : $localize`Set rule ${body.key} back`;
    case 'revert':
      return $localize`Undid an earlier change`;
    default: {
      const target = targetOf(body.kind);
      return target ? ofRecord(body, target.table, names) : body.kind;
    }
  }
}

/** A change of the crew book in words, for its log. */
export function crewChangeText(body: CrewChangeBody): string {
  switch (body.kind) {
    case 'group':
      return body.title ?? together(body.changes.length, crewChangeText(body.changes[0]!));
    case 'crew.set':
      return $localize`Renamed the crew to “${body.name}”`;
    case 'revert':
      return $localize`Undid an earlier change`;
    default: {
      const target = CREW_CHANGES.targetOf(body.kind);
      return target ? ofRecord(body, target.table) : body.kind;
    }
  }
}
