/**
 * What finding a fault and trying a circuit live rest on, against Debian's ngspice: what each cause that nobody made wrong would show
 * (a breaker off, a conductor cut, two shorted, a dead device; the faults of the table are in ngspice.spec.ts), and the joins of a live
 * test, of which none may short and every lamp that is named is lit.
 */
import '../core/src/testing/seed.js';
import * as fc from 'fast-check';
import { readerOf } from '../core/src/derive/reader.js';
import { Diagnosis } from '../core/src/diagnosis/diagnosis.js';
import { SEEN } from '../core/src/diagnosis/predictions.js';
import { houseOf } from '../core/src/house/house-file.js';
import { liveJoints, liveTest } from '../core/src/proving/live-test.js';
import { randomSwitching } from '../core/src/testing/random-switching.js';
import { soundForGroup } from '../core/src/wiring/joints/box-joints.js';
import { buildNetlist, netlistScope } from '../core/src/wiring/netlist/build-netlist.js';
import { stateOf } from '../core/src/wiring/netlist/operate.js';
import { simulate } from './ngspice.js';

/** Above this current a breaker trips at once, whatever its size. */
const TRIPS = 200;
const OWN_KINDS: ReadonlySet<string> = new Set([
  'breaker off',
  'conductor cut in the wall',
  'conductors shorted in the wall',
  'dead device',
]);

describe('ngspice, on what may be wrong', () => {
  it('shows what each cause that nobody made wrong is said to show', () => {
    const seen: Record<string, number> = {};
    for (const file of fc.sample(randomSwitching(3), { numRuns: 12, seed: 11 })) {
      const reader = readerOf(houseOf(file));
      const diagnosis = new Diagnosis(reader, file.circuits[0]!.id);
      const { sights, wirings } = diagnosis;
      const positions = sights.positions.slice(0, 6);
      for (const [at, { kind, joints, tripsWatched }] of diagnosis.hypotheses.entries()) {
        if (!OWN_KINDS.has(kind) || tripsWatched || (seen[kind] ?? 0) > 60) continue;
        const netlist = buildNetlist(reader, wirings, joints);
        const made = diagnosis.cases[at]!;
        simulate(reader, netlist, positions).forEach((answer, nth) => {
          const trips = answer.sources.some((amps) => Math.abs(amps) > TRIPS);
          sights.indices.forEach((index, load) => {
            const volts = answer.loads[index]!;
            const state = stateOf(Math.abs(volts) < 0.5 ? 0 : volts, netlist.loads[index]!.volts);
            const theirs = trips ? 'trips' : state === 'on' || state === 'off' ? state : 'odd';
            expect(SEEN[made.at(positions[nth]!, load)]).withContext(kind).toBe(theirs);
          });
        });
        seen[kind] = (seen[kind] ?? 0) + 1;
      }
    }
    for (const kind of OWN_KINDS) expect(seen[kind]).withContext(kind).toBeGreaterThan(10);
  }, 300_000);

  it('finds no short in the joins of a live test, and every lamp lit that is named', () => {
    let lit = 0;
    for (const file of fc.sample(randomSwitching(5), { numRuns: 60, seed: 12 })) {
      const reader = readerOf(houseOf(file));
      for (const { id } of file.circuits) {
        const { joins, steps } = liveTest(reader, id);
        const { wirings, joints } = netlistScope(reader, id, soundForGroup);
        const netlist = buildNetlist(reader, wirings, liveJoints(reader, joints, joins));
        const [answer] = simulate(reader, netlist, [new Uint8Array(netlist.levers.length)]);
        expect(answer!.sources.every((amps) => Math.abs(amps) < TRIPS)).toBeTrue();
        for (const { pointId } of steps.filter(({ kind }) => kind === 'light')) {
          const index = netlist.loads.findIndex((load) => load.pointId === pointId);
          expect(stateOf(answer!.loads[index]!, netlist.loads[index]!.volts)).toBe('on');
          lit++;
        }
      }
    }
    expect(lit).toBeGreaterThan(30);
  }, 300_000);
});
