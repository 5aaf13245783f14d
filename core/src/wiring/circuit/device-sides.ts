import { loadModel } from './device-models.js';
import { supplyOf } from '../../facts/circuit-facts.js';
import type { Derivation, HouseReader } from '../../derive/reader.js';
import { circuitOfPoint, deviceType } from '../../facts/box-facts.js';
import type { Device, Point } from '../../house/model.js';

/**
 * What is told apart on a device of which the points are of several circuits: their tabs are broken, and each side has
 * terminals of its own (supply 1, supply 2; hot 1, hot 2; neutral 1, neutral 2).
 */
export interface DeviceSides {
  readonly levers: readonly Point[];
  readonly loads: readonly Point[];
  /** Levers of more than one circuit, or of a plate: each has a supply of its own. */
  readonly suppliesApart: boolean;
  /** Loads of more than one circuit: each has a hot of its own. */
  readonly hotsApart: boolean;
  /** What needs a neutral needs those of more than one: each has its own. */
  readonly neutralsApart: boolean;
  /** Number of a point among those of its device, from 1: the one of its neutral terminal. */
  readonly numberOf: (pointId: string) => number;
  readonly circuitIds: readonly string[];
}

/** Circuits that share a neutral have one name. */
export function neutralOfCircuit(reader: HouseReader, circuitId: string): string {
  const circuit = supplyOf(reader, circuitId);
  return circuit?.neutralGroup ? `${circuit.panelId} ${circuit.neutralGroup}` : circuitId;
}

/** By device id. */
const DEVICE_SIDES: Derivation<DeviceSides> = {
  name: 'device sides',
  compute: (reader, deviceId) => computeSides(reader, reader.get('devices', deviceId)!),
};

export const sidesOf = (reader: HouseReader, device: Device): DeviceSides =>
  reader.derive(DEVICE_SIDES, device.id);

function computeSides(reader: HouseReader, device: Device): DeviceSides {
  const type = deviceType(reader, device);
  const points = reader.mentioning('points', device.id);
  const [only, ...more] = points;
  // Most devices have one point: nothing is to be told apart.
  if (only && more.length === 0) {
    const circuitId = circuitOfPoint(reader, only);
    const isLever = only.role === 'lever';
    return {
      levers: isLever ? points : [],
      loads: isLever ? [] : points,
      suppliesApart: false,
      hotsApart: false,
      neutralsApart: false,
      numberOf: () => 1,
      circuitIds: circuitId ? [circuitId] : [],
    };
  }
  const levers = points.filter(({ role }) => role === 'lever');
  const loads = points.filter(({ role }) => role !== 'lever');
  const circuits = (of: readonly Point[]): string[] => {
    const found: string[] = [];
    for (const point of of) {
      const circuitId = circuitOfPoint(reader, point);
      if (circuitId && !found.includes(circuitId)) found.push(circuitId);
    }
    return found;
  };
  const onNeutral = [
    ...(type.needsNeutral ? levers.slice(0, 1) : []),
    ...(loadModel(type).onNeutral ? loads : []),
  ];
  const neutrals = new Set(circuits(onNeutral).map((id) => neutralOfCircuit(reader, id)));
  return {
    levers,
    loads,
    suppliesApart: levers.length > 1 && (type.commonsApart === true || circuits(levers).length > 1),
    hotsApart: circuits(loads).length > 1,
    neutralsApart: neutrals.size > 1,
    numberOf: (pointId) => points.findIndex(({ id }) => id === pointId) + 1,
    circuitIds: circuits(points),
  };
}
