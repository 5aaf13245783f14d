// @ts-check
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { ROOT, lastLines, run } from './run.mjs';
import { Sentence } from './steps.mjs';

export const isRoot = () => process.getuid?.() === 0;

/** How to become root without asking: nothing to do, sudo, or not at all. */
async function rootPrefix() {
  if (isRoot()) return [];
  return (await run('sudo', ['-n', 'true'])).code === 0 ? ['sudo', '-n'] : undefined;
}

/**
 * Installs Debian packages. Throws a sentence that says what to install when it cannot.
 * @param {string} why
 * @param {string[]} packages
 */
export async function installPackages(why, packages) {
  const prefix = await rootPrefix();
  const ask = `${why} Please install it as root: apt-get install -y --no-install-recommends ${packages.join(' ')}`;
  if (!prefix || !existsSync('/usr/bin/apt-get')) throw new Sentence(ask);
  const apt = async (/** @type {string[]} */ ...args) => {
    const [command, ...rest] = [...prefix, 'apt-get', ...args];
    return run(/** @type {string} */ (command), rest, {
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    });
  };
  await apt('update', '-qq');
  const { code, output } = await apt('install', '-y', '-qq', '--no-install-recommends', ...packages);
  if (code !== 0) throw new Sentence(`${ask} (apt-get said: ${lastLines(output, 1)})`);
  return packages.join(', ');
}

/** Folder of the newest PostgreSQL server on this machine. */
function postgresBin() {
  const base = '/usr/lib/postgresql';
  const versions = existsSync(base) ? readdirSync(base).map(Number).filter(Boolean) : [];
  for (const version of versions.sort((a, b) => b - a)) {
    const bin = join(base, String(version), 'bin');
    if (existsSync(join(bin, 'initdb')) && existsSync(join(bin, 'postgres'))) return bin;
  }
  return undefined;
}

export async function ensurePostgres() {
  if (!postgresBin()) await installPackages('Mule Tally needs a PostgreSQL server.', ['postgresql']);
  const bin = postgresBin();
  if (!bin)
    throw new Sentence('PostgreSQL was installed, but no server was found under /usr/lib/postgresql.');
  return bin;
}

export async function ensureChromium() {
  if (!existsSync('/usr/bin/chromium')) {
    await installPackages('The tests need Debian’s Chromium.', ['chromium']);
  }
  return '/usr/bin/chromium';
}

/** The independent simulator that the exported netlists are checked against. */
export async function ensureNgspice() {
  if (!existsSync('/usr/bin/ngspice'))
    await installPackages('The tests need the circuit simulator ngspice.', ['ngspice']);
}

/** Whether node_modules is what the lock file asks for. */
function packagesAreInstalled() {
  const installed = join(ROOT, 'node_modules/.package-lock.json');
  if (!existsSync(installed)) return false;
  const wanted = JSON.parse(readFileSync(join(ROOT, 'package-lock.json'), 'utf8')).packages;
  const have = JSON.parse(readFileSync(installed, 'utf8')).packages;
  return Object.entries(wanted).every(
    ([path, entry]) =>
      !path.startsWith('node_modules/') ||
      entry.optional ||
      entry.link ||
      (have[path] && have[path].version === entry.version),
  );
}

export async function ensureNodePackages() {
  const major = Number(process.versions.node.split('.')[0]);
  if (major < 20) throw new Sentence(`Mule Tally needs Node.js 20 or newer; this is ${process.version}.`);
  if (packagesAreInstalled()) return 'already there';
  const { code, output } = await run('npm', ['ci', '--no-audit', '--no-fund']);
  if (code !== 0) throw new Sentence(`npm ci failed: ${lastLines(output)}`);
  return 'npm ci';
}

/** Whether something can listen on this port of 127.0.0.1. */
export const portIsFree = (/** @type {number} */ port) =>
  new Promise((/** @type {(free: boolean) => void} */ resolve) => {
    const probe = createServer();
    probe.once('error', () => resolve(false));
    probe.listen({ port, host: '127.0.0.1' }, () => probe.close(() => resolve(true)));
  });

/** A port that was free a moment ago. */
export const anyFreePort = () =>
  new Promise((/** @type {(port: number) => void} */ resolve, reject) => {
    const probe = createServer();
    probe.once('error', reject);
    probe.listen({ port: 0, host: '127.0.0.1' }, () => {
      const address = probe.address();
      probe.close(() => resolve(typeof address === 'object' && address ? address.port : 0));
    });
  });
