declare const written: unique symbol;

/** A sentence for a person. Only this room writes them; nothing else of the core reads or keeps one. */
export type Sentence = string & { readonly [written]: true };

/** What was written here as a sentence, its first letter large. */
export const sentence = (text: string): Sentence =>
  `${text.charAt(0).toUpperCase()}${text.slice(1)}` as Sentence;

/** "a, b and c" */
export function listed(words: readonly string[], last = ' and '): string {
  return words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')}${last}${words.at(-1)}`;
}

/** "1 gang", "2 gangs": the word for one, and for more where it is not that with an s. */
export const counted = (count: number, one: string, more = `${one}s`): string =>
  `${count} ${count === 1 ? one : more}`;
