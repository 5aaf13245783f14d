import type { HouseReader } from '../derive/reader.js';
import type { CableId } from '../rulebook/cables.js';
import { cableOf } from '../rulebook/cables.js';
import { areaOf } from '../vocabulary/size.js';

/** Without a price of the crew: by how much copper there is in it, in the crew's money a foot. Common practice. */
export function usualPrice(reader: HouseReader, cable: CableId): number {
  return reader.rules().number('plan.perConductorFoot') * copperOf(cable);
}

/** Insulated conductors of a cable, each as many 14 AWG ones as it has copper. */
function copperOf(cable: CableId): number {
  const { colours, gauge } = cableOf(cable);
  return colours.length * (areaOf(gauge) / areaOf(14));
}

/** What a hole goes through. */
export type Bored = 'stud' | 'king' | 'cripple' | 'header' | 'corner' | 'plate' | 'joist' | 'beam';

/** Minutes of boring, by what is bored, with a light cable (rulebook; common practice). */
export function boringMinutes(reader: HouseReader): Readonly<Record<Bored, number>> {
  const rules = reader.rules();
  const stud = rules.number('plan.minutesPerStud');
  const header = rules.number('route.minutesHeader');
  return {
    stud,
    // King and jack: twice the wood.
    king: 2 * stud,
    cripple: stud,
    corner: rules.number('route.minutesCorner'),
    plate: rules.number('plan.minutesPerPlate'),
    joist: rules.number('route.minutesJoist'),
    header,
    beam: header,
  };
}

/** How much longer a hole takes with this cable than with one of two 14 AWG conductors. */
export const heavyTimes = (reader: HouseReader, cable: CableId): number =>
  1 + (reader.rules().number('route.heavy') / 100) * Math.max(0, copperOf(cable) - 2);
