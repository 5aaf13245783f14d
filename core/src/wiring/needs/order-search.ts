import type { Runs } from './order-candidates.js';
import type { Candidate, OrderCost } from './order-task.js';
import { isBefore, isCheaper } from './order-task.js';

/** What the chosen candidates ask of each run, together. */
interface Load {
  readonly counts: Int32Array;
  /** How many ask for what is shared. */
  readonly users: Int32Array;
}

/** Cost of what is chosen; with `rest`, what is still to be chosen asks at least that much more of each run. */
function costOf(runs: Runs, load: Load, reopened: number, rest?: Uint8Array): OrderCost {
  let missing = 0;
  let conductors = 0;
  for (let run = 0; run < load.counts.length; run++) {
    const count = load.counts[run]! + (rest ? rest[run]! : 0);
    if (count === 0) continue;
    conductors += count;
    const more = count + runs.base[run]! - runs.capacity[run]!;
    if (more > 0) missing += Math.min(more, count);
  }
  return [missing, reopened, conductors];
}

/**
 * One candidate of each of these, the cheapest together and of those the first by ids, by branch and bound; not proven where the
 * budget of steps ran out.
 */
export function bestOf(
  runs: Runs,
  group: readonly { readonly candidates: readonly Candidate[] }[],
  budget: number,
): { chosen: Candidate[]; isProven: boolean } {
  // Alone and with one way only there is nothing to weigh.
  if (group.every(({ candidates }) => candidates.length === 1))
    return { chosen: group.map(({ candidates }) => candidates[0]!), isProven: true };
  const load: Load = {
    counts: new Int32Array(runs.count),
    users: new Int32Array(runs.sharedSize),
  };
  const change = ({ adds, shared }: Candidate, by: 1 | -1): void => {
    for (let run = 0; run < adds.length; run++) load.counts[run]! += by * adds[run]!;
    for (const one of shared) {
      const users = (load.users[one]! += by);
      if (by === 1 && users === 1) load.counts[one % runs.count]! += 1;
      if (by === -1 && users === 0) load.counts[one % runs.count]! -= 1;
    }
  };
  const alone = (candidate: Candidate): OrderCost => {
    change(candidate, 1);
    const cost = costOf(runs, load, candidate.reopened);
    change(candidate, -1);
    return cost;
  };
  /** By control: the least that it and those after it ask of each run, and have to be made again. */
  const rest: { adds: Uint8Array; reopened: number }[] = [{ adds: new Uint8Array(runs.count), reopened: 0 }];
  for (const { candidates } of group.toReversed()) {
    const after = rest[0]!;
    const adds = after.adds.map(
      (count, run) => count + Math.min(...candidates.map((candidate) => candidate.adds[run]!)),
    );
    const reopened = after.reopened + Math.min(...candidates.map((candidate) => candidate.reopened));
    rest.unshift({ adds, reopened });
  }
  let steps = 0;
  let best: Candidate[] | undefined;
  let bestCost: OrderCost = [Infinity, Infinity, Infinity];
  const chosen: Candidate[] = [];
  /** Goes through the lists of candidates; ends at the first that is good enough if `isEnough`. */
  const search = (lists: readonly (readonly Candidate[])[], isEnough: boolean): void => {
    const go = (index: number, reopened: number): boolean => {
      if (++steps > budget && best) return true;
      const more = rest[index]!;
      const bound = costOf(runs, load, reopened + more.reopened, more.adds);
      if (isEnough ? isCheaper(bestCost, bound) : !isCheaper(bound, bestCost)) return false;
      if (index === lists.length) {
        best = [...chosen];
        bestCost = bound;
        return isEnough;
      }
      for (const candidate of lists[index]!) {
        change(candidate, 1);
        chosen.push(candidate);
        const ends = go(index + 1, reopened + candidate.reopened);
        chosen.pop();
        change(candidate, -1);
        if (ends) return true;
      }
      return false;
    };
    go(0, 0);
  };
  const byCost = group.map(({ candidates }) =>
    candidates
      .map((candidate) => ({ candidate, cost: alone(candidate) }))
      .sort((a, b) => (isCheaper(a.cost, b.cost) ? -1 : isCheaper(b.cost, a.cost) ? 1 : 0))
      .map(({ candidate }) => candidate),
  );
  search(byCost, false);
  const isProven = steps <= budget;
  // Of all that are as good, the first by ids.
  const byIds = group.map(({ candidates }) =>
    [...candidates].sort((a, b) => (isBefore(a.order, b.order) ? -1 : 1)),
  );
  steps = 0;
  search(byIds, true);
  return { chosen: best!, isProven };
}
