import type { Rule } from '../../../vocabulary/rule.js';
import type { RoomKind } from '../../../vocabulary/kinds.js';
import { RoomKind as RoomKinds } from '../../../vocabulary/kinds.js';
import { practice, school } from '../shared/rule-makers.js';

const AFCI_ROOMS: readonly RoomKind[] = [
  'kitchen',
  'dining',
  'living',
  'family',
  'bedroom',
  'hall',
  'foyer',
  'stairs',
  'laundry',
  'closet',
  'office',
  'other',
];

/** The big choices that a draft asks first, in the order in which it asks them. */
export const US_ASKED_FIRST = [
  'draft.feed',
  'draft.livingLight',
  'draft.fans',
  'draft.baths',
  'draft.points',
] as const;

/** How a house is drafted from its rooms. */
export const US_DRAFTING: readonly Rule[] = [
  school('draft.feed', 'Power comes in at', 'switch', { switch: 'the switch', light: 'the light' }),
  school(
    'draft.livingLight',
    'Living room and office',
    'light',
    { light: 'a ceiling light', receptacle: 'a switched half of a receptacle' },
    'A switched receptacle may stand for the light in habitable rooms but kitchen and bath: 210.70(A)(1) exception, from memory.',
  ),
  school('draft.fans', 'Paddle fans in bedrooms and the family room', 'wired', {
    wired: 'fan and light on two switches',
    light: 'a light only',
  }),
  school(
    'draft.baths',
    'Baths',
    'each',
    { each: 'each on 20 A of its own, with its lights', one: 'receptacles of all on one 20 A' },
    '210.11(C)(3) and its exception, from memory: a circuit that serves one bath alone may feed its lights and fan.',
  ),
  school('draft.points', 'Points on one lighting circuit at most', '10', {
    '8': '8',
    '10': '10',
    '12': '12',
    none: 'no limit',
  }),
  school('draft.lightsApart', 'Lights and receptacles of rooms', 'together', {
    together: 'on the same circuits',
    apart: 'on circuits apart',
  }),
  {
    key: 'afci.rooms',
    title: 'Rooms of which the 15 and 20 A circuits have arc-fault protection',
    section: '210.12(A)',
    provenance: 'published, from memory',
    adjust: 'amendable',
    stricter: 'higher',
    value: { 'us-2017': AFCI_ROOMS, 'us-2020': AFCI_ROOMS, 'us-2023': AFCI_ROOMS },
    options: RoomKinds.options.map((kind) => ({ code: kind, text: kind.replace('-', ' ') })),
  },
  {
    key: 'gfci.wholeKitchen',
    title: 'All receptacles of the kitchen, not those of the counter alone, have ground-fault protection',
    section: '210.8(A)',
    provenance: 'published, from memory',
    adjust: 'amendable',
    stricter: 'higher',
    value: { 'us-2017': false, 'us-2020': false, 'us-2023': true },
  },
  {
    key: 'gfci.volts',
    title: 'Ground-fault protection is asked of receptacles up to',
    unit: 'V',
    section: '210.8(A)',
    provenance: 'published, from memory',
    adjust: 'amendable',
    stricter: 'higher',
    value: { 'us-2017': 125, 'us-2020': 250, 'us-2023': 250 },
    note: 'Dryers and ranges in the rooms of the list: from 2020 on.',
  },
  {
    key: 'load.lighting',
    title: 'General lighting load for each square foot',
    unit: 'VA',
    section: '220.12',
    provenance: 'published, from memory',
    adjust: 'stricter-only',
    stricter: 'higher',
    value: 3,
    note: '220.12 in 2017, 220.14(J) in 2020, 220.41 in 2023. Without porches, garage and unfinished space.',
  },
  practice('estimate.inRoom', 'Cable from box to box in a room', 'ft', 14, 'Until its way is known.'),
  practice('estimate.nextRoom', 'Cable from a room to the next', 'ft', 24, 'Until its way is known.'),
  practice('estimate.perRoom', 'More for each room passed on the way', 'ft', 8, 'Until its way is known.'),
  practice('estimate.studs', 'From stud to stud', 'in', 16, 'For holes, until the framing is known.'),
  practice('estimate.homeRun', 'Cable of a home run', 'ft', 45, 'Until its way is known.'),
  practice('estimate.storey', 'More for each floor between', 'ft', 10, 'Until its way is known.'),
];

/** Rooms whose floor counts for the general lighting load: finished ones, without garage and porches. */
export const US_LIGHTING_AREA: readonly RoomKind[] = RoomKinds.options.filter(
  (kind) => !['garage', 'porch', 'outdoors', 'attic', 'basement'].includes(kind),
);
/** Rooms in which no panel hangs (240.24, from memory), and those in which it usually does, the best first. */
export const US_NO_PANEL: readonly RoomKind[] = ['bath', 'water-closet', 'closet', 'stairs'];
export const US_PANEL_ROOMS: readonly RoomKind[] = ['garage', 'utility', 'basement', 'laundry', 'hall'];
