/**
 * `npm run fuzz`: a server and a database of their own, and random inputs to them: 200,000 unless INPUTS says otherwise. On
 * loopback, bounded, ends by itself. SEED gives the same run again. Fails on an answer of 500, a crash, or one slower than 2 s.
 */
import { readFileSync } from 'node:fs';
import type { HouseFile } from '../core/src/house/house-file.js';
import { fuzz } from '../server/src/testing/fuzz.js';
import { startServer } from './lib/server.mjs';
import { anyFreePort } from './lib/system.mjs';
import { startTestDatabase } from './lib/test-database.mjs';

const inputs = Number(process.env['INPUTS'] ?? 200_000);
const seed = Number(process.env['SEED'] ?? Date.now() % 2 ** 31);
const demo = JSON.parse(
  readFileSync(new URL('../demo/lot-12.house.json', import.meta.url), 'utf8'),
) as HouseFile;
const cluster = await startTestDatabase();
try {
  const port = await anyFreePort();
  const server = await startServer({ urls: cluster.urls, port });
  const since = performance.now();
  const report = await fuzz(`http://127.0.0.1:${port}`, demo, inputs, seed, 2000);
  const isAlive = server.child.exitCode === null;
  await server.stop();
  console.log(
    `seed ${seed}: ${report.inputs} inputs in ${report.requests} requests, ${((performance.now() - since) / 1000).toFixed(0)} s`,
  );
  console.log(
    `  ${report.applied} changes applied; answers ${JSON.stringify(report.statuses)}; slowest ${report.slowest.toFixed(0)} ms`,
  );
  for (const wrong of report.wrong) console.error(`  WRONG ${wrong}`);
  if (report.wrong.length || !isAlive) process.exitCode = 1;
} finally {
  await cluster.destroy();
}
