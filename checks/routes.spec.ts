import * as fc from 'fast-check';
import { MultiUndirectedGraph } from 'graphology';
import dijkstra from 'graphology-shortest-path/dijkstra.js';
import demo from '../demo/lot-12.house.json' with { type: 'json' };
import { readerOf } from '../core/src/derive/reader.js';
import { readHouseFile } from '../core/src/house/house-file.js';
import { framingGraph } from '../core/src/routing/framing-graph.js';
import { routeRun } from '../core/src/routing/route-run.js';
import { WayTree, pricedGraph } from '../core/src/routing/search.js';
import { numbersFrom } from '../core/src/testing/circuit-to-plan.js';
import { randomFraming } from '../core/src/testing/random-framing.js';
import { runs } from '../core/src/testing/seed.js';
import { wrongWithWay } from './way-evaluator.js';

const readDemo = () => {
  const read = readHouseFile(demo);
  if (!read.ok) throw new Error('the demo is broken');
  return read;
};

describe('Ways, against others', () => {
  it('cost what a general graph library finds to be the least on the same framing, between 1,000 pairs', () => {
    // graphology-shortest-path, Dijkstra: a package of its own with its own queue.
    const reader = readerOf(readDemo().house);
    const graph = framingGraph(reader);
    const pick = numbersFrom(13);
    for (const cable of ['14/2', '6/3']) {
      const priced = pricedGraph(reader, graph, cable);
      const other = new MultiUndirectedGraph();
      for (let node = 0; node < graph.nodeCount; node++) other.addNode(node);
      for (let node = 0; node < graph.nodeCount; node++)
        for (let at = graph.first[node]!; at < graph.first[node + 1]!; at++)
          if (node < graph.to[at]!)
            other.addEdge(node, graph.to[at]!, { weight: priced.costs[graph.edge[at]!]! });
      let found = 0;
      for (let from = 0; from < 20; from++) {
        const start = pick(0, graph.nodeCount - 1);
        const tree = new WayTree(graph, priced, [{ node: start, lengthIn: 0, times: 1 }]);
        for (let pair = 0; pair < 25; pair++) {
          const end = pick(0, graph.nodeCount - 1);
          const path = dijkstra.bidirectional(other, start, end, 'weight') as string[] | null;
          const ours = tree.to([{ node: end, lengthIn: 0, times: 1 }]);
          if (!path) {
            expect(ours).toBeUndefined();
            continue;
          }
          let cost = 0;
          for (let at = 1; at < path.length; at++)
            cost += Math.min(
              ...other
                .edges(path[at - 1]!, path[at]!)
                .map((edge) => other.getEdgeAttribute(edge, 'weight') as number),
            );
          expect(ours!.cost).toBe(cost);
          found++;
        }
      }
      expect(found).toBeGreaterThan(400);
    }
  }, 300_000);

  it('go where a cable can: a second look at the line and the house file finds nothing wrong', () => {
    let ways = 0;
    fc.assert(
      fc.property(randomFraming, ({ file, house, runs: ids }) => {
        const reader = readerOf(house);
        for (const id of ids) {
          const { points, cut } = routeRun(reader, reader.get('runs', id)!);
          if (!points.length) continue;
          ways++;
          expect(wrongWithWay(file, points))
            .withContext(
              `${id} ${cut.way.segments.map((s) => `${s.kind} ${s.lengthIn.toFixed(0)}`).join(' · ')}`,
            )
            .toEqual([]);
          const line = points
            .slice(1)
            .reduce(
              (sum, p, at) =>
                sum + Math.hypot(p.xIn - points[at]!.xIn, p.yIn - points[at]!.yIn, p.zIn - points[at]!.zIn),
              0,
            );
          expect(cut.way.lengthIn).toBeGreaterThan(line - 1e-6);
        }
      }),
      { numRuns: runs(150) },
    );
    expect(ways).toBeGreaterThan(100);
    const { house, file } = readDemo();
    const reader = readerOf(house);
    for (const run of reader.all('runs'))
      expect(wrongWithWay(file, routeRun(reader, run).points))
        .withContext(run.id)
        .toEqual([]);
  });
});

/** So far above a ceiling, half way up its joists, cable runs: between stories, and in the attic. Inches. */
const [FLOOR, ATTIC] = [6, 4.6];
/** Switches at 48 in to the top of the box, receptacles at 16, the panel at 60: from there into the joists over 97 in. */
const [SWITCH_UP, SWITCH_ATTIC] = [97 - 46 + FLOOR, 97 - 46 + ATTIC];
/** From a receptacle up to the row of holes at 20 in, or down into the floor. */
const [ROW, DOWN] = [4, 16 + FLOOR];
/** Ends: half an inch of sheath in all, 6 in to make up, 30 at a light, 60 at the panel. */
const [BOXES, LIGHT, LIGHTS, PANEL_BOX] = [12.5, 36.5, 60.5, 66.5];

/** Ways of the demo as a lead measures them on its plan, by its coordinates: from, to, stretch by stretch. Inches. */
const BY_HAND: readonly (readonly [from: string, to: string, stretches: readonly number[]])[] = [
  // Garage: the switch at (264, 198), lights at (68, 68) and (197, 197).
  ['S1', 'L1', [SWITCH_UP, 196, 130, FLOOR, LIGHT]],
  ['S1', 'L3', [SWITCH_UP, 67, 1, FLOOR, LIGHT]],
  // Along the wall from 151 to 253, holes at 20 in.
  ['R1', 'R2', [ROW, 102, ROW, BOXES]],
  // From the panel at (264, 101), 60 in up, to the counter at (528, 89), 44 in up.
  ['PANEL', 'R12', [97 - 60 + FLOOR, 264, 12, 97 - 44 + FLOOR, PANEL_BOX]],
  // The corner of the garage is solid: under the floor from 118 to 255.
  ['R3', 'R4', [DOWN, 137, DOWN, BOXES]],
  ['R5', 'R6', [ROW, 79, 37, ROW, BOXES]],
  ['R13', 'R14', [ROW, 114, ROW, BOXES]],
  ['R21', 'R22', [ROW, 143, ROW, BOXES]],
  ['S2', 'L4', [SWITCH_UP, 36, 107, FLOOR, LIGHT]],
  ['S4', 'L9', [SWITCH_UP, 20, 72, FLOOR, LIGHT]],
  // Study and dining room: round two corners of the inner wall.
  ['R29', 'R30', [ROW, 15, 96, 73, ROW, BOXES]],
  ['S5', 'L15', [SWITCH_UP, 84, 163, FLOOR, LIGHT]],
  // The range, by the floor under the kitchen: (264, 101) to (525, 156).
  ['PANEL', 'RANGE', [60 + FLOOR, 55, 261, DOWN, PANEL_BOX]],
  // Upstairs, in the attic: over the joists where they are crossed.
  ['S8', 'L20', [SWITCH_ATTIC, 115, 4, ATTIC, LIGHT]],
  ['S10', 'L22', [SWITCH_ATTIC, 24, ATTIC, 255, ATTIC, ATTIC, LIGHT]],
  ['A4', 'A5', [ATTIC, 194, ATTIC, LIGHTS]],
  // From the panel down into the basement: its receptacle 42 in up.
  ['PANEL', 'R47', [60 + FLOOR, 67, 29, 92 - 42 + FLOOR, 57, PANEL_BOX]],
  ['R35', 'R36', [DOWN, 14, 128, DOWN, BOXES]],
  ['L29', 'L31', [FLOOR, 53, 93, FLOOR, LIGHTS]],
  ['R15', 'R16', [ROW, 79, 41, ROW, BOXES]],
];

describe('Lengths to cut of the demo', () => {
  it('are never shorter than what is measured by hand on its plan, and on average at most 8 % longer', () => {
    const reader = readerOf(readDemo().house);
    const tagOf = (id: string): string => reader.get('boxes', id)!.tag;
    const surplus = BY_HAND.map(([from, to, stretches]) => {
      const run = reader
        .all('runs')
        .find((one) => tagOf(one.from.boxId) === from && tagOf(one.to.boxId) === to);
      const needed = stretches.reduce((sum, stretch) => sum + stretch, 0);
      const { lengthIn, source } = routeRun(reader, run!).cut;
      expect(source).withContext(`${from} ${to}`).toBe('way');
      expect(lengthIn).withContext(`${from} ${to}`).toBeGreaterThanOrEqual(needed);
      return lengthIn / needed - 1;
    });
    expect(surplus.length).toBe(20);
    expect(surplus.reduce((sum, one) => sum + one, 0) / surplus.length).toBeLessThanOrEqual(0.08);
  });
});
