import type { CircuitSupply } from '../../facts/circuit-facts.js';
import type { HouseReader } from '../../derive/reader.js';
import type { CableId } from '../../rulebook/cables.js';
import { cableFor } from '../../rulebook/cables.js';
import type { Gauge } from '../../vocabulary/size.js';

/** The thinnest copper that carries so many amperes, by the house's rulebook; undefined where none of its sizes does. */
const gaugeFor = (reader: HouseReader, amps: number): Gauge | undefined =>
  reader
    .rules()
    .jurisdiction.sizes.find((gauge) => reader.rules().number(`wire.maxBreaker.${gauge}`) >= amps);

/**
 * What the wire of a circuit has to carry, in amperes: its breaker; of a motor or an air conditioner the minimum circuit
 * ampacity of its nameplate, whatever larger breaker that allows (240.4(G), 430, 440; from memory).
 */
const wireAmps = ({ breakerAmps, nameplate }: Pick<CircuitSupply, 'breakerAmps' | 'nameplate'>): number =>
  nameplate?.mca ?? breakerAmps;

/** The thinnest copper for a circuit. */
export const gaugeOfCircuit = (reader: HouseReader, circuit: CircuitSupply): Gauge | undefined =>
  gaugeFor(reader, wireAmps(circuit));

/** The cable that a run of a circuit usually is: two-wire, three-wire where circuits share the neutral; by the rulebook. */
export function usualCable(reader: HouseReader, circuit: CircuitSupply): CableId | undefined {
  const gauge = gaugeOfCircuit(reader, circuit);
  return gauge && cableFor(reader.rules(), gauge, circuit.neutralGroup ? 3 : 2)?.id;
}

/** The thinnest copper for circuits that are wired as one. */
export const gaugeOfGroup = (reader: HouseReader, group: readonly CircuitSupply[]): Gauge | undefined =>
  gaugeFor(reader, Math.max(...group.map(wireAmps)));
