/**
 * The server with its database, as ratios within one run: one change through HTTP against a bare transaction on the same tables
 * (bound 5×); 200 houses in turn against one (bound 1.5×); fifty clients on one house (at least 250 changes a second); 50,000
 * rows removed (bound 1 s in the database); an undo at 100,000 entries (bound 20 ms).
 */
import { sent } from './sent.js';
import { randomUUID } from 'node:crypto';
import pg from 'pg';
import { writeDiff } from '../server/src/documents/rows.js';
import { HOUSE_SHELF } from '../server/src/houses/house-shelf.js';
import { connect } from '../server/src/storage/orm.js';
import { inCrew } from '../server/src/storage/sql.js';
import { startServer } from '../scripts/lib/server.mjs';
import { anyFreePort } from '../scripts/lib/system.mjs';
import { startTestDatabase } from '../scripts/lib/test-database.mjs';

const ROUNDS = 300;
const cluster = await startTestDatabase();
const port = await anyFreePort();
const server = await startServer({ urls: cluster.urls, port });
const client = new pg.Client({ connectionString: cluster.url });
await client.connect();
try {
  const base = `http://127.0.0.1:${port}/api/houses`;
  const [{ id: house }] = (await (await fetch(base)).json()) as [{ id: string }];
  const { file } = (await (await fetch(`${base}/${house}`)).json()) as { file: { rooms: { id: string }[] } };
  const roomId = file.rooms[0]!.id;
  const crew = (await client.query('select crew_id from house limit 1')).rows[0].crew_id as string;
  const catalogueId = 'plastic-1g-18';
  const overHttp: number[] = [];
  const bare: number[] = [];
  let kept: unknown;
  for (let round = 0; round < ROUNDS; round++) {
    const body = { kind: 'box.add', record: { id: randomUUID(), roomId, tag: `H${round}`, catalogueId } };
    const change = sent(body);
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
      'insert into boxes (crew_id, house_id, id, list_place, room_id, tag, catalogue_id, written_seq) values ($1, $2, $3, $4, $5, $6, $7, 0)',
      [crew, house, randomUUID(), 1e6 + round, roomId, `B${round}`, catalogueId],
    );
    await client.query(
      'insert into journal (crew_id, house_id, seq, change_id, actor_id, version, "at", change, diff, change_bytes, diff_bytes) values ($1, $2, $3, $4, $5, 2, now(), $6, $7, 0, 0)',
      [crew, house, 1e6 + round, randomUUID(), change.actorId, change.change, kept],
    );
    await client.query('update house set changed_at = now() where crew_id = $1 and id = $2', [crew, house]);
    await client.query('commit');
    bare.push(performance.now() - since);
  }
  const median = (times: number[]): number => [...times].sort((a, b) => a - b)[Math.floor(times.length / 2)]!;
  const [through, rows] = [median(overHttp), median(bare)];
  const ratio = median(overHttp.map((took, at) => took / bare[at]!));
  console.log(
    `a change through HTTP: ${through.toFixed(2)} ms; the same rows bare: ${rows.toFixed(2)} ms; median of the ratios ${ratio.toFixed(2)} (bound 5)`,
  );
  const broken: string[] = [];
  const bound = (holds: boolean, what: string): void => void (holds || broken.push(what));
  bound(ratio <= 5, 'a change through HTTP');

  /** Renames the house: the smallest change there is. Milliseconds. */
  const rename = async (id: string, name: string): Promise<number> => {
    const change = sent({ kind: 'house.set', name });
    const since = performance.now();
    const answer = await fetch(`${base}/${id}/changes`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ changes: [change] }),
    });
    const { answers } = (await answer.json()) as { answers: { status: string }[] };
    if (answers[0]!.status !== 'applied') throw new Error('a change was not applied');
    return performance.now() - since;
  };
  const copies: string[] = [];
  for (let n = 0; n < 200; n++) {
    const id = randomUUID();
    await fetch(`${base}/${house}/duplicate`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ id, name: `Lot ${n}` }),
    });
    copies.push(id);
  }
  for (const id of copies) await rename(id, 'warm');
  const inTurn: number[] = [];
  const always: number[] = [];
  for (const [n, id] of [...copies, ...copies].entries()) {
    inTurn.push(await rename(id, `Turn ${n}`));
    always.push(await rename(copies[0]!, `One ${n}`));
  }
  const turn = median(inTurn.map((took, at) => took / always[at]!));
  console.log(`200 houses in turn against one: ${turn.toFixed(2)}× (bound 1.5×)`);
  bound(turn <= 1.5, '200 houses in turn');

  const since = performance.now();
  await Promise.all(
    Array.from({ length: 50 }, async (_, client) => {
      for (let n = 0; n < 20; n++) await rename(house, `Client ${client} ${n}`);
    }),
  );
  const perSecond = 1000 / ((performance.now() - since) / 1000);
  console.log(`fifty clients on one house: ${perSecond.toFixed(0)} changes a second (bound 250)`);
  bound(perSecond >= 250, 'fifty clients');

  // Fifty thousand rows of one house, removed as the server removes them.
  const orm = await connect(cluster.urls.serving, 1);
  const key = { crewId: crew, houseId: copies[1]! };
  const records = Array.from({ length: 50_000 }, (_, at) => ({
    table: 'boxes' as const,
    id: randomUUID(),
    added: { at: 1e7 + at, record: { id: '', roomId, tag: `X${at}`, catalogueId } },
  })).map((row) => ({ ...row, added: { ...row.added, record: { ...row.added.record, id: row.id } } }));
  await inCrew(orm, key.crewId, (sql) =>
    writeDiff(sql, HOUSE_SHELF, [key.crewId, key.houseId], { head: {}, rows: records }, 1),
  );
  const gone = {
    head: {},
    rows: records.map(({ table, id, added }) => ({ table, id, removed: added })),
  };
  const text = JSON.stringify(gone);
  const removing = performance.now();
  await inCrew(orm, key.crewId, async (sql) => {
    await writeDiff(sql, HOUSE_SHELF, [key.crewId, key.houseId], gone, 2);
    await sql.all(
      `insert into journal (crew_id, house_id, seq, change_id, version, "at", change, diff, change_bytes, diff_bytes)
       values (?, ?, ?, ?, 2, now(), '{}'::jsonb, ?::jsonb, 2, ?)`,
      [key.crewId, key.houseId, 1e6, randomUUID(), text, text.length],
    );
  });
  const removed = performance.now() - removing;
  console.log(
    `50,000 rows removed with their journal row: ${removed.toFixed(0)} ms in the database (bound 1000)`,
  );
  bound(removed <= 1000, '50,000 rows removed');

  // A journal of 100,000 entries, and an undo in it that comes too late.
  const old = copies[2]!;
  const mine = sent({ kind: 'house.set', name: 'Mine' });
  const post = async (changes: unknown[]) =>
    (await (
      await fetch(`${base}/${old}/changes`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ changes }),
      })
    ).json()) as { answers: { status: string; message?: string }[]; seq: number };
  const box = ((await (await fetch(`${base}/${old}`)).json()) as { file: { boxes: { id: string }[] } }).file
    .boxes[1]!.id;
  const set = (by: 'Lead' | 'Hand', tag: string) =>
    sent({ kind: 'box.set', recordId: box, fields: { tag: { to: tag } } }, by);
  const first = set('Lead', 'Mine');
  const { seq } = await post([mine, first, set('Hand', 'Theirs')]);
  await client.query(
    `insert into journal (crew_id, house_id, seq, change_id, actor_id, version, "at", change, diff, change_bytes, diff_bytes)
     select crew_id, house_id, seq + n, gen_random_uuid(), actor_id, version, now(), change, '{"head":{},"rows":[]}', change_bytes, 30
     from journal, generate_series(1, 100000) n where house_id = $1 and seq = $2`,
    [old, seq],
  );
  await client.query('update house set seq = seq + 100000 where id = $1', [old]);
  await client.query('analyze journal');
  await post([set('Hand', 'Warm')]);
  const undos: number[] = [];
  for (let n = 0; n < 20; n++) {
    const started = performance.now();
    const { answers } = await post([sent({ kind: 'revert', of: first.change.id })]);
    undos.push(performance.now() - started);
    if (answers[0]!.status !== 'refused') throw new Error('an undo that is too late was not refused');
  }
  console.log(`an undo that comes too late at 100,000 entries: ${median(undos).toFixed(1)} ms (bound 20)`);
  bound(median(undos) <= 20, 'an undo at 100,000 entries');
  await orm.close();
  if (broken.length) throw new Error(`bounds broken: ${broken.join(', ')}`);
} finally {
  await client.end();
  await server.stop();
  await cluster.destroy();
}
