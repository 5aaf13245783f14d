import { RoomKind } from '../../../vocabulary/kinds.js';
import type { Rule } from '../../../vocabulary/rule.js';
import { US } from '../us/us.js';
import type { Own } from '../shared/taken-over.js';
import { optionsOf, practice, school } from '../shared/rule-makers.js';
import { ruleSaid, takenOver } from '../shared/taken-over.js';
import { GB_SAID } from './said-here.js';

const UNSURE = 'Less sure than other values: look it up in the edition in force.';

/** A published value of the British wiring rules, from memory. */
const code = (section: string, value: Rule['value'], more: Own = {}): Own => ({ section, value, ...more });
const building = (section: string, value: Rule['value'], more: Own = {}): Own =>
  code(section, value, { publication: 'Approved Document', ...more });

/** Published values that both codes have, with what this one says and where. */
const PUBLISHED: Readonly<Record<string, Own>> = {
  'gfci.rooms': code('411.3.3', RoomKind.options, {
    title: 'Rooms in which socket outlets have 30 mA RCD protection',
    note: 'All socket outlets up to 32 A.',
  }),
  'gfci.volts': code('411.3.3', 230, { title: 'RCD protection is asked of socket outlets up to' }),
  'gfci.wholeKitchen': code('411.3.3', true, {
    title: 'All socket outlets of the kitchen have RCD protection',
  }),
  'layout.tubReceptacle': code('701.512.3', 2500, {
    unit: 'mm',
    note: 'From zone 1 of a bath or shower, but a shaver supply.',
  }),
  'layout.tubFan': code('701.55', 600, {
    unit: 'mm',
    title: 'Lights that are not made for zone 2 stay from a bath or shower',
    note: UNSURE,
  }),
  'layout.tubHigh': code('701.32', 2250, { unit: 'mm' }),
  'layout.grip': building('M', 1200, {
    unit: 'mm',
    title: 'Switches and socket outlets of new dwellings are no higher than',
  }),
  'bore.joist': building('A', 25, { title: 'A hole through a joist, of its depth at most', note: UNSURE }),
  'bore.joistEdge': code('522.6.201', 50, {
    unit: 'mm',
    title: 'Cable through a joist stays from its top and bottom, or is protected',
  }),
  'bundle.percent.4': code('Table 4C1', 80, { note: UNSURE }),
  'bundle.percent.7': code('Table 4C1', 65, { note: UNSURE }),
  'bundle.percent.10': code('Table 4C1', 57, { note: UNSURE }),
  'bundle.percent.21': code('Table 4C1', 45, { note: UNSURE }),
};

/** What only the other code asks, or what is sold there. */
const isLeftOut = (key: string): boolean =>
  /^fill\.|^wire\.maxBreaker\.|^bundle\.ampacity\.|^raceway\.area\.|^neutral\.onGround|^layout\.(foyer|basin|hall|bayArea|outside$)|^wiring\.gfciOnward|^makeup\.strip\.thinSplice|^layout\.islands/.test(
    key,
  );

const mm = (value: number, more: Own = {}): Own => ({ unit: 'mm', value, ...more });
const m = (value: number, more: Own = {}): Own => ({ unit: 'm', value, ...more });

/** What is a habit here, as a British crew would say it: common practice. */
const HABITS: Readonly<Record<string, Own>> = {
  'free.length': mm(150, { title: 'Free core from where it leaves the sheath', note: '100 to 150 mm.' }),
  'neutral.atSwitch': {
    title: 'A neutral at switches',
    value: false,
    note: 'No rule asks for it: a looped switch has one, a switch drop has none.',
  },
  'fan.everyCeilingBox': {
    title: 'Every ceiling point is fixed for a fan',
    value: false,
    note: 'No rule asks for it.',
  },
  'afci.rooms': {
    title: 'Rooms of which the circuits have arc-fault detection (AFDD)',
    value: [],
    note: 'Recommended in dwellings, not asked for: 421.1.7, from memory.',
  },
  'load.lighting': {
    title: 'General lighting load for each square meter',
    unit: 'VA/m²',
    value: 10,
    note: 'To tell how many lighting circuits a house wants.',
  },
  'wiring.loopSupply': {
    title: 'Permanent line of a switch drop',
    value: 'BN',
    options: optionsOf({ BN: 'BN', BK: 'BK' }),
    note: 'The switched line comes back in the other core.',
  },
  'wiring.offPosition': {
    value: 'all-up',
    options: optionsOf({ 'all-up': 'all up', 'not-said': 'not said' }),
    note: 'Pushed in at the bottom is on. Of two-way switches advice, never a failure.',
  },
  'show.units': { value: 'metric', options: optionsOf({ metric: 'meters and millimeters' }) },
  'raceway.hotColour': { value: 'BN', options: optionsOf({ BN: 'BN', BK: 'BK', GY: 'GY' }) },
  'raceway.legColour': { value: 'BK', options: optionsOf({ BK: 'BK', BN: 'BN', GY: 'GY' }) },
  'raceway.travelerColours': {
    value: 'BK-GY',
    options: optionsOf({ 'BK-GY': 'BK and GY', 'YE-OG': 'YE and OG', 'BU-VT': 'PK and VT' }),
  },
  'raceway.emt.1/2': { title: 'Inside area of conduit, 20 mm', value: 222, note: 'Less sure: by its maker.' },
  'raceway.emt.3/4': { title: 'Inside area of conduit, 25 mm', value: 366, note: 'Less sure: by its maker.' },
  'raceway.emt.1': { title: 'Inside area of conduit, 32 mm', value: 638, note: 'Less sure: by its maker.' },
  'raceway.fill.1': { value: 45 },
  'raceway.fill.2': { value: 45 },
  'raceway.fill.3': { value: 45, note: 'The space factor of the trade.' },
  'slot.cables': { title: 'Cables that one knockout takes', value: 3 },
  'makeup.trim': mm(150, { note: '100 to 150 mm.' }),
  'makeup.pigtail': mm(100),
  'makeup.strip.hook': mm(10, { title: 'Strip for a pillar terminal, the end doubled over' }),
  'makeup.strip.splice': mm(10, { title: 'Strip for a connector' }),
  'makeup.strip.clipBack': mm(12, { title: 'Strip before it is clipped back' }),
  'makeup.strip.clippedTo': mm(8, { note: '8 to 10 mm.' }),
  'makeup.strip.pushIn': mm(11, { title: 'Strip for lever and push-in terminals' }),
  'makeup.strip.clamp': mm(12, { title: 'Strip for clamps: MCBs, bars, cooker plates' }),
  'makeup.spliceStrip': {
    value: 'half-inch',
    options: optionsOf({ 'half-inch': '10 mm', 'clip-back': 'clip back' }),
  },
  'makeup.termination': {
    value: 'back-clamp',
    options: optionsOf({ 'back-clamp': 'pillar and clamp terminals', 'push-in': 'push-in' }),
    note: 'Doubled over where one thin core is alone in a pillar.',
  },
  'makeup.hots': {
    title: 'Line to several gangs',
    value: 'looped',
    options: optionsOf({
      looped: 'looped from COM to COM',
      pigtails: 'tails from a connector',
      links: 'links',
    }),
  },
  'makeup.pretwist': { title: 'Twist cores before they go into one terminal', value: 'never' },
  'makeup.spareNeutral': { title: 'A capped neutral tail at every switch that needs none' },
  'makeup.connector': {
    title: 'Joints',
    value: 'block',
    options: optionsOf({ block: 'in connector block', lever: 'in lever connectors' }),
    note: 'A joint that cannot be got at again is maintenance-free (526.3, from memory).',
  },
  'makeup.fanColour': {
    title: 'Core for the fan where fan and light share a cable',
    value: 'BK',
    options: optionsOf({ BK: 'BK', GY: 'GY' }),
  },
  'secure.fromBox': mm(150, { title: 'Cable clipped within, of a box', note: 'By hand.' }),
  'secure.fromPlainBox': mm(150, { title: 'Cable clipped within, of a plain box' }),
  'secure.every': mm(400, {
    title: 'Small flat cable is clipped at least every',
    note: 'About 250 mm level, 400 mm upright.',
  }),
  'secure.habitFromBox': mm(100),
  'secure.habitEvery': mm(250),
  'height.switch': mm(1200),
  'height.receptacle': mm(450),
  'height.receptacleTo': { value: 'bottom' },
  'wall.interior': mm(89, { note: 'Studs of 38 × 89 mm.' }),
  'wall.exterior': mm(140, { note: 'Studs of 38 × 140 mm.' }),
  'wall.plumbing': mm(140, { note: 'Where a basin, bath or shower stands.' }),
  'wall.spacing': mm(600),
  'layout.wallRooms': {
    value: [],
    title: 'Rooms with socket outlets along their walls by a rule',
    note: 'No rule asks for it.',
  },
  'layout.reach': mm(4000, { title: 'No point along a wall is farther from a socket outlet than' }),
  'layout.leastWall': mm(900),
  'layout.tooHigh': mm(1200),
  'layout.counterReach': mm(1500, { title: 'No point of a worktop is farther from a socket outlet than' }),
  'layout.counterLeast': mm(600, { title: 'Worktops that count, from' }),
  'layout.counterAbove': mm(450, {
    title: 'Socket outlets of a worktop, at most above its top',
    note: 'At least 150 mm.',
  }),
  'layout.lightRooms': { note: 'By habit: the building rules ask for lighting, not for where.' },
  'layout.stairsPlaces': { value: 2, note: 'Top and bottom.' },
  'layout.ceiling': mm(2400, { note: 'As walls are commonly framed.' }),
  'layout.panelTop': mm(1800, {
    note: 'Switches of a consumer unit of a new dwelling between 1,350 and 1,450 mm (Approved Document M, from memory).',
  }),
  'layout.panelWidth': mm(450),
  'layout.panelWide': mm(600),
  'layout.panelDeep': mm(700),
  'layout.besideOpening': mm(150),
  'layout.switchBeside': mm(200),
  'layout.outsideBeside': mm(250),
  'draft.feed': {
    title: 'Lighting is looped',
    value: 'light',
    options: optionsOf({ light: 'at the ceiling (loop-in)', switch: 'at the switch' }),
  },
  'draft.fans': { value: 'light' },
  'draft.livingLight': { value: 'light', note: 'By habit.' },
  'draft.baths': {
    options: optionsOf({ each: 'each on a circuit of its own', one: 'together' }),
    value: 'one',
    note: 'By habit.',
  },
  'draft.points': { value: '12' },
  'draft.lightsApart': { value: 'apart' },
  'route.prefer': { value: 'over' },
  'route.height': mm(450, { note: 'By habit.' }),
  'route.switchHeight': mm(1300),
  'route.underPlate': mm(100, { note: 'Within 150 mm of the top of the wall.' }),
  'route.chain': { value: 'top' },
  'route.plates': mm(38, { title: 'Head plate', note: '38 mm.' }),
  'route.header': mm(220, { title: 'Height of lintels' }),
  'route.joists': mm(400),
  'route.joistDepth': mm(220, { note: '47 × 220 mm.' }),
  'route.attic': { value: 'over', note: 'Clear of insulation, or sized for it (523.9, from memory).' },
  'route.attic.times': { title: 'A meter in a loft or under a floor takes' },
  'route.heavy': { title: 'A hole takes longer for each further core in the cable, by copper' },
  'bore.diameter': mm(20, { title: 'Bit for 1.0 to 2.5 mm² cable' }),
  'bore.large': mm(25),
  'bore.perHole': { title: 'Cables of 1.0 to 2.5 mm² in one hole', value: 3 },
  'bore.edge': mm(0, {
    title: 'A hole in a stud stays from the nearest edge, or a steel plate covers it',
    note: 'Not asked: safe zones and RCD protection are asked instead.',
  }),
  'bore.perSealed': { value: 3, note: 'Holes through fire barriers are closed again.' },
  'bore.bearing': { note: 'By habit.' },
  'bore.partition': { note: 'By habit.' },
  'bore.wood': mm(16),
  'bore.plateWidth': { title: 'A hole through a head plate, of its width at most', note: 'By habit.' },
  'face.behind': mm(6, { note: 'Behind board or tile.' }),
  'face.setOut': mm(0, { note: 'Flush with the face of the studs; a lug is set back for board.' }),
  'cut.sheath': mm(10, { title: 'Sheath that shows inside the box' }),
  'cut.tailLight': mm(400, { note: '300 to 500 mm.' }),
  'cut.tailPanel': m(1.5, { note: '1 to 2 m, by the height of the consumer unit.' }),
  'cut.round': mm(250),
  'plan.perConductorFoot': { title: 'A meter of 1.5 mm² core costs', note: 'Where the crew has no price.' },
  'plan.minutesPerFoot': { title: 'Minutes for each meter', unit: 'min/m', value: 0.5 },
  'plan.multiwire': {
    value: 'no',
    options: optionsOf({ no: 'never' }),
    note: 'Circuits do not share a neutral here (314.4, from memory).',
  },
  'plan.oneWay': { title: 'Socket outlets as one way round' },
  'reel.coil': m(100, { title: 'A new drum has', note: 'Drums have 50 or 100 m.' }),
  'reel.useful': m(2),
  'estimate.studs': mm(600),
};

const published = (
  key: string,
  title: string,
  section: string,
  unit: string,
  value: Rule['value'],
  more: Partial<Rule> = {},
): Rule => ({
  key,
  title,
  section,
  unit,
  value,
  provenance: 'published, from memory',
  adjust: 'amendable',
  ...more,
});

/** What a cable is protected by at most: 433.1 with the tables of appendix 4, from memory; lighting is commonly on 6 or 10 A. */
const PROTECTED: readonly (readonly [mm2: number, amps: number, alone: number, area: number])[] = [
  [1, 10, 16, 5.7],
  [1.5, 16, 20, 6.6],
  [2.5, 20, 27, 9.6],
  [4, 32, 37, 11.9],
  [6, 40, 47, 15.9],
  [10, 50, 65, 25.5],
];

/** Milliohms of a meter of solid or stranded copper. */
const CORES: readonly (readonly [mm2: number, milliohms: number])[] = [
  [1, 18.1],
  [1.5, 12.1],
  [2.5, 7.41],
  [4, 4.61],
  [6, 3.08],
  [10, 1.83],
];

/** What only this code asks, or what is counted here alone. */
const OWN: readonly Rule[] = [
  practice('fill.room', 'Room that stays behind what is deepest', 'mm', 10, {
    note: 'For cores to be folded. No rule counts conductors in a back box: its depth is chosen by what goes in.',
  }),
  practice('makeup.inTerminal', 'Cores that go into one terminal together, at most', 'cores', 3, {
    note: 'Two legs of a ring and a spur: no connector is needed.',
  }),
  practice('fill.connector', 'A connector takes', 'mL', 3, { note: 'An estimate, to show free volume.' }),
  ...PROTECTED.flatMap(([size, amps, alone, area]): Rule[] => [
    published(
      `wire.maxBreaker.${size}mm2`,
      `Largest MCB on ${size} mm² copper`,
      '433.1, Table 4D5',
      'A',
      amps,
      {
        adjust: 'stricter-only',
        stricter: 'lower',
        note: size < 2 ? 'Lighting circuits have 6 or 10 A.' : UNSURE,
      },
    ),
    published(
      `bundle.ampacity.${size}mm2`,
      `${size} mm² flat cable, clipped direct`,
      'Table 4D5',
      'A',
      alone,
      {
        adjust: 'stricter-only',
        stricter: 'lower',
        note: UNSURE,
      },
    ),
    practice(`raceway.area.${size}mm2`, `Area of a ${size} mm² core`, 'mm²', area, {
      note: 'Outside, by its maker.',
    }),
  ]),
  ...[2.5, 4].map((size) =>
    published(`ring.maxBreaker.${size}mm2`, `Largest MCB on a ring of ${size} mm²`, '433.1.204', 'A', 32, {
      adjust: 'stricter-only',
      stricter: 'lower',
      note: 'Both ends at one MCB.',
    }),
  ),
  published('ring.spur', 'Socket outlets on a spur that is not fused, at most', 'Appendix 15', 'outlets', 1, {
    adjust: 'stricter-only',
    stricter: 'lower',
    note: 'One single or one twin; a spur from a spur is not taken.',
  }),
  published(
    'zone.depth',
    'Cable less deep than this lies in a safe zone and is RCD protected',
    '522.6.202',
    'mm',
    50,
    {
      adjust: 'stricter-only',
      stricter: 'higher',
      note: 'Both are asked: the RCD never stands for the zone. In walls with metal parts the RCD at any depth (522.6.203).',
    },
  ),
  published('zone.band', 'Safe zone along the top of a wall and in its corners', '522.6.202', 'mm', 150, {
    adjust: 'stricter-only',
    stricter: 'lower',
    note: 'And straight up, down or across from an accessory that can be seen.',
  }),
  {
    key: 'zone.metal',
    title: 'Walls are framed with metal: RCD at any depth',
    section: '522.6.203',
    provenance: 'published, from memory',
    adjust: 'free',
    value: false,
    note: 'Whether the walls of this house are.',
  },
  school(
    'wiring.twoWay',
    'Two-way switching',
    'strappers',
    {
      strappers: 'line to the first COM, strappers between',
      conversion: 'conversion: three-core from the first plate, COM to COM',
    },
    'Conversion: line and switched line come to L1 and L2 of the first plate.',
  ),
  school('plates.labels', 'Gangs of a plate are marked', 'numbered', {
    numbered: 'by numbers: COM 2, L1 2',
    lettered: 'by letters: B COM, B L1',
  }),
  school('plates.seen', 'Plates are drawn', 'behind', {
    behind: 'from behind, as they are wired',
    front: 'from the front',
  }),
  published('test.insulation', 'Insulation resistance, at least', '643.3.2, Table 64', 'MΩ', 1, {
    stricter: 'higher',
  }),
  practice('test.ringAlike', 'r1 and rn of a ring are alike to', 'Ω', 0.05),
  ...CORES.map(([size, milliohms]) =>
    published(
      `test.ohm.${size}mm2`,
      `Resistance of a ${size} mm² core at 20 °C`,
      'Table 1',
      'mΩ/m',
      milliohms,
      {
        publication: 'BS EN 60228',
        stricter: 'lower',
      },
    ),
  ),
  published('test.insulationVolts', 'Insulation is tested with', '643.3.2, Table 64', 'V', 500, {
    stricter: 'higher',
  }),
];

/** Every trade value: what the British rules say themselves, and habits that do not stop at the border, in metric and in the words of here. */
export const GB_RULES: readonly Rule[] = [
  ...takenOver(US, { isLeftOut, published: PUBLISHED, habits: HABITS }).map((rule) =>
    ruleSaid(GB_SAID, rule),
  ),
  ...OWN,
];
