import { readerOf } from '../derive/reader.js';
import { houseOf } from '../house/house-file.js';
import { Plan } from '../testing/plan.js';
import { framedWalls } from './framing.js';

describe('Walls as they are framed, common practice', () => {
  it('are outer, wet or inner; studs on center, none in an opening, a king stud at each side of it: by hand', () => {
    const plan = new Plan('Framed');
    const rect = (x: number): { id: string; xIn: number; yIn: number }[] =>
      [
        [x, 0],
        [x + 96, 0],
        [x + 96, 80],
        [x, 80],
      ].map(([xIn, yIn], at) => ({ id: `c${at}`, xIn: xIn!, yIn: yIn! }));
    const [bath, hall, den] = [
      plan.room('Bath', 'bath'),
      plan.room('Hall', 'hall'),
      plan.room('Den', 'office'),
    ];
    plan.file.rooms.forEach((room, at) => (room.outline = rect(at * 96)));
    const on = { alongIn: 20, widthIn: 30 };
    plan.file.bands.push({
      id: plan.id(),
      roomId: bath,
      corner: 'c1',
      kind: 'tub',
      depthIn: 30,
      fromIn: 0,
      toIn: 20,
      ...on,
    });
    // In the wall between hall and den, from 24 to 56 in: drawn in the den, where that wall is its last and runs down.
    plan.file.openings.push({
      id: plan.id(),
      roomId: den,
      corner: 'c3',
      alongIn: 24,
      widthIn: 32,
      sillIn: 0,
      headIn: 80,
      kind: 'door',
    });
    const reader = readerOf(houseOf(plan.file));
    const walls = framedWalls(reader, plan.file.storeys[0]!.id);
    const between = (one: string, other: string) =>
      walls.find(
        ({ wall: { left, right } }) =>
          [left?.roomId, right?.roomId].includes(one) && [left?.roomId, right?.roomId].includes(other),
      )!;
    expect([between(bath, hall).kind, between(bath, hall).depthIn]).toEqual(['plumbing', 5.5]);
    const inner = between(hall, den);
    expect([inner.kind, inner.depthIn]).toEqual(['interior', 3.5]);
    // 80 in long: ends at ¾ and 79¼; 16, then king studs at 21¾ and 58¼; 32 and 48 fall into the door; 64.
    const down = inner.wall.a.yIn > inner.wall.b.yIn;
    const door = down ? [24, 56] : [24, 56].map((at) => 80 - at).toReversed();
    expect(inner.openings.map(({ fromIn, toIn }) => [fromIn, toIn])).toEqual([door as [number, number]]);
    expect(inner.studsIn).toEqual([0.75, 16, door[0]! - 2.25, door[1]! + 2.25, 64, 79.25]);
    const outer = walls.filter(({ wall: { left, right } }) => !left || !right);
    expect(outer.length).toBe(8);
    expect(outer.every(({ kind, depthIn }) => kind === 'exterior' && depthIn === 5.5)).toBeTrue();
    // 96 in: 16 to 80 and both ends; 96 itself stands in the end stud.
    expect(outer.find(({ wall }) => wall.lengthIn === 96)!.studsIn).toEqual([
      0.75, 16, 32, 48, 64, 80, 95.25,
    ]);
  });
});
