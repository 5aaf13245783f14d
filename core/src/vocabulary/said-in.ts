/** Words of the trade of the United States, in which texts are first written, and what stands for each elsewhere: longer ones first. */
export type SaidHere = readonly (readonly [RegExp, string])[];

/** With the capital of what it stands for. */
const like = (word: string, other: string): string =>
  /^[A-Z][a-z]/.test(other) ? word.charAt(0).toUpperCase() + word.slice(1) : word;

/** A text in the trade words of a country. */
export const saidIn = (words: SaidHere, text: string): string =>
  words.reduce(
    (said, [there, here]) =>
      said.replace(there, (found, more: string | number) =>
        like(here.replace('$1', typeof more === 'string' ? more : ''), found),
      ),
    text,
  );
