import * as fc from 'fast-check';
import { Derivations } from '../../derive/derivations.js';
import { houseOf } from '../../house/house-file.js';
import { randomHouse } from '../../testing/random-house.js';
import { many, runs as times } from '../../testing/seed.js';
import type { SeenCount, Settling, WalkFault } from '../../findings/walk-facts.js';
import type { Hung } from '../../testing/hung.js';
import { counted, counted as countedAll, everyFault, hung } from '../../testing/hung.js';
import { explainCounts } from './explain.js';
import type { WalkedRun } from './walked.js';
import { walkedRuns } from './walked.js';

const told = (fault: WalkFault): string => JSON.stringify(fault);
const planOf = (plan: {
  file: Parameters<typeof houseOf>[0];
}): { runs: readonly WalkedRun[]; boxes: string[] } => {
  const runs = walkedRuns(new Derivations(houseOf(plan.file)).reader()).filter(({ ends: [a, b] }) => a !== b);
  return { runs, boxes: [...new Set(runs.flatMap(({ ends }) => ends))].sort() };
};

/** What is seen at a box by whoever settles it: where its cables lead, which they are, or how many. */
function looked(cables: readonly Hung[], { kind, boxId }: Settling): string {
  const here = cables.filter(({ ends }) => ends.includes(boxId));
  if (kind === 'count') return told([...counted(cables, [boxId])] as never);
  return here
    .map(({ run, role, ends }) =>
      kind === 'look' ? run : `${role} ${ends.filter((end) => end !== boxId).join()}`,
    )
    .sort()
    .join('; ');
}
/** Where all cables lead: what nobody can tell apart but by which cable it is. */
const structure = (cables: readonly Hung[]): string =>
  cables
    .map(({ role, ends }) => `${role} ${[...ends].sort().join()}`)
    .sort()
    .join('; ');

/** One look or tug, simulated on what really hangs there. */
function settled(runs: readonly WalkedRun[], boxes: readonly string[], fault: WalkFault, wall: Hung[]): void {
  const { ways, settling } = explainCounts(runs, counted(wall, boxes));
  expect(ways.some(([one]) => told(one!) === told(fault))).toBeTrue();
  const walls = ways.map(([one]) => hung(runs, one));
  if (new Set(walls.map(structure)).size === 1 && (!settling || settling.kind === 'look')) return;
  expect(settling).withContext(told(fault)).toBeDefined();
  if (!settling) return;
  const left = walls.filter((one) => looked(one, settling) === looked(wall, settling));
  expect(left.length).toBeLessThan(walls.length);
  if (settling.kind !== 'count')
    expect(new Set(left.map(structure)).size)
      .withContext(told(fault))
      .toBe(1);
}

describe('A walk by count', () => {
  it('finds nothing where everything is as planned, and names every single fault among exactly those that look the same', () => {
    const met = new Map<string, number>();
    fc.assert(
      fc.property(randomHouse, fc.nat({ max: 99_991 }), fc.boolean(), ({ plan }, pick, all) => {
        const { runs, boxes } = planOf(plan);
        if (runs.length < 2) return;
        // In some boxes only power was counted.
        const counted = (cables: readonly Hung[], at: readonly string[]): Map<string, SeenCount> =>
          new Map(
            [...countedAll(cables, at)].map(([box, { power, leg }]) => [
              box,
              (pick + box.charCodeAt(35)) % 5 === 0 ? { power } : { power, leg },
            ]),
          );
        const seen = all ? boxes : boxes.filter((_, at) => (pick >> (at % 13)) % 4 !== 0);
        const plain = runs.map(({ role, ends }): Hung => ({ role, ends }));
        expect(explainCounts(runs, counted(plain, seen))).toEqual({ ways: [], wrong: [] });
        const faults = everyFault(runs, boxes);
        const fault = faults[pick % faults.length]!;
        const look = counted(hung(runs, fault), seen);
        const { ways, wrong, settling } = explainCounts(runs, look);
        const same = faults.filter(
          (one) => told([...counted(hung(runs, one), seen)] as never) === told([...look] as never),
        );
        const isSeen = wrong.length > 0;
        met.set(`${fault.kind} ${isSeen}`, (met.get(`${fault.kind} ${isSeen}`) ?? 0) + 1);
        if (!isSeen) return expect(ways).toEqual([]);
        for (const way of ways) expect(way.length).toBe(1);
        expect(ways.map(([one]) => told(one!)).sort()).toEqual(same.map(told).sort());
        if (settling?.kind === 'count') expect(seen).not.toContain(settling.boxId);
        if (settling?.kind === 'trace') expect(wrong).toContain(settling.boxId);
      }),
      { numRuns: times(300) },
    );
    expect([...met.keys()].filter((key) => key.endsWith('true')).length).toBeGreaterThan(many(5));
  });

  it('names the right run wherever one is missing and every box was looked into, but for its double', () => {
    fc.assert(
      fc.property(randomHouse, ({ plan }) => {
        const { runs, boxes } = planOf(plan);
        for (const { id, role, ends } of runs) {
          const { ways } = explainCounts(runs, counted(hung(runs, { kind: 'missing', runId: id }), boxes));
          const doubles = runs.filter(
            (one) => one.role === role && one.ends.every((end) => ends.includes(end)),
          );
          expect(ways.map(([one]) => one)).toEqual(
            doubles.map((one) => ({ kind: 'missing', runId: one.id })),
          );
        }
      }),
      { numRuns: times(200) },
    );
  });

  it('names for every missing, extra or misrouted run the smallest set that looks the same, and one tug or look leaves of it only what comes to the same', () => {
    fc.assert(
      fc.property(randomHouse, fc.nat({ max: 99_991 }), ({ plan }, pick) => {
        const { runs, boxes } = planOf(plan);
        if (runs.length === 0) return;
        const faults = everyFault(runs, boxes).filter(({ kind }) => kind !== 'other-role');
        // Three of each house, far apart in the list.
        for (const fault of [0, 1, 2].map((third) => faults[(pick + third * 7919) % faults.length]!))
          settled(runs, boxes, fault, hung(runs, fault));
      }),
      { numRuns: times(500) },
    );
  });

  it('settles by one trace which of several runs went astray', () => {
    const run = (id: string, a: string, b: string): WalkedRun => ({ id, role: 'power', ends: [a, b] });
    const runs = [run('1', 'panel', 'A'), run('2', 'A', 'B'), run('3', 'B', 'C'), run('4', 'C', 'D')];
    // B lacks one and D has one too many: the cable of A or of C went to D instead.
    const look = counted(hung(runs, { kind: 'misrouted', runId: '2', left: 'B', got: 'D' }), [
      'panel',
      'A',
      'B',
      'C',
      'D',
    ]);
    const { ways, settling } = explainCounts(runs, look);
    expect(ways).toEqual([
      [{ kind: 'misrouted', runId: '2', left: 'B', got: 'D' }],
      [{ kind: 'misrouted', runId: '3', left: 'B', got: 'D' }],
    ]);
    expect(settling).toEqual({ kind: 'trace', boxId: 'B', ends: ['A', 'C'] });
  });

  it('explains two faults at once by no more than two', () => {
    fc.assert(
      fc.property(randomHouse, fc.nat({ max: 997 }), fc.nat({ max: 997 }), ({ plan }, one, two) => {
        const { runs, boxes } = planOf(plan);
        const [a, b] = [runs[one % runs.length], runs[two % runs.length]];
        if (!a || !b || a === b) return;
        const left = runs
          .filter((run) => run !== a && run !== b)
          .map(({ role, ends }): Hung => ({ role, ends }));
        const { ways } = explainCounts(runs, counted(left, boxes));
        expect(ways.length).toBeGreaterThan(0);
        for (const way of ways) expect(way.length).toBeLessThanOrEqual(2);
        const missing = [a.id, b.id].sort().join();
        const named = ways.some(
          (way) =>
            way.every(({ kind }) => kind === 'missing') &&
            way
              .map((fault) => 'runId' in fault && fault.runId)
              .sort()
              .join() === missing,
        );
        const isShort = ways.every((way) => way.length < 2);
        expect(named || isShort).toBeTrue();
      }),
      { numRuns: times(150) },
    );
  });
});
