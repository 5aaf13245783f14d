// @ts-check
import { buildAll, buildBench } from './build.mjs';
import { run } from './lib/run.mjs';
import { Sentence, main, step } from './lib/steps.mjs';
import { ensureChromium, ensureNgspice, ensureNodePackages, ensurePostgres } from './lib/system.mjs';

/** Benches of the core by itself. */
const CORE = ['derive', 'prove', 'draft', 'routes', 'plan-pulls'];

await main(async () => {
  await step('packages', ensureNodePackages);
  await ensurePostgres();
  await ensureNgspice();
  await ensureChromium();
  await buildAll();
  for (const name of [
    'derive',
    'prove',
    'draft',
    'routes',
    'plan-pulls',
    'change-over-http',
    'main-loop',
    'lever-on-screen',
    'screen-tasks',
    'live',
  ]) {
    console.log(`\n── ${name}`);
    // What measures the core measures it as it ships; the others start the built server.
    const args = CORE.includes(name) ? [await buildBench(name)] : ['--import', 'tsx', `bench/${name}.ts`];
    const { code } = await run(process.execPath, args, { show: true });
    if (code !== 0) throw new Sentence(`The bench "${name}" broke its bound or failed.`);
  }
});
