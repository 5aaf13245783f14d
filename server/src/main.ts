import { existsSync, readFileSync, readdirSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { createServer } from 'node:http';
import { createServer as createSecureServer } from 'node:https';
import { createHash, randomUUID } from 'node:crypto';
import { delimiter, dirname, join } from 'node:path';
import { CHANGE_VERSION, CREW_CHANGES, readHouseFile } from '@mule-tally/core';
import { pino } from 'pino';
import { createApp } from './api/app.js';
import { AssetStore } from './assets/asset-store.js';
import { HttpProblem } from './api/problem.js';
import { HouseStore } from './houses/house-store.js';
import { Live } from './live/live.js';
import { Door } from './people/door.js';
import { Channel } from './storage/channel.js';
import { LOCAL_CREW } from './storage/local-crew.js';
import { migrate, whyNotServing } from './storage/migrate.js';
import { connect } from './storage/orm.js';

const databaseUrl = process.env['DATABASE_URL'];
if (!databaseUrl) {
  console.error('DATABASE_URL is not set. "npm start" sets it.');
  process.exit(1);
}
const port = Number(process.env['PORT'] ?? 4310);
const host = process.env['HOST'] ?? '127.0.0.1';
const isLocal = /^(127\.|localhost$|::1$)/.test(host);
/** Key and certificate, where it is served with TLS. */
const tls = { key: process.env['TLS_KEY'], cert: process.env['TLS_CERT'] };
const log = pino({ level: process.env['LOG_LEVEL'] ?? 'info' });

/**
 * Puts the demo houses in when there is no house at all, the first of them last changed, and the reels that they were pulled off into
 * the stock. Their names; undefined where there was a house.
 */
async function loadDemos(paths: readonly string[]): Promise<string | undefined> {
  if ((await houses.count(LOCAL_CREW)) > 0) return undefined;
  const names: string[] = [];
  for (const path of paths.toReversed()) names.unshift(await loadDemo(path));
  const pictures = join(dirname(paths[0]!), 'pictures');
  for (const name of existsSync(pictures) ? readdirSync(pictures) : []) {
    const bytes = readFileSync(join(pictures, name));
    await assets.keep(LOCAL_CREW, createHash('sha256').update(bytes).digest('hex'), bytes);
  }
  return names.join(', ');
}

async function loadDemo(path: string): Promise<string> {
  const read = readHouseFile(await readFile(path, 'utf8'));
  if (!read.ok) throw new Error(`the demo file is broken: ${read.problems[0]!.message}`);
  await houses.import(LOCAL_CREW, read.file, read.file.id, 'refuse');
  const [hand] = read.file.people;
  if (hand && read.file.reels.length)
    await houses.crew.apply(
      [LOCAL_CREW],
      read.file.reels.map((reel) => {
        const body = CREW_CHANGES.adding('stock', reel);
        const change = { id: randomUUID(), version: CHANGE_VERSION, body } as const;
        return { ok: true as const, envelope: { change, actorId: hand.id } };
      }),
    );
  return read.file.name;
}

const ownerUrl = process.env['MIGRATION_DATABASE_URL'];
if (ownerUrl) await migrate(ownerUrl, databaseUrl);
const orm = await connect(databaseUrl);
const why = await whyNotServing(orm);
if (why) {
  console.error(why);
  process.exit(1);
}
const houses = new HouseStore(orm, randomUUID);
const assets = new AssetStore(orm);
const demo = process.env['DEMO_FILES']
  ? await loadDemos(process.env['DEMO_FILES'].split(delimiter))
  : undefined;
const door = new Door(orm, houses.crew);
const setUp = (await door.isSetUp()) ? undefined : await door.linkToSetUp();
// Beyond this machine nothing is served without sign-in, and nothing in the clear.
if (!isLocal && (setUp || !tls.key || !tls.cert)) {
  console.error(
    setUp
      ? 'Phones are served once the crew is set up: run npm start, open the link that it prints, then come back.'
      : 'Beyond this machine only TLS is served: npm run site makes the certificate.',
  );
  process.exit(1);
}
const channel = new Channel(databaseUrl);
const live = new Live(channel, houses, door);
const webFolder = process.env['WEB_FOLDER'];
const hosts = (process.env['HOST_NAMES'] ?? '').split(',').filter(Boolean);
const app = createApp({ orm, log, databaseUrl, houses, door, live, hosts, ...(webFolder && { webFolder }) });
const certificate = async () => ({ key: await readFile(tls.key!), cert: await readFile(tls.cert!) });
const secure = tls.key && tls.cert ? createSecureServer(await certificate(), app) : undefined;
const server = secure ?? createServer(app);
// One that is made anew, before the old one is over, is taken while the server runs.
if (secure)
  setInterval(() => {
    certificate()
      .then((now) => secure.setSecureContext(now))
      .catch((error: unknown) => log.error(error));
  }, 3_600_000).unref();
// What is no HTTP at all is told so in the same words as everything else.
server.on('clientError', (_error, socket) => {
  if (!socket.writable) return;
  const body = JSON.stringify(
    new HttpProblem(400, 'request.invalid', 'This request is not understood.').body(),
  );
  socket.end(
    `HTTP/1.1 400 Bad Request\r\nContent-Type: application/problem+json\r\nContent-Length: ${Buffer.byteLength(body)}\r\nConnection: close\r\n\r\n${body}`,
  );
});

let stopping = false;
/** Lets running requests finish, then lets go of the database. */
function stop(): void {
  if (stopping) return;
  stopping = true;
  live.close();
  void channel.close();
  server.close(() => void orm.close().finally(() => process.exit(0)));
  server.closeIdleConnections();
  setTimeout(() => server.closeAllConnections(), 3000).unref();
  // Whatever hangs, in ten seconds this process is gone; what it had not committed is sent again.
  setTimeout(() => process.exit(0), 9000).unref();
}
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
// The start command talks over this channel; when it was killed, nobody would stop us any more.
process.on('disconnect', stop);

server.on('error', (error: NodeJS.ErrnoException) => {
  console.error(error.code === 'EADDRINUSE' ? `Port ${port} is in use.` : error.message);
  process.exit(1);
});
server.listen(port, host, () => process.send?.({ ready: true, demo, setUp }));
