import { SPANISH_MESSAGES } from '../web/src/app/language/spanish/messages.js';
import { screenMessages, screenSources } from './screen-messages.js';

/** Sheets that Spanish is complete for: pulling, making up, what was found, and all that stands around them. */
const COMPLETE = /^(pull|make-up|check|parts|frame|state|sync|door)\//;

/** What is put into a message: "{}", "{1}", "<strong>". */
const putIn = (text: string): string[] => (text.match(/\{\d*\}|<\/?\w+>/g) ?? []).sort();

describe('Messages of the screens', () => {
  const all = screenMessages();
  const english = new Set([...all.values()].flat());

  it('are all in Spanish where a hand works', () => {
    const missing = [...all]
      .filter(([file]) => COMPLETE.test(file))
      .flatMap(([file, messages]) =>
        messages
          .filter(
            (one) =>
              /\p{L}/u.test(one.replace(/\{\d*\}|<\/?\w+>/g, '')) && !Object.hasOwn(SPANISH_MESSAGES, one),
          )
          .map((one) => `${file}: ${one}`),
      );
    expect(english.size).toBeGreaterThan(500);
    expect(missing).toEqual([]);
  });

  it('have no colon right behind what is put in: there it would begin a name for it, and the screen would break', () => {
    for (const [file, source] of screenSources())
      expect(source.match(/\$localize`[^`]*\$\{[^}`]*\}:/))
        .withContext(file)
        .toBeNull();
  });

  it('say in Spanish what stands in the templates, with all that is put in, and nothing that is gone', () => {
    for (const [message, spanish] of Object.entries(SPANISH_MESSAGES)) {
      expect(english.has(message)).withContext(message).toBeTrue();
      expect(putIn(spanish)).withContext(message).toEqual(putIn(message));
    }
  });
});
