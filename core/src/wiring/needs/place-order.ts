import { Runs, candidatesOf, undominated } from './order-candidates.js';
import { bestOf } from './order-search.js';
import type { Candidate, Choice, ChosenOrders, KeptOrders, OrderTask, PlacedControl } from './order-task.js';

/** Up to so many switch boxes together the search goes on until it is proven, above that for so many steps. */
const PROVEN_TO = 12;
const STEPS = 200_000;

/** What the orders of a control depend on: the runs between its boxes, and the ways of its hots. */
function keyOf({ tree }: OrderTask, runs: Runs, { id, places, loadNodes }: PlacedControl): string {
  const own = tree.between([...places.map(({ node }) => node), ...loadNodes]).sort((a, b) => a - b);
  const hots = places.map(({ node, hot }) => runs.shared(runs.hotWay(node, hot), hot).join());
  return `${id} ${own.map((run) => `${run}<${tree.parent[run]}`).join()} ${hots.join('/')}`;
}

function choicesOf(task: OrderTask, runs: Runs): Choice[] {
  const touched = (candidates: readonly Candidate[]): Set<number> => {
    const found = new Set<number>();
    for (const { adds, shared } of candidates) {
      adds.forEach((count, run) => count && found.add(run));
      for (const one of shared) found.add(one % runs.count);
    }
    return found;
  };
  const byId = (a: { id: string }, b: { id: string }): number => (a.id < b.id ? -1 : 1);
  const nothing = new Uint8Array(runs.count);
  return [
    ...[...task.controls].sort(byId).map((control): Choice => {
      const key = task.kept && !control.reopens ? keyOf(task, runs, control) : '';
      const solve = (): Choice => {
        const { candidates, isProven } = candidatesOf(task, runs, control);
        return { id: control.id, control, candidates, isProven, runs: touched(candidates), key };
      };
      return key ? { ...task.kept!.of(key, solve), control } : solve();
    }),
    ...[...task.neutrals].sort(byId).map(({ id, ways }): Choice => {
      const candidates = undominated(
        ways.map((way) => ({
          order: [way.id],
          adds: nothing,
          shared: runs.shared(way.runs),
          reopened: 0,
        })),
      );
      const key = candidates.map(({ order, shared }) => `${order[0]} ${shared.join()}`).join('/');
      return { id, candidates, isProven: true, runs: touched(candidates), key };
    }),
  ];
}

/** The best of a group; of one that was solved with the same around it, that. */
function solved(
  runs: Runs,
  group: readonly Choice[],
  kept: KeptOrders | undefined,
): ReturnType<typeof bestOf> {
  const nodes = group.flatMap(({ control }) => control?.places.map(({ node }) => node) ?? []);
  const solve = (): ReturnType<typeof bestOf> =>
    bestOf(runs, group, new Set(nodes).size > PROVEN_TO ? STEPS : 50 * STEPS);
  if (!kept || group.some(({ key }) => key === '')) return solve();
  const around = [...new Set(group.flatMap((choice) => [...choice.runs]))]
    .sort((a, b) => a - b)
    .map((run) => `${run}:${runs.base[run]}:${runs.capacity[run]}`);
  return kept.of(`${group.map(({ id, key }) => `${id} ${key}`).join('|')} ${around.join()}`, solve);
}

/**
 * The electrical order of the places of every control, and the ways of the neutrals that are asked for besides, chosen
 * jointly: fewest missing conductors, then fewest joints to be made again, then fewest conductors over all runs, then by ids.
 * Controls that share no run do not touch each other. For each first and last box one walk asks least of every run, so that
 * these pairs are all there is to weigh; then branch and bound over the controls, with the least that the rest asks of each
 * run as its bound.
 */
export function orderPlaces(task: OrderTask): ChosenOrders {
  const orders = new Map<string, readonly string[]>();
  const ways = new Map<string, string>();
  const unproven = new Set<string>();
  if (task.controls.every(({ places }) => places.length === 1) && task.neutrals.length === 0) {
    // Nothing is to be chosen.
    for (const { id, places } of task.controls) orders.set(id, [places[0]!.pointId]);
    return { orders, ways, unproven };
  }
  const runs = new Runs(task);
  for (const group of connected(choicesOf(task, runs))) {
    const { chosen, isProven } = solved(runs, group, task.kept);
    group.forEach(({ id, control, isProven: own }, index) => {
      const { order } = chosen[index]!;
      if (!control) ways.set(id, order[0]!);
      else {
        orders.set(id, order);
        if (!isProven || !own) unproven.add(id);
      }
    });
  }
  return { orders, ways, unproven };
}

function connected<T extends { readonly runs: ReadonlySet<number> }>(items: readonly T[]): T[][] {
  let groups: { members: T[]; runs: Set<number> }[] = [];
  for (const item of items) {
    const touching = groups.filter(({ runs }) => [...item.runs].some((run) => runs.has(run)));
    const merged = {
      members: [...touching.flatMap(({ members }) => members), item],
      runs: new Set([...touching.flatMap(({ runs }) => [...runs]), ...item.runs]),
    };
    groups = [...groups.filter((group) => !touching.includes(group)), merged];
  }
  const place = new Map(items.map((item, index) => [item, index]));
  return groups.map(({ members }) => members.sort((a, b) => place.get(a)! - place.get(b)!));
}
