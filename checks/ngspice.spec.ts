import '../core/src/testing/seed.js';
import * as fc from 'fast-check';
import { readFileSync } from 'node:fs';
import type { HouseReader } from '../core/src/derive/reader.js';
import { readerOf } from '../core/src/derive/reader.js';
import { houseOf, readHouseFile } from '../core/src/house/house-file.js';
import { randomBritish } from '../core/src/testing/random-british.js';
import { randomSwitching } from '../core/src/testing/random-switching.js';
import { boxJoints } from '../core/src/wiring/joints/box-joints.js';
import { faultsIn } from '../core/src/wiring/faults/faults.js';
import type { Netlist } from '../core/src/wiring/netlist/netlist.js';
import { buildNetlist, netlistOf, netlistScope } from '../core/src/wiring/netlist/build-netlist.js';
import { Machine, stateOf } from '../core/src/wiring/netlist/operate.js';
import { partsOf } from '../core/src/wiring/netlist/parts.js';
import { allPositions } from '../core/src/wiring/netlist/lever-positions.js';
import { wireCircuit } from '../core/src/wiring/conductors/wire-circuit.js';
import { simulate } from './ngspice.js';

/** Faults of which a few dozen are enough: each is much the same wherever it is put in. */
const MUCH_ALIKE: ReadonlySet<string> = new Set([
  'load on another breaker',
  'neutral joined to ground',
  'interconnect open',
  'interconnect on a hot',
  'neutral on the bar',
  'neutral on another breaker',
  'hot on another breaker',
  'link of two splices left off',
]);

/** Above this current a breaker trips at once, whatever its size. */
const TRIPS = 200;

interface Agreement {
  positions: number;
  wrong: string[];
  seen: Record<string, number>;
}

/** What `operate` and ngspice say of a netlist in these positions: on, off, dim, floating, shorted. */
function compare(reader: HouseReader, netlist: Netlist, positions: readonly Uint8Array[]): Agreement {
  const seen: Record<string, number> = {};
  const wrong: string[] = [];
  const count = (state: string): void => void (seen[state] = (seen[state] ?? 0) + 1);
  const machine = new Machine(netlist);
  const volts = new Float64Array(netlist.loads.length);
  simulate(reader, netlist, positions).forEach((answer, at) => {
    const sound = machine.loadVolts(positions[at]!, volts);
    const trips = answer.sources.some((amps) => Math.abs(amps) > TRIPS);
    if (sound === trips) wrong.push(`short: we say ${!sound}, ngspice ${trips}`);
    if (!sound) {
      count('shorted');
      return;
    }
    netlist.loads.forEach((load, index) => {
      const [ours, theirs] = [volts[index]!, answer.loads[index]!];
      const state = stateOf(ours, load.volts);
      count(state);
      // Under half a volt both are off but for what leaks: bleeders there, the electronics of a switch here.
      const bothLow = Math.abs(ours) < 0.5 && Math.abs(theirs) < 0.5;
      if (Math.abs(ours - theirs) > 0.5 || (!bothLow && state !== stateOf(theirs, load.volts)))
        wrong.push(`${load.role} at ${[...positions[at]!].join('')}: we say ${ours} V, ngspice ${theirs} V`);
    });
  });
  return { positions: positions.length, wrong, seen };
}

/**
 * Every lever position of every independent part: the parts go through their positions side by side, in one run of the whole
 * netlist. Where something shorts, the other parts have to be asked by themselves.
 */
function agree(reader: HouseReader, netlist: Netlist): Agreement {
  const parts = partsOf(netlist);
  const at = new Map(netlist.levers.map(({ pointId }, index) => [pointId, index]));
  const longest = Math.max(0, ...parts.map(({ levers }) => levers.length));
  const together = allPositions(longest).map((mask) => {
    const position = new Uint8Array(netlist.levers.length);
    for (const { levers } of parts)
      levers.forEach(({ pointId }, bit) => (position[at.get(pointId)!] = (mask >>> bit) & 1));
    return position;
  });
  const whole = compare(reader, netlist, together);
  if (!whole.seen['shorted']) return whole;
  for (const part of parts) {
    const own = part.levers.length;
    const alone = allPositions(own).map((mask) =>
      Uint8Array.from({ length: own }, (_, bit) => (mask >>> bit) & 1),
    );
    const result = compare(reader, part, alone);
    whole.positions += result.positions;
    whole.wrong.push(...result.wrong);
    for (const [state, times] of Object.entries(result.seen))
      whole.seen[state] = (whole.seen[state] ?? 0) + times;
  }
  return whole;
}

/** A demo house. */
function demo(lot = 'lot-12'): Extract<ReturnType<typeof readHouseFile>, { ok: true }> {
  const read = readHouseFile(readFileSync(new URL(`../demo/${lot}.house.json`, import.meta.url), 'utf8'));
  if (!read.ok) throw new Error('the demo is broken');
  return read;
}

describe('ngspice, on the exported netlists', () => {
  it('agrees on every load in every lever position of 200 random houses', () => {
    let positions = 0;
    let lit = 0;
    for (const file of [
      ...fc.sample(randomSwitching(5), { numRuns: 200, seed: 7 }),
      // At 230 V, rings and conversion.
      ...fc.sample(randomBritish, { numRuns: 60, seed: 7 }),
    ]) {
      const reader = readerOf(houseOf(file));
      for (const { id } of file.circuits) {
        const result = agree(reader, netlistOf(reader, id));
        expect(result.wrong).toEqual([]);
        positions += result.positions;
        lit += result.seen['on'] ?? 0;
      }
    }
    expect(positions).toBeGreaterThan(1000);
    expect(lit).toBeGreaterThan(1000);
  }, 300_000);

  it('agrees on every circuit of the demo houses', () => {
    for (const lot of ['lot-12', 'lot-3', 'plot-7']) {
      const read = demo(lot);
      const reader = readerOf(read.house);
      for (const { id, name } of read.file.circuits)
        expect(agree(reader, netlistOf(reader, id)).wrong)
          .withContext(name)
          .toEqual([]);
    }
  }, 120_000);

  it('agrees on what every fault does that is put into a random house or into the demo house', () => {
    const kinds = new Map<string, number>();
    const states = new Set<string>();
    const house = demo();
    const scopes = [
      ...house.file.circuits.map(({ id }) => {
        const reader = readerOf(house.house);
        return { reader, ...netlistScope(reader, id) };
      }),
      ...fc.sample(randomSwitching(4), { numRuns: 30, seed: 11 }).map((file) => {
        const reader = readerOf(houseOf(file));
        const joints = new Map(file.boxes.map(({ id }) => [id, boxJoints(reader, id).joints]));
        return {
          reader,
          joints,
          wirings: [...new Set(file.circuits.map(({ id }) => wireCircuit(reader, id)))],
        };
      }),
    ];
    for (const { reader, wirings, joints } of scopes) {
      for (const fault of faultsIn(reader, joints)) {
        // What no current shows is found by rules.
        if (['ground missing', 'metal box unbonded', 'white not marked'].includes(fault.kind)) continue;
        if (MUCH_ALIKE.has(fault.kind) && (kinds.get(fault.kind) ?? 0) >= 40) continue;
        kinds.set(fault.kind, (kinds.get(fault.kind) ?? 0) + 1);
        const result = agree(reader, buildNetlist(reader, wirings, fault.into(joints)));
        expect(result.wrong).withContext(fault.kind).toEqual([]);
        Object.keys(result.seen).forEach((state) => states.add(state));
      }
    }
    expect(kinds.size).toBeGreaterThan(22);
    expect([...states]).toEqual(jasmine.arrayContaining(['on', 'off', 'dim', 'shorted']));
  }, 300_000);
});
