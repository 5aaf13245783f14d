import type { Cable, ColourPlan } from '../../../vocabulary/catalogue-types.js';
import type { Awg, Colour } from '../../../vocabulary/text.js';

const COLOURS: readonly (readonly Colour[])[] = [
  ['BK', 'WH'],
  ['BK', 'RD', 'WH'],
  ['BK', 'RD', 'BU', 'WH'],
];
const cable = (gauge: Awg, count: 2 | 3 | 4): Cable => ({
  id: `${gauge}/${count}`,
  gauge,
  groundGauge: gauge >= 10 ? gauge : 10,
  colours: COLOURS[count - 2]!,
});

/**
 * NM-B cable by gauge and insulated conductors: "14/2" has two of 14 AWG and a bare ground. Ground sizes as the conductors up to
 * 10 AWG, 10 AWG above (common practice, follows NEC table 250.122 from memory).
 */
export const US_CABLES: readonly Cable[] = [
  ...([14, 12] as const).flatMap((gauge) => ([2, 3, 4] as const).map((count) => cable(gauge, count))),
  ...([10, 8, 6] as const).flatMap((gauge) => ([2, 3] as const).map((count) => cable(gauge, count))),
];

/**
 * White is neutral; in cable it may be marked again as supply or traveler, never as the return from the switch to the light
 * (NEC 200.7(C)). Which of the others comes first for what is common practice.
 */
export const US_COLOURS: ColourPlan = {
  neutral: ['WH', 'GY'],
  remarked: ['hot', 'traveler'],
  marked: { line: ['WH'], neutral: [] },
  markedWith: { line: ['BK', 'RD'], neutral: [] },
  hot: ['BK', 'RD', 'BU'],
  leg: ['BK', 'RD', 'BU'],
  travelers: { a: ['RD', 'BU', 'BK'], b: ['BU', 'BK', 'RD'] },
  common: ['BK', 'RD', 'BU'],
  interconnect: ['RD', 'BU', 'BK'],
  secondHot: 'RD',
  other: 'BN',
};
