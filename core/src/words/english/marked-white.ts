import type { Marking } from '../../findings/facts.js';
import type { Say, TermOf } from '../language/language.js';
import { listed } from '../language/sentence.js';

/** What a conductor that is marked is: "it is hot", "it is a traveler". */
export const markedWhite = (t: TermOf, role: string): string => {
  const named = {
    hot: t('hot'),
    neutral: t('neutral'),
    traveler: `a ${t('traveler')}`,
    leg: `a ${t('switch leg')}`,
    common: 'the link of the commons',
  };
  return `it is ${named[role as keyof typeof named] ?? role}`;
};

/** "Mark the white all round with black or red tape" */
export const markWith = (say: Say, { colours, with: others }: Marking, where = ''): string =>
  `Mark the ${listed(colours.map(say.colour))}${where} all round with ${listed(others.map(say.colour), ' or ')} ${say.term('tape')}`;
