// @ts-check
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Cluster } from './database.mjs';
import { anyFreePort } from './system.mjs';

/** A database for one run of the tests, in a folder of its own that goes with it. */
export async function startTestDatabase() {
  const folder = join(mkdtempSync(join(tmpdir(), 'mule-tally-test-')), 'db');
  const { chmodSync, mkdirSync } = await import('node:fs');
  mkdirSync(folder);
  chmodSync(join(folder, '..'), 0o755);
  const cluster = new Cluster({ folder, port: await anyFreePort(), forTests: true });
  await cluster.start();
  return cluster;
}
