import { sameJson } from '../structures/equal.js';
import { LIMITS } from '../vocabulary/limits.js';
import { problemsOf } from '../vocabulary/schema-problems.js';
import type { ChangeKinds, Writings } from './change-kinds.js';
import type { Conflict, Diff, Touched } from './diff.js';
import { applyDiff, conflictsOf, diffOf, invert, touchKey, withErasable } from './diff.js';
import type { Document, ListName, Lists, RecordIn } from './document.js';
import { mentionersOf, mentionsOf, recordOf, rowOf, tableHolding, withRow } from './document.js';
import { danglingIn } from './integrity.js';
import { replaceMentions } from './references.js';

/** Why a change was not applied: nothing of it was. */
export interface Refusal<T extends string = string> {
  readonly code: string;
  readonly message: string;
  /** JSON path in the change's body. */
  readonly path?: string;
  /** What a revert would have overwritten. */
  readonly conflicts?: readonly Conflict<T>[];
  /** What hangs on the record that was to be removed: how many of which list. */
  readonly dependents?: Readonly<Partial<Record<T, number>>>;
}

export type AppliedTo<L extends Lists, H extends { id: string }> =
  | {
      readonly ok: true;
      readonly document: Document<L, H>;
      readonly diff: Diff<ListName<L>>;
      /** Fields that no longer held what the maker of the change saw, and were written all the same. */
      readonly overwrote: readonly Conflict<ListName<L>>[];
    }
  | { readonly ok: false; readonly refusal: Refusal<ListName<L>> };

/** Diffs of earlier changes, for `revert`; undefined when there was none of that id. */
export type HistoryOf<T extends string> = (changeId: string) => Diff<T> | undefined;

class Refused extends Error {
  constructor(readonly refusal: Refusal<never>) {
    super(refusal.message);
  }
}
export const refuse = (code: string, message: string, more: object = {}): never => {
  throw new Refused({ code, message, ...more });
};

type Touches<T extends string> = Map<string, { table: T; id: string }>;

/** A document while a change is applied to it. */
export interface Draft<L extends Lists, H extends { id: string }> {
  document: Document<L, H>;
  readonly touched: Touches<ListName<L>>;
  readonly overwrote: Conflict<ListName<L>>[];
}

/** What is particular to the changes of one kind of document. */
export interface ChangeRules<L extends Lists, H extends { id: string }> {
  readonly kinds: ChangeKinds<L>;
  /** Applies a change of another kind than those of single records; false where it is none. */
  edit(draft: Draft<L, H>, body: { readonly kind: string }): boolean;
  /** The record as it comes in. */
  incoming?(draft: Draft<L, H>, table: ListName<L>, record: unknown): unknown;
  /** Before fields of a record are written, and after. */
  writing?(draft: Draft<L, H>, table: ListName<L>, record: { id: string }, fields: Writings): void;
  written?(draft: Draft<L, H>, table: ListName<L>, before: { id: string }): void;
  /** After records have been taken out. */
  gone?(
    draft: Draft<L, H>,
    taken: readonly { readonly table: ListName<L>; readonly record: { id: string } }[],
  ): void;
  /** Refuses what may not stand beside the others; of every record that a change has written, an undo too. */
  judge?(draft: Draft<L, H>, table: ListName<L>, record: { id: string }): void;
  /** Records that are part of another one; everything else that hangs on it is asked about. */
  readonly partOf?: Readonly<Partial<Record<ListName<L>, readonly ListName<L>[]>>>;
}

const article = (noun: string): string => (/^[aeiou]/.test(noun) ? 'an' : 'a');

export function put<L extends Lists, H extends { id: string }, T extends ListName<L>>(
  draft: Draft<L, H>,
  table: T,
  record: RecordIn<L, T>,
  at: number,
): void {
  const { id } = record as { id: string };
  draft.document = withRow(draft.document, table, id, { at, record });
  draft.touched.set(touchKey(table, id), { table, id });
}

export function take<L extends Lists, H extends { id: string }>(
  draft: Draft<L, H>,
  table: ListName<L>,
  id: string,
): void {
  draft.document = withRow(draft.document, table, id, undefined);
  draft.touched.set(touchKey(table, id), { table, id });
}

/** Applies changes to documents of one kind. */
class Applying<L extends Lists, H extends { id: string }> {
  constructor(
    private readonly rules: ChangeRules<L, H>,
    private readonly draft: Draft<L, H>,
    private readonly history: HistoryOf<ListName<L>>,
  ) {}

  private noun(table: string): string {
    return this.draft.document.kind.lists[table]!.noun;
  }

  edit(body: { readonly kind: string }): void {
    const { rules, draft } = this;
    if (rules.edit(draft, body)) return;
    if (body.kind === 'revert') return this.revert((body as unknown as { of: string }).of);
    const { table, verb } = rules.kinds.targetOf(body.kind)!;
    const { record, recordId, fields, withDependents } = body as unknown as {
      record: { id: string };
      recordId: string;
      fields: Writings;
      withDependents?: boolean;
    };
    if (verb === 'add') this.add(table, record);
    else if (verb === 'set') this.set(table, recordId, fields);
    else this.remove(table, recordId, withDependents ?? false);
  }

  private add(table: ListName<L>, record: { id: string }): void {
    const { draft, rules } = this;
    const holder = tableHolding(draft.document, record.id);
    if (holder)
      refuse(
        'change.id-taken',
        `There is already ${article(this.noun(holder))} ${this.noun(holder)} of this id: somebody has entered or drafted the same meanwhile.`,
        {
          path: '$.record.id',
        },
      );
    const { most = LIMITS.records } = draft.document.kind.lists[table]!;
    if (draft.document.tables[table].size >= most)
      refuse('change.list-full', `There are ${most} of these already, and no more can be kept.`, {
        path: '$.record',
      });
    // Judged here as a changed record is: what comes from elsewhere than this product's own screens may be anything.
    const judged = this.parsed(table, record, '$.record');
    const own = (rules.incoming?.(draft, table, judged) ?? judged) as { id: string };
    put(draft, table, own as never, draft.document.nextAt);
    rules.judge?.(draft, table, own);
  }

  /** A record as its schema has it; refused with the first problem where it does not fit. */
  private parsed(table: ListName<L>, record: unknown, root: string): { id: string } {
    const result = this.draft.document.kind.lists[table]!.schema.safeParse(record, { reportInput: true });
    if (result.success) return result.data;
    const [problem] = problemsOf(result.error.issues, root);
    return refuse('change.invalid', problem!.message, { path: problem!.path });
  }

  private existing(table: ListName<L>, id: string): { id: string } {
    const { document } = this.draft;
    const record = recordOf(document, table, id) as { id: string } | undefined;
    return (
      record ??
      refuse(
        'change.stale-target',
        `This ${this.noun(table)} is not in the ${document.kind.noun} any more.`,
        {
          path: '$.recordId',
        },
      )
    );
  }

  private set(table: ListName<L>, id: string, fields: Writings): void {
    const { draft, rules } = this;
    const record = this.existing(table, id);
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
    const next = this.parsed(table, merged, '$.fields');
    rules.writing?.(draft, table, record, fields);
    put(draft, table, next as never, rowOf(draft.document, table, id)!.at);
    rules.judge?.(draft, table, next);
    rules.written?.(draft, table, record);
  }

  /** Every record that goes when this one goes. */
  private dependentsOf(id: string, found: Touches<ListName<L>>): void {
    const { document } = this.draft;
    for (const table of document.kind.names) {
      for (const mentioner of mentionersOf(document, table, id)) {
        const key = touchKey(table, mentioner);
        if (found.has(key)) continue;
        const record = recordOf(document, table, mentioner) as object;
        const cascades = mentionsOf(document, table, record).some(
          (mention) => mention.id === id && mention.reference.onRemove === 'cascade',
        );
        if (!cascades) continue;
        found.set(key, { table, id: mentioner });
        this.dependentsOf(mentioner, found);
      }
    }
  }

  private remove(table: ListName<L>, id: string, withDependents: boolean): void {
    const { draft, rules } = this;
    this.existing(table, id);
    const going: Touches<ListName<L>> = new Map();
    this.dependentsOf(id, going);
    const dependents: Partial<Record<ListName<L>, number>> = {};
    for (const other of going.values()) {
      if (!rules.partOf?.[table]?.includes(other.table))
        dependents[other.table] = (dependents[other.table] ?? 0) + 1;
    }
    if (!withDependents && Object.keys(dependents).length) {
      const list = Object.entries(dependents as Record<string, number>).map(([name, count]) =>
        count === 1 ? `1 ${this.noun(name)}` : `${count} ${name}`,
      );
      refuse(
        'change.still-used',
        `This ${this.noun(table)} still has ${list.join(', ')}. Remove it with them, or move them first; the log keeps what was there.`,
        { dependents, path: '$.recordId' },
      );
    }
    going.set(touchKey(table, id), { table, id });
    // Mentions first, while the records that hold them are still there.
    for (const gone of going.values()) this.unlink(gone.id, going);
    const taken = [...going.values()].map((gone) => ({
      table: gone.table,
      record: recordOf(draft.document, gone.table, gone.id) as { id: string },
    }));
    for (const gone of going.values()) take(draft, gone.table, gone.id);
    rules.gone?.(draft, taken);
  }

  /** Takes every mention of a record out of those that stay. */
  private unlink(id: string, going: ReadonlyMap<string, unknown>): void {
    const { draft } = this;
    const { references, names } = draft.document.kind;
    for (const holder of names) {
      for (const mentioner of mentionersOf(draft.document, holder, id)) {
        if (going.has(touchKey(holder, mentioner))) continue;
        const row = rowOf(draft.document, holder, mentioner)!;
        const rest = replaceMentions(references[holder], row.record as object, (mentioned) =>
          mentioned === id ? undefined : mentioned,
        );
        put(draft, holder, rest as never, row.at);
      }
    }
  }

  private revert(of: string): void {
    const { draft } = this;
    const { noun, lists } = draft.document.kind;
    const known =
      this.history(of) ??
      refuse('revert.unknown', `The change to undo is not in the journal of this ${noun}.`, { path: '$.of' });
    // A journal keeps no names: of somebody who was added, the one that they have by now.
    const back = invert(withErasable(draft.document, known));
    const isErased = back.rows.some(({ table, added, changed }) =>
      lists[table]!.erasable?.some((field) => added || (changed && field in changed)),
    );
    if (isErased)
      refuse('revert.erased', 'This cannot be undone: the journal keeps no names. Enter it anew.', {
        path: '$.of',
      });
    const conflicts = conflictsOf(draft.document, back);
    if (conflicts.length) {
      refuse('revert.conflict', 'This cannot be undone any more: part of it has been changed since.', {
        conflicts,
      });
    }
    draft.document = applyDiff(draft.document, back);
    for (const { table, id } of back.rows) {
      draft.touched.set(touchKey(table, id), { table, id });
      const record = recordOf(draft.document, table, id) as { id: string } | undefined;
      if (record) this.rules.judge?.(draft, table, record);
    }
  }
}

/** What was touched must still hold together: no mention of what is gone, nothing gone that is still mentioned. */
function checkIntegrity<L extends Lists, H extends { id: string }>(
  document: Document<L, H>,
  touched: Touched<ListName<L>>,
): void {
  const { names, lists, noun } = document.kind;
  for (const { table, id } of touched.values()) {
    const record = recordOf(document, table, id) as object | undefined;
    if (record) {
      const [problem] = danglingIn(document, table, record, '$.record');
      if (problem) refuse(problem.code, problem.message, { path: problem.path });
      continue;
    }
    const holder = names.find((name) => mentionersOf(document, name, id).length > 0);
    if (holder)
      refuse(
        `${noun}.dangling`,
        `A ${lists[holder]!.noun} still needs the ${lists[table]!.noun} that would go.`,
      );
  }
}

/**
 * Applies a change, or the changes of a group, whole or not at all. Gives the new document and the difference by record and
 * field, or the refusal with a stable code and a sentence.
 */
export function applyBodies<L extends Lists, H extends { id: string }>(
  document: Document<L, H>,
  body: { readonly kind: string } | { readonly kind: 'group'; readonly changes: readonly { kind: string }[] },
  rules: ChangeRules<L, H>,
  history: HistoryOf<ListName<L>>,
): AppliedTo<L, H> {
  const draft: Draft<L, H> = { document, touched: new Map(), overwrote: [] };
  const applying = new Applying(rules, draft, history);
  try {
    const bodies = 'changes' in body ? body.changes : [body];
    bodies.forEach((single, index) => {
      try {
        applying.edit(single);
      } catch (error) {
        if (!(error instanceof Refused) || !('changes' in body)) throw error;
        const { refusal } = error;
        throw new Refused({ ...refusal, path: `$.changes[${index}]${(refusal.path ?? '$').slice(1)}` });
      }
    });
    checkIntegrity(draft.document, draft.touched);
  } catch (error) {
    if (error instanceof Refused) return { ok: false, refusal: error.refusal };
    throw error;
  }
  return {
    ok: true,
    document: draft.document,
    diff: diffOf(document, draft.document, draft.touched),
    overwrote: draft.overwrote,
  };
}
