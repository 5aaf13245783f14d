import * as fc from 'fast-check';
import { MultiUndirectedGraph } from 'graphology';
import dijkstra from 'graphology-shortest-path/dijkstra.js';
import demo from '../demo/lot-12.house.json' with { type: 'json' };
import { readerOf } from '../core/src/derive/reader.js';
import { readHouseFile } from '../core/src/house/house-file.js';
import { framingGraph } from '../core/src/routing/framing-graph.js';
import { routeRun } from '../core/src/routing/route-run.js';
import { pricedGraph, waysFrom } from '../core/src/routing/search.js';
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
        const tree = waysFrom(graph, priced, [{ node: start, lengthIn: 0, times: 1 }]);
        for (let pair = 0; pair < 25; pair++) {
          const end = pick(0, graph.nodeCount - 1);
          const path = dijkstra.bidirectional(other, start, end, 'weight') as string[] | null;
          if (!path) {
            expect(tree.cost[end]).toBe(Infinity);
            continue;
          }
          let cost = 0;
          for (let at = 1; at < path.length; at++)
            cost += Math.min(
              ...other.edges(path[at - 1]!, path[at]!).map((edge) => other.getEdgeAttribute(edge, 'weight') as number),
            );
          expect(tree.cost[end]).toBe(cost);
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
            .withContext(`${id} ${cut.way.segments.map((s) => `${s.kind} ${s.lengthIn.toFixed(0)}`).join(' · ')}`)
            .toEqual([]);
          const line = points
            .slice(1)
            .reduce(
              (sum, p, at) =>
                sum +
                Math.hypot(p.xIn - points[at]!.xIn, p.yIn - points[at]!.yIn, p.zIn - points[at]!.zIn),
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
      expect(wrongWithWay(file, routeRun(reader, run).points)).withContext(run.id).toEqual([]);
  });
});
