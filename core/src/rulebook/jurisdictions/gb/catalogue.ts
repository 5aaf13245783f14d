import type { BoxType, Connector, DeviceType, FittingType } from '../../../vocabulary/catalogue-types.js';
import { US_BOXES, US_DEVICES } from '../us/catalogue.js';

/** Millilitres as the catalogue keeps volumes, in cubic inches: exact. */
const mL = (volume: number): number => volume / 16.387064;
const mm = (length: number): number => length / 25.4;

const box = (
  id: string,
  name: string,
  gangs: number,
  [widthMm, heightMm, depthMm]: readonly [number, number, number],
  more: Partial<BoxType> = {},
): BoxType => ({
  id: `gb-${id}`,
  name,
  material: 'metal',
  kind: 'device',
  gangs,
  clamps: 'none',
  slots: 6,
  groundScrew: true,
  volumeIn3: mL((widthMm * heightMm * depthMm) / 1000),
  insideIn: [mm(widthMm), mm(heightMm), mm(depthMm)],
  provenance: 'common practice',
  ...more,
});

const NAMES: Partial<Record<BoxType['kind'], string>> = {
  panel: 'Consumer unit',
  'light-box': 'Downlight with its own terminal box',
};

/** Back boxes by depth; inside measures, and so volumes, are common practice. */
export const GB_BOXES: readonly BoxType[] = [
  ...([16, 25, 35, 47] as const).flatMap((depth) => [
    box(`back-1g-${depth}`, `Back box ${depth} mm, 1 gang`, 1, [70, 70, depth]),
    box(`back-2g-${depth}`, `Back box ${depth} mm, 2 gang`, 2, [130, 70, depth]),
  ]),
  ...([35, 47] as const).flatMap((depth) => [
    box(`dry-1g-${depth}`, `Dry-lining box ${depth} mm, 1 gang`, 1, [65, 65, depth], {
      ...{ material: 'plastic', groundScrew: false },
    }),
    box(`dry-2g-${depth}`, `Dry-lining box ${depth} mm, 2 gang`, 2, [125, 65, depth], {
      ...{ material: 'plastic', groundScrew: false },
    }),
  ]),
  box('pattress-1g-32', 'Surface pattress 32 mm, 1 gang', 1, [78, 78, 32], {
    ...{ material: 'plastic', groundScrew: false },
  }),
  box('rose', 'Ceiling rose or lid on a round box', 0, [60, 60, 45], {
    ...{ material: 'plastic', kind: 'ceiling', groundScrew: false, slots: 8 },
  }),
  box('junction', 'Junction box 20 A', 0, [85, 85, 30], {
    ...{ material: 'plastic', kind: 'ceiling', groundScrew: false, slots: 6 },
  }),
  // What has no volume is the same everywhere, but for its name.
  ...US_BOXES.filter(({ volumeIn3 }) => volumeIn3 === undefined).map((own) => ({
    ...own,
    name: NAMES[own.kind] ?? own.name,
  })),
];

/** The plates of so many gangs, each gang a two-way switch of its own: three gangs are as wide as two, four take a double box. */
const plate = (gangs: 1 | 2 | 3 | 4): DeviceType => ({
  id: `gb-plate-${gangs}`,
  name: gangs === 1 ? 'Switch plate' : `Switch plate, ${gangs} gang`,
  mount: 'yoke',
  points: Array.from({ length: gangs }, () => 'lever' as const),
  connection: 'screws',
  needsNeutral: false,
  feedThrough: false,
  commonsApart: true,
  depthIn: mm(gangs < 3 ? 12 : 15),
  widthGangs: gangs === 4 ? 2 : 1,
  ...(gangs > 1 && { serves: ['single-pole', 'three-way'] }),
});

/** Names of devices that are the same everywhere, and how deep they reach into a box where that is counted: common practice. */
const HERE: Readonly<Record<string, Partial<DeviceType>>> = {
  switch: { name: 'Switch', depthIn: mm(12) },
  dimmer: { name: 'Dimmer', depthIn: mm(22) },
  'smart-switch': { name: 'Smart switch (needs neutral)', depthIn: mm(25) },
  timer: { name: 'Timer (needs neutral)', depthIn: mm(25) },
  receptacle: { name: 'Twin socket outlet', depthIn: mm(16), widthGangs: 2 },
  'receptacle-single': { name: 'Single socket outlet', depthIn: mm(16) },
  luminaire: { name: 'Light', connection: 'screws' },
  fan: { name: 'Fan' },
  'fan-light': { name: 'Fan with light' },
  alarm: { name: 'Smoke alarm' },
  appliance: { name: 'Fixed appliance' },
};

/** Devices: what is of no use here (two lines, feed-through protection) is left out. */
export const GB_DEVICES: readonly DeviceType[] = [
  ...([1, 2, 3, 4] as const).map(plate),
  ...US_DEVICES.flatMap((own) => (HERE[own.id] ? [{ ...own, ...HERE[own.id] }] : [])),
];

const block = (amps: number, largest: 2.5 | 4 | 6, ways: number): Connector => ({
  id: `gb-block-${amps}`,
  name: `${amps} A connector block`,
  kind: 'block',
  from: [{ '0.75mm2': 1 }],
  upTo: [{ [`${largest}mm2`]: ways }],
});
const lever = (ports: number): Connector => ({
  id: `gb-lever-${ports}`,
  name: `${ports}-port lever connector`,
  kind: 'lever',
  from: [{ '0.75mm2': 2 }],
  upTo: [{ '4mm2': ports }],
});

/** Generic connectors, smallest first: common practice, from memory; what is printed on the connector in hand decides. */
export const GB_CONNECTORS: readonly Connector[] = [
  block(5, 2.5, 3),
  block(15, 4, 4),
  block(30, 6, 5),
  { ...block(30, 6, 5), id: 'gb-terminal', name: 'earth terminal block', upTo: [{ '6mm2': 10 }] },
  lever(2),
  lever(3),
  lever(5),
];

/** Extensions of boxes: none are usual. */
export const GB_FITTINGS: readonly FittingType[] = [];
