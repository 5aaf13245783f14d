import * as fc from 'fast-check';
import { applyChange } from '../changes/apply.js';
import type { ChangeBody } from '../changes/change.js';
import { adding } from '../changes/change.js';
import { readerOf } from '../derive/reader.js';
import type { HouseReader } from '../derive/reader.js';
import { houseOf } from '../house/house-file.js';
import { Plan } from '../testing/plan.js';
import { randomSwitching } from '../testing/random-switching.js';
import { runs } from '../testing/seed.js';
import { faultsIn } from '../wiring/faults/faults.js';
import { boxJoints } from '../wiring/joints/box-joints.js';
import type { JointsByBox } from '../wiring/netlist/netlist.js';
import { wireCircuit } from '../wiring/conductors/wire-circuit.js';
import { readings, ringOut, ringScope } from './ring-out.js';
import { ringState, testedNow } from './tested.js';

/**
 * Which conductors of these runs hang together, one line for each set, and with what of others; found by walking from each.
 * Panels apart; no code shared with the nets.
 */
function sets(
  reader: HouseReader,
  joints: JointsByBox,
  runIds: ReadonlySet<string>,
): { readonly own: string; readonly met: ReadonlySet<string> } {
  const beside = new Map<string, Set<string>>();
  const meet = (a: string, b: string): void => {
    for (const [one, other] of [
      [a, b],
      [b, a],
    ] as const)
      beside.set(one, (beside.get(one) ?? new Set<string>()).add(other));
  };
  for (const [boxId, own] of joints) {
    if (reader.get('boxes', boxId)!.catalogueId === 'panel') continue;
    const linked = new Map<string, string>();
    for (const { ends, landings, kind } of own) {
      if (kind === 'undecided') continue;
      const names = ends.map(({ runId, key }) => `${runId} ${key}`);
      names.slice(1).forEach((name) => meet(names[0]!, name));
      for (const { terminal } of landings) {
        if (terminal.kind !== 'link' || !names[0]) continue;
        const other = linked.get(terminal.link);
        if (other) meet(names[0], other);
        linked.set(terminal.link, names[0]);
      }
    }
  }
  const seen = new Set<string>();
  const all = [...joints.values()].flatMap((own) =>
    own.flatMap(({ ends }) => ends.map(({ runId, key }) => `${runId} ${key}`)),
  );
  const lines: string[] = [];
  const met = new Set<string>();
  for (const start of all) {
    if (seen.has(start)) continue;
    const found = [start];
    seen.add(start);
    for (const at of found)
      for (const next of beside.get(at) ?? [])
        if (!seen.has(next)) {
          seen.add(next);
          found.push(next);
        }
    const isOwn = (name: string): boolean => runIds.has(name.split(' ')[0]!);
    const own = found.filter(isOwn);
    if (own.length) lines.push(own.sort().join(','));
    for (const one of own) for (const other of found) if (!isOwn(other)) met.add(`${one} ${other}`);
  }
  return { own: lines.sort().join('\n'), met };
}

describe('Ringing a circuit out dead', () => {
  it('reads as it is to be in a sound house, and otherwise wherever what hangs together is not what is to', () => {
    const counts = { shown: 0, same: 0 };
    fc.assert(
      fc.property(randomSwitching(4), (file) => {
        const reader = readerOf(houseOf(file));
        const all: JointsByBox = new Map(file.boxes.map(({ id }) => [id, boxJoints(reader, id).joints]));
        const circuits = [
          ...new Set(file.circuits.map(({ id }) => wireCircuit(reader, id).circuitIds[0] ?? id)),
        ];
        // Of a circuit of which something cannot be derived nothing is promised.
        const whole = circuits.filter((id) => {
          const { order, own } = ringScope(reader, id);
          return (
            own.size > 0 &&
            order.every((boxId) =>
              all
                .get(boxId)!
                .every(({ kind, role, open }) => kind !== 'undecided' && role !== 'undecided' && !open),
            )
          );
        });
        for (const id of whole)
          expect(readings(reader, id).every(({ isGood }) => isGood))
            .withContext(id)
            .toBeTrue();
        const before = new Map(whole.map((id) => [id, sets(reader, all, ringScope(reader, id).own)]));
        for (const fault of faultsIn(reader, all)) {
          const made = fault.into(all);
          for (const id of whole) {
            const { own, order } = ringScope(reader, id);
            const [was, is] = [before.get(id)!, sets(reader, made, own)];
            // That it no longer hangs together with what is another circuit's is read from there.
            const isSame = is.own === was.own && [...is.met].every((pair) => was.met.has(pair));
            const isGood = readings(reader, id, made).every((reading) => reading.isGood);
            if (isSame) expect(isGood).withContext(`${fault.kind}: nothing to be read`).toBeTrue();
            else if (order.includes(fault.boxId))
              expect(isGood).withContext(`${fault.kind} in ${fault.boxId} of ${id}`).toBeFalse();
            counts[isSame ? 'same' : 'shown']++;
          }
        }
        // One touch each: no more steps than there are ends to be proven, and boxes to be looked into.
        for (const id of whole) {
          const { steps, boxIds } = ringOut(reader, id);
          expect(steps.filter(({ kind }) => kind === 'apart').length).toBeLessThanOrEqual(boxIds.length);
          expect(new Set(steps.map(({ key }) => key)).size).toBe(steps.length);
        }
      }),
      { numRuns: runs(60) },
    );
    expect(counts.shown).toBeGreaterThan(50);
  });
});

describe('What was rung out', () => {
  it('stands until a box is made up otherwise or another cable is pulled; of two who tested, the later counts', () => {
    const plan = new Plan('Rung');
    plan.room('Hall', 'hall');
    const panel = plan.box('PANEL', 'panel');
    const circuit = plan.circuit(3, 'Hall', panel, 15);
    const sw = plan.fed('S1', panel, '14/2', circuit);
    const light = plan.fed('L1', sw, '14/2', circuit, 'plastic-round-20');
    plan.control('Light', plan.device(sw, 'switch'), plan.device(light, 'luminaire'));
    const other = plan.circuit(4, 'Other', panel, 15);
    const elsewhere = plan.run(panel, plan.box('R9'), '14/2', other);
    const by = plan.person('Ansel');
    let house = houseOf(plan.file);
    let count = 0;
    const make = (body: ChangeBody): void => {
      const applied = applyChange(house, body);
      if (!applied.ok) throw new Error(applied.refusal.message);
      house = applied.document;
    };
    const test = (step: number, result: 'pass' | 'fail', at: string): void => {
      const reader = readerOf(house);
      const { steps } = ringOut(reader, circuit);
      make(
        adding('records', {
          id: `77777777-0000-4000-8000-${String(++count).padStart(12, '0')}`,
          kind: 'test',
          at,
          by,
          circuitId: circuit,
          result,
          tested: testedNow(reader, steps[step]!, 'ring-out', false),
        }),
      );
    };
    const states = (boarded = false): string =>
      ringState(readerOf(house), circuit, boarded)
        .steps.map(({ is }) => is)
        .join(' ');
    const { steps } = ringOut(readerOf(house), circuit);
    // Black, white and bare apart in the panel, the leg from them at the switch; then each of them to its end.
    expect(steps.map(({ kind, proves }) => proves.map(({ role }) => role).join('+') || kind)).toEqual([
      'apart',
      'apart',
      'hot+neutral',
      'leg',
      'neutral+ground',
    ]);
    steps.forEach((_, step) => test(step, 'pass', '2026-03-02T08:00:00.000Z'));
    test(1, 'fail', '2026-03-02T09:00:00.000Z');
    expect(states()).toBe('good bad good good good');
    // Told later, of an earlier look: the later look counts.
    test(1, 'pass', '2026-03-02T08:30:00.000Z');
    expect(states()).toBe('good bad good good good');
    test(1, 'pass', '2026-03-02T10:00:00.000Z');
    expect([states(), states(true)]).toEqual(['good good good good good', 'open open open open open']);
    const pulled = (runId: string): void =>
      make(
        adding('pulls', {
          id: plan.id(),
          runId,
          cable: '14/2',
          by,
          state: 'in',
          at: '2026-03-03T08:00:00.000Z',
        }),
      );
    pulled(elsewhere);
    expect(states()).toBe('good good good good good');
    // A cable is replaced, and the splices into which it comes are opened for it: all of it is to be tested again.
    pulled(house.tables.runs.values().next().value!.record.id);
    expect(states()).toBe('again again again again again');
  });
});
