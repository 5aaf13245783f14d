import * as fc from 'fast-check';
import { readerOf } from '../derive/reader.js';
import { houseOf } from '../house/house-file.js';
import { Plan } from '../testing/plan.js';
import { randomSwitching } from '../testing/random-switching.js';
import { many, runs } from '../testing/seed.js';
import { faultsIn } from '../wiring/faults/faults.js';
import { buildNetlist, netlistScope } from '../wiring/netlist/build-netlist.js';
import { operate } from '../wiring/netlist/operate.js';
import { grayCode, shortestWalk } from './shortest-walk.js';
import { trimTest } from './trim-test.js';

describe('The shortest walk', () => {
  it('throws one lever at a time, comes through every set, and no shorter one does', () => {
    const sets = (count: number) =>
      fc.array(fc.uniqueArray(fc.nat((1 << count) - 1), { minLength: 1, maxLength: 3 }), { maxLength: 4 });
    fc.assert(
      fc.property(sets(3), (drawn) => {
        const all = drawn.map((one) => new Set(one));
        const walk = shortestWalk(3, all);
        expect(walk[0]).toBe(0);
        walk.slice(1).forEach((mask, at) => expect([1, 2, 4]).toContain(mask ^ walk[at]!));
        for (const set of all) expect(walk.some((mask) => set.has(mask))).toBeTrue();
        // Every walk that is one shorter leaves some set out.
        const shorter = (left: number, path: readonly number[]): boolean =>
          left === 0
            ? all.every((set) => path.some((mask) => set.has(mask)))
            : [1, 2, 4].some((bit) => shorter(left - 1, [...path, path.at(-1)! ^ bit]));
        if (walk.length > 1 && walk.length < 9) expect(shorter(walk.length - 2, [0])).toBeFalse();
      }),
      { numRuns: many(100) },
    );
  });

  it('goes through everything where there is too much to search', () => {
    const all = Array.from({ length: 32 }, (_, position) => new Set([position]));
    const walk = shortestWalk(5, all);
    expect(new Set(walk).size).toBe(32);
    expect(new Set(grayCode(5)).size).toBe(32);
  });
});

describe('A trim test', () => {
  it('has a step that reads otherwise for every fault of a control that switches can show', () => {
    let shown = 0;
    fc.assert(
      fc.property(randomSwitching(4), (file) => {
        const reader = readerOf(houseOf(file));
        const circuitId = file.circuits[0]!.id;
        const { wirings, joints } = netlistScope(reader, circuitId);
        const { steps } = trimTest(reader, circuitId);
        const sound = buildNetlist(reader, wirings, joints);
        const stateAt = (netlist: typeof sound, up: readonly string[]): Map<string, string> => {
          const { loads, shorts } = operate(netlist, new Set(up));
          const lit = loads.filter((_, at) => netlist.loads[at]!.role !== 'electronics');
          return new Map(lit.map(({ pointId, state }) => [pointId, shorts.length ? 'trips' : state]));
        };
        for (const { up, lit, dark } of steps) {
          const states = stateAt(sound, up);
          for (const id of lit) expect(states.get(id)).toBe('on');
          for (const id of dark) expect(states.get(id)).toBe('off');
        }
        for (const fault of faultsIn(reader, joints)) {
          const broken = buildNetlist(reader, wirings, fault.into(joints));
          for (const control of file.controls) {
            const own = steps.filter(({ controlId }) => controlId === control.id);
            if (!own.length || control.places.length > 4) continue;
            const loads = [...own[0]!.lit, ...own[0]!.dark];
            // With all others down, in every position of its own levers.
            const isShown = Array.from({ length: 1 << control.places.length }, (_, mask) =>
              control.places.filter((_place, bit) => (mask >>> bit) & 1),
            ).some((up) => {
              const [before, after] = [stateAt(sound, up), stateAt(broken, up)];
              return loads.some((id) => before.get(id) !== after.get(id));
            });
            const isRead = own.some(({ up, lit, dark }) => {
              const states = stateAt(broken, up);
              return lit.some((id) => states.get(id) !== 'on') || dark.some((id) => states.get(id) !== 'off');
            });
            expect(isRead).withContext(fault.kind).toBe(isShown);
            shown += Number(isShown);
          }
        }
      }),
      { numRuns: runs(20) },
    );
    expect(shown).toBeGreaterThan(0);
  });

  it('of five switch locations shows with far fewer positions what all of them would', () => {
    const plan = new Plan('Five');
    plan.room('Hall', 'hall');
    const panel = plan.box('PANEL', 'panel');
    const circuit = plan.circuit(1, 'Hall', panel, 15);
    let from = plan.fed('S1', panel, '14/2', circuit);
    const boxes = [from];
    for (let nth = 2; nth <= 5; nth++) boxes.push((from = plan.fed(`S${nth}`, from, '14/3', circuit)));
    const lamp = plan.fed('L1', from, '14/2', circuit, 'plastic-round-20');
    const places = boxes.map((box) => plan.device(box, 'switch')[0]!);
    const [light] = plan.device(lamp, 'luminaire');
    plan.control('Hall', places, [light!]);
    const reader = readerOf(houseOf(plan.file));
    const { steps } = trimTest(reader, circuit);
    expect(steps.length).toBeLessThan(12);
    for (const { thrown } of steps.slice(1)) expect(thrown.length).toBe(1);
    const { wirings, joints } = netlistScope(reader, circuit);
    const isLit = (netlist: ReturnType<typeof buildNetlist>, up: readonly string[]): boolean =>
      operate(netlist, new Set(up)).loads.some(({ pointId, state }) => pointId === light && state === 'on');
    const sound = buildNetlist(reader, wirings, joints);
    for (const fault of faultsIn(reader, joints)) {
      const broken = buildNetlist(reader, wirings, fault.into(joints));
      const isShown = Array.from({ length: 32 }, (_, mask) =>
        places.filter((_place, bit) => (mask >>> bit) & 1),
      ).some((up) => isLit(sound, up) !== isLit(broken, up));
      if (isShown)
        expect(steps.some(({ up, lit }) => isLit(broken, up) !== lit.includes(light!)))
          .withContext(fault.kind)
          .toBeTrue();
    }
  });
});
