import type { Tongue } from '../language/language.js';
import { englishPhrases, englishTitles } from './phrases.js';

/** English with the words of the core itself, whatever the country: for files that other programs read. */
export const PLAIN: Tongue = {
  term: (word) => (word === 'ground terminal' ? 'ground' : word),
  phrases: englishPhrases((word) => word),
  titles: englishTitles((word) => word),
};
