// @ts-check
import { join, resolve } from 'node:path';
import { buildAll } from '../build.mjs';
import { Cluster } from './database.mjs';
import { StartLock } from './lock.mjs';
import { ROOT } from './run.mjs';
import { startServer } from './server.mjs';
import { servingRole } from './serving-role.mjs';
import { Sentence, step } from './steps.mjs';
import { ensureNodePackages, ensurePostgres, portIsFree } from './system.mjs';

/** A server may end by itself so often within a minute. */
const RESTARTS = 5;

/** Waits a little: a server whose start was killed notices that and leaves. @param {number} port */
async function waitForPort(port) {
  for (let tries = 0; tries < 20; tries++) {
    if (await portIsFree(port)) return;
    await new Promise((resolve) => setTimeout(resolve, 250));
  }
  throw new Sentence(`Port ${port} is in use. Stop what uses it, or choose another: PORT=4320 npm start`);
}

/** Where a data folder is: the database, the passwords, the certificates. */
export const dataFolder = () => resolve(process.env['DATA_FOLDER'] ?? join(ROOT, '.mule-tally'));

/**
 * Starts database and server, watches over both, and stops them with this process. `site` serves phones on the local network.
 * @param {{ host: string, env: NodeJS.ProcessEnv, told: (urls: { owner: string }) => Promise<void>, daily: () => Promise<void> }} [site]
 */
export async function serve(site) {
  const since = performance.now();
  const port = Number(process.env['PORT'] ?? 4310);
  if (!Number.isInteger(port) || port < 1 || port > 65535)
    throw new Sentence(`PORT must be a number from 1 to 65535, not "${process.env['PORT']}".`);
  console.log(site ? 'Starting Mule Tally for phones on this network' : 'Starting Mule Tally');
  await waitForPort(port);
  await step('packages', ensureNodePackages);
  await buildAll();
  const folder = dataFolder();
  const own = process.env['DATABASE_URL']
    ? undefined
    : new Cluster({
        folder,
        port: Number(process.env['DB_PORT'] ?? 54310),
      });
  /** @type {Awaited<ReturnType<typeof startServer>> | undefined} */
  let server;
  /** @type {NodeJS.Timeout | undefined} */
  let daily;
  let stopping = false;
  const lock = own && new StartLock(own.wantedFolder);
  const holder = lock?.take();
  if (holder)
    throw new Sentence(
      `Mule Tally runs on this data folder already (process ${holder}). Stop that one first, or use another folder: DATA_FOLDER=… npm start`,
    );
  const stop = async () => {
    if (stopping) return;
    stopping = true;
    console.log('\nStopping');
    if (server) await step('server', () => server?.stop());
    if (own) await step('database', () => own.stop());
    lock?.release();
  };
  const onSignal = () => void stop().then(() => process.exit(0));
  process.on('SIGINT', onSignal);
  process.on('SIGTERM', onSignal);
  process.on('SIGHUP', onSignal);
  try {
    if (own) {
      await step('PostgreSQL', () => ensurePostgres());
      await step('database', () => own.start());
    } else console.log('  database: the one of DATABASE_URL');
    const urls = own ? own.urls : await given(String(process.env['DATABASE_URL']), folder);
    const started = await step('server, migrations', () => startServer({ urls, port, env: site?.env }));
    server = started;
    if (started.demo) console.log(`  demo houses loaded: ${started.demo}`);
    if (started.setUp && !site)
      console.log(
        `  no crew yet: whoever opens this machine works as a demo person. To set yours up, once:\n    http://127.0.0.1:${port}/set-up#${started.setUp}`,
      );
    await site?.told(urls);
    const address = site ? '' : ` Open http://127.0.0.1:${port}/`;
    console.log(
      `\nReady after ${((performance.now() - since) / 1000).toFixed(1)} s.${address}  (Ctrl-C stops)`,
    );
    daily =
      site && setInterval(() => void site.daily().catch((error) => console.error(error.message)), 86_400_000);
    const watch = own && watchDatabase(own, () => stopping);
    for (const ends = []; !stopping;) {
      const code = await server.ended;
      if (stopping) break;
      const now = performance.now();
      ends.push(now);
      if (ends.filter((end) => now - end < 60_000).length > RESTARTS)
        throw new Sentence('The server ended by itself again and again. Its last words stand above.');
      console.log(`\nThe server ended by itself (code ${code}) and is started again.`);
      // Its database may be on its way back: a few tries.
      for (let tries = 1; !stopping; tries++) {
        try {
          server = await step('server', () => startServer({ urls, port, env: site?.env }));
          break;
        } catch (error) {
          if (tries >= 5) throw error;
          await new Promise((resolve) => setTimeout(resolve, 2000));
        }
      }
    }
    clearInterval(watch);
    clearInterval(daily);
  } finally {
    await stop();
  }
}

/**
 * A database that is there already: as the role that it is told to serve as, or as one that is made by its owner.
 * @param {string} databaseUrl @param {string} folder
 */
async function given(databaseUrl, folder) {
  const owner = process.env['MIGRATION_DATABASE_URL'];
  return owner
    ? { owner, serving: databaseUrl }
    : { owner: databaseUrl, serving: await servingRole(databaseUrl, folder) };
}

/** Starts the database again when it is gone, and says so. @param {Cluster} own @param {() => boolean} isStopping */
function watchDatabase(own, isStopping) {
  let busy = false;
  return setInterval(async () => {
    if (busy || isStopping() || own.pid !== undefined) return;
    busy = true;
    try {
      console.log('\nThe database is gone and is started again.');
      await step('database', () => own.start());
    } catch (error) {
      console.error(error instanceof Sentence ? error.message : error);
    } finally {
      busy = false;
    }
  }, 1500);
}
