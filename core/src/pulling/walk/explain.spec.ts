import * as fc from 'fast-check';
import { Derivations } from '../../derive/derivations.js';
import { houseOf } from '../../house/house-file.js';
import { randomHouse } from '../../testing/random-house.js';
import { many, runs as times } from '../../testing/seed.js';
import type { WalkFault } from './explain.js';
import { explainCounts } from './explain.js';
import type { CableCount, CableRole, WalkedRun } from './walked.js';
import { walkedRuns } from './walked.js';

/** What hangs in the walls: cables with the boxes that their ends are in, where they are in one. */
interface Hung {
  readonly run?: string;
  readonly role: CableRole;
  readonly ends: readonly string[];
}

/** What somebody counts who looks into these boxes. */
function counted(cables: readonly Hung[], boxes: readonly string[]): Map<string, CableCount> {
  return new Map(
    boxes.map((box) => {
      const here = cables.flatMap(({ role, ends }) => ends.filter((end) => end === box).map(() => role));
      return [
        box,
        {
          power: here.filter((role) => role === 'power').length,
          leg: here.filter((role) => role === 'leg').length,
        },
      ];
    }),
  );
}

/** The wall with one thing done otherwise, said as whoever did it would. */
function hung(runs: readonly WalkedRun[], fault: WalkFault): Hung[] {
  const plain = runs.map(({ id, role, ends }): Hung => ({ run: id, role, ends }));
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
function everyFault(runs: readonly WalkedRun[], boxes: readonly string[]): WalkFault[] {
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

const told = (fault: WalkFault): string => JSON.stringify(fault);
const planOf = (plan: {
  file: Parameters<typeof houseOf>[0];
}): { runs: readonly WalkedRun[]; boxes: string[] } => {
  const runs = walkedRuns(new Derivations(houseOf(plan.file)).reader()).filter(({ ends: [a, b] }) => a !== b);
  return { runs, boxes: [...new Set(runs.flatMap(({ ends }) => ends))].sort() };
};

describe('A walk by count', () => {
  it('finds nothing where everything is as planned, and names every single fault among exactly those that look the same', () => {
    const met = new Map<string, number>();
    fc.assert(
      fc.property(randomHouse, fc.nat({ max: 99_991 }), fc.boolean(), ({ plan }, pick, all) => {
        const { runs, boxes } = planOf(plan);
        if (runs.length < 2) return;
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
