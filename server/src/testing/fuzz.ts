import { randomUUID } from 'node:crypto';
import type { CrewList, HouseFile, TableName } from '@mule-tally/core';
import {
  CREW_LISTS,
  CREW_LIST_NAMES,
  LIMITS,
  TABLE_NAMES,
  TABLES,
  personOfVersion1,
  readCrewFile,
} from '@mule-tally/core';

/** What a run of random inputs met. */
export interface FuzzReport {
  /** Changes, files and requests that were sent. */
  inputs: number;
  requests: number;
  statuses: Record<number, number>;
  applied: number;
  /** Longest answer, in milliseconds. */
  slowest: number;
  /** What must not be: answers of 500, answers that are no problem details, no answer at all. */
  wrong: string[];
}

/** A small generator with a seed, so that a run can be had again. */
function generator(seed: number) {
  let state = seed >>> 0 || 1;
  const next = (): number => {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    state >>>= 0;
    return state / 2 ** 32;
  };
  const below = (count: number): number => Math.floor(next() * count);
  const one = <T>(items: readonly T[]): T => items[below(items.length)]!;
  return { next, below, one };
}

type Random = ReturnType<typeof generator>;

const ODD: readonly unknown[] = [
  null,
  true,
  0,
  -1,
  1e308,
  1e-320,
  2 ** 53,
  '',
  'a\u0000b',
  '\ud800',
  'line\nbreak',
  '__proto__',
  "'; drop table boxes; --",
  '{"a":',
  'x'.repeat(3000),
  [],
  {},
  [[[[[]]]]],
  { id: 1 },
  '00000000-0000-4000-8000-000000000000',
  '2026-13-45T99:00:00Z',
  'NaN',
];

const depth = (levels: number): unknown => JSON.parse('['.repeat(levels) + ']'.repeat(levels));

/** A value that is a little, or wholly, another one. */
function mutated(random: Random, value: unknown): unknown {
  const dice = random.below(12);
  if (dice === 0) return random.one(ODD);
  if (dice === 1) return depth(random.below(80) + 1);
  if (Array.isArray(value)) {
    if (dice === 2) return [...value, ...value];
    return value.map((item) => (random.below(6) ? item : mutated(random, item)));
  }
  if (typeof value === 'object' && value !== null) {
    const next: Record<string, unknown> = { ...value };
    const keys = Object.keys(next);
    if (dice === 3)
      next[random.one(['colour', 'constructor', 'id', 'x'.repeat(300), 'at'])] = random.one(ODD);
    else if (keys.length) {
      const key = random.one(keys);
      if (dice === 4) delete next[key];
      else next[key] = mutated(random, next[key]);
    }
    return next;
  }
  if (typeof value === 'number') return random.one([value * 1e9, -value, value + 0.5, 0, '1']);
  if (typeof value === 'string')
    return random.one([value.toUpperCase(), `${value}\u0007`, value.slice(1), value + value, randomUUID()]);
  return random.one(ODD);
}

/** A change as a person could have made it. */
function plausible(random: Random, file: HouseFile): Record<string, unknown> {
  const table = random.one(TABLE_NAMES.filter((name) => file[name].length > 0)) as TableName;
  const record = random.one(file[table] as unknown as Record<string, unknown>[]);
  const noun = TABLES[table].noun;
  const kind = random.below(7);
  const body =
    kind === 0
      ? { kind: table === 'pulls' ? 'pull.log' : `${noun}.add`, record: { ...record, id: randomUUID() } }
      : kind === 1
        ? {
            kind: `${noun}.remove`,
            recordId: record['id'],
            ...(random.below(2) && { withDependents: random.below(9) === 0 }),
          }
        : kind === 2
          ? { kind: 'revert', of: randomUUID() }
          : kind === 3
            ? { kind: 'rule.set', key: 'makeup.trim', override: { value: random.below(9), reason: 'tried' } }
            : kind === 4
              ? { kind: 'house.set', name: `Lot ${random.below(99)}` }
              : {
                  kind: `${noun}.set`,
                  recordId: record['id'],
                  fields: Object.fromEntries(
                    Object.entries(record)
                      .filter(([key]) => key !== 'id' && random.below(3) === 0)
                      .map(([key, to]) => [key, { to, ...(random.below(2) && { was: random.one(ODD) }) }]),
                  ),
                };
  // Some devices have not been brought up to date yet.
  if (random.below(4) === 0) return { id: randomUUID(), version: 1, by: 'Fuzz', body };
  return { change: { id: randomUUID(), version: 3, body }, actorId: personOfVersion1('Lead') };
}

/** Records of the crew book as they could be entered, by their list. */
const CREW_RECORDS: { readonly [T in CrewList]: Record<string, unknown> } = {
  people: { id: '', name: 'Fuzz', left: true },
  stock: { id: '', name: 'Reel', kind: 'reel', cable: '14/2', lengthIn: 3000 },
  kits: {
    id: '',
    name: 'Kit',
    roomKind: 'bedroom',
    boxes: [{ catalogueId: 'plastic-1g-18', tag: 'S', devices: [{ catalogueId: 'switch', gang: 1 }] }],
  },
  roomKits: { id: '', roomKind: 'bedroom', ways: 1, items: [] },
  habits: { id: '', key: 'makeup.trim', override: { value: 6, reason: 'tried' } },
  prices: { id: '', kind: 'cable', item: '14/2', amount: 0.4 },
  connectorNames: { id: '', connector: 'twist-small', name: 'Small' },
};
/** A few ids, so that changes meet. */
const CREW_IDS = Array.from({ length: 12 }, () => randomUUID());

/** A change of the crew book as a person could have made it. */
function plausibleOfCrew(random: Random): Record<string, unknown> {
  const list = random.one(CREW_LIST_NAMES);
  const { noun } = CREW_LISTS[list];
  const { id: _, ...fields } = CREW_RECORDS[list];
  const recordId = random.one(CREW_IDS);
  const body = random.one<object>([
    { kind: `${noun}.add`, record: { ...fields, id: recordId } },
    { kind: `${noun}.remove`, recordId },
    { kind: 'revert', of: random.one(CREW_IDS) },
    { kind: 'crew.set', name: `Crew ${random.below(9)}` },
    {
      kind: `${noun}.set`,
      recordId,
      fields: Object.fromEntries(Object.entries(fields).map(([key, to]) => [key, { to }])),
    },
  ]);
  // Ids of changes that come back, so that some are sent twice and some can be undone.
  const id = random.below(3) ? randomUUID() : random.one(CREW_IDS);
  return { change: { id, version: 3, body }, actorId: personOfVersion1('Lead') };
}

/**
 * Sends random inputs to a server on this machine: changes that are nearly right, files that are, and requests that are no
 * requests. Bounded by `inputs`; ends by itself.
 * `slow`, in milliseconds, is what an answer may take; without it none is too slow, as beside other work on the machine.
 */
export async function fuzz(
  base: string,
  demo: HouseFile,
  inputs: number,
  seed: number,
  slow = Infinity,
): Promise<FuzzReport> {
  const random = generator(seed);
  const report: FuzzReport = { inputs: 0, requests: 0, statuses: {}, applied: 0, slowest: 0, wrong: [] };
  const send = async (path: string, init: RequestInit, what: string): Promise<unknown> => {
    const since = performance.now();
    report.requests++;
    try {
      const answer = await fetch(base + path, init);
      const text = await answer.text();
      const took = performance.now() - since;
      report.slowest = Math.max(report.slowest, took);
      report.statuses[answer.status] = (report.statuses[answer.status] ?? 0) + 1;
      if (answer.status === 500) report.wrong.push(`${what}: 500`);
      else if (took > slow) report.wrong.push(`${what}: ${took.toFixed(0)} ms`);
      else if (answer.status >= 400 && !answer.headers.get('content-type')?.includes('problem+json'))
        report.wrong.push(`${what}: ${answer.status} without problem details`);
      return answer.ok && answer.headers.get('content-type')?.includes('application/json')
        ? JSON.parse(text)
        : undefined;
    } catch (error) {
      report.wrong.push(`${what}: ${String(error)}`);
      return undefined;
    }
  };
  const json = (body: unknown): RequestInit => ({
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  });
  const copies = [0, 1, 2].map(() => ({ ...demo, id: randomUUID() }));
  for (const copy of copies) await send('/api/houses/import', json(copy), 'a sound file');
  const lists = TABLE_NAMES.filter((name) => demo[name].length > 0);
  while (report.inputs < inputs && report.wrong.length < 20) {
    const house = random.one(copies);
    const dice = random.below(40);
    if (dice < 4) {
      const changes = Array.from({ length: random.below(60) + 1 }, () => {
        const change = plausibleOfCrew(random);
        return random.below(3) ? change : mutated(random, change);
      });
      report.inputs += changes.length;
      const answer = (await send('/api/crew/book/changes', json({ changes }), 'changes of the crew')) as
        { answers: { status: string }[] } | undefined;
      if (answer && answer.answers.length !== changes.length)
        report.wrong.push('changes of the crew: not each was answered');
      const book = (await send('/api/crew/book', {}, 'the crew book')) as { file: unknown } | undefined;
      const read = readCrewFile(book?.file);
      if (!read.ok) report.wrong.push(`the crew book cannot be read: ${JSON.stringify(read.problems[0])}`);
    } else if (dice < 30) {
      const changes = Array.from({ length: random.below(180) + 1 }, () => {
        const change = plausible(random, demo);
        return random.below(4) ? mutated(random, mutated(random, change)) : change;
      });
      report.inputs += changes.length;
      const answer = (await send(`/api/houses/${house.id}/changes`, json({ changes }), 'changes')) as
        { answers: { status: string }[] } | undefined;
      if (answer && answer.answers.length !== changes.length)
        report.wrong.push('changes: not each was answered');
      report.applied += answer?.answers.filter(({ status }) => status === 'applied').length ?? 0;
    } else if (dice < 33) {
      report.inputs++;
      const file = structuredClone(demo) as unknown as Record<string, unknown>;
      file['id'] = randomUUID();
      for (let count = random.below(6); count >= 0; count--) {
        const list = random.one(lists);
        const records = file[list] as unknown[];
        records[random.below(records.length)] = mutated(random, random.one(records));
      }
      const how = random.one(['refuse', 'copy', 'replace', 'eat', '']);
      await send(
        `/api/houses/import?onExisting=${how}`,
        json(random.below(5) ? file : mutated(random, file)),
        'a file',
      );
    } else {
      report.inputs++;
      const path = random.one([
        '/api/houses',
        '/api/houses/import',
        `/api/houses/${house.id}`,
        `/api/houses/${house.id}/changes`,
        `/api/houses/${house.id}/journal?after=${encodeURIComponent(String(random.one(ODD)).replace(/\p{Cs}/gu, '')).slice(0, 200)}`,
        `/api/houses/${house.id}/journal?limit=${random.below(900)}&diffs=only`,
        `/api/houses/${house.id}/journal/${randomUUID()}`,
        `/api/houses/${house.id}/duplicate`,
        `/api/houses?offset=${random.below(9)}&limit=${random.below(700)}`,
        '/api/crew',
        '/api/crew/book',
        '/api/crew/book/changes',
        `/api/crew/book/journal?limit=${random.below(900)}`,
        `/api/crew/book/journal/${randomUUID()}`,
        '/api/crew/people',
        '/api/%ff%fe',
        '/%E0%A4%A',
        '/..%2f..%2fetc/passwd',
        `/api/houses/${encodeURIComponent(String(random.one(ODD)).replace(/\p{Cs}/gu, '')).slice(0, 200)}`,
        '/main-ABCDEFGH.js',
      ]);
      const method = random.one(['GET', 'POST', 'PUT', 'DELETE', 'PATCH', 'OPTIONS']);
      const body =
        method === 'GET'
          ? undefined
          : random.one([
              '',
              '{',
              '[]',
              'null',
              '"x"',
              '{"changes":[]}',
              JSON.stringify({ changes: depth(60) }),
              JSON.stringify({ changes: Array.from({ length: LIMITS.batch + 1 }, () => 0) }),
              '['.repeat(50_000),
              JSON.stringify({ id: randomUUID(), name: random.one(['Lot', '', 'a\nb']), base: 'us-2020' }),
              Buffer.from([0xff, 0xfe, 0, 1, 2]).toString('latin1'),
            ]);
      const type = random.one([
        'application/json',
        'application/json; charset=utf-8',
        'text/plain',
        'multipart/form-data',
        '',
      ]);
      await send(
        path,
        { method, ...(body !== undefined && { body }), ...(type && { headers: { 'content-type': type } }) },
        `${method} ${path.slice(0, 60)}`,
      );
    }
  }
  return report;
}
