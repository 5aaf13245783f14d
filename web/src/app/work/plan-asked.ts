import type { HouseReader } from '@mule-tally/core';
import type { PlanSchools } from '@mule-tally/core/work';
import { schoolsOf } from '@mule-tally/core/work';
import type { OpenCrew } from '../state/open-crew';
import type { PlanAsked } from './commands';

/** What the planner is asked: at the prices of the crew, by the schools of the house but for those that are chosen here. */
export function planAsked(
  reader: HouseReader,
  crew: OpenCrew,
  scope: Pick<PlanAsked, 'circuitId' | 'roomId'>,
  steps: number,
  schools: Partial<PlanSchools> = {},
): PlanAsked {
  const prices = crew
    .records('prices')
    .flatMap(({ kind, item, amount }) => (kind === 'cable' && item ? [[item, amount] as const] : []));
  return { ...scope, schools: schoolsOf(reader, schools), prices: Object.fromEntries(prices), steps };
}
