import * as fc from 'fast-check';
import type { HouseFile } from '../house/house-file.js';
import { inRows } from '../plan/arrange.js';
import type { BandKind, RoomKind } from '../vocabulary/kinds.js';
import { RoomKind as RoomKinds } from '../vocabulary/kinds.js';
import { Plan } from './plan.js';

export interface RandomLayout {
  readonly file: HouseFile;
  readonly rules: Readonly<Record<string, string>>;
  /** Which boxes of the draft somebody takes away, in turn, and by how much others are moved along their walls. */
  readonly gone: readonly boolean[];
  readonly shifts: readonly number[];
}

const STANDS: readonly (readonly [BandKind, number, number, number])[] = [
  // kind, depth, from, to
  ['counter', 25, 0, 36],
  ['cabinet', 12, 54, 84],
  ['cabinet', 24, 0, 84],
  ['fireplace', 24, 0, 60],
  ['basin', 18, 30, 34],
  ['vanity', 21, 0, 34],
  ['mirror', 1, 40, 76],
  ['tub', 30, 0, 20],
  ['shower', 36, 0, 80],
  ['trim', 1, 30, 36],
];

const onWall = fc.record({ wall: fc.nat(3), alongIn: fc.integer({ min: 0, max: 160 }) });
const room = fc.record({
  kind: fc.constantFrom<RoomKind[]>(...RoomKinds.options, 'kitchen', 'bath', 'living'),
  lengthIn: fc.integer({ min: 60, max: 300 }),
  widthIn: fc.integer({ min: 60, max: 240 }),
  openings: fc.array(
    fc.record({
      at: onWall,
      widthIn: fc.integer({ min: 20, max: 72 }),
      kind: fc.constantFrom('door' as const, 'door' as const, 'window' as const, 'opening' as const),
      hinge: fc.constantFrom('a' as const, 'b' as const),
      sillIn: fc.constantFrom(0, 30, 42),
    }),
    { maxLength: 3 },
  ),
  bands: fc.array(
    fc.record({ at: onWall, widthIn: fc.integer({ min: 12, max: 96 }), which: fc.nat(STANDS.length - 1) }),
    {
      maxLength: 4,
    },
  ),
});

/** Houses of drawn rooms with doors, windows and what is built in, wherever that falls, and what somebody does to their draft. */
export const randomLayout: fc.Arbitrary<RandomLayout> = fc
  .record({
    base: fc.constantFrom('us-2017' as const, 'us-2020' as const, 'us-2023' as const),
    rooms: fc.array(room, { minLength: 1, maxLength: 6 }),
    rules: fc.record({
      'draft.livingLight': fc.constantFrom('light', 'receptacle'),
      'draft.baths': fc.constantFrom('each', 'one'),
      'draft.lightsApart': fc.constantFrom('together', 'apart'),
    }),
    gone: fc.array(
      fc.integer({ min: 0, max: 5 }).map((n) => n === 0),
      { minLength: 3, maxLength: 9 },
    ),
    shifts: fc.array(fc.constantFrom(0, 0, 0, -30, 12, 24, 60), { minLength: 2, maxLength: 7 }),
  })
  .map(({ base, rooms, rules, gone, shifts }) => {
    const plan = new Plan('Layout', base);
    rooms.forEach(({ kind }, at) => plan.room(`${kind} ${at + 1}`, kind));
    const sized = plan.file.rooms.map(({ id }, at) => ({
      id,
      lengthIn: rooms[at]!.lengthIn,
      widthIn: rooms[at]!.widthIn,
    }));
    const outlines = inRows(sized);
    plan.file.rooms.forEach((own, index) => {
      own.outline = outlines.get(own.id)!.map((corner) => ({ ...corner }));
      for (const { at, widthIn, kind, hinge, sillIn } of rooms[index]!.openings)
        plan.file.openings.push({
          id: plan.id(),
          roomId: own.id,
          corner: `c${at.wall}`,
          alongIn: at.alongIn,
          widthIn,
          sillIn: kind === 'window' ? sillIn : 0,
          headIn: 80,
          kind,
          ...(kind === 'door' && { hinge }),
        });
      for (const { at, widthIn, which } of rooms[index]!.bands) {
        const [kind, depthIn, fromIn, toIn] = STANDS[which]!;
        plan.file.bands.push({
          id: plan.id(),
          roomId: own.id,
          kind,
          corner: `c${at.wall}`,
          alongIn: at.alongIn,
          widthIn,
          depthIn,
          fromIn,
          toIn,
        });
      }
    });
    return { file: plan.file, rules, gone, shifts };
  });
