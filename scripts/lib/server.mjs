// @ts-check
import { spawn } from 'node:child_process';
import { delimiter, join } from 'node:path';
import { ROOT } from './run.mjs';
import { Sentence } from './steps.mjs';

/** Houses that are there on the first start, the one that is on top first. */
export const DEMO_HOUSES = ['lot-12', 'lot-3', 'plot-7'].map((lot) => join(ROOT, `demo/${lot}.house.json`));

/**
 * Starts the built server and waits until it answers.
 * @param {{ urls: { owner?: string | undefined, serving: string }, port: number, env?: NodeJS.ProcessEnv }} options
 */
export async function startServer({ urls, port, env = {} }) {
  const child = spawn(process.execPath, ['--enable-source-maps', join(ROOT, 'server/dist/main.js')], {
    cwd: ROOT,
    env: {
      ...process.env,
      NODE_ENV: 'production',
      DATABASE_URL: urls.serving,
      ...(urls.owner && { MIGRATION_DATABASE_URL: urls.owner }),
      PORT: String(port),
      WEB_FOLDER: join(ROOT, 'web/dist/browser'),
      DEMO_FILES: DEMO_HOUSES.join(delimiter),
      LOG_LEVEL: process.env['LOG_LEVEL'] ?? 'warn',
      ...env,
    },
    stdio: ['ignore', 'inherit', 'pipe', 'ipc'],
  });
  let said = '';
  child.stderr?.on('data', (chunk) => {
    said = (said + chunk).slice(-4000);
    process.stderr.write(chunk);
  });
  /** @type {Promise<number>} */
  const ended = new Promise((resolve) => child.on('exit', (code) => resolve(code ?? 1)));
  /** @type {{ ready?: boolean, demo?: string, setUp?: string }} */
  const first = await Promise.race([
    new Promise((/** @type {(message: any) => void} */ resolve) => child.once('message', resolve)),
    ended.then(() => ({})),
  ]);
  if (!first.ready) {
    const reason = /ECONNREFUSED|password|database .* does not exist/.exec(said)?.[0];
    throw new Sentence(
      reason
        ? `The server cannot use the database (${reason}). Is DATABASE_URL right?`
        : 'The server stopped while starting; the reason stands above.',
    );
  }
  return {
    demo: first.demo,
    setUp: first.setUp,
    child,
    ended,
    async stop() {
      if (child.exitCode === null) child.kill('SIGTERM');
      await ended;
    },
  };
}
