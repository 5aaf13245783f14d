import type { Jurisdiction } from '../../../vocabulary/jurisdiction.js';
import { US_CABLES, US_COLOURS } from './cables.js';
import { US_BOXES, US_DEVICES, US_FITTINGS } from './catalogue.js';
import { US_CHAPTERS } from './chapters.js';
import { US_CONNECTORS } from './connectors.js';
import { US_ASKED_FIRST, US_DRAFTING, US_LIGHTING_AREA, US_NO_PANEL, US_PANEL_ROOMS } from './drafting.js';
import { US_EXHAUST_ROOMS, US_FAN_ROOMS } from './fan-rooms.js';
import { US_GLOSSARY } from './glossary.js';
import { US_LAYOUT } from './layout.js';
import { US_LINE_VOLTS, US_WATTS } from './loads.js';
import { US_NEUTRAL_EXCEPTIONS, US_NEUTRAL_ROOMS } from './neutral-at-switches.js';
import { US_FRAMING, US_HEIGHTS, US_SECURING } from './places.js';
import { US_CIRCUIT_PLANS, US_ROOM_KITS } from './room-kits.js';
import { US_PULLING } from './pulling.js';
import { US_CLOSING } from './closing.js';
import { US_BORING, US_WAYS } from './routing.js';
import { US_RULES } from './rules.js';
import { US_SECTIONS } from './sections.js';

/** The United States: NFPA 70, the National Electrical Code, from memory; the adopted local code decides. */
export const US: Jurisdiction = {
  id: 'us',
  name: 'United States',
  code: 'NEC',
  editions: [
    { id: 'us-2017', name: 'NEC 2017' },
    { id: 'us-2020', name: 'NEC 2020' },
    { id: 'us-2023', name: 'NEC 2023' },
  ],
  usual: 'us-2020',
  rules: [
    ...US_DRAFTING,
    ...US_RULES,
    ...US_SECURING,
    ...US_HEIGHTS,
    ...US_FRAMING,
    ...US_LAYOUT,
    ...US_WAYS,
    ...US_BORING,
    ...US_CLOSING,
    ...US_PULLING,
  ],
  chapters: US_CHAPTERS,
  sections: US_SECTIONS,
  glossary: US_GLOSSARY,
  saidHere: [],
  neutralRooms: US_NEUTRAL_ROOMS,
  neutralExceptions: US_NEUTRAL_EXCEPTIONS,
  fanRooms: US_FAN_ROOMS,
  exhaustRooms: US_EXHAUST_ROOMS,
  roomKits: US_ROOM_KITS,
  circuitPlans: US_CIRCUIT_PLANS,
  askedFirst: US_ASKED_FIRST,
  lightingArea: US_LIGHTING_AREA,
  noPanel: US_NO_PANEL,
  panelRooms: US_PANEL_ROOMS,
  sizes: [14, 12, 10, 8, 6],
  floors: ['First floor', 'Second floor'],
  raceways: { '1/2': '½ in EMT', '3/4': '¾ in EMT', '1': '1 in EMT' },
  // Leads of canopies are thin, those of other devices as thick as the wire they meet.
  leads: { canopy: 18, yoke: 14, direct: 14 },
  cables: US_CABLES,
  boxes: US_BOXES,
  devices: US_DEVICES,
  fittings: US_FITTINGS,
  connectors: US_CONNECTORS,
  colours: US_COLOURS,
  testing: 'ring-out',
  leverOn: 'up',
  legs: 2,
  lineVolts: US_LINE_VOLTS,
  panelTag: 'PANEL',
  breakers: [15, 20, 25, 30, 40, 50, 60],
  watts: US_WATTS,
  fillMethod: 'volume-allowances',
};
