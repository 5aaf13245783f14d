// @ts-check
import { buildAll } from './build.mjs';
import { run } from './lib/run.mjs';
import { Sentence, main, step } from './lib/steps.mjs';
import { ensureNodePackages, ensurePostgres } from './lib/system.mjs';

await main(async () => {
  await step('packages', ensureNodePackages);
  await ensurePostgres();
  await buildAll();
  for (const name of ['derive', 'change-over-http']) {
    console.log(`\n── ${name}`);
    const { code } = await run(process.execPath, ['--import', 'tsx', `bench/${name}.ts`], { show: true });
    if (code !== 0) throw new Sentence(`The bench "${name}" broke its bound or failed.`);
  }
});
