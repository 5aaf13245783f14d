// @ts-check
import { createHash, randomUUID } from 'node:crypto';
import { createSocket } from 'node:dgram';

/** Where machines that serve a crew say so to each other on a local network. */
const PORT = 43117;
/** How often it is said, in milliseconds. */
const EVERY = 30_000;
/** A word of theirs is short; anything longer is somebody else's. */
const LONGEST = 300;

/** What stands for a crew on the wire: its code opens nothing by this. */
const markOf = (/** @type {string} */ crew) =>
  createHash('sha256').update(`mule-tally ${crew}`).digest('hex').slice(0, 32);

/**
 * Says on the local network that this machine serves a crew, and hears of others that do: of two machines with one crew, phones
 * that talk to the one do not see what was sent to the other. Nothing depends on it; where the network carries no such words,
 * nobody is warned. `heard` is told once of each address.
 * @param {{ crew: string, heard: (address: string) => void, port?: number, to?: { address: string, port: number }[] }} asked
 * @returns {Promise<{ port: number, say: () => void, stop: () => void }>}
 */
export async function neighbours({
  crew,
  heard,
  port = PORT,
  to = [{ address: '255.255.255.255', port: PORT }],
}) {
  const own = { product: 'mule-tally', crew: markOf(crew), machine: randomUUID() };
  const told = new Set();
  const socket = createSocket({ type: 'udp4', reuseAddr: true });
  socket.on('error', () => undefined);
  socket.on('message', (word, { address }) => {
    if (word.length > LONGEST) return;
    try {
      const other = JSON.parse(word.toString('utf8'));
      if (other.product !== own.product || other.crew !== own.crew || other.machine === own.machine) return;
    } catch {
      return;
    }
    if (told.has(address)) return;
    told.add(address);
    heard(address);
  });
  await new Promise((resolve) => {
    socket.once('error', () => resolve(undefined));
    socket.bind(port, () => resolve(undefined));
  });
  const say = () => {
    for (const one of to) socket.send(JSON.stringify(own), one.port, one.address, () => undefined);
  };
  const stop = () => {
    clearInterval(timer);
    try {
      socket.close();
    } catch {
      // It never opened.
    }
  };
  const timer = setInterval(say, EVERY);
  timer.unref();
  socket.unref();
  try {
    socket.setBroadcast(true);
    say();
  } catch {
    // No network that carries it.
  }
  let at = port;
  try {
    at = socket.address().port;
  } catch {
    // It never opened.
  }
  return { port: at, say, stop };
}
