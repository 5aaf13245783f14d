import type { Request, Response } from 'express';
import { Id, LIVE } from '@mule-tally/core';
import type { LiveHere, LiveNumbers } from '@mule-tally/core';
import { sessionIn } from '../api/cookies.js';
import { HttpProblem } from '../api/problem.js';
import type { HouseStore } from '../houses/house-store.js';
import type { Caller } from '../people/caller.js';
import type { Door } from '../people/door.js';
import type { Channel } from '../storage/channel.js';

/** Houses that one stream may ask the numbers of, and streams of one process. */
const HOUSES = 50;
const STREAMS = 2000;
/** A client that reads nothing is let go of after so many bytes. */
const BEHIND = 256 * 1024;

/** In what is said: the crew book, which is no house; nobody's room. */
const NONE = '-';

interface Stream {
  readonly caller: Caller;
  readonly send: (event: string, data: unknown) => void;
  readonly end: () => void;
}

/**
 * Tells open browsers that something was written, by server-sent events: which house, and the number of the entry. What was
 * written they fetch themselves, so that whatever is lost here costs nothing. Numbers go out when a stream opens, and with
 * every heartbeat.
 */
export class Live {
  private readonly streams = new Map<string, Set<Stream>>();
  private count = 0;

  constructor(
    private readonly channel: Channel,
    private readonly houses: HouseStore,
    private readonly door: Door,
    private readonly heartbeat: number = LIVE.heartbeatMs,
  ) {
    channel.onHeard((said) => this.heard(said));
    // Whoever listens would hear nothing, and look no more by themselves.
    channel.onLost = () => this.close();
    const written = ([crewId, houseId = NONE]: readonly string[], seq: number): void =>
      channel.say(`${crewId} ${houseId}`, `${crewId} ${houseId} ${seq}`);
    houses.onWritten = written;
    houses.crew.onWritten = written;
  }

  /** Says in which room of a house somebody is; in none. */
  here(caller: Caller, houseId: string, roomId: string | undefined): void {
    const who = caller.actor?.id;
    if (!who) return;
    const about = `${caller.crewId} ${houseId} ${roomId ?? NONE} ${who}`;
    this.channel.say(`here ${who}`, about);
  }

  private heard(said: string): void {
    const [crewId, house, third, who] = said.split(' ') as [string, string, string, string?];
    for (const { caller, send } of this.streams.get(crewId) ?? []) {
      // A guest hears of their house only, and nothing of who is where.
      if (caller.houseId !== undefined && (house !== caller.houseId || who)) continue;
      const houseId = house === NONE ? null : house;
      if (!who) send('written', { houseId, seq: Number(third) });
      else if (houseId)
        send('here', { houseId, personId: who, roomId: third === NONE ? null : third } satisfies LiveHere);
    }
  }

  /** Opens a stream; it ends when the client goes, or when its session does. */
  async open(caller: Caller, request: Request, response: Response): Promise<void> {
    if (!this.channel.isHearing)
      throw new HttpProblem(503, 'database.away', 'Nothing is heard of the database just now.', {
        retryAfter: 2,
      });
    if (this.count >= STREAMS)
      throw new HttpProblem(503, 'server.busy', 'Too many are listening just now.', { retryAfter: 5 });
    const asked = String(request.query['houses'] ?? '').split(',');
    const ids = asked.flatMap((id) => Id.safeParse(id).data ?? []).slice(0, HOUSES);
    const houseIds = ids.filter((id) => caller.houseId === undefined || caller.houseId === id);
    const numbers = async (): Promise<LiveNumbers> => this.houses.numbers(caller.crewId, houseIds);
    // Whoever may not read at all is told so before there is a stream.
    const first = await numbers();
    response.writeHead(200, {
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-store, no-transform',
      'X-Accel-Buffering': 'no',
    });
    const stream: Stream = {
      caller,
      send: (event, data) => {
        if (response.writableLength > BEHIND) return stream.end();
        response.write(`event: ${event}\ndata: ${JSON.stringify(data)}\n\n`);
      },
      end: () => response.end(),
    };
    const own = this.streams.get(caller.crewId) ?? new Set();
    this.streams.set(caller.crewId, own.add(stream));
    this.count++;
    const secret = sessionIn(request);
    const beat = async (): Promise<void> => {
      // A device that was locked out hears nothing more.
      const isIn = secret ? await this.door.sessions.isOpen(secret) : !(await this.door.isSetUp());
      if (!isIn) return stream.end();
      stream.send('numbers', await numbers());
    };
    const timer = setInterval(() => void beat().catch(() => stream.end()), this.heartbeat);
    response.on('close', () => {
      clearInterval(timer);
      this.count--;
      own.delete(stream);
      if (own.size === 0 && this.streams.get(caller.crewId) === own) this.streams.delete(caller.crewId);
    });
    response.write('retry: 1500\n\n');
    stream.send('numbers', first);
  }

  /** Ends all streams: whoever listened comes back. */
  close(): void {
    for (const own of this.streams.values()) for (const stream of own) stream.end();
  }
}
