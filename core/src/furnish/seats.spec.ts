import '../testing/seed.js';
import * as fc from 'fast-check';
import { applyChange } from '../changes/apply.js';
import { readerOf } from '../derive/reader.js';
import { houseOf, writeHouseFile } from '../house/house-file.js';
import type { Band, Box, Opening, Room } from '../house/model.js';
import { inspectHouse } from '../inspection/inspect-house.js';
import { Plan } from '../testing/plan.js';
import { randomLayout } from '../testing/random-layout.js';
import { runs } from '../testing/seed.js';
import type { BandKind, RoomKind } from '../vocabulary/kinds.js';
import { draftHouse } from './draft-house.js';

/** Corners of a rectangle in inches, counter-clockwise from the lower left. */
const rectangle = (x: number, y: number, w: number, h: number): NonNullable<Room['outline']> =>
  [
    [x, y],
    [x + w, y],
    [x + w, y + h],
    [x, y + h],
  ].map(([xIn, yIn], at) => ({ id: `c${at}`, xIn: xIn!, yIn: yIn! }));

class Drawn {
  readonly plan = new Plan('Drawn', 'us-2020');

  room(kind: RoomKind, x: number, y: number, w: number, h: number): string {
    const id = this.plan.room(kind, kind);
    this.plan.file.rooms.at(-1)!.outline = rectangle(x, y, w, h);
    return id;
  }
  opening(roomId: string, corner: string, alongIn: number, more: Partial<Opening> = {}): void {
    const fixed = { widthIn: 32, sillIn: 0, headIn: 80, kind: 'door', hinge: 'a' } as const;
    this.plan.file.openings.push({ id: this.plan.id(), roomId, corner, alongIn, ...fixed, ...more });
  }
  band(roomId: string, kind: BandKind, corner: string, alongIn: number, widthIn: number): void {
    const heights: Partial<Record<BandKind, Pick<Band, 'depthIn' | 'fromIn' | 'toIn'>>> = {
      mirror: { depthIn: 1, fromIn: 40, toIn: 76 },
    };
    const usual = { depthIn: 22, fromIn: 0, toIn: 36 };
    this.plan.file.bands.push({
      id: this.plan.id(),
      roomId,
      kind,
      corner,
      alongIn,
      widthIn,
      ...usual,
      ...heights[kind],
    });
  }
  boxes(): (item: string) => string[] {
    const house = houseOf(this.plan.file);
    const taken = applyChange(house, { kind: 'group', changes: [...draftHouse(house).changes] });
    if (!taken.ok) throw new Error(taken.refusal.message);
    const reader = readerOf(taken.document);
    expect(
      inspectHouse(reader).filter(({ code, severity }) => code.startsWith('layout.') && severity !== 'note'),
    ).toEqual([]);
    const place = ({ corner, alongIn, xIn, yIn, facesOut }: Box): string =>
      [corner ?? xIn, alongIn ?? yIn, facesOut ? 'out' : ''].join(' ').trim();
    return (item) =>
      reader
        .all('boxes')
        .filter(({ tag, drafted }) => drafted?.why.item === item && !tag.startsWith('S'))
        .map(place);
  }
}

describe('What no rule of spacing sets has a place in a room that is drawn: by hand', () => {
  it('the light of a vanity over it, the outside unit on a wall with the outside behind, the panel where its space is free', () => {
    const drawn = new Drawn();
    const bath = drawn.room('bath', 0, 0, 124, 90);
    drawn.opening(bath, 'c3', 20);
    drawn.band(bath, 'basin', 'c0', 40, 20);
    drawn.band(bath, 'vanity', 'c0', 30, 40);
    drawn.band(bath, 'mirror', 'c0', 30, 40);
    const utility = drawn.room('utility', 124, 0, 100, 90);
    drawn.opening(utility, 'c2', 20);
    const at = drawn.boxes();
    // The vanity stands from 30 to 70 in.
    expect(at('vanity')).toEqual(['c0 50']);
    // Three of its walls are outer ones: the fourth, c3, is the bath's.
    expect(at('cooling')[0]).toMatch(/^c[012] \S+ out$/);
    // 100 × 90 in clear of 5½ in walls: some 94½ × 84½ in. The middle of the longest wall has 30 in beside and 36 before it.
    expect(at('panel')).toEqual(['c0 50']);
  });

  it('the light of a sink 12 in out from the wall of its basin; receptacles on kitchen walls without counter', () => {
    const drawn = new Drawn();
    const kitchen = drawn.room('kitchen', 0, 0, 200, 160);
    drawn.opening(kitchen, 'c2', 20);
    drawn.opening(kitchen, 'c0', 84, { kind: 'window', sillIn: 42 });
    drawn.band(kitchen, 'counter', 'c0', 2.75, 194.5);
    drawn.band(kitchen, 'basin', 'c0', 85, 30);
    const at = drawn.boxes();
    // Half of the 2 × 6 outer wall, and 12 in.
    expect(at('sink')).toEqual(['100 14.75']);
    // 154½ in of c1 and 17¼ to the door on c2: two. 145¼ beyond the door and 154½ of c3: three.
    expect(at('walls').length).toBe(5);
    expect(at('walls').every((place) => /^c[123] /.test(place))).toBeTrue();
  });

  it('the bell and the light of a porch beside the door by which one comes out, in the wall of the house', () => {
    const drawn = new Drawn();
    const foyer = drawn.room('foyer', 0, 0, 120, 100);
    drawn.opening(foyer, 'c0', 40, { widthIn: 36 });
    drawn.room('porch', 0, -80, 120, 80);
    const at = drawn.boxes();
    // The porch sees the wall from its other end: the latch is 76 in from the left, 44 in from where its wall begins.
    expect(at('outside-light')[0]).toMatch(/^c2 /);
    expect(at('bell')[0]).toMatch(/^c2 /);
    expect(at('outside').every((place) => place.startsWith('c2 '))).toBeTrue();
  });
});

describe('A panel that a house began with, and that nobody has hung', () => {
  const started = () => {
    const drawn = new Drawn();
    const garage = drawn.room('garage', 0, 0, 245.5, 245.5);
    const panel = drawn.plan.box('PANEL', 'panel', { roomId: garage });
    drawn.room('office', 245.5, 0, 140, 120);
    return { plan: drawn.plan, panel };
  };
  const drafted = ({ plan }: ReturnType<typeof started>) => {
    const house = houseOf(plan.file);
    const taken = applyChange(house, { kind: 'group', changes: [...draftHouse(house).changes] });
    if (!taken.ok) throw new Error(taken.refusal.message);
    return taken.document;
  };

  it('is hung where its space is free, low voltage beside it; drafting again changes nothing', () => {
    const start = started();
    const house = drafted(start);
    const reader = readerOf(house);
    expect(
      reader.all('boxes').filter(({ corner, xIn }) => corner === undefined && xIn === undefined),
    ).toEqual([]);
    const panel = reader.get('boxes', start.panel)!;
    expect([panel.heightIn, panel.heightReference, panel.drafted]).toEqual([72, 'top', undefined]);
    expect(draftHouse(house).changes).toEqual([]);
  });

  it('stays where nobody has said once a cable is pulled to it', () => {
    const start = started();
    const { plan, panel } = start;
    const circuit = plan.circuit(1, 'One', panel, 15);
    plan.fed('R1', panel, '14/2', circuit, 'plastic-1g-18', { roomId: plan.file.rooms[1]!.id });
    plan.pull(plan.file.runs[0]!.id, '14/2', 300);
    expect(readerOf(drafted(start)).get('boxes', panel)!.corner).toBeUndefined();
  });
});

describe('A draft of drawn rooms', () => {
  it('has a place for everything: on a wall of its room or over its floor', () => {
    fc.assert(
      fc.property(randomLayout, ({ file, rules }) => {
        const house = houseOf(file);
        const taken = applyChange(house, {
          kind: 'group',
          changes: [...draftHouse(house, { rules }).changes],
        });
        if (!taken.ok) throw new Error(taken.refusal.message);
        const { boxes, rooms } = writeHouseFile(taken.document);
        for (const { tag, roomId, corner, alongIn, xIn, yIn } of boxes) {
          const ring = rooms.find(({ id }) => id === roomId)!.outline!;
          const at = ring.findIndex(({ id }) => id === corner);
          const [a, b] = [ring[at], ring[(at + 1) % ring.length]!];
          const [xs, ys] = [ring.map((own) => own.xIn), ring.map((own) => own.yIn)];
          const isPlaced = a
            ? alongIn! >= 0 && alongIn! <= Math.hypot(b.xIn - a.xIn, b.yIn - a.yIn)
            : xIn! > Math.min(...xs) &&
              xIn! < Math.max(...xs) &&
              yIn! > Math.min(...ys) &&
              yIn! < Math.max(...ys);
          expect(isPlaced).withContext(`${tag} at ${corner} ${alongIn}, ${xIn} ${yIn}`).toBeTrue();
        }
      }),
      { numRuns: runs(80) },
    );
  });
});
