/**
 * Speed of deriving, as ratios within one run: the whole demo house; one change in a house of 100 boxes against one in a
 * house of 1,000, with the number of derivations that were computed again. Fails when a bound of the project is broken.
 */
import { readFileSync } from 'node:fs';
import { applyChange } from '../core/src/changes/apply.js';
import { setting } from '../core/src/changes/change.js';
import type { ChangeBody } from '../core/src/changes/change.js';
import { touchKey } from '../core/src/changes/diff.js';
import { Derivations } from '../core/src/derive/derivations.js';
import type { HouseReader } from '../core/src/derive/reader.js';
import { readerOf } from '../core/src/derive/reader.js';
import { fillBox } from '../core/src/fill/fill-box.js';
import { houseOf, readHouseFile } from '../core/src/house/house-file.js';
import { CIRCUIT_FINDINGS } from '../core/src/inspection/circuit-findings.js';
import { HOUSE_FINDINGS, ROOM_FINDINGS } from '../core/src/inspection/inspect-house.js';
import { makeUpBox } from '../core/src/makeup/make-up-box.js';
import { HOUSE_PULLS, pullList } from '../core/src/pulling/pull-list.js';
import { manyRooms } from '../core/src/testing/many-rooms.js';
import { wireCircuit } from '../core/src/wiring/conductors/wire-circuit.js';

const read = readHouseFile(readFileSync(new URL('../demo/lot-12.house.json', import.meta.url), 'utf8'));
if (!read.ok) throw new Error('the demo is broken');

function everything(reader: HouseReader): void {
  reader.derive(HOUSE_FINDINGS, '');
  reader.derive(HOUSE_PULLS, '');
  for (const box of reader.all('boxes')) {
    fillBox(reader, box.id);
    makeUpBox(reader, box.id);
  }
}

const median = (times: number[]): number => times.sort((a, b) => a - b)[Math.floor(times.length / 2)]!;
const timed = (work: () => void): number => {
  const since = performance.now();
  work();
  return performance.now() - since;
};

const { house: demo } = read;
for (let warm = 0; warm < 10; warm++) everything(readerOf(demo));
const whole = median(Array.from({ length: 30 }, () => timed(() => everything(readerOf(demo)))));
console.log(`whole demo house derived: ${whole.toFixed(2)} ms (median of 30)`);

interface OneChange {
  readonly boxes: number;
  /** Makes the change once more; the milliseconds it took until everything that is shown of it was there again. */
  readonly once: () => number;
  readonly computed: () => number;
}

/** One change of a run, over and over: what the screens show of it afterwards. */
function oneChange(rooms: number): OneChange {
  const { file, box, run } = manyRooms(rooms);
  const circuit = file.circuits[0]!.id;
  const room = file.boxes.find(({ id }) => id === box)!.roomId!;
  let house = houseOf(file);
  const kept = new Derivations(house);
  everything(kept.reader());
  let round = 0;
  let computed = 0;
  const once = (): number => {
    const body: ChangeBody = setting('runs', run, { plannedCable: round++ % 2 ? '14/2' : '14/3' });
    const before = kept.computed;
    const took = timed(() => {
      const applied = applyChange(house, body);
      if (!applied.ok) throw new Error(applied.refusal.message);
      house = applied.document;
      kept.update(
        house,
        new Map(applied.diff.rows.map(({ table, id }) => [touchKey(table, id), { table, id }])),
      );
      const reader = kept.reader();
      wireCircuit(reader, circuit);
      fillBox(reader, box);
      makeUpBox(reader, box);
      pullList(reader, { roomId: room });
      reader.derive(ROOM_FINDINGS, room);
      reader.derive(CIRCUIT_FINDINGS, circuit);
    });
    computed = kept.computed - before;
    return took;
  };
  return { boxes: file.boxes.length, once, computed: () => computed };
}

const [small, large] = [oneChange(10), oneChange(100)];
for (let warm = 0; warm < 100; warm++) [small, large].forEach(({ once }) => void once());
const pairs = Array.from({ length: 300 }, () => [small.once(), large.once()] as const);
[small, large].forEach(({ boxes, computed }, which) =>
  console.log(
    `one change at ${boxes} boxes: ${median(pairs.map((pair) => pair[which]!)).toFixed(3)} ms, ${computed()} derivations computed again`,
  ),
);
const ratio = median(pairs.map(([a, b]) => b / a));
console.log(`time at ${large.boxes} against ${small.boxes} boxes: ${ratio.toFixed(2)}× (bound 2×)`);
if (small.computed() !== large.computed())
  throw new Error('the number of derivations depends on the size of the house');
if (ratio > 2) throw new Error('one change costs more than twice as much in a house ten times as large');
