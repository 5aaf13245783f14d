import { loadTranslations } from '@angular/localize';

/** Translations of a language by message, for words without trade; English stands in the templates. */
type Translations = Readonly<Record<string, string>>;

/** Where each language is: adding one is a file and a line. */
const LANGUAGES: Readonly<Record<string, () => Promise<Translations>>> = {};

/** The language of the person at this device: the one that was picked, else the browser's. */
const asked = (): string => localStorage.getItem('mule-tally.language') ?? navigator.language.slice(0, 2);

/** Loads the words of the person's language, before anything is drawn; without a file for it everything stays English. */
export async function speak(language = asked(), languages = LANGUAGES): Promise<void> {
  const load = Object.hasOwn(languages, language) ? languages[language] : undefined;
  if (!load) return;
  loadTranslations(await load());
  document.documentElement.lang = language;
}
