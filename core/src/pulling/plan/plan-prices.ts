import { Derivations } from '../../derive/derivations.js';
import type { House } from '../../house/house.js';
import { stays } from './plan-circuit.js';
import type { PlanCost } from './plan-cost.js';
import { moneyOf } from './plan-cost.js';
import type { PlanSchool } from './plan-ground.js';
import { PLAN_SCHOOLS, schoolsOf } from './plan-ground.js';
import type { PlanOptions, PlanProgress, PlanScope } from './plan-pulls.js';
import { circuitsInScope, planPulls } from './plan-pulls.js';

/** What going by a school, or keeping a run, costs in cable, work and boxes: what the plan would save without it. */
export interface PlanPrices {
  readonly schools: readonly { readonly school: PlanSchool; readonly costs: number }[];
  readonly kept: readonly { readonly runId: string; readonly costs: number }[];
}

/** So many kept runs are priced, each by a plan of its circuit. */
const MOST_KEPT = 12;

/**
 * What each school that is gone by costs over a scope, and each run that is kept in it: planned again without it, and the
 * difference in money. Never less than nothing: a search that found worse says nothing against the school.
 */
export function* planPrices(
  house: House,
  scope: PlanScope,
  options: PlanOptions,
): Generator<PlanProgress, PlanPrices, boolean | undefined> {
  const reader = new Derivations(house).reader();
  const schools = schoolsOf(reader, options.schools);
  const asked = PLAN_SCHOOLS.filter((school) => schools[school] !== false && schools[school] !== 'cheaper');
  const inScope = new Set(circuitsInScope(reader, scope));
  const kept = reader
    .all('runs')
    .filter(
      (run) =>
        run.kept && run.circuitIds.some((id) => inScope.has(id)) && !stays(reader, run, new Set([run.id])),
    )
    .slice(0, MOST_KEPT);
  const of = asked.length + kept.length + 1;
  let done = 0;
  const moneyFor = function* (
    within: PlanScope,
    other: Partial<PlanOptions>,
  ): Generator<PlanProgress, PlanCost, boolean | undefined> {
    const search = planPulls(house, within, { ...options, ...other });
    for (;;) {
      const told = search.next(false);
      if (told.done) {
        done++;
        return told.value.after;
      }
      yield { ...told.value, step: done, of };
    }
  };
  const costs = (withIt: PlanCost, without: PlanCost): number =>
    withIt.wrong > without.wrong + 1e-9 ? Infinity : Math.max(0, moneyOf(withIt) - moneyOf(without));
  const own = asked.length ? yield* moneyFor(scope, {}) : undefined;
  const ofSchools: PlanPrices['schools'][number][] = [];
  for (const school of asked) {
    const off = school === 'feed' ? 'cheaper' : false;
    const without = yield* moneyFor(scope, { schools: { ...schools, [school]: off } });
    ofSchools.push({ school, costs: costs(own!, without) });
  }
  const ofKept: PlanPrices['kept'][number][] = [];
  for (const { id, circuitIds } of kept) {
    const within = { circuitId: circuitIds[0] };
    const withIt = yield* moneyFor(within, {});
    const without = yield* moneyFor(within, { letGo: new Set([id]) });
    ofKept.push({ runId: id, costs: costs(withIt, without) });
  }
  return { schools: ofSchools, kept: ofKept };
}
