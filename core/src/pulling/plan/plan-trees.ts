import { boxesOf } from '../../facts/box-facts.js';
import { Union } from '../../structures/union.js';
import type { Edge, PlannedCircuit } from './plan-judge.js';

const farEnd = ({ a, b }: Edge, from: number): number => (a === from ? b : a);

/** A box fed from one near it; where a run of that one is given, on the way of that run. */
const putInto = (rest: readonly Edge[], box: number, near: number, split?: Edge): Edge[] => [
  ...rest.filter((edge) => edge !== split),
  { a: near, b: box },
  ...(split ? [{ a: box, b: farEnd(split, near) }] : []),
];

/** The boxes of a circuit, and what joins them: trees over them. */
export class Trees {
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

/** The nearest that each run, and each box, is put to. */
const NEAREST = 12;

/** Every tree in which one of these runs is another that is near. */
export function* byOne(trees: Trees, edges: readonly Edge[]): Generator<Edge[]> {
  for (const out of edges) {
    const rest = edges.filter((edge) => edge !== out);
    const groups = trees.joined(rest);
    const across = trees.pairs.filter(({ a, b }) => groups.find(a) !== groups.find(b)).slice(0, NEAREST);
    for (const edge of across) yield [...rest, edge];
  }
}

/** Every tree in which one box hangs elsewhere, near it. */
export function* byBox(trees: Trees, edges: readonly Edge[]): Generator<Edge[]> {
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
export function* byTwo(trees: Trees, edges: readonly Edge[]): Generator<Edge[]> {
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
