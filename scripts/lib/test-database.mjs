// @ts-check
import { chmodSync, mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Cluster } from './database.mjs';
import { anyFreePort } from './system.mjs';

/** A database for one run of the tests, in a folder of its own that goes with it. */
export async function startTestDatabase() {
  const parent = mkdtempSync(join(tmpdir(), 'mule-tally-test-'));
  const folder = join(parent, 'db');
  mkdirSync(folder);
  chmodSync(parent, 0o755);
  const cluster = new Cluster({ folder, port: await anyFreePort(), forTests: true });
  await cluster.start();
  const destroy = cluster.destroy.bind(cluster);
  cluster.destroy = async () => {
    await destroy();
    rmSync(parent, { recursive: true, force: true });
  };
  return cluster;
}
