import type { PointRole } from '../house/model.js';

/** What a load draws when nothing is stated, in watts: common practice, for pictures and comparisons only. */
export const NOMINAL_WATTS: Readonly<Record<PointRole, number>> = {
  lever: 0,
  receptacle: 180,
  lamp: 60,
  fan: 75,
  alarm: 5,
  appliance: 1500,
};
