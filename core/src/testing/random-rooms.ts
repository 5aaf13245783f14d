import * as fc from 'fast-check';
import type { HouseFile } from '../house/house-file.js';
import type { RoomKind } from '../vocabulary/kinds.js';
import { RoomKind as RoomKinds } from '../vocabulary/kinds.js';
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

/** Houses of rooms alone, of any kinds in any order, and what was chosen for their draft. */
export const randomRooms: fc.Arbitrary<RandomRooms> = fc
  .record({
    base: fc.constantFrom('us-2017' as const, 'us-2020' as const, 'us-2023' as const),
    storeys: fc.array(fc.array(room, { minLength: 1, maxLength: 8 }), { minLength: 1, maxLength: 3 }),
    rules: choices,
  })
  .map(({ base, storeys, rules }) => {
    const plan = new Plan('Rooms', base);
    storeys.forEach((rooms, index) => {
      const storeyId = index === 0 ? plan.file.storeys[0]!.id : plan.storey(`Floor ${index + 1}`);
      for (const { kind, ...size } of rooms) {
        plan.room(`${kind} ${plan.file.rooms.length + 1}`, kind, storeyId);
        const said = Object.fromEntries(Object.entries(size).filter(([, value]) => value !== undefined));
        Object.assign(plan.file.rooms.at(-1)!, said);
      }
    });
    return { file: plan.file, rules };
  });
