import type { Term } from '../vocabulary/glossary.js';
import type { Terminal } from '../vocabulary/terminal.js';

const numbered = (words: string, number: number | undefined): string =>
  number ? `${words} ${number}` : words;

/**
 * A terminal in words: "supply", "traveler A 2", "line hot", "breaker 5, second pole". `breakerNumber` is the number written
 * beside a breaker that is told by its circuit, `term` what the house calls things.
 */
export function terminalText(
  terminal: Terminal,
  breakerNumber?: number,
  term: (word: Term) => string = (word) => word,
): string {
  switch (terminal.kind) {
    case 'leg':
      return numbered(term('leg'), terminal.lever);
    case 'supply':
    case 'common':
      return numbered(terminal.kind, terminal.lever);
    case 'traveler':
      return numbered(`${term('traveler')} ${terminal.side.toUpperCase()}`, terminal.lever);
    case 'pair':
      return numbered(`pair ${terminal.pair} ${terminal.side.toUpperCase()}`, terminal.lever);
    case 'hot':
      return terminal.pole
        ? `${term('hot')} B`
        : numbered(terminal.of ? `${terminal.of} ${term('hot')}` : term('hot'), terminal.part);
    case 'neutral':
      return numbered(terminal.of ? `${terminal.of} ${term('neutral')}` : term('neutral'), terminal.part);
    case 'box-ground':
      return `${term('ground')} screw of the box`;
    case 'capped':
      return 'capped, for a later device';
    case 'link':
      return 'link to the other splice';
    case 'ground-bar':
      return `${term('ground')} bar`;
    case 'neutral-bar':
      return `${term('neutral')} bar`;
    case 'lug':
      return `main lug ${terminal.pole}`;
    case 'breaker':
      return `${numbered(term('breaker'), breakerNumber ?? terminal.number)}${terminal.pole === 2 ? ', second pole' : ''}`;
    case 'breaker-neutral':
      return `${numbered(term('breaker'), breakerNumber ?? terminal.number)}, ${term('neutral')}`;
    case 'other':
      return terminal.text;
    case 'ground':
    case 'interconnect':
      return term(terminal.kind);
  }
}
