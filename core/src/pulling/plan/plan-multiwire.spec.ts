import * as fc from 'fast-check';
import { applyChange } from '../../changes/apply.js';
import type { HouseReader } from '../../derive/reader.js';
import { readerOf } from '../../derive/reader.js';
import { houseOf } from '../../house/house-file.js';
import type { House } from '../../house/house.js';
import type { HouseFile } from '../../house/house-file.js';
import { inspectHouse } from '../../inspection/inspect-house.js';
import { cableOf } from '../../rulebook/cables.js';
import { finish } from '../../structures/steps.js';
import { randomHouse } from '../../testing/random-house.js';
import { many, runs as times } from '../../testing/seed.js';
import { SHARED_BY_COST, twoBedrooms } from '../../testing/two-bedrooms.js';
import { wireCircuit } from '../../wiring/conductors/wire-circuit.js';
import { proveCircuit } from '../../wiring/proof/prove-circuit.js';
import { usualPrice } from '../../routing/effort.js';
import { costOf } from './plan-cost.js';
import { PlanGround, schoolsOf } from './plan-ground.js';
import type { PullPlan } from './plan-pulls.js';
import { planPulls } from './plan-pulls.js';

const planned = (house: House, steps: number): PullPlan => {
  let count = 0;
  return finish(
    planPulls(
      house,
      {},
      {
        steps,
        seed: 1,
        priceOf: (cable) => usualPrice(readerOf(house), cable),
        newId: () => `00000000-0000-4000-9000-${String(++count).padStart(12, '0')}`,
      },
    ),
  );
};
const taken = (house: House, plan: PullPlan): House => {
  if (!plan.change) return house;
  const applied = applyChange(house, plan.change);
  if (!applied.ok) throw new Error(applied.refusal.message);
  return applied.document;
};

/** Boxes that a circuit's cables come to from the panel, walked run by run: shares nothing with the wiring. */
function reached(reader: HouseReader, circuitId: string): ReadonlySet<string> {
  const { panelId } = reader.get('circuits', circuitId)!;
  const seen = new Set([panelId]);
  for (let before = 0; before < seen.size;) {
    before = seen.size;
    for (const { circuitIds, from, to } of reader.all('runs'))
      if (circuitIds.includes(circuitId) && (seen.has(from.boxId) || seen.has(to.boxId)))
        seen.add(from.boxId).add(to.boxId);
  }
  return seen;
}

/** What must hold of a plan that shares home runs, and how many it shares. */
function checked(file: HouseFile, steps: number): number {
  const house = houseOf(file);
  const plan = planned(house, steps);
  const after = taken(house, plan);
  const [was, is] = [readerOf(house), readerOf(after)];
  const shared = plan.circuits.filter(({ withCircuitId }) => withCircuitId);
  const pricing = {
    priceOf: (cable: Parameters<typeof usualPrice>[1]) => usualPrice(is, cable),
    schools: schoolsOf(is),
  };
  for (const { circuitId, withCircuitId, before: apart, after: together, swaps } of shared) {
    const ids = [circuitId, withCircuitId!];
    const own = ids.map((id) => is.get('circuits', id)!);
    // Next to each other in a column, of one size and guard, and nobody else in their group.
    const spaces = own.map((circuit) => circuit.spaces![0]!);
    expect(Math.abs(spaces[0]! - spaces[1]!)).toBe(2);
    expect(new Set(own.map(({ breakerAmps, protection }) => `${breakerAmps} ${protection}`)).size).toBe(1);
    const group = is.all('circuits').filter(({ neutralGroup }) => neutralGroup === own[0]!.neutralGroup);
    expect(group.length).toBe(2);
    // One cable of three at the panel, and everything hangs on it that hung on the two.
    const home = is
      .all('runs')
      .filter(
        ({ circuitIds, from, to }) =>
          circuitIds.some((id) => ids.includes(id)) && [from.boxId, to.boxId].includes(own[0]!.panelId),
      );
    const both = home.filter(({ circuitIds }) => circuitIds.length > 1);
    expect(both.length).toBe(1);
    expect([...both[0]!.circuitIds].sort()).toEqual([...ids].sort());
    expect(cableOf(both[0]!.plannedCable!).colours.length).toBeGreaterThanOrEqual(3);
    expect(wireCircuit(is, circuitId).tree.loops).toEqual([]);
    for (const id of ids)
      for (const box of reached(was, id)) expect(reached(is, id).has(box)).withContext(box).toBeTrue();
    expect(together.total).toBeLessThan(apart.total);
    expect(swaps.filter(({ why }) => why.code === 'multiwire').length).toBe(1);
    const nodes = [...new Set([own[0]!.panelId, ...ids.flatMap((id) => [...reached(is, id)])])];
    if (plan.larger.length === 0)
      expect(costOf(is, ids, pricing, new PlanGround(is, ids, nodes)).total).toBeCloseTo(together.total, 4);
    // What switched and was live before does so with one neutral for both.
    const fails = (reader: HouseReader): number =>
      ids.reduce((sum, id) => sum + proveCircuit(reader, id).failures.length, 0);
    expect(fails(is)).toBeLessThanOrEqual(fails(was));
  }
  if (shared.length) {
    const stops = (of: House): string[] =>
      inspectHouse(readerOf(of)).flatMap(({ severity, code }) => (severity === 'stop' ? [code] : []));
    const before = stops(house);
    for (const code of new Set(stops(after)))
      expect(stops(after).filter((one) => one === code).length)
        .withContext(code)
        .toBeLessThanOrEqual(before.filter((one) => one === code).length);
  }
  // Run by run it is what the change takes out and puts in.
  const bodies = plan.change?.kind === 'group' ? plan.change.changes : [];
  const all = plan.circuits.flatMap(({ swaps }) => swaps);
  expect(all.flatMap(({ added }) => added?.runId ?? []).sort()).toEqual(
    bodies.flatMap((body) => (body.kind === 'run.add' ? body.record.id : [])).sort(),
  );
  expect(all.flatMap(({ removed }) => removed?.runId ?? []).sort()).toEqual(
    bodies.flatMap((body) => (body.kind === 'run.remove' ? body.recordId : [])).sort(),
  );
  return shared.length;
}

describe('Home runs that become one', () => {
  const allowed = { ...SHARED_BY_COST, 'plan.multiwire': { value: 'yes' } };

  it('share a neutral only where the house allows it, on different legs, and everything works that did', () => {
    let [shared, houses] = [0, 0];
    fc.assert(
      fc.property(randomHouse, fc.boolean(), ({ plan }, isPulled) => {
        const { circuits } = plan.file;
        circuits.forEach((circuit, at) => {
          if (circuit.neutralGroup) return;
          circuit.spaces = [1 + 2 * at];
          Object.assign(circuit, { breakerAmps: 15, protection: 'afci' });
        });
        if (!isPulled) plan.file.pulls = [];
        const { overrides } = plan.file.rulebook;
        expect(checked({ ...plan.file }, 20)).toBe(0);
        const own = checked(
          { ...plan.file, rulebook: { ...plan.file.rulebook, overrides: { ...overrides, ...allowed } } },
          20,
        );
        houses++;
        shared += own;
      }),
      { numRuns: times(60) },
    );
    expect(houses).toBeGreaterThan(0);
    expect(shared).toBeGreaterThan(many(3));
  });

  it('weigh what the house says, and are never of breakers that cannot have one handle', () => {
    const built = (weighs: number): HouseFile =>
      twoBedrooms({ ...allowed, 'plan.price.multiwire': { value: weighs } });
    expect(checked(built(0), 100)).toBe(1);
    expect(checked(built(100), 100)).toBe(0);
    // Not next to each other, or guarded otherwise: never.
    for (const other of [{ spaces: [9] }, { protection: 'dual' as const }, { breakerAmps: 20 }]) {
      const file = built(0);
      Object.assign(file.circuits[1]!, other);
      expect(checked(file, 20)).toBe(0);
    }
  });
});
