import type { Rule, RuleOption } from '../../../vocabulary/rule.js';

/** A value of common practice, which has no source and which a house sets as it likes; with its note, or with what else it has. */
export const practice = (
  key: string,
  title: string,
  unit: string,
  value: number,
  more: string | Partial<Rule> = {},
): Rule => ({
  key,
  title,
  unit,
  value,
  provenance: 'common practice',
  adjust: 'free',
  ...(typeof more === 'string' ? { note: more } : more),
});

/** Choices of a rule by code and text; texts that say themselves are their own code. */
export const optionsOf = (options: Readonly<Record<string, string>> | readonly string[]): RuleOption[] =>
  (Array.isArray(options) ? options.map((code: string) => [code, code]) : Object.entries(options)).map(
    ([code, text]) => ({ code, text }) as RuleOption,
  );

/** A way in which crews differ: a house chooses. */
export const school = (
  key: string,
  title: string,
  value: string | boolean,
  options?: Readonly<Record<string, string>> | readonly string[],
  note?: string,
): Rule => ({
  key,
  title,
  value,
  provenance: 'school',
  adjust: 'free',
  ...(options && { options: optionsOf(options) }),
  ...(note && { note }),
});
