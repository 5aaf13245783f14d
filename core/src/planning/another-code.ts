import type { ChangeBody, SingleChangeBody } from '../changes/change.js';
import type { HouseReader } from '../derive/reader.js';
import { cableIn } from '../facts/box-facts.js';
import { builtInBox } from '../rulebook/catalogue.js';
import type { CableId } from '../rulebook/cables.js';
import type { RulebookBase } from '../rulebook/jurisdictions.js';
import { jurisdictionBy } from '../rulebook/layered.js';
import type { OwnCode } from '../vocabulary/own-code.js';
import { overrideIn } from '../rulebook/rulebook.js';

/** What a house cannot take along to the code of another country, or keeps though nobody sells it there. */
export interface Unkept {
  /** Titles of values of the house that the other code does not have, or does not allow. */
  readonly rules: readonly string[];
  /** Cables that are planned or in and are not sold there, with how many runs have them: they stay as they are. */
  readonly cables: readonly { readonly cable: CableId; readonly runs: number }[];
  /** Models of boxes that its catalogue does not have, by name, with how many there are: they stay as they are. */
  readonly boxes: readonly { readonly name: string; readonly boxes: number }[];
}

const counted = <K>(keys: Iterable<K>): Map<K, number> => {
  const counts = new Map<K, number>();
  for (const key of keys) counts.set(key, (counts.get(key) ?? 0) + 1);
  return counts;
};

/**
 * The change by which a house goes by another edition, or by a code of somebody's own over it, its own values in the units of that one; and
 * what it loses by it.
 */
export function toAnotherCode(
  reader: HouseReader,
  base: RulebookBase,
  code?: OwnCode,
): { readonly change: ChangeBody; readonly unkept: Unkept } {
  const rules = reader.rules();
  const by = code ? { base, code } : base;
  const from = rules.code ? { base: rules.base, code: rules.code } : rules.base;
  const there = jurisdictionBy(by);
  const set: SingleChangeBody = {
    kind: 'house.set',
    base,
    ...(code ? { code } : rules.code && { code: null }),
  };
  if (there === rules.jurisdiction) return { change: set, unkept: { rules: [], cables: [], boxes: [] } };
  const own = rules.standing.flatMap(({ rule, override }) => (override ? [{ rule, override }] : []));
  const moved = own.map(({ rule, override }) => ({
    rule,
    override: overrideIn(from, by, rule.key, override),
  }));
  const changes: SingleChangeBody[] = [
    ...own.map(({ rule }): SingleChangeBody => ({ kind: 'rule.set', key: rule.key, override: null })),
    set,
    ...moved.flatMap(({ rule, override }): SingleChangeBody[] =>
      override ? [{ kind: 'rule.set', key: rule.key, override }] : [],
    ),
  ];
  const sold = new Set(there.cables.map(({ id }) => id));
  const models = new Set(there.boxes.map(({ id }) => id));
  const cables = counted(
    reader.all('runs').flatMap((run) => {
      const cable = cableIn(reader, run);
      return cable !== undefined && !sold.has(cable) ? [cable] : [];
    }),
  );
  const boxes = counted(
    reader.all('boxes').flatMap(({ catalogueId }) => {
      const type = catalogueId === undefined ? undefined : builtInBox(catalogueId);
      return type && !models.has(type.id) ? [type.name] : [];
    }),
  );
  return {
    change: { kind: 'group', changes },
    unkept: {
      rules: moved.flatMap(({ rule, override }) => (override ? [] : [rule.title])),
      cables: [...cables].map(([cable, runs]) => ({ cable, runs })),
      boxes: [...boxes].map(([name, number]) => ({ name, boxes: number })),
    },
  };
}
