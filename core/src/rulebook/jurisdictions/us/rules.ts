import { RoomKind } from '../../../vocabulary/kinds.js';
import type { Rule } from '../../../vocabulary/rule.js';
import { optionsOf, practice, school } from '../shared/rule-makers.js';

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
  stricter: 'higher',
  ...more,
});

/** Codes with what is shown of them; of codes alone, themselves. */
const volume = (awg: number, value: number): Rule =>
  published(`fill.volume.${awg}`, `Volume for each ${awg} AWG conductor`, 'Table 314.16(B)', 'cu in', value);

const ampacity = (awg: number, amps: number, section: string): Rule =>
  published(`wire.maxBreaker.${awg}`, `Largest breaker on ${awg} AWG copper`, section, 'A', amps, {
    adjust: 'stricter-only',
    stricter: 'lower',
  });

const GFCI_ROOMS: readonly RoomKind[] = [
  'bath',
  'water-closet',
  'garage',
  'porch',
  'outdoors',
  'kitchen',
  'laundry',
  'basement',
];

const ALLOWANCES = 'volume allowances';

/**
 * Every trade value the product uses, in the order in which the rulebook page shows them. The values of published rules
 * were written from memory; the adopted local code, the inspector and a licensed electrician decide.
 */
export const US_RULES: readonly Rule[] = [
  volume(18, 1.5),
  volume(16, 1.75),
  volume(14, 2),
  volume(12, 2.25),
  volume(10, 2.5),
  volume(8, 3),
  volume(6, 5),
  published('fill.conductor', 'Conductor that enters and is spliced or ends', '314.16(B)(1)', ALLOWANCES, 1),
  published('fill.through', 'Conductor that passes through unbroken', '314.16(B)(1)', ALLOWANCES, 1),
  published('fill.loop', 'Unbroken loop long enough for two free ends', '314.16(B)(1)', ALLOWANCES, 2),
  published('fill.clamps', 'Internal cable clamps, any number', '314.16(B)(2)', ALLOWANCES, 1),
  school(
    'fill.tabsAreClamps',
    'Count the flexible tabs of a multi-gang plastic box as clamps',
    false,
    undefined,
    'Argued both ways; ask the inspector.',
  ),
  published('fill.stud', 'Luminaire stud', '314.16(B)(3)', ALLOWANCES, 1),
  published('fill.hickey', 'Hickey', '314.16(B)(3)', ALLOWANCES, 1),
  published(
    'fill.yoke',
    'Device yoke, of the largest conductor connected to it',
    '314.16(B)(4)',
    ALLOWANCES,
    2,
  ),
  published('fill.wideYoke', 'Device wider than 2 in, for each gang it takes', '314.16(B)(4)', ALLOWANCES, 2),
  published(
    'fill.groundsCovered',
    'Equipment grounds covered by the first allowance (0 means all)',
    '314.16(B)(5)',
    'grounds',
    { 'us-2017': 0, 'us-2020': 4, 'us-2023': 4 },
    { stricter: 'lower' },
  ),
  published('fill.grounds', 'First allowance for equipment grounds', '314.16(B)(5)', ALLOWANCES, 1),
  published('fill.extraGround', 'Each equipment ground beyond those', '314.16(B)(5)', ALLOWANCES, {
    'us-2017': 0,
    'us-2020': 0.25,
    'us-2023': 0.25,
  }),
  published(
    'fill.isolatedGrounds',
    'Additional set of isolated equipment grounds',
    '314.16(B)(5)',
    ALLOWANCES,
    {
      'us-2017': 1,
      'us-2020': 0,
      'us-2023': 0,
    },
    { note: 'From 2020 on isolated grounds are counted among the equipment grounds.' },
  ),
  published(
    'fill.terminalBlock',
    'Terminal block, of the largest conductor on it',
    '314.16(B)(6)',
    ALLOWANCES,
    {
      'us-2017': 0,
      'us-2020': 0,
      'us-2023': 1,
    },
  ),
  published(
    'fill.freeFixtureWires',
    'Fixture wires from a canopy that need not be counted',
    '314.16(B)(1) exception',
    'wires',
    4,
    {
      stricter: 'lower',
      note: 'Smaller than 14 AWG only, and the ground with them.',
    },
  ),
  published('free.length', 'Free conductor from where it leaves the sheath', '300.14', 'in', 6),
  ampacity(14, 15, '240.4(D)(3)'),
  ampacity(12, 20, '240.4(D)(5)'),
  ampacity(10, 30, '240.4(D)(7)'),
  ampacity(8, 40, 'Table 310.16, 60 °C, by 334.80'),
  ampacity(6, 55, 'Table 310.16, 60 °C, by 334.80'),
  {
    key: 'neutral.atSwitch',
    title: 'A neutral at switches of lights in baths, halls, stairs and habitable rooms',
    section: '404.2(C)',
    provenance: 'published, from memory',
    adjust: 'amendable',
    stricter: 'higher',
    value: true,
    note: 'One switch location is enough where the whole area is seen from several. A box may be excused by a reason.',
  },
  {
    key: 'gfci.rooms',
    title: 'Rooms in which receptacles have ground-fault protection',
    section: '210.8(A)',
    provenance: 'published, from memory',
    adjust: 'amendable',
    stricter: 'higher',
    value: {
      'us-2017': GFCI_ROOMS,
      'us-2020': GFCI_ROOMS,
      'us-2023': GFCI_ROOMS,
    },
    options: optionsOf(Object.fromEntries(RoomKind.options.map((kind) => [kind, kind.replace('-', ' ')]))),
    note: 'Kitchen: at the counter, from 2023 on all. Basement: unfinished in 2017, all from 2020 on. Within 6 ft of a sink, tub or shower too.',
  },
  {
    key: 'fan.everyCeilingBox',
    title: 'Every ceiling box of a habitable room where a fan could hang is made for a fan',
    section: '314.27(C)',
    provenance: 'published, from memory',
    adjust: 'amendable',
    stricter: 'higher',
    value: { 'us-2017': false, 'us-2020': true, 'us-2023': true },
    note: 'Less sure than the other values: look it up in the adopted code. In every edition where separately switched spare conductors come to it.',
  },
  school(
    'wiring.loopSupply',
    'Supply conductor of a loop to a switch that carries its neutral along',
    'BK',
    ['BK', 'RD'],
    'The return to the light takes the other.',
  ),
  school(
    'wiring.gfciOnward',
    'What is fed on from a feed-through GFCI receptacle',
    'load',
    { load: 'from LOAD', 'pigtailed-past': 'pigtailed past' },
    'From LOAD it is protected too; its hot and neutral then join nothing else.',
  ),
  school(
    'wiring.offPosition',
    'Switch positions that mean off',
    'all-down',
    { 'all-down': 'all down', 'not-said': 'not said' },
    'Depends on the inside of the devices; advice, never a failure.',
  ),
  school('show.units', 'Lengths and volumes are shown in', 'feet-inches', {
    'feet-inches': 'feet, inches and fractions',
    decimal: 'decimal feet and inches',
    metric: 'meters and millimeters',
  }),
  school('raceway.hotColour', 'Hot wires in raceway', 'BK', ['BK', 'RD', 'BU']),
  school('raceway.legColour', 'Switch legs in raceway', 'RD', ['RD', 'BU', 'VT', 'OG']),
  school('raceway.travelerColours', 'Travelers in raceway', 'YE-OG', {
    'YE-OG': 'YE and OG',
    'BU-VT': 'BU and VT',
    'BN-PK': 'BN and PK',
  }),
  ...(
    [
      [14, 0.0097],
      [12, 0.0133],
      [10, 0.0211],
      [8, 0.0366],
      [6, 0.0507],
    ] as const
  ).map(([awg, area]) =>
    published(`raceway.area.${awg}`, `Area of a ${awg} AWG THHN wire`, 'Chapter 9 Table 5', 'in²', area),
  ),
  ...(
    [
      ['1/2', 0.304],
      ['3/4', 0.533],
      ['1', 0.864],
    ] as const
  ).map(([size, area]) =>
    published(`raceway.emt.${size}`, `Inside area of EMT, ${size} in`, 'Chapter 9 Table 4', 'in²', area, {
      stricter: 'lower',
    }),
  ),
  published('raceway.fill.1', 'Part of a raceway that one wire may fill', 'Chapter 9 Table 1', '%', 53, {
    stricter: 'lower',
  }),
  published('raceway.fill.2', 'Part of a raceway that two wires may fill', 'Chapter 9 Table 1', '%', 31, {
    stricter: 'lower',
  }),
  published('raceway.fill.3', 'Part of a raceway that three or more may fill', 'Chapter 9 Table 1', '%', 40, {
    stricter: 'lower',
  }),
  practice('slot.cables', 'Cables that one entry slot takes', 'cables', 2, { stricter: 'lower' }),
  school(
    'slot.onePerClamp',
    'Only one cable under each clamp or tab',
    false,
    undefined,
    'Some inspectors ask for it.',
  ),
  school(
    'slot.order',
    'Which slot a cable enters by',
    'slot-order',
    { 'slot-order': 'slot order', label: 'label', 'bottom-in': 'bottom in, top out' },
    'Slot order: slot 1, nearest the stud, is for power; the leg of the k-th switch goes to slot k + 1.',
  ),
  practice('makeup.trim', 'Conductors trimmed past the face of the box', 'in', 6, {
    note: 'Six to eight inches.',
  }),
  practice('makeup.pigtail', 'Length of a pigtail', 'in', 6),
  practice('makeup.strip.hook', 'Strip for a hook round a screw', 'in', 0.75),
  practice('makeup.strip.splice', 'Strip for a twist-on splice', 'in', 0.5),
  practice('makeup.strip.thinSplice', 'Strip for a twist-on splice, short school', 'in', 0.375),
  practice('makeup.strip.clipBack', 'Strip before pre-twisting and clipping back', 'in', 0.75),
  practice('makeup.strip.clippedTo', 'Strip left after clipping back', 'in', 0.5625, {
    note: '½ to 9⁄16 in.',
  }),
  practice('makeup.strip.pushIn', 'Strip for back-clamp and push-in terminals', 'in', 0.5625, {
    note: 'The gauge mark on the device comes first.',
  }),
  practice('makeup.strip.clamp', 'Strip for clamps: breakers, bars, 240 V receptacles', 'in', 0.625, {
    note: 'What is marked beside the clamp comes first.',
  }),
  school('makeup.legs', 'Switch legs in the box', 'label', {
    label: 'label',
    'hang-at-gang': 'hang at the gang',
  }),
  school('makeup.spliceStrip', 'Strip for splices', 'half-inch', {
    'half-inch': 'half inch',
    'three-eighths': 'three eighths',
    'clip-back': 'clip back',
  }),
  school(
    'makeup.termination',
    'How conductors land on devices',
    'hooks',
    ['hooks', 'back-clamp', 'push-in'],
    'Push-in takes 14 AWG solid only; most professionals avoid it.',
  ),
  school('makeup.hots', 'Hot to several devices', 'pigtails', ['pigtails', 'looped', 'links']),
  school(
    'makeup.pretwist',
    'Twist conductors before the connector goes on',
    'three-or-more',
    { 'three-or-more': 'three or more', always: 'always', never: 'never' },
    'Many instructions say that it is not needed.',
  ),
  school('makeup.spareNeutral', 'A capped neutral pigtail at every switch that needs none', false),
  school('makeup.connector', 'Connector for splices', 'twist-on', ['twist-on', 'lever']),
  school('makeup.sheath', 'Strip the sheath', 'before-entering', {
    'before-entering': 'before entering',
    'in-box': 'in the box',
  }),
  school('makeup.fanColour', 'Conductor for the fan where fan and light share a cable', 'BK', ['BK', 'RD']),
];
