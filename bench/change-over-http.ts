/**
 * One change through HTTP and the database, against a bare insert and update of the same rows in one transaction, in the
 * same run. Reported, not bounded.
 */
import { randomUUID } from 'node:crypto';
import pg from 'pg';
import { startServer } from '../scripts/lib/server.mjs';
import { anyFreePort } from '../scripts/lib/system.mjs';
import { startTestDatabase } from '../scripts/lib/test-database.mjs';

const ROUNDS = 300;
const cluster = await startTestDatabase();
const port = await anyFreePort();
const server = await startServer({ databaseUrl: cluster.url, port });
const client = new pg.Client({ connectionString: cluster.url });
await client.connect();
try {
  const base = `http://127.0.0.1:${port}/api/houses`;
  const [{ id: house }] = (await (await fetch(base)).json()) as [{ id: string }];
  const { file } = (await (await fetch(`${base}/${house}`)).json()) as { file: { rooms: { id: string }[] } };
  const roomId = file.rooms[0]!.id;
  const crew = (await client.query('select crew_id from house limit 1')).rows[0].crew_id as string;
  const model = { catalogueId: 'plastic-1g-18' };
  const overHttp: number[] = [];
  const bare: number[] = [];
  let kept: unknown;
  for (let round = 0; round < ROUNDS; round++) {
    const body = { kind: 'box.add', record: { id: randomUUID(), roomId, tag: `H${round}`, model } };
    const change = { id: randomUUID(), version: 1, by: 'Bench', body };
    let since = performance.now();
    const answer = await fetch(`${base}/${house}/changes`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ changes: [change] }),
    });
    kept = ((await answer.json()) as { answers: { diff: unknown }[] }).answers[0]!.diff;
    overHttp.push(performance.now() - since);
    since = performance.now();
    await client.query('begin');
    await client.query(
      'insert into boxes (crew_id, house_id, id, list_place, room_id, tag, model) values ($1, $2, $3, $4, $5, $6, $7)',
      [crew, house, randomUUID(), 1e6 + round, roomId, `B${round}`, model],
    );
    await client.query(
      'insert into journal (crew_id, house_id, seq, change_id, "by", "at", change, diff) values ($1, $2, $3, $4, $5, now(), $6, $7)',
      [crew, house, 1e6 + round, randomUUID(), 'Bench', change, kept],
    );
    await client.query('update house set changed_at = now() where crew_id = $1 and id = $2', [crew, house]);
    await client.query('commit');
    bare.push(performance.now() - since);
  }
  const median = (times: number[]): number => times.sort((a, b) => a - b)[Math.floor(times.length / 2)]!;
  const [through, rows] = [median(overHttp), median(bare)];
  console.log(
    `a change through HTTP: ${through.toFixed(2)} ms; the same rows bare: ${rows.toFixed(2)} ms; ratio ${(through / rows).toFixed(2)}`,
  );
} finally {
  await client.end();
  await server.stop();
  await cluster.destroy();
}
