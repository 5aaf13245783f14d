import { randomUUID } from 'node:crypto';
import { parentPort, workerData } from 'node:worker_threads';
import { problemFor } from '../api/problem.js';
import { HouseStore } from '../houses/house-store.js';
import { connect } from '../storage/orm.js';
import type { Job } from './job.js';
import { doJob, textOf } from './job.js';

/** One large request, read and done away from the main thread; the answer goes back as text. */
const { job, bytes, databaseUrl } = workerData as { job: Job; bytes: Uint8Array; databaseUrl: string };
const port = parentPort!;
const orm = await connect(databaseUrl, 1);
try {
  const houses = new HouseStore(orm, randomUUID);
  const written = (key: readonly string[], seq: number): void => port.postMessage({ written: key, seq });
  houses.onWritten = written;
  houses.crew.onWritten = written;
  port.postMessage('ready');
  const answer = await doJob(job, bytes, houses, { wasRead: () => port.postMessage('read') });
  const { status, name } = answer;
  // As bytes, which go over without being copied.
  const text = new TextEncoder().encode(textOf(job, answer));
  port.postMessage({ status, text, name, epoch: houses.epoch }, [text.buffer]);
} catch (error) {
  const problem = problemFor(error);
  port.postMessage({
    problem: { status: problem.status, code: problem.code, detail: problem.detail, more: problem.more },
  });
} finally {
  await orm.close();
}
