import type { HouseReader } from '../derive/reader.js';
import type { Landing } from '../vocabulary/terminal.js';
import { circuitOfTerminal } from '../vocabulary/terminal.js';
import { PLAIN } from './english/plain.js';
import type { Tongue } from './language/language.js';
import { terminalText } from './terminal-text.js';

/** "breaker 5, neutral", "link to the other splice", or the name of the terminal itself. */
export function landingText(reader: HouseReader, { terminal }: Landing, tongue: Tongue = PLAIN): string {
  const circuitId = circuitOfTerminal(terminal);
  const number = circuitId ? reader.get('circuits', circuitId)?.number : undefined;
  return terminalText(terminal, number, tongue);
}
