import { BREAKER } from '../vocabulary/panel-parts.js';
import type { Circuit } from './model.js';

const BY_NUMBER = /^breaker (\d+)(, second pole|, neutral)?$/;

/** The breaker that a terminal written down by number means: how records were kept before breakers were told by circuit. */
export function byNumber(
  circuits: readonly Pick<Circuit, 'id' | 'number'>[],
  terminal: string,
): { terminal: string; circuitId: string } | undefined {
  const [, number, part = ''] = BY_NUMBER.exec(terminal) ?? [];
  const circuit = number && circuits.find((one) => one.number === Number(number));
  return circuit ? { terminal: `${BREAKER}${part}`, circuitId: circuit.id } : undefined;
}
