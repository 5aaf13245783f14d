/**
 * How fast ways are found along the framing: npx tsx bench/routes.ts
 *
 * The demo's house with 200 runs: one search over all of its framing, all runs, and a box with six runs that is moved, as the median and
 * the 95th of many.
 */
import { readFileSync } from 'node:fs';
import { applyChange } from '../core/src/changes/apply.js';
import { setting } from '../core/src/changes/change.js';
import { Derivations } from '../core/src/derive/derivations.js';
import { houseOf, readHouseFile } from '../core/src/house/house-file.js';
import { framingGraph } from '../core/src/routing/framing-graph.js';
import { boredMembers, holesIn } from '../core/src/routing/holes.js';
import { cutOf } from '../core/src/routing/cut.js';
import { WayTree, pricedGraph } from '../core/src/routing/search.js';

const read = readHouseFile(readFileSync('demo/lot-12.house.json', 'utf8'));
if (!read.ok) throw new Error('the demo is broken');
// 200 runs: those of the demo, and 72 more between boxes of one story.
const file = structuredClone(read.file);
const storeyOf = (boxId: string): string | undefined =>
  file.rooms.find(({ id }) => id === file.boxes.find((box) => box.id === boxId)?.roomId)?.storeyId;
const hub = file.boxes.find(({ tag }) => tag === 'S4')!.id;
const has = file.runs.filter(({ from, to }) => from.boxId === hub || to.boxId === hub).length;
const near = file.boxes.filter(({ id }) => id !== hub && storeyOf(id) === storeyOf(hub));
while (file.runs.length < 200) {
  const at = file.runs.length;
  // The box that is moved has six.
  const from = at < 128 + 6 - has ? hub : near[(at * 7) % near.length]!.id;
  const to = near[(at * 11 + 3) % near.length]!.id;
  const id = `be000000-0000-4000-8000-${at.toString(16).padStart(12, '0')}`;
  if (from === to) file.runs.push({ ...file.runs[0]!, id });
  else
    file.runs.push({
      id,
      kind: 'cable',
      circuitIds: [],
      from: { boxId: from },
      to: { boxId: to },
      plannedCable: '14/2',
    });
}
const house = houseOf(file);

const timed = (times: number, what: (at: number) => void): { median: number; p95: number } => {
  const all = Array.from({ length: times }, (_none, at) => {
    const start = performance.now();
    what(at);
    return performance.now() - start;
  }).sort((a, b) => a - b);
  return { median: all[Math.floor(times / 2)]!, p95: all[Math.floor(times * 0.95)]! };
};
const line = (name: string, { median, p95 }: { median: number; p95: number }, most?: number): void =>
  console.log(
    `${name.padEnd(58)} ${median.toFixed(2).padStart(8)} ms, 95th ${p95.toFixed(2)}${most ? ` (at most ${most})` : ''}`,
  );

const first = new Derivations(house).reader();
const graph = framingGraph(first);
console.log(`${graph.nodeCount} places, ${graph.edgeKind.length} edges, ${file.runs.length} runs`);
const priced = pricedGraph(first, graph, '14/2');
line(
  'one search over all of it',
  timed(200, (at) => {
    const start = [{ node: (at * 97) % graph.nodeCount, lengthIn: 0, times: 1 }];
    // What is nowhere is looked for everywhere.
    new WayTree(graph, priced, start).to([]);
  }),
);
line(
  'the framing of the house',
  timed(20, () => framingGraph(new Derivations(house).reader())),
);
// Once before: what runs the first time is compiled then.
const all = (): void => {
  const reader = new Derivations(house).reader();
  framingGraph(reader);
  for (const run of reader.all('runs')) cutOf(reader, run);
};
all();
line(
  `all ${file.runs.length} runs`,
  timed(30, () => all()),
  300,
);
const kept = new Derivations(house);
for (const run of kept.reader().all('runs')) cutOf(kept.reader(), run);
let now = house;
const moved = (at: number): void => {
  const applied = applyChange(now, setting('boxes', hub, { alongIn: 40 + (at % 30) }));
  if (!applied.ok) throw new Error(applied.refusal.message);
  now = applied.document;
};
const runsOfHub = file.runs.filter(({ from, to }) => [from.boxId, to.boxId].includes(hub));
for (let at = 0; at < 10; at++) {
  moved(at);
  kept.update(now);
}
line(
  `a box with ${runsOfHub.length} runs is moved`,
  timed(100, (at) => {
    moved(at + 3);
    kept.update(now);
    for (const run of runsOfHub) cutOf(kept.reader(), run);
  }),
  8,
);
for (const member of boredMembers(kept.reader())) holesIn(kept.reader(), member);
line(
  'and the holes of every member that they leave or enter',
  timed(50, (at) => {
    moved(at + 5);
    kept.update(now);
    for (const member of boredMembers(kept.reader())) holesIn(kept.reader(), member);
  }),
);
