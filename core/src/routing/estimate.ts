import type { HouseReader } from '../derive/reader.js';
import type { Standing } from './standing.js';

/** A length that nobody has measured and no way gives. Inches. */
export interface EstimatedWay {
  readonly lengthIn: number;
  readonly riseIn: number;
  readonly acrossIn: number;
}

/** Rooms between two, on the walking order, that make a way longer; more make no difference. */
const MOST_ROOMS = 5;

/**
 * How far it is between two boxes of which at least one has no place on the plan: by the values `estimate.*` of the rulebook and the
 * rooms between them on the walking order (common practice).
 */
export function estimatedWay(reader: HouseReader, a: Standing, b: Standing): EstimatedWay {
  const rules = reader.rules();
  const storeys = reader.all('storeys');
  const storeyAt = ({ storeyId }: Standing): number => storeys.findIndex(({ id }) => id === storeyId);
  const floors = Math.abs(storeyAt(a) - storeyAt(b));
  const order = (roomId: string | undefined): number | undefined => reader.get('rooms', roomId ?? '')?.order;
  const [one, other] = [order(a.roomId), order(b.roomId)];
  const between =
    one === undefined || other === undefined || floors > 0
      ? 0
      : Math.min(MOST_ROOMS, Math.max(0, Math.abs(one - other) - 1));
  const base = a.isPanel || b.isPanel ? 'homeRun' : a.roomId === b.roomId ? 'inRoom' : 'nextRoom';
  const feet =
    rules.number(`estimate.${base}`) +
    (base === 'nextRoom' ? between * rules.number('estimate.perRoom') : 0) +
    floors * rules.number('estimate.storey');
  return { lengthIn: feet * 12, riseIn: 0, acrossIn: feet * 12 };
}

/**
 * How far it is between two boxes that stand on the plan where no way along the framing leads from one to the other: up to the
 * ceilings and at right angles across, as if nothing were in the way (common practice).
 */
export function overEverything(
  a: { readonly xIn: number; readonly yIn: number; readonly zIn: number; readonly ceilingIn: number },
  b: { readonly xIn: number; readonly yIn: number; readonly zIn: number; readonly ceilingIn: number },
): EstimatedWay {
  const top = Math.max(a.ceilingIn, b.ceilingIn);
  const riseIn = Math.max(0, top - a.zIn) + Math.max(0, top - b.zIn);
  const acrossIn = Math.abs(a.xIn - b.xIn) + Math.abs(a.yIn - b.yIn);
  return { lengthIn: riseIn + acrossIn, riseIn, acrossIn };
}
