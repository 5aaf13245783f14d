import type { HouseReader } from '@mule-tally/core';
import type { Phrases, Say } from '@mule-tally/core/work';
import { sentence, wireCircuit } from '@mule-tally/core/work';

/** Circuits that are wired as one, with their name. */
export interface CircuitGroup {
  /** The first of them: tests and reports stand with it. */
  readonly id: string;
  readonly ids: readonly string[];
  readonly name: string;
  readonly breakers: readonly { readonly number: number; readonly name: string; readonly amps: number }[];
}

/** All circuits of a house that have a run, those that share a neutral once, by number. */
export function circuitGroups(reader: HouseReader, say: Say, phrases: Phrases): CircuitGroup[] {
  const seen = new Set<string>();
  return [...reader.all('circuits')]
    .sort((a, b) => a.number - b.number)
    .flatMap(({ id }) => {
      if (seen.has(id)) return [];
      const { circuitIds: ids, runs } = wireCircuit(reader, id);
      ids.forEach((one) => seen.add(one));
      if (!runs.size) return [];
      const breakers = ids.flatMap((one) => {
        const own = reader.get('circuits', one);
        return own ? [{ number: own.number, name: own.name, amps: own.breakerAmps }] : [];
      });
      return [
        { id: ids[0] ?? id, ids, name: sentence(phrases.and(ids.map((one) => say.circuit(one)))), breakers },
      ];
    });
}
