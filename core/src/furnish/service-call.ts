import { readerOf } from '../derive/reader.js';
import { houseOf } from '../house/house-file.js';
import type { HouseFile } from '../house/house-file.js';
import type { Circuit } from '../house/model.js';
import { builtInDevice } from '../rulebook/catalogue.js';
import type { CableId } from '../rulebook/cables.js';
import { jurisdictionOf } from '../rulebook/jurisdictions.js';
import type { RulebookBase } from '../rulebook/jurisdictions.js';
import { rulebookFor } from '../rulebook/rulebook.js';
import { wireCircuit } from '../wiring/conductors/wire-circuit.js';
import { largestModel, modelsFor } from './box-models.js';
import type { BoxShape } from './planned.js';

/** A circuit that somebody has before them and knows little of: enough to look for its fault. */
export interface ServiceCall {
  readonly name: string;
  readonly base: RulebookBase;
  /** Switch locations of the light, 0 to 8; none where only outlets are fed. */
  readonly places: number;
  /** Lights that they switch, 0 to 6; none where there are no switches. */
  readonly lights: number;
  /** Outlets that are always on, further along, 0 to 12. */
  readonly outlets: number;
  /** Where the cable from the panel comes in: at the first switch, or at the first light. */
  readonly feed: 'switch' | 'light';
  /** One of those of {@link callBreakers}. */
  readonly breakerAmps: number;
  readonly protection: Circuit['protection'];
}

export const MOST_PLACES = 8;
export const MOST_LIGHTS = 6;
export const MOST_OUTLETS = 12;

/** The largest breaker of a circuit of lights and outlets: common practice. */
const MOST_AMPS = 20;

/** Cables of two and of three conductors that a circuit of so many amperes is wired with; undefined where none is sold. */
function cablesFor(base: RulebookBase, amps: number): { two?: CableId; three?: CableId } {
  const { sizes, cables } = jurisdictionOf(base);
  const rules = rulebookFor({ base, overrides: {} });
  const gauge = sizes.find((size) => rules.number(`wire.maxBreaker.${size}`) >= amps);
  const [two, three] = [2, 3].map(
    (count) => cables.find((own) => !own.old && own.gauge === gauge && own.colours.length === count)?.id,
  );
  return { ...(two && { two }), ...(three && { three }) };
}

/** Breakers that such a circuit can be on where it stands, in amperes; more switch locations than one want a cable of three conductors. */
export const callBreakers = ({ base, places, lights }: ServiceCall): readonly number[] =>
  jurisdictionOf(base).breakers.filter((amps) => {
    const { two, three } = cablesFor(base, amps);
    return amps <= MOST_AMPS && two !== undefined && (three !== undefined || places < 2 || lights === 0);
  });

/** Every run with the cable that the wiring asks for: a drop to a switch that sends two lines back has three. */
function withNeeded(file: HouseFile): HouseFile {
  const [circuit] = file.circuits;
  const { runs } = wireCircuit(readerOf(houseOf(file)), circuit!.id);
  return {
    ...file,
    runs: file.runs.map((run) => ({ ...run, plannedCable: runs.get(run.id)?.needed ?? run.plannedCable })),
  };
}

/**
 * A house that is only this circuit, wired the usual way (common practice): fed at the switch, from switch to switch and on to the
 * lights; fed at the light, a switch loop that returns through the chain. Outlets hang on where it is always hot. Cables, boxes and switches are those that
 * are sold where it stands. `newId` makes UUIDs.
 */
export function serviceCallHouse(call: ServiceCall, newId: () => string): HouseFile {
  const [storeyId, roomId, panelId, circuitId] = [newId(), newId(), newId(), newId()];
  const trade = jurisdictionOf(call.base);
  const { two, three = two } = cablesFor(call.base, call.breakerAmps);
  if (!two || !three) throw new RangeError(`no cable for ${call.breakerAmps} A in ${call.base}`);
  const model = (shape: BoxShape, gangs = 1): string => largestModel(modelsFor(trade.boxes, shape, gangs)).id;
  const lever = trade.devices.find(({ commonsApart, points }) => commonsApart && points.length === 1);
  const outletGangs = trade.devices.find(({ id }) => id === 'receptacle')?.widthGangs;
  const file: HouseFile = {
    ...{ format: 'mule-tally-house', version: 3, id: newId(), name: call.name.trim() },
    ...{ rulebook: { base: call.base, overrides: {} }, people: [] },
    storeys: [{ id: storeyId, name: 'Floor 1' }],
    rooms: [{ id: roomId, storeyId, name: 'The circuit', kind: 'other', order: 1 }],
    boxes: [{ id: panelId, roomId, tag: trade.panelTag, catalogueId: 'panel' }],
    circuits: [
      {
        ...{ id: circuitId, number: 1, name: call.name.trim() || 'The circuit', panelId, poles: 1 },
        ...{ breakerAmps: call.breakerAmps, protection: call.protection },
      },
    ],
    ...{ openings: [], bands: [], beams: [], catalogueBoxes: [], catalogueDevices: [], devices: [] },
    ...{ points: [], controls: [], runs: [], reels: [], pulls: [], records: [], asks: [] },
    ...{ photos: [], writeUps: [], extras: [] },
    drafts: [],
  };
  const put = (tag: string, from: string, cable: CableId, device: string, catalogueId: string) => {
    const [id, deviceId] = [newId(), newId()];
    file.boxes.push({ id, roomId, tag, catalogueId });
    file.devices.push({ id: deviceId, boxId: id, gang: 1, catalogueId: device });
    file.runs.push({
      ...{ id: newId(), kind: 'cable', circuitIds: [circuitId], plannedCable: cable },
      ...{ from: { boxId: from }, to: { boxId: id } },
    });
    const points = (builtInDevice(device)?.points ?? []).map((role) => ({ id: newId(), deviceId, role }));
    file.points.push(...points);
    return { id, points: points.map((point) => point.id) };
  };
  const places: string[] = [];
  const lights: string[] = [];
  let hot = panelId;
  const switches = (from: string, first: CableId): string => {
    let last = from;
    for (let nth = 0; nth < call.places; nth++) {
      const made = put(`S${nth + 1}`, last, nth ? three : first, lever?.id ?? 'switch', model('switch'));
      places.push(...made.points);
      last = made.id;
    }
    return last;
  };
  const lamps = (from: string): string => {
    let last = from;
    const before = lights.length;
    for (let nth = before; nth < call.lights; nth++) {
      const made = put(`L${nth + 1}`, last, two, 'luminaire', model('ceiling'));
      lights.push(...made.points);
      last = made.id;
    }
    return last;
  };
  if (call.places > 0 && call.lights > 0) {
    if (call.feed === 'switch') {
      const end = switches(panelId, two);
      hot = file.boxes[1]!.id;
      lamps(end);
    } else {
      const first = put('L1', panelId, two, 'luminaire', model('ceiling'));
      lights.push(...first.points);
      hot = first.id;
      switches(first.id, two);
      lamps(first.id);
    }
    file.controls.push({ id: newId(), name: 'The light', places, loads: lights });
  }
  for (let nth = 0; nth < call.outlets; nth++)
    hot = put(`R${nth + 1}`, hot, two, 'receptacle', model('device', outletGangs)).id;
  return withNeeded(file);
}
