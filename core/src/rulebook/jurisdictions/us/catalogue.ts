import type { BoxType, DeviceType, FittingType } from '../../../vocabulary/catalogue-types.js';
import type { PointRole } from '../../../vocabulary/kinds.js';

const plastic = (gangs: number, volumeIn3: number): BoxType => ({
  id: `plastic-${gangs}g-${volumeIn3}`,
  name: `Plastic, ${gangs} gang`,
  material: 'plastic',
  kind: 'device',
  gangs,
  // A single-gang box has plain entries; wider ones hold the cable with flexible tabs.
  clamps: gangs === 1 ? 'none' : 'tabs',
  slots: gangs === 1 ? 4 : 4 * gangs,
  groundScrew: false,
  volumeIn3,
  provenance: 'common practice',
});

const plasticCeiling = (volumeIn3: number, fanRated: boolean): BoxType => ({
  id: `${fanRated ? 'fan' : 'plastic-round'}-${volumeIn3}`,
  name: `${fanRated ? 'Fan-rated' : 'Plastic'} round`,
  material: 'plastic',
  kind: 'ceiling',
  gangs: 0,
  clamps: 'none',
  slots: 4,
  groundScrew: false,
  volumeIn3,
  fanRated,
  provenance: 'common practice',
});

const metal = (
  id: string,
  name: string,
  kind: BoxType['kind'],
  gangs: number,
  volumeIn3: number,
  clamps: BoxType['clamps'],
  more: Partial<BoxType> = {},
): BoxType => ({
  id: `metal-${id}`,
  name: `Metal ${name}`,
  material: 'metal',
  kind,
  gangs,
  clamps,
  slots: kind === 'ceiling' || kind === 'square' ? 8 : 4,
  groundScrew: true,
  volumeIn3,
  provenance: 'published, from memory',
  section: 'Table 314.16(A)',
  ...more,
});

/**
 * Table 314.16(A), from memory, and plastic boxes in the volumes that are commonly stocked. Metal boxes are entered with
 * internal clamps where they are usually sold so; a box can say otherwise.
 */
export const US_BOXES: readonly BoxType[] = [
  ...[18, 20, 22.5].map((volume) => plastic(1, volume)),
  ...[32, 34, 35].map((volume) => plastic(2, volume)),
  ...[44, 45.5, 53].map((volume) => plastic(3, volume)),
  ...[58, 68, 72].map((volume) => plastic(4, volume)),
  ...[14, 20, 22.5].map((volume) => plasticCeiling(volume, false)),
  ...[20.5, 24].map((volume) => plasticCeiling(volume, true)),
  metal('octagon-4x1.25', 'octagon 4 × 1¼', 'ceiling', 0, 12.5, 'internal'),
  metal('octagon-4x1.5', 'octagon 4 × 1½', 'ceiling', 0, 15.5, 'internal'),
  metal('octagon-4x2.125', 'octagon 4 × 2⅛', 'ceiling', 0, 21.5, 'internal'),
  metal('fan-octagon-4x1.5', 'octagon 4 × 1½, fan-rated', 'ceiling', 0, 15.5, 'internal', { fanRated: true }),
  metal('fan-octagon-4x2.125', 'octagon 4 × 2⅛, fan-rated', 'ceiling', 0, 21.5, 'internal', {
    fanRated: true,
  }),
  metal('square-4x1.25', 'square 4 × 1¼', 'square', 2, 18, 'external'),
  metal('square-4x1.5', 'square 4 × 1½', 'square', 2, 21, 'external'),
  metal('square-4x2.125', 'square 4 × 2⅛', 'square', 2, 30.3, 'external'),
  metal('square-4.6875x1.25', 'square 4 11/16 × 1¼', 'square', 2, 25.5, 'external'),
  metal('square-4.6875x1.5', 'square 4 11/16 × 1½', 'square', 2, 29.5, 'external'),
  metal('square-4.6875x2.125', 'square 4 11/16 × 2⅛', 'square', 2, 42, 'external'),
  metal('device-3x2x1.5', 'device 3 × 2 × 1½', 'device', 1, 7.5, 'internal'),
  metal('device-3x2x2', 'device 3 × 2 × 2', 'device', 1, 10, 'internal'),
  metal('device-3x2x2.25', 'device 3 × 2 × 2¼', 'device', 1, 10.5, 'internal'),
  metal('device-3x2x2.5', 'device 3 × 2 × 2½', 'device', 1, 12.5, 'internal'),
  metal('device-3x2x2.75', 'device 3 × 2 × 2¾', 'device', 1, 14, 'internal'),
  metal('device-3x2x3.5', 'device 3 × 2 × 3½', 'device', 1, 18, 'internal'),
  metal('device-4x2.125x1.5', 'device 4 × 2⅛ × 1½', 'device', 1, 10.3, 'internal'),
  metal('device-4x2.125x1.875', 'device 4 × 2⅛ × 1⅞', 'device', 1, 13, 'internal'),
  metal('device-4x2.125x2.125', 'device 4 × 2⅛ × 2⅛', 'device', 1, 14.5, 'internal'),
  ...[1, 2, 3].flatMap((gangs) => [
    metal(
      `masonry-2.5-${gangs}g`,
      `masonry 3¾ × 2 × 2½, ${gangs} gang`,
      'masonry',
      gangs,
      14 * gangs,
      'none',
    ),
    metal(
      `masonry-3.5-${gangs}g`,
      `masonry 3¾ × 2 × 3½, ${gangs} gang`,
      'masonry',
      gangs,
      21 * gangs,
      'none',
    ),
  ]),
  metal('fs-1g', 'cast FS, 1¾ deep, single', 'cast', 1, 13.5, 'none'),
  metal('fs-2g', 'cast FS, 1¾ deep, 2 gang', 'cast', 2, 36, 'none'),
  metal('fd-1g', 'cast FD, 2⅜ deep, single', 'cast', 1, 18, 'none'),
  metal('fd-2g', 'cast FD, 2⅜ deep, 2 gang', 'cast', 2, 48, 'none'),
  {
    id: 'panel',
    name: 'Panel',
    material: 'metal',
    kind: 'panel',
    gangs: 0,
    clamps: 'none',
    slots: 60,
    groundScrew: false,
    provenance: 'common practice',
  },
  {
    id: 'buried-point',
    name: 'Buried point (cable end, no box yet)',
    material: 'plastic',
    kind: 'buried-point',
    gangs: 0,
    clamps: 'none',
    slots: 2,
    groundScrew: false,
    provenance: 'common practice',
  },
  {
    id: 'light-box',
    name: 'Light with its own splice box',
    material: 'metal',
    kind: 'light-box',
    gangs: 0,
    clamps: 'none',
    slots: 4,
    groundScrew: true,
    mostCables: 4,
    provenance: 'common practice',
  },
  {
    id: 'low-voltage',
    name: 'Low-voltage bracket',
    material: 'plastic',
    kind: 'low-voltage',
    gangs: 1,
    clamps: 'none',
    slots: 4,
    groundScrew: false,
    provenance: 'common practice',
  },
];

const ring = (gangs: number, depth: string, volumeIn3: number): FittingType => ({
  id: `ring-${gangs}g-${volumeIn3}`,
  name: `Ring for 4 in square, ${gangs} gang, ${depth} in raised`,
  kind: 'ring',
  gangs,
  volumeIn3,
});

const extension = (id: string, name: string, volumeIn3: number): FittingType => ({
  id: `extension-${id}`,
  name: `Extension, ${name}`,
  kind: 'extension',
  volumeIn3,
});

/**
 * Rings and extensions: common practice, from memory; the volume marked in the piece at hand decides (314.16(A)). An
 * extension of a standard shape has the volume of that shape in table 314.16(A).
 */
export const US_FITTINGS: readonly FittingType[] = [
  ring(1, '½', 3),
  ring(1, '⅝', 3.75),
  ring(1, '¾', 4.5),
  ring(2, '½', 5),
  ring(2, '⅝', 6.25),
  ring(2, '¾', 7.5),
  extension('octagon-4x1.5', '4 in octagon, 1½ deep', 15.5),
  extension('square-4x1.5', '4 in square, 1½ deep', 21),
  extension('square-4.6875x1.5', '4 11/16 in square, 1½ deep', 29.5),
];

const device = (
  id: string,
  name: string,
  mount: DeviceType['mount'],
  points: PointRole[],
  more: Partial<DeviceType> = {},
): DeviceType => ({
  id,
  name,
  mount,
  points,
  connection: mount === 'canopy' ? 'leads' : 'screws',
  needsNeutral: false,
  feedThrough: false,
  ...more,
});

/**
 * Generic devices; what a kind of switch can serve, how wide a range or dryer receptacle is and how deep what is deeper than an inch:
 * common practice, the device in hand decides. Whether a switch is a single-pole, three-way or four-way is derived, so there is one "switch".
 */
export const US_DEVICES: readonly DeviceType[] = [
  device('switch', 'Switch', 'yoke', ['lever']),
  device('switch-double', 'Two switches in one gang', 'yoke', ['lever', 'lever'], {
    serves: ['single-pole', 'three-way'],
  }),
  device('dimmer', 'Dimmer', 'yoke', ['lever'], { serves: ['single-pole', 'three-way'], depthIn: 1.25 }),
  device('smart-switch', 'Smart switch (needs neutral)', 'yoke', ['lever'], {
    needsNeutral: true,
    connection: 'leads',
    depthIn: 1.5,
    serves: ['single-pole', 'three-way'],
  }),
  device('timer', 'Timer (needs neutral)', 'yoke', ['lever'], {
    needsNeutral: true,
    connection: 'leads',
    depthIn: 1.5,
    serves: ['single-pole'],
  }),
  device('receptacle', 'Duplex receptacle', 'yoke', ['receptacle', 'receptacle']),
  device('receptacle-single', 'Single receptacle', 'yoke', ['receptacle']),
  device('receptacle-gfci', 'GFCI receptacle', 'yoke', ['receptacle'], {
    feedThrough: true,
    depthIn: 1.25,
  }),
  device('luminaire', 'Light', 'canopy', ['lamp']),
  device('fan', 'Fan', 'canopy', ['fan']),
  device('fan-light', 'Fan with light', 'canopy', ['fan', 'lamp']),
  device('alarm', 'Smoke alarm', 'canopy', ['alarm']),
  device('appliance', 'Appliance connection', 'direct', ['appliance'], { connection: 'leads' }),
  device('receptacle-240', '240 V receptacle', 'yoke', ['appliance'], { supply: '240' }),
  device('receptacle-240-neutral', '240 V receptacle with neutral (range, dryer)', 'yoke', ['appliance'], {
    supply: '120/240',
    widthGangs: 2,
  }),
  device('appliance-240', '240 V appliance connection', 'direct', ['appliance'], {
    connection: 'leads',
    supply: '240',
  }),
];
