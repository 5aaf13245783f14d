import { awg } from '../vocabulary/size.js';
import { runs } from '../testing/seed.js';
import * as fc from 'fast-check';
import { readerOf } from '../derive/reader.js';
import { houseOf, readHouseFile } from '../house/house-file.js';
import type { RulebookBase } from '../rulebook/jurisdictions.js';
import { BOX_TYPES } from '../rulebook/catalogue.js';
import { Plan } from '../testing/plan.js';
import { randomHouse } from '../testing/random-house.js';
import { fillBox } from './fill-box.js';

/** A panel with one circuit, a room, and the box under test. Everything goes through the house file. */
function bench(base: RulebookBase = 'us-2020', amps = 15) {
  const plan = new Plan('Fill', base);
  plan.room('Room');
  const panel = plan.box('PANEL', 'panel');
  const circuit = plan.circuit(1, 'One', panel, amps);
  const fill = (boxId: string) => {
    const read = readHouseFile(JSON.stringify(plan.file));
    if (!read.ok)
      throw new Error(read.problems.map((problem) => `${problem.path}: ${problem.message}`).join('\n'));
    return fillBox(readerOf(read.house), boxId)!;
  };
  return { plan, panel, circuit, fill };
}

const last = <T>(list: readonly T[]): T => list.at(-1)!;

describe('Box fill, worked examples (NEC 314.16, computed by hand from the table, from memory)', () => {
  const singleSwitch = (base: RulebookBase, gauge: 14 | 12) => {
    const { plan, panel, circuit, fill } = bench(base, gauge === 14 ? 15 : 20);
    const box = plan.fed('S1', panel, `${gauge}/2`, circuit);
    const lamp = plan.fed('L1', box, `${gauge}/2`, circuit, 'plastic-round-20');
    plan.control('Light', plan.device(box, 'switch'), plan.device(lamp, 'luminaire'));
    return fill(box);
  };

  it('counts a single-gang switch with 14/2 in and out as 14.00 in³', () => {
    const fill = singleSwitch('us-2020', 14);
    expect(fill.totalIn3).toBe(14);
    expect(fill.leftIn3).toBe(4);
    expect(fill.fits).toBeTrue();
    expect(fill.lines.map(({ count, gauge, totalIn3 }) => [count, gauge, totalIn3])).toEqual([
      [4, 14, 8],
      [1, 14, 2],
      [1, 14, 4],
    ]);
    expect(fill.lines.every((line) => line.source.includes('314.16(B)') && !line.assumed)).toBeTrue();
  });

  it('counts the same with 12 AWG as 15.75 in³', () => {
    expect(singleSwitch('us-2020', 12).totalIn3).toBe(15.75);
  });

  it('counts a three-gang box of 44 in³ with three legs as 34.50 in³, and 34.00 by the 2017 edition', () => {
    for (const [base, total] of [
      ['us-2020', 34.5],
      ['us-2023', 34.5],
      ['us-2017', 34],
    ] as const) {
      const { plan, panel, circuit, fill } = bench(base);
      const box = plan.fed('S1', panel, '14/2', circuit, 'plastic-3g-44');
      plan.fed('ON', box, '14/2', circuit);
      plan.device(last(plan.file.boxes).id, 'receptacle');
      for (const gang of [1, 2, 3]) {
        const lamp = plan.fed(`L${gang}`, box, '14/2', circuit, 'plastic-round-20');
        plan.control(`Light ${gang}`, plan.device(box, 'switch', gang), plan.device(lamp, 'luminaire'));
      }
      expect(fill(box).totalIn3).withContext(base).toBe(total);
    }
  });

  it('counts the four-gang box with two three-ways as 47.00 in³', () => {
    const { plan, panel, circuit, fill } = bench();
    const box = plan.fed('S1', panel, '14/2', circuit, 'plastic-4g-58');
    plan.fed('ON', box, '14/2', circuit);
    plan.device(last(plan.file.boxes).id, 'receptacle');
    for (const gang of [1, 2]) {
      const far = plan.fed(`T${gang}`, box, '14/3', circuit);
      const lamp = plan.fed(`L${gang}`, far, '14/2', circuit, 'plastic-round-20');
      plan.control(
        `Both ${gang}`,
        [...plan.device(box, 'switch', gang), ...plan.device(far, 'switch')],
        plan.device(lamp, 'luminaire'),
      );
    }
    for (const gang of [3, 4]) {
      const lamp = plan.fed(`L${gang}`, box, '14/2', circuit, 'plastic-round-20');
      plan.control(`Light ${gang}`, plan.device(box, 'switch', gang), plan.device(lamp, 'luminaire'));
    }
    const { totalIn3, lines } = fill(box);
    expect(totalIn3).toBe(47);
    expect(lines.every((line) => !line.assumed)).toBeTrue();
  });

  it('finds four 14/2 and a double switch too much for 18 in³, and names the boxes that hold it', () => {
    const { plan, panel, circuit, fill } = bench();
    const box = plan.fed('S1', panel, '14/2', circuit);
    const levers = plan.device(box, 'switch-double');
    plan.fed('ON', box, '14/2', circuit);
    plan.device(last(plan.file.boxes).id, 'receptacle');
    for (const lever of levers) {
      const lamp = plan.fed(`L${lever.slice(-2)}`, box, '14/2', circuit, 'plastic-round-20');
      plan.control(`Light ${lever.slice(-2)}`, [lever], plan.device(lamp, 'luminaire'));
    }
    const { totalIn3, fits, leftIn3, wouldFit } = fill(box);
    expect([totalIn3, fits, leftIn3]).toEqual([22, false, -4]);
    expect(wouldFit.map(({ id }) => id)).toEqual(['plastic-1g-22.5', 'plastic-2g-32', 'plastic-2g-34']);
  });
});

describe('Box fill, item by item (NEC 314.16(B), from memory)', () => {
  it('counts each yoke by its own largest conductor, with two gauges in one box', () => {
    const { plan, panel, circuit, fill } = bench('us-2020', 20);
    const lights = plan.circuit(2, 'Lights', panel, 15);
    const box = plan.fed('M1', panel, '12/2', circuit, 'plastic-2g-34');
    plan.run(panel, box, '14/2', lights);
    const lamp = plan.fed('L1', box, '14/2', lights, 'plastic-round-20');
    plan.device(box, 'receptacle', 1, circuit);
    plan.control('Light', plan.device(box, 'switch', 2, lights), plan.device(lamp, 'luminaire'));
    // 4 × 2.00 + 2 × 2.25 + grounds 1 × 2.25 + receptacle 2 × 2.25 + switch 2 × 2.00
    expect(fill(box).totalIn3).toBe(8 + 4.5 + 2.25 + 4.5 + 4);
  });

  it('counts a device two gangs wide by the gang, and one whose circuit is not said by the largest, assumed', () => {
    const { plan, panel, circuit, fill } = bench();
    const box = plan.fed('W1', panel, '14/2', circuit, 'plastic-2g-34');
    const lamp = plan.fed('L1', box, '14/2', circuit, 'plastic-round-20');
    plan.control('Wide', plan.device(box, 'dimmer', 1, undefined, 2), plan.device(lamp, 'luminaire'));
    expect(fill(box).totalIn3).toBe(8 + 2 + 8);
    const other = plan.circuit(2, 'Other', panel, 20);
    plan.run(panel, box, '12/2', other);
    const yoke = fill(box).lines.find((line) => line.item.code === 'device')!;
    expect([yoke.gauge, yoke.assumed]).toEqual([12, true]);
  });

  const grounds = (base: RulebookBase, cables: number): number => {
    const { plan, panel, circuit, fill } = bench(base);
    const box = plan.box('J1', 'metal-square-4.6875x2.125');
    for (let index = 0; index < cables; index++)
      plan.run(index ? plan.box(`B${index}`) : panel, box, '14/2', circuit);
    return fill(box)
      .lines.filter((line) => line.item.code.startsWith('grounds'))
      .reduce((sum, line) => sum + line.totalIn3, 0);
  };

  it('counts grounds by edition: all as one until 2017, a quarter more for each beyond four since 2020', () => {
    expect([1, 4, 5, 8].map((cables) => grounds('us-2017', cables))).toEqual([2, 2, 2, 2]);
    expect([1, 4, 5, 8].map((cables) => grounds('us-2020', cables))).toEqual([2, 2, 2.5, 4]);
    expect([1, 4, 5, 8].map((cables) => grounds('us-2023', cables))).toEqual([2, 2, 2.5, 4]);
  });

  const withBox = (base: RulebookBase, more: Parameters<Plan['box']>[2], model = 'plastic-1g-18'): number => {
    const { plan, panel, circuit, fill } = bench(base);
    const box = plan.box('B1', model, more);
    plan.run(panel, box, '14/2', circuit);
    // 2 × 2.00 + one ground 2.00 are there in any case.
    return fill(box).totalIn3 - 6;
  };

  it('counts isolated grounds apart until 2017 and among the others since', () => {
    const isolatedGround = { count: 4, size: awg(14) };
    expect(withBox('us-2017', { isolatedGround })).toBe(2);
    expect(withBox('us-2020', { isolatedGround })).toBe(0.5);
  });

  it('counts internal clamps once, external ones and none not at all, tabs by the school of the house', () => {
    expect(withBox('us-2020', { clamps: 'internal' })).toBe(2);
    expect(withBox('us-2020', { clamps: 'external' })).toBe(0);
    expect(withBox('us-2020', {}, 'metal-device-3x2x3.5')).toBe(2);
    expect(withBox('us-2020', {}, 'plastic-2g-34')).toBe(0);
    const { plan, panel, circuit, fill } = bench();
    plan.file.rulebook.overrides['fill.tabsAreClamps'] = { value: true };
    expect(fill(plan.fed('B1', panel, '14/2', circuit, 'plastic-2g-34')).totalIn3).toBe(8);
  });

  it('counts stud and hickey one each, a terminal block since 2023, and no canopy wires up to four', () => {
    expect(withBox('us-2020', { fittings: [{ kind: 'stud' }, { kind: 'hickey' }] })).toBe(4);
    const block = [{ kind: 'terminal-block' as const, size: awg(10) }];
    expect([withBox('us-2020', { fittings: block }), withBox('us-2023', { fittings: block })]).toEqual([
      0, 2.5,
    ]);
    const wires = (count: number, gauge: 18 | 16 | 14, fromCanopy = true) =>
      withBox('us-2020', { fixtureWires: { count, size: awg(gauge), fromCanopy } });
    expect([wires(4, 18), wires(5, 18), wires(4, 14), wires(2, 16, false)]).toEqual([0, 7.5, 8, 3.5]);
  });

  it('adds marked rings and extensions to the room', () => {
    const { plan, fill } = bench();
    const box = plan.box('B1', 'metal-square-4x1.5', {
      fittings: [
        { kind: 'ring', volumeIn3: 3.5 },
        { kind: 'extension', volumeIn3: 21 },
      ],
    });
    expect(fill(box).capacityIn3).toBe(21 + 3.5 + 21);
  });

  it('counts a conductor that passes through once, and its loop of twice the free length twice', () => {
    const through = (loopIn: number): number => {
      const { plan, panel, circuit, fill } = bench();
      const box = plan.box('B1');
      const far = plan.box('B2');
      const wires = [
        { size: awg(14), colour: 'BK' as const },
        { size: awg(14), colour: 'WH' as const },
      ];
      const [a, b] = [panel, far].map((other) =>
        plan.run(other, box, undefined, circuit, { kind: 'raceway', wires }),
      );
      const joint = (conductor: string) => ({
        kind: 'uncut' as const,
        ends: [
          { runId: a!, conductor },
          { runId: b!, conductor },
        ],
        loopIn,
      });
      plan.file.boxes.find(({ id }) => id === box)!.asBuilt = [joint('BK'), joint('WH')];
      return fill(box).totalIn3;
    };
    expect([through(3), through(11.9), through(12)]).toEqual([4, 4, 8]);
  });

  it('counts spares, and takes the cable that the wiring asks for where none is chosen', () => {
    const { plan, panel, circuit, fill } = bench();
    expect(fill(plan.fed('B1', panel, '14/4', circuit)).totalIn3).toBe(10);
    const open = plan.box('B2');
    plan.run(panel, open, undefined, circuit);
    plan.device(open, 'receptacle');
    const { lines, totalIn3 } = fill(open);
    expect(totalIn3).toBe(2 * 2 + 2 + 4);
    expect(lines[0]!.assumed).toBeTrue();
  });

  it('lets a house value stand in for the edition’s', () => {
    const { plan, panel, circuit, fill } = bench();
    plan.file.rulebook.overrides['fill.volume.14'] = { value: 2.5, reason: 'local amendment' };
    expect(fill(plan.fed('B1', panel, '14/2', circuit)).totalIn3).toBe(7.5);
  });
});

describe('Published tables, from memory', () => {
  it('has the volumes of table 314.16(B)', () => {
    const volumes = { 18: 1.5, 16: 1.75, 14: 2, 12: 2.25, 10: 2.5, 8: 3, 6: 5 };
    const rules = readerOf(houseOf(new Plan('Rules').file)).rules();
    for (const [awg, volume] of Object.entries(volumes))
      expect(rules.number(`fill.volume.${awg}`)).toBe(volume);
  });

  it('has the metal boxes of table 314.16(A)', () => {
    const table: Record<string, number> = {
      'octagon-4x1.25': 12.5,
      'octagon-4x1.5': 15.5,
      'octagon-4x2.125': 21.5,
      'square-4x1.25': 18,
      'square-4x1.5': 21,
      'square-4x2.125': 30.3,
      'square-4.6875x1.25': 25.5,
      'square-4.6875x1.5': 29.5,
      'square-4.6875x2.125': 42,
      'device-3x2x1.5': 7.5,
      'device-3x2x2': 10,
      'device-3x2x2.25': 10.5,
      'device-3x2x2.5': 12.5,
      'device-3x2x2.75': 14,
      'device-3x2x3.5': 18,
      'device-4x2.125x1.5': 10.3,
      'device-4x2.125x1.875': 13,
      'device-4x2.125x2.125': 14.5,
      'masonry-2.5-1g': 14,
      'masonry-3.5-1g': 21,
      'masonry-2.5-3g': 42,
      'fs-1g': 13.5,
      'fs-2g': 36,
      'fd-1g': 18,
      'fd-2g': 48,
    };
    const volumes = new Map(BOX_TYPES.map((type) => [type.id, type.volumeIn3]));
    for (const [id, volume] of Object.entries(table))
      expect(volumes.get(`metal-${id}`))
        .withContext(id)
        .toBe(volume);
  });

  it('agrees with the count moulded into an 18 in³ box: 9 of 14, 8 of 12, 7 of 10 AWG (common practice)', () => {
    const rules = readerOf(houseOf(new Plan('Rules').file)).rules();
    expect([14, 12, 10].map((awg) => Math.floor(18 / rules.number(`fill.volume.${awg}`)))).toEqual([9, 8, 7]);
  });
});

describe('Box fill of any house', () => {
  it('never falls when a cable is added, and is the sum of its lines', () => {
    fc.assert(
      fc.property(randomHouse, fc.nat(), ({ plan, boxes, panel }, pick) => {
        const boxId = boxes[pick % boxes.length]!;
        const before = fillBox(readerOf(houseOf(plan.file)), boxId)!;
        plan.run(panel, boxId, '14/3', plan.file.circuits[0]!.id);
        const after = fillBox(readerOf(houseOf(plan.file)), boxId)!;
        expect(after.totalIn3).toBeGreaterThan(before.totalIn3);
        const lines = after.lines.reduce((sum, line) => sum + line.totalIn3, 0);
        expect(after.totalIn3).toBeCloseTo(lines, 9);
        for (const line of after.lines) expect(line.totalIn3).toBeCloseTo(line.count * line.eachIn3, 9);
        expect(after.fits).toBe(after.totalIn3 <= after.capacityIn3);
      }),
      { numRuns: runs(150) },
    );
  });
});
