import type { HouseReader } from '../../derive/reader.js';
import type { Conductor } from '../../facts/box-facts.js';
import { conductorsOf } from '../../facts/box-facts.js';
import type { Run } from '../../house/model.js';

/** A raceway in which no wire is drawn yet. */
export const isEmptyRaceway = (run: Run): boolean => run.kind === 'raceway' && !run.wires?.length;

/** Insulated conductors of a run that this wiring group may use; undefined while it has no cable. */
export function conductorsFor(
  reader: HouseReader,
  run: Run,
  circuitIds: readonly string[],
): readonly Conductor[] | undefined {
  const all = conductorsOf(reader, run).filter((conductor) => !conductor.ground);
  if (run.kind !== 'raceway') return all.length ? all : undefined;
  if (isEmptyRaceway(run)) return [];
  const seen = new Map<string, number>();
  const owner = new Map<string, string | undefined>();
  for (const wire of run.wires ?? []) {
    const number = (seen.get(wire.colour) ?? 0) + 1;
    seen.set(wire.colour, number);
    owner.set(number === 1 ? wire.colour : `${wire.colour}#${number}`, wire.circuitId);
  }
  const only = run.circuitIds.every((id) => circuitIds.includes(id));
  return all.filter(({ key }) => {
    const circuitId = owner.get(key);
    return circuitId === undefined ? only : circuitIds.includes(circuitId);
  });
}
