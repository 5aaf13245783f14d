// @ts-check
import { join } from 'node:path';
import { buildAll } from './build.mjs';
import { ROOT, run } from './lib/run.mjs';
import { main, step } from './lib/steps.mjs';
import { ensureNodePackages, ensurePostgres } from './lib/system.mjs';

/** Random inputs to a server of their own; see fuzz.ts. */
await main(async () => {
  await step('packages', ensureNodePackages);
  await step('PostgreSQL', () => ensurePostgres());
  await buildAll();
  const { code } = await run(process.execPath, ['--import', 'tsx', join(ROOT, 'scripts/fuzz.ts')], {
    show: true,
  });
  process.exitCode = code;
});
