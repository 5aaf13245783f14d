import type { HouseReader } from '../derive/reader.js';
import { circuitsAt, shapeOfBox } from '../facts/box-facts.js';
import { wiringGroup } from '../facts/circuit-facts.js';
import type { WorkRecord } from '../house/model.js';
import { POWER_CHANGED_STEP } from '../house/report.js';
import type { PowerState } from '../vocabulary/kinds.js';

/** Code of the record that a circuit was proven dead while the house had this power. */
export const deadStep = (power: PowerState | undefined): string => `dead-with-${power ?? 'not-said'}`;

/**
 * The record by which a person has proven a circuit dead (known live source, the work, the live source again: common practice), as
 * long as the power state of the house is what it was then and was not changed meanwhile.
 */
export function provenDead(
  reader: HouseReader,
  circuitId: string,
  personId: string,
  power: PowerState | undefined,
): WorkRecord | undefined {
  const last = reader
    .mentioning('records', circuitId)
    .filter(
      ({ kind, by, step, circuitId: of }) =>
        kind === 'dead' && of === circuitId && by === personId && step === deadStep(power),
    )
    .sort((a, b) => Date.parse(a.at) - Date.parse(b.at))
    .at(-1);
  if (!last) return undefined;
  const changed = reader
    .all('records')
    .some(
      ({ kind, step, at }) =>
        kind === 'tick' && step === POWER_CHANGED_STEP && Date.parse(at) >= Date.parse(last.at),
    );
  return changed ? undefined : last;
}

/** The circuits that are to be off before somebody reaches into these boxes: all that come there, and those that share a handle or neutral. */
export function circuitsToShutOff(reader: HouseReader, boxIds: Iterable<string>): string[] {
  const found = new Set<string>();
  // Where a circuit lands in the panel everything does.
  for (const boxId of [...boxIds].filter((id) => shapeOfBox(reader, id).kind !== 'panel'))
    for (const id of circuitsAt(reader, boxId)) for (const one of wiringGroup(reader, id)) found.add(one.id);
  const numberOf = (id: string): number => reader.get('circuits', id)?.number ?? 0;
  return [...found].sort((a, b) => numberOf(a) - numberOf(b));
}
