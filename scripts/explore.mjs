// @ts-check
/** The core's properties over other random houses, with a new seed each time, until one fails or the rounds are over. */
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { ROOT, run } from './lib/run.mjs';
import { Sentence, main } from './lib/steps.mjs';
import { ensureNodePackages } from './lib/system.mjs';

const FAST_CHECK = pathToFileURL(join(ROOT, 'node_modules/fast-check/lib/fast-check.js')).href;
const rounds = Number(process.argv[2] ?? 5);

await main(async () => {
  await ensureNodePackages();
  for (let round = 1; round <= rounds; round++) {
    const seed = Math.floor(Math.random() * 2 ** 31);
    console.log(`\n── round ${round} of ${rounds}, seed ${seed}`);
    const preload = `data:text/javascript,import * as fc from ${JSON.stringify(FAST_CHECK)}; fc.configureGlobal({ seed: ${seed} });`;
    const { code } = await run(
      process.execPath,
      [
        '--import',
        'tsx',
        '--import',
        preload,
        'node_modules/jasmine/bin/jasmine.js',
        '--config=core/jasmine.json',
      ],
      { show: true },
    );
    if (code !== 0)
      throw new Sentence(`Seed ${seed} fails. Put it into core/src/testing/seed.ts to look closer.`);
  }
});
