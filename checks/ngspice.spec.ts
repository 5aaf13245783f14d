import '../core/src/testing/seed.js';
import * as fc from 'fast-check';
import { readFileSync } from 'node:fs';
import type { HouseReader } from '../core/src/derive/reader.js';
import { readerOf } from '../core/src/derive/reader.js';
import { houseOf, readHouseFile } from '../core/src/house/house-file.js';
import { randomSwitching } from '../core/src/testing/random-switching.js';
import { faultsIn } from '../core/src/wiring/faults.js';
import type { Netlist } from '../core/src/wiring/netlist.js';
import { buildNetlist, netlistOf, netlistScope } from '../core/src/wiring/netlist.js';
import { Machine, stateOf } from '../core/src/wiring/operate.js';
import { partsOf } from '../core/src/wiring/parts.js';
import { allPositions } from '../core/src/wiring/prove-circuit.js';
import { simulate } from './ngspice.js';

/** Above this current a breaker trips at once, whatever its size. */
const TRIPS = 200;

/** Every lever position of every independent part, in ngspice and by `operate`: on, off, dim, floating, shorted. */
function agree(
  reader: HouseReader,
  netlist: Netlist,
): { positions: number; wrong: string[]; seen: Record<string, number> } {
  let count = 0;
  const seen: Record<string, number> = {};
  const wrong: string[] = [];
  for (const part of partsOf(netlist)) {
    const levers = part.levers.length;
    const positions = allPositions(Math.min(levers, 8)).map((mask) =>
      Uint8Array.from({ length: levers }, (_, index) => (mask >>> index) & 1),
    );
    const machine = new Machine(part);
    const volts = new Float64Array(part.loads.length);
    simulate(reader, part, positions).forEach((answer, at) => {
      count++;
      const sound = machine.loadVolts(positions[at]!, volts);
      const trips = answer.sources.some((amps) => Math.abs(amps) > TRIPS);
      if (sound === trips) wrong.push(`short: we say ${!sound}, ngspice ${trips}`);
      if (!sound) {
        seen['shorted'] = (seen['shorted'] ?? 0) + 1;
        return;
      }
      part.loads.forEach((load, index) => {
        const [ours, theirs] = [volts[index]!, answer.loads[index]!];
        const state = stateOf(ours, load.volts);
        seen[state] = (seen[state] ?? 0) + 1;
        if (
          Math.abs(ours - theirs) > 0.5 ||
          stateOf(ours, load.volts) !== stateOf(Math.abs(theirs) < 0.5 ? 0 : theirs, load.volts)
        )
          wrong.push(
            `${load.role} at ${[...positions[at]!].join('')}: we say ${ours} V, ngspice ${theirs} V`,
          );
      });
    });
  }
  return { positions: count, wrong, seen };
}

describe('ngspice, on the exported netlists', () => {
  it('agrees on every load in every lever position of 200 random houses', () => {
    let positions = 0;
    let lit = 0;
    for (const file of fc.sample(randomSwitching(5), { numRuns: 200, seed: 7 })) {
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

  it('agrees on every circuit of the demo house', () => {
    const read = readHouseFile(readFileSync(new URL('../demo/lot-12.house.json', import.meta.url), 'utf8'));
    if (!read.ok) throw new Error('the demo is broken');
    const reader = readerOf(read.house);
    for (const { id, name } of read.file.circuits)
      expect(agree(reader, netlistOf(reader, id)).wrong)
        .withContext(name)
        .toEqual([]);
  }, 120_000);

  it('agrees on what every injected fault does', () => {
    const kinds = new Map<string, number>();
    const states = new Set<string>();
    for (const file of fc.sample(randomSwitching(4), { numRuns: 40, seed: 11 })) {
      const reader = readerOf(houseOf(file));
      const { wirings, joints } = netlistScope(reader, file.circuits[0]!.id);
      for (const fault of faultsIn(reader, joints)) {
        const seen = kinds.get(fault.kind) ?? 0;
        if (seen >= 30) continue;
        kinds.set(fault.kind, seen + 1);
        const result = agree(reader, buildNetlist(reader, wirings, fault.into(joints)));
        expect(result.wrong).withContext(fault.kind).toEqual([]);
        Object.keys(result.seen).forEach((state) => states.add(state));
      }
    }
    expect(kinds.size).toBeGreaterThan(8);
    expect([...states]).toEqual(jasmine.arrayContaining(['on', 'off', 'dim', 'shorted']));
  }, 300_000);
});
