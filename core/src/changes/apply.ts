import type { AppliedTo, ChangeRules, Draft, HistoryOf, Refusal as RefusalIn } from '../documents/apply.js';
import { applyBodies, put, refuse, take } from '../documents/apply.js';
import { diffOf, touchedBetween } from '../documents/diff.js';
import type { House } from '../house/house.js';
import { mentionersOf, overrideField, recordOf, rowOf, withHead } from '../house/house.js';
import type { HouseFile } from '../house/house-file.js';
import { readHouseFile, writeHouseFile } from '../house/house-file.js';
import type { HouseHead, RecordOf, TableName } from '../house/model.js';
import type { TABLES } from '../house/model.js';
import { BURIED_POINT, TABLE_NAMES } from '../house/model.js';
import { codeProblems } from '../rulebook/code-problems.js';
import type { HouseRulebook } from '../rulebook/jurisdictions.js';
import type { OwnCode } from '../vocabulary/own-code.js';
import { overrideProblem } from '../rulebook/rulebook.js';
import { byNumber } from '../house/breaker-by-number.js';
import { sameJson } from '../structures/equal.js';
import type { ChangeBody, SingleChangeBody } from './change.js';
import { HOUSE_CHANGES } from './change.js';

/** Why a change of a house was not applied: nothing of it was. */
export type Refusal = RefusalIn<TableName>;
export type Applied = AppliedTo<typeof TABLES, HouseHead>;
/** Diffs of earlier changes, for `revert`; undefined when there was none of that id. */
export type History = HistoryOf<TableName>;
type HouseDraft = Draft<typeof TABLES, HouseHead>;

/** A buried point that was only where a cable ended loose goes with the end of that cable. */
function takeLooseEnd(draft: HouseDraft, run: RecordOf<'runs'>): void {
  for (const { boxId } of [run.from, run.to]) {
    const box = recordOf(draft.document, 'boxes', boxId);
    const isLeft = box?.catalogueId === BURIED_POINT && box.roomId === undefined;
    if (isLeft && TABLE_NAMES.every((table) => mentionersOf(draft.document, table, boxId).length === 0))
      take(draft, 'boxes', boxId);
  }
}

/**
 * Joints of a panel recorded by the number of a breaker are told by its circuit before the number changes: what was made
 * keeps its meaning.
 */
function tellBreakersByCircuit(draft: HouseDraft, { panelId }: RecordOf<'circuits'>): void {
  const row = rowOf(draft.document, 'boxes', panelId);
  if (
    !row?.record.asBuilt?.some(({ terminals }) =>
      terminals?.some(({ terminal }) => 'number' in terminal && terminal.number !== undefined),
    )
  )
    return;
  const circuits = [...mentionersOf(draft.document, 'circuits', panelId)]
    .map((id) => recordOf(draft.document, 'circuits', id)!)
    .filter((circuit) => circuit.panelId === panelId);
  const asBuilt = row.record.asBuilt.map((joint) => ({
    ...joint,
    ...(joint.terminals && {
      terminals: joint.terminals.map((to) => ({ ...to, terminal: byNumber(circuits, to.terminal) })),
    }),
  }));
  put(draft, 'boxes', { ...row.record, asBuilt }, row.at);
}

/** A rulebook with another code of its own over its edition, or with none. */
function withCode(rulebook: HouseRulebook, code: OwnCode | null | undefined): HouseRulebook {
  if (code === undefined) return rulebook;
  const { code: _code, ...plain } = rulebook;
  if (code === null) return plain;
  const [problem] = codeProblems(code, '$.code');
  if (problem) refuse(problem.code, problem.message, { path: problem.path });
  if (code.basedOn !== rulebook.base)
    refuse('jurisdiction.other-edition', 'This file goes by another edition than the house.', {
      path: '$.code.basedOn',
    });
  return { ...plain, code };
}

/** Changes of the house's head. */
function editHead(draft: HouseDraft, body: SingleChangeBody): boolean {
  switch (body.kind) {
    case 'house.set': {
      const { head } = draft.document;
      const { was } = body;
      if (body.name && was?.name && ![was.name, body.name].includes(head.name))
        draft.overwrote.push({ field: 'name' });
      if (body.base && was?.base && ![was.base, body.base].includes(head.rulebook.base))
        draft.overwrote.push({ field: 'base' });
      if (body.power && was?.power && ![was.power, body.power].includes(head.power ?? was.power))
        draft.overwrote.push({ field: 'power' });
      draft.document = withHead(draft.document, {
        ...head,
        name: body.name ?? head.name,
        ...(body.power && { power: body.power }),
        rulebook: withCode(body.base ? { ...head.rulebook, base: body.base } : head.rulebook, body.code),
      });
      for (const [key, override] of Object.entries(draft.document.head.rulebook.overrides)) {
        const problem = overrideProblem(draft.document.head.rulebook, key, override);
        if (problem) refuse(problem.code, problem.message, { path: '$.base' });
      }
      return true;
    }
    case 'rule.set': {
      const { head } = draft.document;
      const { [body.key]: now = null, ...others } = head.rulebook.overrides;
      if (body.was !== undefined && !sameJson(now, body.was) && !sameJson(now, body.override))
        draft.overwrote.push({ field: overrideField(body.key) });
      if (body.override) {
        const problem = overrideProblem(head.rulebook, body.key, body.override);
        if (problem) refuse(problem.code, problem.message, { path: '$.override.value' });
      }
      const overrides = body.override ? { ...others, [body.key]: body.override } : others;
      draft.document = withHead(draft.document, { ...head, rulebook: { ...head.rulebook, overrides } });
      return true;
    }
    default:
      return false;
  }
}

const RULES: ChangeRules<typeof TABLES, HouseHead> = {
  kinds: HOUSE_CHANGES,
  edit: (draft, body) => editHead(draft, body as SingleChangeBody),
  writing: (draft, table, record, fields) => {
    if (table === 'circuits' && 'number' in fields)
      tellBreakersByCircuit(draft, record as RecordOf<'circuits'>);
  },
  written: (draft, table, before) => {
    if (table === 'runs') takeLooseEnd(draft, before as RecordOf<'runs'>);
  },
  gone: (draft, taken) => {
    for (const { table, record } of taken)
      if (table === 'runs') takeLooseEnd(draft, record as RecordOf<'runs'>);
  },
  // A device's points and a box's bare devices are part of it.
  partOf: { devices: ['points'], boxes: ['devices', 'points'] },
};

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
    return { ok: true, document: house, diff: { head: {}, rows: [] }, overwrote: [] };
  const next = { ...read.house, nextAt: Math.max(house.nextAt, read.house.nextAt) };
  return { ok: true, document: next, diff: diffOf(house, next, touchedBetween(house, next)), overwrote: [] };
}

/**
 * Applies a change whole or not at all. Gives the new house and the difference by record and field, or the refusal with a
 * stable code and a sentence. The same function serves the screen, at once, and the server, for good.
 */
export const applyChange = (house: House, body: ChangeBody, history: History = () => undefined): Applied => {
  if (body.kind === 'house.replace') return replace(house, body.file);
  const { elsewhere } = house.head.rulebook;
  return elsewhere ? notHere(elsewhere.base) : applyBodies(house, body, RULES, history);
};

/** A house whose rules are not here can be read and exported; what would change it would be worked out by other rules. */
const notHere = (base: string): Applied => ({
  ok: false,
  refusal: {
    code: 'jurisdiction.not-here',
    message: `This house goes by rules that are not here (${base}): it can be read and exported, not changed.`,
    path: '$',
  },
});
