import type { Derivation, HouseReader } from '../derive/reader.js';
import { standingPull } from '../facts/box-facts.js';
import type { Run } from '../house/model.js';
import type { CableId } from '../rulebook/cables.js';
import { wireCircuit } from '../wiring/conductors/wire-circuit.js';

const wiringOf = (reader: HouseReader, { id, circuitIds: [circuitId] }: Run) =>
  circuitId ? wireCircuit(reader, circuitId).runs.get(id) : undefined;

/** The cable that is planned for a run, or else what the wiring asks for. */
export const neededCable = (reader: HouseReader, run: Run): CableId | undefined =>
  run.kind === 'cable' ? (run.plannedCable ?? wiringOf(reader, run)?.needed) : undefined;

/** The cable by which a way is chosen where nobody knows another: the lightest. */
export const lightestCable = (reader: HouseReader): CableId => reader.rules().jurisdiction.cables[0]!.id;

/** By run id. */
const CABLE_ON_WAY: Derivation<CableId> = {
  name: 'cable that goes the way of a run',
  cutsOff: true,
  compute: (reader, runId) => {
    const run = reader.get('runs', runId);
    return (run && (standingPull(reader, runId)?.cable ?? neededCable(reader, run))) ?? lightestCable(reader);
  },
};

/** The cable that goes the way of a run: that which is in, or else planned, or needed. */
export const cableOnWay = (reader: HouseReader, runId: string): CableId => reader.derive(CABLE_ON_WAY, runId);
