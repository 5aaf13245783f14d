import type { Rule } from '../../../vocabulary/rule.js';
import { practice } from '../shared/rule-makers.js';

const published = (
  key: string,
  title: string,
  section: string,
  unit: string,
  value: Rule['value'],
  stricter: 'higher' | 'lower',
  note?: string,
): Rule => ({
  key,
  title,
  section,
  unit,
  value,
  stricter,
  provenance: 'published, from memory',
  adjust: 'stricter-only',
  ...(note && { note }),
});

const AMPACITY: readonly (readonly [number, number])[] = [
  [14, 25],
  [12, 30],
  [10, 40],
  [8, 55],
  [6, 75],
];
const CARRIED: readonly (readonly [number, number])[] = [
  [4, 80],
  [7, 70],
  [10, 50],
  [21, 45],
];

/** What is looked at before the walls are closed. */
export const US_CLOSING: readonly Rule[] = [
  published(
    'face.behind',
    'The front of a box is behind the finish at most',
    '314.20',
    'in',
    0.25,
    'lower',
    'Behind board or tile. Behind wood or other finish that burns: not at all, which nobody can tell from a plan.',
  ),
  practice(
    'face.setOut',
    'A box stands out from the studs, where nobody has said how far',
    'in',
    0.5,
    'As boxes are marked for board of ½ in.',
  ),
  ...AMPACITY.map(([awg, amps]) =>
    published(
      `bundle.ampacity.${awg}`,
      `${awg} AWG copper at 90 °C, from which cables together are derated`,
      'Table 310.16, 334.80',
      'A',
      amps,
      'lower',
    ),
  ),
  ...CARRIED.map(([from, percent]) =>
    published(
      `bundle.percent.${from}`,
      `Cables together in insulation, from ${from} current-carrying conductors on, carry`,
      'Table 310.15(C)(1), 334.80',
      '%',
      percent,
      'lower',
      'More than two cables of sheathed wire. In 2017: Table 310.15(B)(3)(a).',
    ),
  ),
  published(
    'neutral.onGroundCircuit',
    'Electronic switches without a neutral on one circuit',
    '404.22 exception, 404.2(C)',
    'switches',
    5,
    'lower',
    'Where an old switch is replaced and finish would have to be opened.',
  ),
  published(
    'neutral.onGroundFeeder',
    'Electronic switches without a neutral on one feeder',
    '404.22 exception, 404.2(C)',
    'switches',
    25,
    'lower',
    'A bonded neutral bar is not counted.',
  ),
];
