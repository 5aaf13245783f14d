import type { HouseReader } from '../../derive/reader.js';
import { boxesOf } from '../../facts/box-facts.js';
import type { Run } from '../../house/model.js';
import { Union } from '../../structures/union.js';
import type { CircuitFound } from './plan-circuit.js';
import type { PlanCost } from './plan-cost.js';
import type { PlanSchool } from './plan-ground.js';
import { PLAN_SCHOOLS } from './plan-ground.js';
import type { Edge } from './plan-judge.js';
import { keyOf } from './plan-judge.js';

/** Why a run is better than the one that it takes the place of: what it saves most of. */
export type PlanWhy =
  | {
      readonly code:
        'works' | 'boxes' | 'shorter' | 'thinner' | 'work' | 'reaches' | 'with-others' | 'multiwire';
    }
  | { readonly code: 'school'; readonly school: PlanSchool };

/** A run of the plan, and the one that it takes the place of. Boxes by their ids. */
export interface PlanSwap {
  /** What stood; nothing where a box was not reached, or where a second cable comes beside the first. */
  readonly removed?: { readonly runId: string; readonly boxIds: readonly [string, string] };
  /** What is planned; nothing where a run is left out that closed a loop. */
  readonly added?: { readonly runId: string; readonly boxIds: readonly [string, string] };
  /** What the plan would cost more with the old one in place of the new, in money; with what is wrong. */
  readonly saves: number;
  /** How much shorter the new one is, in. */
  readonly shorterIn: number;
  readonly why: PlanWhy;
}

/** What a plan changes in a house, run by run, with why: each new run beside the old one that it saves most against. */
export function swapsOf(reader: HouseReader, found: CircuitFound): PlanSwap[] {
  const { circuit, edges, judge } = found;
  const { circuitId, ground, fixed, runOf } = circuit;
  const stands = new Set([...fixed, ...edges.map(runOf)].map(({ id }) => id));
  const removed = reader
    .mentioning('runs', circuitId)
    .filter(({ id, circuitIds }) => circuitIds.includes(circuitId) && !stands.has(id));
  const added = edges.filter((edge) => reader.get('runs', runOf(edge).id) === undefined);
  const edgeOf = (run: Run): Edge => {
    const [a, b] = boxesOf(run).map((id) => ground.numbers.get(id)!) as [number, number];
    return { a, b };
  };
  const tree = edges.filter(({ beside }) => !beside);
  const isTree = (of: readonly Edge[]): boolean => {
    const groups = new Union(ground.nodes.length);
    for (const { a, b } of [...fixed.map(edgeOf), ...of]) if (!groups.join(a, b)) return false;
    return of.length === tree.length;
  };
  const after = judge.costOf(tree);
  const candidates = added
    .flatMap((edge) =>
      edge.beside
        ? []
        : removed.flatMap((run) => {
            const without = [...tree.filter((one) => one !== edge), edgeOf(run)];
            return isTree(without) ? [{ edge, run, cost: judge.costOf(without) }] : [];
          }),
    )
    .sort(
      (a, b) => b.cost.total - a.cost.total || (keyOf(a.edge) + a.run.id < keyOf(b.edge) + b.run.id ? -1 : 1),
    );
  const swaps: PlanSwap[] = [];
  const [taken, gone] = [new Set<Edge>(), new Set<Run>()];
  const addedOf = (edge: Edge): PlanSwap['added'] => ({
    runId: runOf(edge).id,
    boxIds: [ground.nodes[edge.a]!, ground.nodes[edge.b]!],
  });
  for (const { edge, run, cost } of candidates) {
    if (taken.has(edge) || gone.has(run)) continue;
    taken.add(edge);
    gone.add(run);
    const shorterIn = ground.ofRun(run).lengthIn - ground.between(edge.a, edge.b).lengthIn;
    swaps.push({
      removed: { runId: run.id, boxIds: boxesOf(run) },
      added: addedOf(edge)!,
      saves: cost.total - after.total,
      shorterIn,
      why: whyOf(cost, after, shorterIn),
    });
  }
  // Several that only change together.
  const rest = removed.filter((run) => !gone.has(run));
  for (const edge of added) {
    if (taken.has(edge)) continue;
    const run = edge.beside ? undefined : rest.shift();
    const leg = ground.between(edge.a, edge.b);
    swaps.push({
      ...(run && { removed: { runId: run.id, boxIds: boxesOf(run) } }),
      added: addedOf(edge)!,
      saves: 0,
      shorterIn: (run ? ground.ofRun(run).lengthIn : 0) - leg.lengthIn,
      why: { code: edge.beside ? 'works' : run ? 'with-others' : 'reaches' },
    });
  }
  for (const run of rest)
    swaps.push({
      removed: { runId: run.id, boxIds: boxesOf(run) },
      saves: 0,
      shorterIn: ground.ofRun(run).lengthIn,
      why: { code: 'with-others' },
    });
  return swaps;
}

/** What the dearer plan has more of. */
function whyOf(dear: PlanCost, cheap: PlanCost, shorterIn: number): PlanWhy {
  if (dear.wrong > cheap.wrong + 1e-9) return { code: 'works' };
  // By itself it saves nothing: it does together with the others.
  if (dear.total <= cheap.total + 1e-9) return { code: 'with-others' };
  const more = {
    boxes: dear.boxes - cheap.boxes,
    schools: dear.schools - cheap.schools,
    cable: dear.cable - cheap.cable,
    work: dear.work - cheap.work,
  };
  const most = Math.max(...Object.values(more));
  if (more.boxes === most) return { code: 'boxes' };
  if (more.schools === most) {
    const school = [...PLAN_SCHOOLS].sort(
      (a, b) => dear.against[b] - cheap.against[b] - (dear.against[a] - cheap.against[a]),
    )[0]!;
    return { code: 'school', school };
  }
  if (shorterIn > 0) return { code: 'shorter' };
  return { code: more.cable === most ? 'thinner' : 'work' };
}
