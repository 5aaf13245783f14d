import type { RoomKind } from '../../../vocabulary/kinds.js';
import type { Rule } from '../../../vocabulary/rule.js';
import { US } from '../us/us.js';
import type { Own } from '../shared/taken-over.js';
import { practice, school } from '../shared/rule-makers.js';
import { ruleSaid, takenOver } from '../shared/taken-over.js';
import { CA_SAID } from './glossary.js';

const UNSURE = 'Less sure than other values: look it up in the adopted code.';

/** A published value of the Canadian code; from memory, and less sure than those of the United States. */
const code = (section: string, value: Rule['value'], more: Own = {}): Own => ({
  section,
  value,
  note: UNSURE,
  ...more,
});
/** What the building code asks. */
const building = (section: string, value: Rule['value'], more: Own = {}): Own =>
  code(section, value, { publication: 'NBC', ...more });
const mm = (section: string, value: number, more: Own = {}): Own =>
  code(section, value, { unit: 'mm', ...more });

const GFCI_ROOMS: readonly RoomKind[] = ['bath', 'water-closet', 'porch', 'outdoors', 'kitchen', 'laundry'];
const AFCI_ROOMS: readonly RoomKind[] = [
  'dining',
  'living',
  'family',
  'bedroom',
  'hall',
  'foyer',
  'stairs',
  'closet',
  'office',
  'basement',
  'other',
];

/** Published values that the two codes both have, with what the Canadian one says and where. */
const PUBLISHED: Readonly<Record<string, Own>> = {
  'fill.volume.14': code('Table 22', 24.6, { unit: 'mL', note: 'From memory.' }),
  'fill.volume.12': code('Table 22', 28.7, { unit: 'mL', note: 'From memory.' }),
  'fill.volume.10': code('Table 22', 36.9, { unit: 'mL', note: 'From memory.' }),
  'fill.volume.8': code('Table 22', 45.1, { unit: 'mL', note: 'From memory.' }),
  'fill.volume.6': code('Table 22', 73.7, { unit: 'mL', note: 'From memory.' }),
  'fill.conductor': code('12-3034', 1, {
    unit: 'conductors',
    note: 'Insulated ones; a bare ground is not counted.',
  }),
  'fill.through': code('12-3034', 1, { unit: 'conductors' }),
  'fill.stud': code('12-3034', 1, { title: 'Luminaire studs and hickeys, together', unit: 'conductors' }),
  'fill.yoke': code('12-3034', 2, { title: 'Device on one strap', unit: 'conductors' }),
  'fill.freeFixtureWires': code('12-3034', 4, { note: UNSURE }),
  'free.length': mm('12-3000', 150),
  'wire.maxBreaker.14': code('14-104, Table 2', 15),
  'wire.maxBreaker.12': code('14-104, Table 2', 20),
  'wire.maxBreaker.10': code('14-104, Table 2', 30),
  'wire.maxBreaker.8': code('14-104, Table 2', 40),
  'wire.maxBreaker.6': code('14-104, Table 2', 55),
  'neutral.atSwitch': code('4-028', true, {
    title: 'A neutral at each switch location of lights',
    note: 'A box may be excused by a reason. From memory.',
  }),
  'gfci.rooms': code('26-704', GFCI_ROOMS, {
    note: 'By the room where no basin, tub or shower is drawn in it; outside always. Less sure: look it up.',
  }),
  'gfci.wholeKitchen': code('26-704', false),
  'gfci.volts': code('26-704', 125),
  'afci.rooms': code('26-658', AFCI_ROOMS, {
    title: 'Rooms of which the circuits of receptacles have arc-fault protection',
    note: 'Most receptacles up to 20 A; not those of kitchen counters and baths. Less sure than other values: look it up.',
  }),
  'raceway.emt.1/2': code('Table 9', 196, { title: 'Inside area of EMT, 16 mm', unit: 'mm²' }),
  'raceway.emt.3/4': code('Table 9', 344, { title: 'Inside area of EMT, 21 mm', unit: 'mm²' }),
  'raceway.emt.1': code('Table 9', 557, { title: 'Inside area of EMT, 27 mm', unit: 'mm²' }),
  'raceway.fill.1': code('Table 8', 53),
  'raceway.fill.2': code('Table 8', 31),
  'raceway.fill.3': code('Table 8', 40),
  'secure.fromBox': mm('12-510', 300),
  'secure.fromPlainBox': mm('12-510', 300, { title: 'Cable held within, of a box without clamps' }),
  'secure.every': mm('12-510', 1500, { note: 'Bored holes no farther apart count as holding it.' }),
  'layout.wallRooms': code('26-724', US.rules.find(({ key }) => key === 'layout.wallRooms')!.value),
  'layout.reach': mm('26-724', 1800, {
    note: 'Doorways, fireplaces and cabinets without a counter cut a wall, windows do not. A counter is measured by itself.',
  }),
  'layout.leastWall': mm('26-724', 900),
  'layout.counterReach': mm('26-722', 900),
  'layout.counterLeast': mm('26-722', 300),
  'layout.islands': code('26-722', 'one', {
    options: [{ code: 'one', text: 'one each, from 600 × 300 mm on' }],
    note: UNSURE,
  }),
  'layout.basin': mm('26-720', 1000),
  'layout.hall': mm('26-724', 4500, {
    note: 'No point of a hall is farther than that from a receptacle; less sure.',
  }),
  'layout.outside': code('26-724', 1, {
    title: 'Receptacles outside that are reached from the ground',
    note: UNSURE,
  }),
  'layout.tubReceptacle': mm('26-720', 1000, {
    note: 'Never nearer than 500 mm. Less sure than other values.',
  }),
  'layout.panelWide': mm('2-308', 1000, { note: 'A meter of free space.' }),
  'layout.panelDeep': mm('2-308', 1000, { note: 'A meter of free space.' }),
  'layout.lightRooms': building('9.34.2', US.rules.find(({ key }) => key === 'layout.lightRooms')!.value),
  'layout.stairsPlaces': building('9.34.2.3', 2, {
    note: 'At each end, from 4 risers on. Less sure than other values.',
  }),
  'bore.edge': mm('12-516', 32, { note: 'To the edge of the hole; along a framing member too.' }),
  'bore.bearing': building('9.23.5.3', 33.3),
  'bore.partition': building('9.23.5.3', 55, {
    note: 'Of an 89 mm stud 40 mm stay. Less sure than other values.',
  }),
  'bore.joist': building('9.23.5.1', 25),
  'bore.joistEdge': building('9.23.5.1', 50, { unit: 'mm' }),
  'bore.plateWidth': building('9.23.5.4', 43, {
    note: 'Of an 89 mm plate 50 mm stay. Less sure than other values.',
  }),
  'face.behind': mm('12-3018', 6, { note: 'Behind board or tile; behind what burns not at all.' }),
  'bundle.ampacity.14': code('Table 2, 90 °C', 25),
  'bundle.ampacity.12': code('Table 2, 90 °C', 30),
  'bundle.ampacity.10': code('Table 2, 90 °C', 40),
  'bundle.ampacity.8': code('Table 2, 90 °C', 55),
  'bundle.ampacity.6': code('Table 2, 90 °C', 75),
  'bundle.percent.4': code('Table 5C', 80),
  'bundle.percent.7': code('Table 5C', 70),
  'bundle.percent.10': code('Table 5C', 70),
  'bundle.percent.21': code('Table 5C', 70),
};

/** What only the other code asks, or counts. */
const NOT_ASKED: readonly string[] = [
  'fill.volume.18',
  'fill.volume.16',
  'fill.loop',
  'fill.clamps',
  'fill.tabsAreClamps',
  'fill.hickey',
  'fill.wideYoke',
  'fill.groundsCovered',
  'fill.grounds',
  'fill.extraGround',
  'fill.isolatedGrounds',
  'fill.terminalBlock',
  'layout.foyerArea',
  'neutral.onGroundCircuit',
  'neutral.onGroundFeeder',
];

/** What is published there and is a habit here: no section of the Canadian code is known to us for it. */
const HABITS: Readonly<Record<string, Own>> = {
  'fan.everyCeilingBox': { value: false, note: 'No published rule is known to us.' },
  'load.lighting': {
    title: 'General lighting load for each square meter',
    unit: 'VA/m²',
    value: 32,
    note: 'To tell how many circuits a house wants; how many outlets a circuit may have stands below.',
  },
  'layout.tooHigh': { unit: 'mm', value: 1700 },
  'layout.counterAbove': { unit: 'mm', value: 500 },
  'layout.grip': { unit: 'mm', value: 2000 },
  'layout.foyerWall': { unit: 'mm', value: 900 },
  'layout.tubFan': { unit: 'mm', value: 900 },
  'layout.tubHigh': { unit: 'mm', value: 2400 },
  'bore.perSealed': { note: 'Each hole through a plate or floor is sealed against fire spread.' },
  'bore.wood': { unit: 'mm', value: 16 },
  'cut.sheath': { unit: 'mm', value: 6 },
  'show.units': { value: 'metric' },
  'draft.livingLight': {
    note: 'A switched receptacle may stand for the light where the building code allows it.',
  },
  'draft.baths': { note: 'A circuit that serves one bath alone may feed its lights and fan.' },
  'draft.points': { value: '12' },
  'layout.bayArea': { unit: 'm²', value: 22, note: 'One receptacle for each car.' },
  'layout.ceiling': { value: 2440, unit: 'mm', note: 'As walls are commonly framed.' },
  'layout.panelTop': {
    unit: 'mm',
    value: 1700,
    note: 'No breaker higher than 1.7 m where it can be helped.',
  },
  'wall.interior': { unit: 'mm', value: 89, note: 'Studs of 38 × 89 mm.' },
  'wall.exterior': { unit: 'mm', value: 140, note: 'Studs of 38 × 140 mm.' },
  'wall.plumbing': {
    unit: 'mm',
    value: 140,
    note: 'Studs of 38 × 140 mm, where a basin, tub or shower stands.',
  },
  'wall.spacing': { unit: 'mm', value: 406 },
  'estimate.studs': { unit: 'mm', value: 406 },
  'height.switch': { unit: 'mm', value: 1200 },
  'height.receptacle': { unit: 'mm', value: 400 },
  'makeup.trim': { note: '150 to 200 mm.' },
  'makeup.spliceStrip': {
    options: [
      { code: 'half-inch', text: '13 mm' },
      { code: 'three-eighths', text: '10 mm' },
      { code: 'clip-back', text: 'clip back' },
    ],
  },
  'makeup.strip.clippedTo': { note: '13 to 14 mm.' },
  'route.height': { unit: 'mm', value: 500, note: '450 to 600 mm.' },
  'route.plates': { unit: 'mm', value: 76, note: 'Two of 38 mm.' },
  'route.header': { unit: 'mm', value: 286 },
  'route.joists': { unit: 'mm', value: 406 },
  'route.joistDepth': { unit: 'mm', value: 235, note: '38 × 235 mm.' },
  'route.attic': { note: 'Within reach of a hatch guard strips protect what runs over them.' },
  'route.attic.times': { title: 'A meter in an attic or crawl space takes' },
  'cut.tailLight': { note: '600 to 900 mm.' },
  'cut.tailPanel': { note: '1.2 to 1.8 m, by the height of the panel.' },
  'cut.round': { unit: 'mm', value: 300 },
  'face.setOut': { note: 'As boxes are marked for board of 13 mm.' },
  'plan.perConductorFoot': { title: 'A meter of 14 AWG conductor costs' },
  'plan.minutesPerFoot': { title: 'Minutes for each meter', unit: 'min/m', value: 0.5 },
  'plan.multiwire': { note: 'Breakers next to each other, on different legs and with a common disconnect.' },
  'reel.coil': { unit: 'm', value: 75, note: 'Reels have 150 or 300 m.' },
};

/** What only this code asks. */
const OWN: readonly Rule[] = [
  {
    key: 'fill.connectorPair',
    title: 'Every full pair of insulated connectors',
    unit: 'conductors',
    section: '12-3034',
    provenance: 'published, from memory',
    adjust: 'amendable',
    stricter: 'higher',
    value: 1,
    note: 'One connector alone counts as none, two or three as one.',
  },
  {
    key: 'fill.shallowDevice',
    title: 'A device counts by its strap up to a depth of',
    unit: 'mm',
    section: '12-3034',
    provenance: 'published, from memory',
    adjust: 'amendable',
    stricter: 'lower',
    value: 25.4,
    note: UNSURE,
  },
  {
    key: 'fill.deepDevice',
    title: 'A deeper device, for each 25.4 mm of its depth',
    unit: 'mL',
    section: '12-3034',
    provenance: 'published, from memory',
    adjust: 'amendable',
    stricter: 'higher',
    value: 82,
    note: UNSURE,
  },
  {
    key: 'gfci.fromWater',
    title: 'Receptacles nearer than this to a basin, tub or shower have ground-fault protection',
    unit: 'mm',
    section: '26-704',
    provenance: 'published, from memory',
    adjust: 'amendable',
    stricter: 'higher',
    value: 1500,
    note: 'Where the water is drawn; elsewhere by the room. Less sure: numbers of sections move, look it up.',
  },
  {
    key: 'load.outlets',
    title: 'Outlets on one circuit of two wires at most',
    unit: 'outlets',
    section: '8-304',
    provenance: 'published, from memory',
    adjust: 'amendable',
    stricter: 'lower',
    value: 12,
    note: 'Lights and receptacles; what is fixed and has its own circuit is apart.',
  },
];

/** How a draft lays the circuits of kitchen counters. */
const COUNTERS: readonly Rule[] = [
  school(
    'draft.counter',
    'Kitchen counters',
    '20',
    {
      '20': 'receptacles of 20 A',
      split: 'split receptacles of 15 A on a cable of three conductors, with one handle',
    },
    '26-722, from memory, less sure: either is taken.',
  ),
  practice('draft.counterMost', 'Split receptacles on one cable at most', 'receptacles', 2),
];

const flag = (key: string, title: string, section: string, note: string): Rule => ({
  ...{ key, title, section, note, provenance: 'published, from memory', adjust: 'amendable', value: true },
});
const FLAGS: readonly Rule[] = [
  flag(
    'layout.splitCounter',
    'Split receptacles on two circuits of 15 A with a shared neutral serve a counter',
    '26-722',
    'On a cable of three conductors with one handle, instead of 20 A. Less sure than other values.',
  ),
  flag(
    'afci.receptaclesOnly',
    'Arc-fault protection is asked of circuits with receptacles alone',
    '26-658',
    UNSURE,
  ),
];

/** Areas of wire that is the same on both sides. */
const isMeasured = (key: string): boolean => /^raceway\.area\./.test(key);

/** Every trade value of the Canadian code: what it says itself, and the habits that do not stop at the border, in metric. */
export const CA_RULES: readonly Rule[] = [
  ...takenOver(US, {
    isLeftOut: (key) => NOT_ASKED.includes(key),
    published: PUBLISHED,
    habits: HABITS,
    note: (key) => (isMeasured(key) ? 'Inside, by the table of its maker.' : undefined),
  }).map((rule) => ruleSaid(CA_SAID, rule)),
  ...OWN,
  ...COUNTERS,
  ...FLAGS,
];
