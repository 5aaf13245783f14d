import type { HouseReader } from '../derive/reader.js';
import type { Landing } from '../vocabulary/terminal.js';
import { circuitOfTerminal } from '../vocabulary/terminal.js';
import { terminalText } from './terminal-text.js';

/** "breaker 5, neutral", "link to the other splice", or the name of the terminal itself. */
export function landingText(reader: HouseReader, { terminal }: Landing): string {
  const circuitId = circuitOfTerminal(terminal);
  return terminalText(terminal, circuitId ? reader.get('circuits', circuitId)?.number : undefined);
}
