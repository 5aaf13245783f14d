import type { Role } from '../vocabulary/roles.js';
import type { HistoryOf } from './apply.js';
import type { ChangeKinds, Writings } from './change-kinds.js';
import type { RowDiff } from './diff.js';
import type { ListName, Lists } from './document.js';

/** What a hand may do to the records of a list: which verbs, and of writing which fields; `own` looks at the record itself. */
export interface RightsIn {
  readonly add?: true;
  readonly remove?: true;
  readonly set?: true | readonly string[];
  /** Whether this record is theirs to add, where the list alone does not say. */
  adds?(record: Readonly<Record<string, unknown>>): boolean;
  /** Whether this writing of this record is theirs to do, where the fields alone do not say. */
  own?(recordId: string, fields: Readonly<Record<string, { readonly to?: unknown }>>): boolean;
}
export type HandRights<L extends Lists> = Readonly<Partial<Record<ListName<L>, RightsIn>>>;

/** Why somebody may not make a change: a stable code and a sentence. */
export interface NoRight {
  readonly code: 'rights.viewer' | 'rights.lead-only';
  readonly message: string;
}
const VIEWER: NoRight = { code: 'rights.viewer', message: 'You may read this, not change it.' };
const LEAD_ONLY: NoRight = { code: 'rights.lead-only', message: 'Only a lead of the crew may change this.' };

const mayWrite = (
  rights: RightsIn | undefined,
  id: string,
  fields: Readonly<Record<string, { readonly to?: unknown }>>,
): boolean => {
  const set = rights?.set;
  if (!set) return false;
  const isTheirs = set === true || Object.keys(fields).every((field) => set.includes(field));
  return isTheirs && (rights.own?.(id, fields) ?? true);
};

/** Taking back what a change did to a row: what was added goes, what went comes back, what was written is written. */
function mayTakeBack(rights: RightsIn | undefined, { id, added, removed, changed = {} }: RowDiff): boolean {
  if (added) return rights?.remove === true;
  if (removed) return rights?.add === true;
  const back = Object.fromEntries(Object.entries(changed).map(([field, { from }]) => [field, { to: from }]));
  return mayWrite(rights, id, back);
}

/**
 * Why somebody of this role may not make a change of a document; nothing where they may. A group is theirs where all of its
 * changes are, an undo where everything that it writes is.
 */
export function rightsProblem<L extends Lists>(
  role: Role,
  body: { readonly kind: string },
  hand: HandRights<L>,
  kinds: ChangeKinds<L>,
  history: HistoryOf<ListName<L>> = () => undefined,
): NoRight | undefined {
  if (role === 'lead') return undefined;
  if (role === 'viewer') return VIEWER;
  const may = (one: { readonly kind: string }): boolean => {
    if (one.kind === 'group') return (one as unknown as { changes: (typeof one)[] }).changes.every(may);
    if (one.kind === 'revert') {
      const diff = history((one as unknown as { of: string }).of);
      // What nobody remembers is refused for that, where it is applied.
      if (!diff) return true;
      return (
        Object.keys(diff.head).length === 0 && diff.rows.every((row) => mayTakeBack(hand[row.table], row))
      );
    }
    const target = kinds.targetOf(one.kind);
    if (!target) return false;
    const rights = hand[target.table];
    if (target.verb === 'add') {
      const { record } = one as unknown as { record: Readonly<Record<string, unknown>> };
      return rights?.add === true && (rights.adds?.(record) ?? true);
    }
    const { recordId, fields, withDependents } = one as unknown as {
      recordId: string;
      fields: Writings;
      withDependents?: boolean;
    };
    return target.verb === 'set'
      ? mayWrite(rights, recordId, fields)
      : rights?.remove === true && !withDependents;
  };
  return may(body) ? undefined : LEAD_ONLY;
}
