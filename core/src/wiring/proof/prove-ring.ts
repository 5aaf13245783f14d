import { supplyOf } from '../../facts/circuit-facts.js';
import type { HouseReader } from '../../derive/reader.js';
import { Union } from '../../structures/union.js';
import { ringOf } from '../circuit/ring.js';
import { wireCircuit } from '../conductors/wire-circuit.js';
import type { NetConductor, Netlist } from '../netlist/netlist.js';
import type { Failures } from './proof.js';

/**
 * A ring is closed in each of its cores: line, neutral and CPC come home by both ends, so that any one of the conductors that make it
 * could be taken out and everything would still be fed. Where that fails, one that is needed is told: the ring is open on its way.
 */
export function checkRings(reader: HouseReader, netlist: Netlist, failures: Failures): void {
  for (const circuitId of netlist.circuitIds) {
    if (!supplyOf(reader, circuitId)?.ring) continue;
    const wiring = wireCircuit(reader, circuitId);
    const ring = ringOf(wiring.tree);
    if (!ring) continue;
    const runIds = new Set(ring.runs.map(({ id }) => id));
    const own = netlist.conductors.filter(({ runId }) => runIds.has(runId));
    const coreOf = ({ runId, key, from }: NetConductor): 'hot' | 'neutral' | 'ground' | undefined => {
      if (netlist.ground.has(from)) return 'ground';
      const carried = wiring.runs.get(runId)?.carries.get(key);
      return carried === 'neutral' ? 'neutral' : carried?.startsWith('hot:') ? 'hot' : undefined;
    };
    for (const core of ['hot', 'neutral', 'ground'] as const) {
      const cores = own.filter((conductor) => coreOf(conductor) === core);
      const isWhole = ring.runs.every(({ id }) => cores.some(({ runId }) => runId === id));
      const needed = isWhole ? cores.find((conductor) => isBridge(netlist, circuitId, conductor)) : cores[0];
      if (!needed && isWhole) continue;
      const run = needed ?? { runId: ring.runs[0]!.id, key: '' };
      failures.add({
        code: 'proof.ring-open',
        facts: { core },
        // One of each core of a circuit.
        controlId: core,
        runId: run.runId,
        ...(needed && {
          boxId: netlist.joints[needed.from]!.boxId,
          conductor: { runId: needed.runId, key: needed.key },
        }),
      });
    }
  }
}

/** Whether nothing else joins the two ends of a conductor: no other one, no tab, nor where both come home to one terminal. */
function isBridge(netlist: Netlist, circuitId: string, conductor: NetConductor): boolean {
  const union = new Union(netlist.joints.length);
  for (const other of netlist.conductors) if (other !== conductor) union.join(other.from, other.to);
  for (const [a, b] of netlist.tabs) union.join(a, b);
  const home = new Map<string, number>();
  for (const { joint, kind, volts, circuitId: of } of netlist.sources) {
    if (of !== circuitId) continue;
    const key = `${kind} ${volts}`;
    const first = home.get(key);
    if (first === undefined) home.set(key, joint);
    else union.join(first, joint);
  }
  return union.find(conductor.from) !== union.find(conductor.to);
}
