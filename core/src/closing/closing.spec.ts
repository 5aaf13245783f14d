import * as fc from 'fast-check';
import { applyChange } from '../changes/apply.js';
import type { ChangeBody } from '../changes/change.js';
import { adding, removing, setting } from '../changes/change.js';
import { readerOf } from '../derive/reader.js';
import type { House } from '../house/house.js';
import { houseOf } from '../house/house-file.js';
import type { Photo } from '../house/photo.js';
import { holesOfRun } from '../routing/holes.js';
import { stretchesOf } from '../routing/wall-stretch.js';
import { Plan } from '../testing/plan.js';
import { randomFraming } from '../testing/random-framing.js';
import { runs } from '../testing/seed.js';
import { roomShowing, tapeOf } from './after-board.js';
import { isPhotographed, photoWalls, photosOfBox } from './wall-photos.js';

const after = (house: House, ...bodies: ChangeBody[]): House =>
  bodies.reduce((before, body) => {
    const applied = applyChange(before, body);
    if (!applied.ok) throw new Error(applied.refusal.message);
    return applied.document;
  }, house);

function rooms() {
  const plan = new Plan('Lot 3');
  const kitchen = plan.room('Kitchen', 'kitchen');
  const panel = plan.box('PANEL', 'panel');
  const circuit = plan.circuit(1, 'Kitchen', panel, 20);
  const box = plan.box('R1', undefined, { corner: 'c1', alongIn: 30, heightIn: 18 });
  const other = plan.box('R2', undefined, { corner: 'c1', alongIn: 90, heightIn: 18 });
  const buried = plan.box('B1', 'buried-point', { corner: 'c1' });
  const run = plan.run(panel, box, '12/2', circuit);
  const by = plan.person('Ansel');
  let count = 0;
  const photo = (of: Partial<Photo>): ChangeBody =>
    adding('photos', {
      id: `99999999-0000-4000-8000-${String(++count).padStart(12, '0')}`,
      asset: 'a'.repeat(64),
      thumb: 'b'.repeat(64),
      widthPx: 1600,
      heightPx: 1200,
      at: '2026-03-02T08:00:00.000Z',
      by,
      ...of,
    });
  return { house: houseOf(plan.file), kitchen, panel, box, other, buried, run, by, photo, id: plan.id() };
}

describe('Photos of open walls', () => {
  it('are asked of four walls and the ceiling of a room that is only named', () => {
    const { house, kitchen, box, photo } = rooms();
    const walls = photoWalls(readerOf(house), kitchen);
    expect(walls.map(({ number }) => number)).toEqual([1, 2, 3, 4, undefined]);
    expect(walls[1]!.boxIds).toContain(box);
    const taken = after(
      house,
      photo({ roomId: kitchen, corner: 'c1' }),
      photo({ roomId: kitchen, ceiling: true }),
      photo({ roomId: kitchen, corner: 'c0', boarded: true }),
      // One that nobody counted on: a room of six walls.
      photo({ roomId: kitchen, corner: 'c5' }),
    );
    expect(photoWalls(readerOf(taken), kitchen).map((wall) => [wall.number, isPhotographed(wall)])).toEqual([
      [1, false],
      [2, true],
      [3, false],
      [4, false],
      [6, true],
      [undefined, true],
    ]);
  });

  it('stay in sight when the room is drawn with other walls afterwards', () => {
    const { house, kitchen, photo } = rooms();
    const square = [
      [0, 0],
      [120, 0],
      [120, 96],
      [0, 96],
    ].map(([xIn, yIn], at) => ({ id: `w${at}`, xIn: xIn!, yIn: yIn! }));
    const drawn = after(
      house,
      photo({ roomId: kitchen, corner: 'c2' }),
      setting('rooms', kitchen, { outline: square }),
    );
    const walls = photoWalls(readerOf(drawn), kitchen);
    expect(walls.map(({ corner }) => corner)).toEqual(['w0', 'w1', 'w2', 'w3', 'c2', undefined]);
    expect(walls.map(isPhotographed)).toEqual([false, false, false, false, true, false]);
  });

  it('are asked for again when a cable came in since, and stay when what they show is taken out', () => {
    const { house, kitchen, box, run, by, photo, id } = rooms();
    const mark = { boxId: box, x: 0.1, y: 0.2, width: 0.1, height: 0.1 };
    const taken = after(
      house,
      photo({ roomId: kitchen, corner: 'c1', marks: [mark] }),
      photo({ boxId: box }),
    );
    const pulled = after(
      taken,
      adding('pulls', { id, runId: run, cable: '12/2', at: '2026-03-02T09:00:00.000Z', by, state: 'in' }),
    );
    expect(photoWalls(readerOf(taken), kitchen)[1]!.cameAfter).toEqual([]);
    const [, wall] = photoWalls(readerOf(pulled), kitchen);
    expect([wall!.cameAfter, isPhotographed(wall!)]).toEqual([[run], false]);
    const again = after(pulled, photo({ roomId: kitchen, corner: 'c1', at: '2026-03-02T10:00:00.000Z' }));
    expect(isPhotographed(photoWalls(readerOf(again), kitchen)[1]!)).toBeTrue();
    // The one in which it is marked first, then its own, then those of its wall.
    expect(photosOfBox(readerOf(again), box).map(({ marks, boxId }) => [marks?.length, boxId])).toEqual([
      [1, undefined],
      [undefined, box],
      [undefined, undefined],
    ]);
    const gone = after(again, removing('boxes', box, true), removing('rooms', kitchen, true));
    const left = [...gone.tables.photos.values()].map(({ record }) => record);
    expect(left.length).toBe(3);
    expect(left.some((one) => one.roomId ?? one.boxId ?? one.marks?.length)).toBeFalse();
  });
});

describe('The round after the board', () => {
  it('counts what shows, and a later look wins', () => {
    const { house, kitchen, box, other, buried, by } = rooms();
    const look = (boxId: string, result: 'pass' | 'fail', at: number): ChangeBody =>
      adding('records', {
        id: `88888888-0000-4000-8000-${String(at).padStart(12, '0')}`,
        kind: 'tick',
        at: `2026-03-0${at}T08:00:00.000Z`,
        by,
        boxId,
        step: 'showing',
        result,
      });
    const seen = roomShowing(
      readerOf(
        after(
          house,
          look(box, 'fail', 1),
          look(other, 'pass', 2),
          look(box, 'pass', 3),
          look(other, 'fail', 4),
        ),
      ),
      kitchen,
    );
    // Neither the panel nor what has no box.
    expect(seen.boxes.map(({ boxId, is }) => [boxId, is])).toEqual([
      [box, 'shows'],
      [other, 'missing'],
    ]);
    expect([seen.showing, seen.missing, seen.of]).toEqual([1, 1, 2]);
    expect(seen.boxes.some(({ boxId }) => boxId === buried)).toBeFalse();
  });

  it('finds boxes by tape from both corners, and every hole of a run on one of its stretches', () => {
    fc.assert(
      fc.property(randomFraming, ({ house, file }) => {
        const reader = readerOf(house);
        for (const box of reader.all('boxes')) {
          const tape = tapeOf(reader, box.id);
          if (!tape) continue;
          const room = file.rooms.find(({ id }) => id === box.roomId)!;
          const at = room.outline!.findIndex(({ id }) => id === box.corner);
          const [a, b] = [room.outline![at]!, room.outline![(at + 1) % room.outline!.length]!];
          // The face that the room sees is the center line less the wall's depth at each end, or more round a corner outward.
          const long = Math.hypot(a.xIn - b.xIn, a.yIn - b.yIn);
          expect(Math.abs(tape.fromLeftIn + tape.fromRightIn - long)).toBeLessThan(10);
          expect(Math.abs(tape.fromRightIn - box.alongIn!)).toBeLessThan(6);
        }
        for (const { id } of reader.all('runs')) {
          const holes = holesOfRun(reader, id).filter(({ at }) => at.wall !== undefined).length;
          const stretches = stretchesOf(reader, id);
          // Seen from both rooms beside a wall: from each the same.
          const sides = new Map<string, number>();
          for (const { roomId, holes: own } of stretches) sides.set(roomId, (sides.get(roomId) ?? 0) + own);
          const all = [...sides.values()].reduce((sum, own) => sum + own, 0);
          expect(all).toBeLessThanOrEqual(2 * holes);
          expect(all).toBeGreaterThanOrEqual(holes);
        }
      }),
      { numRuns: runs(40) },
    );
  });
});
