import * as fc from 'fast-check';
import { applyChange } from '../changes/apply.js';
import type { ChangeBody } from '../changes/change.js';
import { adding, setting } from '../changes/change.js';

import { Derivations } from '../derive/derivations.js';
import { readerOf } from '../derive/reader.js';
import type { HouseReader } from '../derive/reader.js';
import { houseOf } from '../house/house-file.js';
import { Plan } from '../testing/plan.js';
import { randomFraming } from '../testing/random-framing.js';
import { runs } from '../testing/seed.js';
import { drillSheet } from './drill-sheet.js';
import { boredIn, boredMembers, holesIn, holesOfRun } from './holes.js';
import { routeRun } from './route-run.js';
import { staplesBetween } from './securing.js';
import { searches, wayBetween } from './way.js';

const everything = (reader: HouseReader): unknown => ({
  runs: reader.all('runs').map((run) => routeRun(reader, run)),
  holes: boredMembers(reader).map((member) => holesIn(reader, member)),
});

describe('Ways of runs', () => {
  it('are the same from either end, and kept as if routed afresh, whatever is changed', () => {
    fc.assert(
      fc.property(
        randomFraming,
        fc.array(fc.tuple(fc.nat(7), fc.nat(1000)), { maxLength: 5 }),
        ({ house: start, file, boxes, runs: ids }, picks) => {
          let house = start;
          const kept = new Derivations(house);
          for (const [kind, pick] of picks) {
            everything(kept.reader());
            const box = boxes[pick % boxes.length]!;
            const run = ids[pick % (ids.length || 1)];
            const room = file.rooms[pick % file.rooms.length]!;
            const bodies: (ChangeBody | undefined)[] = [
              setting('boxes', box, { alongIn: pick % 140 }),
              setting('boxes', box, { heightIn: pick % 90 }),
              run ? setting('runs', run, { plannedCable: pick % 2 ? '14/3' : '6/3' }) : undefined,
              run
                ? setting('runs', run, {
                    route: [{ xIn: pick % 200, yIn: -(pick % 120), zIn: pick % 3 ? 20 : 200 }],
                  })
                : undefined,
              run
                ? setting('runs', run, { shutOut: [{ roomId: room.id, corner: `c${pick % 4}` }] })
                : undefined,
              setting('storeys', file.storeys[0]!.id, { ceilingIn: 80 + (pick % 40) }),
              setting('rooms', room.id, { vaulted: pick % 2 === 0 ? true : null }),
              { kind: 'rule.set', key: 'bore.perHole', override: { value: 1 + (pick % 3) } },
            ];
            const applied = bodies[kind] && applyChange(house, bodies[kind]);
            if (!applied?.ok) continue;
            house = applied.document;
            kept.update(house);
          }
          const fresh = readerOf(house);
          expect(everything(kept.reader())).toEqual(everything(fresh));
          for (const run of fresh.all('runs')) {
            const [from, to] = [run.from.boxId, run.to.boxId];
            const [there, back] = [wayBetween(fresh, from, to, '14/2'), wayBetween(fresh, to, from, '14/2')];
            expect(back.lengthIn).toBeCloseTo(there.lengthIn, 6);
            expect(back.crossings.map(({ member }) => member).reverse()).toEqual(
              there.crossings.map(({ member }) => member),
            );
          }
        },
      ),
      { numRuns: runs(60) },
    );
  });

  it('share holes up to what one takes, each run in as many as it has members, none forgotten', () => {
    fc.assert(
      fc.property(randomFraming, ({ house }) => {
        const reader = readerOf(house);
        const perHole = reader.rules().number('bore.perHole');
        const through = new Map<string, number>();
        for (const member of boredMembers(reader))
          for (const hole of holesIn(reader, member)) {
            expect(hole.runIds.length).toBeGreaterThan(0);
            expect(hole.runIds.length).toBeLessThanOrEqual(hole.isSealed ? Math.min(2, perHole) : perHole);
            expect([...hole.runIds].sort()).toEqual([...hole.runIds]);
            for (const id of hole.runIds) through.set(id, (through.get(id) ?? 0) + 1);
          }
        for (const run of reader.all('runs')) {
          const { crossings } = routeRun(reader, run).cut.way;
          expect(through.get(run.id) ?? 0).toBe(crossings.length);
          expect(holesOfRun(reader, run.id).map(({ member }) => member)).toEqual(
            crossings.map(({ member }) => member),
          );
        }
      }),
      { numRuns: runs(60) },
    );
  });

  it('of a box that is moved are found anew, its members too, and nothing else', () => {
    const plan = new Plan('Row');
    const room = plan.room('Long', 'living');
    plan.file.rooms[0]!.outline = [
      [0, 0],
      [480, 0],
      [480, 144],
      [0, 144],
    ].map(([xIn, yIn], at) => ({ id: `c${at}`, xIn: xIn!, yIn: yIn! }));
    const box = (tag: string, corner: string, alongIn: number): string =>
      plan.box(tag, 'plastic-1g-18', { roomId: room, corner, alongIn, heightIn: 16 });
    const panel = plan.box('P', 'panel', { roomId: room, corner: 'c3', alongIn: 72 });
    const circuit = plan.circuit(1, 'One', panel, 15);
    const low = [60, 140, 220, 300, 380].map((at) => box(`R${at}`, 'c0', at));
    const high = [60, 140, 220, 300, 380].map((at) => box(`S${at}`, 'c2', at));
    for (const row of [low, high])
      row.forEach((id, at) => plan.run(at ? row[at - 1]! : panel, id, '14/2', circuit));
    const house = houseOf(plan.file);
    const kept = new Derivations(house);
    everything(kept.reader());
    const count = (name: string): number => kept.computedByName.get(name) ?? 0;
    const names = ['way between boxes', 'holes of a member'] as const;
    const before = names.map(count);
    // The third of a row, by less than a bay: its two runs, and no member that they do not go through.
    const moved = applyChange(house, setting('boxes', low[2]!, { alongIn: 260 }));
    if (!moved.ok) throw new Error('a box could not be moved');
    const had = new Set(
      kept
        .reader()
        .all('runs')
        .filter(({ from, to }) => [from.boxId, to.boxId].includes(low[2]!))
        .flatMap(({ id }) => holesOfRun(kept.reader(), id).map(({ member }) => member)),
    );
    const searched = searches.count;
    kept.update(moved.document);
    everything(kept.reader());
    // One search, from where it stands now: what comes to it is searched from where it was before.
    expect(searches.count - searched).toBe(1);
    const [ways, holes] = names.map((name, at) => count(name) - before[at]!);
    expect(ways).toBe(2);
    expect(holes).toBeGreaterThan(0);
    // Studs between 220 and 260 in: they are entered and left again, and no other.
    expect(holes).toBeLessThanOrEqual(had.size);
  });

  it('go through a forced point, stay out of walls that are shut, and say when they cannot', () => {
    fc.assert(
      fc.property(randomFraming, fc.nat(30), ({ house, runs: ids, file }, pick) => {
        const reader = readerOf(house);
        for (const id of ids) {
          const run = reader.get('runs', id)!;
          const free = routeRun(reader, run).cut.way;
          const over = free.segments[pick % (free.segments.length || 1)];
          const storeyId = reader.get('rooms', reader.get('boxes', run.from.boxId)!.roomId!)!.storeyId;
          // A point on its own way, by its story: nothing changes but that it is named.
          const floors = file.storeys.length;
          if (floors === 1 && over?.kind === 'studs') {
            const point = { storeyId, xIn: over.to.xIn, yIn: over.to.yIn, zIn: over.to.zIn };
            const set = applyChange(house, setting('runs', id, { route: [point] }));
            if (!set.ok) throw new Error(set.refusal.message);
            const forced = routeRun(readerOf(set.document), run).cut.way;
            const isOn = forced.segments.some(
              ({ from, to }) =>
                Math.min(
                  Math.hypot(from.xIn - point.xIn, from.yIn - point.yIn),
                  Math.hypot(to.xIn - point.xIn, to.yIn - point.yIn),
                ) < 1.1,
            );
            expect(isOn || forced.unreached !== undefined).toBe(true);
          }
          // Shut out every wall that it goes through, one by one: it goes elsewhere, or says that it cannot.
          const room = file.rooms[pick % file.rooms.length]!;
          const wall = { roomId: room.id, corner: `c${pick % 4}` };
          const shut = applyChange(house, setting('runs', id, { shutOut: [wall] }));
          if (!shut.ok) throw new Error(shut.refusal.message);
          const round = routeRun(readerOf(shut.document), run).cut.way;
          expect(round.unknown).toBe(free.unknown);
          if (round.isShut) expect(round.lengthIn).toBeCloseTo(free.lengthIn, 6);
        }
      }),
      { numRuns: runs(40) },
    );
  });
});

describe('The drill sheet', () => {
  it('has every hole once, on one wall of one room or over one ceiling, where a tape finds it', () => {
    fc.assert(
      fc.property(randomFraming, ({ house, file }) => {
        const reader = readerOf(house);
        const all = boredMembers(reader).flatMap((member) => holesIn(reader, member));
        const walls = file.rooms.flatMap(({ id }) => drillSheet(reader, id).walls);
        const listed = walls.flatMap(({ rows }) => rows.flatMap(({ holes }) => holes));
        expect(listed.length).toBe(all.length);
        expect(new Set(listed.map(({ hole }) => hole))).toEqual(new Set(all));
        for (const { rows, holes, plates, toSeal, lengthIn, corner } of walls) {
          const own = rows.flatMap((row) => row.holes);
          expect([holes, plates, toSeal]).toEqual([
            own.length,
            own.filter(({ hole }) => hole.needsPlate).length,
            own.filter(({ hole }) => hole.isSealed).length,
          ]);
          for (const { fromCornerIn } of own) {
            expect(fromCornerIn === undefined).toBe(corner === undefined);
            // The ends of a wall lie beyond its faces, by half the wall that it meets.
            expect(fromCornerIn ?? 0).toBeLessThanOrEqual((lengthIn ?? 0) + 6);
          }
          for (const { holes: row, diameterIn, heightIn, through } of rows)
            for (const { hole } of row) {
              expect(hole.diameterIn).toBe(diameterIn);
              if (through === 'studs') expect(hole.at.heightIn).toBe(heightIn!);
            }
        }
      }),
      { numRuns: runs(60) },
    );
  });

  it('knows what was ticked of a wall, and by how many holes', () => {
    const plan = new Plan('Ticked');
    const room = plan.room('Den', 'office');
    plan.file.rooms[0]!.outline = [
      [0, 0],
      [144, 0],
      [144, 120],
      [0, 120],
    ].map(([xIn, yIn], at) => ({ id: `c${at}`, xIn: xIn!, yIn: yIn! }));
    const on = (tag: string, model: string, alongIn: number): string =>
      plan.box(tag, model, { roomId: room, corner: 'c0', alongIn, heightIn: 16 });
    const panel = on('P', 'panel', 8);
    plan.run(panel, on('R', 'plastic-1g-18', 100), '14/2', plan.circuit(1, 'One', panel, 15));
    const house = houseOf(plan.file);
    const [wall] = drillSheet(readerOf(house), room).walls;
    // Studs at 16, 32 … 96 in; the face begins half of 5½ in from the corner.
    expect(wall!.rows.map(({ through, heightIn }) => [through, heightIn])).toEqual([['studs', 20]]);
    expect(wall!.rows[0]!.holes.map(({ fromCornerIn }) => fromCornerIn)).toEqual(
      [16, 32, 48, 64, 80, 96].map((at) => at - 2.75),
    );
    const ticked = applyChange(
      house,
      adding('records', {
        id: plan.id(),
        kind: 'tick',
        at: '2026-03-02T08:00:00Z',
        by: plan.person('Lead'),
        roomId: room,
        corner: 'c0',
        step: 'drilled-and-plated',
        holes: 6,
      }),
    );
    if (!ticked.ok) throw new Error(ticked.refusal.message);
    const sheet = drillSheet(readerOf(ticked.document), room);
    expect([sheet.done, sheet.walls[0]!.drilled?.holes]).toEqual([1, 6]);
  });
});

describe('What may be bored', () => {
  const reader = readerOf(houseOf(new Plan('Bits').file));
  const at = (
    bored: 'stud' | 'joist' | 'plate',
    depth: number,
    bit: number,
    isBearing = true,
  ): readonly unknown[] => {
    const { edgeIn, needsPlate, problems } = boredIn(reader, bored, depth, bit, isBearing);
    return [edgeIn, needsPlate, ...problems];
  };

  it('is what the limits say, row by row', () => {
    // NEC 300.4(A)(1): 1 1/4 in to the edge. IRC R602.6: 40 % of a bearing stud, 60 % of another, 5/8 in left. R502.8: a third of a
    // joist, 2 in from top and bottom. All from memory.
    expect(at('stud', 3.5, 0.75)).toEqual([1.375, false]);
    expect(at('stud', 3.5, 1)).toEqual([1.25, false]);
    expect(at('stud', 3.5, 1.0625)).toEqual([1.21875, true]);
    expect(at('stud', 5.5, 0.75)).toEqual([2.375, false]);
    expect(at('stud', 5.5, 2.2)).toEqual([1.65, false]);
    expect(at('stud', 5.5, 2.25)).toEqual([1.625, false, 'too-large']);
    expect(at('stud', 2.5, 0.75)).toEqual([0.875, true]);
    expect(at('stud', 2.5, 1)).toEqual([0.75, true]);
    expect(at('stud', 2.5, 1.25)).toEqual([0.625, true, 'too-large']);
    expect(at('stud', 2.5, 1.25, false)).toEqual([0.625, true]);
    expect(at('stud', 2.5, 1.5, false)).toEqual([0.5, true, 'too-near']);
    expect(at('joist', 9.25, 1)).toEqual([4.125, false]);
    expect(at('joist', 9.25, 3)).toEqual([3.125, false]);
    expect(at('joist', 9.25, 3.25)).toEqual([3, false, 'too-large']);
    expect(at('joist', 5.5, 1.75)).toEqual([1.875, false, 'too-near']);
    expect(at('plate', 3.5, 1)).toEqual([1.25, false]);
    expect(at('plate', 3.5, 2)).toEqual([0.75, true, 'too-large']);
  });

  it('holds cable by where it is: 12 in from a box with clamps, 8 from a plain one, 54 in apart', () => {
    // NEC 334.30, 314.17, from memory.
    const staples = (hole: number, within: number): number => staplesBetween(60, [hole, 50], within, 12, 54);
    expect([11.9, 12, 12.1].map((hole) => staples(hole, 12))).toEqual([0, 0, 1]);
    expect([7.9, 8, 8.1].map((hole) => staples(hole, 8))).toEqual([0, 0, 1]);
    // 12 in, then 53.9, 54 and 54.1 in on.
    expect([53.9, 54, 54.1].map((on) => staplesBetween(12 + on + 12, [12, 12 + on], 12, 12, 54))).toEqual([
      0, 0, 1,
    ]);
    // Nothing bored: at both ends, and every 54 in between: 12, 54 and so on over 200 in.
    expect(staplesBetween(200, [], 12, 12, 54)).toBe(2 + 3);
    expect(staplesBetween(10, [], 12, 12, 54)).toBe(1);
  });
});
