import type { RoomKind } from '../../../vocabulary/kinds.js';
import type { CircuitPlan, KitItem, KitSource, PublishedKit } from '../../../vocabulary/room-kit-types.js';

const PRACTICE: KitSource = { provenance: 'common practice' };
const code = (section: string): KitSource => ({ provenance: 'published, from memory', section });

type Line = KitItem & { readonly source: KitSource };
const line = (
  key: string,
  name: string,
  thing: KitItem['thing'],
  source: KitSource,
  more: Partial<KitItem> = {},
): Line => ({ key, name, thing, least: 1, source, ...more });

const kit = (
  roomKind: RoomKind,
  ways: number,
  [lengthFt, widthFt]: readonly [number, number],
  lines: readonly Line[],
): PublishedKit => ({
  roomKind,
  ways,
  assumedIn: [lengthFt * 12, widthFt * 12],
  items: lines.map(({ source: _source, ...item }) => item),
  sources: Object.fromEntries(lines.map(({ key, source }) => [key, source])),
});

/** A switched light; from every way in unless one is enough. */
const light = (order: number, more: Partial<KitItem> = {}, from: 'first' | 'every' = 'every'): Line =>
  line('light', 'Light', 'light', code('210.70'), {
    switch: { order, from },
    circuit: 'lighting',
    ...more,
  });
/** No point of a wall is farther than 6 ft from a receptacle: one for each 12 ft of wall begun. */
const outlets = (more: Partial<KitItem> = {}): Line =>
  line('outlets', 'Receptacle', 'receptacle', code('210.52(A)'), {
    least: 2,
    every: { of: 'wall-ft', each: 12 },
    circuit: 'outlets',
    ...more,
  });
const SCREEN = line('screen', 'Screen receptacle', 'receptacle', PRACTICE, {
  circuit: 'outlets',
  heightIn: 60,
  heightReference: 'centre',
});
const DATA = line('data', 'Data', 'data', PRACTICE);
const ALARM = line('alarm', 'Smoke alarm', 'alarm', code('R314 of the building code'), { circuit: 'alarms' });
const fanLight = (order: number): Line =>
  line('fan', 'Fan', 'fan-light', PRACTICE, {
    switch: { order, from: 'first' },
    circuit: 'lighting',
    blocking: true,
  });
const EXHAUST = (order: number): Line =>
  line('exhaust', 'Fan', 'exhaust', PRACTICE, { switch: { order, from: 'first' }, circuit: 'lighting' });
const BASIN = line('basin', 'Basin receptacle', 'receptacle', code('210.52(D)'), {
  circuit: 'bath',
  heightIn: 42,
  heightReference: 'centre',
});
const OUTSIDE_LIGHT = line('outside-light', 'Outside light', 'wall-light', code('210.70(A)(2)'), {
  switch: { order: 20, from: 'first', hangs: 'before' },
  circuit: 'lighting',
  heightIn: 72,
  heightReference: 'centre',
  before: 'siding',
});
const outside = (least: number): Line =>
  line('outside', 'Outside receptacle', 'receptacle', code('210.52(E)'), {
    least,
    circuit: 'outdoors',
    heightIn: 18,
    heightReference: 'centre',
    before: 'siding',
  });
const own = (
  key: string,
  name: string,
  thing: 'receptacle' | 'appliance',
  amps: number,
  supply: '120' | '240' | '120/240',
  nameplate: boolean,
  more: Partial<KitItem> & { gfci?: boolean } = {},
): Line => {
  const { gfci, ...rest } = more;
  return line(key, name, thing, PRACTICE, {
    circuit: 'own',
    own: { amps, supply, nameplate, ...(gfci && { gfci }) },
    ...rest,
  });
};
const SERVICE = line('service', 'Receptacle for service', 'receptacle', code('210.63'), {
  circuit: 'outlets',
});

/**
 * What a room usually gets: numbers with a section are of the published code, from memory; the others, and how large a room is
 * taken to be while nobody has said it, are common practice.
 */
export const US_ROOM_KITS: readonly PublishedKit[] = [
  kit('bedroom', 1, [12, 11], [fanLight(1), outlets({ least: 3 }), SCREEN, ALARM, DATA]),
  kit('closet', 1, [6, 5], [light(1, {}, 'first')]),
  kit(
    'hall',
    2,
    [14, 4],
    [
      light(1, { every: { of: 'length-ft', each: 12 } }),
      line('outlet', 'Receptacle', 'receptacle', code('210.52(H)'), {
        circuit: 'outlets',
        onlyFrom: { of: 'length-ft', least: 10 },
      }),
      ALARM,
      line('thermostat', 'Thermostat', 'thermostat', PRACTICE, {
        once: 'storey',
        heightIn: 60,
        heightReference: 'centre',
      }),
      line('chime', 'Doorbell chime', 'doorbell', PRACTICE, { once: 'house' }),
    ],
  ),
  kit(
    'foyer',
    2,
    [9, 8],
    [
      light(1),
      line('outlet', 'Receptacle', 'receptacle', code('210.52(I)'), {
        least: 3,
        circuit: 'outlets',
        onlyFrom: { of: 'area-ft2', least: 60.01 },
        inEachWall: true,
      }),
    ],
  ),
  kit(
    'stairs',
    2,
    [12, 4],
    [
      line('light', 'Light', 'light', code('210.70(A)(2)'), {
        switch: { order: 1, from: 'every' },
        circuit: 'lighting',
      }),
    ],
  ),
  kit(
    'bath',
    1,
    [10, 6],
    [
      line('vanity', 'Vanity', 'wall-light', PRACTICE, {
        switch: { order: 1, from: 'first' },
        circuit: 'lighting',
        heightIn: 72,
        heightReference: 'centre',
      }),
      line('tub', 'Tub light', 'recessed', PRACTICE, {
        switch: { order: 2, from: 'first' },
        circuit: 'lighting',
      }),
      EXHAUST(3),
      BASIN,
    ],
  ),
  kit(
    'water-closet',
    1,
    [6, 5],
    [
      line('fan', 'Fan', 'fan-light', PRACTICE, {
        switch: { order: 1, from: 'first' },
        circuit: 'lighting',
      }),
      BASIN,
    ],
  ),
  kit(
    'kitchen',
    2,
    [14, 12],
    [
      line('ceiling', 'Ceiling', 'recessed', code('210.70(A)(1)'), {
        least: 4,
        every: { of: 'area-ft2', each: 28 },
        switch: { order: 1, from: 'every' },
        circuit: 'lighting',
      }),
      line('sink', 'Sink light', 'light', PRACTICE, {
        switch: { order: 2, from: 'first' },
        circuit: 'lighting',
      }),
      line('cabinet', 'Cabinet light', 'wall-light', PRACTICE, {
        switch: { order: 3, from: 'first' },
        circuit: 'lighting',
        heightIn: 54,
        heightReference: 'centre',
      }),
      line('counter', 'Counter receptacle', 'receptacle', code('210.52(C)'), {
        least: 4,
        every: { of: 'wall-ft', each: 9 },
        circuit: 'counter',
        heightIn: 44,
        heightReference: 'centre',
      }),
      line('walls', 'Receptacle', 'receptacle', code('210.52(A)'), {
        least: 0,
        circuit: 'counter',
        besideCounters: true,
      }),
      own('refrigerator', 'Refrigerator', 'receptacle', 20, '120', false, {
        heightIn: 48,
        heightReference: 'centre',
      }),
      own('dishwasher', 'Dishwasher', 'appliance', 20, '120', false, { gfci: true }),
      own('disposer', 'Disposer', 'appliance', 20, '120', false),
      own('hood', 'Hood', 'appliance', 20, '120', false),
      own('range', 'Range', 'receptacle', 50, '120/240', true, { heightIn: 6, heightReference: 'centre' }),
    ],
  ),
  kit('dining', 2, [12, 11], [light(1), outlets({ circuit: 'dining', least: 3 })]),
  kit(
    'living',
    2,
    [16, 14],
    [light(1, { orReceptacle: true }), outlets({ least: 4 }), SCREEN, { ...DATA, least: 2 }],
  ),
  kit('family', 2, [16, 14], [fanLight(1), outlets({ least: 4 }), SCREEN, DATA]),
  kit(
    'office',
    1,
    [11, 10],
    [light(1, { orReceptacle: true }), outlets({ least: 3 }), { ...DATA, least: 2 }],
  ),
  kit(
    'laundry',
    1,
    [9, 7],
    [
      light(1),
      line('washer', 'Washer', 'receptacle', code('210.52(F)'), {
        circuit: 'laundry',
        heightIn: 42,
        heightReference: 'centre',
      }),
      own('dryer', 'Dryer', 'receptacle', 30, '120/240', true, {
        once: 'house',
        heightIn: 42,
        heightReference: 'centre',
      }),
    ],
  ),
  kit(
    'garage',
    2,
    [22, 22],
    [
      light(1, { least: 2, every: { of: 'area-ft2', each: 200 } }),
      line('bay', 'Receptacle', 'receptacle', code('210.52(G)'), {
        least: 2,
        every: { of: 'area-ft2', each: 240 },
        circuit: 'garage',
        heightIn: 48,
        heightReference: 'centre',
      }),
      line('opener', 'Opener receptacle', 'receptacle', PRACTICE, { circuit: 'garage', heightIn: 96 }),
      { ...OUTSIDE_LIGHT, switch: { order: 2, from: 'first' } },
    ],
  ),
  kit(
    'porch',
    1,
    [12, 6],
    [
      OUTSIDE_LIGHT,
      outside(1),
      line('bell', 'Doorbell button', 'doorbell', PRACTICE, {
        once: 'house',
        before: 'siding',
        heightIn: 44,
      }),
    ],
  ),
  kit('outdoors', 1, [40, 30], [OUTSIDE_LIGHT, outside(2)]),
  kit(
    'utility',
    1,
    [10, 8],
    [
      light(1),
      SERVICE,
      own('heat', 'Heat', 'appliance', 15, '120', true, { once: 'house' }),
      own('water-heater', 'Water heater', 'appliance', 30, '240', true, { once: 'house' }),
      own('cooling', 'Air conditioner', 'appliance', 30, '240', true, { once: 'house', before: 'siding' }),
    ],
  ),
  kit('attic', 1, [20, 12], [light(1, {}, 'first'), SERVICE]),
  kit(
    'basement',
    1,
    [24, 16],
    [
      light(1, { least: 2, every: { of: 'area-ft2', each: 150 } }),
      line('outlets', 'Receptacle', 'receptacle', code('210.52(G)'), { least: 2, circuit: 'outlets' }),
      ALARM,
    ],
  ),
  kit('other', 1, [12, 10], [light(1), outlets()]),
];

/** Circuits that are asked for, and serve nothing else. */
export const US_CIRCUIT_PLANS: readonly CircuitPlan[] = [
  { use: 'counter', name: 'Kitchen counter', amps: 20, least: 2, source: code('210.11(C)(1), 210.52(B)') },
  { use: 'dining', name: 'Dining receptacles', amps: 20, least: 1, source: code('210.52(B)(1)') },
  { use: 'bath', name: 'Bath receptacles', amps: 20, least: 1, source: code('210.11(C)(3)') },
  { use: 'laundry', name: 'Laundry', amps: 20, least: 1, source: code('210.11(C)(2)') },
  { use: 'garage', name: 'Garage receptacles', amps: 20, least: 1, source: code('210.11(C)(4)') },
  { use: 'outdoors', name: 'Outside receptacles', amps: 20, least: 1, source: code('210.52(E)') },
  { use: 'alarms', name: 'Smoke alarms', amps: 15, least: 1, source: code('R314 of the building code') },
  { use: 'lighting', name: 'Lighting', amps: 15, least: 1, source: code('210.11(A)') },
  { use: 'outlets', name: 'Receptacles', amps: 15, least: 1, source: code('210.11(A)') },
];
