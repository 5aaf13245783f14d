/**
 * A job that stops after each of its steps, so that whoever runs it can see to something else, and can leave it. What it yields
 * tells how far it has come.
 */
export type Steps<Result, Told = void> = Generator<Told, Result>;

/** All of a job at once. */
export function finish<Result>(steps: Steps<Result, unknown>): Result {
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}
