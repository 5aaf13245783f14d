import { mentionsOf } from '../documents/document.js';
import { replaceMentions } from '../documents/references.js';
import type { House } from '../house/house.js';
import { recordOf } from '../house/house.js';
import type { TableName } from '../house/model.js';
import { REFERENCES } from '../house/references.js';
import { sameJson } from '../structures/equal.js';
import type { ChangeBody, SingleChangeBody } from './change.js';
import { HOUSE_CHANGES, adding } from './change.js';
import { mayChange } from './rights.js';

/** A record as it stood when it was removed. */
export interface Gone {
  readonly table: TableName;
  readonly record: { readonly id: string };
}

const HAND = { id: '', role: 'hand' } as const;

/**
 * Whether a change says that something is in the wall, whoever made it: what hands may say (a pull, a walk, a tick, a box made
 * up, a length that was measured), but for taking it away and for what they ask.
 */
function isOfTheWall(house: House, body: SingleChangeBody): boolean {
  const target = HOUSE_CHANGES.targetOf(body.kind);
  if (!target || target.verb === 'remove' || target.table === 'asks') return false;
  return mayChange(HAND, body, house) === undefined;
}

/** Ids that a change cannot do without. */
function asked(house: House, body: SingleChangeBody): string[] {
  const target = HOUSE_CHANGES.targetOf(body.kind)!;
  if ('recordId' in body) return [body.recordId];
  if (!('record' in body)) return [];
  return mentionsOf(house, target.table, body.record as object)
    .filter(({ reference }) => reference.onRemove === 'cascade')
    .map(({ id }) => id);
}

/**
 * What is in the wall beats the plan: where a hand has pulled, walked or made up what somebody had taken out of the plan
 * meanwhile, that comes back, as far as the hand's change needs it, and the change is made. `gone` gives a removed record as it
 * last stood. Gives the ids that have to be looked up first, the change with what it brings back, or nothing where this is no
 * such change, or what it needs was never there. Common practice: the cable that hangs in the wall is not argued with.
 */
export function rescue(
  house: House,
  body: ChangeBody,
  gone: ReadonlyMap<string, Gone>,
):
  | { readonly needs: readonly string[] }
  | { readonly body: ChangeBody; readonly back: readonly Gone[] }
  | undefined {
  if (body.kind === 'house.replace') return undefined;
  const bodies = body.kind === 'group' ? body.changes : [body];
  if (!bodies.every((one) => isOfTheWall(house, one))) return undefined;
  const own = new Set(bodies.flatMap((one) => ('record' in one ? [(one.record as { id: string }).id] : [])));
  const isThere = (id: string): boolean =>
    own.has(id) || (Object.keys(house.tables) as TableName[]).some((table) => recordOf(house, table, id));
  const needs = new Set<string>();
  const back = new Map<string, Gone>();
  const seen = new Set<string>();
  // What others hang on comes first.
  const bring = (id: string): void => {
    if (isThere(id) || seen.has(id)) return;
    seen.add(id);
    const found = gone.get(id);
    if (!found) return void needs.add(id);
    for (const mention of mentionsOf(house, found.table, found.record))
      if (mention.reference.onRemove === 'cascade') bring(mention.id);
    back.set(id, found);
  };
  for (const one of bodies) for (const id of asked(house, one)) bring(id);
  if (needs.size) return { needs: [...needs] };
  if (back.size === 0) return undefined;
  // What they mentioned besides, and is gone, stays gone.
  const records = [...back.values()].map(({ table, record }) => ({
    table,
    record: replaceMentions(REFERENCES[table], record, (id) =>
      isThere(id) || back.has(id) ? id : undefined,
    ),
  }));
  const adds = records.map(({ table, record }) => adding(table, record as never));
  return { body: { kind: 'group', title: TITLE, changes: [...adds, ...bodies] }, back: records };
}

/** Whether what stands in a journal is this change, as it was sent or with what it brought back. */
export function isAsSent(stored: unknown, sent: unknown): boolean {
  if (sameJson(stored, sent)) return true;
  const { title, changes } = stored as { title?: string; changes?: readonly unknown[] };
  if (title !== TITLE || !changes) return false;
  const bodies = (sent as { changes?: readonly unknown[] }).changes ?? [sent];
  return sameJson(changes.slice(-bodies.length), bodies);
}

const TITLE = 'In the wall, though it had been taken out of the plan';
