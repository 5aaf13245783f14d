import type * as z from 'zod';
import { SortedMap } from '../structures/sorted-map.js';
import type { Mention, Reference } from './references.js';
import { mentionsIn } from './references.js';

/** A list of a document: the schema of its records and the crew's word for one of them. */
export interface List {
  readonly noun: string;
  /** The word for adding one, where it is another than "add". */
  readonly adding?: string;
  readonly schema: z.ZodType<{ id: string }> & { readonly shape: Readonly<Record<string, z.ZodType>> };
  /** Records that there may be at most; as many as in any list where nothing is said. */
  readonly most?: number;
  /**
   * Fields that stand in the rows only, so that they can be erased: the journal keeps that they were written, and not what.
   * They cannot be taken back by undoing.
   */
  readonly erasable?: readonly string[];
}
export type Lists = Readonly<Record<string, List>>;
export type ListName<L extends Lists> = keyof L & string;
export type RecordIn<L extends Lists, T extends ListName<L>> = z.infer<L[T]['schema']>;

/** What documents of one kind hold, and what their head is made of. */
export interface DocumentKind<L extends Lists = Lists, H extends { readonly id: string } = { id: string }> {
  /** "house": how sentences call it. */
  readonly noun: string;
  readonly lists: L;
  readonly names: readonly ListName<L>[];
  readonly references: { readonly [T in ListName<L>]: readonly Reference<ListName<L>>[] };
  /** The head as fields that change alone, and back. */
  fieldsOf(head: H): Record<string, unknown>;
  headOf(id: string, fields: Record<string, unknown>): H;
}

/** A record and its place in its list; lists of a file are in rising `at`. */
export interface Placed<R extends { readonly id: string } = { id: string }> {
  readonly at: number;
  readonly record: R;
}

/** Ids of records, as the keys of a map. */
type Mentioners = SortedMap<true>;
const NOBODY: Mentioners = SortedMap.empty();

/**
 * A document in memory: immutable, with structure shared between versions, so that one change costs the same in a house of
 * 100 boxes and of 1,000.
 */
export interface Document<L extends Lists, H extends { readonly id: string }> {
  readonly kind: DocumentKind<L, H>;
  readonly head: H;
  readonly tables: { readonly [T in ListName<L>]: SortedMap<Placed<RecordIn<L, T>>> };
  /** For each record id: which records of which list mention it. Kept in step with the rows. */
  readonly mentionedBy: SortedMap<SortedMap<Mentioners>>;
  /** One above the highest place ever used in this version's history. */
  readonly nextAt: number;
}

type Rows = SortedMap<Placed>;
const tableOf = <L extends Lists, H extends { id: string }>(
  document: Document<L, H>,
  table: ListName<L>,
): Rows => document.tables[table] as unknown as Rows;

export function emptyDocument<L extends Lists, H extends { id: string }>(
  kind: DocumentKind<L, H>,
  head: H,
): Document<L, H> {
  const tables = Object.fromEntries(kind.names.map((name) => [name, SortedMap.empty()]));
  return {
    kind,
    head,
    tables: tables as unknown as Document<L, H>['tables'],
    mentionedBy: SortedMap.empty(),
    nextAt: 0,
  };
}

export const rowOf = <L extends Lists, H extends { id: string }, T extends ListName<L>>(
  document: Document<L, H>,
  table: T,
  id: string,
): Placed<RecordIn<L, T>> | undefined =>
  tableOf(document, table).get(id) as Placed<RecordIn<L, T>> | undefined;

export const recordOf = <L extends Lists, H extends { id: string }, T extends ListName<L>>(
  document: Document<L, H>,
  table: T,
  id: string,
): RecordIn<L, T> | undefined => rowOf(document, table, id)?.record;

const byPlace = (a: Placed, b: Placed): number => a.at - b.at || (a.record.id < b.record.id ? -1 : 1);

/** All rows of a list, in list order. */
export const rowsOf = <L extends Lists, H extends { id: string }, T extends ListName<L>>(
  document: Document<L, H>,
  table: T,
): Placed<RecordIn<L, T>>[] =>
  [...tableOf(document, table).values()].sort(byPlace) as Placed<RecordIn<L, T>>[];

/** Ids of the records of `table` that mention `id`. */
export const mentionersOf = <L extends Lists, H extends { id: string }>(
  document: Document<L, H>,
  table: ListName<L>,
  id: string,
): readonly string[] => [...(document.mentionedBy.get(id)?.get(table) ?? NOBODY).keys()];

/** Answers to `recordsMentioning`, for as long as a version of a document is looked at: it is asked again and again. */
const MENTIONING = new WeakMap<object, Map<string, Partial<Record<string, readonly unknown[]>>>>();

/** The records of `table` that mention `id`, in list order. */
export function recordsMentioning<L extends Lists, H extends { id: string }, T extends ListName<L>>(
  document: Document<L, H>,
  table: T,
  id: string,
): readonly RecordIn<L, T>[] {
  let known = MENTIONING.get(document);
  if (!known) MENTIONING.set(document, (known = new Map()));
  let ofId = known.get(id);
  if (!ofId) known.set(id, (ofId = {}));
  let records = ofId[table] as readonly RecordIn<L, T>[] | undefined;
  if (!records) {
    const mentioners = document.mentionedBy.get(id)?.get(table);
    const rows = tableOf(document, table);
    records = mentioners
      ? ([...mentioners.keys()]
          .map((mentioner) => rows.get(mentioner)!)
          .sort(byPlace)
          .map((row) => row.record) as unknown as readonly RecordIn<L, T>[])
      : [];
    ofId[table] = records;
  }
  return records;
}

/** The list that holds a record of this id (ids are unique in the whole document). */
export const tableHolding = <L extends Lists, H extends { id: string }>(
  document: Document<L, H>,
  id: string,
): ListName<L> | undefined => document.kind.names.find((table) => tableOf(document, table).has(id));

/** Every mention of another record in a record of this list. */
export const mentionsOf = <L extends Lists, H extends { id: string }>(
  { kind }: Document<L, H>,
  table: ListName<L>,
  record: object,
): Mention<ListName<L>>[] => mentionsIn(kind.references[table], record);

function reindex(
  index: Document<Lists, { id: string }>['mentionedBy'],
  references: readonly Reference[],
  table: string,
  id: string,
  before: object | undefined,
  after: object | undefined,
): Document<Lists, { id: string }>['mentionedBy'] {
  const old = new Set(before ? mentionsIn(references, before).map((mention) => mention.id) : []);
  const now = new Set(after ? mentionsIn(references, after).map((mention) => mention.id) : []);
  let next = index;
  for (const target of old) {
    if (now.has(target)) continue;
    const byTable = next.get(target)!;
    const left = byTable.get(table)!.delete(id);
    const rest = left.size === 0 ? byTable.delete(table) : byTable.set(table, left);
    next = rest.size === 0 ? next.delete(target) : next.set(target, rest);
  }
  for (const target of now) {
    if (old.has(target)) continue;
    const byTable = next.get(target) ?? SortedMap.empty<Mentioners>();
    next = next.set(target, byTable.set(table, (byTable.get(table) ?? NOBODY).set(id, true)));
  }
  return next;
}

/** The document with one row put (new or in place of the old one) or, with undefined, taken out. Checks nothing. */
export function withRow<L extends Lists, H extends { id: string }, T extends ListName<L>>(
  document: Document<L, H>,
  table: T,
  id: string,
  row: Placed<RecordIn<L, T>> | undefined,
): Document<L, H> {
  const rows = tableOf(document, table);
  const before = rows.get(id)?.record;
  const next = row ? rows.set(id, row) : rows.delete(id);
  return {
    kind: document.kind,
    head: document.head,
    tables: { ...document.tables, [table]: next },
    mentionedBy: reindex(
      document.mentionedBy,
      document.kind.references[table],
      table,
      id,
      before,
      row?.record,
    ),
    nextAt: row && row.at >= document.nextAt ? row.at + 1 : document.nextAt,
  };
}

export const withHead = <L extends Lists, H extends { id: string }>(
  document: Document<L, H>,
  head: H,
): Document<L, H> => ({ ...document, head });
