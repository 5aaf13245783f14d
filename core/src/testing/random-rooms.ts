import * as fc from 'fast-check';
import type { HouseFile } from '../house/house-file.js';
import type { RoomKind } from '../vocabulary/kinds.js';
import { RoomKind as RoomKinds } from '../vocabulary/kinds.js';
import { inRows } from '../plan/arrange.js';
import { Plan } from './plan.js';

export interface RandomRooms {
  readonly file: HouseFile;
  readonly rules: Readonly<Record<string, string>>;
}

const room = fc.record({
  kind: fc.constantFrom<RoomKind[]>(...RoomKinds.options),
  lengthIn: fc.option(fc.integer({ min: 36, max: 480 }), { nil: undefined }),
  widthIn: fc.option(fc.integer({ min: 36, max: 360 }), { nil: undefined }),
  ways: fc.option(fc.integer({ min: 1, max: 4 }), { nil: undefined }),
});
const choices = fc.record({
  'draft.feed': fc.constantFrom('switch', 'light'),
  'draft.livingLight': fc.constantFrom('light', 'receptacle'),
  'draft.fans': fc.constantFrom('wired', 'light'),
  'draft.baths': fc.constantFrom('each', 'one'),
  'draft.points': fc.constantFrom('8', '10', '12', 'none'),
  'draft.lightsApart': fc.constantFrom('together', 'apart'),
});

/** Draws some rooms of a house in rows, and doors into their walls, not all of which fit. */
function draw(plan: Plan, each: number, doors: readonly (readonly [number, number, boolean])[]): void {
  for (const { id: storeyId } of plan.file.storeys) {
    const rooms = plan.file.rooms.filter((room, at) => room.storeyId === storeyId && at % each === 0);
    const outlines = inRows(
      rooms.map(({ id, lengthIn = 140, widthIn = 120 }) => ({ id, lengthIn, widthIn })),
    );
    rooms.forEach((room, at) => {
      room.outline = outlines.get(room.id)!.map((corner) => ({ ...corner }));
      const [wall, alongIn, isFar] = doors[at] ?? [];
      if (wall === undefined) return;
      plan.file.openings.push({
        id: plan.id(),
        roomId: room.id,
        corner: `c${wall}`,
        alongIn: alongIn!,
        widthIn: 32,
        sillIn: 0,
        headIn: 80,
        kind: 'door',
        hinge: isFar ? 'b' : 'a',
      });
    });
  }
}

/** Houses of rooms alone, of any kinds in any order, and what was chosen for their draft. */
export const randomRooms: fc.Arbitrary<RandomRooms> = fc
  .record({
    base: fc.constantFrom('us-2017' as const, 'us-2020' as const, 'us-2023' as const),
    storeys: fc.array(fc.array(room, { minLength: 1, maxLength: 8 }), { minLength: 1, maxLength: 3 }),
    rules: choices,
    /** Every n-th room is drawn, with a door here; none where it is 0. */
    drawn: fc.constantFrom(0, 0, 1, 2),
    doors: fc.array(fc.tuple(fc.nat(3), fc.integer({ min: 0, max: 200 }), fc.boolean()), { maxLength: 8 }),
  })
  .map(({ base, storeys, rules, drawn, doors }) => {
    const plan = new Plan('Rooms', base);
    storeys.forEach((rooms, index) => {
      const storeyId = index === 0 ? plan.file.storeys[0]!.id : plan.storey(`Floor ${index + 1}`);
      for (const { kind, ...size } of rooms) {
        plan.room(`${kind} ${plan.file.rooms.length + 1}`, kind, storeyId);
        const said = Object.fromEntries(Object.entries(size).filter(([, value]) => value !== undefined));
        Object.assign(plan.file.rooms.at(-1)!, said);
      }
    });
    if (drawn) draw(plan, drawn, doors);
    return { file: plan.file, rules };
  });
