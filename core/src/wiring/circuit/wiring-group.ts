import type { HouseReader } from '../../derive/reader.js';
import type { Circuit, Run } from '../../house/model.js';

/**
 * Circuits that are wired as one: a circuit alone, or all circuits of a panel that share one neutral (multiwire). By id, so
 * that the first leads the group whatever the order of the list.
 */
export function wiringGroup(reader: HouseReader, circuitId: string): readonly Circuit[] {
  const circuit = reader.get('circuits', circuitId);
  if (!circuit) return [];
  if (!circuit.neutralGroup) return [circuit];
  return reader
    .all('circuits')
    .filter(
      ({ neutralGroup, panelId }) => neutralGroup === circuit.neutralGroup && panelId === circuit.panelId,
    )
    .sort((a, b) => (a.id < b.id ? -1 : 1));
}

/** The runs that carry something of the group, in id order. */
export function runsOfGroup(reader: HouseReader, group: readonly Circuit[]): readonly Run[] {
  const runs = new Map<string, Run>();
  for (const { id } of group) {
    for (const run of reader.mentioning('runs', id))
      if (run.kind !== 'low-voltage' && run.circuitIds.includes(id)) runs.set(run.id, run);
  }
  return [...runs.values()].sort((a, b) => (a.id < b.id ? -1 : 1));
}
