import * as z from 'zod';
import type { House } from './house.js';
import { emptyHouse, rowsOf, withRow } from './house.js';
import { danglingIn } from './integrity.js';
import type { RecordOf, TableName } from './model.js';
import { HouseRulebook, TABLE_NAMES, TABLES } from './model.js';
import type { Problem } from './problem.js';
import { replaceMentions } from './references.js';
import { problemsOf } from './schema-problems.js';
import { Id, Name } from './text.js';
import { FILE_VERSION, upgradeFile } from './upgrades.js';
import { overrideProblems } from '../rulebook/rulebook.js';

/** No more records in one list than this: far above any house, low enough to be read at once. */
const MAX_RECORDS = 20_000;

const list = <T extends TableName>(table: T) =>
  z.array(TABLES[table].schema as (typeof TABLES)[T]['schema']).max(MAX_RECORDS);

export const HouseFile = z.strictObject({
  format: z.literal('mule-tally-house'),
  version: z.literal(FILE_VERSION),
  id: Id,
  name: Name,
  rulebook: HouseRulebook,
  storeys: list('storeys'),
  rooms: list('rooms'),
  openings: list('openings'),
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
});
export type HouseFile = z.infer<typeof HouseFile>;

export type HouseFileResult =
  | { readonly ok: true; readonly house: House; readonly file: HouseFile }
  | { readonly ok: false; readonly problems: readonly Problem[] };

const MAX_DEPTH = 40;
const FORBIDDEN = new Set(['__proto__', 'constructor', 'prototype']);

/** Keys that reach into JavaScript's prototypes, and nesting without end, are refused before anything else looks. */
function unsafeParts(value: unknown, path = '$', depth = 0): Problem[] {
  if (typeof value !== 'object' || value === null) return [];
  if (depth > MAX_DEPTH) {
    return [{ code: 'file.too-deep', message: `The file is nested deeper than ${MAX_DEPTH} levels.`, path }];
  }
  if (Array.isArray(value))
    return value.flatMap((item, index) => unsafeParts(item, `${path}[${index}]`, depth + 1));
  return Object.getOwnPropertyNames(value).flatMap((key) =>
    FORBIDDEN.has(key)
      ? [
          {
            code: 'file.forbidden-key',
            message: `The field name "${key}" is not allowed.`,
            path: `${path}.${key}`,
          },
        ]
      : unsafeParts((value as Record<string, unknown>)[key], `${path}.${key}`, depth + 1),
  );
}

/**
 * Reads a house file from its text or its parsed JSON. Either the whole house or every problem, each with a stable code,
 * a sentence and its JSON path. Codes: file.not-json, file.not-a-house, file.version, file.unknown-field, file.invalid,
 * file.duplicate-id, file.forbidden-key, file.too-deep, house.dangling, rule.*.
 */
export function readHouseFile(input: unknown): HouseFileResult {
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
  const unsafe = unsafeParts(json);
  if (unsafe.length) return { ok: false, problems: unsafe };
  if ((json as Record<string, unknown>)['format'] !== 'mule-tally-house') {
    return failure(
      'file.not-a-house',
      'This is not a house file: its format is not "mule-tally-house".',
      '$.format',
    );
  }
  const current = upgradeFile(json as Record<string, unknown>);
  if (!current) {
    return failure(
      'file.version',
      `This product reads house files of version 0 to ${FILE_VERSION}; this one has another version.`,
      '$.version',
    );
  }
  const parsed = HouseFile.safeParse(current, { reportInput: true });
  if (!parsed.success) return { ok: false, problems: problemsOf(parsed.error.issues) };
  const house = houseOf(parsed.data);
  const problems = [
    ...duplicates(parsed.data),
    ...TABLE_NAMES.flatMap((table) =>
      parsed.data[table].flatMap((record, index) => danglingIn(house, table, record, `$.${table}[${index}]`)),
    ),
    ...overrideProblems(parsed.data.rulebook, '$.rulebook.overrides'),
  ];
  return problems.length ? { ok: false, problems } : { ok: true, house, file: parsed.data };
}

const failure = (code: string, message: string, path = '$'): HouseFileResult => ({
  ok: false,
  problems: [{ code, message, path }],
});

function duplicates(file: HouseFile): Problem[] {
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

/** The house of a file whose shape is already known to be right. List order becomes row order. */
export function houseOf(file: HouseFile): House {
  let house = emptyHouse({ id: file.id, name: file.name, rulebook: file.rulebook });
  for (const table of TABLE_NAMES) {
    for (const record of file[table]) house = withRow(house, table, record.id, { at: house.nextAt, record });
  }
  return house;
}

/** The house as a file: fields in the order of the schema, lists in row order. `readHouseFile` gives the same house. */
export function writeHouseFile(house: House): HouseFile {
  const lists = Object.fromEntries(
    TABLE_NAMES.map((table) => [
      table,
      rowsOf(house, table).map((row) => TABLES[table].schema.parse(row.record)),
    ]),
  ) as { [T in TableName]: RecordOf<T>[] };
  return { format: 'mule-tally-house', version: FILE_VERSION, ...house.head, ...lists };
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
      if (!keepWork && (table === 'pulls' || table === 'records')) return [table, []];
      return [
        table,
        file[table].map((record) => {
          const copy = replaceMentions(table, { ...record, id: ids.get(record.id)! }, (id) => ids.get(id));
          if (keepWork || !('asBuilt' in copy)) return copy;
          const { asBuilt: _made, ...unmade } = copy;
          return unmade;
        }),
      ];
    }),
  ) as { [T in TableName]: RecordOf<T>[] };
  return { ...file, ...lists, id: newId(), name };
}

/** The published JSON Schema (draft 2020-12) of the house file, generated from the Zod schema. */
export const houseFileJsonSchema = (): unknown => ({
  title: 'Mule Tally house file',
  description:
    'Lengths in inches, volumes in cubic inches, foot marks in feet, times in ISO 8601. Ids are UUIDs, unique in the whole house.',
  ...(z.toJSONSchema(HouseFile) as object),
});
