import '../../testing/seed.js';
import * as fc from 'fast-check';
import { applyChange } from '../../changes/apply.js';
import { removing, setting } from '../../changes/change.js';
import { readerOf } from '../../derive/reader.js';
import { draftHouse } from '../../furnish/draft-house.js';
import type { Finding } from '../../findings/finding.js';
import { houseOf } from '../../house/house-file.js';
import type { House } from '../../house/house.js';
import type { Band, Opening, Room } from '../../house/model.js';
import { readOutline } from '../../plan/typed-outline.js';
import type { RulebookBase } from '../../rulebook/jurisdictions.js';
import { Plan } from '../../testing/plan.js';
import { waysThatDoNotHelp } from '../../testing/ways-that-do-not-help.js';
import { randomLayout } from '../../testing/random-layout.js';
import { many, runs } from '../../testing/seed.js';
import type { BandKind, RoomKind } from '../../vocabulary/kinds.js';
import { inspectHouse } from '../inspect-house.js';

const EDITIONS = ['us-2017', 'us-2020', 'us-2023'] as const;

/** One room of 12 × 10 ft clear between 2 × 4 walls: from each corner the face begins 1¾ in along the line that is drawn. */
class Laid {
  readonly plan: Plan;
  readonly room: Room;
  readonly panel: string;
  readonly circuit: string;

  constructor(kind: RoomKind, base: RulebookBase = 'us-2020', size = '12 x 10') {
    this.plan = new Plan('Laid', base);
    this.plan.file.rulebook.overrides['wall.exterior'] = { value: 3.5 };
    this.plan.file.rulebook.overrides['wall.plumbing'] = { value: 3.5 };
    this.plan.room('Garage', 'garage');
    this.panel = this.plan.box('PANEL', 'panel');
    this.plan.room('Room', kind);
    this.room = this.plan.file.rooms[1]!;
    this.room.outline = readOutline(size, 3.5)!.map((corner) => ({ ...corner }));
    this.circuit = this.plan.circuit(1, 'One', this.panel, 20, { protection: 'dual' });
    this.box('L1', 'luminaire', undefined, 60, 96, 'plastic-round-20');
  }

  opening(corner: string, alongIn: number, widthIn: number, more: Partial<Opening> = {}): this {
    this.plan.file.openings.push({
      id: this.plan.id(),
      roomId: this.room.id,
      corner,
      alongIn,
      widthIn,
      sillIn: 0,
      headIn: 80,
      kind: 'door',
      ...more,
    });
    return this;
  }

  band(kind: BandKind, place: Partial<Band>, widthIn: number, depthIn = 25, fromIn = 0, toIn = 36): this {
    const { id: roomId } = this.room;
    this.plan.file.bands.push({ id: this.plan.id(), roomId, kind, widthIn, depthIn, fromIn, toIn, ...place });
    return this;
  }

  /** A box with a device at a place, fed by the panel. */
  box(
    tag: string,
    catalogueId: string,
    corner: string | undefined,
    alongIn: number,
    heightIn = 16,
    model = 'plastic-1g-18',
  ): string {
    const id = this.plan.fed(tag, this.panel, '12/2', this.circuit, model);
    const place = corner === undefined ? { xIn: alongIn, yIn: 40 } : { corner, alongIn };
    Object.assign(
      this.plan.file.boxes.find((box) => box.id === id)!,
      place,
      { heightIn, heightReference: 'centre' },
    );
    this.plan.device(id, catalogueId);
    return id;
  }

  house(): House {
    return houseOf(structuredClone(this.plan.file));
  }

  found(code?: string): Finding[] {
    return inspectHouse(readerOf(this.house())).filter((one) =>
      code ? one.code === code : one.code.startsWith('layout.') && one.where.roomId === this.room.id,
    );
  }

  /** Feet and inches that are too far from a receptacle, wall by wall. */
  far(code: 'layout.far-wall' | 'layout.far-counter' = 'layout.far-wall'): [number, number][] {
    return this.found(code).map(({ facts, measured }) => [
      (facts as { wall: number }).wall,
      Math.round((measured as { inches: number }).inches * 100) / 100,
    ]);
  }
}

describe('Receptacles along walls, NEC 210.52(A) from memory, worked by hand for three editions', () => {
  for (const base of EDITIONS)
    it(`${base}: 6 ft from a doorway, round the corner, no farther`, () => {
      // 528 in round, a door of 32 in, 20 in along the first wall: 496 in of wall from jamb to jamb. One in the middle of the
      // second wall (24 in along the third of the run: 92 in of the first wall + 60) reaches 72 in both ways.
      const laid = new Laid('bedroom', base).opening('c0', 20, 32);
      laid.box('R1', 'receptacle', 'c1', 61.75);
      // From the jamb at 52 to the end of the face at 145.75 are 93.75 in; the box is 60 in farther: 153.75 along the run.
      // What it reaches ends at 81.75 and begins again at 225.75; 495.5 in are the run.
      const total = 2 * (144 + 120) - 32;
      expect(laid.far()).toEqual([
        [1, 81.75],
        [3, total - 225.75],
      ]);
    });

  it('count a wall of 24 in and 25 in between two doors, not one of 23', () => {
    const between = (left: number): number => {
      const laid = new Laid('bedroom', 'us-2020', '20 x 10')
        .opening('c0', 10, 30)
        .opening('c0', 40 + left, 30);
      // All the rest is reached.
      for (const [corner, along] of [
        ['c0', 160],
        ['c1', 60],
        ['c2', 60],
        ['c2', 180],
        ['c3', 60],
      ] as const)
        laid.box(`R${laid.plan.file.boxes.length}`, 'receptacle', corner, along);
      return laid.far().length;
    };
    expect([between(23), between(24), between(25)]).toEqual([0, 1, 1]);
  });

  it('are not asked of a fireplace or a tall cabinet, which cut the wall, and are of a window and of fixed glass', () => {
    // The first wall alone, from door to door, all the others doors: 144 in of wall, a receptacle in its middle reaches it all.
    const wall = (): Laid =>
      new Laid('living', 'us-2020').opening('c1', 0, 123.5).opening('c2', 0, 147.5).opening('c3', 0, 123.5);
    const one = wall();
    one.box('R1', 'receptacle', 'c0', 73.75);
    expect(one.far()).toEqual([]);
    // 60 in of hearth in the middle leave 42 in to each side: the receptacle is in neither, both are asked for.
    const hearth = wall().band('fireplace', { corner: 'c0', alongIn: 43.75 }, 60);
    hearth.box('R1', 'receptacle', 'c0', 73.75);
    expect(hearth.far()).toEqual([
      [1, 42],
      [1, 42],
    ]);
    const cabinet = wall().band('cabinet', { corner: 'c0', alongIn: 43.75 }, 60, 24, 0, 84);
    cabinet.box('R1', 'receptacle', 'c0', 20);
    expect(cabinet.far()).toEqual([[1, 42]]);
    // Glass to the floor: the fixed panel counts, the sliding one does not.
    const glass = wall()
      .opening('c0', 13.75, 60, { kind: 'window' })
      .opening('c0', 73.75, 60, { kind: 'door' });
    expect(glass.far()).toEqual([[1, 72]]);
    // 12 in are left behind the sliding panel: less than 24.
    glass.box('R1', 'receptacle', 'c0', 8);
    expect(glass.far()).toEqual([]);
  });

  it('do not count above 5½ ft, nor those of a counter', () => {
    const high = new Laid('bedroom');
    for (const [corner, along] of [
      ['c0', 73],
      ['c1', 60],
      ['c2', 73],
      ['c3', 60],
    ] as const)
      high.box(`R${corner}`, 'receptacle', corner, along, 66);
    expect(high.far()).toEqual([]);
    for (const box of high.plan.file.boxes) if (box.heightIn) box.heightIn = 66.5;
    expect(high.far().length).toBe(1);
  });
});

describe('Counters, islands and peninsulas, NEC 210.52(C) from memory, worked by hand', () => {
  it('have no point more than 24 in from a receptacle, round a corner too, and count from 12 in', () => {
    const counter = (width: number): Laid =>
      new Laid('kitchen').band('counter', { corner: 'c0', alongIn: 20 }, width);
    expect(counter(11.5).far('layout.far-counter')).toEqual([]);
    expect(counter(12).far('layout.far-counter')).toEqual([[1, 12]]);
    const one = counter(48);
    one.box('R1', 'receptacle', 'c0', 44, 44);
    expect(one.far('layout.far-counter')).toEqual([]);
    const wide = counter(60);
    wide.box('R1', 'receptacle', 'c0', 44, 44);
    expect(wide.far('layout.far-counter')).toEqual([[1, 12]]);
    // 24 in to the corner and 24 in beyond it: one space, reached from either side.
    const corner = new Laid('kitchen')
      .band('counter', { corner: 'c0', alongIn: 121.75 }, 24)
      .band('counter', { corner: 'c1', alongIn: 1.75 }, 24);
    corner.box('R1', 'receptacle', 'c0', 145.75, 44);
    expect(corner.far('layout.far-counter')).toEqual([]);
  });

  it('count none that is more than 20 in above the top, and the way out lowers it', () => {
    const laid = new Laid('kitchen').band('counter', { corner: 'c0', alongIn: 20 }, 40);
    laid.box('R1', 'receptacle', 'c0', 40, 56);
    expect(laid.far('layout.far-counter')).toEqual([]);
    laid.plan.file.boxes.at(-1)!.heightIn = 57;
    expect(laid.found('layout.height').length).toBe(1);
    expect(laid.far('layout.far-counter')).toEqual([[1, 40]]);
  });

  it('ask islands and peninsulas by edition: one each from 24 × 12 in (2017), by area (2020), a provision (2023)', () => {
    const needs = (
      base: RulebookBase,
      kind: 'island' | 'peninsula',
      width: number,
      depth: number,
    ): string => {
      const place = kind === 'island' ? { xIn: 40, yIn: 40 } : { corner: 'c0', alongIn: 40 };
      const [one] = new Laid('kitchen', base).band(kind, place, width, depth).found('layout.island');
      return one ? `${one.severity} ${(one.facts as { needs: number }).needs}` : 'none';
    };
    const table: [number, number, string, string, string][] = [
      // in, in, 2017, 2020, 2023
      [24, 12, 'fix 1', 'fix 1', 'note 0'],
      [23, 12, 'none', 'none', 'none'],
      [24, 11, 'none', 'none', 'none'],
      // 9 ft²: one. 36 × 37 in are 9.25: two. 36 × 108 in are 27 ft²: two. 36 × 109 in: three.
      [36, 36, 'fix 1', 'fix 1', 'note 0'],
      [36, 37, 'fix 1', 'fix 2', 'note 0'],
      [36, 108, 'fix 1', 'fix 2', 'note 0'],
      [36, 109, 'fix 1', 'fix 3', 'note 0'],
    ];
    for (const [width, depth, ...expected] of table)
      for (const kind of ['island', 'peninsula'] as const)
        expect(EDITIONS.map((base) => needs(base, kind, width, depth)))
          .withContext(`${kind} ${width} × ${depth}`)
          .toEqual(expected);
  });

  it('get them one touch after another, until nothing is asked for', () => {
    for (const base of ['us-2017', 'us-2020'] as const)
      for (const [kind, place] of [
        ['island', { xIn: 40, yIn: 30 }],
        ['peninsula', { corner: 'c0', alongIn: 40 }],
      ] as const) {
        const laid = new Laid('kitchen', base, '20 x 16').band(kind, place, 40, 109);
        laid.box('R1', 'receptacle', 'c2', 30, 16, 'plastic-1g-22.5');
        let house = laid.house();
        let touches = 0;
        for (; touches < 5; touches++) {
          const [asked] = inspectHouse(readerOf(house)).filter(({ code }) => code === 'layout.island');
          if (!asked) break;
          const taken = applyChange(house, asked.fixes![0]!.change);
          if (!taken.ok) throw new Error(JSON.stringify(taken.refusal));
          house = taken.document;
        }
        // 30 ft²: three in 2020 (9, then 18, then what is left).
        expect(touches)
          .withContext(`${base} ${kind}`)
          .toBe(base === 'us-2017' ? 1 : 3);
      }
  });

  it('want one of a peninsula within 2 ft of its end from 2020 on', () => {
    const with1 = (base: RulebookBase, yIn: number): number => {
      // 24 in wide, 60 in out from the first wall: 10 ft², two are asked for in 2020.
      const laid = new Laid('kitchen', base).band('peninsula', { corner: 'c0', alongIn: 40 }, 24, 60);
      for (const [tag, y] of [
        ['R1', 10],
        ['R2', yIn],
      ] as const) {
        const id = laid.box(tag, 'receptacle', undefined, 52, 30);
        laid.plan.file.boxes.find((box) => box.id === id)!.yIn = y;
      }
      return laid.found('layout.island').length;
    };
    // Its end is at 61.75 in.
    expect([with1('us-2020', 37), with1('us-2020', 38), with1('us-2017', 12)]).toEqual([1, 0, 0]);
  });
});

describe('What rooms are asked for beside their walls, from memory', () => {
  const lacks = (laid: Laid): string[] =>
    laid
      .found()
      .filter(({ code }) => !/no-light|own-circuit/.test(code))
      .map(({ code, facts }) =>
        `${code} ${Object.values(facts as object).find((one) => typeof one === 'string') ?? ''}`.trim(),
      );

  it('is a receptacle in halls of 10 ft (H), not in shorter ones, in each wall of 3 ft of a foyer over 60 ft² (I)', () => {
    const lit = (kind: RoomKind, size: string): Laid => new Laid(kind, 'us-2020', size);
    expect(lacks(lit('hall', "9'11 x 4"))).toEqual([]);
    expect(lacks(lit('hall', '10 x 4'))).toEqual(['layout.no-outlet hall']);
    expect(lacks(lit('foyer', '10 x 6'))).toEqual([]);
    expect(lacks(lit('foyer', "10 x 6'1"))).toEqual(Array(4).fill('layout.no-outlet foyer-wall'));
    expect(lacks(lit('foyer', '30 x 2')).length).toBe(0);
    expect(lacks(lit('foyer', "31 x 2'11"))).toEqual(Array(2).fill('layout.no-outlet foyer-wall'));
  });

  it('is a receptacle within 3 ft of a basin, no switch in the tub, no receptacle so near to it from 2020 on', () => {
    const bath = (base: RulebookBase, along: number): string[] => {
      const laid = new Laid('bath', base)
        .band('basin', { corner: 'c0', alongIn: 90 }, 20, 18, 30, 34)
        .band('tub', { corner: 'c0', alongIn: 1.75 }, 30, 60, 0, 20);
      laid.box('R1', 'receptacle', 'c0', along, 42);
      return lacks(laid);
    };
    // 36 in from its edge at 90: 54. The tub ends at 31.75: 3 ft from it is 67.75.
    expect(bath('us-2020', 68)).toEqual([]);
    expect(bath('us-2020', 67)).toEqual(['layout.tub receptacle']);
    expect(bath('us-2017', 67)).toEqual([]);
    expect(bath('us-2017', 53)).toEqual(['layout.no-outlet basin']);
    expect(bath('us-2017', 30)).toEqual(['layout.tub receptacle', 'layout.no-outlet basin']);
    const laid = new Laid('bath').band('shower', { corner: 'c0', alongIn: 1.75 }, 36, 36, 0, 80);
    laid.box('S1', 'switch', 'c0', 30, 48);
    expect(lacks(laid)).toContain('layout.tub switch');
  });

  it('is a grip no higher than 6 ft 7, a panel not in a bath and with 30 × 36 in before it, a box below the ceiling', () => {
    const laid = new Laid('office');
    laid.plan.file.storeys[0]!.ceilingIn = 96;
    laid.box('S1', 'switch', 'c0', 20, 79);
    expect(laid.found('layout.height')).toEqual([]);
    laid.plan.file.boxes.at(-1)!.heightIn = 80;
    expect(laid.found('layout.height').map(({ facts }) => facts)).toEqual([{ what: 'switch' }]);
    laid.plan.file.boxes.at(-1)!.heightIn = 97;
    expect(laid.found('layout.height').map(({ facts }) => facts)).toEqual([{ what: 'ceiling' }]);
    const panel = (size: string, kind: RoomKind = 'utility'): unknown[] => {
      const other = new Laid(kind, 'us-2020', size);
      const id = other.plan.box('SUB', 'panel', { corner: 'c0', alongIn: 30, heightIn: 48 });
      return inspectHouse(readerOf(other.house())).flatMap(({ code, where, facts }) =>
        code === 'layout.panel' && where.boxId === id ? [facts] : [],
      );
    };
    expect(panel('6 x 3')).toEqual([]);
    expect(panel("6 x 2'11")).toEqual([{ why: 'space' }]);
    expect(panel('6 x 3', 'closet')).toEqual([{ why: 'room' }]);
  });

  it('is nothing in a doorway, behind a door’s hinge, in a cabinet, or over another box in one bay', () => {
    const at = (along: number, corner = 'c0'): string[] => {
      const laid = new Laid('laundry')
        .opening('c0', 40, 32, { hinge: 'a' })
        .band('cabinet', { corner: 'c2', alongIn: 40 }, 36, 12, 54, 84);
      laid.box('S1', 'switch', corner, along, corner === 'c2' ? 60 : 48);
      return laid.found('layout.in-the-way').map(({ facts }) => (facts as { what: string }).what);
    };
    expect([at(50), at(75), at(72), at(30), at(60, 'c2'), at(90, 'c2')]).toEqual([
      ['doorway'],
      [],
      ['doorway'],
      ['behind-door'],
      ['cabinet'],
      [],
    ]);
    const two = new Laid('laundry');
    two.box('R1', 'receptacle', 'c0', 24, 16);
    two.box('R2', 'receptacle', 'c0', 26, 16);
    two.box('R3', 'receptacle', 'c0', 26, 42);
    expect(two.found('layout.same-bay').length).toBe(1);
  });
});

describe('Protection, NEC 210.8(A) and 210.12(A) from memory, by edition', () => {
  const needs = (
    base: RulebookBase,
    kind: RoomKind,
    catalogueId: string,
    poles: 1 | 2 = 1,
    protection: 'none' | 'afci' = 'none',
    heightIn = 44,
  ): string => {
    const laid = new Laid(kind, base);
    laid.plan.file.boxes.pop();
    laid.plan.file.devices.pop();
    laid.plan.file.points.pop();
    laid.plan.file.runs.pop();
    Object.assign(laid.plan.file.circuits[0]!, { protection, poles });
    laid.box('R1', catalogueId, 'c0', 30, heightIn);
    const house = laid.house();
    const ask = (one: House) =>
      inspectHouse(readerOf(one)).filter(({ code }) => code === 'layout.protection');
    const [finding] = ask(house);
    if (!finding) return 'none';
    const applied = applyChange(house, finding.fixes![0]!.change);
    expect(applied.ok && ask(applied.document)).toEqual([]);
    return (finding.facts as { needs: string }).needs;
  };
  const inEach = (...rest: [RoomKind, string, (1 | 2)?, ('none' | 'afci')?, number?]): string =>
    EDITIONS.map((base) => needs(base, ...rest)).join(' ');

  it('is asked of rooms, receptacles and volts as the table says, and the way out gives it', () => {
    expect(inEach('bedroom', 'receptacle')).toBe('afci afci afci');
    expect(inEach('bedroom', 'receptacle', 1, 'afci')).toBe('none none none');
    expect(inEach('bath', 'receptacle')).toBe('gfci gfci gfci');
    expect(inEach('garage', 'receptacle')).toBe('gfci gfci gfci');
    expect(inEach('garage', 'luminaire')).toBe('none none none');
    expect(inEach('kitchen', 'receptacle')).toBe('dual dual dual');
    // Below the counter, and for one appliance: from 2023 on the whole kitchen.
    expect(inEach('kitchen', 'receptacle', 1, 'none', 16)).toBe('afci afci dual');
    expect(inEach('kitchen', 'receptacle-single')).toBe('afci afci dual');
    // A dryer: 250 V from 2020 on.
    expect(inEach('laundry', 'receptacle-240-neutral', 2)).toBe('none gfci gfci');
    expect(inEach('bath', 'receptacle-gfci')).toBe('none none none');
    expect(inEach('utility', 'receptacle')).toBe('none none none');
  });

  it('is given by a device before it too', () => {
    const laid = new Laid('garage');
    Object.assign(laid.plan.file.circuits[0]!, { protection: 'none' });
    const first = laid.box('R1', 'receptacle-gfci', 'c0', 30, 44, 'plastic-1g-22.5');
    const next = laid.plan.fed('R2', first, '12/2', laid.circuit);
    laid.plan.device(next, 'receptacle');
    expect(laid.found('layout.protection')).toEqual([]);
    laid.plan.file.rulebook.overrides['wiring.gfciOnward'] = { value: 'pigtailed-past' };
    expect(
      inspectHouse(readerOf(laid.house())).filter(({ code }) => code === 'layout.protection').length,
    ).toBe(1);
  });
});

describe('Every way out of what a layout lacks', () => {
  it('is taken, looked at again, and helped: in drafted houses of which somebody took boxes away and moved others', () => {
    const seen = new Map<string, number>();
    fc.assert(
      fc.property(randomLayout, ({ file, rules, gone, shifts }) => {
        const start = houseOf(file);
        const applied = applyChange(start, {
          kind: 'group',
          changes: [...draftHouse(start, { rules }).changes],
        });
        if (!applied.ok) return;
        let house = applied.document;
        const boxes = [...house.tables.boxes.values()]
          .map(({ record }) => record)
          .filter(({ catalogueId }) => catalogueId !== 'panel');
        boxes.forEach((box, at) => {
          const shift = shifts[at % shifts.length]!;
          if (gone[at % gone.length]) {
            const result = applyChange(house, removing('boxes', box.id, true));
            if (result.ok) house = result.document;
          } else if (shift && box.alongIn !== undefined) {
            const result = applyChange(
              house,
              setting('boxes', box.id, { alongIn: Math.max(0, box.alongIn + shift) }),
            );
            if (result.ok) house = result.document;
          }
        });
        expect(waysThatDoNotHelp(house, (code) => code.startsWith('layout.'), seen)).toEqual([]);
      }),
      { numRuns: runs(60) },
    );
    for (const code of ['set-receptacle', 'set-light', 'move-box'])
      expect(seen.get(code)).withContext(code).toBeGreaterThan(many(0));
  });
});
