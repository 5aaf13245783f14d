import type { HouseFile } from '../house/house-file.js';
import type { Circuit } from '../house/model.js';
import { builtInDevice } from '../rulebook/catalogue.js';
import type { CableId } from '../rulebook/cables.js';
import type { RulebookBase } from '../rulebook/jurisdictions.js';

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
  readonly breakerAmps: 15 | 20;
  readonly protection: Circuit['protection'];
}

export const MOST_PLACES = 8;
export const MOST_LIGHTS = 6;
export const MOST_OUTLETS = 12;

/**
 * A house that is only this circuit, wired the usual way (common practice): fed at the switch, from switch to switch and on to the
 * lights; fed at the light, a switch loop that returns through the chain. Outlets hang on where it is always hot. `newId` makes UUIDs.
 */
export function serviceCallHouse(call: ServiceCall, newId: () => string): HouseFile {
  const [storeyId, roomId, panelId, circuitId] = [newId(), newId(), newId(), newId()];
  const two: CableId = call.breakerAmps === 20 ? '12/2' : '14/2';
  const three: CableId = call.breakerAmps === 20 ? '12/3' : '14/3';
  const file: HouseFile = {
    ...{ format: 'mule-tally-house', version: 3, id: newId(), name: call.name.trim() },
    ...{ rulebook: { base: call.base, overrides: {} }, people: [] },
    storeys: [{ id: storeyId, name: 'Floor 1' }],
    rooms: [{ id: roomId, storeyId, name: 'The circuit', kind: 'other', order: 1 }],
    boxes: [{ id: panelId, roomId, tag: 'PANEL', catalogueId: 'panel' }],
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
  const put = (tag: string, from: string, cable: CableId, device: string, model: string) => {
    const [id, deviceId] = [newId(), newId()];
    file.boxes.push({ id, roomId, tag, catalogueId: model });
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
      const made = put(`S${nth + 1}`, last, nth ? three : first, 'switch', 'plastic-1g-22.5');
      places.push(...made.points);
      last = made.id;
    }
    return last;
  };
  const lamps = (from: string): string => {
    let last = from;
    const before = lights.length;
    for (let nth = before; nth < call.lights; nth++) {
      const made = put(`L${nth + 1}`, last, two, 'luminaire', 'plastic-round-20');
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
      const first = put('L1', panelId, two, 'luminaire', 'plastic-round-20');
      lights.push(...first.points);
      hot = first.id;
      switches(first.id, two);
      lamps(first.id);
    }
    file.controls.push({ id: newId(), name: 'The light', places, loads: lights });
  }
  for (let nth = 0; nth < call.outlets; nth++)
    hot = put(`R${nth + 1}`, hot, two, 'receptacle', 'plastic-1g-18').id;
  return file;
}
