import { applyChange } from '../changes/apply.js';
import { readerOf } from '../derive/reader.js';
import type { Finding } from '../findings/finding.js';
import type { House } from '../house/house.js';
import { inspectHouse } from '../inspection/inspect-house.js';

const key = ({ code, where: { roomId, boxId, circuitId } }: Finding): string =>
  // What protection a circuit lacks is told at the first of the boxes that ask for it.
  JSON.stringify([code, roomId, code === 'layout.protection' ? '' : boxId, circuitId]);
/** Of walls and counters the inches count that are too far, of all else each finding. */
const weight = (all: readonly Finding[]): number =>
  all.reduce((sum, { code, severity, measured }) => {
    if (code.startsWith('layout.far-')) return sum + (measured as { inches: number }).inches;
    return sum + { stop: 1e6, fix: 1e4, note: 1 }[severity];
  }, 0);

/**
 * Takes each way out of each finding of a house by itself, looks again, and holds it to having helped: nothing worse is told of
 * anything, and all that is told weighs less. `seen` counts the ways out by code.
 */
export function takeEveryWayOut(
  house: House,
  isAsked: (code: string) => boolean,
  seen: Map<string, number>,
): void {
  const before = inspectHouse(readerOf(house));
  const known = new Set(before.map(key));
  for (const finding of before) {
    if (!isAsked(finding.code)) continue;
    for (const fix of finding.fixes ?? []) {
      seen.set(fix.code, (seen.get(fix.code) ?? 0) + 1);
      const taken = applyChange(house, fix.change);
      if (!taken.ok) throw new Error(`${fix.code}: ${JSON.stringify(taken.refusal)}`);
      const after = inspectHouse(readerOf(taken.document));
      const worse = after.filter(
        (one) => one.severity !== 'note' && !known.has(key(one)) && one.code !== finding.code,
      );
      expect(worse.map(({ code, where, facts }) => ({ code, where, facts })))
        .withContext(`${finding.code} → ${fix.code}`)
        .toEqual([]);
      const told = before.map((one) => JSON.stringify([key(one), one.facts]));
      const fresh = after.filter((one) => !told.includes(JSON.stringify([key(one), one.facts])));
      expect(weight(after))
        .withContext(`${finding.code} → ${fix.code}: ${JSON.stringify(fresh)}`)
        .toBeLessThan(weight(before));
    }
  }
}
