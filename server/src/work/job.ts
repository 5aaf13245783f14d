import type { OnExisting, ReadEnvelope } from '@mule-tally/core';
import { ChangeBatch, Name, problemsOf, readChange, readHouseFile } from '@mule-tally/core';
import { HttpProblem } from '../api/problem.js';
import type { Asked } from '../documents/document-store.js';
import type { Caller } from '../people/caller.js';
import { wordOf } from '../people/caller.js';
import type { HouseKey } from '../houses/house-key.js';
import type { HouseStore } from '../houses/house-store.js';

/** What a request with a large body asks for. */
export type Job =
  | {
      readonly kind: 'import';
      readonly caller: Caller;
      readonly actorId: string;
      readonly onExisting: OnExisting;
    }
  | { readonly kind: 'changes'; readonly key: HouseKey; readonly caller: Caller }
  /** A house going out, or copied: its own size decides where that is done. */
  | { readonly kind: 'read'; readonly key: HouseKey }
  | { readonly kind: 'file'; readonly key: HouseKey }
  | { readonly kind: 'duplicate'; readonly key: HouseKey; readonly id: string; readonly name: string };

/** A device of version 1 tells who made a change by name. */
const nameOfVersion1 = (input: unknown): string | undefined => {
  const { version, by } = (input ?? {}) as { version?: unknown; by?: unknown };
  return version === 1 ? Name.safeParse(by).data : undefined;
};

/** The changes of a batch, each of them still to be read. */
export function batchIn(text: string): unknown[] {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    throw new HttpProblem(400, 'body.not-json', 'The body is not JSON.');
  }
  const batch = ChangeBatch.safeParse(json, { reportInput: true });
  if (batch.success) return batch.data.changes;
  const problems = problemsOf(batch.error.issues).map((problem) => ({
    ...problem,
    code: problem.code.replace('file.', 'request.'),
  }));
  throw new HttpProblem(400, 'request.invalid', problems[0]!.message, { problems });
}

/** A change with the word on which it is taken. */
export const withWord = <B>(caller: Caller, read: ReadEnvelope<B>): Asked<B> =>
  read.ok ? { ...read, word: wordOf(caller, read.envelope) } : read;

/** What a job answers, as it goes out. */
export interface JobAnswer {
  readonly status: number;
  readonly body: unknown;
  /** Name of the house, where it goes out as a file. */
  readonly name?: string;
}

/** The JSON of an answer, as it goes out: a file with a line for each of its parts. */
export const textOf = (job: Job, { body }: JobAnswer): string =>
  job.kind === 'file' ? `${JSON.stringify(body, null, 1)}\n` : JSON.stringify(body);

/**
 * Reads a body and does what it asks for: here in the request's own process where it is small, in a worker where it is not.
 * `wasRead` is told when reading is over and the database comes next.
 */
export async function doJob(
  job: Job,
  bytes: Uint8Array,
  houses: HouseStore,
  { wasRead = () => undefined, isGone }: { wasRead?: () => void; isGone?: () => boolean } = {},
): Promise<JobAnswer> {
  if (job.kind === 'read' || job.kind === 'file') {
    wasRead();
    const read = await houses.read(job.key);
    return job.kind === 'read'
      ? { status: 200, body: read }
      : { status: 200, body: read.file, name: read.file.name };
  }
  if (job.kind === 'duplicate') {
    wasRead();
    const how = await houses.duplicate(job.key, job.id, job.name);
    return { status: how === 'made' ? 201 : 200, body: { id: job.id, how } };
  }
  const text = new TextDecoder().decode(bytes);
  if (job.kind === 'import') {
    const read = readHouseFile(text);
    wasRead();
    if (!read.ok) {
      const [first] = read.problems;
      const count = read.problems.length;
      const detail =
        count === 1
          ? first!.message
          : `This file has ${count} problems${read.more ? ' and more' : ''}. Nothing was taken in.`;
      throw new HttpProblem(422, first!.code, detail, { problems: read.problems, more: read.more });
    }
    const said = wordOf(job.caller, job);
    const word = 'code' in said ? {} : said;
    return {
      status: 201,
      body: await houses.import(job.caller.crewId, read.file, job.actorId, job.onExisting, word),
    };
  }
  const sent = batchIn(text);
  const changes = sent.map(readChange).map((read) => withWord(job.caller, read));
  const names = sent.flatMap((one) => nameOfVersion1(one) ?? []);
  wasRead();
  // Devices of before people had ids do not know of signing in either.
  if (names.length && job.caller.standing === 'local') await houses.crew.know(job.key.crewId, new Set(names));
  return { status: 200, body: await houses.applyBatch(job.key, changes, isGone) };
}
