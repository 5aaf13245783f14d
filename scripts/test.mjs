// @ts-check
/**
 * Every check of the project, one after another, up to the first that fails. `npm test` runs all, `npm run test:core` one.
 * Installs what it needs, starts its own database in a folder of its own, and leaves nothing running.
 */
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { buildAll } from './build.mjs';
import { ROOT, run } from './lib/run.mjs';
import { Sentence, main, step } from './lib/steps.mjs';
import { ensureChromium, ensureNgspice, ensureNodePackages, ensurePostgres } from './lib/system.mjs';
import { startTestDatabase } from './lib/test-database.mjs';

const node = (/** @type {string[]} */ ...args) => ({ command: process.execPath, args });
const module = (/** @type {string} */ path, /** @type {string[]} */ ...args) =>
  node(join(ROOT, 'node_modules', path), ...args);
const jasmine = (/** @type {string} */ config) =>
  node('--import', 'tsx', 'node_modules/jasmine/bin/jasmine.js', `--config=${config}`);

/** One check that passes or fails as a whole. */
const whole = (/** @type {number} */ code) => ({ passed: code === 0 ? 1 : 0, failed: code === 0 ? 0 : 1 });

/** Counts of a run of specs, from what the runner printed. @param {string} output @param {number} code */
function specs(output, code) {
  // eslint-disable-next-line no-control-regex
  output = output.replace(/\u001b\[\d+m/g, '');
  const jasmineLine = /(\d+) specs?, (\d+) failures?/.exec(output);
  const karmaLine = [...output.matchAll(/Executed (\d+) of (\d+)(?: \((\d+) FAILED\))?/g)].at(-1);
  const playwright = (/** @type {string} */ word) =>
    Number(new RegExp(`(\\d+) ${word}`).exec(output)?.[1] ?? 0);
  let passed = 0;
  let failed = 0;
  if (jasmineLine)
    [passed, failed] = [Number(jasmineLine[1]) - Number(jasmineLine[2]), Number(jasmineLine[2])];
  else if (karmaLine)
    [passed, failed] = [Number(karmaLine[1]) - Number(karmaLine[3] ?? 0), Number(karmaLine[3] ?? 0)];
  else [passed, failed] = [playwright('passed'), playwright('failed')];
  // A runner that fails without a failed spec (a broken file, no spec at all) is a failure too.
  if ((code !== 0 || passed === 0) && failed === 0) failed = 1;
  return { passed, failed };
}

/** @typedef {{ command: string, args: string[], cwd?: string, env?: NodeJS.ProcessEnv }} Command */
/** @typedef {{ name: string, commands: Command[], count: typeof specs, needs?: 'database' | 'browser' | 'both' | 'ngspice' }} Part */

/** `--fast`: each property of the core looks at ten houses. For working, not for CI. */
const isFast = process.argv.includes('--fast');
const FAST_CHECK = pathToFileURL(join(ROOT, 'node_modules/fast-check/lib/fast-check.js')).href;
/** @param {Command} command @returns {Command} */
const inShort = ({ command, args }) => ({
  command,
  args: [
    '--import',
    `data:text/javascript,import * as fc from ${JSON.stringify(FAST_CHECK)}; fc.configureGlobal({ numRuns: 10 });`,
    ...args,
  ],
});

/** @type {Record<string, Part>} */
const PARTS = {
  lint: {
    name: 'lint',
    commands: [
      module('eslint/bin/eslint.js', '.', '--max-warnings=0'),
      module('prettier/bin/prettier.cjs', '--check', '--log-level=warn', '.'),
      module(
        'dependency-cruiser/bin/dependency-cruise.mjs',
        '--config=.dependency-cruiser.mjs',
        'core/src',
        'server/src',
        'web/src',
      ),
    ],
    count: (_output, code) => whole(code),
  },
  types: {
    name: 'types',
    commands: [
      'core/tsconfig.json',
      'core/tsconfig.spec.json',
      'server/tsconfig.json',
      'web/tsconfig.spec.json',
      'tsconfig.tools.json',
      'checks/with-database/tsconfig.json',
    ].map((project) => module('typescript/bin/tsc', '-p', project, '--noEmit')),
    count: (_output, code) => whole(code),
  },
  core: {
    name: 'core',
    commands: [isFast ? inShort(jasmine('core/jasmine.json')) : jasmine('core/jasmine.json')],
    count: specs,
  },
  outside: { name: 'outside', commands: [jasmine('checks/jasmine.json')], count: specs, needs: 'ngspice' },
  server: {
    name: 'server',
    commands: [jasmine('server/jasmine.json'), jasmine('checks/with-database/jasmine.json')],
    count: specs,
    needs: 'database',
  },
  web: {
    name: 'web',
    commands: [{ ...module('@angular/cli/bin/ng.js', 'test'), cwd: join(ROOT, 'web') }],
    count: specs,
    needs: 'browser',
  },
  e2e: {
    name: 'end to end',
    commands: [module('@playwright/test/cli.js', 'test', '-c', 'e2e/playwright.config.ts')],
    count: specs,
    needs: 'both',
  },
};

const totals = { passed: 0, failed: 0 };

/** @param {Part} part */
async function runPart(part) {
  console.log(`\n── ${part.name}`);
  const needs = (/** @type {string} */ what) => part.needs === what || part.needs === 'both';
  if (needs('browser')) await ensureChromium();
  if (needs('database')) await ensurePostgres();
  if (needs('ngspice')) await ensureNgspice();
  if (part.name === 'end to end') await buildAll();
  const cluster = part.name === 'server' ? await startTestDatabase() : undefined;
  try {
    for (const { command, args, cwd = ROOT, env } of part.commands) {
      const { code, output } = await run(command, args, {
        cwd,
        show: true,
        env: {
          ...process.env,
          NG_CLI_ANALYTICS: 'false',
          CHROME_BIN: '/usr/bin/chromium',
          ...(cluster && { TEST_DATABASE_URL: cluster.urls.owner, TEST_SERVING_URL: cluster.urls.serving }),
          ...env,
        },
      });
      const { passed, failed } = part.count(output, code);
      totals.passed += passed;
      totals.failed += failed;
      if (failed) return false;
    }
    return true;
  } finally {
    await cluster?.destroy();
  }
}

await main(async () => {
  const wanted = process.argv.slice(2).filter((name) => name !== '--fast');
  const unknown = wanted.find((name) => !PARTS[name]);
  if (unknown) throw new Sentence(`There is no part "${unknown}". Parts: ${Object.keys(PARTS).join(', ')}.`);
  console.log('Testing Mule Tally');
  await step('packages', ensureNodePackages);
  for (const [name, part] of Object.entries(PARTS)) {
    if (wanted.length && !wanted.includes(name)) continue;
    if (!(await runPart(part))) break;
  }
  console.log(`\n${totals.passed} passed, ${totals.failed} failed`);
  if (totals.failed) process.exitCode = 1;
});
