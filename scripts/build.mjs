// @ts-check
import { createHash } from 'node:crypto';
import { gzipSync } from 'node:zlib';
import {
  cpSync,
  existsSync,
  mkdirSync,
  readFileSync,
  readdirSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { dirname, join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { ROOT, lastLines, run } from './lib/run.mjs';
import { Sentence, main, step } from './lib/steps.mjs';

const INPUTS = {
  server: ['core/src', 'server/src', 'package-lock.json', 'scripts/build.mjs'],
  web: [
    'core/src',
    'web/src',
    'web/public',
    'web/ngsw-config.json',
    'web/angular.json',
    'web/tsconfig.app.json',
    'package-lock.json',
  ],
};

/** What the first visit may cost in JavaScript, gzipped: the page's own scripts and all that they load at once. */
const INITIAL_GZIPPED = 250_000;

/** Bytes of JavaScript, gzipped, that the built page loads before anybody has touched anything. */
function initialScriptBytes() {
  const folder = join(ROOT, 'web/dist/browser');
  const page = readFileSync(join(folder, 'index.html'), 'utf8');
  const waiting = [...page.matchAll(/(?:src|href)="([^"]+\.js)"/g)].map(([, name]) => String(name));
  const seen = new Set(waiting);
  let bytes = 0;
  for (let name = waiting.pop(); name !== undefined; name = waiting.pop()) {
    const code = readFileSync(join(folder, name));
    bytes += gzipSync(code).length;
    // Static imports only: import("…") is loaded when it is asked for. Only the first file asks for all it names at once: the
    // app, and the language of whoever works here.
    const asked = name.startsWith('main')
      ? /(?:from|import)\s*\(?"\.\/([^"]+\.js)"/g
      : /(?:from|import)\s*"\.\/([^"]+\.js)"/g;
    for (const [, next] of code.toString().matchAll(asked)) {
      if (next && !seen.has(next)) waiting.push(next);
      if (next) seen.add(next);
    }
  }
  return bytes;
}

/** One number for the content of files and folders. @param {string[]} paths */
function contentHash(paths) {
  const hash = createHash('sha256');
  /** @param {string} path */
  const add = (path) => {
    const full = join(ROOT, path);
    if (!existsSync(full)) return;
    if (statSync(full).isDirectory()) {
      for (const name of readdirSync(full).sort()) if (!name.endsWith('.spec.ts')) add(join(path, name));
    } else hash.update(path).update(readFileSync(full));
  };
  paths.forEach(add);
  return hash.digest('hex');
}

/**
 * The parts of the PDF reader that it fetches by address when a file needs them, put where the web app serves them from: its
 * worker, decoders of scans, fonts and character maps that a file does not bring along.
 */
function layOutPdfReader() {
  const [from, to] = [join(ROOT, 'node_modules/pdfjs-dist'), join(ROOT, 'web/public/pdf')];
  rmSync(to, { recursive: true, force: true });
  mkdirSync(to, { recursive: true });
  for (const folder of ['wasm', 'standard_fonts', 'cmaps'])
    cpSync(join(from, folder), join(to, folder), { recursive: true });
  cpSync(join(from, 'legacy/build/pdf.worker.min.mjs'), join(to, 'pdf.worker.min.mjs'));
}

/** Builds one part when its sources differ from those of the last build. @param {'server' | 'web'} part */
async function buildWhenStale(part) {
  const stamp = join(ROOT, part, 'dist/.built-from');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === contentHash(INPUTS[part])) return 'up to date';
  // Only here: what is served from it stays whole while two are started at once.
  if (part === 'web') layOutPdfReader();
  const hash = contentHash(INPUTS[part]);
  if (part === 'server') await buildServer();
  else {
    const ng = join(ROOT, 'node_modules/@angular/cli/bin/ng.js');
    const env = { ...process.env, NG_CLI_ANALYTICS: 'false' };
    const { code, output } = await run(process.execPath, [ng, 'build'], { cwd: join(ROOT, 'web'), env });
    if (code !== 0)
      throw new Sentence(`The web app could not be built:\n${lastLines(output, 30).replaceAll(' / ', '\n')}`);
    const bytes = initialScriptBytes();
    if (bytes > INITIAL_GZIPPED)
      throw new Sentence(
        `The web app's first scripts are ${bytes} bytes gzipped; at most ${INITIAL_GZIPPED} are allowed.`,
      );
  }
  mkdirSync(dirname(stamp), { recursive: true });
  writeFileSync(stamp, hash);
  return 'built';
}

/**
 * One file each, with the packages of the registry left outside. Names are not kept by extra calls: those cost the derivation
 * about a sixth of its time.
 * @param {Record<string, string>} entryPoints @param {string} outdir
 */
async function bundle(entryPoints, outdir) {
  const { build } = await import('esbuild');
  await build({
    entryPoints,
    outdir,
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    sourcemap: true,
    logLevel: 'error',
    plugins: [
      {
        name: 'packages-stay-outside',
        setup(builder) {
          builder.onResolve({ filter: /^[^./]/ }, ({ path, kind }) =>
            kind === 'entry-point' || path.startsWith('@mule-tally/') ? undefined : { path, external: true },
          );
        },
      },
    ],
  });
}

const buildServer = () =>
  bundle(
    {
      main: join(ROOT, 'server/src/main.ts'),
      'heavy-worker': join(ROOT, 'server/src/work/heavy-worker.ts'),
    },
    join(ROOT, 'server/dist'),
  );

/** A bench of the core, built as the server is. @param {string} name */
export async function buildBench(name) {
  await bundle({ [name]: join(ROOT, `bench/${name}.ts`) }, join(ROOT, 'dist'));
  return join(ROOT, `dist/${name}.js`);
}

export async function buildAll() {
  await step('server', () => buildWhenStale('server'));
  await step('web app', () => buildWhenStale('web'));
}

if (process.argv[1] && import.meta.url === pathToFileURL(process.argv[1]).href) await main(buildAll);
