import '../testing/seed.js';
import * as fc from 'fast-check';
import { readerOf } from '../derive/reader.js';
import { sizeOfRoom } from '../furnish/room-size.js';
import { houseOf } from '../house/house-file.js';
import type { Room } from '../house/model.js';
import { Plan } from '../testing/plan.js';
import { runs } from '../testing/seed.js';
import { movedBy, snapped } from './arrange.js';
import type { Outline } from './outline.js';
import { outlineOf } from './storey-plan.js';
import { readOutline } from './typed-outline.js';
import { clearInRows, outlineAround, putDown, wallDepths } from './wall-depths.js';

const draw = (room: Room, outline: Outline): void => {
  room.outline = outline.map(({ id, xIn, yIn }) => ({ id, xIn, yIn }));
};
const near = (value: number): jasmine.AsymmetricMatcher<number> => ({
  asymmetricMatch: (other) => Math.abs(other - value) < 1e-6,
});

describe('A room as it is typed is clear between its walls, each as deep as it is framed', () => {
  const plan = new Plan('Deep');
  plan.room('Den', 'office');
  plan.room('Bath', 'bath');
  const [den, bath] = plan.file.rooms as [Room, Room];
  const reader = () => readerOf(houseOf(plan.file));
  const clear = (room: Room) => {
    const { lengthIn, widthIn } = sizeOfRoom(reader(), room);
    return [lengthIn, widthIn];
  };
  const depths = (room: Room) => ['c0', 'c1', 'c2', 'c3'].map(wallDepths(reader(), room.id));

  it('by itself, beside another, and beside another once water comes to the wall between: by hand', () => {
    draw(den, outlineAround(reader(), den, readOutline('12 x 10')!, { xIn: 0, yIn: 0 }));
    // Outer walls of 5½ in on all four sides.
    expect(den.outline![2]).toEqual({ id: 'c2', xIn: 149.5, yIn: 125.5 });
    expect([clear(den), depths(den)]).toEqual([
      [144, 120],
      [5.5, 5.5, 5.5, 5.5],
    ]);
    draw(bath, outlineAround(reader(), bath, readOutline('8 x 10')!, { xIn: 300, yIn: 0 }));
    const moved = snapped(movedBy(outlineOf(bath)!, -152, 0.3), [outlineOf(den)!], 12);
    draw(bath, putDown(reader(), bath, moved));
    // Its left wall stands where the right one of the den does, now an inner one: 96 + 1¾ + 2¾.
    expect(bath.outline!.map(({ xIn }) => xIn)).toEqual([149.5, 250, 250, 149.5].map(near));
    expect([clear(bath), depths(bath)]).toEqual([
      [near(96), near(120)],
      [5.5, 5.5, 5.5, 3.5],
    ] as never);
    // The den has the inch that its wall lost.
    expect(clear(den)).toEqual([145, 120]);
    plan.file.bands.push({
      id: plan.id(),
      roomId: bath.id,
      kind: 'vanity',
      corner: 'c3',
      alongIn: 30,
      widthIn: 36,
      depthIn: 21,
      fromIn: 0,
      toIn: 34,
    });
    expect([depths(bath), clear(bath), clear(den)]).toEqual([
      [5.5, 5.5, 5.5, 5.5],
      [near(95), near(120)],
      [144, 120],
    ] as never);
  });

  it('a wall with the outside behind most of it is an outer one', () => {
    const other = new Plan('Part');
    ['One', 'Two'].forEach((name) => other.room(name, 'bedroom'));
    const [one, two] = other.file.rooms as [Room, Room];
    draw(one, readOutline('10 x 10')!);
    // Along 50, then 70 in of its right wall.
    for (const [yIn, depth] of [
      [70, 5.5],
      [50, 3.5],
    ] as const) {
      draw(two, movedBy(readOutline('10 x 10')!, 120, yIn));
      expect(wallDepths(readerOf(houseOf(other.file)), one.id)('c1')).toBe(depth);
    }
  });
});

describe('Rooms laid in rows', () => {
  it('have the sizes they were said to have, to an inch where the depth of a wall decides whether it meets another', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 60, max: 300 }), fc.integer({ min: 60, max: 240 })), {
          minLength: 1,
          maxLength: 9,
        }),
        (sizes) => {
          const plan = new Plan('Rows');
          const rooms = sizes.map(([lengthIn, widthIn], at) => ({
            id: plan.room(`R${at}`, 'bedroom'),
            lengthIn,
            widthIn,
          }));
          const outlines = clearInRows(readerOf(houseOf(plan.file)), rooms);
          plan.file.rooms.forEach((room) => draw(room, outlines.get(room.id)!));
          const reader = readerOf(houseOf(plan.file));
          for (const { id, lengthIn, widthIn } of rooms) {
            const size = sizeOfRoom(reader, reader.get('rooms', id)!);
            expect(size.lengthIn).toEqual(near(lengthIn) as never);
            expect(Math.abs(size.widthIn - widthIn)).toBeLessThanOrEqual(1 + 1e-6);
          }
        },
      ),
      { numRuns: runs(100) },
    );
  });
});
