import type { Jurisdiction } from '../vocabulary/jurisdiction.js';
import type { OwnCode, OwnRule } from '../vocabulary/own-code.js';
import type { Rule, RuleValueType } from '../vocabulary/rule.js';
import type { HouseRulebook } from './jurisdictions.js';
import { JURISDICTIONS, editionName, jurisdictionOf } from './jurisdictions.js';

/** What a house goes by: an edition, and a code of its own over it where it has one. */
export type GoesBy = HouseRulebook['base'] | Pick<HouseRulebook, 'base' | 'code'>;

/** A rule by its key, of this country or else of the first that has it: what a code of one's own may set. */
export const knownRule = (base: Jurisdiction, key: string): Rule | undefined =>
  [base, ...JURISDICTIONS].flatMap(({ rules }) => rules.find((rule) => rule.key === key) ?? [])[0];

/** The value of a rule of a code: its own, or that of the one it is the same as; undefined where that leads nowhere or round. */
export function valueIn(code: OwnCode, rule: OwnRule): RuleValueType | undefined {
  const seen = new Set<string>();
  for (let at: OwnRule | undefined = rule; at;) {
    if (at.sameAs === undefined) return at.value;
    if (seen.has(at.key)) return undefined;
    seen.add(at.key);
    const { sameAs }: OwnRule = at;
    at = code.rules.find(({ key }) => key === sameAs);
  }
  return undefined;
}

function ruleOf(code: OwnCode, rule: Rule, own: OwnRule): Rule {
  const { section: _section, publication: _publication, note: _note, ...rest } = rule;
  return {
    ...rest,
    value: valueIn(code, own)!,
    ...(own.unit !== undefined && { unit: own.unit }),
    provenance: own.provenance,
    adjust: own.provenance === 'published, from memory' ? 'amendable' : 'free',
    ...(own.section !== undefined && { section: own.section }),
    ...(own.publication !== undefined && { publication: own.publication }),
    ...(own.note !== undefined && { note: own.note }),
  };
}

const LAYERED = new WeakMap<OwnCode, Jurisdiction>();

/** The jurisdiction of a code of one's own: that of its edition, with the values that it sets and the methods that it chooses. */
function layered(code: OwnCode): Jurisdiction {
  const known = LAYERED.get(code);
  if (known) return known;
  const base = jurisdictionOf(code.basedOn);
  const own = new Map(code.rules.map((rule) => [rule.key, rule]));
  const coloured = JURISDICTIONS.find(({ id }) => id === code.colours);
  const rules = [
    ...base.rules.map((rule) => (own.has(rule.key) ? ruleOf(code, rule, own.get(rule.key)!) : rule)),
    ...code.rules.flatMap((one) => {
      const isNew = !base.rules.some(({ key }) => key === one.key);
      const rule = isNew ? knownRule(base, one.key) : undefined;
      return rule ? [ruleOf(code, rule, one)] : [];
    }),
  ].map((rule) =>
    rule.key === 'neutral.atSwitch' && code.neutralAtSwitches !== undefined
      ? { ...rule, value: code.neutralAtSwitches }
      : rule,
  );
  const [first, ...others] = code.sizes;
  const made: Jurisdiction = {
    ...base,
    name: code.name,
    code: code.code,
    rules,
    ...(first !== undefined && { sizes: [first, ...others] }),
    ...(code.fillMethod && { fillMethod: code.fillMethod }),
    ...(coloured && { colours: coloured.colours, cables: coloured.cables }),
  };
  LAYERED.set(code, made);
  return made;
}

/** Whose rules a house goes by. */
export const jurisdictionBy = (by: GoesBy): Jurisdiction =>
  typeof by === 'string' ? jurisdictionOf(by) : by.code ? layered(by.code) : jurisdictionOf(by.base);
/** "NEC 2020", or the edition of a code of one's own. */
export const editionBy = (by: GoesBy): string =>
  typeof by === 'string' ? editionName(by) : (by.code?.edition ?? editionName(by.base));
/** The edition by which values that differ from edition to edition stand. */
export const baseOf = (by: GoesBy): HouseRulebook['base'] => (typeof by === 'string' ? by : by.base);
