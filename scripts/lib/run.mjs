// @ts-check
import { spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';

export const ROOT = fileURLToPath(new URL('../../', import.meta.url));

/**
 * Runs a command to its end. Gives its exit code and what it printed; `show` also lets it print.
 * @param {string} command
 * @param {string[]} args
 * @param {{ cwd?: string, env?: NodeJS.ProcessEnv, show?: boolean, input?: string }} [options]
 * @returns {Promise<{ code: number, output: string }>}
 */
export function run(command, args, { cwd = ROOT, env = process.env, show = false } = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, args, { cwd, env, stdio: ['ignore', 'pipe', 'pipe'] });
    let output = '';
    const take = (/** @type {Buffer} */ chunk) => {
      output += chunk.toString();
      if (show) process.stdout.write(chunk);
    };
    child.stdout.on('data', take);
    child.stderr.on('data', take);
    child.on('error', (error) => resolve({ code: 127, output: String(error.message) }));
    child.on('close', (code) => resolve({ code: code ?? 1, output }));
  });
}

/** The last lines of an output, for a sentence. */
export const lastLines = (/** @type {string} */ output, lines = 3) =>
  output.trim().split('\n').slice(-lines).join(' / ');
