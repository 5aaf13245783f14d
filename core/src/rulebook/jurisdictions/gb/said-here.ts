import type { Rule } from '../../../vocabulary/rule.js';

/** Words of another country in what is taken over from it, as they are said here. In this order: longer ones first. */
const WORDS: readonly (readonly [RegExp, string])[] = [
  [/duplex receptacle/gi, 'twin socket outlet'],
  [/receptacle/gi, 'socket outlet'],
  [/common disconnect/gi, 'linked switch'],
  [/GFCI/g, 'RCD'],
  [/AFCI/g, 'AFDD'],
  [/switch leg/gi, 'switched line'],
  [/traveler/gi, 'strapper'],
  [/home run/gi, 'board cable'],
  [/pigtail/gi, 'tail'],
  [/raceway/gi, 'conduit'],
  [/breaker/gi, 'MCB'],
  [/\bpanel(s?)\b/gi, 'consumer unit$1'],
  [/\bgrounds\b/gi, 'CPCs'],
  [/\bground\b/gi, 'CPC'],
  [/\bhot(s?)\b/gi, 'line$1'],
  [/\bstaple/gi, 'clip'],
  [/\battic/gi, 'loft'],
  [/crawl space/gi, 'space under the floor'],
  [/yoke/gi, 'plate'],
  [/\bcenter/gi, 'centre'],
  [/\bcolor/gi, 'colour'],
];

/** With the capital of what it stands for. */
const like = (word: string, other: string): string =>
  /^[A-Z][a-z]/.test(other) ? word.charAt(0).toUpperCase() + word.slice(1) : word;

/** A text of another country in the words of this one. */
export const saidHere = (text: string): string =>
  WORDS.reduce(
    (said, [there, here]) =>
      said.replace(there, (found, more: string | number) =>
        like(here.replace('$1', typeof more === 'string' ? more : ''), found),
      ),
    text,
  );

/** A rule in the words of this country. */
export const ruleSaidHere = (rule: Rule): Rule => ({
  ...rule,
  title: saidHere(rule.title),
  ...(rule.note && { note: saidHere(rule.note) }),
  ...(rule.unit && { unit: saidHere(rule.unit) }),
  ...(rule.options && { options: rule.options.map(({ code, text }) => ({ code, text: saidHere(text) })) }),
});
