import type { CircuitSupply } from '../../facts/circuit-facts.js';
import type { HouseReader } from '../../derive/reader.js';
import type { CableId } from '../../rulebook/cables.js';
import { cableFor } from '../../rulebook/cables.js';
import type { Gauge } from '../../vocabulary/size.js';

/** The thinnest copper that carries so many amperes, by the house's rulebook, in a ring each way; undefined where none of its sizes does. */
const gaugeFor = (reader: HouseReader, amps: number, isRing: boolean): Gauge | undefined => {
  const rules = reader.rules();
  return rules.jurisdiction.sizes.find((gauge) => {
    const ofRing = `ring.maxBreaker.${gauge}`;
    const most = rules.number(`wire.maxBreaker.${gauge}`);
    return (isRing && rules.has(ofRing) ? Math.max(most, rules.number(ofRing)) : most) >= amps;
  });
};

/**
 * What the wire of a circuit has to carry, in amperes: its breaker; of a motor or an air conditioner the minimum circuit
 * ampacity of its nameplate, whatever larger breaker that allows (240.4(G), 430, 440; from memory).
 */
const wireAmps = ({ breakerAmps, nameplate }: Pick<CircuitSupply, 'breakerAmps' | 'nameplate'>): number =>
  nameplate?.mca ?? breakerAmps;

/** The thinnest copper for a circuit. */
export const gaugeOfCircuit = (reader: HouseReader, circuit: CircuitSupply): Gauge | undefined =>
  gaugeFor(reader, wireAmps(circuit), circuit.ring === true);

/** The cable that a run of a circuit usually is: two-wire, three-wire where circuits share the neutral; by the rulebook. */
export function usualCable(reader: HouseReader, circuit: CircuitSupply): CableId | undefined {
  const gauge = gaugeOfCircuit(reader, circuit);
  return gauge && cableFor(reader.rules(), gauge, circuit.neutralGroup ? 3 : 2)?.id;
}

/** Whether circuits that are wired as one are a ring. */
export const isRing = (group: readonly Pick<CircuitSupply, 'ring'>[]): boolean =>
  group.some(({ ring }) => ring === true);

/** The thinnest copper for circuits that are wired as one. */
export const gaugeOfGroup = (reader: HouseReader, group: readonly CircuitSupply[]): Gauge | undefined =>
  gaugeFor(reader, Math.max(...group.map(wireAmps)), isRing(group));
