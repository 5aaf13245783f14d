import * as fc from 'fast-check';
import { houseOf } from '../house/house-file.js';
import type { House } from '../house/house.js';
import type { HouseFile } from '../house/house-file.js';
import { inRows } from '../plan/arrange.js';
import { Plan } from './plan.js';

/** A house of one to three stories with boxes anywhere on walls, in ceilings and floors, and runs between any of them. */
export interface RandomFraming {
  readonly file: HouseFile;
  readonly house: House;
  readonly boxes: readonly string[];
  readonly runs: readonly string[];
}

const opening = fc.record({
  wall: fc.nat(3),
  alongIn: fc.integer({ min: 0, max: 150 }),
  widthIn: fc.integer({ min: 20, max: 72 }),
  sillIn: fc.constantFrom(0, 0, 30, 44),
  headIn: fc.constantFrom(80, 80, 68),
  boring: fc.boolean(),
});
const room = fc.record({
  lengthIn: fc.integer({ min: 60, max: 260 }),
  widthIn: fc.integer({ min: 60, max: 200 }),
  openings: fc.array(opening, { maxLength: 3 }),
  vaulted: fc.integer({ min: 0, max: 5 }).map((n) => n === 0),
  drawn: fc.integer({ min: 0, max: 11 }).map((n) => n > 0),
  apart: fc.integer({ min: 0, max: 11 }).map((n) => n === 0),
});
const storey = fc.record({
  rooms: fc.array(room, { minLength: 1, maxLength: 5 }),
  ceilingIn: fc.constantFrom(97, 97, 109, 90, 60),
  overhead: fc.constantFrom(undefined, 'attic' as const, 'storey' as const, 'roof' as const),
  below: fc.constantFrom(
    undefined,
    'storey' as const,
    'slab' as const,
    'crawl-space' as const,
    'basement' as const,
  ),
  framing: fc.constantFrom(undefined, 'joists' as const, 'trusses' as const, 'i-joists' as const),
  framingRuns: fc.constantFrom(undefined, 'across' as const, 'up' as const),
  boring: fc.boolean(),
  beams: fc.array(
    fc.record({ at: fc.integer({ min: -50, max: 500 }), isUp: fc.boolean(), boring: fc.boolean() }),
    { maxLength: 2 },
  ),
});
const box = fc.record({
  room: fc.nat(20),
  stands: fc.constantFrom('wall', 'wall', 'wall', 'ceiling', 'floor', 'nowhere'),
  wall: fc.nat(4),
  alongIn: fc.integer({ min: 0, max: 270 }),
  heightIn: fc.constantFrom(undefined, 12, 16, 44, 48, 72, 88),
  dx: fc.integer({ min: 4, max: 200 }),
  dy: fc.integer({ min: 4, max: 200 }),
});

export const randomFraming: fc.Arbitrary<RandomFraming> = fc
  .record({
    storeys: fc.array(storey, { minLength: 1, maxLength: 3 }),
    boxes: fc.array(box, { minLength: 3, maxLength: 12 }),
    runs: fc.array(
      fc.record({
        from: fc.nat(20),
        to: fc.nat(20),
        cable: fc.constantFrom('14/2', '14/3', '12/2', '6/3'),
      }),
      { minLength: 2, maxLength: 14 },
    ),
    rules: fc.record({
      'route.prefer': fc.constantFrom('cheapest', 'stay', 'over'),
      'route.chain': fc.constantFrom('low', 'box', 'top'),
      'route.attic': fc.constantFrom('over', 'bored'),
      'bore.perHole': fc.constantFrom(1, 2, 3),
    }),
  })
  .map(({ storeys, boxes, runs, rules }) => {
    const plan = new Plan('Framed');
    plan.file.rulebook.overrides = Object.fromEntries(
      Object.entries(rules).map(([key, value]) => [key, { value }]),
    );
    plan.file.storeys.length = 0;
    storeys.forEach(({ rooms, beams, boring, ...own }, level) => {
      const storeyId = plan.storey(`Floor ${level}`);
      Object.assign(plan.file.storeys.at(-1)!, {
        ...Object.fromEntries(Object.entries(own).filter(([, value]) => value !== undefined)),
        level,
        ...(boring && { boring: 'engineer’s letter' }),
      });
      for (const beam of beams)
        plan.file.beams.push({
          id: plan.id(),
          storeyId,
          a: beam.isUp ? { xIn: beam.at, yIn: -50 } : { xIn: -50, yIn: beam.at },
          b: beam.isUp ? { xIn: beam.at, yIn: 400 } : { xIn: 900, yIn: beam.at },
          ...(beam.boring && { boring: 'maker’s chart' }),
        });
      const ids = rooms.map((_room, at) => plan.room(`Room ${level} ${at}`, 'other', storeyId));
      const outlines = inRows(
        ids.map((id, at) => ({ id, lengthIn: rooms[at]!.lengthIn, widthIn: rooms[at]!.widthIn })),
      );
      rooms.forEach(({ openings, vaulted, drawn, apart }, at) => {
        const own = plan.file.rooms.find(({ id }) => id === ids[at])!;
        if (vaulted) own.vaulted = true;
        // A wing that touches nothing, and rooms that nobody has drawn.
        if (drawn)
          own.outline = outlines
            .get(own.id)!
            .map((corner) => ({ ...corner, yIn: corner.yIn + (apart ? 700 : 0) }));
        for (const { wall, boring: mayBore, ...where } of openings)
          plan.file.openings.push({
            id: plan.id(),
            roomId: own.id,
            corner: `c${wall}`,
            ...where,
            kind: where.sillIn > 0 ? 'window' : 'door',
            ...(mayBore && { boring: 'engineer’s letter' }),
          });
      });
    });
    const panel = plan.box('PANEL', 'panel', {
      roomId: plan.file.rooms[0]!.id,
      corner: 'c0',
      alongIn: 20,
    });
    const circuitId = plan.circuit(1, 'One', panel, 15);
    const ids = [
      panel,
      ...boxes.map(({ room: at, stands, wall, alongIn, heightIn, dx, dy }, number) => {
        const own = plan.file.rooms[at % plan.file.rooms.length]!;
        const corner = own.outline?.[0] ?? { xIn: 0, yIn: 0 };
        const place =
          stands === 'wall'
            ? { corner: `c${wall}`, alongIn, ...(heightIn !== undefined && { heightIn }) }
            : stands === 'nowhere'
              ? {}
              : {
                  xIn: corner.xIn + dx,
                  yIn: corner.yIn + dy,
                  ...(stands === 'floor' && { heightIn: 0 }),
                };
        return plan.box(`B${number}`, stands === 'ceiling' ? 'plastic-round-20' : 'plastic-1g-18', {
          roomId: own.id,
          ...place,
        });
      }),
    ];
    const made = runs.flatMap(({ from, to, cable }) => {
      const [a, b] = [ids[from % ids.length]!, ids[to % ids.length]!];
      return a === b ? [] : [plan.run(a, b, cable, circuitId)];
    });
    return { file: plan.file, house: houseOf(plan.file), boxes: ids, runs: made };
  });
