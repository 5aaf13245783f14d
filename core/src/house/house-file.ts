import * as z from 'zod';
import type { House } from './house.js';
import { emptyHouse, rowsOf, withRow } from './house.js';
import { danglingIn } from '../documents/integrity.js';
import type { BoxCount, Person as PersonType, RecordOf, TableName } from './model.js';
import { Elsewhere, HouseRulebook, USUAL_EDITION, isEdition } from '../rulebook/jurisdictions.js';
import { BURIED_POINT, Person, TABLE_NAMES, TABLES } from './model.js';
import type { Problem } from '../vocabulary/problem.js';
import { replaceMentions } from '../documents/references.js';
import { REFERENCES } from './references.js';
import { PowerState } from '../vocabulary/kinds.js';
import { LIMITS } from '../vocabulary/limits.js';
import type { Steps } from '../structures/steps.js';
import { finish } from '../structures/steps.js';
import { scan } from '../vocabulary/scan.js';
import { problemsOf } from '../vocabulary/schema-problems.js';
import { Id, Name } from '../vocabulary/text.js';
import { BURIED_PLACE } from './upgrade/version-1.js';
import { FILE_VERSION, upgradeFile } from './upgrades.js';
import { codeProblems } from '../rulebook/code-problems.js';
import { overrideProblems } from '../rulebook/rulebook.js';

const list = <T extends TableName>(table: T) =>
  z.array(TABLES[table].schema as (typeof TABLES)[T]['schema']).max(LIMITS.records);

export const HouseFile = z.strictObject({
  format: z.literal('mule-tally-house'),
  version: z.literal(FILE_VERSION),
  id: Id,
  name: Name,
  rulebook: HouseRulebook,
  power: PowerState.optional(),
  /** Names of those whose work the file tells of: its own snapshot of the crew's list. */
  people: z.array(Person).max(LIMITS.people),
  storeys: list('storeys'),
  rooms: list('rooms'),
  openings: list('openings'),
  bands: list('bands').default([]),
  beams: list('beams').default([]),
  catalogueBoxes: list('catalogueBoxes'),
  catalogueDevices: list('catalogueDevices'),
  boxes: list('boxes'),
  circuits: list('circuits'),
  devices: list('devices'),
  points: list('points'),
  controls: list('controls'),
  runs: list('runs'),
  reels: list('reels'),
  pulls: list('pulls'),
  records: list('records'),
  asks: list('asks').default([]),
  photos: list('photos').default([]),
  writeUps: list('writeUps').default([]),
  extras: list('extras').default([]),
  drafts: list('drafts').default([]),
});
export type HouseFile = z.infer<typeof HouseFile>;

export type HouseFileResult =
  | { readonly ok: true; readonly house: House; readonly file: HouseFile }
  | {
      readonly ok: false;
      readonly problems: readonly Problem[];
      /** Reading ended at the hundredth problem: there may be more. */
      readonly more: boolean;
    };

/** Lists that files of this version from before there were any do without. */
const LATER: ReadonlySet<TableName> = new Set(['beams', 'photos', 'writeUps', 'extras']);
/** Everything of a house file but what its lists hold. */
const Frame = HouseFile.extend(
  Object.fromEntries(
    TABLE_NAMES.map((table) => {
      const records = z.array(z.unknown()).max(LIMITS.records);
      return [table, LATER.has(table) ? records.default([]) : records];
    }),
  ) as { [T in TableName]: z.ZodArray<z.ZodUnknown> },
);
/** Records between two stops. */
const STEP = 40;

const LISTS: ReadonlySet<string> = new Set(TABLE_NAMES);

/**
 * Reads a house file from its text or its parsed JSON. Either the whole house or its problems, each with a stable code, a
 * sentence and its JSON path; at the hundredth it stops and says that there may be more. Codes: file.not-json,
 * file.not-a-house, file.version, file.unknown-field, file.invalid, file.duplicate-id, file.forbidden-key, file.too-deep,
 * file.bad-text, file.text-too-long, file.list-too-long, file.too-many-fields, house.dangling, rule.*.
 */
export const readHouseFile = (input: unknown): HouseFileResult => finish(readHouseFileInSteps(input));

/** {@link readHouseFile}, stopping every so many records. */
export function* readHouseFileInSteps(input: unknown): Steps<HouseFileResult> {
  let json = input;
  if (typeof input === 'string') {
    try {
      json = JSON.parse(input);
    } catch {
      return failure('file.not-json', 'This is not JSON text, so it cannot be a house file.');
    }
  }
  if (typeof json !== 'object' || json === null || Array.isArray(json)) {
    return failure('file.not-a-house', 'A house file is one JSON object; this is something else.');
  }
  const unsafe = scan(json, LISTS);
  if (unsafe.length) return failed(unsafe);
  if ((json as Record<string, unknown>)['format'] !== 'mule-tally-house') {
    return failure(
      'file.not-a-house',
      'This is not a house file: its format is not "mule-tally-house".',
      '$.format',
    );
  }
  const upgraded = upgradeFile(json as Record<string, unknown>);
  if (!upgraded) {
    return failure(
      'file.version',
      `This product reads house files of version 0 to ${FILE_VERSION}; this one has another version.`,
      '$.version',
    );
  }
  yield;
  const read = yield* recordsOf(ofElsewhere(upgraded));
  if (!read.file) return failed(read.problems);
  const { file } = read;
  const problems = new Problems();
  problems.take(duplicates(file));
  yield;
  const house = yield* houseInSteps(file);
  for (const table of TABLE_NAMES)
    for (const [index, record] of file[table].entries()) {
      if (problems.isFull) break;
      if (index % STEP === 0) yield;
      problems.take(danglingIn(house, table, record, `$.${table}[${index}]`));
    }
  const ofCode = file.rulebook.code ? codeProblems(file.rulebook.code, '$.rulebook.code') : [];
  problems.take(ofCode);
  if (!ofCode.length) problems.take(overrideProblems(file.rulebook, '$.rulebook.overrides'));
  return problems.all.length ? failed(problems.all) : { ok: true, house, file };
}

/** A file whose edition is not here: its rules are kept as they came, and it is read by those that are usual here, to be looked at. */
function ofElsewhere(file: Record<string, unknown>): Record<string, unknown> {
  const read = Elsewhere.safeParse(file['rulebook']);
  if (!read.success || isEdition(read.data.base)) return file;
  return { ...file, rulebook: { base: USUAL_EDITION, overrides: {}, elsewhere: read.data } };
}

/** Problems up to as many as are told. */
class Problems {
  readonly all: Problem[] = [];
  get isFull(): boolean {
    return this.all.length >= LIMITS.problems;
  }
  take(found: readonly Problem[]): void {
    this.all.push(...found.slice(0, LIMITS.problems - this.all.length));
  }
}

const failed = (problems: readonly Problem[]): HouseFileResult => ({
  ok: false,
  problems,
  more: problems.length >= LIMITS.problems,
});

/** The file by its schemas, record by record, as far as the problems that are told. */
function* recordsOf(
  current: Record<string, unknown>,
): Steps<{ file?: HouseFile; problems: readonly Problem[] }> {
  const frame = Frame.safeParse(current, { reportInput: true });
  const problems = new Problems();
  if (!frame.success) problems.take(problemsOf(frame.error.issues));
  const lists: Partial<Record<TableName, unknown[]>> = {};
  for (const table of TABLE_NAMES) {
    const records = current[table];
    if (!Array.isArray(records) || records.length > LIMITS.records) continue;
    const own: unknown[] = [];
    lists[table] = own;
    for (const [index, record] of records.entries()) {
      if (problems.isFull) return { problems: problems.all };
      if (index % STEP === 0) yield;
      const parsed = TABLES[table].schema.safeParse(record, { reportInput: true });
      if (parsed.success) own.push(parsed.data);
      else problems.take(problemsOf(parsed.error.issues, `$.${table}[${index}]`));
    }
  }
  if (!frame.success || problems.all.length) return { problems: problems.all };
  return { file: { ...frame.data, ...lists } as HouseFile, problems: [] };
}

const failure = (code: string, message: string, path = '$'): HouseFileResult => ({
  ok: false,
  problems: [{ code, message, path }],
  more: false,
});

function duplicates(file: HouseFile): Problem[] {
  // Ids are UUIDs by their schema: a set of the engine's own is good enough here, its hash is seeded.
  const first = new Map<string, string>([[file.id, '$.id']]);
  const problems: Problem[] = [];
  for (const table of TABLE_NAMES) {
    file[table].forEach(({ id }, index) => {
      const path = `$.${table}[${index}].id`;
      const other = first.get(id);
      if (other)
        problems.push({
          code: 'file.duplicate-id',
          message: `The id ${id} already stands at ${other}.`,
          path,
        });
      else first.set(id, path);
    });
  }
  return problems;
}

/** Buried points without a room come of runs of version 1; in diffs of that version they stand in a place of their own. */
const isLooseEndOfVersion1 = (record: RecordOf<TableName>): boolean =>
  'tag' in record && record.catalogueId === BURIED_POINT && record.roomId === undefined;

/** The house of a file whose shape is already known to be right. List order becomes row order. */
export const houseOf = (file: HouseFile): House => finish(houseInSteps(file));

function* houseInSteps(file: HouseFile): Steps<House> {
  let house = emptyHouse({
    id: file.id,
    name: file.name,
    rulebook: file.rulebook,
    ...(file.power && { power: file.power }),
  });
  let next = 0;
  for (const table of TABLE_NAMES) {
    let behind: number | undefined;
    for (const record of file[table]) {
      const isBuried = isLooseEndOfVersion1(record);
      const at = isBuried ? BURIED_PLACE : behind === undefined ? next++ : behind++;
      if (isBuried) behind = BURIED_PLACE + 1;
      house = withRow(house, table, record.id, { at, record });
      if (next % STEP === 0) yield;
    }
  }
  return house;
}

/** Ids of the people whose work the house tells of. */
export function peopleIn(house: House): ReadonlySet<string> {
  const people = new Set<string>();
  for (const table of ['pulls', 'records', 'photos', 'writeUps', 'extras'] as const)
    for (const { record } of house.tables[table].values()) people.add(record.by);
  for (const table of ['asks', 'extras'] as const)
    for (const { record } of house.tables[table].values()) if (record.doneBy) people.add(record.doneBy);
  for (const { record } of house.tables.writeUps.values())
    for (const id of [record.fixerId, record.fixedBy]) if (id) people.add(id);
  return people;
}

/**
 * The house as a file: fields in the order of the schema, lists in row order. `readHouseFile` gives the same house. Of the
 * crew it carries those whose work it tells of.
 */
export function writeHouseFile(house: House, crew: readonly PersonType[] = []): HouseFile {
  const named = peopleIn(house);
  const lists = Object.fromEntries(
    TABLE_NAMES.map((table) => [
      table,
      rowsOf(house, table).map((row) => TABLES[table].schema.parse(row.record)),
    ]),
  ) as { [T in TableName]: RecordOf<T>[] };
  const { rulebook, ...head } = house.head;
  // By name, so that the same house gives the same text, whatever kept it meanwhile.
  const overrides = Object.fromEntries(
    Object.entries(rulebook.overrides).sort(([a], [b]) => (a < b ? -1 : 1)),
  );
  return {
    format: 'mule-tally-house',
    version: FILE_VERSION,
    ...head,
    rulebook: (rulebook.elsewhere as HouseRulebook | undefined) ?? { ...rulebook, overrides },
    people: crew.filter(({ id }) => named.has(id)).map(({ id, name: own }) => ({ id, name: own })),
    ...lists,
  };
}

/** What of a record is work that has been done on it. */
interface Work {
  readonly asBuilt?: unknown;
  readonly doneAt?: unknown;
  readonly doneBy?: unknown;
}

const UUID = /[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}/g;
/** Fields that name other records inside: keys and fields as they were drafted, what was tested, seen and found. */
const NAMED_INSIDE: ReadonlySet<string> = new Set(['drafted', 'keys', 'tested', 'report', 'cause']);
function withIdsInside<R extends object>(record: R, ids: ReadonlyMap<string, string>): R {
  const replaced = Object.entries(record)
    .filter(([field]) => NAMED_INSIDE.has(field))
    .map(([field, value]) => [
      field,
      JSON.parse(JSON.stringify(value).replace(UUID, (id) => ids.get(id) ?? id)) as unknown,
    ]);
  return replaced.length ? { ...record, ...Object.fromEntries(replaced) } : record;
}

/** Lists that hold what was done, and what it was done with. */
const WORK: readonly TableName[] = ['pulls', 'records', 'reels', 'photos', 'writeUps', 'extras'];

/** What was counted on a walk names runs and pulls as they were then: some of them may be gone. */
function withIdsOfCount<R extends object>(record: R, ids: ReadonlyMap<string, string>): R {
  const { counted } = record as { counted?: BoxCount };
  if (!counted) return record;
  const renamed = (own: readonly string[]): string[] => own.map((id) => ids.get(id) ?? id);
  const { runIds, pullIds } = counted;
  return { ...record, counted: { ...counted, runIds: renamed(runIds), pullIds: renamed(pullIds) } };
}

/**
 * The same house under new ids, made by `newId`. Pulls, records and what was found as built stay behind unless `keepWork`:
 * the copy is the next lot's house, where nothing has been done yet.
 */
export function copyHouseFile(
  file: HouseFile,
  name: string,
  newId: () => string,
  keepWork: boolean,
): HouseFile {
  const ids = new Map<string, string>();
  for (const table of TABLE_NAMES) for (const { id } of file[table]) ids.set(id, newId());
  const lists = Object.fromEntries(
    TABLE_NAMES.map((table) => {
      if (!keepWork && WORK.includes(table)) return [table, []];
      return [
        table,
        file[table].map((record) => {
          const mentioned = replaceMentions(REFERENCES[table], { ...record, id: ids.get(record.id)! }, (id) =>
            ids.get(id),
          );
          const copy = withIdsOfCount(withIdsInside(mentioned, ids), ids);
          if (keepWork) return copy;
          const { asBuilt: _made, doneAt: _done, doneBy: _by, ...unmade } = copy as typeof copy & Work;
          return unmade;
        }),
      ];
    }),
  ) as { [T in TableName]: RecordOf<T>[] };
  const { power, ...head } = file;
  return {
    ...head,
    ...(keepWork && power && { power }),
    ...lists,
    people: keepWork ? file.people : [],
    id: newId(),
    name,
  };
}

/** The published JSON Schema (draft 2020-12) of the house file, generated from the Zod schema. */
export const houseFileJsonSchema = (): unknown => ({
  title: 'Mule Tally house file',
  description:
    'Lengths in inches, volumes in cubic inches, foot marks in feet, times in ISO 8601. Ids are UUIDs, unique in the whole house.',
  // As it is read: files of this version from before houses were drafted do without the later lists.
  ...(z.toJSONSchema(HouseFile, { io: 'input' }) as object),
});
