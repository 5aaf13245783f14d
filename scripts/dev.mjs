// @ts-check
/** Hot reload: the database and the API, rebuilt when core or server change, and the web app's development server. */
import { spawn } from 'node:child_process';
import { delimiter, join } from 'node:path';
import { Cluster } from './lib/database.mjs';
import { ROOT } from './lib/run.mjs';
import { DEMO_HOUSES } from './lib/server.mjs';
import { main, step } from './lib/steps.mjs';
import { ensureNodePackages } from './lib/system.mjs';

await main(async () => {
  await step('packages', ensureNodePackages);
  const own = new Cluster({
    folder: join(ROOT, '.mule-tally'),
    port: Number(process.env['DB_PORT'] ?? 54310),
  });
  await step('database', () => own.start());
  const env = {
    ...process.env,
    DATABASE_URL: own.urls.serving,
    MIGRATION_DATABASE_URL: own.urls.owner,
    PORT: '4310',
    DEMO_FILES: DEMO_HOUSES.join(delimiter),
    NG_CLI_ANALYTICS: 'false',
  };
  const children = [
    spawn(process.execPath, ['--import', 'tsx', '--watch', 'server/src/main.ts'], {
      cwd: ROOT,
      env,
      stdio: 'inherit',
    }),
    spawn(process.execPath, [join(ROOT, 'node_modules/@angular/cli/bin/ng.js'), 'serve', '--port', '4311'], {
      cwd: join(ROOT, 'web'),
      env,
      stdio: 'inherit',
    }),
  ];
  console.log('\nWeb with hot reload: http://127.0.0.1:4311/  (Ctrl-C stops)');
  const stop = async () => {
    for (const child of children) child.kill('SIGTERM');
    await own.stop();
    process.exit(0);
  };
  process.on('SIGINT', () => void stop());
  process.on('SIGTERM', () => void stop());
});
