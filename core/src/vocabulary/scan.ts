import { LIMITS } from './limits.js';
import type { Problem } from './problem.js';
import { jsonPath } from './schema-problems.js';

const FORBIDDEN = new Set(['__proto__', 'constructor', 'prototype']);
/** Control characters but for tabs and line ends, and halves of characters: neither paper nor the database can hold them. */
const UNWRITABLE = /(?![\t\n\r])\p{Cc}|\p{Cs}/u;

interface Open {
  readonly value: object;
  readonly path: readonly PropertyKey[];
}

/**
 * What is wrong with data from elsewhere before any schema looks at it: nested without end, keys that reach into JavaScript's
 * prototypes, text that cannot be written down, lists and objects beyond all measure. It never recurses, and stops at the
 * hundredth problem. `longLists` are names of lists near the top that may have as many entries as a house has records.
 */
export function scan(input: unknown, longLists: ReadonlySet<string> = new Set(), root = '$'): Problem[] {
  const problems: Problem[] = [];
  const add = (code: string, message: string, path: readonly PropertyKey[]): void => {
    problems.push({ code: `file.${code}`, message, path: jsonPath(path, root) });
  };
  const text = (value: string, path: readonly PropertyKey[]): void => {
    if (value.length > LIMITS.text)
      add('text-too-long', `This text is too long: at most ${LIMITS.text} characters.`, path);
    else if (UNWRITABLE.test(value))
      add('bad-text', 'This text has control characters or broken Unicode.', path);
  };
  const open: Open[] = [];
  const look = (value: unknown, path: readonly PropertyKey[]): void => {
    if (typeof value === 'string') text(value, path);
    else if (typeof value === 'object' && value !== null) open.push({ value, path });
  };
  look(input, []);
  for (let at = open.pop(); at && problems.length < LIMITS.problems; at = open.pop()) {
    const { value, path } = at;
    if (path.length > LIMITS.depth) {
      add('too-deep', `This is nested deeper than ${LIMITS.depth} levels.`, path);
      continue;
    }
    if (Array.isArray(value)) {
      const most = path.length <= 3 && longLists.has(String(path.at(-1))) ? LIMITS.records : LIMITS.group;
      if (value.length > most) add('list-too-long', `This list is too long: at most ${most} entries.`, path);
      else for (let index = value.length - 1; index >= 0; index--) look(value[index], [...path, index]);
      continue;
    }
    const keys = Object.getOwnPropertyNames(value);
    if (keys.length > LIMITS.fields) {
      add('too-many-fields', `This has too many fields: at most ${LIMITS.fields}.`, path);
      continue;
    }
    for (const key of keys.reverse()) {
      const own = [...path, key];
      if (FORBIDDEN.has(key)) add('forbidden-key', `The field name "${key}" is not allowed.`, own);
      else if (key.length > 200 || UNWRITABLE.test(key))
        add('bad-text', 'The name of this field cannot be written.', path);
      else look((value as Record<string, unknown>)[key], own);
    }
  }
  return problems.slice(0, LIMITS.problems);
}
