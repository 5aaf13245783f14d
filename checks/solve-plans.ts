/**
 * Solves the kept instances of planning pulls anew with HiGHS, and writes what the best plan costs and how long it took:
 *
 *     npx tsx checks/solve-plans.ts
 *
 * Each is solved in a process of its own (`npx tsx checks/solve-plans.ts <seed> <boxes>`): what it takes is given back.
 */
import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import loadHighs from 'highs';
import { circuitToPlan } from '../core/src/testing/circuit-to-plan.js';
import { modelOf, solvedBy } from './plan-model.js';

export const KEPT = 'checks/kept/plans.json';
/** Seeds and boxes: 20 instances of five to seven boxes. */
export const INSTANCES: readonly (readonly [seed: number, boxes: number])[] = [
  ...Array.from({ length: 8 }, (_, at) => [300 + at, 5] as const),
  ...Array.from({ length: 7 }, (_, at) => [at === 5 ? 407 : 400 + at, 6] as const),
  ...Array.from({ length: 5 }, (_, at) => [500 + at, 7] as const),
];

const [seed, boxes] = process.argv.slice(2).map(Number);
if (seed !== undefined && boxes !== undefined) {
  const model = modelOf(circuitToPlan(seed, boxes));
  const highs = await loadHighs();
  const start = performance.now();
  const cost = solvedBy(highs, model);
  const seconds = (performance.now() - start) / 1000;
  console.log(JSON.stringify({ seed, boxes, hash: model.hash, cost, seconds: Number(seconds.toFixed(1)) }));
} else {
  const solved = INSTANCES.map((instance) => {
    const line = execFileSync(
      process.execPath,
      ['--import', 'tsx', 'checks/solve-plans.ts', ...instance.map(String)],
      {
        encoding: 'utf8',
        timeout: 600_000,
      },
    );
    console.log(line.trim());
    return JSON.parse(line) as unknown;
  });
  writeFileSync(KEPT, `${JSON.stringify(solved, undefined, 1)}\n`);
}
