import type { CableCount, CableRole, WalkFault } from '../findings/walk-facts.js';
import type { WalkedRun } from '../pulling/walk/walked.js';

/** What hangs in the walls: cables with the boxes that their ends are in, where they are in one. */
export interface Hung {
  readonly run?: string;
  readonly role: CableRole;
  readonly ends: readonly string[];
}

/** What somebody counts who looks into these boxes. */
export function counted(cables: readonly Hung[], boxes: readonly string[]): Map<string, CableCount> {
  const counts = new Map(boxes.map((box) => [box, { power: 0, leg: 0 }]));
  for (const { role, ends } of cables)
    for (const end of ends) {
      const count = counts.get(end);
      if (count) count[role] += 1;
    }
  return counts;
}

/** The wall with one thing done otherwise, said as whoever did it would. */
export function hung(runs: readonly WalkedRun[], fault?: WalkFault): Hung[] {
  const plain = runs.map(({ id, role, ends }): Hung => ({ run: id, role, ends }));
  if (!fault) return plain;
  const change = (id: string, to: (cable: Hung) => Hung[]): Hung[] =>
    plain.flatMap((cable) => (cable.run === id ? to(cable) : [cable]));
  switch (fault.kind) {
    case 'missing':
      return change(fault.runId, () => []);
    case 'extra':
      return [...plain, { role: fault.role, ends: fault.boxIds }];
    case 'stray':
      return [...plain, { role: fault.role, ends: [fault.boxId] }];
    case 'not-in':
      return change(fault.runId, (cable) => [
        { ...cable, ends: cable.ends.filter((end) => end !== fault.boxId) },
      ]);
    case 'other-role':
      return change(fault.runId, (cable) => [{ ...cable, role: cable.role === 'power' ? 'leg' : 'power' }]);
    case 'misrouted':
      return change(fault.runId, (cable) => [
        { ...cable, ends: cable.ends.map((end) => (end === fault.left ? fault.got : end)) },
      ]);
  }
}

/** Every single thing that can be otherwise. */
export function everyFault(runs: readonly WalkedRun[], boxes: readonly string[]): WalkFault[] {
  const faults: WalkFault[] = [];
  for (const { id, ends } of runs) {
    faults.push({ kind: 'missing', runId: id }, { kind: 'other-role', runId: id });
    for (const end of ends) {
      faults.push({ kind: 'not-in', runId: id, boxId: end });
      for (const got of boxes)
        if (!ends.includes(got)) faults.push({ kind: 'misrouted', runId: id, left: end, got });
    }
  }
  for (const role of ['power', 'leg'] as const)
    for (const [at, a] of boxes.entries()) {
      faults.push({ kind: 'stray', role, boxId: a });
      for (const b of boxes.slice(at + 1))
        faults.push({ kind: 'extra', role, boxIds: a < b ? [a, b] : [b, a] });
    }
  return faults;
}
