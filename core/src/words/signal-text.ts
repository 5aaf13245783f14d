import type { HouseReader } from '../derive/reader.js';
import type { Term } from '../vocabulary/glossary.js';
import type { CarriedFacts } from '../vocabulary/signal.js';

/** Words for a signal: "leg of “Hall”", "hot of circuit 5", "protected neutral". */
export function signalText(
  reader: HouseReader,
  carried: CarriedFacts,
  term: (word: Term) => string = (word) => word,
): string {
  if (carried === 'spare') return term('spare');
  if (carried === 'undecided') return carried;
  const control = (id: string): string => `“${reader.get('controls', id)?.name ?? 'a control'}”`;
  switch (carried.kind) {
    case 'leg':
      return `${term('leg')} of ${control(carried.controlId)}`;
    case 'traveler':
      return `${term('traveler')} ${carried.side.toUpperCase()} of ${control(carried.controlId)}`;
    case 'interconnect':
      return term('interconnect');
    case 'neutral':
      return 'protectedBy' in carried ? `protected ${term('neutral')}` : term('neutral');
    case 'hot': {
      if ('protectedBy' in carried) return `protected ${term('hot')}`;
      if (carried.pole === 2) return `second ${term('hot')}`;
      const circuit = reader.get('circuits', carried.circuitId);
      if (circuit?.neutralGroup) return `${term('hot')} of ${term('circuit')} ${circuit.number}`;
      return circuit?.poles === 2 ? `first ${term('hot')}` : term('hot');
    }
  }
}
