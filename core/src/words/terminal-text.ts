import type { Terminal } from '../vocabulary/terminal.js';

const numbered = (words: string, number: number | undefined): string =>
  number ? `${words} ${number}` : words;

/**
 * A terminal in words: "supply", "traveler A 2", "line hot", "breaker 5, second pole". `breakerNumber` is the number written
 * beside a breaker that is told by its circuit.
 */
export function terminalText(terminal: Terminal, breakerNumber?: number): string {
  switch (terminal.kind) {
    case 'supply':
    case 'leg':
    case 'common':
      return numbered(terminal.kind, terminal.lever);
    case 'traveler':
      return numbered(`traveler ${terminal.side.toUpperCase()}`, terminal.lever);
    case 'pair':
      return numbered(`pair ${terminal.pair} ${terminal.side.toUpperCase()}`, terminal.lever);
    case 'hot':
      return terminal.pole ? 'hot B' : numbered(terminal.of ? `${terminal.of} hot` : 'hot', terminal.part);
    case 'neutral':
      return numbered(terminal.of ? `${terminal.of} neutral` : 'neutral', terminal.part);
    case 'box-ground':
      return 'ground screw of the box';
    case 'capped':
      return 'capped, for a later device';
    case 'link':
      return 'link to the other splice';
    case 'ground-bar':
      return 'ground bar';
    case 'neutral-bar':
      return 'neutral bar';
    case 'lug':
      return `main lug ${terminal.pole}`;
    case 'breaker':
      return `${numbered('breaker', breakerNumber ?? terminal.number)}${terminal.pole === 2 ? ', second pole' : ''}`;
    case 'breaker-neutral':
      return `${numbered('breaker', breakerNumber ?? terminal.number)}, neutral`;
    case 'other':
      return terminal.text;
    default:
      return terminal.kind;
  }
}
