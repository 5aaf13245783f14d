import * as fc from 'fast-check';
import { adding, removing, setting } from '../../changes/change.js';
import { applyChange } from '../../changes/apply.js';
import type { ChangeBody } from '../../changes/change.js';
import { Derivations } from '../../derive/derivations.js';
import { copyHouseFile, houseOf, readHouseFile } from '../../house/house-file.js';
import type { House } from '../../house/house.js';
import { counted, everyFault, hung } from '../../testing/hung.js';
import { randomHouse } from '../../testing/random-house.js';
import { many, runs as times } from '../../testing/seed.js';
import { explainCounts } from './explain.js';
import { circuitWalk, houseWalk, walkTally, walksOf } from './house-walk.js';
import { shortWay, walkOrder } from './walk-order.js';
import type { CableCount } from '../../findings/walk-facts.js';
import type { WalkScope } from './walked.js';
import { boxWalk, countOf, walkedRuns } from './walked.js';
import demo from '../../../../demo/lot-12.house.json' with { type: 'json' };

const AT = '2026-11-20T08:00:00Z';
let ids = 0;
const id = (): string => `00000000-0000-4000-9000-${String(++ids).padStart(12, '0')}`;
const changed = (house: House, body: ChangeBody): House => {
  const applied = applyChange(house, body);
  if (!applied.ok) throw new Error(applied.refusal.message);
  return applied.document;
};
const readerOf = (house: House) => new Derivations(house).reader();
/** The house after somebody counted these, of all cables or of a scope. */
const walkedHouse = (house: House, seen: ReadonlyMap<string, CableCount>, scope: WalkScope = {}): House => {
  const reader = readerOf(house);
  const { circuitId } = scope;
  return [...seen].reduce(
    (at, [boxId, count]) =>
      changed(
        at,
        adding('records', {
          id: id(),
          kind: 'walk',
          at: AT,
          by: id(),
          boxId,
          ...(circuitId !== undefined && { circuitId }),
          counted: countOf(reader, boxId, count, scope),
        }),
      ),
    house,
  );
};

describe('The record of a walk', () => {
  const read = readHouseFile(demo);
  if (!read.ok) throw new Error('the demo is broken');

  it('names what is missing, extra or misrouted from what was recorded box by box', () => {
    fc.assert(
      fc.property(randomHouse, fc.nat({ max: 99_991 }), ({ plan }, pick) => {
        const house = houseOf(plan.file);
        const runs = walkedRuns(readerOf(house)).filter(({ ends: [a, b] }) => a !== b);
        const boxes = [...new Set(runs.flatMap(({ ends }) => ends))].sort();
        if (!runs.length) return;
        const faults = everyFault(runs, boxes).filter(({ kind }) =>
          ['missing', 'extra', 'misrouted'].includes(kind),
        );
        const fault = faults[pick % faults.length]!;
        const reader = readerOf(walkedHouse(house, counted(hung(runs, fault), boxes)));
        const found = houseWalk(reader);
        expect(found.length).toBe(1);
        expect(found[0]!.ways.length + found[0]!.lessLikely).toBe(
          explainCounts(runs, counted(hung(runs, fault), boxes)).ways.length,
        );
        expect(found[0]!.boxIds.every((box) => boxWalk(reader, box).state === 'wrong')).toBeTrue();
      }),
      { numRuns: times(100) },
    );
  });

  it('of a circuit alone says nothing of the others, and power before its legs says nothing of those', () => {
    const met = { power: 0, leg: 0 };
    fc.assert(
      fc.property(randomHouse, fc.nat({ max: 99_991 }), fc.boolean(), ({ plan }, pick, powerOnly) => {
        const house = houseOf(plan.file);
        const reader = readerOf(house);
        const circuits = reader.all('circuits');
        const circuitId = circuits[pick % circuits.length]?.id;
        if (circuitId === undefined) return;
        const scope = { circuitId, powerOnly };
        const walks = walksOf(reader, scope);
        const own = walkedRuns(reader).filter(
          ({ id: run, ends: [a, b] }) => a !== b && reader.get('runs', run)!.circuitIds.includes(circuitId),
        );
        const gone = own[pick % own.length];
        if (!gone) return;
        const seen = counted(
          hung(own, { kind: 'missing', runId: gone.id }),
          walks.map(({ boxId }) => boxId),
        );
        const after = readerOf(walkedHouse(house, seen, scope));
        const named = houseWalk(after).flatMap(({ ways }) => ways.flat().map(({ fault }) => fault));
        const isLooked = !powerOnly || gone.role === 'power';
        met[gone.role]++;
        expect(named.some((fault) => fault.kind === 'missing' && fault.runId === gone.id)).toBe(isLooked);
        if (!isLooked) expect(named).toEqual([]);
        const tally = walkTally(walksOf(after, scope));
        expect(tally.wrong > 0).toBe(isLooked);
        expect(tally.right + tally.wrong).toBe(tally.of);
        // What hangs there besides is not counted, and not said to be.
        for (const { id: other } of circuits)
          if (other !== circuitId)
            for (const { boxId, state } of walksOf(after, { circuitId: other }))
              if (!own.some(({ ends }) => ends.includes(boxId))) expect(state).toBe('open');
        if (powerOnly && walksOf(reader, { circuitId }).some(({ expected }) => expected.leg > 0))
          expect(walkTally(walksOf(after, { circuitId })).right).toBeLessThan(
            walksOf(reader, { circuitId }).length,
          );
      }),
      { numRuns: times(100) },
    );
    expect(met.power).toBeGreaterThan(many(20));
    expect(met.leg).toBeGreaterThan(many(3));
  });

  it('names in the demo exactly what looks the same, and many runs that were forgotten at once', () => {
    const { house } = read;
    const runs = walkedRuns(readerOf(house));
    const boxes = [...new Set(runs.flatMap(({ ends }) => ends))].sort();
    const groups = new Map<string, number>();
    const signature = (seen: ReadonlyMap<string, CableCount>): string => JSON.stringify([...seen]);
    for (const fault of everyFault(runs, boxes)) {
      const key = signature(counted(hung(runs, fault), boxes));
      groups.set(key, (groups.get(key) ?? 0) + 1);
    }
    // Of all that look alike one is explained: exactly those must be named.
    const done = new Set<string>();
    let at = 0;
    for (const fault of everyFault(runs, boxes)) {
      if (fault.kind !== 'missing' && at++ % 40 !== 0) continue;
      const seen = counted(hung(runs, fault), boxes);
      const key = signature(seen);
      if (done.has(key)) continue;
      done.add(key);
      expect(explainCounts(runs, seen).ways.length).toBe(groups.get(key)!);
    }
    // Seven runs forgotten all over the house.
    const apart = runs.filter((_, at) => at % Math.ceil(runs.length / 7) === 3);
    const wall = hung(runs).filter(({ run }) => !apart.some((one) => one.id === run));
    const found = houseWalk(readerOf(walkedHouse(house, counted(wall, boxes))));
    const named = found.flatMap(({ ways }) =>
      ways.flat().flatMap(({ fault }) => ('runId' in fault ? fault.runId : [])),
    );
    for (const run of apart) expect(named).toContain(run.id);
    expect(found.every(({ ways }) => ways.length === 1)).toBeTrue();
  });

  it('asks for a box again when plan or pulls are not what they were, and for no other; clocks do not matter', () => {
    const { house } = read;
    const reader = readerOf(house);
    const [boxId, other] = walkOrder(reader).filter((box) => boxWalk(reader, box).runs.length > 1);
    const state = (at: House, box = boxId!): string => {
      const { state: told, since } = boxWalk(readerOf(at), box);
      return since ? `${told} ${since}` : told;
    };
    expect(state(house)).toBe('open');
    const { expected, runs } = boxWalk(reader, boxId!);
    const less = { ...expected, power: expected.power - 1 };
    const right = walkedHouse(
      house,
      new Map([
        [boxId!, expected],
        [other!, boxWalk(reader, other!).expected],
      ]),
    );
    const wrong = walkedHouse(right, new Map([[boxId!, less]]));
    expect([state(right), state(wrong), state(wrong, other)]).toEqual(['right', 'wrong', 'right']);
    const run = runs[0]!;
    const pull = adding('pulls', {
      id: id(),
      runId: run.runId,
      cable: '14/2',
      at: '2020-01-01T00:00:00Z',
      by: id(),
      state: 'in',
    });
    const pulls = reader.mentioning('pulls', run.runId);
    const scrapped = pulls.reduce(
      (at, { id: pullId }) => changed(at, setting('pulls', pullId, { state: 'scrapped' })),
      right,
    );
    // What was wrong may have been put right since; what was found right is not changed by a log that comes late.
    expect([state(changed(wrong, pull)), state(changed(right, pull))]).toEqual(['again pulls', 'right']);
    if (pulls.length) expect(state(scrapped)).toBe('again pulls');
    expect(state(changed(right, setting('runs', run.runId, { purpose: 'travelers' })))).toBe('again plan');
    expect(state(pulls.length ? right : changed(right, removing('runs', run.runId)))).toBe(
      pulls.length ? 'right' : 'again plan',
    );
    expect(state(changed(right, setting('boxes', boxId!, { tag: 'Q9' })))).toBe('right');
    // Counted anew it holds, whatever was counted before.
    expect(state(walkedHouse(wrong, new Map([[boxId!, expected]])))).toBe('right');
  });

  it('holds what is wrong with a whole box against the box, and against none of its circuits', () => {
    const { house } = read;
    const before = readerOf(house);
    const { panelId } = before.all('circuits')[0]!;
    const { expected } = boxWalk(before, panelId);
    const counted = { power: expected.power, leg: expected.leg + 3 };
    const after = readerOf(walkedHouse(house, new Map([[panelId, counted]])));
    expect(boxWalk(after, panelId)).toEqual(jasmine.objectContaining({ state: 'wrong', seen: counted }));
    for (const { id: circuitId } of before.all('circuits')) {
      const { seen } = boxWalk(after, panelId, { circuitId });
      // Of which circuit those three are is not known; power was right, and so it is of each.
      expect(seen.leg).toBeUndefined();
      expect(seen.power).toBe(boxWalk(before, panelId, { circuitId }).expected.power);
    }
    // One thing more is found, and it is about the panel alone.
    const known = houseWalk(before).map((found) => JSON.stringify(found));
    const more = houseWalk(after).filter((found) => !known.includes(JSON.stringify(found)));
    expect(more.map(({ boxIds }) => boxIds)).toEqual([[panelId]]);
  });

  it('is the same in a copy of the house, and gone from one for the next lot', () => {
    const states = (file: typeof read.file): string[] => {
      const reader = readerOf(houseOf(file));
      return reader.all('circuits').map(({ id: circuit }) => {
        const { state, tally } = circuitWalk(reader, circuit);
        return JSON.stringify([state, tally]);
      });
    };
    const newId = (): string => id();
    expect(states(copyHouseFile(read.file, 'Twin', newId, true))).toEqual(states(read.file));
    expect(states(read.file).filter((state) => state.includes('signed')).length).toBe(1);
    const next = copyHouseFile(read.file, 'Next lot', newId, false);
    expect(states(next).every((state) => state.includes('"open"'))).toBeTrue();
  });

  it('goes through every box with cables once, never farther than room by room, and near the shortest way', () => {
    const { house } = read;
    const reader = readerOf(house);
    const order = walkOrder(reader);
    const withCables = reader.all('boxes').filter(({ id: box }) => boxWalk(reader, box).runs.length > 0);
    expect([...order].sort()).toEqual(withCables.map(({ id: box }) => box).sort());
    expect(new Set(order).size).toBe(order.length);
    // Against every order of few places, by exhaustion.
    fc.assert(
      fc.property(
        fc.array(fc.record({ x: fc.nat(600), y: fc.nat(600) }), { minLength: 2, maxLength: 8 }),
        (places) => {
          const between = (a: number, b: number): number =>
            Math.hypot(places[a]!.x - places[b]!.x, places[a]!.y - places[b]!.y);
          const lengthOf = (way: readonly number[]): number =>
            way.slice(1).reduce((sum, at, index) => sum + between(way[index]!, at), 0);
          const best = (left: readonly number[], here: number): number =>
            left.length
              ? Math.min(
                  ...left.map(
                    (next) =>
                      between(here, next) +
                      best(
                        left.filter((one) => one !== next),
                        next,
                      ),
                  ),
                )
              : 0;
          const way = shortWay(places.length, between);
          expect([...way].sort((a, b) => a - b)).toEqual(places.map((_, at) => at));
          const shortest = best(places.map((_, at) => at).slice(1), 0);
          expect(lengthOf(way)).toBeLessThanOrEqual(shortest * 1.15 + 1e-6);
        },
      ),
      { numRuns: times(150) },
    );
  });
});
