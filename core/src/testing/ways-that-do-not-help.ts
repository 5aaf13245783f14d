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
 * Takes each way out of each finding of a house by itself and looks again. What it gives are those that did not help: something
 * worse is told than before, or all that is told does not weigh less. `seen` counts the ways out by code.
 */
export function waysThatDoNotHelp(
  house: House,
  isAsked: (code: string) => boolean,
  seen: Map<string, number>,
): string[] {
  const before = inspectHouse(readerOf(house));
  const known = new Set(before.map(key));
  const said = new Set(before.map((one) => JSON.stringify([key(one), one.facts])));
  return before
    .filter(({ code }) => isAsked(code))
    .flatMap((finding) =>
      (finding.fixes ?? []).flatMap((fix) => {
        seen.set(fix.code, (seen.get(fix.code) ?? 0) + 1);
        const way = `${finding.code} → ${fix.code}`;
        const taken = applyChange(house, fix.change);
        if (!taken.ok) return [`${way}: ${JSON.stringify(taken.refusal)}`];
        const after = inspectHouse(readerOf(taken.document));
        const worse = after.filter(
          (one) => one.severity !== 'note' && !known.has(key(one)) && one.code !== finding.code,
        );
        if (worse.length === 0 && weight(after) < weight(before)) return [];
        const fresh = after.filter((one) => !said.has(JSON.stringify([key(one), one.facts])));
        return [`${way}: ${JSON.stringify(fresh.map(({ code, where, facts }) => ({ code, where, facts })))}`];
      }),
    );
}
