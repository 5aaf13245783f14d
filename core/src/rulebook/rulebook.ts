import type { HouseRulebook, RuleOverride } from '../vocabulary/rulebook-types.js';
import type * as z from 'zod';
import type { Problem } from '../vocabulary/problem.js';
import { jsonPath } from '../vocabulary/schema-problems.js';
import type { Rule, RuleValueType } from './rule.js';
import { RULES } from './rules.js';

type HouseRulebook = z.infer<typeof HouseRulebook>;

const BY_KEY = new Map(RULES.map((rule) => [rule.key, rule]));

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
  readonly standing: readonly StandingRule[];
  number(key: string): number;
  text(key: string): string;
  flag(key: string): boolean;
  /** "NEC 2020, 314.16(B)(4)", or the provenance where there is no section. */
  cite(key: string): string;
}

export const editionValue = (rule: Rule, base: HouseRulebook['base']): RuleValueType =>
  typeof rule.value === 'object' ? rule.value[base] : rule.value;

function isLooser(rule: Rule, base: HouseRulebook['base'], value: RuleValueType): boolean {
  const own = editionValue(rule, base);
  if (typeof own === 'boolean' && typeof value === 'boolean')
    return rule.stricter !== undefined && own === (rule.stricter === 'higher') && value !== own;
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
  base: HouseRulebook['base'],
  key: string,
  override: RuleOverride,
): { code: string; message: string } | undefined {
  const rule = BY_KEY.get(key);
  if (!rule) return { code: 'rule.unknown', message: `The rulebook has no value "${key.slice(0, 60)}".` };
  const own = editionValue(rule, base);
  if (typeof own !== typeof override.value) {
    return { code: 'rule.wrong-kind', message: `${rule.title}: a ${typeof own} is expected.` };
  }
  if (typeof override.value === 'number' && !(override.value >= 0 && override.value <= 10_000)) {
    return { code: 'rule.out-of-range', message: `${rule.title}: the value must lie between 0 and 10,000.` };
  }
  if (rule.options && !rule.options.includes(String(override.value))) {
    return {
      code: 'rule.unknown-option',
      message: `${rule.title}: one of ${rule.options.join(', ')} is expected.`,
    };
  }
  if (rule.adjust === 'stricter-only' && isLooser(rule, base, override.value)) {
    return {
      code: 'rule.cannot-loosen',
      message: `${rule.title}: a house may only be stricter than ${String(own)} ${rule.unit ?? ''} (${rule.section ?? rule.provenance}).`,
    };
  }
  return undefined;
}

export const overrideProblems = (rulebook: HouseRulebook, root: string): Problem[] =>
  Object.entries(rulebook.overrides).flatMap(([key, override]) => {
    const problem = overrideProblem(rulebook.base, key, override);
    return problem ? [{ ...problem, path: jsonPath([key], root) }] : [];
  });

const cache = new WeakMap<HouseRulebook, Rulebook>();

/** The standing rulebook of a house. One object per override set: asking twice gives the same one. */
export function rulebookFor(own: HouseRulebook): Rulebook {
  const known = cache.get(own);
  if (known) return known;
  const standing = RULES.map((rule): StandingRule => {
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
    standing,
    number: (key) => Number(read(key).value),
    text: (key) => String(read(key).value),
    flag: (key) => read(key).value === true,
    cite: (key) => {
      const { rule, override } = read(key);
      const source = rule.section ? `NEC ${own.base.slice(3)} ${rule.section}` : rule.provenance;
      return override ? `house value (${source})` : source;
    },
  };
  cache.set(own, rulebook);
  return rulebook;
}
