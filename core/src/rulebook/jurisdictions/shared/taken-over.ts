import type { Jurisdiction } from '../../../vocabulary/jurisdiction.js';
import type { Rule } from '../../../vocabulary/rule.js';
import type { SaidHere } from '../../../vocabulary/said-in.js';
import { saidIn } from '../../../vocabulary/said-in.js';

const UNITS: Readonly<Record<string, readonly [unit: string, times: number, digits: number]>> = {
  in: ['mm', 25.4, 0],
  ft: ['m', 0.3048, 1],
  'ft²': ['m²', 0.3048 ** 2, 1],
  'in²': ['mm²', 25.4 ** 2, 1],
  'a foot': ['a meter', 1 / 0.3048, 2],
};

/** A practice that does not stop at the border, in the units of this side: as a crew would say it, not to the last digit. */
export function inMetric(rule: Rule): Rule {
  const [unit, times, digits] = UNITS[rule.unit ?? ''] ?? [];
  if (unit === undefined || times === undefined || typeof rule.value !== 'number') return rule;
  return { ...rule, unit, value: Number((rule.value * times).toFixed(digits)) };
}

/** Without the section of another country. */
const unpublished = ({ section: _section, publication: _publication, note: _note, ...rule }: Rule): Rule => ({
  ...rule,
  provenance: 'common practice',
  adjust: 'free',
});

/** A value by edition as the usual one of its own country has it. */
const settled = (rule: Rule, usual: string): Rule =>
  typeof rule.value === 'object' && !Array.isArray(rule.value)
    ? { ...rule, value: (rule.value as Readonly<Record<string, string | number>>)[usual]! }
    : rule;

/** A rule in the words of another country. */
export const ruleSaid = (words: SaidHere, rule: Rule): Rule => {
  const said = (text: string): string => saidIn(words, text);
  return {
    ...rule,
    title: said(rule.title),
    ...(rule.note && { note: said(rule.note) }),
    ...(rule.unit && { unit: said(rule.unit) }),
    ...(rule.options && { options: rule.options.map(({ code, text }) => ({ code, text: said(text) })) }),
  };
};

/** Of a rule what a country says otherwise. */
export type Own = Partial<
  Pick<
    Rule,
    'title' | 'section' | 'publication' | 'unit' | 'value' | 'note' | 'options' | 'provenance' | 'adjust'
  >
>;

export interface TakenOver {
  /** Rules that only the other country asks, or counts. */
  readonly isLeftOut: (key: string) => boolean;
  /** Published values that the two codes both have, with what this one says and where. */
  readonly published: Readonly<Record<string, Own>>;
  /** What is a habit here, whatever it is there. */
  readonly habits: Readonly<Record<string, Own>>;
  /** What is the same thing on both sides, so that its own note stays. */
  readonly note?: (key: string) => string | undefined;
}

/** The rules of another country as they hold in this one, in metric: what is published here, and habits that do not stop at the border. */
export function takenOver(from: Jurisdiction, { isLeftOut, published, habits, note }: TakenOver): Rule[] {
  return from.rules
    .filter(({ key }) => !isLeftOut(key))
    .map((rule): Rule => {
      const own = published[rule.key];
      if (own) {
        const { publication: _publication, ...rest } = rule;
        return { ...rest, ...own };
      }
      const plain = rule.section ? unpublished(settled(rule, from.usual)) : rule;
      const said = note?.(rule.key);
      return { ...inMetric(said === undefined ? plain : { ...plain, note: said }), ...habits[rule.key] };
    });
}
