// @ts-check
import { buildAll } from './build.mjs';
import { run } from './lib/run.mjs';
import { Sentence, main, step } from './lib/steps.mjs';
import { ensureChromium, ensureNgspice, ensureNodePackages, ensurePostgres } from './lib/system.mjs';

await main(async () => {
  await step('packages', ensureNodePackages);
  await ensurePostgres();
  await ensureNgspice();
  await ensureChromium();
  await buildAll();
  for (const name of ['derive', 'prove', 'change-over-http', 'main-loop', 'lever-on-screen']) {
    console.log(`\n── ${name}`);
    const { code } = await run(process.execPath, ['--import', 'tsx', `bench/${name}.ts`], { show: true });
    if (code !== 0) throw new Sentence(`The bench "${name}" broke its bound or failed.`);
  }
});
