import type { BoxType, Cable, FittingType } from '../../../vocabulary/catalogue-types.js';
import { US_CABLES } from '../us/cables.js';
import { US_BOXES } from '../us/catalogue.js';
import { saidIn } from '../../../vocabulary/said-in.js';
import { CA_SAID } from './glossary.js';

/** Millilitres as the catalogue keeps volumes, in cubic inches: exact. */
const mL = (volume: number): number => volume / 16.387064;

const own = (
  id: string,
  name: string,
  volume: number,
  more: Partial<BoxType> & Pick<BoxType, 'material' | 'kind' | 'gangs' | 'clamps'>,
): BoxType => ({
  id: `ca-${id}`,
  name,
  volumeIn3: mL(volume),
  slots: more.kind === 'device' ? 4 * more.gangs : 8,
  groundScrew: more.material === 'metal',
  provenance: 'published, from memory',
  section: 'Table 23',
  ...more,
});

const PLASTIC = { material: 'plastic', provenance: 'common practice', groundScrew: false } as const;
/** Without a section: no table gives it, it is marked in the box. */
const marked = (box: BoxType): BoxType => {
  const { section: _section, ...rest } = box;
  return rest;
};

/**
 * Table 23 of the Canadian code, from memory (the device box of 76 mm and gangs side by side are less sure), and plastic boxes in the
 * volumes that are commonly marked in them.
 */
export const CA_BOXES: readonly BoxType[] = [
  ...([1, 2, 3, 4] as const).flatMap((gangs) => [
    own(`device-64-${gangs}g`, `Metal device 76 × 51 × 64 mm, ${gangs} gang`, 204 * gangs, {
      ...{ material: 'metal', kind: 'device', gangs, clamps: 'internal' },
    }),
    own(`device-76-${gangs}g`, `Metal device 76 × 51 × 76 mm, ${gangs} gang`, 245 * gangs, {
      ...{ material: 'metal', kind: 'device', gangs, clamps: 'internal' },
    }),
  ]),
  ...(
    [
      [1, 295],
      [1, 368],
      [2, 524],
      [2, 573],
      [3, 721],
      [3, 868],
      [4, 950],
      [4, 1180],
    ] as const
  ).map(([gangs, volume]) =>
    marked(
      own(`plastic-${gangs}g-${volume}`, `Plastic, ${gangs} gang`, volume, {
        ...{ ...PLASTIC, kind: 'device', gangs, clamps: gangs === 1 ? 'none' : 'tabs' },
      }),
    ),
  ),
  ...([229, 328, 368] as const).map((volume) =>
    marked(
      own(`plastic-round-${volume}`, 'Plastic round', volume, {
        ...{ ...PLASTIC, kind: 'ceiling', gangs: 0, clamps: 'none', slots: 4 },
      }),
    ),
  ),
  ...([336, 393] as const).map((volume) =>
    marked(
      own(`fan-${volume}`, 'Fan-rated round', volume, {
        ...{ ...PLASTIC, kind: 'ceiling', gangs: 0, clamps: 'none', slots: 4, fanRated: true },
      }),
    ),
  ),
  own('octagon-38', 'Metal octagon 102 × 38 mm', 245, {
    ...{ material: 'metal', kind: 'ceiling', gangs: 0, clamps: 'internal' },
  }),
  own('octagon-54', 'Metal octagon 102 × 54 mm', 344, {
    ...{ material: 'metal', kind: 'ceiling', gangs: 0, clamps: 'internal' },
  }),
  own('square-38', 'Metal square 102 × 38 mm', 344, {
    ...{ material: 'metal', kind: 'square', gangs: 2, clamps: 'external' },
  }),
  own('square-54', 'Metal square 102 × 54 mm', 491, {
    ...{ material: 'metal', kind: 'square', gangs: 2, clamps: 'external' },
  }),
  // What has no volume is the same everywhere.
  ...US_BOXES.filter(({ volumeIn3 }) => volumeIn3 === undefined).map((box) => ({
    ...box,
    name: saidIn(CA_SAID, box.name),
  })),
];

/** Red sheath: black and red, for heat of 240 V (common practice). */
const heat = (gauge: 14 | 12 | 10): Cable => ({
  id: `${gauge}/2 heat`,
  gauge,
  groundGauge: gauge,
  colours: ['BK', 'RD'],
});

/** NMD90 cable: by gauge and insulated conductors as to the south; bonding conductors bare. Common practice. */
export const CA_CABLES: readonly Cable[] = [
  ...US_CABLES.filter(({ colours }) => colours.length < 4),
  heat(14),
  heat(12),
  heat(10),
];

const ring = (gangs: number, raisedMm: number, volume: number): FittingType => ({
  id: `ring-${gangs}g-${volume}-ml`,
  name: `Ring for 102 mm square, ${gangs} gang, ${raisedMm} mm raised`,
  kind: 'ring',
  gangs,
  volumeIn3: mL(volume),
});
const extension = (shape: 'octagon' | 'square', volume: number): FittingType => ({
  id: `extension-${shape}-102-ml`,
  name: `Extension, 102 mm ${shape}, 38 mm deep`,
  kind: 'extension',
  volumeIn3: mL(volume),
});

/** Rings and extensions: common practice, from memory; the volume marked in the piece at hand decides. */
export const CA_FITTINGS: readonly FittingType[] = [
  ring(1, 13, 49),
  ring(1, 16, 61),
  ring(1, 19, 74),
  ring(2, 13, 82),
  ring(2, 16, 102),
  ring(2, 19, 123),
  extension('octagon', 245),
  extension('square', 344),
];
