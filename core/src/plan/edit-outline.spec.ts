import '../testing/seed.js';
import * as fc from 'fast-check';
import { applyChange } from '../changes/apply.js';
import { readerOf } from '../derive/reader.js';
import { houseOf } from '../house/house-file.js';
import type { House } from '../house/house.js';
import { Plan } from '../testing/plan.js';
import { runs } from '../testing/seed.js';
import type { Edited } from './edit-outline.js';
import {
  cornerAdded,
  cornerMoved,
  cornerRemoved,
  joinRooms,
  splitRoom,
  wallMoved,
  withOutline,
} from './edit-outline.js';
import { signedArea } from './outline.js';
import { outlineOf, storeyPlan } from './storey-plan.js';
import { readOutline } from './typed-outline.js';

const size = fc.record({
  x: fc.integer({ min: 8, max: 33 }).map((n) => 12 * n),
  y: fc.integer({ min: 8, max: 25 }).map((n) => 12 * n),
});

/** A room with boxes on all its walls and in its ceiling, a door and a vanity. */
function start({ x, y }: { x: number; y: number }) {
  const plan = new Plan('Edited');
  plan.room('Room', 'bath');
  const room = plan.file.rooms[0]!;
  room.outline = readOutline(`${x / 12} x ${y / 12}`, 3.5)!.map((corner) => ({ ...corner }));
  const length = { c0: x, c1: y, c2: x, c3: y } as const;
  for (const corner of ['c0', 'c1', 'c2', 'c3'] as const)
    for (const part of [0.2, 0.45, 0.9])
      plan.box(`R${plan.file.boxes.length}`, 'plastic-1g-18', {
        corner,
        alongIn: Math.round(length[corner] * part),
      });
  plan.box('L1', 'plastic-round-20', { xIn: x / 4, yIn: y / 2 });
  plan.box('L2', 'plastic-round-20', { xIn: (3 * x) / 4, yIn: y / 2 });
  plan.box('R99');
  const at = { roomId: room.id, corner: 'c0', alongIn: 10, widthIn: 24 };
  plan.file.openings.push({ id: plan.id(), ...at, sillIn: 0, headIn: 80, kind: 'door', hinge: 'a' });
  plan.file.bands.push({
    id: plan.id(),
    ...at,
    corner: 'c2',
    kind: 'vanity',
    depthIn: 21,
    fromIn: 0,
    toIn: 34,
  });
  return { plan, house: houseOf(plan.file), roomId: room.id, newId: plan.id() };
}

const places = (house: House): Map<string, readonly [x: number, y: number]> => {
  const reader = readerOf(house);
  return new Map(
    reader
      .all('storeys')
      .flatMap(({ id }) =>
        storeyPlan(reader, id).boxes.map(({ boxId, xIn, yIn }) => [boxId, [xIn, yIn]] as const),
      ),
  );
};
/** Everything stands where it stood; what stands in a seam, to half an inch. */
function expectSamePlaces(now: House, before: House): void {
  const [own, old] = [places(now), places(before)];
  expect([...own.keys()].sort()).toEqual([...old.keys()].sort());
  for (const [boxId, [x, y]] of own) {
    const [oldX, oldY] = old.get(boxId)!;
    expect(Math.max(Math.abs(x - oldX), Math.abs(y - oldY)))
      .withContext(boxId)
      .toBeLessThanOrEqual(0.51);
  }
}
const taken = (house: House, edited: Edited): House => {
  if (!edited.ok) throw new Error(edited.problem);
  const applied = applyChange(house, { kind: 'group', changes: [...edited.changes] });
  if (!applied.ok) throw new Error(JSON.stringify(applied.refusal));
  return applied.document;
};
const area = (house: House): number =>
  readerOf(house)
    .all('rooms')
    .reduce((sum, room) => sum + signedArea(outlineOf(room)!), 0);

describe('A room that is split, and joined again', () => {
  it('loses no floor, and everything stands where it stood', () => {
    fc.assert(
      fc.property(
        size,
        fc.double({ min: 0.3, max: 0.7, noNaN: true }),
        fc.double({ min: 0.3, max: 0.7, noNaN: true }),
        fc.boolean(),
        (xy, one, other, isAcross) => {
          const { house, roomId, newId } = start(xy);
          const reader = readerOf(house);
          const [a, b, long] = isAcross ? ['c0', 'c2', xy.x] : ['c1', 'c3', xy.y];
          const split = taken(
            house,
            splitRoom(
              reader,
              reader.get('rooms', roomId)!,
              [
                { corner: String(a), alongIn: Number(long) * one },
                { corner: String(b), alongIn: Number(long) * other },
              ],
              { id: newId, name: 'New', kind: 'closet' },
            ),
          );
          expect(area(split)).toBeCloseTo(area(house), 6);
          expectSamePlaces(split, house);
          expect(split.tables.boxes.size).toBe(house.tables.boxes.size);
          expect(split.tables.openings.size + split.tables.bands.size).toBe(2);
          // Each part has what stands on its own walls.
          const after = readerOf(split);
          expect(after.mentioning('boxes', newId).length).toBeGreaterThan(0);
          const joined = taken(
            split,
            joinRooms(after, after.get('rooms', roomId)!, after.get('rooms', newId)!),
          );
          expect(joined.tables.rooms.size).toBe(1);
          expect(area(joined)).toBeCloseTo(area(house), 6);
          expectSamePlaces(joined, house);
          expect(outlineOf(readerOf(joined).get('rooms', roomId)!)!.length).toBe(4);
          expect(joined.tables.boxes.size).toBe(house.tables.boxes.size);
        },
      ),
      { numRuns: runs(60) },
    );
  });

  it('is not split from a wall to itself, nor joined with a room that is apart', () => {
    const { house, roomId, plan } = start({ x: 144, y: 120 });
    const reader = readerOf(house);
    const room = reader.get('rooms', roomId)!;
    const at = (alongIn: number) => ({ corner: 'c0', alongIn });
    expect(splitRoom(reader, room, [at(20), at(60)], { id: plan.id(), name: 'N', kind: 'other' })).toEqual({
      ok: false,
      problem: 'no-such-wall',
    });
    const far = {
      ...room,
      id: plan.id(),
      outline: room.outline!.map(({ id, xIn, yIn }) => ({ id, xIn: xIn + 1000, yIn })),
    };
    expect(joinRooms(reader, room, far)).toEqual({ ok: false, problem: 'apart' });
  });
});

describe('Corners and walls', () => {
  it('that are added and taken away leave everything where it stood, and no name is used twice', () => {
    fc.assert(
      fc.property(
        size,
        fc.constantFrom('c0', 'c1', 'c2', 'c3'),
        fc.double({ min: 0.25, max: 0.8, noNaN: true }),
        (xy, corner, part) => {
          const { house, roomId } = start(xy);
          const reader = readerOf(house);
          const room = reader.get('rooms', roomId)!;
          const long = corner === 'c0' || corner === 'c2' ? xy.x : xy.y;
          const more = cornerAdded(outlineOf(room)!, corner, long * part);
          expect(more.map(({ id }) => id)).toContain('c4');
          const added = taken(house, withOutline(reader, room, more, true));
          expectSamePlaces(added, house);
          const again = readerOf(added);
          const less = taken(
            added,
            withOutline(again, again.get('rooms', roomId)!, cornerRemoved(more, 'c4'), true),
          );
          expectSamePlaces(less, house);
        },
      ),
      { numRuns: runs(40) },
    );
  });

  it('are drawn to the lines of others within reach; a wall moves square to itself', () => {
    const outline = readOutline('12 x 10', 0)!;
    const other = readOutline('5 x 5', 0)!.map((corner) => ({
      ...corner,
      xIn: corner.xIn + 150,
      yIn: corner.yIn + 60,
    }));
    const moved = cornerMoved(outline, 'c1', { xIn: 147, yIn: 3 }, [other], 8);
    expect(moved[1]).toEqual({ id: 'c1', xIn: 144, yIn: 0 });
    expect(cornerMoved(outline, 'c1', { xIn: 153, yIn: 57 }, [other], 8)[1]).toEqual({
      id: 'c1',
      xIn: 150,
      yIn: 60,
    });
    const wider = wallMoved(outline, 'c1', 8, [other], 8);
    expect(wider.map(({ xIn }) => xIn)).toEqual([0, 150, 150, 0]);
    expect(wallMoved(outline, 'c0', 12).map(({ yIn }) => yIn)).toEqual([-12, -12, 120, 120]);
    expect(
      withOutline(
        readerOf(start({ x: 144, y: 120 }).house),
        start({ x: 144, y: 120 }).plan.file.rooms[0]!,
        cornerMoved(outline, 'c0', { xIn: 72, yIn: 200 }),
        false,
      ),
    ).toEqual({
      ok: false,
      problem: 'crossing',
    });
  });
});
