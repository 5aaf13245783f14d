import * as fc from 'fast-check';
import { applyChange } from '../../changes/apply.js';
import { readerOf } from '../../derive/reader.js';
import { standingPull } from '../../facts/box-facts.js';
import { houseOf, readHouseFile } from '../../house/house-file.js';
import type { House } from '../../house/house.js';
import { finish } from '../../structures/steps.js';
import { randomHouse } from '../../testing/random-house.js';
import { many, runs as times } from '../../testing/seed.js';
import demo from '../../../../demo/lot-12.house.json' with { type: 'json' };
import type { PullPlan } from './plan-pulls.js';
import { planPulls } from './plan-pulls.js';
import { costOf, usualPrice } from './plan-cost.js';

const planned = (house: House, circuitId: string, steps: number, seed = 1): PullPlan => {
  let count = 0;
  const reader = readerOf(house);
  return finish(
    planPulls(house, circuitId, {
      steps,
      seed,
      priceOf: (cable) => usualPrice(reader, cable),
      newId: () => `00000000-0000-4000-9000-${String(++count).padStart(12, '0')}`,
    }),
  );
};
const costNow = (house: House, circuitId: string): number => {
  const reader = readerOf(house);
  return costOf(reader, circuitId, (cable) => usualPrice(reader, cable)).total;
};

/** Taken, the house costs what was said, nothing that stays has been touched, and nothing is lost. */
function taken(house: House, circuitId: string, plan: PullPlan): House {
  if (!plan.change) return house;
  const applied = applyChange(house, plan.change);
  if (!applied.ok) throw new Error(applied.refusal.message);
  const [before, after] = [readerOf(house), readerOf(applied.document)];
  expect(costNow(applied.document, circuitId)).toBeCloseTo(plan.after.total, 6);
  expect(plan.after.total).toBeLessThan(plan.before.total);
  for (const run of before.all('runs'))
    if (standingPull(before, run.id) || run.kept || !run.circuitIds.includes(circuitId))
      expect(after.get('runs', run.id)).toEqual(run);
  // Every box of the circuit still hangs on it.
  const boxes = (reader: typeof before): string[] => [
    ...new Set(
      reader
        .all('runs')
        .filter(({ circuitIds }) => circuitIds.includes(circuitId))
        .flatMap(({ from, to }) => [from.boxId, to.boxId]),
    ),
  ];
  for (const box of boxes(before)) expect(boxes(after)).toContain(box);
  return applied.document;
}

describe('Planning pulls', () => {
  it('is never dearer than what stands, costs what it says once it is taken, and leaves what is pulled or kept', () => {
    let better = 0;
    fc.assert(
      fc.property(randomHouse, fc.nat({ max: 997 }), fc.boolean(), ({ plan }, pick, keep) => {
        if (keep && plan.file.runs.length) plan.file.runs[pick % plan.file.runs.length]!.kept = true;
        const house = houseOf(plan.file);
        const circuits = plan.file.circuits;
        const circuit = circuits[pick % circuits.length];
        if (!circuit) return;
        const one = planned(house, circuit.id, 20);
        expect(one.after.total).toBeLessThanOrEqual(one.before.total);
        expect(planned(house, circuit.id, 20)).toEqual(one);
        taken(house, circuit.id, one);
        if (one.change) better++;
      }),
      { numRuns: times(60) },
    );
    expect(better).toBeGreaterThan(many(10));
  });

  it('is as good as every tree there is over a panel and four boxes, in nearly all houses', () => {
    let [asGood, all] = [0, 0];
    fc.assert(
      fc.property(randomHouse, ({ plan }) => {
        const house = houseOf({ ...plan.file, pulls: [], records: [] });
        for (const { id, panelId } of plan.file.circuits.slice(0, 1)) {
          const reader = readerOf(house);
          const own = reader.all('runs').filter(({ circuitIds }) => circuitIds.includes(id));
          const nodes = [...new Set([panelId, ...own.flatMap(({ from, to }) => [from.boxId, to.boxId])])];
          if (
            nodes.length > 5 ||
            nodes.length < 3 ||
            own.some((run) => run.kind !== 'cable' || run.circuitIds.length > 1)
          )
            return;
          if (reader.all('boxes').some(({ asBuilt }) => asBuilt?.length)) return;
          const { after } = planned(house, id, 250);
          const best = Math.min(...everyTree(nodes).map((edges) => costOfTree(house, id, edges)));
          all++;
          expect(after.total).toBeGreaterThanOrEqual(best - 1e-6);
          expect(after.total).toBeLessThanOrEqual(best * 1.05 + 1e-6);
          if (after.total <= best + 1e-6) asGood++;
        }
      }),
      { numRuns: times(40) },
    );
    expect(all).toBeGreaterThan(many(3));
    expect(asGood).toBeGreaterThanOrEqual(Math.ceil(all * 0.9));
  });

  it('betters circuits of the demo that are not pulled yet', () => {
    const read = readHouseFile(demo);
    if (!read.ok) throw new Error('the demo is broken');
    const circuit = read.file.circuits.find(({ number }) => number === 8)!;
    const plan = planned(read.house, circuit.id, 60);
    taken(read.house, circuit.id, plan);
    expect(plan.after.total).toBeLessThanOrEqual(plan.before.total);
  });
});

/** Every tree over these nodes, by its Prüfer sequence (from the literature). */
function everyTree(nodes: readonly string[]): (readonly [string, string])[][] {
  const count = nodes.length;
  const trees: (readonly [string, string])[][] = [];
  const sequence = Array.from({ length: count - 2 }, () => 0);
  for (;;) {
    const degree = nodes.map((_, at) => 1 + sequence.filter((own) => own === at).length);
    const edges: (readonly [string, string])[] = [];
    for (const own of sequence) {
      const leaf = degree.indexOf(1);
      edges.push([nodes[leaf]!, nodes[own]!]);
      degree[leaf] = 0;
      degree[own]!--;
    }
    const last = degree.flatMap((own, at) => (own === 1 ? [at] : []));
    edges.push([nodes[last[0]!]!, nodes[last[1]!]!]);
    trees.push(edges);
    let at = sequence.length - 1;
    while (at >= 0 && ++sequence[at]! === count) sequence[at--] = 0;
    if (at < 0) return trees;
  }
}

/** What a house costs with these runs in place of those of the circuit, built anew from its file. */
function costOfTree(house: House, circuitId: string, edges: readonly (readonly [string, string])[]): number {
  const reader = readerOf(house);
  const others = reader.all('runs').filter(({ circuitIds }) => !circuitIds.includes(circuitId));
  let count = 0;
  let at = house;
  for (const run of reader.all('runs'))
    if (!others.includes(run)) {
      const gone = applyChange(at, { kind: 'run.remove', recordId: run.id });
      if (!gone.ok) throw new Error(gone.refusal.message);
      at = gone.document;
    }
  for (const [a, b] of edges) {
    const added = applyChange(at, {
      kind: 'run.add',
      record: {
        id: `00000000-0000-4000-a000-${String(++count).padStart(12, '0')}`,
        kind: 'cable',
        circuitIds: [circuitId],
        from: { boxId: a },
        to: { boxId: b },
      },
    });
    if (!added.ok) throw new Error(added.refusal.message);
    at = added.document;
  }
  return costNow(at, circuitId);
}
