import type { TermOf } from '../language/language.js';

/** What a white that is marked is: "it is hot", "it is a traveler". */
export const markedWhite = (t: TermOf, role: string): string => {
  const named = { hot: t('hot'), traveler: `a ${t('traveler')}`, leg: `a ${t('switch leg')}` };
  return `it is ${named[role as keyof typeof named] ?? role}`;
};
