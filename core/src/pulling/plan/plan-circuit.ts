import { Derivations } from '../../derive/derivations.js';
import type { HouseReader } from '../../derive/reader.js';
import { boxesOf, standingPull } from '../../facts/box-facts.js';
import { wiringGroup } from '../../facts/circuit-facts.js';
import type { House } from '../../house/house.js';
import type { Run } from '../../house/model.js';
import { circuitTree } from '../../wiring/circuit/circuit-tree.js';
import { Union } from '../../structures/union.js';
import type { PlanCost, Pricing } from './plan-cost.js';
import { costOf } from './plan-cost.js';
import type { Edge, Judge, PlannedCircuit } from './plan-judge.js';
import { QuickJudge, WholeJudge } from './plan-judge.js';
import { PlanGround, nodesOf } from './plan-ground.js';

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

/** A generator of numbers from 0 to 1, the same for the same seed (mulberry32, from the literature, from memory). */
function numbers(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** Of the slow judge so many times fewer trees are asked. */
const SLOWER = 20;

/** How far a search has come, and what the best so far costs. */
export interface Searched {
  readonly step: number;
  readonly cost: number;
}

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

const farEnd = ({ a, b }: Edge, from: number): number => (a === from ? b : a);

/** A box fed from one near it; where a run of that one is given, on the way of that run. */
const putInto = (rest: readonly Edge[], box: number, near: number, split?: Edge): Edge[] => [
  ...rest.filter((edge) => edge !== split),
  { a: near, b: box },
  ...(split ? [{ a: box, b: farEnd(split, near) }] : []),
];

/** The boxes of a circuit, and what joins them: trees over them. */
class Trees {
  readonly pairs: readonly Edge[];
  /** Boxes with a run that stays. */
  private readonly held: ReadonlySet<number>;
  /** All nodes but the panel. */
  readonly boxes: readonly number[];
  private readonly byBox = new Map<number, readonly Edge[]>();

  constructor(private readonly circuit: PlannedCircuit) {
    const { nodes, numbers } = circuit.ground;
    this.boxes = nodes.map((_, at) => at).slice(1);
    this.held = new Set(circuit.fixed.flatMap(boxesOf).flatMap((id) => numbers.get(id) ?? []));
    const pairs = nodes.flatMap((_, a) => nodes.slice(a + 1).map((__, at): Edge => ({ a, b: a + 1 + at })));
    const lengthOf = ({ a, b }: Edge): number => circuit.ground.between(a, b).lengthIn;
    this.pairs = pairs.sort(
      (one, other) => lengthOf(one) - lengthOf(other) || one.a - other.a || one.b - other.b,
    );
  }

  /** What hangs together by these and by what stays. */
  joined(edges: readonly Edge[]): Union {
    const { ground, fixed } = this.circuit;
    const groups = new Union(ground.nodes.length);
    for (const run of fixed) {
      const [a, b] = boxesOf(run).map((id) => ground.numbers.get(id)!) as [number, number];
      groups.join(a, b);
    }
    for (const { a, b } of edges) groups.join(a, b);
    return groups;
  }

  /** These, and the shortest that join what they leave apart. */
  completed(edges: readonly Edge[]): Edge[] {
    const groups = this.joined([]);
    return [...edges, ...this.pairs].filter(({ a, b }) => groups.join(a, b));
  }

  /** Some tree: every run in an order that is drawn. */
  any(random: () => number): Edge[] {
    const groups = this.joined([]);
    const drawn = this.pairs.map((edge) => ({ edge, at: random() })).sort((one, other) => one.at - other.at);
    return drawn.flatMap(({ edge }) => (groups.join(edge.a, edge.b) ? [edge] : []));
  }

  /** Near ones far more often than far ones. */
  private near<T>(sorted: readonly T[], random: () => number): T {
    return sorted[Math.floor(random() ** 2.5 * sorted.length)]!;
  }

  /** One run gone, and another that joins what it leaves apart. */
  exchanged(edges: readonly Edge[], random: () => number): Edge[] {
    const out = Math.floor(random() * edges.length);
    const rest = edges.filter((_, at) => at !== out);
    const groups = this.joined(rest);
    const across = this.pairs.filter(({ a, b }) => groups.find(a) !== groups.find(b));
    return [...rest, this.near(across, random)];
  }

  /**
   * The runs without a box that is taken out of the chain that it stands in, which closes behind it. Nothing where more hangs on it, or what
   * stays.
   */
  without(edges: readonly Edge[], box: number): Edge[] | undefined {
    const own = edges.filter(({ a, b }) => a === box || b === box);
    if (own.length === 0 || own.length > 2 || this.held.has(box)) return undefined;
    const rest = edges.filter((edge) => !own.includes(edge));
    const [before, after] = own.map((edge) => farEnd(edge, box));
    if (after !== undefined) rest.push({ a: before!, b: after });
    return rest;
  }

  /** Runs to a box, the nearest first. */
  to(box: number): readonly Edge[] {
    let own = this.byBox.get(box);
    if (!own) this.byBox.set(box, (own = this.pairs.filter(({ a, b }) => a === box || b === box)));
    return own;
  }

  /** One box put elsewhere: into a run near it, or at the end of one. */
  inserted(edges: readonly Edge[], random: () => number): Edge[] | undefined {
    const box = this.boxes[Math.floor(random() * this.boxes.length)]!;
    const rest = this.without(edges, box);
    if (!rest) return undefined;
    const near = farEnd(this.near(this.to(box), random), box);
    const into = rest.filter(({ a, b }) => a === near || b === near);
    return into.length && random() < 0.5
      ? putInto(rest, box, near, into[Math.floor(random() * into.length)])
      : putInto(rest, box, near);
  }

  /** From the panel always on to the nearest that is not reached: a chain, by common practice. */
  chain(): Edge[] {
    const { nodes } = this.circuit.ground;
    const groups = this.joined([]);
    const edges: Edge[] = [];
    let here = 0;
    for (;;) {
      const next = this.pairs.find(
        ({ a, b }) => (a === here || b === here) && groups.find(a) !== groups.find(b),
      );
      if (!next) break;
      groups.join(next.a, next.b);
      edges.push(next);
      here = next.a === here ? next.b : next.a;
    }
    return nodes.length > edges.length + 1 ? this.completed(edges) : edges;
  }
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

/** So often the search is heated up, each time from the best; what is so much dearer, by its part of the whole, is taken at first. */
const PHASES = 3;
const HEAT = 0.03;
/** How often a box is put elsewhere in place of a run. */
const INSERTED = 0.5;

function* search(
  trees: Trees,
  judge: Judge,
  start: readonly Edge[],
  { steps: all, seed }: CircuitOptions,
  slower: number,
): Generator<Searched, Edge[], boolean | undefined> {
  const steps = Math.ceil(all / slower);
  // By the slow judge what is found is polished less.
  const polished = slower === 1 ? 4 * steps : steps;
  const totalOf = (edges: readonly Edge[]): number => judge.costOf(edges).total;
  const starts = [[...start], trees.completed([]), trees.chain()];
  let best = starts.reduce((least, edges) => (totalOf(edges) < totalOf(least) ? edges : least));
  if (yield { step: 0, cost: totalOf(best) }) return best;
  const random = numbers(seed);
  let now = best;
  const phase = Math.ceil(steps / PHASES);
  for (let step = 1; step <= steps; step++) {
    // Where it has gone astray it begins again: from the other trees that were made at once, then from the best.
    if (step % phase === 0) now = starts[step / phase] ?? best;
    const next = (random() < INSERTED && trees.inserted(now, random)) || trees.exchanged(now, random);
    const heat = totalOf(best) * HEAT * (1 - (step % phase) / phase);
    const more = totalOf(next) - totalOf(now);
    if (more <= 0 || (heat > 0 && random() < Math.exp(-more / heat))) now = next;
    if (totalOf(now) < totalOf(best) - 1e-9) best = now;
    if (step % 20 === 0 && (yield { step: step * slower, cost: totalOf(best) })) return best;
  }
  const told = (edges: readonly Edge[]): Searched => ({ step: all, cost: totalOf(edges) });
  const one = (edges: readonly Edge[]): Iterable<Edge[]> => byOne(trees, edges);
  best = yield* descend(one, totalOf, told, best, polished);
  if (best.length > MOST_BY_TWO)
    return yield* descend((edges) => byBox(trees, edges), totalOf, told, best, polished);
  for (let restart = 0; slower === 1 && restart < steps / STEPS_PER_RESTART; restart++) {
    const other = yield* descend(one, totalOf, () => told(best), trees.any(random), MOST_POLISHED);
    if (totalOf(other) < totalOf(best) - 1e-9) best = other;
  }
  // What no single exchange betters, two at once may.
  return yield* descend((edges) => byTwo(trees, edges), totalOf, told, best, steps);
}

/** Trees that are looked at from one that is drawn, and the nearest that each run is exchanged for. */
const MOST_POLISHED = 300;
const NEAREST = 12;
/** To so many runs, two at once are exchanged for any two others, and one of so many steps begins at a tree that is drawn. */
const MOST_BY_TWO = 7;
const STEPS_PER_RESTART = 75;

/** To a neighbor that is better, and from there again, as long as there is one; at most so many are looked at. */
function* descend(
  neighborsOf: (edges: readonly Edge[]) => Iterable<Edge[]>,
  totalOf: (edges: readonly Edge[]) => number,
  told: (edges: readonly Edge[]) => Searched,
  found: Edge[],
  most: number,
): Generator<Searched, Edge[], boolean | undefined> {
  let best = found;
  let tried = 0;
  for (let isBetter = true; isBetter;) {
    isBetter = false;
    for (const next of neighborsOf(best)) {
      if (++tried > most) return best;
      if (tried % 20 === 0 && (yield told(best))) return best;
      if (totalOf(next) >= totalOf(best) - 1e-9) continue;
      best = next;
      isBetter = true;
      break;
    }
  }
  return best;
}

/** Every tree in which one of these runs is another that is near. */
function* byOne(trees: Trees, edges: readonly Edge[]): Generator<Edge[]> {
  for (const out of edges) {
    const rest = edges.filter((edge) => edge !== out);
    const groups = trees.joined(rest);
    const across = trees.pairs.filter(({ a, b }) => groups.find(a) !== groups.find(b)).slice(0, NEAREST);
    for (const edge of across) yield [...rest, edge];
  }
}

/** Every tree in which one box hangs elsewhere, near it. */
function* byBox(trees: Trees, edges: readonly Edge[]): Generator<Edge[]> {
  for (const box of trees.boxes) {
    const rest = trees.without(edges, box);
    if (!rest) continue;
    for (const run of trees.to(box).slice(0, NEAREST)) {
      const near = farEnd(run, box);
      yield putInto(rest, box, near);
      for (const split of rest)
        if (split.a === near || split.b === near) yield putInto(rest, box, near, split);
    }
  }
}

/** Every tree in which two of these runs are two others. */
function* byTwo(trees: Trees, edges: readonly Edge[]): Generator<Edge[]> {
  for (let i = 0; i < edges.length; i++)
    for (let j = i + 1; j < edges.length; j++) {
      const rest = edges.filter((_, at) => at !== i && at !== j);
      const groups = trees.joined(rest);
      const across = trees.pairs.filter(({ a, b }) => groups.find(a) !== groups.find(b));
      for (const [at, one] of across.entries()) {
        const joined = trees.joined([...rest, one]);
        for (const other of across.slice(at + 1))
          if (joined.find(other.a) !== joined.find(other.b)) yield [...rest, one, other];
      }
    }
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
