import { partOf } from '../derive/part.js';
import type { Derivation, HouseReader } from '../derive/reader.js';
import type { Circuit } from '../house/model.js';

const SUPPLY = partOf('circuits', 'supply', [
  'id',
  'panelId',
  'poles',
  'spaces',
  'breakerAmps',
  'protection',
  'neutralGroup',
  'nameplate',
  'twoWires',
  'ring',
]);
const NUMBER = partOf('circuits', 'number', ['number']);

/** What a circuit supplies, without what it is called. */
export type CircuitSupply = Pick<Circuit, (typeof SUPPLY)['fields'][number]>;

export const supplyOf = (reader: HouseReader, circuitId: string): CircuitSupply | undefined =>
  reader.part(SUPPLY, circuitId);

/** The number of a circuit, as it is written beside its breaker; 0 of one that is gone. */
export const numberOf = (reader: HouseReader, circuitId: string): number =>
  reader.part(NUMBER, circuitId)?.number ?? 0;

/** Ids of the circuits of a panel, by panel id, in id order. */
const OF_PANEL: Derivation<readonly string[]> = {
  name: 'circuits of a panel',
  cutsOff: true,
  compute: (reader, panelId) =>
    reader
      .mentioning('circuits', panelId)
      .flatMap((circuit) => (circuit.panelId === panelId ? circuit.id : []))
      .sort(),
};

/** The circuits of a panel, in id order. */
export const circuitsOfPanel = (reader: HouseReader, panelId: string): readonly CircuitSupply[] =>
  reader.derive(OF_PANEL, panelId).flatMap((id) => supplyOf(reader, id) ?? []);

/** Ids of the circuits that share the neutral of one, in id order, by circuit id. */
const NEUTRAL_GROUP: Derivation<readonly string[]> = {
  name: 'circuits that share a neutral',
  cutsOff: true,
  compute: (reader, circuitId) => {
    const circuit = supplyOf(reader, circuitId);
    if (!circuit) return [];
    if (!circuit.neutralGroup) return [circuitId];
    return circuitsOfPanel(reader, circuit.panelId)
      .filter(({ neutralGroup }) => neutralGroup === circuit.neutralGroup)
      .map(({ id }) => id);
  },
};

/**
 * Circuits that are wired as one: a circuit alone, or all circuits of a panel that share one neutral (multiwire). By id, so
 * that the first leads the group whatever the order of the list.
 */
export const wiringGroup = (reader: HouseReader, circuitId: string): readonly CircuitSupply[] =>
  reader.derive(NEUTRAL_GROUP, circuitId).flatMap((id) => supplyOf(reader, id) ?? []);
