import '../core/src/testing/seed.js';
import * as fc from 'fast-check';
import { UndirectedGraph } from 'graphology';
import { connectedComponents } from 'graphology-components';
import { bidirectional } from 'graphology-shortest-path/unweighted.js';
import { readerOf } from '../core/src/derive/reader.js';
import { houseOf } from '../core/src/house/house-file.js';
import { Plan } from '../core/src/testing/plan.js';
import { circuitTree, runsBetween } from '../core/src/wiring/circuit/circuit-tree.js';

/** Any boxes, any runs between them: trees, loops, islands. */
const tangle = fc
  .record({
    boxes: fc.integer({ min: 2, max: 12 }),
    runs: fc.array(fc.tuple(fc.nat(), fc.nat()), { minLength: 1, maxLength: 18 }),
    wanted: fc.array(fc.nat(), { minLength: 1, maxLength: 5 }),
  })
  .map(({ boxes, runs, wanted }) => {
    const plan = new Plan('Graph');
    const ids = [plan.box('PANEL', 'panel')];
    const circuit = plan.circuit(1, 'One', ids[0]!, 15);
    for (let index = 1; index < boxes; index++) ids.push(plan.box(`B${index}`));
    for (const [a, b] of runs) {
      const [from, to] = [ids[a % boxes]!, ids[b % boxes]!];
      if (from !== to) plan.run(from, to, '14/2', circuit);
    }
    return { plan, ids, wanted: wanted.map((pick) => ids[pick % boxes]!) };
  });

const ends = (run: { from: { boxId: string }; to: unknown }): [string, string] => [
  run.from.boxId,
  (run.to as { boxId: string }).boxId,
];

describe('graphology, on the same boxes and runs', () => {
  it('finds the same reach, the same number of loops, and the same cuts', () => {
    fc.assert(
      fc.property(tangle, ({ plan, ids, wanted }) => {
        const tree = circuitTree(readerOf(houseOf(plan.file)), ids[0]!, plan.file.runs);
        const whole = new UndirectedGraph();
        for (const id of ids) whole.addNode(id);
        for (const run of plan.file.runs) whole.mergeEdge(...ends(run));
        const reached = connectedComponents(whole).find((part) => part.includes(ids[0]!))!;
        expect([...tree.nodes].sort()).toEqual([...reached].sort());
        const inside = plan.file.runs.filter((run) => reached.includes(run.from.boxId));
        expect(tree.loops.length)
          .withContext('cycle rank')
          .toBe(inside.length - (reached.length - 1));
        expect(tree.islands.length).toBe(plan.file.runs.length - inside.length);

        const skeleton = new UndirectedGraph();
        for (const id of tree.nodes) skeleton.addNode(id);
        for (const { run } of tree.feed.values()) skeleton.addEdgeWithKey(run.id, ...ends(run));
        const nodes = wanted.filter((id) => reached.includes(id));
        const found = runsBetween(tree, nodes);
        // Every run on a way between two of them, and no other.
        const ways = new Set<string>();
        for (const a of nodes)
          for (const b of nodes) {
            const way = bidirectional(skeleton, a, b)!;
            way.slice(1).forEach((node, index) => ways.add(skeleton.edge(way[index]!, node)!));
          }
        expect([...found].sort()).toEqual([...ways].sort());
        // Each of them is a cut: without it two of them come apart.
        for (const id of found) {
          const cut = skeleton.copy();
          cut.dropEdge(id);
          const parts = connectedComponents(cut).filter((part) => nodes.some((node) => part.includes(node)));
          expect(parts.length).toBe(2);
        }
      }),
      { numRuns: 300 },
    );
  });
});
