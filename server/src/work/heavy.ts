import type { WorkerOptions } from 'node:worker_threads';
import { Worker } from 'node:worker_threads';
import { HttpProblem } from '../api/problem.js';
import type { Key } from '../documents/shelf.js';
import type { Job } from './job.js';

/** Large requests at once; those that only read wait for their turn, so many of them. */
const AT_ONCE = 2;
const WAITING = 20;
/** How long reading may take, and all of it; milliseconds. */
const READING = 5000;
const WHOLE = 60_000;
const MEGABYTES = 512;

export interface HeavyAnswer {
  readonly status: number;
  /** JSON, in UTF-8. */
  readonly text: Uint8Array;
  readonly name?: string;
  readonly epoch: string;
}

type Message =
  | 'ready'
  | 'read'
  | HeavyAnswer
  | { readonly written: Key; readonly seq: number }
  | { readonly problem: { status: number; code: string; detail: string; more: Record<string, unknown> } };

const tooHeavy = (): HttpProblem =>
  new HttpProblem(
    503,
    'request.too-heavy',
    'Reading this took too long or too much memory. Nothing of it was taken in.',
    {
      retryAfter: 5,
    },
  );

/** The worker as it was built; run from its source (in the specs) it is loaded as the rest is. */
function workerOf(options: WorkerOptions): Worker {
  if (!import.meta.url.endsWith('.ts'))
    return new Worker(new URL('./heavy-worker.js', import.meta.url), options);
  const source = JSON.stringify(new URL('./heavy-worker.ts', import.meta.url).href);
  const load = `import('tsx/esm/api').then(({ tsImport }) => tsImport(${source}, ${source}))`;
  return new Worker(load, { ...options, eval: true });
}

/** Large requests, each in a worker of its own with limits on its time and its memory. */
export class HeavyWork {
  private running = 0;

  constructor(
    private readonly databaseUrl: string,
    private readonly onWritten: (key: Key, seq: number) => void,
  ) {}

  private readonly waiting: (() => void)[] = [];

  async run(job: Job, body: Uint8Array = new Uint8Array()): Promise<HeavyAnswer> {
    const canWait = job.kind === 'read' || job.kind === 'file';
    if (this.running >= AT_ONCE && canWait && this.waiting.length < WAITING)
      await new Promise<void>((resolve) => this.waiting.push(resolve));
    else if (this.running >= AT_ONCE)
      throw new HttpProblem(
        503,
        'server.busy',
        'The server is reading other large files. Try again in a moment.',
        {
          retryAfter: 3,
        },
      );
    this.running++;
    try {
      return await this.inWorker(job, body);
    } finally {
      this.running--;
      this.waiting.shift()?.();
    }
  }

  private inWorker(job: Job, body: Uint8Array): Promise<HeavyAnswer> {
    // A copy of its own, so that the bytes themselves go over and nothing of the request's buffer does.
    const bytes = new Uint8Array(body);
    const worker = workerOf({
      workerData: { job, bytes, databaseUrl: this.databaseUrl },
      transferList: [bytes.buffer],
      resourceLimits: { maxOldGenerationSizeMb: MEGABYTES },
    });
    return new Promise((resolve, reject) => {
      // Reading is timed from when the worker is there, however long its start takes.
      let timer = setTimeout(() => stop(tooHeavy()), WHOLE);
      const stop = (error: unknown): void => {
        clearTimeout(timer);
        reject(error);
        void worker.terminate();
      };
      worker.on('message', (message: Message) => {
        if (typeof message === 'object' && 'written' in message)
          return this.onWritten(message.written, message.seq);
        clearTimeout(timer);
        if (message === 'ready' || message === 'read') {
          timer = setTimeout(() => stop(tooHeavy()), message === 'ready' ? READING : WHOLE);
          return;
        }
        if ('problem' in message) {
          const { status, code, detail, more } = message.problem;
          reject(new HttpProblem(status, code, detail, more));
        } else resolve(message);
      });
      worker.on('error', (error: NodeJS.ErrnoException) =>
        stop(error.code === 'ERR_WORKER_OUT_OF_MEMORY' ? tooHeavy() : error),
      );
      worker.on('exit', () => stop(tooHeavy()));
    });
  }
}
