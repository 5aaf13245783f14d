import type { Terminal } from '../vocabulary/terminal.js';
import type { Circuit } from './model.js';

/** The terminal of a breaker that is told by number, as records were kept once, told by its circuit where there is one. */
export function byNumber(circuits: readonly Pick<Circuit, 'id' | 'number'>[], terminal: Terminal): Terminal {
  if (terminal.kind !== 'breaker' && terminal.kind !== 'breaker-neutral') return terminal;
  const circuit = circuits.find(({ number }) => number === terminal.number);
  if (terminal.circuitId || !circuit) return terminal;
  const { number: _, ...rest } = terminal;
  return { ...rest, circuitId: circuit.id };
}
