import type { Terminal } from '../vocabulary/terminal.js';
import { PLAIN } from './english/plain.js';
import type { Tongue } from './language/language.js';

const numbered = (words: string, number: number | undefined): string =>
  number ? `${words} ${number}` : words;

/**
 * A terminal in words: "supply", "traveler A 2", "line hot", "breaker 5, second pole". `breakerNumber` is the number written
 * beside a breaker that is told by its circuit, `tongue` what the house and the person call things.
 */
export function terminalText(
  terminal: Terminal,
  breakerNumber?: number,
  { term, phrases, mark }: Tongue = PLAIN,
): string {
  const marked = mark?.(terminal);
  if (marked !== undefined) return marked;
  switch (terminal.kind) {
    case 'leg':
      return numbered(term('leg'), terminal.lever);
    case 'supply':
    case 'common':
      return numbered(phrases[terminal.kind], terminal.lever);
    case 'traveler':
      return numbered(phrases.traveler(terminal.side), terminal.lever);
    case 'pair':
      return numbered(phrases.pair(terminal.pair, terminal.side), terminal.lever);
    case 'hot':
    case 'neutral': {
      if ('pole' in terminal && terminal.pole) return phrases.hotB;
      const word = term(terminal.kind);
      return numbered(terminal.of ? phrases.onSide(terminal.of, word) : word, terminal.part);
    }
    case 'box-ground':
      return phrases.boxGround;
    case 'capped':
      return phrases.capped;
    case 'link':
      return phrases.link;
    case 'ground-bar':
      return phrases.groundBar;
    case 'neutral-bar':
      return phrases.neutralBar;
    case 'lug':
      return phrases.lug(terminal.pole);
    case 'breaker':
      return `${numbered(term('breaker'), breakerNumber ?? terminal.number)}${terminal.pole === 2 ? `, ${phrases.secondPole}` : ''}`;
    case 'breaker-neutral':
      return `${numbered(term('breaker'), breakerNumber ?? terminal.number)}, ${term('neutral')}`;
    case 'other':
      return terminal.text;
    case 'ground':
      return term('ground terminal');
    case 'interconnect':
      return term(terminal.kind);
  }
}
