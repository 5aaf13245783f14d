import type { Language } from '../language/language.js';
import { ENGLISH_FINDINGS } from './finding-words.js';
import { ENGLISH_FIXES } from './fix-words.js';
import { causeWords } from './cause-words.js';
import { englishCaution, englishMakeUp } from './make-up.js';
import { englishPhrases, englishTitles } from './phrases.js';

/** American jobsite English; the trade words are those of the country. */
export const ENGLISH: Language = {
  code: 'en',
  glossary: (own) => own,
  told: (text) => text,
  phrases: englishPhrases,
  titles: englishTitles,
  findings: ENGLISH_FINDINGS,
  lookAt: (conductor) => `Look at ${conductor}. `,
  fixes: ENGLISH_FIXES,
  makeUp: englishMakeUp,
  caution: englishCaution,
  causes: causeWords,
};
