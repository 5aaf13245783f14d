import type { HouseReader } from '../../derive/reader.js';
import { CIRCUIT_PULLS } from '../pull-list.js';

/** What tells cables apart where they enter a box, before anything is made up: those that carry power on, and all others. */
export type CableRole = 'power' | 'leg';
export const CABLE_ROLES: readonly CableRole[] = ['power', 'leg'];

/** A run as it is to be found on a walk. */
export interface WalkedRun {
  readonly id: string;
  readonly role: CableRole;
  /** The two boxes that it ends in. */
  readonly ends: readonly [string, string];
}

/** Cables that enter a box, by role. */
export type CableCount = Readonly<Record<CableRole, number>>;
export const NO_CABLES: CableCount = { power: 0, leg: 0 };

/** What is planned, as a walk looks for it: all runs of the house. */
export function walkedRuns(reader: HouseReader): readonly WalkedRun[] {
  const roles = new Map(
    reader
      .all('circuits')
      .flatMap(({ id }) =>
        reader.derive(CIRCUIT_PULLS, id).runs.map(({ runId, role }) => [runId, role] as const),
      ),
  );
  return reader.all('runs').map(({ id, from, to, purpose }) => ({
    id,
    role: roles.get(id) ?? (purpose === 'power' ? 'power' : 'leg'),
    ends: [from.boxId, to.boxId],
  }));
}

/** How many cables of each role each box is to have: "2 power + 1 leg". Boxes without any are not in it. */
export function expectedCounts(runs: readonly WalkedRun[]): ReadonlyMap<string, CableCount> {
  const counts = new Map<string, CableCount>();
  for (const { role, ends } of runs)
    for (const box of ends) {
      const count = counts.get(box) ?? NO_CABLES;
      counts.set(box, { ...count, [role]: count[role] + 1 });
    }
  return counts;
}
