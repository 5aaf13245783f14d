/**
 * Which field of which record names another record. The dangling check, the removal rules, the reverse index and the
 * copying of a document all read one table of these.
 */
export interface Reference<List extends string = string> {
  /** Path in the record; "[]" steps into a list. */
  readonly path: string;
  readonly table: List;
  /**
   * When the named record goes: this record goes too ('cascade'), only the mention of it goes ('unlink'), or the part of
   * this record that means nothing without it goes ('unlink-part': an end of a joint, say).
   */
  readonly onRemove: 'cascade' | 'unlink' | 'unlink-part';
  /** What holds the list means something without it: an empty list is left out, its holder stays. */
  readonly holderStays?: true;
  /** Names that need no record in the document. */
  readonly known?: (id: string) => boolean;
}

export interface Mention<List extends string = string> {
  readonly reference: Reference<List>;
  readonly id: string;
  /** Path from the record, as JSON path: `.ends[2].runId`. */
  readonly at: string;
}

type Step = { readonly key: string; readonly list: boolean };

const STEPS = new Map<string, readonly Step[]>();
const stepsOf = (path: string): readonly Step[] => {
  let steps = STEPS.get(path);
  if (!steps) {
    steps = path.split('.').map((part) => ({ key: part.replace('[]', ''), list: part.endsWith('[]') }));
    STEPS.set(path, steps);
  }
  return steps;
};

const REMOVED = Symbol('removed');

/**
 * Rebuilds `value` with `change` applied to every id found along the reference's path. `change` answering undefined
 * removes the mention. Untouched parts keep their identity.
 */
function rewrite(
  value: unknown,
  reference: Reference,
  position: number,
  at: string,
  change: (id: string, at: string) => string | undefined,
): unknown {
  const steps = stepsOf(reference.path);
  const step = steps[position]!;
  if (typeof value !== 'object' || value === null || !(step.key in value)) return value;
  const holder = value as Record<string, unknown>;
  const field = holder[step.key];
  const last = position === steps.length - 1;
  const here = `${at}.${step.key}`;
  const visit = (item: unknown, where: string): unknown => {
    if (!last) return rewrite(item, reference, position + 1, where, change);
    return typeof item === 'string' ? (change(item, where) ?? REMOVED) : item;
  };
  if (step.list) {
    if (!Array.isArray(field)) return value;
    const next = field.map((item, index) => visit(item, `${here}[${index}]`));
    if (next.every((item, index) => item === field[index])) return value;
    const kept = next.filter((item) => item !== REMOVED);
    if (kept.length === 0 && position > 0) {
      // A joint that has lost its last end is no joint any more.
      if (!reference.holderStays) return REMOVED;
      const { [step.key]: _empty, ...stays } = holder;
      return stays;
    }
    return { ...holder, [step.key]: kept };
  }
  const next = visit(field, here);
  if (next === field) return value;
  if (next !== REMOVED) return { ...holder, [step.key]: next };
  // Of a part within a part, the whole entry of the list goes.
  if (reference.onRemove === 'unlink-part') return REMOVED;
  const { [step.key]: _gone, ...rest } = holder;
  return rest;
}

/** Every mention of another record in this one, in field order, with built-in names left out. */
export function mentionsIn<List extends string>(
  references: readonly Reference<List>[],
  record: object,
): Mention<List>[] {
  const mentions: Mention<List>[] = [];
  for (const reference of references) {
    rewrite(record, reference, 0, '', (id, at) => {
      if (!reference.known?.(id)) mentions.push({ reference, id, at });
      return id;
    });
  }
  return mentions;
}

/** The record with every mentioned id replaced; undefined from `replace` drops the mention. */
export function replaceMentions<R extends object>(
  references: readonly Reference[],
  record: R,
  replace: (id: string, reference: Reference) => string | undefined,
): R {
  let next: unknown = record;
  for (const reference of references) {
    next = rewrite(next, reference, 0, '', (id) => (reference.known?.(id) ? id : replace(id, reference)));
  }
  return next as R;
}
