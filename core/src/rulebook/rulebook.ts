import type { Jurisdiction, SectionKey } from '../vocabulary/jurisdiction.js';
import type { RuleOverride } from '../vocabulary/rulebook-types.js';
import type { Problem } from '../vocabulary/problem.js';
import { jsonPath } from '../vocabulary/schema-problems.js';
import type { Rule, RuleValueType } from '../vocabulary/rule.js';
import type { HouseRulebook } from './jurisdictions.js';
import type { GoesBy } from './layered.js';
import { baseOf, editionBy, jurisdictionBy } from './layered.js';
import { holdsVolume, inCoreUnits, inUnitsOf } from './rule-units.js';

const BY_KEY = new WeakMap<Jurisdiction, ReadonlyMap<string, Rule>>();
function ruleOf(jurisdiction: Jurisdiction, key: string): Rule | undefined {
  let rules = BY_KEY.get(jurisdiction);
  if (!rules) BY_KEY.set(jurisdiction, (rules = new Map(jurisdiction.rules.map((rule) => [rule.key, rule]))));
  return rules.get(key);
}

/** A rule as it stands for one house: the edition's value, what the house made of it, and why. */
export interface StandingRule {
  readonly rule: Rule;
  readonly editionValue: RuleValueType;
  readonly value: RuleValueType;
  readonly override?: RuleOverride;
  /** The house's value is less strict than the edition's. */
  readonly loosened: boolean;
}

/** The values that hold for one house. Reading an unknown key is a mistake of the program and throws. */
export interface Rulebook {
  readonly base: HouseRulebook['base'];
  /** A code of the house's own, over that edition. */
  readonly code: HouseRulebook['code'];
  /** Whose rules and words they are. */
  readonly jurisdiction: Jurisdiction;
  readonly standing: readonly StandingRule[];
  /** Whether there is a value of this key: of a size, say, that another country sells. */
  has(key: string): boolean;
  /** In inches, feet, square feet, cubic inches, whatever unit the jurisdiction has it in. */
  number(key: string): number;
  /** Whether a box of a volume holds another volume, both in cubic inches, as exact as the jurisdiction publishes volumes. */
  holds(totalIn3: number, capacityIn3: number): boolean;
  text(key: string): string;
  flag(key: string): boolean;
  /** Codes of a value that is a list. */
  list(key: string): readonly string[];
  /** "NEC 2020, 314.16(B)(4)", or the provenance where there is no section. */
  cite(key: string): string;
  /** "NEC 300.3(B)": where a rule without a number of its own stands; with its edition, "NEC 2020 314.16(B)". */
  section(key: SectionKey, inEdition?: boolean): string;
}

const isByEdition = (value: Rule['value']): value is Exclude<Rule['value'], RuleValueType> =>
  typeof value === 'object' && !Array.isArray(value);

/** What kind of value it is, in words. */
const kindOf = (value: RuleValueType): string => (typeof value === 'object' ? 'list' : typeof value);

/** A value as it is shown: codes of a school by their texts. */
export function valueText(rule: Rule, value: RuleValueType): string {
  const codes = typeof value === 'object' ? value : [String(value)];
  return codes.map((code) => rule.options?.find((option) => option.code === code)?.text ?? code).join(', ');
}

export const editionValue = (rule: Rule, base: HouseRulebook['base']): RuleValueType =>
  isByEdition(rule.value) ? rule.value[base]! : rule.value;

function isLooser(rule: Rule, base: HouseRulebook['base'], value: RuleValueType): boolean {
  const own = editionValue(rule, base);
  if (typeof own === 'boolean' && typeof value === 'boolean')
    return rule.stricter !== undefined && own === (rule.stricter === 'higher') && value !== own;
  // A list asks for more where it names more.
  if (typeof own === 'object' && typeof value === 'object')
    return rule.stricter === 'higher' && own.some((code) => !value.includes(code));
  if (!rule.stricter || typeof own !== 'number' || typeof value !== 'number') return false;
  // "0 means all" is the loosest number of grounds that one allowance can cover.
  const rank = (n: number): number => (rule.key === 'fill.groundsCovered' && n === 0 ? Infinity : n);
  return rule.stricter === 'higher' ? rank(value) < rank(own) : rank(value) > rank(own);
}

/**
 * Why an override cannot stand: unknown key, wrong kind of value, or looser where only stricter is allowed. A loosening
 * without a reason may stand (the inspection reports it). Undefined when all is well.
 */
export function overrideProblem(
  by: GoesBy,
  key: string,
  override: RuleOverride,
): { code: string; message: string } | undefined {
  const rule = ruleOf(jurisdictionBy(by), key);
  if (!rule) return { code: 'rule.unknown', message: `The rulebook has no value "${key.slice(0, 60)}".` };
  const own = editionValue(rule, baseOf(by));
  const wrong = valueProblem(rule, own, override.value);
  if (wrong) return wrong;
  if (rule.adjust === 'stricter-only' && isLooser(rule, baseOf(by), override.value)) {
    return {
      code: 'rule.cannot-loosen',
      message: `${rule.title}: a house may only be stricter than ${String(own)} ${rule.unit ?? ''} (${rule.section ?? rule.provenance}).`,
    };
  }
  return undefined;
}

/** Why a value cannot be one of a rule: of another kind, out of range, none of its options; undefined when it can. */
export function valueProblem(
  rule: Rule,
  own: RuleValueType,
  value: RuleValueType,
): { code: string; message: string } | undefined {
  if (kindOf(own) !== kindOf(value))
    return { code: 'rule.wrong-kind', message: `${rule.title}: a ${kindOf(own)} is expected.` };
  if (typeof value === 'number' && !(value >= 0 && value <= 10_000))
    return { code: 'rule.out-of-range', message: `${rule.title}: the value must lie between 0 and 10,000.` };
  const codes = typeof value === 'object' ? value : [String(value)];
  if (rule.options && !codes.every((code) => rule.options!.some((option) => option.code === code)))
    return {
      code: 'rule.unknown-option',
      message: `${rule.title}: one of ${rule.options.map(({ code }) => code).join(', ')} is expected.`,
    };
  return undefined;
}

export const overrideProblems = (rulebook: HouseRulebook, root: string): Problem[] =>
  Object.entries(rulebook.overrides).flatMap(([key, override]) => {
    const problem = overrideProblem(rulebook, key, override);
    return problem ? [{ ...problem, path: jsonPath([key], root) }] : [];
  });

/**
 * A value that was set under one edition as it stands under another, in the units of that one; undefined where it has no such value, or
 * does not allow it.
 */
export function overrideIn(
  from: GoesBy,
  to: GoesBy,
  key: string,
  override: RuleOverride,
): RuleOverride | undefined {
  const [own, other] = [from, to].map((by) => ruleOf(jurisdictionBy(by), key));
  if (!own || !other) return undefined;
  const { value } = override;
  const moved = typeof value === 'number' ? { ...override, value: inUnitsOf(own, other, value) } : override;
  return overrideProblem(to, key, moved) ? undefined : moved;
}

const cache = new WeakMap<HouseRulebook, Rulebook>();

/** The standing rulebook of a house. One object per override set: asking twice gives the same one. */
export function rulebookFor(own: HouseRulebook): Rulebook {
  const known = cache.get(own);
  if (known) return known;
  const jurisdiction = jurisdictionBy(own);
  const standing = jurisdiction.rules.map((rule): StandingRule => {
    const edition = editionValue(rule, own.base);
    const override = Object.hasOwn(own.overrides, rule.key) ? own.overrides[rule.key] : undefined;
    return {
      rule,
      editionValue: edition,
      value: override?.value ?? edition,
      ...(override && { override }),
      loosened: override !== undefined && isLooser(rule, own.base, override.value),
    };
  });
  const byKey = new Map(standing.map((entry) => [entry.rule.key, entry]));
  const read = (key: string): StandingRule => {
    const entry = byKey.get(key);
    if (!entry) throw new Error(`the rulebook has no value ${key}`);
    return entry;
  };
  const rulebook: Rulebook = {
    base: own.base,
    code: own.code,
    jurisdiction,
    standing,
    has: (key) => byKey.has(key),
    number: (key) => {
      const { rule, value } = read(key);
      return inCoreUnits(rule, Number(value));
    },
    holds: (totalIn3, capacityIn3) => {
      const key = `fill.volume.${jurisdiction.sizes[0]}`;
      // Where no conductor has a volume by rule, nothing was rounded either.
      if (!byKey.has(key)) return totalIn3 <= capacityIn3 + 1e-9;
      const { rule, value } = read(key);
      return holdsVolume(
        { ...(rule.unit !== undefined && { unit: rule.unit }), value: Number(value) },
        totalIn3,
        capacityIn3,
      );
    },
    text: (key) => String(read(key).value),
    flag: (key) => read(key).value === true,
    list: (key) => {
      const { value } = read(key);
      return typeof value === 'object' ? value : [];
    },
    cite: (key) => {
      const { rule, override } = read(key);
      const source = rule.section ? `${rule.publication ?? editionBy(own)} ${rule.section}` : rule.provenance;
      return override ? `house value (${source})` : source;
    },
    section: (key, inEdition = false) => {
      const { section, publication } = jurisdiction.sections[key];
      const code = publication ?? (inEdition ? editionBy(own) : jurisdiction.code);
      return section ? `${code} ${section}` : code;
    },
  };
  cache.set(own, rulebook);
  return rulebook;
}
