import { runs } from '../../testing/seed.js';
import * as fc from 'fast-check';
import { readerOf } from '../../derive/reader.js';
import type { HouseFile } from '../../house/house-file.js';
import { houseOf } from '../../house/house-file.js';
import { Plan } from '../../testing/plan.js';
import { NumberedTree } from '../circuit/numbered-tree.js';
import { KeptOrders } from './order-task.js';
import type { OrderTask, PlacedControl } from './order-task.js';
import { orderPlaces } from './place-order.js';
import { wireCircuit } from '../conductors/wire-circuit.js';

/** Each node hangs on one of those before it. */
const treeOf = (picks: readonly number[]): NumberedTree =>
  new NumberedTree(
    Int32Array.from([-1, ...picks.map((pick, at) => pick % (at + 1))]),
    Int32Array.from({ length: picks.length + 1 }, (_, node) => node),
  );
/** Runs from a node to the root. */
const above = (tree: NumberedTree, node: number): number[] =>
  node === 0 ? [] : [node, ...above(tree, tree.parent[node]!)];
/** Runs with some of these nodes on each side, from the definition. */
const joining = (tree: NumberedTree, nodes: readonly number[]): number[] =>
  [...tree.parent.keys()].filter((run) => {
    const beyond = nodes.filter((node) => above(tree, node).includes(run)).length;
    return beyond > 0 && beyond < nodes.length;
  });

/** A task on a random tree: up to 3 controls of up to 4 places each, runs of 2 to 4 conductors. */
const task = fc
  .record({
    parents: fc.array(fc.nat(), { minLength: 3, maxLength: 8 }),
    capacity: fc.array(fc.constantFrom(2, 3, 4), { minLength: 8, maxLength: 8 }),
    base: fc.array(fc.nat(2), { minLength: 8, maxLength: 8 }),
    controls: fc.array(
      fc.record({
        places: fc.array(fc.nat(), { minLength: 1, maxLength: 4 }),
        loads: fc.array(fc.nat(), { minLength: 1, maxLength: 2 }),
        dear: fc.nat(3),
        hot: fc.constantFrom('one', 'two'),
      }),
      { minLength: 1, maxLength: 3 },
    ),
    hot: fc.nat(),
    // Places at which a neutral is asked for: at one of them, or at each.
    neutrals: fc.array(
      fc.record({ places: fc.array(fc.nat(), { minLength: 1, maxLength: 3 }), one: fc.boolean() }),
      { maxLength: 2 },
    ),
  })
  .map(({ parents, capacity, base, controls, hot, neutrals }): OrderTask => {
    const tree = treeOf(parents);
    const at = (pick: number): number => 1 + (pick % (tree.size - 1));
    return {
      tree,
      base: Int32Array.from(tree.parent, (_, run) => (run ? base[run - 1]! : 0)),
      capacity: Float64Array.from(tree.parent, (_, run) => (run ? capacity[run - 1]! : Infinity)),
      hotNodes: new Map([['one', [at(hot)]]]),
      neutrals: neutrals.map(({ places, one }, index) => {
        const ways = places.map((pick, place) => ({
          id: `n${index}w${place}`,
          runs: above(tree, at(pick)),
        }));
        return {
          id: `n${index}`,
          ways: one ? ways : [{ id: 'all', runs: [...new Set(ways.flatMap(({ runs }) => runs))] }],
        };
      }),
      controls: controls.map(({ places, loads, dear, hot: own }, index): PlacedControl => ({
        id: `c${index}`,
        places: places.map((pick, place) => ({ pointId: `c${index}p${place}`, node: at(pick), hot: own })),
        loadNodes: loads.map(at),
        // Some joints have been made for the place that stands first in one of the orders.
        ...(dear && {
          reopens: (point, before) =>
            before === undefined && point !== `c${index}p${dear % places.length}` ? 1 : 0,
        }),
      })),
    };
  });

const permutations = <T>(items: readonly T[]): T[][] =>
  items.length <= 1
    ? [[...items]]
    : items.flatMap((item, at) =>
        permutations([...items.slice(0, at), ...items.slice(at + 1)]).map((rest) => [item, ...rest]),
      );

/** The cost of given orders and ways, counted from the definition. */
function costOf(
  t: OrderTask,
  orders: ReadonlyMap<string, readonly string[]>,
  ways: ReadonlyMap<string, string>,
): [number, number, number] {
  const counts = new Map<number, number>();
  const add = (run: number, count: number) => void counts.set(run, (counts.get(run) ?? 0) + count);
  const hot = new Set<string>();
  let reopened = 0;
  for (const control of t.controls) {
    const order = orders.get(control.id)!;
    const nodes = order.map((id) => control.places.find(({ pointId }) => pointId === id)!.node);
    nodes
      .slice(1)
      .forEach((node, index) => joining(t.tree, [nodes[index]!, node]).forEach((run) => add(run, 2)));
    joining(t.tree, [nodes.at(-1)!, ...control.loadNodes]).forEach((run) => add(run, 1));
    const own = control.places.find(({ pointId }) => pointId === order[0])!.hot;
    const always = new Set((t.hotNodes.get(own) ?? []).flatMap((node) => above(t.tree, node)));
    for (const run of above(t.tree, nodes[0]!)) if (!always.has(run)) hot.add(`${run} ${own}`);
    order.forEach((point, at) => {
      reopened += control.reopens?.(point, order[at - 1], order[at + 1]) ?? 0;
    });
  }
  hot.forEach((one) => add(Number(one.split(' ')[0]), 1));
  const neutral = t.neutrals.flatMap(({ id, ways: own }) => own.find((way) => way.id === ways.get(id))!.runs);
  new Set(neutral).forEach((run) => add(run, 1));
  let missing = 0;
  for (const [run, count] of counts)
    missing += Math.min(count, Math.max(0, count + t.base[run]! - t.capacity[run]!));
  return [missing, reopened, [...counts.values()].reduce((sum, count) => sum + count, 0)];
}

describe('Order of the places', () => {
  it('is the same where what was solved on other trees is kept, with only what changed solved again', () => {
    fc.assert(
      fc.property(
        task,
        fc.array(fc.tuple(fc.nat(), fc.nat(), fc.constantFrom(2, 3, 4)), { minLength: 2, maxLength: 8 }),
        (first, moves) => {
          const kept = new KeptOrders();
          // Joints that are made belong to one tree.
          const controls = first.controls.map(({ reopens: _made, ...control }) => control);
          let tree = first.tree;
          const capacity = Float64Array.from(first.capacity);
          for (const [pick, onto, room] of moves) {
            const node = 1 + (pick % (tree.size - 1));
            const parent = Int32Array.from(tree.parent);
            parent[node] = onto % node;
            tree = new NumberedTree(parent, tree.order);
            capacity[node] = room;
            const neutrals = first.neutrals.map(({ id }) => ({
              id,
              ways: [{ id: 'all', runs: above(tree, node) }],
            }));
            const own = { ...first, controls, tree, capacity, neutrals };
            expect(orderPlaces({ ...own, kept })).toEqual(orderPlaces(own));
          }
        },
      ),
      { numRuns: runs(400) },
    );
  });

  it('is as cheap as the cheapest of all orders, and of those the first by ids', () => {
    fc.assert(
      fc.property(task, (t) => {
        const { orders: chosen, ways, unproven } = orderPlaces(t);
        const key = (
          orders: ReadonlyMap<string, readonly string[]>,
          own: ReadonlyMap<string, string>,
        ): string =>
          [
            ...t.controls.flatMap(({ id }) => orders.get(id)!),
            ...t.neutrals.map(({ id }) => own.get(id)!),
          ].join();
        const allWays = t.neutrals.reduce<ReadonlyMap<string, string>[]>(
          (all, { id, ways: own }) =>
            all.flatMap((known) => own.map((way) => new Map(known).set(id, way.id))),
          [new Map()],
        );
        let best: { cost: number[]; ids: string } | undefined;
        const judge = (orders: ReadonlyMap<string, readonly string[]>): void => {
          for (const own of allWays) {
            const cost = costOf(t, orders, own);
            const ids = key(orders, own);
            const less = best && cost.findIndex((value, at) => value !== best!.cost[at]);
            if (!best || (less !== -1 ? cost[less!]! < best.cost[less!]! : ids < best.ids))
              best = { cost, ids };
          }
        };
        const go = (index: number, orders: Map<string, readonly string[]>): void => {
          if (index === t.controls.length) return judge(orders);
          const control = t.controls[index]!;
          for (const order of permutations(control.places.map(({ pointId }) => pointId)))
            go(index + 1, new Map(orders).set(control.id, order));
        };
        go(0, new Map());
        expect(costOf(t, chosen, ways)).toEqual(best!.cost as [number, number, number]);
        // Places of one box follow each other unless something made says otherwise; among those the first by ids.
        if (t.controls.every(({ places }) => new Set(places.map(({ node }) => node)).size === places.length))
          expect(key(chosen, ways)).toBe(best!.ids);
        expect([...unproven]).toEqual([]);
      }),
      { numRuns: runs(60) },
    );
  });

  it('is proven for twelve switch boxes of one control on any tree: no order asks less of a run', () => {
    fc.assert(
      fc.property(
        fc.array(fc.nat(), { minLength: 11, maxLength: 11 }),
        fc.array(fc.constantFrom(3, 4, 5), { minLength: 12, maxLength: 12 }),
        fc.infiniteStream(fc.nat()),
        (parents, capacity, picks) => {
          const tree = treeOf([0, ...parents.map((pick, at) => 1 + (pick % (at + 1)))]);
          const places = Array.from({ length: 12 }, (_, at) => ({
            pointId: `p${String(at).padStart(2, '0')}`,
            node: at + 1,
            hot: 'one',
          }));
          const t: OrderTask = {
            tree,
            base: new Int32Array(13),
            hotNodes: new Map([['one', [1 + (parents[0]! % 12)]]]),
            neutrals: [],
            capacity: Float64Array.from([Infinity, ...capacity]),
            controls: [{ id: 'c', places, loadNodes: [1 + (parents[1]! % 12)] }],
          };
          const { orders, unproven } = orderPlaces(t);
          const cost = costOf(t, orders, new Map());
          expect([...unproven]).toEqual([]);
          // No other walk, and no neighbour of the chosen one, is cheaper.
          const tried = [...orders.get('c')!];
          for (let round = 0; round < 60; round++) {
            const [a, b] = [picks.next().value! % 12, picks.next().value! % 12];
            [tried[a], tried[b]] = [tried[b]!, tried[a]!];
            const other = costOf(t, new Map([['c', tried]]), new Map());
            const at = cost.findIndex((value, index) => value !== other[index]);
            expect(at === -1 || cost[at]! < other[at]!).toBeTrue();
            if (round % 7 === 0) tried.splice(0, 12, ...orders.get('c')!);
          }
        },
      ),
      { numRuns: runs(40) },
    );
  });

  it('does not move when something changes that shares no run, and stays where it is pinned', () => {
    const plan = new Plan('Orders');
    plan.room('Garage', 'garage');
    const panel = plan.box('PANEL', 'panel');
    const circuit = plan.circuit(1, 'One', panel, 15);
    const chain = (prefix: string) => {
      const boxes = [1, 2, 3].map((number) => plan.box(`${prefix}${number}`, 'plastic-4g-72'));
      boxes.forEach((box, index) => plan.run(index ? boxes[index - 1]! : panel, box, '14/3', circuit));
      const levers = boxes.map((box) => plan.device(box, 'switch')[0]!);
      plan.control(prefix, levers.toReversed(), plan.device(boxes[2]!, 'luminaire'));
      return levers;
    };
    const levers = chain('A');
    const order = (file: HouseFile) => {
      const { levers: placed } = wireCircuit(readerOf(houseOf(file)), circuit);
      return levers.map((id) => placed.get(id)!.index);
    };
    const before = order(plan.file);
    expect(before).toEqual([0, 1, 2]);
    chain('B');
    expect(order(plan.file)).toEqual(before);
    plan.file.controls[0]!.pinnedOrder = [levers[1]!, levers[0]!, levers[2]!];
    expect(order(plan.file)).toEqual([1, 0, 2]);
  });
});
