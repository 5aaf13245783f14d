import { HttpProblem } from '../api/problem.js';

/** Requests that may wait for one document. */
const WAITING = 200;
/** Changes that share one transaction. */
const TOGETHER = 64;

interface Waiting<Item, Answer> {
  readonly items: readonly Item[];
  readonly isGone: () => boolean;
  readonly resolve: (answers: Answer[]) => void;
  readonly reject: (error: unknown) => void;
}

/** That a document is busy, said truly: nothing is known to be lost, and the same may be sent again. */
const isBusy = (noun: string): HttpProblem =>
  new HttpProblem(
    503,
    `${noun}.busy`,
    `This ${noun} is busy. What you entered is kept; it is sent again in a moment.`,
    { retryAfter: 2 },
  );

/**
 * One at a time for each document, so that a house that is held up holds up no other. What has gathered meanwhile is done
 * together, as long as somebody still waits for it.
 */
export class Queues<Item, Answer> {
  private readonly queues = new Map<string, Waiting<Item, Answer>[]>();

  constructor(
    private readonly noun: string,
    private readonly work: (name: string, items: readonly Item[]) => Promise<Answer[]>,
  ) {}

  /** Answers come in the order of the items, after all of them have been written. */
  add(name: string, items: readonly Item[], isGone: () => boolean = () => false): Promise<Answer[]> {
    const queue = this.queues.get(name);
    if (queue && queue.length >= WAITING) return Promise.reject(isBusy(this.noun));
    return new Promise((resolve, reject) => {
      const waiting = { items, isGone, resolve, reject };
      if (queue) queue.push(waiting);
      else {
        this.queues.set(name, [waiting]);
        void this.run(name);
      }
    });
  }

  private async run(name: string): Promise<void> {
    const queue = this.queues.get(name)!;
    while (queue.length) {
      const together: Waiting<Item, Answer>[] = [];
      let count = 0;
      while (queue.length && (together.length === 0 || count + queue[0]!.items.length <= TOGETHER)) {
        const next = queue.shift()!;
        // Nobody waits for it any more: it has not been begun, and will be sent again.
        if (next.isGone()) {
          next.reject(isBusy(this.noun));
          continue;
        }
        together.push(next);
        count += next.items.length;
      }
      if (together.length === 0) continue;
      try {
        const answers = await this.work(
          name,
          together.flatMap(({ items }) => items),
        );
        let at = 0;
        for (const { items, resolve } of together) resolve(answers.slice(at, (at += items.length)));
      } catch (error) {
        for (const { reject } of together) reject(error);
      }
    }
    this.queues.delete(name);
  }
}
