import type * as z from 'zod';
import type { Problem } from './problem.js';

export const jsonPath = (path: readonly PropertyKey[], root = '$'): string =>
  path.reduce<string>(
    (text, key) =>
      typeof key === 'number'
        ? `${text}[${key}]`
        : /^[A-Za-z_$][\w$]*$/.test(String(key))
          ? `${text}.${String(key)}`
          : `${text}[${JSON.stringify(key)}]`,
    root,
  );

const shorten = (text: string): string => (text.length > 60 ? `${text.slice(0, 57)}…` : text);

type Issue = z.core.$ZodIssue;

/** Of a failed union, the branch that came closest: the one with the fewest issues about unknown or missing fields. */
function closest(branches: readonly (readonly Issue[])[]): readonly Issue[] {
  const score = (issues: readonly Issue[]): number =>
    issues.reduce(
      (sum, issue) => sum + (issue.code === 'unrecognized_keys' || issue.path.length === 0 ? 3 : 2),
      0,
    );
  return [...branches].sort((a, b) => score(a) - score(b))[0] ?? [];
}

/** Zod's issues as problems: one per unknown field, unions resolved to their nearest branch, sentences for people. */
export function problemsOf(
  issues: readonly Issue[],
  root = '$',
  under: readonly PropertyKey[] = [],
): Problem[] {
  return issues.flatMap((issue): Problem[] => {
    const path = [...under, ...issue.path];
    if (issue.code === 'unrecognized_keys') {
      return issue.keys.map((key) => ({
        code: 'file.unknown-field',
        message: `There is no field "${shorten(key)}" here.`,
        path: jsonPath([...path, key], root),
      }));
    }
    if (issue.code === 'invalid_union' && issue.errors.some((branch) => branch.length > 0)) {
      return problemsOf(closest(issue.errors), root, path);
    }
    return [{ code: 'file.invalid', message: sentence(issue), path: jsonPath(path, root) }];
  });
}

const TYPE_WORDS: Readonly<Record<string, string>> = {
  int: 'a whole number',
  number: 'a number',
  string: 'a text',
  boolean: 'true or false',
  array: 'a list',
  object: 'an object',
};
const typeWords = (type: string): string => TYPE_WORDS[type] ?? type;

function sentence(issue: Issue): string {
  switch (issue.code) {
    case 'invalid_type':
      return issue.input === undefined
        ? `This field is missing (${typeWords(issue.expected)} expected).`
        : `Expected here: ${typeWords(issue.expected)}.`;
    case 'too_big':
      return issue.origin === 'string'
        ? `This text is too long: at most ${issue.maximum} characters.`
        : issue.origin === 'array'
          ? `This list is too long: at most ${issue.maximum} entries.`
          : `This value is too large: at most ${issue.maximum}.`;
    case 'too_small':
      return issue.origin === 'string'
        ? 'This text is empty.'
        : `This value is too small: at least ${issue.minimum}${'inclusive' in issue && issue.inclusive === false ? ' (not included)' : ''}.`;
    case 'invalid_format':
      return issue.format === 'uuid'
        ? 'An id must be a UUID.'
        : issue.format === 'datetime'
          ? 'A time must be ISO 8601 with its offset, such as 2026-05-04T09:30:00Z.'
          : `This text is not allowed: it ${issue.message}.`;
    case 'invalid_value':
      return `One of these is expected: ${issue.values.map(String).join(', ')}.`;
    case 'custom':
      return `${issue.message.charAt(0).toUpperCase()}${issue.message.slice(1)}.`;
    default:
      return issue.message;
  }
}
