import { v5 } from 'uuid';
import { terminalOfVersion1 } from './terminals-of-version-1.js';

/**
 * From version 1 to version 2, for files, rows, diffs and changes alike. Every field is brought over by itself and every
 * record without looking at another, so that a diff that is upgraded does what the diff did: no order of the two matters.
 * What this file knows of either version is written out here and never changed.
 */

export type Json = Record<string, unknown>;
export const isObject = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
export const listOf = (value: unknown): readonly unknown[] => (Array.isArray(value) ? value : []);

/** Names of version 1 and loose ends of its runs become ids in this space. */
const SPACE = '6f1d2c52-6a0e-4d0f-9a51-0c2f7a8e4b10';

/** The id of a person whom version 1 knew by name. */
export const personOfVersion1 = (name: string): string => v5(`person ${name}`, SPACE);
/** The id of the buried point at which a run of version 1 ended loose. */
const buriedPointOfVersion1 = (runId: string): string => v5(`loose end ${runId}`, SPACE);

/** Buried points of loose ends stand behind all other boxes, by id. */
export const BURIED_PLACE = 1_000_000_000;

/** Fields that are absent are undefined here: which fields come of one is always the same. */
type OfField = (value: unknown, recordId: string) => Json;

const some = (value: unknown): Json => (isObject(value) ? value : {});
/** `size` in the place of `awg`. */
function sized(value: unknown): unknown {
  if (!isObject(value) || !('awg' in value)) return value;
  const { awg, ...rest } = value;
  return { ...rest, size: { system: 'awg', value: awg } };
}
const eachSized = (value: unknown): unknown => (Array.isArray(value) ? value.map(sized) : value);

function jointOf(joint: unknown): unknown {
  if (!isObject(joint) || !Array.isArray(joint['terminals'])) return joint;
  return {
    ...joint,
    terminals: joint['terminals'].map((to: unknown) => {
      if (!isObject(to) || typeof to['terminal'] !== 'string') return to;
      const { deviceId, circuitId, terminal } = to;
      return {
        ...(deviceId !== undefined && { deviceId }),
        terminal: terminalOfVersion1(
          terminal as string,
          deviceId !== undefined,
          typeof circuitId === 'string' ? circuitId : undefined,
        ),
      };
    }),
  };
}

const EXCEPTIONS: Readonly<Record<string, string>> = {
  'Raceway to the box is large enough to add a neutral': 'raceway',
  'Box can be reached without taking finish off': 'reachable',
  'Snap switch with integral enclosure': 'integral-enclosure',
  'Lighting is controlled automatically': 'automatic',
  'Switch controls a receptacle': 'receptacle',
};

/** What the titles of steps began with, by the stage of the make-up that they were of. */
const STAGES: readonly (readonly [RegExp, string])[] = [
  [/^(All grounds|Grounds)/, 'grounds'],
  [/^(Neutral|Cap the neutral)/, 'neutrals'],
  [/^Traveler /, 'travelers'],
  [/^(Hot|Cap the hot|Alarm interconnect)/, 'hots'],
  [/^Leg:/, 'legs'],
  [/^(Spares|Cap spare)/, 'spares'],
];

/** "Hot of circuit 5" as "hots"; other words joined by hyphens. */
function stepOf(text: unknown): unknown {
  if (typeof text !== 'string') return text;
  const stage = STAGES.find(([start]) => start.test(text));
  if (stage) return stage[1];
  const code = text
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '');
  return code || 'step';
}

const idOfName = (name: unknown): unknown => (typeof name === 'string' ? personOfVersion1(name) : name);
const person: OfField = (by) => ({ by: idOfName(by) });

const isLoose = (end: unknown): end is { loose: string } => isObject(end) && typeof end['loose'] === 'string';

/** Fields that are other ones now, by list and field; every other field is as it was. */
const FIELDS: Readonly<Record<string, Readonly<Record<string, OfField>>>> = {
  boxes: {
    model: (value) => {
      const { catalogueId, markedVolumeIn3, material, kind, gangs, slots, clamps, groundScrew, fanRated } =
        some(value);
      return {
        catalogueId,
        markedVolumeIn3,
        material,
        kind,
        gangs,
        slots,
        markedClamps: clamps,
        groundScrew,
        fanRated,
      };
    },
    place: (value) => {
      const { wall, alongIn, heightIn, reference, note } = some(value);
      return { wall, alongIn, heightIn, heightReference: reference, placeNote: note };
    },
    fittings: (fittings) => ({ fittings: eachSized(fittings) }),
    fixtureWires: (wires) => ({ fixtureWires: sized(wires) }),
    isolatedGround: (ground) => ({ isolatedGround: sized(ground) }),
    neutralException: (text) => ({
      neutralException: typeof text === 'string' ? (EXCEPTIONS[text] ?? 'other') : text,
      neutralReason: typeof text === 'string' && !EXCEPTIONS[text] ? text : undefined,
    }),
    asBuilt: (joints) => ({ asBuilt: Array.isArray(joints) ? joints.map(jointOf) : joints }),
  },
  runs: {
    to: (end, runId) => ({ to: isLoose(end) ? { boxId: buriedPointOfVersion1(runId) } : end }),
    wires: (wires) => ({ wires: eachSized(wires) }),
  },
  pulls: { by: person },
  records: { by: person, step: (step) => ({ step: stepOf(step) }) },
};

/** Codes of school values in the place of what was shown of them. */
const RULE_VALUES: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  'wiring.gfciOnward': { 'from LOAD': 'load', 'pigtailed past': 'pigtailed-past' },
  'wiring.offPosition': { 'all down': 'all-down', 'not said': 'not-said' },
  'raceway.travelerColours': { 'YE and OG': 'YE-OG', 'BU and VT': 'BU-VT', 'BN and PK': 'BN-PK' },
  'slot.order': { 'slot order': 'slot-order', 'bottom in, top out': 'bottom-in' },
  'makeup.legs': { 'hang at the gang': 'hang-at-gang' },
  'makeup.spliceStrip': {
    'half inch': 'half-inch',
    'three eighths': 'three-eighths',
    'clip back': 'clip-back',
  },
  'makeup.pretwist': { 'three or more': 'three-or-more' },
  'makeup.sheath': { 'before entering': 'before-entering', 'in the box': 'in-box' },
};
/** Rules of which the value was a list written as one text. */
const LISTS: ReadonlySet<string> = new Set(['gfci.rooms']);

export function overrideOfVersion1(key: string, override: unknown): unknown {
  if (!isObject(override) || typeof override['value'] !== 'string') return override;
  const text = override['value'];
  const value = LISTS.has(key) ? text.split(/\s+/).filter(Boolean) : (RULE_VALUES[key]?.[text] ?? text);
  return { ...override, value };
}

const present = (fields: Json): Json =>
  Object.fromEntries(Object.entries(fields).filter(([, value]) => value !== undefined));

const fieldsOf = (table: string, id: string, field: string, value: unknown): Json =>
  FIELDS[table]?.[field]?.(value, id) ?? { [field]: value };

/** The buried point at the loose end of a run; undefined where it does not end loose. */
function buriedPoint(runId: string, to: unknown): Json | undefined {
  if (!isLoose(to)) return undefined;
  const [tag, ...more] = [to.loose.slice(0, 60), ...(to.loose.length > 60 ? [to.loose] : [])];
  return {
    id: buriedPointOfVersion1(runId),
    tag,
    catalogueId: 'buried-point',
    ...(more[0] && { placeNote: more[0] }),
  };
}

/** A record of version 1 as one of version 2, and the buried point that comes of its loose end. */
export function recordOfVersion1(table: string, record: unknown): { record: unknown; buried?: Json } {
  if (!isObject(record)) return { record };
  const id = String(record['id']);
  const next = present(
    Object.assign({}, ...Object.entries(record).map(([field, value]) => fieldsOf(table, id, field, value))),
  );
  const buried = table === 'runs' ? buriedPoint(id, record['to']) : undefined;
  return buried ? { record: next, buried } : { record: next };
}

export function fileOfVersion1(file: Json): Json {
  const names = new Set<string>();
  const buried: Json[] = [];
  const next: Json = { ...file, version: 2 };
  for (const [table, records] of Object.entries(file)) {
    if (!Array.isArray(records)) continue;
    next[table] = records.map((record: unknown) => {
      if (isObject(record) && (table === 'pulls' || table === 'records') && typeof record['by'] === 'string')
        names.add(record['by']);
      const own = recordOfVersion1(table, record);
      if (own.buried) buried.push(own.buried);
      return own.record;
    });
  }
  buried.sort((a, b) => (String(a['id']) < String(b['id']) ? -1 : 1));
  if (Array.isArray(next['boxes'])) next['boxes'] = [...next['boxes'], ...buried];
  const rulebook = file['rulebook'];
  if (isObject(rulebook) && isObject(rulebook['overrides']))
    next['rulebook'] = {
      ...rulebook,
      overrides: Object.fromEntries(
        Object.entries(rulebook['overrides']).map(([key, value]) => [key, overrideOfVersion1(key, value)]),
      ),
    };
  next['people'] = [...names].sort().map((name) => ({ id: personOfVersion1(name), name }));
  return next;
}

type Change = { from?: unknown; to?: unknown };
const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
const change = (from: unknown, to: unknown): Change => ({
  ...(from !== undefined && { from }),
  ...(to !== undefined && { to }),
});

const OVERRIDE = 'override:';

/** A diff of version 1 as one of version 2. */
export function diffOfVersion1(diff: unknown): unknown {
  if (!isObject(diff)) return diff;
  const head = Object.fromEntries(
    Object.entries(some(diff['head'])).map(([field, value]) => {
      if (!field.startsWith(OVERRIDE) || !isObject(value)) return [field, value];
      const key = field.slice(OVERRIDE.length);
      return [field, change(overrideOfVersion1(key, value['from']), overrideOfVersion1(key, value['to']))];
    }),
  );
  const rows: Json[] = [];
  const buriedRow = (before: Json | undefined, after: Json | undefined): void => {
    const id = (before ?? after)?.['id'];
    if (id === undefined || same(before, after)) return;
    if (!before) rows.push({ table: 'boxes', id, added: { at: BURIED_PLACE, record: after } });
    else if (!after) rows.push({ table: 'boxes', id, removed: { at: BURIED_PLACE, record: before } });
    else {
      const fields = ['tag', 'placeNote'].filter((field) => !same(before[field], after[field]));
      rows.push({
        table: 'boxes',
        id,
        changed: Object.fromEntries(fields.map((field) => [field, change(before[field], after[field])])),
      });
    }
  };
  for (const row of listOf(diff['rows'])) {
    if (!isObject(row)) continue;
    const { added, removed, changed, ...rest } = row;
    const [table, id] = [String(row['table']), String(row['id'])];
    const placed = (value: unknown): { record: unknown; buried?: Json } =>
      recordOfVersion1(table, some(value)['record']);
    const next: Json = rest;
    if (added !== undefined) {
      const own = placed(added);
      next['added'] = { ...some(added), record: own.record };
      buriedRow(undefined, own.buried);
    }
    if (removed !== undefined) {
      const own = placed(removed);
      next['removed'] = { ...some(removed), record: own.record };
      buriedRow(own.buried, undefined);
    }
    if (changed !== undefined) {
      const fields: Record<string, Change> = {};
      for (const [field, value] of Object.entries(some(changed))) {
        const { from, to } = some(value) as Change;
        const [before, after] = [fieldsOf(table, id, field, from), fieldsOf(table, id, field, to)];
        for (const name of Object.keys(before))
          if (!same(before[name], after[name])) fields[name] = change(before[name], after[name]);
        if (table === 'runs' && field === 'to') buriedRow(buriedPoint(id, from), buriedPoint(id, to));
      }
      next['changed'] = fields;
    }
    rows.push(next);
  }
  return { head, rows };
}

const TABLE_OF: Readonly<Record<string, string>> = {
  box: 'boxes',
  run: 'runs',
  pull: 'pulls',
  record: 'records',
};

/** One change of version 1, or the two that come of one that makes a loose end. `isThere` tells a box that the house has. */
function bodiesOfVersion1(body: Json, isThere: (boxId: string) => boolean): Json[] {
  const kind = String(body['kind']);
  const [noun = '', verb] = kind.split('.');
  const table = TABLE_OF[noun] ?? '';
  if (kind === 'rule.set')
    return [{ ...body, override: overrideOfVersion1(String(body['key']), body['override']) }];
  if (isObject(body['record'])) {
    const { record, buried } = recordOfVersion1(table, body['record']);
    return [...(buried ? [{ kind: 'box.add', record: buried }] : []), { ...body, record }];
  }
  if (verb !== 'set' || !isObject(body['fields'])) return [body];
  const id = String(body['recordId']);
  const fields: Json = {};
  const before: Json[] = [];
  for (const [field, value] of Object.entries(body['fields'])) {
    for (const [name, own] of Object.entries(fieldsOf(table, id, field, value ?? undefined)))
      fields[name] = { to: own ?? null };
    const buried = table === 'runs' && field === 'to' ? buriedPoint(id, value) : undefined;
    if (!buried) continue;
    const { id: recordId, tag, placeNote = null } = buried;
    before.push(
      isThere(String(recordId))
        ? { kind: 'box.set', recordId, fields: { tag: { to: tag }, placeNote: { to: placeNote } } }
        : { kind: 'box.add', record: buried },
    );
  }
  return [...before, { ...body, fields }];
}

/** The body of a change of version 1 as one of version 2. A house file in it is brought over where it is read. */
export function bodyOfVersion1(body: unknown, isThere: (boxId: string) => boolean = () => false): unknown {
  if (!isObject(body)) return body;
  if (body['kind'] === 'group') {
    const made = new Set<string>();
    const changes = listOf(body['changes']).flatMap((one) => {
      if (!isObject(one)) return [one];
      const own = bodiesOfVersion1(one, (id) => made.has(id) || isThere(id));
      for (const { kind, record } of own)
        if (kind === 'box.add' && isObject(record)) made.add(String(record['id']));
      return own;
    });
    return { ...body, changes };
  }
  const own = bodiesOfVersion1(body, isThere);
  return own.length === 1 ? own[0] : { kind: 'group', changes: own };
}
