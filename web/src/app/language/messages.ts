import type { Language } from '@mule-tally/core/work';
import { ɵmakeTemplateObject as makeTemplate, ɵparseMessage as parseMessage } from '@angular/localize';

/**
 * Sentences of the screens in another language, by the English that stands in the templates. What is put in stands as `{}`, `{1}`,
 * `{2}`; marked words as `<strong>…</strong>`, as they stand in the English.
 */
export type Messages = Readonly<Record<string, string>>;

/** A language of the screens: how the trade is told in it, and the sentences of the templates. */
export interface Spoken {
  readonly trade: Language;
  readonly messages: Messages;
}

/** How a placeholder of the compiler stands in a message: "{}", "{1}", "<strong>", "</strong>", "<br>". */
function tokenOf(name: string): string {
  const [, put, number = ''] = /^(INTERPOLATION|PH)(?:_(\d+))?$/.exec(name) ?? [];
  if (put) return `{${number}}`;
  const [, end, tag] = /^(START|CLOSE)_(?:TAG_)?(.+)$/.exec(name) ?? [];
  if (tag) return `<${end === 'CLOSE' ? '/' : ''}${tag.toLowerCase()}>`;
  return name === 'LINE_BREAK' ? '<br>' : `{${name}}`;
}

const oneLine = (text: string): string => text.replace(/\s+/g, ' ').trim();

/** A message as it is looked for: one line, its placeholders as tokens. */
export function keyOf(parts: readonly string[], names: readonly string[]): string {
  return oneLine(parts.reduce((text, part, at) => text + tokenOf(names[at - 1]!) + part));
}

/** Texts as the tag gets them; a colon at the beginning is no block of its own. */
const templateOf = (texts: readonly string[]): TemplateStringsArray =>
  makeTemplate(
    [...texts],
    texts.map((text) => (text.startsWith(':') ? `\\${text}` : text)),
  );

type Translated = [TemplateStringsArray, readonly unknown[]];
type Translate = (parts: TemplateStringsArray, values: readonly unknown[]) => Translated;

/** Takes every message of templates and of `$localize` to `messages`; what is not among them stays English. */
export const translating =
  (messages: Messages): Translate =>
  (parts, values) => {
    const { messageParts, placeholderNames, substitutions } = parseMessage(parts, values);
    const said = Object.hasOwn(messages, keyOf(messageParts, placeholderNames))
      ? messages[keyOf(messageParts, placeholderNames)]
      : undefined;
    if (said === undefined)
      return [templateOf(messageParts), placeholderNames.map((name) => substitutions[name])];
    const byToken = new Map(placeholderNames.map((name) => [tokenOf(name), substitutions[name]]));
    const texts: string[] = [''];
    const put: unknown[] = [];
    for (const piece of said.split(/(\{\w*\}|<\/?\w+>)/)) {
      if (byToken.has(piece)) {
        put.push(byToken.get(piece));
        texts.push('');
      } else texts[texts.length - 1] += piece;
    }
    return [templateOf(texts), put];
  };

/** Every message as it is, in ⟦ ⟧. */
export const marking: Translate = (parts, values) => {
  const { messageParts, placeholderNames, substitutions } = parseMessage(parts, values);
  const texts = [...messageParts];
  texts[0] = `⟦${texts[0]}`;
  texts[texts.length - 1] += '⟧';
  return [templateOf(texts), placeholderNames.map((name) => substitutions[name])];
};

type Look = (english: string) => string;
let look: Look = (english) => english;

/** The language that {@link worded} speaks from now on. */
export function wordWith(how: Look): void {
  look = how;
}

/** A sentence that is put together where it is shown: "Undo entry {}" with what is put in. */
export function worded(english: string, ...values: readonly unknown[]): string {
  return look(english).replace(/\{(\d*)\}/g, (_, number: string) =>
    String(values[Number(number || 0)] ?? ''),
  );
}
