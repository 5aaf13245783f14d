import type { Jurisdiction } from '../../../vocabulary/jurisdiction.js';
import { RoomKind } from '../../../vocabulary/kinds.js';
import { US } from '../us/us.js';
import { CA_BOXES, CA_CABLES, CA_FITTINGS } from './catalogue.js';
import { CA_GLOSSARY, CA_SAID } from './glossary.js';
import { CA_CIRCUIT_PLANS, CA_ROOM_KITS } from './room-kits.js';
import { CA_RULES } from './rules.js';
import { CA_SECTIONS } from './sections.js';

/** Canada: CSA C22.1, the Canadian Electrical Code, from memory and less sure; the adopted provincial code decides. */
export const CA: Jurisdiction = {
  ...US,
  id: 'ca',
  name: 'Canada',
  code: 'CEC',
  editions: [{ id: 'ca-2021', name: 'CEC 2021' }],
  usual: 'ca-2021',
  rules: CA_RULES,
  sections: CA_SECTIONS,
  glossary: CA_GLOSSARY,
  saidHere: CA_SAID,
  // At each switch location, whatever the room (4-028, from memory).
  neutralRooms: RoomKind.options,
  askedFirst: [...US.askedFirst, 'draft.counter'],
  // Metric designators, as they are ordered by: common practice.
  raceways: { '1/2': '16 mm EMT', '3/4': '21 mm EMT', '1': '27 mm EMT' },
  roomKits: CA_ROOM_KITS,
  circuitPlans: CA_CIRCUIT_PLANS,
  boxes: CA_BOXES,
  cables: CA_CABLES,
  fittings: CA_FITTINGS,
  fillMethod: 'conductor-count',
};
