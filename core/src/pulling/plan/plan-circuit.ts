import { Derivations } from '../../derive/derivations.js';
import type { HouseReader } from '../../derive/reader.js';
import { boxesOf, standingPull } from '../../facts/box-facts.js';
import { wiringGroup } from '../../facts/circuit-facts.js';
import type { House } from '../../house/house.js';
import type { Run } from '../../house/model.js';
import { circuitTree } from '../../wiring/circuit/circuit-tree.js';
import type { PlanCost, Pricing } from './plan-cost.js';
import { costOf } from './plan-cost.js';
import type { Edge, Judge, PlannedCircuit } from './plan-judge.js';
import { QuickJudge, WholeJudge } from './plan-judge.js';
import { PlanGround, nodesOf } from './plan-ground.js';
import type { Searched } from './plan-search.js';
import { SLOWER, search } from './plan-search.js';
import { Trees } from './plan-trees.js';

/** Runs that stay as they are: in the wall, made up, kept by a lead, of other circuits too, or no cable. */
export const stays = (reader: HouseReader, run: Run, letGo?: ReadonlySet<string>): boolean =>
  (run.kept === true && !letGo?.has(run.id)) ||
  run.kind !== 'cable' ||
  run.circuitIds.length !== 1 ||
  standingPull(reader, run.id) !== undefined ||
  reader.mentioning('records', run.id).length > 0 ||
  boxesOf(run).some((box) =>
    reader.get('boxes', box)?.asBuilt?.some(({ ends }) => ends.some(({ runId }) => runId === run.id)),
  );

/** What is found for one circuit. */
export interface CircuitFound {
  readonly circuit: PlannedCircuit;
  readonly before: PlanCost;
  readonly after: PlanCost;
  /** The runs of the plan, in place of the free ones: as they stand, where nothing is better. */
  readonly edges: readonly Edge[];
  /** The house with the plan. */
  readonly house: House;
  /** Costs of plans near it. */
  readonly judge: Judge;
  readonly isQuick: boolean;
}

/** How the search for a circuit is made. */
export interface CircuitOptions extends Pricing {
  readonly steps: number;
  readonly seed: number;
  readonly newId: () => string;
  /** Other runs that stay. */
  readonly isHeld?: ((run: Run) => boolean) | undefined;
  /** Kept runs that are planned as if they were not: to say what keeping them costs. */
  readonly letGo?: ReadonlySet<string> | undefined;
  /** What is kept from circuit to circuit: of the house as it is, and of that as it would be. */
  readonly kept?: { readonly base: Derivations; readonly tried: Derivations } | undefined;
}

/** Runs between boxes: a free one where there was one between the two, else a new one with the same id each time. */
class Maker {
  private readonly made = new Map<string, Run>();

  constructor(
    private readonly circuitId: string,
    free: readonly Run[],
    private readonly newId: () => string,
  ) {
    for (const run of free) {
      const { purpose: _purpose, plannedCable: _cable, ...rest } = run;
      const [a, b] = boxesOf(run);
      let beside = 0;
      while (this.made.has(this.key(a, b, beside))) beside++;
      this.made.set(this.key(a, b, beside), rest);
    }
  }

  private key(a: string, b: string, beside: number): string {
    return a < b ? `${a} ${b} ${beside}` : `${b} ${a} ${beside}`;
  }

  of(a: string, b: string, beside = 0): Run {
    const key = this.key(a, b, beside);
    let run = this.made.get(key);
    if (!run) {
      run = {
        id: this.newId(),
        kind: 'cable',
        circuitIds: [this.circuitId],
        from: { boxId: a },
        to: { boxId: b },
      };
      this.made.set(key, run);
    }
    return run;
  }
}

/** A circuit as it can be planned; undefined where circuits share a neutral, or where nothing is left to plan. */
export function plannedCircuit(
  reader: HouseReader,
  circuitId: string,
  { newId, isHeld, letGo }: Pick<CircuitOptions, 'newId' | 'isHeld' | 'letGo'>,
): PlannedCircuit | undefined {
  const own = reader.mentioning('runs', circuitId).filter(({ circuitIds }) => circuitIds.includes(circuitId));
  const free = own.filter((run) => !stays(reader, run, letGo) && !isHeld?.(run));
  const nodes = nodesOf(reader, circuitId, own);
  if (wiringGroup(reader, circuitId).length > 1 || nodes.length < 2) return undefined;
  const maker = new Maker(circuitId, free, newId);
  const numbered = (order: readonly string[]): PlannedCircuit => ({
    circuitId,
    ground: new PlanGround(reader, [circuitId], order),
    fixed: own.filter((run) => !free.includes(run)),
    free,
    runOf: ({ a, b, beside }) => maker.of(order[a]!, order[b]!, beside),
  });
  // Numbered as they hang on a tree, so that what is laid out on it holds for every other.
  const circuit = numbered(nodes);
  const trees = new Trees(circuit);
  const runs = trees.completed(standingOf(circuit, trees)).map(circuit.runOf);
  if (runs.length === 0) return undefined;
  const order = circuitTree(reader, nodes[0]!, [...circuit.fixed, ...runs]).nodes;
  return order.length === nodes.length ? numbered(order) : circuit;
}

/** Of the runs that are free those that make a tree with what stays. */
function standingOf({ free, ground }: PlannedCircuit, trees: Trees): Edge[] {
  const groups = trees.joined([]);
  return free
    .map((run): Edge => {
      const [a, b] = boxesOf(run).map((id) => ground.numbers.get(id)!) as [number, number];
      return { a, b };
    })
    .filter(({ a, b }) => groups.join(a, b));
}

/**
 * Which box feeds which on one circuit: the runs that stay, and others in place of the rest, so that all its boxes hang together
 * at the least cost. A tree at once, then better by exchanging one run for another as long as there are steps. Yields what the
 * best so far costs; whoever runs it may say *enough*. Deterministic for a seed and a number of steps.
 */
export function* planCircuit(
  house: House,
  circuitId: string,
  options: CircuitOptions,
): Generator<Searched, CircuitFound | undefined, boolean | undefined> {
  const base = options.kept?.base ?? new Derivations(house);
  base.update(house);
  const reader = base.reader();
  const circuit = plannedCircuit(reader, circuitId, options);
  if (!circuit) return undefined;
  const trees = new Trees(circuit);
  const standing = standingOf(circuit, trees);
  const whole = new WholeJudge(house, circuit, options, options.kept?.tried);
  const before = costOf(reader, [circuitId], options, circuit.ground);
  const start = trees.completed(standing);
  let quick = QuickJudge.of(reader, circuit, options, start);
  if (quick && !quick.agreesWith(whole.costOf(start), start)) quick = undefined;
  let found = yield* search(trees, quick ?? whole, start, options, quick ? 1 : SLOWER);
  if (quick && Math.abs(whole.costOf(found).total - quick.costOf(found).total) > 1e-6) {
    quick = undefined;
    found = yield* search(trees, whole, start, options, SLOWER);
  }
  found = besideWhereShort(whole, found);
  const after = whole.costOf(found);
  const isBetter = after.total < before.total - 1e-9;
  return {
    circuit,
    before,
    after: isBetter ? after : before,
    edges: isBetter ? found : standing,
    house: isBetter ? whole.housed(found) : house,
    judge: quick ?? whole,
    isQuick: quick !== undefined,
  };
}

/** A second cable beside a run that needs more conductors than one cable has, where that helps. */
function besideWhereShort(whole: WholeJudge, found: Edge[]): Edge[] {
  let best = found;
  if (whole.costOf(best).wrong === 0) return best;
  for (const { a, b } of found) {
    if (whole.costOf(best).wrong === 0) break;
    const more = [...best, { a, b, beside: 1 }];
    if (whole.costOf(more).total < whole.costOf(best).total) best = more;
  }
  return best;
}
