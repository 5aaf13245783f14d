import type { HouseReader } from '../derive/reader.js';
import type { CarriedFacts } from '../vocabulary/signal.js';
import { PLAIN } from './english/plain.js';
import type { Tongue } from './language/language.js';

/** Words for a signal: "leg of “Hall”", "hot of circuit 5", "protected neutral". */
export function signalText(
  reader: HouseReader,
  carried: CarriedFacts,
  { term, phrases }: Tongue = PLAIN,
): string {
  if (carried === 'spare') return term('spare');
  if (carried === 'undecided') return phrases.undecided;
  const control = (id: string): string => `“${reader.get('controls', id)?.name ?? phrases.aControl}”`;
  switch (carried.kind) {
    case 'leg':
      return phrases.legOf(control(carried.controlId));
    case 'common':
      return phrases.commonOf(control(carried.controlId));
    case 'traveler':
      return phrases.travelerOf(carried.side, control(carried.controlId));
    case 'interconnect':
      return term('interconnect');
    case 'neutral':
      return 'protectedBy' in carried ? phrases.protectedNeutral : term('neutral');
    case 'hot': {
      if ('protectedBy' in carried) return phrases.protectedHot;
      if (carried.pole === 2) return phrases.secondHot;
      const circuit = reader.get('circuits', carried.circuitId);
      if (circuit?.neutralGroup) return phrases.hotOf(circuit.number);
      return circuit?.poles === 2 ? phrases.firstHot : term('hot');
    }
  }
}
