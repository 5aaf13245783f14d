import * as fc from 'fast-check';
import type { HouseReader } from '../derive/reader.js';
import { readerOf } from '../derive/reader.js';
import { houseOf } from '../house/house-file.js';
import { Plan } from '../testing/plan.js';
import { randomSwitching } from '../testing/random-switching.js';
import { runs } from '../testing/seed.js';
import { soundJoints } from '../wiring/joints/box-joints.js';
import type { LiveTest } from './live-test.js';
import { liveTest } from './live-test.js';

/**
 * What hangs together while it is live, found by walking from wire to wire: joints as they are to be, no device but lamps, and what is
 * joined for the time. Names of nodes: `box#joint`; what is tied to a breaker, the neutral bar or a ground has that as a name of its own.
 */
function walked(reader: HouseReader, test: LiveTest): (from: string) => Set<string> {
  const next = new Map<string, Set<string>>();
  const tie = (a: string, b: string): void => {
    next.set(a, (next.get(a) ?? new Set()).add(b));
    next.set(b, (next.get(b) ?? new Set()).add(a));
  };
  const joins = test.joins.map(({ boxId, sides }) => ({
    boxId,
    sides: sides.map((ends) => new Set(ends.map(({ runId, key }) => `wire ${runId} ${key}`))),
  }));
  for (const { id: boxId } of reader.all('boxes'))
    soundJoints(reader, boxId).forEach((joint, nth) => {
      const name = `${boxId}#${nth}`;
      const wires = joint.ends.map(({ runId, key }) => `wire ${runId} ${key}`);
      for (const wire of wires) tie(name, wire);
      if (joint.ends.some(({ ground }) => ground)) tie(name, 'ground');
      for (const { deviceId, terminal } of joint.landings) {
        if (terminal.kind === 'breaker') tie(name, `hot ${terminal.circuitId} ${terminal.pole ?? 1}`);
        else if (terminal.kind === 'breaker-neutral' || terminal.kind === 'neutral-bar') tie(name, 'neutral');
        else if (deviceId && terminal.kind === 'hot') tie(name, `lamp ${deviceId} hot`);
        else if (deviceId && terminal.kind === 'neutral') tie(name, `lamp ${deviceId} neutral`);
        else if (!deviceId && terminal.kind === 'link')
          tie(name, `link ${boxId} ${JSON.stringify(terminal)}`);
      }
      for (const [at, { boxId: of, sides }] of joins.entries())
        if (of === boxId)
          for (const side of sides) if (wires.some((wire) => side.has(wire))) tie(name, `join ${at}`);
    });
  return (from) => {
    const seen = new Set([from]);
    // A terminal of a device is the end of the walk: lamps join nothing.
    for (const name of seen)
      if (!name.startsWith('lamp')) for (const one of next.get(name) ?? []) seen.add(one);
    return seen;
  };
}

describe('A live test', () => {
  it('never joins what shorts or feeds back, and lights what it says it lights', () => {
    let lit = 0;
    fc.assert(
      fc.property(randomSwitching(4), (file) => {
        const reader = readerOf(houseOf(file));
        for (const { id } of file.circuits) {
          const test = liveTest(reader, id);
          const reach = walked(reader, test);
          const own = new Set(test.circuitIds);
          for (const circuitId of own) {
            const there = reach(`hot ${circuitId} 1`);
            expect(there.has('neutral') || there.has('ground'))
              .withContext(circuitId)
              .toBeFalse();
            const others = [...there].filter(
              (name) => name.startsWith('hot ') && name !== `hot ${circuitId} 1`,
            );
            expect(others).toEqual([]);
          }
          for (const { kind, pointId } of test.steps) {
            if (kind !== 'light') continue;
            const { deviceId } = reader.get('points', pointId!)!;
            // Of a device with several lights each has a terminal of its own: one of them is fed.
            expect(
              [...own].some((circuitId) => reach(`hot ${circuitId} 1`).has(`lamp ${deviceId} hot`)),
            ).toBeTrue();
            lit++;
          }
        }
      }),
      { numRuns: runs(60) },
    );
    expect(lit).toBeGreaterThan(0);
  });

  it('joins common to one traveler at both ends of three switches and straight through between, and caps the other', () => {
    const plan = new Plan('Three');
    plan.room('Stairs', 'stairs');
    const panel = plan.box('PANEL', 'panel');
    const circuit = plan.circuit(1, 'Stairs', panel, 15);
    const boxes = [plan.fed('S1', panel, '14/2', circuit)];
    boxes.push(plan.fed('S2', boxes[0]!, '14/3', circuit));
    boxes.push(plan.fed('S3', boxes[1]!, '14/3', circuit));
    const lamp = plan.fed('L1', boxes[2]!, '14/2', circuit, 'plastic-round-20');
    const places = boxes.map((box) => plan.device(box, 'switch')[0]!);
    const [light] = plan.device(lamp, 'luminaire');
    plan.control('Stairs', places, [light!]);
    const test = liveTest(readerOf(houseOf(plan.file)), circuit);
    expect(test.leftOut).toEqual([]);
    expect(test.joins.map(({ boxId }) => boxId)).toEqual([boxes[0]!, boxes[1]!, boxes[1]!, boxes[2]!]);
    const colours = test.joins
      .filter(({ boxId }) => boxId === boxes[1])
      .map(({ sides }) => sides.map((ends) => ends.map(({ colour }) => colour).join()));
    for (const [one, other] of colours) expect(one).toBe(other!);
    // The traveler that is not used is capped at both of its ends.
    for (const box of [boxes[0], boxes[2]])
      expect(test.caps.find(({ boxId }) => boxId === box)?.ends.length).toBe(1);
    expect(test.steps.map(({ kind }) => kind)).toEqual(['energize', 'light', 'undo']);
  });
});
