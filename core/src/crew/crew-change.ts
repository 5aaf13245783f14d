import * as z from 'zod';
import type { AppliedTo, ChangeRules, Draft, HistoryOf } from '../documents/apply.js';
import { applyBodies, refuse } from '../documents/apply.js';
import type { AddTo, RemoveFrom, SetIn, Writings } from '../documents/change-kinds.js';
import { Revert, changeKindsOf, groupOf } from '../documents/change-kinds.js';
import type { Diff } from '../documents/diff.js';
import { diffSchema, without } from '../documents/diff.js';
import { rowsOf, withHead } from '../documents/document.js';
import type { EnvelopeOf, ReadEnvelope } from '../documents/envelope.js';
import { envelopeSchema, readEnvelope } from '../documents/envelope.js';
import { withWasOf } from '../documents/seen.js';
import { upgradeEnvelope } from '../house/upgrades.js';
import { Name } from '../vocabulary/text.js';
import type {
  CREW_LISTS,
  ConnectorName,
  CrewBook,
  CrewHead,
  CrewList,
  Habit,
  Member,
  Price,
} from './crew.js';
import { CREW, CREW_LIST_NAMES } from './crew.js';

/** Changes of single records of the crew book: they come from its lists. */
export const CREW_CHANGES = changeKindsOf<typeof CREW_LISTS>(CREW.lists);

const CrewSet = z.strictObject({
  kind: z.literal('crew.set'),
  name: Name,
  /** What the person saw. */
  was: Name.optional(),
});

export type SingleCrewBody =
  | z.infer<typeof CrewSet>
  | Revert
  | AddTo<typeof CREW_LISTS>
  | SetIn<typeof CREW_LISTS>
  | RemoveFrom<typeof CREW_LISTS>;
const single = [CrewSet, Revert, ...CREW_CHANGES.schemas] as const;
const Single = z.discriminatedUnion('kind', single) as unknown as z.ZodType<SingleCrewBody>;
const Group = groupOf(Single);

/** A change of the crew book that a person made. */
export type CrewChangeBody = SingleCrewBody | z.infer<typeof Group>;
export const CrewChangeBody = z.discriminatedUnion('kind', [
  ...single,
  Group,
]) as unknown as z.ZodType<CrewChangeBody>;

export type CrewEnvelope = EnvelopeOf<CrewChangeBody>;
export const CrewEnvelope = envelopeSchema(CrewChangeBody);
/** Reads one change of the crew book that was sent. */
export const readCrewChange = (input: unknown): ReadEnvelope<CrewChangeBody> =>
  readEnvelope(input, CrewEnvelope, undefined, (given) => upgradeEnvelope(given));

/** What one change did to the crew book. */
export type CrewDiff = Diff<CrewList>;
export const CrewDiff = diffSchema(CREW_LIST_NAMES);
export type CrewApplied = AppliedTo<typeof CREW_LISTS, CrewHead>;
type CrewDraft = Draft<typeof CREW_LISTS, CrewHead>;

/** What there may be one of only: what tells it from the others, and how it is called when it is there. */
const ONE_OF: { readonly [T in CrewList]?: { key(record: never): string; text: string } } = {
  habits: { key: ({ key }: Habit) => key, text: 'The crew has a habit for this value already.' },
  prices: { key: ({ kind, item }: Price) => `${kind} ${item ?? ''}`, text: 'This has a price already.' },
  connectorNames: {
    key: ({ connector }: ConnectorName) => connector,
    text: 'This connector has a name already.',
  },
};

function oneOnly({ document }: CrewDraft, table: CrewList, record: { id: string }): void {
  const one = ONE_OF[table];
  if (!one) return;
  const key = one.key(record as never);
  const isThere = rowsOf(document, table).some(
    (row) => row.record.id !== record.id && one.key(row.record as never) === key,
  );
  if (isThere) refuse('crew.only-one', one.text, { path: '$.record' });
}

const hasName = ({ document }: CrewDraft, id: string, name: string): boolean =>
  rowsOf(document, 'people').some(({ record }) => record.id !== id && record.name === name);

/** Two people who were entered under one name, perhaps on two phones without network, are told apart by a number. */
function named(draft: CrewDraft, person: Member): Member {
  for (let number = 1; ; number++) {
    const name = number === 1 ? person.name : `${person.name.slice(0, 190)} (${number})`;
    if (!hasName(draft, person.id, name)) return { ...person, name };
  }
}

const RULES: ChangeRules<typeof CREW_LISTS, CrewHead> = {
  kinds: CREW_CHANGES,
  edit: (draft, body) => {
    if (body.kind !== 'crew.set') return false;
    const { name, was } = body as z.infer<typeof CrewSet>;
    const { head } = draft.document;
    if (was !== undefined && ![was, name].includes(head.name)) draft.overwrote.push({ field: 'name' });
    draft.document = withHead(draft.document, { ...head, name });
    return true;
  },
  incoming: (draft, table, record) => (table === 'people' ? named(draft, record as Member) : record),
  judge: oneOnly,
  writing: (draft, table, record, fields) => {
    const name = table === 'people' ? fields['name']?.to : undefined;
    if (typeof name === 'string' && hasName(draft, record.id, name))
      refuse('person.name-taken', `Somebody else of the crew is called ${name}.`, { path: '$.fields.name' });
  },
};

/** Whether somebody is a lead of this crew: from when it is set up on there always is. */
export const hasLead = (crew: CrewBook): boolean =>
  rowsOf(crew, 'people').some(({ record }) => record.role === 'lead' && !record.left);

/** Applies a change of the crew book whole or not at all; the same on the screen and on the server. */
export const applyCrewChange = (
  crew: CrewBook,
  body: CrewChangeBody,
  history: HistoryOf<CrewList> = () => undefined,
): CrewApplied => {
  const applied = applyBodies(crew, body, RULES, history);
  if (!applied.ok || !hasLead(crew) || hasLead(applied.document)) return applied;
  const message = 'A crew has a lead: make somebody else one first.';
  return { ok: false, refusal: { code: 'crew.last-lead', message } };
};

/** The change with what its maker saw in every field that it writes. */
export function crewChangeWithWas(crew: CrewBook, body: CrewChangeBody): CrewChangeBody {
  const written = new Set<string>();
  const seen = (one: SingleCrewBody): SingleCrewBody =>
    one.kind === 'crew.set' ? { ...one, was: crew.head.name } : withWasOf(crew, CREW_CHANGES, one, written);
  return body.kind === 'group' ? { ...body, changes: body.changes.map(seen) } : seen(body);
}

/** A change as the journal keeps it: without what can be erased. */
export function storedCrewBody(body: CrewChangeBody): unknown {
  const bare = (one: SingleCrewBody): unknown => {
    const target = CREW_CHANGES.targetOf(one.kind);
    const list = target && CREW.lists[target.table];
    const erasable: readonly string[] = list && 'erasable' in list ? list.erasable : [];
    if ('record' in one) return { ...one, record: without(one.record, erasable) };
    if (!('fields' in one)) return one;
    const fields = one.fields as Writings;
    return {
      ...one,
      fields: Object.fromEntries(
        Object.entries(fields).map(([field, writing]) => [field, erasable.includes(field) ? {} : writing]),
      ),
    };
  };
  return body.kind === 'group' ? { ...body, changes: body.changes.map(bare) } : bare(body);
}
