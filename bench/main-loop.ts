/**
 * What others notice while one large thing is going on: the longest answer to a small question, asked all the time, while a
 * house of 16 MB comes in, a broken one does, a batch of 8 MB, and a large house goes out and is copied. Milliseconds, with the
 * longest of a quiet time beside it. The bound is 50 ms above that.
 */
import { personOfVersion1 } from '../core/src/house/upgrade/version-1.js';
import { sent } from './sent.js';
import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import type { HouseFile } from '../core/src/house/house-file.js';
import { LIMITS } from '../core/src/vocabulary/limits.js';
import { startServer } from '../scripts/lib/server.mjs';
import { anyFreePort } from '../scripts/lib/system.mjs';
import { startTestDatabase } from '../scripts/lib/test-database.mjs';

const demo = JSON.parse(
  readFileSync(new URL('../demo/lot-12.house.json', import.meta.url), 'utf8'),
) as HouseFile;

/** A house nearly as large as one may be. */
function large(): HouseFile {
  const lead = personOfVersion1('Lead');
  const file: HouseFile = { ...structuredClone(demo), id: randomUUID() };
  const [box] = file.boxes;
  for (let n = 0; n < 19_000; n++)
    file.boxes.push({
      ...box!,
      id: randomUUID(),
      tag: `X${n}`,
      catalogueId: 'plastic-1g-18',
      placeNote: 'n'.repeat(190),
    });
  for (let n = 0; n < 15_000; n++)
    file.records.push({
      id: randomUUID(),
      kind: 'walk',
      at: '2026-05-04T09:30:00Z',
      by: lead,
      note: 'w'.repeat(200),
    });
  return file;
}

const cluster = await startTestDatabase();
const port = await anyFreePort();
const server = await startServer({ urls: cluster.urls, port });
const base = `http://127.0.0.1:${port}/api`;
try {
  /** The longest answer of a small question while this goes on. */
  const noticed = async (work: () => Promise<unknown>): Promise<number> => {
    let longest = 0;
    let isOver = false;
    const asking = (async () => {
      while (!isOver) {
        const since = performance.now();
        await (await fetch(`${base}/health`)).arrayBuffer();
        longest = Math.max(longest, performance.now() - since);
        await new Promise((resolve) => setTimeout(resolve, 2));
      }
    })();
    await work();
    isOver = true;
    await asking;
    return longest;
  };
  const post = async (path: string, body: Uint8Array) => {
    const answer = await fetch(base + path, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: body as never,
    });
    await answer.arrayBuffer();
    return answer.status;
  };
  const file = large();
  const text = Buffer.from(JSON.stringify(file));
  const broken = Buffer.from(
    JSON.stringify({ ...file, boxes: file.boxes.map(() => ({ id: 1, x: 'y'.repeat(500) })) }),
  );
  const nothing = Buffer.alloc(16_000_000, '[');
  const batch = Buffer.from(
    JSON.stringify({
      changes: Array.from({ length: LIMITS.batch }, (_, n) =>
        sent({
          kind: 'group',
          changes: Array.from({ length: 40 }, (_, at) => ({
            kind: 'box.set',
            recordId: file.boxes[(n * 40 + at) % 19_000]!.id,
            fields: { placeNote: { to: `${n} ${'m'.repeat(150)}` } },
          })),
        }),
      ),
    }),
  );
  for (let warm = 0; warm < 300; warm++) await (await fetch(`${base}/health`)).arrayBuffer();
  const quiet = await noticed(() => new Promise((resolve) => setTimeout(resolve, 2000)));
  console.log(`quiet: ${quiet.toFixed(0)} ms`);
  const results: [string, number][] = [];
  const look = async (what: string, work: () => Promise<unknown>): Promise<void> => {
    const since = performance.now();
    const longest = await noticed(work);
    results.push([what, longest]);
    console.log(
      `${what}: ${longest.toFixed(0)} ms (took ${((performance.now() - since) / 1000).toFixed(1)} s)`,
    );
  };
  await look(`a file of ${(text.length / 1e6).toFixed(1)} MB comes in`, () => post('/houses/import', text));
  await look('a broken file of that size', () => post('/houses/import', broken));
  await look('text of 16 MB that is no JSON', () => post('/houses/import', nothing));
  await look(`a batch of ${(batch.length / 1e6).toFixed(1)} MB`, () =>
    post(`/houses/${file.id}/changes`, batch),
  );
  await look('the large house goes out', async () =>
    (await fetch(`${base}/houses/${file.id}`)).arrayBuffer(),
  );
  await look('the large house is copied', () =>
    post(`/houses/${file.id}/duplicate`, Buffer.from(JSON.stringify({ id: randomUUID(), name: 'Copy' }))),
  );
  // In the place of the large house a small one, and back.
  const small = Buffer.from(
    JSON.stringify({ ...file, boxes: demo.boxes, records: [], photos: [], writeUps: [], extras: [] }),
  );
  await look('a small house takes its place', () => post('/houses/import?onExisting=replace', small));
  const { entries } = (await (await fetch(`${base}/houses/${file.id}/journal?limit=1`)).json()) as {
    entries: { changeId: string }[];
  };
  const undo = { kind: 'revert', of: entries[0]!.changeId };
  await look('the large one is put back', () =>
    post(`/houses/${file.id}/changes`, Buffer.from(JSON.stringify({ changes: [sent(undo)] }))),
  );
  await look('it is changed', () =>
    post(
      `/houses/${file.id}/changes`,
      Buffer.from(
        JSON.stringify({
          changes: [
            sent({ kind: 'box.set', recordId: file.boxes[0]!.id, fields: { placeNote: { to: 'here' } } }),
          ],
        }),
      ),
    ),
  );
  const over = results.filter(([, longest]) => longest > quiet + 50);
  if (over.length)
    throw new Error(`more than 50 ms above a quiet time: ${over.map(([what]) => what).join('; ')}`);
} finally {
  await server.stop();
  await cluster.destroy();
}
