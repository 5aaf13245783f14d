import type { FillMethod } from '../vocabulary/jurisdiction.js';
import type { OwnCode, OwnRule } from '../vocabulary/own-code.js';
import type { Problem } from '../vocabulary/problem.js';
import type { Rule } from '../vocabulary/rule.js';
import { JURISDICTIONS, isEdition, jurisdictionOf } from './jurisdictions.js';
import { knownRule, valueIn } from './layered.js';
import { coreUnit } from './rule-units.js';
import { editionValue, valueProblem } from './rulebook.js';

/** Values without which a method cannot count. */
const NEEDS: Readonly<Record<FillMethod, readonly string[]>> = {
  'volume-allowances': ['fill.clamps', 'fill.yoke', 'fill.grounds'],
  'conductor-count': ['fill.connectorPair', 'fill.shallowDevice', 'fill.deepDevice'],
  'free-volume': ['fill.room', 'fill.connector'],
};

/** What is wrong with a code that somebody wrote down: nothing of it is taken until all is well. */
export function codeProblems(code: OwnCode, root = '$'): Problem[] {
  const problems: Problem[] = [];
  const say = (what: string, message: string, path: string): void => {
    problems.push({ code: `jurisdiction.${what}`, message, path: `${root}.${path}` });
  };
  if (!isEdition(code.basedOn)) {
    say('unknown-edition', `This file goes by an edition that is not here (${code.basedOn}).`, 'basedOn');
    return problems;
  }
  const base = jurisdictionOf(code.basedOn);
  if (code.colours !== undefined && !JURISDICTIONS.some(({ id }) => id === code.colours))
    say('unknown-colours', `No country "${code.colours}" is here whose colors it could have.`, 'colours');
  const has = (key: string): boolean =>
    base.rules.some((rule) => rule.key === key) || code.rules.some((rule) => rule.key === key);
  if (code.sizes.length === 0)
    say('no-sizes', 'A code says which sizes circuits are wired with: none is named.', 'sizes');
  code.sizes.forEach((size, at) => {
    if (!has(`wire.maxBreaker.${size}`))
      say(
        'size-without-breaker',
        `The file names the size ${size}, and not the largest breaker on it (wire.maxBreaker.${size}).`,
        `sizes[${at}]`,
      );
  });
  for (const key of NEEDS[code.fillMethod ?? base.fillMethod])
    if (!has(key))
      say(
        'method-without-values',
        `The fill of boxes cannot be counted so without a value for ${key}.`,
        'fillMethod',
      );
  const seen = new Set<string>();
  code.rules.forEach((rule, at) => {
    const path = `rules[${at}]`;
    if (seen.has(rule.key)) say('rule-twice', `The value ${rule.key} stands there twice.`, path);
    seen.add(rule.key);
    const known = knownRule(base, rule.key);
    if (!known) return say('unknown-rule', `The rulebook has no value "${rule.key}".`, `${path}.key`);
    sourceProblem(rule, (what, message) => say(what, message, path));
    if (rule.unit !== undefined && coreUnit(rule as Pick<Rule, 'unit'>) !== coreUnit(known))
      say(
        'wrong-unit',
        `${known.title}: a value in ${known.unit ?? 'no unit'} is expected, not in ${rule.unit}.`,
        `${path}.unit`,
      );
    const value = valueIn(code, rule);
    if (value === undefined) {
      const isLost = rule.sameAs !== undefined && !code.rules.some(({ key }) => key === rule.sameAs);
      if (rule.sameAs === undefined) say('no-value', `${known.title}: no value is given.`, path);
      else if (isLost)
        say(
          'unknown-reference',
          `${known.title} is the same as ${rule.sameAs}, which the file does not have.`,
          path,
        );
      else say('reference-loop', `${known.title}: what it is the same as leads back to itself.`, path);
      return;
    }
    const wrong = valueProblem(known, editionValue(known, code.basedOn) ?? value, value);
    if (wrong) say(wrong.code.replace('rule.', 'value-'), wrong.message, path);
  });
  return problems;
}

/** A section is of something published; what is published says where it stands. */
function sourceProblem(rule: OwnRule, say: (what: string, message: string) => void): void {
  const isPublished = rule.provenance === 'published, from memory';
  if (rule.section !== undefined && !isPublished)
    say('section-without-provenance', `${rule.key} names a section and is not said to be published.`);
  if (rule.section === undefined && isPublished)
    say('published-without-section', `${rule.key} is said to be published: where?`);
}
