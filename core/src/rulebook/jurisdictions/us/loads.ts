import type { LoadRole } from '../../../vocabulary/kinds.js';

/** Volts between a hot and neutral; between the two hots of the service twice as many. Common practice. */
export const US_LINE_VOLTS = 120;

/** What a load draws when nothing is stated, in watts: common practice, for pictures and comparisons only. */
export const US_WATTS: Readonly<Record<LoadRole, number>> = {
  receptacle: 180,
  lamp: 60,
  fan: 75,
  alarm: 5,
  appliance: 1500,
  electronics: 1,
};
