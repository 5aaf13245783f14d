import { wiringGroup } from '../../facts/circuit-facts.js';
import { setting } from '../../changes/change.js';
import type { HouseReader } from '../../derive/reader.js';
import { cableIn, standingPull } from '../../facts/box-facts.js';
import type { CableId } from '../../rulebook/cables.js';
import { cableFor, cableOf, mostConductors } from '../../rulebook/cables.js';
import type { Run } from '../../house/model.js';
import type { Fix } from '../../findings/finding.js';
import { withBranches } from '../needs/branches.js';
import { circuitTree } from '../circuit/circuit-tree.js';
import { gaugeOfGroup, isRing } from '../circuit/gauge.js';
import { runsOfGroup } from '../circuit/wiring-group.js';

/** An id for the run that lies beside another: always the same one for the same run. */
export function idBeside(runId: string): string {
  const digits = runId.replaceAll('-', '');
  const turned = [...digits].map((digit, at) => ((parseInt(digit, 16) + at + 5) % 16).toString(16)).join('');
  return [
    turned.slice(0, 8),
    turned.slice(8, 12),
    `8${turned.slice(13, 16)}`,
    `8${turned.slice(17, 20)}`,
    turned.slice(20),
  ].join('-');
}

/** A second cable beside a run for which no one cable has enough conductors: offered where the two then do. */
export function twoSideBySide(reader: HouseReader, circuitId: string, runId: string): Fix[] {
  const group = wiringGroup(reader, circuitId);
  const runs = runsOfGroup(reader, group);
  const run = runs.find(({ id }) => id === runId);
  const gauge = gaugeOfGroup(reader, group);
  const [leader] = group;
  if (!run || !gauge || !leader || run.kind !== 'cable') return [];
  const id = idBeside(run.id);
  if (runs.some((one) => one.id === id)) return [];
  const before = withBranches(reader, group, circuitTree(reader, leader.panelId, runs, isRing(group)));
  const isPulled = standingPull(reader, run.id) !== undefined;
  const largest = cableFor(reader.rules(), gauge, mostConductors(reader.rules(), gauge))!.id;
  const own = isPulled ? cableIn(reader, run)! : largest;
  const beside: Run = {
    id,
    kind: 'cable',
    circuitIds: run.circuitIds,
    from: { boxId: run.from.boxId },
    to: { boxId: run.to.boxId },
    plannedCable: largest,
    ...(run.purpose && { purpose: run.purpose }),
  };
  const planned = runs.map((one) => (one === run ? { ...run, plannedCable: own } : one));
  const tried = withBranches(
    reader,
    group,
    circuitTree(reader, leader.panelId, [...planned, beside], isRing(group)),
  );
  if (tried.missing >= before.missing || tried.tree.loops.some((loop) => loop.id === id)) return [];
  /** The smallest cable for what a run carries then; undefined where there is still too much. */
  const cableOfRun = (one: string): CableId | undefined =>
    cableFor(reader.rules(), gauge, Math.max(2, tried.needs.get(one)?.length ?? 0))?.id;
  const [first, second] = [cableOfRun(run.id), cableOfRun(id)];
  if (!first || !second) return [];
  if (isPulled && cableOf(own).colours.length < cableOf(first).colours.length) return [];
  return [
    {
      code: 'side-by-side',
      facts: { first: isPulled ? own : first, second },
      change: {
        kind: 'group',
        changes: [
          ...(isPulled ? [] : [setting('runs', run.id, { plannedCable: first })]),
          { kind: 'run.add' as const, record: { ...beside, plannedCable: second } },
        ],
      },
    },
  ];
}
