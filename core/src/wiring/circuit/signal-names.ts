import type { HouseReader } from '../../derive/reader.js';
import type { Carried, Signal } from './signal.js';
import { circuitOfHot, controlOf, kindOf, protectedBy, travelerSide } from './signal.js';

/** Words for a signal, for people. */
export function signalName(reader: HouseReader, carried: Carried): string {
  const control = controlOf(carried);
  const name = control && (reader.get('controls', control)?.name ?? 'a control');
  if (control && kindOf(carried as Signal) === 'leg') return `leg of “${name}”`;
  if (control) return `traveler ${travelerSide(carried as Signal)?.toUpperCase()} of “${name}”`;
  if (protectedBy(carried)) return carried.startsWith('load-hot') ? 'protected hot' : 'protected neutral';
  const circuitId = circuitOfHot(carried);
  if (!circuitId) return carried;
  const circuit = reader.get('circuits', circuitId);
  if (carried.startsWith('hot2:')) return 'second hot';
  return circuit?.neutralGroup
    ? `hot of circuit ${circuit.number}`
    : circuit?.poles === 2
      ? 'first hot'
      : 'hot';
}
