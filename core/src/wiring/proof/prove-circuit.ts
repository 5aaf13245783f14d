import type { Derivation, HouseReader } from '../../derive/reader.js';
import { CableCurrents } from '../netlist/cable-currents.js';
import type { Netlist } from '../netlist/netlist.js';
import { netlistOf } from '../netlist/build-netlist.js';
import { Settled } from '../netlist/operate.js';
import { partsOf } from '../netlist/parts.js';
import type { Proof } from './proof.js';
import { Failures } from './proof.js';
import { provePart } from './prove-part.js';
import { checkStill, unmarkedWhites } from './prove-still.js';
import { wireCircuit } from '../conductors/wire-circuit.js';

/**
 * Proves a netlist by operating it. Every load follows every place of its control and nothing else; what has no control is
 * on; nothing shorts; no load is in series with another; the switch is in the hot and the neutral whole; each cable's
 * currents cancel; neutrals and hots of different circuits are not joined; ground reaches every device and metal box;
 * spares are isolated; a white that is ever hot is marked. Parts that do not touch are operated in full up to 12 levers each.
 */
export function proveNetlist(reader: HouseReader, netlist: Netlist): Proof {
  const failures = new Failures();
  const advice = new Failures();
  const settled = new Settled(netlist);
  checkStill(reader, netlist, settled, failures);
  const off = reader.rules().text('wiring.offPosition');
  const parts = partsOf(netlist);
  const proof = {
    settled,
    currents: new CableCurrents(netlist),
    whites: unmarkedWhites(reader, netlist),
    failures,
    advice,
    offAt: off === 'all-up' ? ('up' as const) : ('down' as const),
  };
  const positions = parts.map((part) => provePart(proof, part));
  return {
    circuitIds: netlist.circuitIds,
    parts: parts.length,
    positions: positions.reduce((sum, { levers }) => sum + levers.length, 0),
    sampled: positions.some(({ sampled }) => sampled),
    failures: failures.all(),
    advice: off === 'not-said' ? [] : advice.all(),
    holds: failures.all().length === 0,
  };
}

/** The proof of a circuit as it stands, by circuit id. */
const CIRCUIT_PROOF: Derivation<Proof> = {
  name: 'circuit proof',
  compute: (reader, circuitId) => {
    const leader = wireCircuit(reader, circuitId).circuitIds[0]!;
    return leader === circuitId
      ? proveNetlist(reader, netlistOf(reader, circuitId))
      : reader.derive(CIRCUIT_PROOF, leader);
  },
};

export const proveCircuit = (reader: HouseReader, circuitId: string): Proof =>
  reader.derive(CIRCUIT_PROOF, circuitId);
