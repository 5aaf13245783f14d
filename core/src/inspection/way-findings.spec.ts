import * as fc from 'fast-check';
import { applyChange } from '../changes/apply.js';
import { setting } from '../changes/change.js';
import { readerOf } from '../derive/reader.js';
import { houseOf } from '../house/house-file.js';
import { cutOf } from '../routing/cut.js';
import { Plan } from '../testing/plan.js';
import { randomFraming } from '../testing/random-framing.js';
import { many, runs } from '../testing/seed.js';
import { WAY_FINDINGS } from './way-findings.js';

/** Two rooms of 10 by 10 ft, so far apart, with a receptacle in each and a run between them. */
function twoRooms(apartIn: number, storey: object = {}) {
  const plan = new Plan('Two rooms');
  Object.assign(plan.file.storeys[0]!, { ceilingIn: 97, ...storey });
  const [one, other] = [0, 120 + apartIn].map((x, at) => {
    const id = plan.room(`Room ${at}`, 'bedroom');
    plan.file.rooms.at(-1)!.outline = [
      [x, 0],
      [x + 120, 0],
      [x + 120, 120],
      [x, 120],
    ].map(([xIn, yIn], corner) => ({ id: `c${corner}`, xIn: xIn!, yIn: yIn! }));
    return id;
  });
  const panel = plan.box('P', 'panel', { roomId: one!, corner: 'c3', alongIn: 60 });
  const circuit = plan.circuit(1, 'One', panel, 15);
  const a = plan.box('A', 'plastic-1g-18', { roomId: one!, corner: 'c0', alongIn: 60, heightIn: 16 });
  const b = plan.box('B', 'plastic-1g-18', { roomId: other!, corner: 'c0', alongIn: 60, heightIn: 16 });
  const run = plan.run(a, b, '14/2', circuit);
  return { plan, rooms: [one!, other!] as const, boxes: [a, b] as const, run };
}
const said = ({ plan, run }: ReturnType<typeof twoRooms>): unknown[] => {
  const reader = readerOf(houseOf(plan.file));
  return [
    cutOf(reader, { id: run }).source,
    ...reader.derive(WAY_FINDINGS, run).map(({ code, facts }) => [code, facts]),
  ];
};

describe('What is wrong with ways', () => {
  it('is said where there is none, and the length is estimated: nothing stands still', () => {
    // Side by side there is a way; in two parts that touch nowhere there is none.
    expect(said(twoRooms(0))).toEqual(['way']);
    expect(said(twoRooms(200))).toEqual(['estimate', ['way.none', { why: 'apart' }]]);
    // A slab below and the roof above: along the walls there is a way all the same.
    expect(said(twoRooms(0, { below: 'slab', overhead: 'roof' }))).toEqual(['way']);
    // A door from wall to wall in the wall between them, and a beam across: none.
    const blocked = twoRooms(0, {
      below: 'slab',
      framing: 'i-joists',
      framingRuns: 'up',
      overhead: 'storey',
    });
    blocked.plan.file.openings.push({
      id: blocked.plan.id(),
      roomId: blocked.rooms[0],
      corner: 'c0',
      alongIn: 100,
      widthIn: 20,
      sillIn: 0,
      headIn: 80,
    });
    blocked.plan.file.openings.push({
      id: blocked.plan.id(),
      roomId: blocked.rooms[0],
      corner: 'c2',
      alongIn: 0,
      widthIn: 20,
      sillIn: 0,
      headIn: 80,
    });
    blocked.plan.file.openings.push({
      id: blocked.plan.id(),
      roomId: blocked.rooms[0],
      corner: 'c1',
      alongIn: 0,
      widthIn: 120,
      sillIn: 0,
      headIn: 80,
    });
    expect(said(blocked)).toEqual(['estimate', ['way.none', { why: 'apart' }]]);
    // By the maker's chart the I-joists may be bored: there is a way.
    blocked.plan.file.storeys[0]!.boring = 'the maker’s chart';
    expect(said(blocked)).toEqual(['way']);
    // A box beyond the end of its wall; one in a room that nobody has drawn is nothing wrong; what was measured needs no way.
    const off = twoRooms(0);
    off.plan.file.boxes.find(({ id }) => id === off.boxes[1])!.alongIn = 180;
    expect(said(off)).toEqual(['estimate', ['way.none', { why: 'no-wall' }]]);
    delete off.plan.file.rooms[1]!.outline;
    expect(said(off)).toEqual(['estimate']);
    const measured = twoRooms(200);
    measured.plan.file.runs[0]!.measuredLengthIn = 480;
    expect(said(measured)).toEqual(['measured']);
  });

  it('goes away with what is offered, and points and walls that somebody named are kept until then', () => {
    let taken = 0;
    fc.assert(
      fc.property(
        randomFraming,
        fc.array(fc.tuple(fc.nat(300), fc.nat(200), fc.constantFrom(20, 60, 101, -5)), { maxLength: 3 }),
        fc.array(fc.tuple(fc.nat(9), fc.nat(3)), { maxLength: 8 }),
        ({ house, file, runs: ids }, points, walls) => {
          for (const id of ids) {
            const route = points.map(([xIn, y, zIn]) => ({ xIn, yIn: -y, zIn }));
            const shutOut = walls.map(([at, corner]) => ({
              roomId: file.rooms[at % file.rooms.length]!.id,
              corner: `c${corner}`,
            }));
            const set = applyChange(house, setting('runs', id, { route, shutOut }));
            if (!set.ok) throw new Error(set.refusal.message);
            const reader = readerOf(set.document);
            expect(reader.get('runs', id)).toEqual(jasmine.objectContaining({ route, shutOut }));
            for (const { code, fixes = [] } of reader.derive(WAY_FINDINGS, id))
              for (const { change } of fixes) {
                const fixed = applyChange(set.document, change!);
                if (!fixed.ok) throw new Error(fixed.refusal.message);
                const after = readerOf(fixed.document).derive(WAY_FINDINGS, id);
                expect(after.map((one) => one.code)).not.toContain(code);
                taken++;
              }
          }
        },
      ),
      { numRuns: runs(60) },
    );
    expect(taken).toBeGreaterThan(many(0));
  });
});
