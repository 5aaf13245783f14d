import type { HouseReader } from '../derive/reader.js';
import type { Finding } from '../findings/finding.js';
import { makeUpBox } from '../makeup/make-up-box.js';
import type { SaidMakeUp } from '../words/make-up-words.js';
import type { Sentence } from '../words/language/sentence.js';
import { wordsOf } from '../words/words.js';

/** Sentences as text, so that a spec can say what it expects. */
type Plain<T> = T extends Sentence
  ? string
  : T extends readonly (infer Item)[]
    ? readonly Plain<Item>[]
    : T extends object
      ? { readonly [Key in keyof T]: Plain<T[Key]> }
      : T;

/** The make-up of a box as a hand reads it. */
export const saidBox = (reader: HouseReader, boxId: string): Plain<SaidMakeUp> =>
  wordsOf(reader).makeUp(makeUpBox(reader, boxId)) as Plain<SaidMakeUp>;

/** A finding as a person reads it. */
export function said(
  reader: HouseReader,
  finding: Finding,
): { message: string; labels: string[]; measured?: string; allowed?: string; source?: string } {
  const words = wordsOf(reader);
  return {
    message: words.finding(finding),
    labels: (finding.fixes ?? []).map((fix) => words.fix(fix)),
    ...(finding.measured && { measured: words.measure(finding.measured) }),
    ...(finding.allowed && { allowed: words.measure(finding.allowed) }),
    ...(finding.source && { source: words.source(finding.source) }),
  };
}
