import type { Derivation, HouseReader } from '../derive/reader.js';
import { ringState } from '../proving/tested.js';
import { Diagnosis } from './diagnosis.js';

/** By house id: how often each kind of fault was found in it, by kind. */
const FOUND: Derivation<readonly (readonly [string, number])[]> = {
  name: 'faults found',
  cutsOff: true,
  compute: (reader) => {
    const counts = new Map<string, number>();
    for (const { kind, cause } of reader.all('records'))
      if (kind === 'found' && cause) counts.set(cause.fault, (counts.get(cause.fault) ?? 0) + 1);
    return [...counts].sort(([a], [b]) => (a < b ? -1 : 1));
  },
};

/** Boxes of a circuit that were made up otherwise since it was good when it was rung out. */
const RECENT: Derivation<readonly string[]> = {
  name: 'boxes made since they were tested',
  cutsOff: true,
  compute: (reader, circuitId) =>
    [
      ...new Set(
        ringState(reader, circuitId, false).steps.flatMap(({ is, changed }) =>
          is === 'again' ? changed : [],
        ),
      ),
    ].sort(),
};

/** What was found in other houses of the crew: how often each kind of fault. */
export type FoundElsewhere = readonly (readonly [fault: string, count: number])[];

/** By the first circuit of a wiring group, and what was found elsewhere. */
export const DIAGNOSIS: Derivation<Diagnosis> = {
  name: 'diagnosis',
  compute: (reader, key) => {
    const [circuitId, elsewhere] = [key.slice(0, KEY), key.slice(KEY)];
    const found = new Map(reader.derive(FOUND, reader.houseId));
    if (elsewhere)
      for (const [fault, count] of JSON.parse(elsewhere) as FoundElsewhere)
        found.set(fault, (found.get(fault) ?? 0) + count);
    return new Diagnosis(reader, circuitId, { recent: new Set(reader.derive(RECENT, circuitId)), found });
  },
};
/** As long as an id is. */
const KEY = 36;

/**
 * The causes a circuit may have, weighed with what this house has taught, and the crew's other ones. `circuitId`: the first of its wiring
 * group.
 */
export const diagnosisOf = (
  reader: HouseReader,
  circuitId: string,
  elsewhere: FoundElsewhere = [],
): Diagnosis =>
  reader.derive(
    DIAGNOSIS,
    `${circuitId}${elsewhere.length ? JSON.stringify(elsewhere.toSorted(([a], [b]) => (a < b ? -1 : 1))) : ''}`,
  );
