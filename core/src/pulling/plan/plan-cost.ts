import type { HouseReader } from '../../derive/reader.js';
import { boxesOf, circuitsAt } from '../../facts/box-facts.js';
import type { BoxFill } from '../../fill/fill-box.js';
import { fillBox } from '../../fill/fill-box.js';
import type { CableId } from '../../rulebook/cables.js';
import { wireCircuit } from '../../wiring/conductors/wire-circuit.js';
import { neededCable } from '../../routing/run-cable.js';
import type { AgainstSchools, LaidRun, PlanGround, PlanSchool, PlanSchools } from './plan-ground.js';
import { PLAN_SCHOOLS } from './plan-ground.js';

/** What cable costs a foot, in the crew's money; by type. */
export type PriceOf = (cable: CableId) => number;

/** What a plan costs, and what of it cannot be. */
export interface PlanCost {
  /** Cable, and minutes of boring, pulling, securing and splicing at the rate of the rulebook. */
  readonly cable: number;
  readonly work: number;
  /** The next larger box wherever what enters does not fit. */
  readonly boxes: number;
  /** What the schools that are gone by weigh, wherever it goes against them. */
  readonly schools: number;
  /** How much is wrong with it: boxes that hold it in no size, runs for which no cable is made, switches that are not reached. */
  readonly wrong: number;
  /** The sum of it; what is wrong weighs more than any cable. */
  readonly total: number;
  /** How often it goes against each school. */
  readonly against: AgainstSchools;
}

/** Cable, work and boxes, without what schools weigh. */
export const moneyOf = ({ cable, work, boxes }: PlanCost): number => cable + work + boxes;

const NOTHING: PlanCost = {
  cable: 0,
  work: 0,
  boxes: 0,
  schools: 0,
  wrong: 0,
  total: 0,
  against: { oneWay: 0, twoCables: 0, feed: 0, apart: 0, nearest: 0 },
};

/** What is wrong once weighs as much as this much money. */
const WRONG = 100_000;

/** What a plan is priced with. */
export interface Pricing {
  readonly priceOf: PriceOf;
  readonly schools: PlanSchools;
}

/** A run with its cable. */
export interface PricedRun extends LaidRun {
  readonly cable: CableId | undefined;
  /** Insulated conductors that are spliced at its ends. */
  readonly conductors: number;
}

const isGoneBy = (schools: PlanSchools, school: keyof PlanSchools): boolean =>
  schools[school] !== false && schools[school] !== 'cheaper';

/** What the rulebook weighs plans with, in money and minutes. */
export interface Weights {
  readonly splice: number;
  readonly hour: number;
  readonly largerBox: number;
  readonly school: Readonly<Record<PlanSchool, number>>;
}

export function weightsOf(reader: HouseReader): Weights {
  const rules = reader.rules();
  const school = (key: PlanSchool): number => rules.number(`plan.price.${key}`);
  return {
    splice: rules.number('plan.minutesPerSplice'),
    hour: rules.number('plan.rate'),
    largerBox: rules.number('plan.largerBox'),
    school: {
      oneWay: school('oneWay'),
      twoCables: school('twoCables'),
      feed: school('feed'),
      apart: school('apart'),
      nearest: school('nearest'),
    },
  };
}

/** What runs, boxes and what is wrong come to: the one sum that plans are judged by. */
export function priced(
  weights: Weights,
  ground: PlanGround,
  { priceOf, schools }: Pricing,
  runs: readonly PricedRun[],
  parent: (node: number) => number,
  fills: Iterable<BoxFill>,
  alsoWrong: number,
): PlanCost {
  let [cable, minutes, boxes, wrong] = [0, 0, 0, alsoWrong];
  for (const { leg, cable: type, conductors } of runs) {
    if (!type) wrong++;
    else cable += (leg.lengthIn / 12) * priceOf(type);
    // The ground of each cable is spliced too.
    minutes += leg.minutes + 2 * (conductors + 1) * weights.splice;
  }
  for (const fill of fills) {
    if (fill.fits) continue;
    if (fill.wouldFit.length) boxes += weights.largerBox;
    else wrong += 1 - fill.leftIn3 / 100;
  }
  const against = ground.against(runs, parent, schools);
  const weighed = PLAN_SCHOOLS.reduce(
    (sum, school) => (isGoneBy(schools, school) ? sum + against[school] * weights.school[school] : sum),
    0,
  );
  const work = (minutes * weights.hour) / 60;
  return {
    cable,
    work,
    boxes,
    schools: weighed,
    wrong,
    total: cable + work + boxes + weighed + wrong * WRONG,
    against,
  };
}

/**
 * What the runs and boxes of a circuit, or of several, cost as the house stands: by the same wiring and fill that everything else goes
 * by. A box that several come to counts once.
 */
export function costOf(
  reader: HouseReader,
  circuitIds: readonly string[],
  pricing: Pricing,
  ground: PlanGround,
): PlanCost {
  const number = (boxId: string): number => ground.numbers.get(boxId)!;
  const touched = new Set<string>([ground.nodes[0]!]);
  const parents = new Map<number, number>();
  const runs: PricedRun[] = [];
  let [wrong, shared] = [0, 0];
  for (const { circuitIds: own, runs: wiring, tree, findings } of new Set(
    circuitIds.map((id) => wireCircuit(reader, id)),
  )) {
    shared += own.length - 1;
    const fed = new Map(
      [...tree.feed].map(([node, { run, from }]) => [run.id, [tree.boxOf.get(from)!, tree.boxOf.get(node)!]]),
    );
    for (const run of new Set(own.flatMap((id) => reader.mentioning('runs', id)))) {
      if (run.kind === 'low-voltage' || !run.circuitIds.some((id) => own.includes(id))) continue;
      const [from, to] = (fed.get(run.id) ?? boxesOf(run)) as [string, string];
      touched.add(from).add(to);
      const wired = wiring.get(run.id);
      wrong += wired?.missing.length ?? 0;
      if (fed.has(run.id) && !parents.has(number(to))) parents.set(number(to), number(from));
      if (run.kind === 'cable')
        runs.push({
          from: number(from),
          to: number(to),
          leg: ground.ofRun(run, neededCable(reader, run)),
          power: wired?.power ?? false,
          cable: neededCable(reader, run),
          conductors: wired?.needs.length ?? 0,
        });
    }
    wrong += tree.loops.length + tree.islands.length;
    wrong += findings.filter(({ severity }) => severity === 'stop').length;
  }
  // Boxes that nothing comes to.
  wrong += ground.nodes.filter((id) => !touched.has(id)).length;
  const fills = [...touched].flatMap((boxId) =>
    circuitsAt(reader, boxId).some((id) => circuitIds.includes(id)) ? (fillBox(reader, boxId) ?? []) : [],
  );
  const parent = (node: number): number => parents.get(node) ?? 0;
  const cost = priced(weightsOf(reader), ground, pricing, runs, parent, fills, wrong);
  const weight = shared * reader.rules().number('plan.price.multiwire');
  return { ...cost, schools: cost.schools + weight, total: cost.total + weight };
}

export const sumOf = (costs: Iterable<PlanCost>): PlanCost => {
  let sum = NOTHING;
  for (const cost of costs) sum = together(sum, cost);
  return sum;
};

function together(one: PlanCost, other: PlanCost): PlanCost {
  const against = Object.fromEntries(
    PLAN_SCHOOLS.map((school) => [school, one.against[school] + other.against[school]]),
  ) as Record<PlanSchool, number>;
  return {
    cable: one.cable + other.cable,
    work: one.work + other.work,
    boxes: one.boxes + other.boxes,
    schools: one.schools + other.schools,
    wrong: one.wrong + other.wrong,
    total: one.total + other.total,
    against,
  };
}
