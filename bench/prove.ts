/**
 * Speed of proving, as ratios within one run: deriving and proving every circuit of the demo house against ngspice on the
 * same netlists and lever positions (its process start taken off), a chain of six places with all 64 positions, and a lever
 * thrown on the largest circuit. Fails when a bound of the project is broken.
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { spiceDeck } from '../checks/ngspice.js';
import { readerOf } from '../core/src/derive/reader.js';
import { houseOf, readHouseFile } from '../core/src/house/house-file.js';
import { Plan } from '../core/src/testing/plan.js';
import type { Netlist } from '../core/src/wiring/netlist/netlist.js';
import { netlistOf } from '../core/src/wiring/netlist/build-netlist.js';
import { Machine, Settled } from '../core/src/wiring/netlist/operate.js';
import { allPositions } from '../core/src/wiring/netlist/lever-positions.js';
import { partsOf } from '../core/src/wiring/netlist/parts.js';
import type { OrderTask } from '../core/src/wiring/needs/order-task.js';
import { NumberedTree } from '../core/src/wiring/circuit/numbered-tree.js';
import { orderPlaces } from '../core/src/wiring/needs/place-order.js';
import { proveCircuit, proveNetlist } from '../core/src/wiring/proof/prove-circuit.js';
import { wireCircuit } from '../core/src/wiring/conductors/wire-circuit.js';

const PAIRS = 15;
/** One frame of a screen, in milliseconds. */
const FRAME = 16.7;

const read = readHouseFile(readFileSync(new URL('../demo/lot-12.house.json', import.meta.url), 'utf8'));
if (!read.ok) throw new Error('the demo is broken');
const { house, file } = read;

const timed = (work: () => void): number => {
  const since = performance.now();
  work();
  return performance.now() - since;
};
const median = (times: number[]): number => times.sort((a, b) => a - b)[Math.floor(times.length / 2)]!;

const everything = (): void => {
  const reader = readerOf(house);
  for (const { id } of file.circuits) proveCircuit(reader, id);
};
const reader = readerOf(house);
const netlists = [...new Set(file.circuits.map(({ id }) => netlistOf(reader, id)))];
const positionsOf = ({ levers }: Netlist): Uint8Array[] =>
  allPositions(levers.length).map((mask) => Uint8Array.from(levers, (_, lever) => (mask >>> lever) & 1));
// Parts that do not touch need not be operated in each other's positions: what they say together is the same.
const machines = netlists.flatMap((netlist) => {
  const settled = new Settled(netlist);
  return partsOf(netlist).map((part) => ({
    machine: new Machine(part, settled),
    positions: positionsOf(part),
    volts: new Float64Array(part.loads.length),
  }));
});
const operated = (): void => {
  for (const { machine, positions, volts } of machines)
    for (const levers of positions) machine.loadVolts(levers, volts);
};
const proved = (): void => {
  for (const netlist of netlists) proveNetlist(reader, netlist);
};
/** One after another within one moment of the machine, each often enough to be measured. */
const ours = {
  operated: { work: operated, times: 200 },
  proven: { work: proved, times: 8 },
  derived: { work: everything, times: 3 },
} as const;
type Ours = keyof typeof ours;
for (const { work, times } of Object.values(ours)) for (let warm = 0; warm < 20 * times; warm++) work();
const each = ({ work, times }: { work: () => void; times: number }): number =>
  timed(() => {
    for (let count = 0; count < times; count++) work();
  }) / times;

// One ngspice goes through the same netlists and positions; its start is taken off.
const folder = mkdtempSync(join(tmpdir(), 'mule-tally-bench-'));
try {
  const empty = join(folder, 'empty.cir');
  writeFileSync(empty, '* nothing\nr1 a 0 1\nv1 a 0 1\n.control\nquit\n.endc\n.end\n');
  const script = netlists.flatMap((netlist, index) => {
    const { cards, commands } = spiceDeck(reader, netlist, positionsOf(netlist));
    const deck = join(folder, `${index}.cir`);
    writeFileSync(deck, ['* netlist', ...cards, '.end', ''].join('\n'));
    return [`source ${deck}`, ...commands, 'remcirc'];
  });
  const all = join(folder, 'all.cir');
  writeFileSync(
    all,
    ['* all', 'r1 a 0 1', 'v1 a 0 1', '.control', ...script, 'quit', '.endc', '.end', ''].join('\n'),
  );
  const run = (deck: string): number =>
    timed(() => void execFileSync('ngspice', ['-b', deck], { stdio: 'ignore', maxBuffer: 1 << 28 }));
  // Pairs side by side, so that a machine that is busy for a while is busy for both.
  const ratios: Record<Ours, number[]> = { operated: [], proven: [], derived: [] };
  const seen: Record<Ours | 'theirs', number[]> = { operated: [], proven: [], derived: [], theirs: [] };
  for (let pair = 0; pair < PAIRS; pair++) {
    const theirs = run(all) - run(empty);
    seen.theirs.push(theirs);
    for (const name of Object.keys(ours) as Ours[]) {
      const own = each(ours[name]);
      seen[name].push(own);
      ratios[name].push(theirs / own);
    }
  }
  const positions = netlists.reduce((sum, { levers }) => sum + (1 << levers.length), 0);
  console.log(
    `demo house, ${netlists.length} netlists, ${positions} lever positions, ${PAIRS} pairs: ngspice ${median(seen.theirs).toFixed(0)} ms without its start`,
  );
  const [operating, , deriving] = (['operated', 'proven', 'derived'] as const).map((name) => {
    const ratio = median(ratios[name]);
    console.log(
      `  ${name}: ${median(seen[name]).toFixed(3)} ms, ratio ${ratio.toFixed(name === 'operated' ? 0 : 1)}×`,
    );
    return ratio;
  });
  if (operating! < 1000) throw new Error('operating is not a thousand times as fast as ngspice');
  if (deriving! < 8)
    throw new Error('deriving with proof is not eight times as fast as ngspice (target: ten)');
} finally {
  rmSync(folder, { recursive: true, force: true });
}

const plan = new Plan('Six places');
plan.room('Garage', 'garage');
const panel = plan.box('PANEL', 'panel');
const circuit = plan.circuit(1, 'One', panel, 15);
let at = panel;
const levers = Array.from({ length: 6 }, (_, index) => {
  at = plan.fed(`S${index}`, at, index ? '14/3' : '14/2', circuit, 'plastic-1g-22.5');
  return plan.device(at, 'switch')[0]!;
});
plan.control(
  'Hall',
  levers,
  plan.device(plan.fed('L1', at, '14/2', circuit, 'plastic-round-20'), 'luminaire'),
);
const six = houseOf(plan.file);
const proven = (work: (reader: ReturnType<typeof readerOf>) => void): number => {
  const once = (): number => {
    const fresh = readerOf(six);
    wireCircuit(fresh, circuit);
    return timed(() => work(fresh));
  };
  for (let warm = 0; warm < 20; warm++) once();
  return median(Array.from({ length: 30 }, once));
};
const chain = proven((fresh) => void proveCircuit(fresh, circuit));
const whole = median(
  Array.from({ length: 30 }, () => timed(() => void proveCircuit(readerOf(six), circuit))),
);
console.log(
  `six places: all 64 positions operated and proven in ${chain.toFixed(2)} ms, with the wiring ${whole.toFixed(2)} ms`,
);
if (chain > FRAME / 2) throw new Error('the proof of six places is not well inside one frame');

const largest = file.circuits
  .map(({ id }) => netlistOf(reader, id))
  .sort((a, b) => b.conductors.length - a.conductors.length)[0]!;
const thrown = (): void => void new Machine(largest).operate(new Uint8Array(largest.levers.length).fill(1));
for (let warm = 0; warm < 50; warm++) thrown();
const lever = median(Array.from({ length: 50 }, () => timed(thrown)));
console.log(`a lever thrown on the largest circuit of the demo house: ${lever.toFixed(3)} ms`);
if (lever > FRAME / 2) throw new Error('a lever does not react within a frame');

// Ten places of one control on a chain, each box also on the way of the next: only the order is timed.
const tree = new NumberedTree(
  Int32Array.from([-1, ...Array.from({ length: 10 }, (_, place) => (place * 7) % (place + 1))]),
  Int32Array.from({ length: 11 }, (_, node) => node),
);
const task: OrderTask = {
  tree,
  base: new Int32Array(11),
  hotNodes: new Map([['hot', [4]]]),
  capacity: Float64Array.from(tree.parent, (_, run) => (run ? 2 + ((run - 1) % 3) : Infinity)),
  neutrals: [],
  controls: [
    {
      id: 'c',
      places: Array.from({ length: 10 }, (_, at) => ({ pointId: `p${at}`, node: at + 1, hot: 'hot' })),
      loadNodes: [7],
    },
  ],
};
for (let warm = 0; warm < 50; warm++) orderPlaces(task);
const ordered = median(Array.from({ length: 50 }, () => timed(() => void orderPlaces(task))));
const { unproven } = orderPlaces(task);
console.log(
  `ten places put in order: ${ordered.toFixed(2)} ms, ${unproven.size ? 'not proven' : 'proven'} best`,
);
