import type { HouseReader } from '../derive/reader.js';
import type { Term } from '../vocabulary/glossary.js';
import type { Carried, Signal } from '../vocabulary/signal.js';
import {
  circuitOfHot,
  controlOf,
  isSecondHot,
  kindOf,
  protectedBy,
  travelerSide,
} from '../vocabulary/signal.js';

/** Words for a signal: "leg of “Hall”", "hot of circuit 5", "protected neutral". */
export function signalText(
  reader: HouseReader,
  carried: Carried,
  term: (word: Term) => string = (word) => word,
): string {
  const control = controlOf(carried);
  const name = control && (reader.get('controls', control)?.name ?? 'a control');
  if (control && kindOf(carried as Signal) === 'leg') return `${term('leg')} of “${name}”`;
  if (control) return `${term('traveler')} ${travelerSide(carried as Signal)?.toUpperCase()} of “${name}”`;
  if (protectedBy(carried))
    return `protected ${kindOf(carried as Signal) === 'hot' ? term('hot') : term('neutral')}`;
  const circuitId = circuitOfHot(carried);
  if (!circuitId)
    return carried === 'neutral' || carried === 'interconnect' || carried === 'spare'
      ? term(carried)
      : carried;
  const circuit = reader.get('circuits', circuitId);
  if (isSecondHot(carried)) return `second ${term('hot')}`;
  return circuit?.neutralGroup
    ? `${term('hot')} of ${term('circuit')} ${circuit.number}`
    : circuit?.poles === 2
      ? `first ${term('hot')}`
      : term('hot');
}
