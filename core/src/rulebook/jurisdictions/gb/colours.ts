import type { Cable, ColourPlan } from '../../../vocabulary/catalogue-types.js';
import type { Mm2 } from '../../../vocabulary/size.js';
import type { Colour } from '../../../vocabulary/text.js';

/**
 * Colours before harmonisation (2004 to 2006): red is line, black neutral; three-core red, yellow, blue. Recognised in what is there
 * already, never proposed. From memory.
 */
const OLD: ColourPlan = {
  neutral: ['BK'],
  remarked: ['leg', 'common', 'traveler', 'hot'],
  marked: { line: ['BK', 'YE', 'BU'], neutral: [] },
  markedWith: { line: ['RD'], neutral: ['BK'] },
  hot: ['RD', 'YE', 'BU', 'BK'],
  leg: ['RD', 'YE', 'BU', 'BK'],
  travelers: { a: ['YE', 'BU', 'RD'], b: ['BU', 'RD', 'YE'] },
  common: ['RD', 'YE', 'BU'],
  interconnect: ['YE', 'BU', 'RD'],
  secondHot: 'YE',
  other: 'RD',
};

/**
 * Blue is neutral, brown line (514.3 and table 51, from memory). Two-core to a switch takes its permanent line down in brown and the
 * switched line back in blue; every blue, black or grey core that is line has a brown sleeve at both ends. Three-core has no blue:
 * where a neutral goes along, grey is sleeved blue. Which core takes what is common practice.
 */
export const GB_COLOURS: ColourPlan = {
  neutral: ['BU'],
  remarked: ['leg', 'common', 'traveler', 'hot'],
  marked: { line: ['BU', 'BK', 'GY'], neutral: ['GY', 'BK'] },
  markedWith: { line: ['BN'], neutral: ['BU'] },
  hot: ['BN', 'BK', 'GY', 'BU'],
  leg: ['BN', 'BK', 'GY', 'BU'],
  travelers: { a: ['BK', 'GY', 'BN'], b: ['GY', 'BN', 'BK'] },
  common: ['BN', 'BK', 'GY'],
  interconnect: ['BK', 'GY', 'BN'],
  secondHot: 'BK',
  other: 'VT',
  old: OLD,
};

/** Of the CPC, by the size of the cores: as flat cable is made (from memory). */
const CPC: Partial<Record<Mm2, Mm2>> = { 1: 1, 1.5: 1, 2.5: 1.5, 4: 1.5, 6: 2.5, 10: 4 };
const cable = (size: Mm2, colours: readonly Colour[], id: string, more: Partial<Cable> = {}): Cable => ({
  id,
  gauge: `${size}mm2`,
  groundGauge: `${CPC[size]!}mm2`,
  colours,
  ...more,
});

/** Flat twin-and-earth and three-core-and-earth; the CPC bare, in a sleeve at every end. Common practice. */
export const GB_CABLES: readonly Cable[] = [
  ...([1, 1.5, 2.5, 4, 6, 10] as const).map((size) => cable(size, ['BN', 'BU'], `${size.toFixed(1)} T&E`)),
  ...([1, 1.5] as const).map((size) => cable(size, ['BN', 'BK', 'GY'], `${size.toFixed(1)} 3C&E`)),
  ...([1, 1.5, 2.5] as const).map((size) =>
    cable(size, ['RD', 'BK'], `${size.toFixed(1)} T&E old`, { old: true }),
  ),
  ...([1, 1.5] as const).map((size) =>
    cable(size, ['RD', 'YE', 'BU'], `${size.toFixed(1)} 3C&E old`, { old: true }),
  ),
];
