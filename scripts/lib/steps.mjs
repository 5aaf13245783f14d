// @ts-check
/** One clear sentence for the person at the keyboard; never a stack trace. */
export class Sentence extends Error {}

const seconds = (/** @type {number} */ since) => `${((performance.now() - since) / 1000).toFixed(1)} s`;

/**
 * Runs one step: says what it is before it begins, shows that it goes on, then what was done and how long it took.
 * @template T
 * @param {string} name
 * @param {() => Promise<T> | T} work
 * @returns {Promise<T>}
 */
export async function step(name, work) {
  const since = performance.now();
  process.stdout.write(`  ${name} …`);
  // Whoever waits sees that it goes on.
  const dots = setInterval(() => process.stdout.write('.'), 2000);
  try {
    const result = await work();
    console.log(`${typeof result === 'string' && result ? ` ${result}` : ''} (${seconds(since)})`);
    return result;
  } catch (error) {
    console.log(' not done');
    throw error;
  } finally {
    clearInterval(dots);
  }
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
