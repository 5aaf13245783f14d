import type { Jurisdiction } from '../../../vocabulary/jurisdiction.js';
import { US } from '../us/us.js';
import { GB_BOXES, GB_CONNECTORS, GB_DEVICES, GB_FITTINGS } from './catalogue.js';
import { GB_CHAPTERS } from './chapters.js';
import { GB_CABLES, GB_COLOURS } from './colours.js';
import { GB_GLOSSARY } from './glossary.js';
import { GB_CIRCUIT_PLANS, GB_ROOM_KITS } from './room-kits.js';
import { GB_RULES } from './rules.js';
import { GB_SAID } from './said-here.js';
import { GB_SECTIONS } from './sections.js';

/** Britain: BS 7671, the wiring rules, from memory; the edition in force, the designer and the certifier decide. */
export const GB: Jurisdiction = {
  ...US,
  id: 'gb',
  name: 'Britain',
  code: 'BS 7671',
  editions: [{ id: 'gb-2018', name: 'BS 7671:2018' }],
  usual: 'gb-2018',
  rules: GB_RULES,
  chapters: GB_CHAPTERS,
  sections: GB_SECTIONS,
  glossary: GB_GLOSSARY,
  saidHere: GB_SAID,
  neutralRooms: [],
  neutralExceptions: [],
  // Paddle fans hang from a fixing of their own.
  fanRooms: [],
  roomKits: GB_ROOM_KITS,
  circuitPlans: GB_CIRCUIT_PLANS,
  noPanel: ['bath', 'water-closet'],
  panelRooms: ['hall', 'utility', 'garage', 'closet', 'laundry'],
  sizes: ['1mm2', '1.5mm2', '2.5mm2', '4mm2', '6mm2', '10mm2'],
  floors: ['Ground floor', 'First floor'],
  raceways: { '1/2': '20 mm conduit', '3/4': '25 mm conduit', '1': '32 mm conduit' },
  leads: { canopy: '0.75mm2', yoke: '1.5mm2', direct: '1.5mm2' },
  cables: GB_CABLES,
  boxes: GB_BOXES,
  devices: GB_DEVICES,
  fittings: GB_FITTINGS,
  connectors: GB_CONNECTORS,
  colours: GB_COLOURS,
  // As they stand on the back of plates; a plate with several gangs puts the gang beside each (common practice).
  terminalMarks: {
    supply: 'COM',
    common: 'COM',
    leg: 'L1',
    travelers: { a: 'L1', b: 'L2' },
    pairs: { 1: { a: 'L1', b: 'L2' }, 2: { a: 'L3', b: 'L4' } },
  },
  testing: 'dead-tests',
  leverOn: 'down',
  legs: 1,
  lineVolts: 230,
  panelTag: 'CU',
  breakers: [6, 10, 16, 20, 25, 32, 40, 50],
  fillMethod: 'free-volume',
};
