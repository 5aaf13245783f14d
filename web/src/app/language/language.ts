import type { Language } from '@mule-tally/core/work';
import { Member } from '@mule-tally/core';
import { ENGLISH, bracketed } from '@mule-tally/core/work';
import type { Spoken } from './messages';
import { marking, translating, wordWith } from './messages';

/** Where each language is: adding one is a folder and a line. English stands in the templates. */
const LANGUAGES: Readonly<Record<string, () => Promise<Spoken>>> = {
  es: () => import('./spanish/spanish').then(({ SPANISH_SPOKEN }) => SPANISH_SPOKEN),
};

/** Every sentence in ⟦ ⟧, so that what was never asked of a language is seen. */
const MARKED = 'marked';

function ofPerson(): string | undefined {
  try {
    return Member.parse(JSON.parse(localStorage.getItem('mule-tally.person') ?? '')).language;
  } catch {
    return undefined;
  }
}

/** The language of the person at this device: what they chose, else what was picked here, else the browser's. */
export const asked = (): string =>
  ofPerson() ?? localStorage.getItem('mule-tally.language') ?? navigator.language.slice(0, 2);

/**
 * Loads the words of the person's language, before anything is drawn, and gives how it tells the trade. Without a folder for
 * it, or where it cannot be fetched, everything stays English.
 */
export async function speak(language = asked(), languages = LANGUAGES): Promise<Language> {
  if (language === MARKED) {
    $localize.translate = marking;
    wordWith((english) => `⟦${english}⟧`);
    return bracketed(ENGLISH);
  }
  const load = Object.hasOwn(languages, language) ? languages[language] : undefined;
  // Where its words cannot be had, English is better than nothing.
  const spoken = await load?.().catch(() => undefined);
  if (!spoken) return ENGLISH;
  const { trade, messages } = spoken;
  $localize.translate = translating(messages);
  wordWith((english) => (Object.hasOwn(messages, english) ? messages[english]! : english));
  document.documentElement.lang = language;
  return trade;
}
