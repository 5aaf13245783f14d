import type { HouseReader } from '../../derive/reader.js';
import type { Run } from '../../house/model.js';

/** The runs that carry something of the group, in id order. */
export function runsOfGroup(reader: HouseReader, group: readonly { readonly id: string }[]): readonly Run[] {
  const runs = new Map<string, Run>();
  for (const { id } of group) {
    for (const run of reader.mentioning('runs', id))
      if (run.kind !== 'low-voltage' && run.circuitIds.includes(id)) runs.set(run.id, run);
  }
  return [...runs.values()].sort((a, b) => (a.id < b.id ? -1 : 1));
}
