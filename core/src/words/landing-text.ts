import type { HouseReader } from '../derive/reader.js';
import type { Term } from '../vocabulary/glossary.js';
import type { Landing } from '../vocabulary/terminal.js';
import { circuitOfTerminal } from '../vocabulary/terminal.js';
import { terminalText } from './terminal-text.js';

/** The trade words of a house. */
export const termsOf = (reader: HouseReader): ((term: Term) => string) => {
  const { glossary } = reader.rules().jurisdiction;
  return (term) => glossary[term];
};

/** "breaker 5, neutral", "link to the other splice", or the name of the terminal itself. */
export function landingText(reader: HouseReader, { terminal }: Landing): string {
  const circuitId = circuitOfTerminal(terminal);
  const number = circuitId ? reader.get('circuits', circuitId)?.number : undefined;
  return terminalText(terminal, number, termsOf(reader));
}
