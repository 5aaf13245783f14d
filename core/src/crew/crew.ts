import * as z from 'zod';
import type { Document, DocumentKind } from '../documents/document.js';
import { emptyDocument, rowsOf, withRow } from '../documents/document.js';
import { danglingIn } from '../documents/integrity.js';
import { Person, Reel } from '../house/model.js';
import { HeightReference, RoomKind } from '../vocabulary/kinds.js';
import { Role, RoleInHouse } from '../vocabulary/roles.js';
import { RoomKit } from '../vocabulary/room-kit-types.js';
import { LIMITS } from '../vocabulary/limits.js';
import type { Problem } from '../vocabulary/problem.js';
import { RuleKey, RuleOverride } from '../vocabulary/rulebook-types.js';
import { scan } from '../vocabulary/scan.js';
import { problemsOf } from '../vocabulary/schema-problems.js';
import { Id, Inches, Name, ShortText } from '../vocabulary/text.js';

/**
 * The crew book: what belongs to the crew and to no house. A document as a house is one, with the same changes, diffs and
 * journal. Where both are written, the house is locked first, then the crew.
 */

/** Languages that the product speaks; whoever has picked none sees that of the browser. */
export const SpokenLanguage = z.enum(['en', 'es']);
export type SpokenLanguage = z.infer<typeof SpokenLanguage>;

export const Member = Person.extend({
  /** What they read best: chosen by person, on every device. */
  language: SpokenLanguage.optional(),
  /** No longer with the crew: not offered any more, and still named where their work stands. */
  left: z.boolean().optional(),
  /** What they are to the crew, once it has been set up: a hand, where nothing is said. */
  role: Role.optional(),
  /** Houses in which they are something else. */
  roleIn: z.array(RoleInHouse).max(1000).optional(),
});
export type Member = z.infer<typeof Member>;

/** A box of a kit: of which model, where, and what is in it. Heights in inches, as the house's plan means them. */
const KitBox = z.strictObject({
  catalogueId: ShortText,
  tag: ShortText,
  heightIn: Inches.optional(),
  heightReference: HeightReference.optional(),
  devices: z
    .array(
      z.strictObject({
        catalogueId: ShortText,
        gang: z.int().min(1).max(LIMITS.gangs),
        widthGangs: z.int().min(1).max(LIMITS.gangs).optional(),
      }),
    )
    .max(LIMITS.gangs),
});

/** Boxes and devices that this crew puts into rooms of a kind. */
export const Kit = z.strictObject({
  id: Id,
  name: Name,
  /** The kind of room that it is meant for; any, where nothing is said. */
  roomKind: RoomKind.optional(),
  boxes: z.array(KitBox).min(1).max(60),
});
export type Kit = z.infer<typeof Kit>;

/** What this crew puts into rooms of a kind when it drafts a house, in the place of the rulebook's kit for them. */
export const CrewRoomKit = RoomKit.extend({ id: Id });
export type CrewRoomKit = z.infer<typeof CrewRoomKit>;

/** A rulebook value that the houses of this crew start with. */
export const Habit = z.strictObject({ id: Id, key: RuleKey, override: RuleOverride });
export type Habit = z.infer<typeof Habit>;

export const PricedKind = z.enum(['cable', 'box', 'device', 'connector', 'hour']);
/** What something costs this crew, in its own currency: cable by the foot, work by the hour, all else by the piece. */
export const Price = z.strictObject({
  id: Id,
  kind: PricedKind,
  /** Id of the cable, model or connector; "hour" has none. */
  item: ShortText.optional(),
  amount: z.number().min(0).max(1_000_000),
});
export type Price = z.infer<typeof Price>;

/** What this crew calls a connector of the table. */
export const ConnectorName = z.strictObject({ id: Id, connector: ShortText, name: ShortText });
export type ConnectorName = z.infer<typeof ConnectorName>;

export const CrewHead = z.strictObject({ id: Id, name: Name });
export type CrewHead = z.infer<typeof CrewHead>;

/** Every list of the crew book. (Practice gets its list when there is practice.) */
export const CREW_LISTS = {
  // Names of people stand in their rows only: what cannot be changed any more cannot be erased either.
  people: { noun: 'person', schema: Member, erasable: ['name'], most: LIMITS.people },
  stock: { noun: 'reel', schema: Reel },
  kits: { noun: 'kit', schema: Kit },
  habits: { noun: 'habit', schema: Habit },
  prices: { noun: 'price', schema: Price },
  connectorNames: { noun: 'connectorName', schema: ConnectorName },
  roomKits: { noun: 'roomKit', schema: CrewRoomKit },
} as const;
export type CrewList = keyof typeof CREW_LISTS;
export const CREW_LIST_NAMES = Object.keys(CREW_LISTS) as CrewList[];

/** What a crew book holds. */
export const CREW: DocumentKind<typeof CREW_LISTS, CrewHead> = {
  noun: 'crew',
  lists: CREW_LISTS,
  names: CREW_LIST_NAMES,
  references: {
    people: [],
    stock: [{ path: 'parentId', table: 'stock', onRemove: 'unlink' }],
    kits: [],
    habits: [],
    prices: [],
    connectorNames: [],
    roomKits: [],
  },
  fieldsOf: ({ name }) => ({ name }),
  headOf: (id, { name }) => ({ id, name: String(name) }),
};

/** A crew book in memory. */
export type CrewBook = Document<typeof CREW_LISTS, CrewHead>;

export const emptyCrew = (head: CrewHead): CrewBook => emptyDocument(CREW, head);

const list = <S extends z.ZodType>(schema: S) => z.array(schema).max(LIMITS.records);

export const CrewFile = z.strictObject({
  format: z.literal('mule-tally-crew'),
  version: z.literal(2),
  ...CrewHead.shape,
  people: z.array(Member).max(LIMITS.people),
  stock: list(Reel),
  kits: list(Kit),
  habits: list(Habit),
  prices: list(Price),
  connectorNames: list(ConnectorName),
  // Books from before houses were drafted have none.
  roomKits: list(CrewRoomKit).default([]),
});
export type CrewFile = z.infer<typeof CrewFile>;

export type CrewFileResult =
  | { readonly ok: true; readonly crew: CrewBook }
  | { readonly ok: false; readonly problems: readonly Problem[] };

/** Reads a crew book from its JSON: all of it, or its problems, with the codes of a house file's. */
export function readCrewFile(json: unknown): CrewFileResult {
  const unsafe = scan(json, new Set(CREW_LIST_NAMES));
  if (unsafe.length) return { ok: false, problems: unsafe };
  const parsed = CrewFile.safeParse(json, { reportInput: true });
  if (!parsed.success)
    return { ok: false, problems: problemsOf(parsed.error.issues).slice(0, LIMITS.problems) };
  const { id, name, ...lists } = parsed.data;
  let crew = emptyCrew({ id, name });
  const seen = new Set<string>();
  const problems: Problem[] = [];
  for (const table of CREW_LIST_NAMES)
    for (const [index, record] of lists[table].entries()) {
      if (seen.has(record.id))
        problems.push({
          code: 'file.duplicate-id',
          message: `The id ${record.id} stands twice.`,
          path: `$.${table}[${index}].id`,
        });
      seen.add(record.id);
      crew = withRow(crew, table, record.id, { at: crew.nextAt, record });
    }
  for (const table of CREW_LIST_NAMES)
    for (const [index, record] of lists[table].entries())
      problems.push(...danglingIn(crew, table, record, `$.${table}[${index}]`));
  return problems.length ? { ok: false, problems } : { ok: true, crew };
}

const recordsOf = <T extends CrewList>(
  crew: CrewBook,
  table: T,
): z.infer<(typeof CREW_LISTS)[T]['schema']>[] => rowsOf(crew, table).map(({ record }) => record);

/** The crew book as JSON: `readCrewFile` gives the same book. */
export const writeCrewFile = (crew: CrewBook): CrewFile => ({
  format: 'mule-tally-crew',
  version: 2,
  ...crew.head,
  people: recordsOf(crew, 'people'),
  stock: recordsOf(crew, 'stock'),
  kits: recordsOf(crew, 'kits'),
  habits: recordsOf(crew, 'habits'),
  prices: recordsOf(crew, 'prices'),
  connectorNames: recordsOf(crew, 'connectorNames'),
  roomKits: recordsOf(crew, 'roomKits'),
});
