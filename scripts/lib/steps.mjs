// @ts-check
/** One clear sentence for the person at the keyboard; never a stack trace. */
export class Sentence extends Error {}

const seconds = (/** @type {number} */ since) => `${((performance.now() - since) / 1000).toFixed(1)} s`;

/**
 * Runs one step and says what was done and how long it took.
 * @template T
 * @param {string} name
 * @param {() => Promise<T> | T} work
 * @returns {Promise<T>}
 */
export async function step(name, work) {
  const since = performance.now();
  const result = await work();
  console.log(`  ${name}${typeof result === 'string' && result ? `: ${result}` : ''} (${seconds(since)})`);
  return result;
}

/** Runs the program of a script: sentences are printed alone, anything else with its trace. */
export async function main(/** @type {() => Promise<void>} */ program) {
  try {
    await program();
  } catch (error) {
    console.error(error instanceof Sentence ? `\n${error.message}` : error);
    process.exitCode = 1;
  }
}
