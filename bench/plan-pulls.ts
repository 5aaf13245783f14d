/**
 * How good the planner of pulls is, and how fast: against every tree of six boxes, against the best of twenty long runs, against the
 * bound of a 1-tree, against the draft's runs; exchanges a second. What is fast is bounded by ratios measured in one run.
 *
 *     npx tsx bench/plan-pulls.ts [instances of six boxes]
 */
import { readFileSync } from 'node:fs';
import * as fc from 'fast-check';
import { Derivations } from '../core/src/derive/derivations.js';
import { readerOf } from '../core/src/derive/reader.js';
import { applyChange } from '../core/src/changes/apply.js';
import { draftHouse } from '../core/src/furnish/draft-house.js';
import type { House } from '../core/src/house/house.js';
import { houseOf, readHouseFile } from '../core/src/house/house-file.js';
import { planCircuit } from '../core/src/pulling/plan/plan-circuit.js';
import { usualPrice } from '../core/src/routing/effort.js';
import type { PlanSchools } from '../core/src/pulling/plan/plan-ground.js';
import type { Edge } from '../core/src/pulling/plan/plan-judge.js';
import { WholeJudge } from '../core/src/pulling/plan/plan-judge.js';
import { planPulls } from '../core/src/pulling/plan/plan-pulls.js';
import { finish } from '../core/src/structures/steps.js';
import { circuitToPlan } from '../core/src/testing/circuit-to-plan.js';
import { manyRooms } from '../core/src/testing/many-rooms.js';
import { randomLayout } from '../core/src/testing/random-layout.js';

const PLAIN: PlanSchools = { oneWay: false, twoCables: false, feed: 'cheaper', apart: false, nearest: false };
const SIX = Number(process.argv[2] ?? 12);
let count = 0;
const newId = (): string => `00000000-0000-4000-9000-${String(++count).padStart(12, '0')}`;
const pricing = (house: House, schools: PlanSchools = PLAIN) => {
  const reader = readerOf(house);
  return { schools, priceOf: (cable: Parameters<typeof usualPrice>[1]) => usualPrice(reader, cable), newId };
};
const mean = (all: readonly number[]): number => all.reduce((sum, one) => sum + one, 0) / all.length;
const part = (value: number): string => `${(value * 100).toFixed(2)} %`;
const clocked = <T>(work: () => T): readonly [T, number] => {
  const start = performance.now();
  const done = work();
  return [done, performance.now() - start];
};
const planOne = (house: House, circuitId: string, steps: number, seed = 1) =>
  finish(planCircuit(house, circuitId, { ...pricing(house), steps, seed }))!;

/** Every tree over so many nodes, by its Prüfer sequence (from the literature). */
function* everyTree(count: number): Generator<Edge[]> {
  const sequence = Array.from({ length: count - 2 }, () => 0);
  for (;;) {
    const degree = new Int32Array(count).fill(1);
    for (const own of sequence) degree[own]!++;
    const edges: Edge[] = [];
    for (const own of sequence) {
      const leaf = degree.indexOf(1);
      edges.push({ a: leaf, b: own });
      degree[leaf] = 0;
      degree[own]!--;
    }
    const a = degree.indexOf(1);
    edges.push({ a, b: degree.indexOf(1, a + 1) });
    yield edges;
    let at = sequence.length - 1;
    while (at >= 0 && ++sequence[at]! === count) sequence[at--] = 0;
    if (at < 0) return;
  }
}

/** Parts by name, where not all are asked for: `npx tsx bench/plan-pulls.ts 300 a`. */
const PARTS = process.argv[3] ?? 'acdfhks';
const has = (name: string): boolean => PARTS.includes(name);

// (a) Every tree of six boxes and a panel.
if (has('a')) {
  let equal = 0;
  let worst = 0;
  for (let seed = 1; seed <= SIX; seed++) {
    const { file, circuitId } = circuitToPlan(seed, 6);
    const house = houseOf(file);
    const found = planOne(house, circuitId, 1500);
    if (!found.isQuick) throw new Error(`instance ${seed} is not judged by the kernel`);
    let least = Infinity;
    for (const edges of everyTree(7)) least = Math.min(least, found.judge.costOf(edges).total);
    const gap = found.after.total / least - 1;
    if (gap < 1e-9) equal++;
    else console.log(`  instance ${seed}: ${part(gap)} over`);
    worst = Math.max(worst, gap);
  }
  console.log(`six boxes, every tree: ${equal} of ${SIX} equal to the best, worst ${part(worst)} over`);
}

// (c) Twelve to twenty boxes, against the best of twenty long runs.
if (has('c')) {
  const gaps: number[] = [];
  for (let seed = 1; seed <= 8; seed++) {
    const { file, circuitId } = circuitToPlan(1000 + seed, 12 + (seed % 9));
    const house = houseOf(file);
    const own = planOne(house, circuitId, 1500).after.total;
    const long = Array.from(
      { length: 20 },
      (_, at) => planOne(house, circuitId, 12_000, 100 + at).after.total,
    );
    gaps.push(own / Math.min(own, ...long) - 1);
  }
  console.log(
    `12–20 boxes, against the best of 20 long runs: mean ${part(mean(gaps))}, worst ${part(Math.max(...gaps))} over`,
  );
}

// (d) Sixty boxes: the bound of a 1-tree on cable alone. The least spanning tree of the cheapest cable is no plan: it is a bound.
if (has('d')) {
  const gaps: number[] = [];
  for (let seed = 1; seed <= 3; seed++) {
    const { file, circuitId, nodes } = circuitToPlan(2000 + seed, 60);
    const house = houseOf(file);
    const [found, time] = clocked(() => planOne(house, circuitId, 4000));
    const { ground } = found.circuit;
    const reader = readerOf(house);
    const foot = usualPrice(reader, '14/2');
    const edges = ground.nodes
      .flatMap((_, a) => ground.nodes.slice(a + 1).map((__, at) => ({ a, b: a + 1 + at })))
      .map((edge) => ({ ...edge, cost: (ground.between(edge.a, edge.b).lengthIn / 12) * foot }))
      .sort((one, other) => one.cost - other.cost);
    const groups = ground.nodes.map((_, at) => at);
    let bound = 0;
    for (const { a, b, cost } of edges) {
      const [one, other] = [groups[a]!, groups[b]!];
      if (one === other) continue;
      groups.forEach((group, at) => group === one && (groups[at] = other));
      bound += cost + (2 * reader.rules().number('plan.rate')) / 60;
    }
    gaps.push((found.after.total - found.after.wrong * 100_000) / bound - 1);
    console.log(
      `  ${nodes.length - 1} boxes: ${(time / 1000).toFixed(1)} s, wrong ${found.after.wrong.toFixed(2)}`,
    );
  }
  console.log(
    `60 boxes: ${gaps.map(part).join(', ')} over the least tree of the thinnest cable, which carries no switched conductor`,
  );
}

// Drafted houses: against the runs that the draft puts in.
if (has('f')) {
  const saved: number[] = [];
  let over = 0;
  for (const { file, rules } of fc.sample(randomLayout, { numRuns: 200, seed: 7 })) {
    for (const [key, value] of Object.entries(rules)) file.rulebook.overrides[key] = { value };
    const bare = houseOf(file);
    const drafted = draftHouse(bare);
    const applied = applyChange(bare, { kind: 'group', title: 'Drafted', changes: [...drafted.changes] });
    if (!applied.ok) continue;
    const house = applied.document;
    const plan = finish(planPulls(house, {}, { ...pricing(house), steps: 200, seed: 1 }));
    const [stands, planned] = [plan.before, plan.after].map(({ cable, work, boxes }) => cable + work + boxes);
    if (!stands) continue;
    if (plan.after.total > plan.before.total + 1e-6) over++;
    saved.push(1 - planned! / stands);
  }
  console.log(
    `${saved.length} drafted houses: on average ${part(mean(saved))} under the draft (cable, work and boxes), over it ${over} times`,
  );
}

// The demo, as it stands and with pulls taken off.
if (has('h')) {
  const read = readHouseFile(readFileSync('demo/lot-12.house.json', 'utf8'));
  if (!read.ok) throw new Error('the demo is broken');
  const off = houseOf({
    ...read.file,
    pulls: [],
    records: [],
    boxes: read.file.boxes.map(({ asBuilt: _made, ...box }) => box),
  });
  for (const [name, house] of [
    ['as it stands', read.house],
    ['with pulls taken off', off],
  ] as const) {
    const { priceOf } = pricing(house);
    const [plan, time] = clocked(() =>
      finish(planPulls(house, {}, { priceOf, newId, steps: 1500, seed: 1 })),
    );
    const money = ({ cable, work, boxes }: typeof plan.before): string => (cable + work + boxes).toFixed(0);
    console.log(
      `the demo ${name}: ${money(plan.before)} to ${money(plan.after)} in ${(time / 1000).toFixed(1)} s`,
    );
  }
}

// Exchanges a second on 20 boxes: the kernel and fill, against the whole wiring of the house.
if (has('k')) {
  const { file, circuitId } = circuitToPlan(42, 20);
  const house = houseOf(file);
  const found = planOne(house, circuitId, 100);
  if (!found.isQuick) throw new Error('20 boxes are not judged by the kernel');
  // A walk of exchanges: each tree has one run that the one before had not.
  const size = found.circuit.ground.nodes.length;
  const parents = Array.from({ length: size }, (_, node) => Math.max(0, node - 1 - (node % 3)));
  const trees: Edge[][] = [];
  for (let at = 0; trees.length < 4000; at++) {
    const node = 1 + ((at * 7919) % (size - 1));
    parents[node] = (at * 104_729) % node;
    trees.push(parents.slice(1).map((parent, index) => ({ a: index + 1, b: parent })));
  }
  const [, quick] = clocked(() => trees.forEach((edges) => found.judge.costOf(edges)));
  const whole = new WholeJudge(house, found.circuit, pricing(house));
  const few = trees.slice(0, 60);
  const [, slow] = clocked(() => few.forEach((edges) => whole.costOf(edges)));
  const [a, b] = [(trees.length / quick) * 1000, (few.length / slow) * 1000];
  console.log(
    `20 boxes: ${a.toFixed(0)} trees a second by the kernel, ${b.toFixed(0)} by the whole wiring and fill: ${(a / b).toFixed(0)} times`,
  );
  if (a / b < 10) throw new Error('the kernel is not worth it');
}

// The first whole plan of sixty circuits.
if (has('s')) {
  const { file } = manyRooms(60);
  const house = houseOf({ ...file, pulls: [] });
  const [, derive] = clocked(() => new Derivations(house).reader().all('circuits'));
  const search = planPulls(house, {}, { ...pricing(house), steps: 1, seed: 1 });
  const start = performance.now();
  let [longest, last, step] = [0, start, search.next()];
  while (!step.done) {
    const now = performance.now();
    [longest, last] = [Math.max(longest, now - last), now];
    step = search.next(true);
  }
  console.log(
    `60 circuits: a first whole plan in ${((performance.now() - start + derive) / 1000).toFixed(2)} s (asked: 3), the longest step ${longest.toFixed(0)} ms, ${step.value.before.total.toFixed(0)} to ${step.value.after.total.toFixed(0)}`,
  );
}
