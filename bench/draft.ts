import { readFileSync } from 'node:fs';
import { readerOf } from '../core/src/derive/reader.js';
import { draftHouse } from '../core/src/furnish/draft-house.js';
import type { HouseFile } from '../core/src/house/house-file.js';
import { houseOf, readHouseFile } from '../core/src/house/house-file.js';
import { inspectHouse } from '../core/src/inspection/inspect-house.js';

/** Drafting the demo house from its rooms against deriving it whole, one after the other in turn. */
const read = readHouseFile(readFileSync('demo/lot-12.house.json', 'utf8'));
if (!read.ok) throw new Error(read.problems[0]!.message);
const { file } = read;
const demo = houseOf(file);
const bare = (rooms: HouseFile['rooms'], openings: HouseFile['openings']) =>
  houseOf({
    ...file,
    rooms,
    openings,
    ...{
      boxes: [],
      circuits: [],
      devices: [],
      points: [],
      controls: [],
      runs: [],
      pulls: [],
      records: [],
      photos: [],
      writeUps: [],
      extras: [],
    },
  });
const drawn = bare(file.rooms, file.openings);
const listed = bare(
  file.rooms.map(({ outline: _drawn, ...room }) => room),
  [],
);

const ROUNDS = 25;
const BOUND = 4;
const timed = (work: () => void): number => {
  const start = performance.now();
  work();
  return performance.now() - start;
};
const median = (all: number[]): number => all.sort((a, b) => a - b)[Math.floor(all.length / 2)]!;
const derive: number[] = [];
const byList: number[] = [];
const byPlan: number[] = [];
for (let round = 0; round < ROUNDS; round++) {
  derive.push(timed(() => void inspectHouse(readerOf(demo))));
  byList.push(timed(() => void draftHouse(listed)));
  byPlan.push(timed(() => void draftHouse(drawn)));
}
const whole = median(derive);
for (const [what, times] of [
  ['from a list of rooms', byList],
  ['from a plan', byPlan],
] as const) {
  const ratio = median(times) / whole;
  console.log(
    `drafting the demo house ${what}: ${median(times).toFixed(0)} ms, ${ratio.toFixed(2)} × deriving it whole (${whole.toFixed(0)} ms); at most ${BOUND}`,
  );
  if (ratio > BOUND) process.exitCode = 1;
}
