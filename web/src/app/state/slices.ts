import type { Steps } from '@mule-tally/core';

/** Milliseconds after which the screen gets its turn. */
const SLICE = 12;

/** Lets the browser see to what waits: input, drawing. */
const turn = (): Promise<void> =>
  new Promise((resolve) => {
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => {
      port1.close();
      resolve();
    };
    port2.postMessage(undefined);
  });

/** Runs a job on the screen's own thread in short slices; undefined where it was left before its end. */
export async function inSlices<Result>(
  steps: Steps<Result, unknown>,
  isLeft: () => boolean = () => false,
): Promise<Result | undefined> {
  for (;;) {
    const end = performance.now() + SLICE;
    do {
      const step = steps.next();
      if (step.done) return step.value;
    } while (performance.now() < end);
    await turn();
    if (isLeft()) return undefined;
  }
}
