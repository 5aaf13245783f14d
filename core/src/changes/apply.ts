import type { House } from '../house/house.js';
import { mentionersOf, recordOf, rowOf, tableHolding, withHead, withRow } from '../house/house.js';
import type { HouseFile } from '../house/house-file.js';
import { readHouseFile, writeHouseFile } from '../house/house-file.js';
import { danglingIn } from '../house/integrity.js';
import type { RecordOf, TableName } from '../house/model.js';
import { BURIED_POINT, TABLE_NAMES, TABLES } from '../house/model.js';
import { mentionsIn, replaceMentions } from '../house/references.js';
import { problemsOf } from '../vocabulary/schema-problems.js';
import { overrideProblem } from '../rulebook/rulebook.js';
import { byNumber } from '../house/breaker-by-number.js';
import { sameJson } from '../structures/equal.js';
import type { ChangeBody, SingleChangeBody, Writings } from './change.js';
import { targetOf } from './change.js';
import type { Conflict, HouseDiff, Touched } from './diff.js';
import { applyDiff, conflictsOf, diffOf, invert, overrideField, touchKey, touchedBetween } from './diff.js';

/** Why a change was not applied: nothing of it was. */
export interface Refusal {
  readonly code: string;
  readonly message: string;
  /** JSON path in the change's body. */
  readonly path?: string;
  /** What a revert would have overwritten. */
  readonly conflicts?: readonly Conflict[];
  /** What hangs on the record that was to be removed: how many of which list. */
  readonly dependents?: Readonly<Partial<Record<TableName, number>>>;
}

export type Applied =
  | {
      readonly ok: true;
      readonly house: House;
      readonly diff: HouseDiff;
      /** Fields that no longer held what the maker of the change saw, and were written all the same. */
      readonly overwrote: readonly Conflict[];
    }
  | { readonly ok: false; readonly refusal: Refusal };

/** Diffs of earlier changes, for `revert`; undefined when there was none of that id. */
export type History = (changeId: string) => HouseDiff | undefined;

class Refused extends Error {
  constructor(readonly refusal: Refusal) {
    super(refusal.message);
  }
}
const refuse = (code: string, message: string, more: Partial<Refusal> = {}): never => {
  throw new Refused({ code, message, ...more });
};

type Touches = Map<string, { table: TableName; id: string }>;
interface Draft {
  house: House;
  readonly touched: Touches;
  readonly overwrote: Conflict[];
}

const article = (noun: string): string => (/^[aeiou]/.test(noun) ? 'an' : 'a');

function put<T extends TableName>(draft: Draft, table: T, record: RecordOf<T>, at: number): void {
  draft.house = withRow(draft.house, table, record.id, { at, record });
  draft.touched.set(touchKey(table, record.id), { table, id: record.id });
}

function take(draft: Draft, table: TableName, id: string): void {
  draft.house = withRow(draft.house, table, id, undefined);
  draft.touched.set(touchKey(table, id), { table, id });
}

function add<T extends TableName>(draft: Draft, table: T, record: RecordOf<T>): void {
  const holder = tableHolding(draft.house, record.id);
  if (holder)
    refuse(
      'change.id-taken',
      `There is already ${article(TABLES[holder].noun)} ${TABLES[holder].noun} of this id.`,
      { path: '$.record.id' },
    );
  // Judged here as a changed record is: what comes from elsewhere than this product's own screens may be anything.
  put(draft, table, parsed(table, record, '$.record'), draft.house.nextAt);
}

/** A record as its schema has it; refused with the first problem where it does not fit. */
function parsed<T extends TableName>(table: T, record: unknown, root: string): RecordOf<T> {
  const result = TABLES[table].schema.safeParse(record, { reportInput: true });
  if (!result.success) {
    const [problem] = problemsOf(result.error.issues, root);
    refuse('change.invalid', problem!.message, { path: problem!.path });
  }
  return result.data as RecordOf<T>;
}

function existing<T extends TableName>(draft: Draft, table: T, id: string): RecordOf<T> {
  return (
    recordOf(draft.house, table, id) ??
    refuse('change.stale-target', `This ${TABLES[table].noun} is not in the house any more.`, {
      path: '$.recordId',
    })
  );
}

function set<T extends TableName>(draft: Draft, table: T, id: string, fields: Writings): void {
  const record = existing(draft, table, id);
  if ('id' in fields)
    refuse('change.id-fixed', 'The id of a record cannot be changed.', { path: '$.fields.id' });
  const merged: Record<string, unknown> = { ...record };
  for (const [field, { was, to }] of Object.entries(fields)) {
    const now = (record as Record<string, unknown>)[field] ?? null;
    // Two who write the same have not written over each other.
    if (was !== undefined && !sameJson(now, was) && !sameJson(now, to))
      draft.overwrote.push({ table, id, field });
    if (to === null) delete merged[field];
    else merged[field] = to;
  }
  const next = parsed(table, merged, '$.fields');
  if (table === 'circuits' && 'number' in fields)
    tellBreakersByCircuit(draft, record as RecordOf<'circuits'>);
  put(draft, table, next, rowOf(draft.house, table, id)!.at);
  if (table === 'runs') takeLooseEnd(draft, record as RecordOf<'runs'>);
}

/** A buried point that was only where a cable ended loose goes with the end of that cable. */
function takeLooseEnd(draft: Draft, run: RecordOf<'runs'>): void {
  for (const { boxId } of [run.from, run.to]) {
    const box = recordOf(draft.house, 'boxes', boxId);
    const isLeft = box?.catalogueId === BURIED_POINT && box.roomId === undefined;
    if (isLeft && TABLE_NAMES.every((table) => mentionersOf(draft.house, table, boxId).length === 0))
      take(draft, 'boxes', boxId);
  }
}

/**
 * Joints of a panel recorded by the number of a breaker are told by its circuit before the number changes: what was made
 * keeps its meaning.
 */
function tellBreakersByCircuit(draft: Draft, { panelId }: RecordOf<'circuits'>): void {
  const row = rowOf(draft.house, 'boxes', panelId);
  if (
    !row?.record.asBuilt?.some(({ terminals }) =>
      terminals?.some(({ terminal }) => 'number' in terminal && terminal.number !== undefined),
    )
  )
    return;
  const circuits = [...mentionersOf(draft.house, 'circuits', panelId)]
    .map((id) => recordOf(draft.house, 'circuits', id)!)
    .filter((circuit) => circuit.panelId === panelId);
  const asBuilt = row.record.asBuilt.map((joint) => ({
    ...joint,
    ...(joint.terminals && {
      terminals: joint.terminals.map((to) => ({ ...to, terminal: byNumber(circuits, to.terminal) })),
    }),
  }));
  put(draft, 'boxes', { ...row.record, asBuilt }, row.at);
}

/** Every record that goes when this one goes. */
function dependentsOf(house: House, id: string, found: Touches): void {
  for (const table of TABLE_NAMES) {
    for (const mentioner of mentionersOf(house, table, id)) {
      const key = touchKey(table, mentioner);
      if (found.has(key)) continue;
      const cascades = mentionsIn(table, recordOf(house, table, mentioner)!).some(
        (mention) => mention.id === id && mention.reference.onRemove === 'cascade',
      );
      if (!cascades) continue;
      found.set(key, { table, id: mentioner });
      dependentsOf(house, mentioner, found);
    }
  }
}

/** A device's points and a box's bare devices are part of it; everything else that hangs on it is asked about. */
const PART_OF: Partial<Record<TableName, readonly TableName[]>> = {
  devices: ['points'],
  boxes: ['devices', 'points'],
};

function remove(draft: Draft, table: TableName, id: string, withDependents: boolean): void {
  existing(draft, table, id);
  const going: Touches = new Map();
  dependentsOf(draft.house, id, going);
  const dependents: Partial<Record<TableName, number>> = {};
  for (const other of going.values()) {
    if (!PART_OF[table]?.includes(other.table)) dependents[other.table] = (dependents[other.table] ?? 0) + 1;
  }
  if (!withDependents && Object.keys(dependents).length) {
    const list = Object.entries(dependents).map(([name, count]) =>
      count === 1 ? `1 ${TABLES[name as TableName].noun}` : `${count} ${name}`,
    );
    refuse(
      'change.still-used',
      `This ${TABLES[table].noun} still has ${list.join(', ')}. Remove it with them, or move them first; the journal keeps what was there.`,
      { dependents, path: '$.recordId' },
    );
  }
  going.set(touchKey(table, id), { table, id });
  // Mentions first, while the records that hold them are still there.
  for (const gone of going.values()) {
    for (const holder of TABLE_NAMES) {
      for (const mentioner of mentionersOf(draft.house, holder, gone.id)) {
        if (going.has(touchKey(holder, mentioner))) continue;
        const row = rowOf(draft.house, holder, mentioner)!;
        const without = replaceMentions(holder, row.record, (mentioned) =>
          mentioned === gone.id ? undefined : mentioned,
        );
        put(draft, holder, without, row.at);
      }
    }
  }
  const runs = [...going.values()].flatMap((gone) =>
    gone.table === 'runs' ? [recordOf(draft.house, 'runs', gone.id)!] : [],
  );
  for (const gone of going.values()) take(draft, gone.table, gone.id);
  for (const run of runs) takeLooseEnd(draft, run);
}

function revert(draft: Draft, of: string, history: History): void {
  const diff =
    history(of) ??
    refuse('revert.unknown', 'The change to undo is not in the journal of this house.', { path: '$.of' });
  const back = invert(diff);
  const conflicts = conflictsOf(draft.house, back);
  if (conflicts.length) {
    refuse('revert.conflict', 'This cannot be undone any more: part of it has been changed since.', {
      conflicts,
    });
  }
  draft.house = applyDiff(draft.house, back);
  for (const { table, id } of back.rows) draft.touched.set(touchKey(table, id), { table, id });
}

function edit(draft: Draft, body: SingleChangeBody, history: History): void {
  switch (body.kind) {
    case 'house.set': {
      const { head } = draft.house;
      const { was } = body;
      if (body.name && was?.name && ![was.name, body.name].includes(head.name))
        draft.overwrote.push({ field: 'name' });
      if (body.base && was?.base && ![was.base, body.base].includes(head.rulebook.base))
        draft.overwrote.push({ field: 'base' });
      draft.house = withHead(draft.house, {
        ...head,
        name: body.name ?? head.name,
        rulebook: body.base ? { ...head.rulebook, base: body.base } : head.rulebook,
      });
      for (const [key, override] of Object.entries(draft.house.head.rulebook.overrides)) {
        const problem = overrideProblem(draft.house.head.rulebook.base, key, override);
        if (problem) refuse(problem.code, problem.message, { path: '$.base' });
      }
      return;
    }
    case 'rule.set': {
      const { head } = draft.house;
      const { [body.key]: now = null, ...others } = head.rulebook.overrides;
      if (body.was !== undefined && !sameJson(now, body.was) && !sameJson(now, body.override))
        draft.overwrote.push({ field: overrideField(body.key) });
      if (body.override) {
        const problem = overrideProblem(head.rulebook.base, body.key, body.override);
        if (problem) refuse(problem.code, problem.message, { path: '$.override.value' });
      }
      const overrides = body.override ? { ...others, [body.key]: body.override } : others;
      draft.house = withHead(draft.house, { ...head, rulebook: { ...head.rulebook, overrides } });
      return;
    }
    case 'revert':
      return revert(draft, body.of, history);
    default: {
      const { table } = targetOf(body.kind)!;
      if ('record' in body) add(draft, table, body.record);
      else if ('fields' in body) set(draft, table, body.recordId, body.fields);
      else remove(draft, table, body.recordId, body.withDependents ?? false);
    }
  }
}

/** What was touched must still hold together: no mention of what is gone, nothing gone that is still mentioned. */
function checkIntegrity(house: House, touched: Touched): void {
  for (const { table, id } of touched.values()) {
    const record = recordOf(house, table, id);
    if (record) {
      const [problem] = danglingIn(house, table, record, '$.record');
      if (problem) refuse(problem.code, problem.message, { path: problem.path });
      continue;
    }
    const holder = TABLE_NAMES.find((name) => mentionersOf(house, name, id).length > 0);
    if (holder)
      refuse(
        'house.dangling',
        `A ${TABLES[holder].noun} still needs the ${TABLES[table].noun} that would go.`,
      );
  }
}

function replace(house: House, file: HouseFile): Applied {
  const read = readHouseFile(file);
  if (!read.ok)
    return { ok: false, refusal: { ...read.problems[0]!, path: `$.file${read.problems[0]!.path.slice(1)}` } };
  if (file.id !== house.head.id) {
    return {
      ok: false,
      refusal: {
        code: 'house.other-id',
        message: 'This file is of another house: its id differs.',
        path: '$.file.id',
      },
    };
  }
  // The file of the house as it stands is no change.
  if (sameJson(writeHouseFile(house), { ...read.file, people: [] }))
    return { ok: true, house, diff: { head: {}, rows: [] }, overwrote: [] };
  const next = { ...read.house, nextAt: Math.max(house.nextAt, read.house.nextAt) };
  return { ok: true, house: next, diff: diffOf(house, next, touchedBetween(house, next)), overwrote: [] };
}

/**
 * Applies a change whole or not at all. Gives the new house and the difference by record and field, or the refusal with a
 * stable code and a sentence. The same function serves the screen, at once, and the server, for good.
 */
export function applyChange(house: House, body: ChangeBody, history: History = () => undefined): Applied {
  const draft: Draft = { house, touched: new Map(), overwrote: [] };
  if (body.kind === 'house.replace') return replace(house, body.file);
  try {
    const bodies = body.kind === 'group' ? body.changes : [body];
    bodies.forEach((single, index) => {
      try {
        edit(draft, single, history);
      } catch (error) {
        if (!(error instanceof Refused) || body.kind !== 'group') throw error;
        const { refusal } = error;
        throw new Refused({ ...refusal, path: `$.changes[${index}]${(refusal.path ?? '$').slice(1)}` });
      }
    });
    checkIntegrity(draft.house, draft.touched);
  } catch (error) {
    if (error instanceof Refused) return { ok: false, refusal: error.refusal };
    throw error;
  }
  return {
    ok: true,
    house: draft.house,
    diff: diffOf(house, draft.house, draft.touched),
    overwrote: draft.overwrote,
  };
}
