import type { PointRole } from '../vocabulary/kinds.js';

/** What draws: a load that a device is there for, or the electronics of a switch that needs a neutral. */
export type LoadRole = Exclude<PointRole, 'lever'> | 'electronics';

/** What a load draws when nothing is stated, in watts: common practice, for pictures and comparisons only. */
export const NOMINAL_WATTS: Readonly<Record<LoadRole, number>> = {
  receptacle: 180,
  lamp: 60,
  fan: 75,
  alarm: 5,
  appliance: 1500,
  electronics: 1,
};
