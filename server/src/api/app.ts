import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import type { CrewFile, Member } from '@mule-tally/core';
import {
  CHANGE_VERSION,
  DuplicateHouse,
  HeldDecision,
  HereAsked,
  Id,
  LIMITS,
  NewHouse,
  NewPerson,
  OnExisting,
  codeFileJsonSchema,
  houseFileJsonSchema,
  personOfVersion1,
  readCrewChange,
} from '@mule-tally/core';
import compression from 'compression';
import type { Express, NextFunction, Request, RequestHandler, Response } from 'express';
import express from 'express';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import * as z from 'zod';
import type { HouseKey } from '../houses/house-key.js';
import { HouseStore, houseKey } from '../houses/house-store.js';
import type { Live } from '../live/live.js';
import type { Caller } from '../people/caller.js';
import { asLead, asMember } from '../people/caller.js';
import { Door } from '../people/door.js';
import type { Orm } from '../storage/orm.js';
import { isReachable } from '../storage/migrate.js';
import { HeavyWork } from '../work/heavy.js';
import type { Job } from '../work/job.js';
import { batchIn, doJob, textOf, withWord } from '../work/job.js';
import { isHeavy } from '../work/weight.js';
import type { JournalQuery } from '../documents/journal.js';
import { AssetStore } from '../assets/asset-store.js';
import { assetRoutes } from './asset-routes.js';
import { checked } from './checked.js';
import { callerOf, identify, onlyKnown } from './identify.js';
import { peopleRoutes } from './people-routes.js';
import { HttpProblem, problemFor } from './problem.js';
import { onlyOwnHosts, onlyOwnPages } from './same-origin.js';

export interface AppOptions {
  readonly orm: Orm;
  readonly log: Logger;
  /** Where the workers for large requests find the database. */
  readonly databaseUrl: string;
  readonly houses?: HouseStore;
  readonly door?: Door;
  /** Tells open browsers what was written; without it they look by themselves. */
  readonly live?: Live;
  /** Names that it is served under besides those of this machine. */
  readonly hosts?: readonly string[];
  /** Folder of the built web app; without it only the API is served. */
  readonly webFolder?: string;
}

/** Who took in a file, where nobody says so. */
const IMPORT = 'Import';

const Uuid = z.uuid().lowercase();
const JournalPage = z.object({
  after: z.coerce.number().int().min(0).optional(),
  before: z.coerce.number().int().min(1).optional(),
  limit: z.coerce.number().int().min(1).max(LIMITS.page).default(100),
  diffs: z.literal('only').optional(),
});
const HousesQuery = z.object({
  offset: z.coerce.number().int().min(0).max(1_000_000).default(0),
  limit: z.coerce.number().int().min(1).max(LIMITS.page).default(LIMITS.page),
});

/** An error for the log: its kind and where it was, never what it says, which may hold what somebody entered. */
function plainError(error: unknown): Record<string, unknown> {
  const { name, code, stack } = error as Error & { code?: string };
  return {
    name,
    code,
    at: stack
      ?.split('\n')
      .filter((line) => /^\s+at /.test(line))
      .slice(0, 12),
  };
}

const crewOf = (response: Response): string => callerOf(response).crewId;
const keyOf = (request: Request, response: Response): HouseKey => {
  const id = Uuid.safeParse(request.params['houseId']);
  const { crewId, houseId } = callerOf(response);
  // Whoever has a link to one house sees no other: it answers like one that does not exist.
  if (!id.success || (houseId !== undefined && houseId !== id.data))
    throw new HttpProblem(404, 'house.unknown', 'There is no such house here.');
  return { crewId, houseId: id.data };
};

const changeIdOf = (request: Request, noun: string): string => {
  const id = Uuid.safeParse(request.params['changeId']);
  if (id.success) return id.data;
  throw new HttpProblem(404, 'change.unknown', `This change is not in the journal of this ${noun}.`);
};
/** The page of a journal that is asked for. */
const pageOf = (request: Request): JournalQuery => {
  const page = checked(JournalPage, request.query);
  return {
    limit: page.limit,
    diffsOnly: page.diffs === 'only',
    ...(page.after !== undefined && { after: page.after }),
    ...(page.before !== undefined && { before: page.before }),
  };
};

/** People as a viewer reads of them: by name. */
const peopleFor = (caller: Caller, people: readonly Member[]): Member[] =>
  caller.standing === 'viewer' ? people.map(({ id, name }) => ({ id, name })) : [...people];
/** What a viewer reads of the crew book: who is who, and nothing of what the crew has or pays. */
const bookFor = (caller: Caller, { id, name, format, version, ...lists }: CrewFile): CrewFile =>
  caller.standing === 'viewer'
    ? {
        ...{ format, version, id, name, people: peopleFor(caller, lists.people) },
        ...{ stock: [], kits: [], habits: [], prices: [], roomKits: [] },
        connectorNames: lists.connectorNames,
      }
    : { format, version, id, name, ...lists };

export function createApp({
  orm,
  log,
  databaseUrl,
  webFolder,
  houses: given,
  door: givenDoor,
  live,
  hosts,
}: AppOptions): Express {
  const houses = given ?? new HouseStore(orm, randomUUID);
  const heavy = new HeavyWork(databaseUrl, (key, seq) => houses.onWrittenElsewhere(key, seq));
  /** Small things are done here, large ones in a worker; either way the answer says which database it is of. */
  const doing = async (job: Job, request: Request, response: Response): Promise<void> => {
    const body = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
    const answer = (await isHeavy(job, body, houses))
      ? await heavy.run(job, body)
      : await doJob(job, body, houses, { isGone: () => request.socket.destroyed }).then((done) => ({
          ...done,
          text: Buffer.from(textOf(job, done)),
          epoch: houses.epoch,
        }));
    if (answer.epoch) response.setHeader('X-Epoch', answer.epoch);
    if (answer.name !== undefined) {
      const name = answer.name.replace(/[^A-Za-z0-9 _-]+/g, '').trim() || 'house';
      response.setHeader('Content-Disposition', `attachment; filename="${name}.house.json"`);
    }
    // `end`, not `send`: nothing is to be read through once more for a tag.
    response.status(answer.status).type('application/json');
    response.end(Buffer.from(answer.text.buffer, answer.text.byteOffset, answer.text.byteLength));
  };
  const raw = (limit: number): RequestHandler => express.raw({ limit, type: () => true });
  const app = express();
  app.disable('x-powered-by');
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          'default-src': ["'self'"],
          'script-src': ["'self'", "'wasm-unsafe-eval'"],
          'worker-src': ["'self'", 'blob:'],
          'style-src': ["'self'", "'unsafe-inline'"],
          'img-src': ["'self'", 'data:', 'blob:'],
          'object-src': ["'none'"],
          'base-uri': ["'self'"],
          'form-action': ["'self'"],
          'frame-ancestors': ["'none'"],
        },
      },
      strictTransportSecurity: false,
    }),
  );
  app.use(
    pinoHttp({
      logger: log,
      genReqId: (_request, response) => {
        const id = randomUUID();
        response.setHeader('X-Request-Id', id);
        return id;
      },
      customLogLevel: (_request, response) => (response.statusCode >= 500 ? 'error' : 'info'),
      serializers: {
        // The path names the house; what is asked in a query may be a name.
        req: ({ id, method, url }) => ({ id, method, path: String(url).split('?')[0] }),
        res: ({ statusCode }) => ({ statusCode }),
        err: plainError,
      },
    }),
  );
  app.use(onlyOwnHosts(hosts));
  // A stream of events goes out as it comes.
  const isNoStream = (request: Request, response: Response): boolean =>
    !/^\/api\/live\b/.test(request.path) && compression.filter(request, response);
  app.use(compression({ filter: isNoStream }));

  const api = express.Router();
  api.use((_request, response, next) => {
    response.setHeader('Cache-Control', 'no-store');
    // A page that is older keeps what it has, and loads anew.
    response.setHeader('X-Change-Version', CHANGE_VERSION);
    // Which database the answer is of, as it is known when the answer goes out.
    const send = response.send.bind(response);
    response.send = (body) => {
      if (houses.epoch && !response.hasHeader('X-Epoch')) response.setHeader('X-Epoch', houses.epoch);
      return send(body);
    };
    next();
  });
  api.use(onlyOwnPages);
  api.get('/health', (_request, response) => void response.json({ status: 'up' }));
  api.get('/ready', async (_request, response) => {
    if (!(await isReachable(orm)))
      throw new HttpProblem(503, 'database.away', 'The database cannot be reached.');
    response.json({ status: 'ready' });
  });
  api.get('/house-file.schema.json', (_request, response) => void response.json(houseFileJsonSchema()));
  api.get('/jurisdiction-file.schema.json', (_request, response) => void response.json(codeFileJsonSchema()));
  const door = givenDoor ?? new Door(orm, houses.crew);
  api.use(identify(door));
  api.use(peopleRoutes(door));
  api.use(onlyKnown);

  api.use('/assets', assetRoutes(new AssetStore(orm)));

  api.get('/crew', async (_request, response) => {
    const { id, name, people } = (await houses.crew.read(crewOf(response))).file;
    response.json({ id, name, people: peopleFor(callerOf(response), people) });
  });
  api.post('/crew/people', express.json({ limit: LIMITS.requestBytes }), async (request, response) => {
    asLead(callerOf(response));
    const person = checked(NewPerson, request.body);
    const [known] = await houses.crew.join(crewOf(response), [person]);
    response.status(201).json(known && { id: known.id, name: known.name });
  });
  api.get('/crew/book', async (_request, response) => {
    const { file, ...at } = await houses.crew.read(crewOf(response));
    response.json({ file: bookFor(callerOf(response), file), ...at });
  });
  api.post('/crew/book/changes', raw(LIMITS.crewBytes), async (request, response) => {
    const body = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
    const caller = callerOf(response);
    const changes = batchIn(new TextDecoder().decode(body))
      .map(readCrewChange)
      .map((read) => withWord(caller, read));
    response.json(await houses.crew.apply([crewOf(response)], changes, () => request.socket.destroyed));
  });
  api.use('/crew/book/journal', (_request, response, next) => {
    asMember(callerOf(response));
    next();
  });
  api.get('/crew/book/journal/:changeId', async (request, response) => {
    const entry = await houses.crew.entry([crewOf(response)], changeIdOf(request, 'crew'));
    response.json((await houses.crew.shown(crewOf(response), [entry]))[0]);
  });
  api.get('/crew/book/journal', async (request, response) => {
    const page = await houses.crew.journal([crewOf(response)], pageOf(request));
    response.json({ ...page, entries: await houses.crew.shown(crewOf(response), page.entries) });
  });

  api.get('/crew/reels', async (_request, response) => {
    asMember(callerOf(response));
    response.json(await houses.reelUsage(crewOf(response)));
  });

  api.get('/crew/faults', async (_request, response) => {
    asMember(callerOf(response));
    response.json(await houses.faultsFound(crewOf(response)));
  });

  api.get('/houses', async (request, response) => {
    const page = checked(HousesQuery, request.query);
    const { crewId, houseId } = callerOf(response);
    response.setHeader('X-Total-Count', houseId ? 1 : await houses.count(crewId));
    response.json(await houses.list(crewId, page, houseId));
  });
  api.post('/houses', express.json({ limit: LIMITS.requestBytes }), async (request, response) => {
    asLead(callerOf(response));
    const head = checked(NewHouse, request.body);
    const how = await houses.create(crewOf(response), head);
    response.status(how === 'made' ? 201 : 200).json({ id: head.id, how });
  });
  api.post('/houses/import', raw(LIMITS.fileBytes), async (request, response) => {
    const caller = callerOf(response);
    asLead(caller);
    const onExisting = checked(OnExisting, request.query['onExisting'] ?? 'refuse');
    const own = caller.actor?.id;
    const actorId = own ?? checked(Id.default(personOfVersion1(IMPORT)), request.query['actorId']);
    if (!own && request.query['actorId'] === undefined)
      await houses.crew.know(crewOf(response), new Set([IMPORT]));
    await doing({ kind: 'import', caller, actorId, onExisting }, request, response);
  });
  api.get('/houses/:houseId', async (request, response) => {
    await doing({ kind: 'read', key: keyOf(request, response) }, request, response);
  });
  api.get('/houses/:houseId/file', async (request, response) => {
    await doing({ kind: 'file', key: keyOf(request, response) }, request, response);
  });
  api.post(
    '/houses/:houseId/duplicate',
    express.json({ limit: LIMITS.requestBytes }),
    async (request, response) => {
      asLead(callerOf(response));
      const { id, name } = checked(DuplicateHouse, request.body);
      await doing({ kind: 'duplicate', key: keyOf(request, response), id, name }, request, response);
    },
  );
  api.post('/houses/:houseId/changes', raw(LIMITS.changeBytes), async (request, response) => {
    const key = keyOf(request, response);
    await doing({ kind: 'changes', key, caller: callerOf(response) }, request, response);
  });
  api.get('/houses/:houseId/journal/:changeId', async (request, response) => {
    const id = changeIdOf(request, 'house');
    response.json(await houses.entry(houseKey(keyOf(request, response)), id));
  });
  api.get('/houses/:houseId/journal', async (request, response) => {
    response.json(await houses.journal(houseKey(keyOf(request, response)), pageOf(request)));
  });
  api.get('/houses/:houseId/held', async (request, response) => {
    asMember(callerOf(response));
    response.json(await houses.heldChanges(keyOf(request, response)));
  });
  api.post(
    '/houses/:houseId/held/:changeId',
    express.json({ limit: LIMITS.requestBytes }),
    async (request, response) => {
      const caller = callerOf(response);
      asLead(caller, keyOf(request, response).houseId);
      const { take } = checked(HeldDecision, request.body);
      const word = caller.actor ? { actor: caller.actor } : {};
      const changeId = String(request.params['changeId']);
      response.json((await houses.decide(keyOf(request, response), changeId, take, word)) ?? {});
    },
  );
  if (live) {
    api.get('/live', (request, response) => live.open(callerOf(response), request, response));
    api.post('/houses/:houseId/here', express.json({ limit: LIMITS.requestBytes }), (request, response) => {
      const { houseId } = keyOf(request, response);
      live.here(callerOf(response), houseId, checked(HereAsked, request.body).roomId ?? undefined);
      response.json({});
    });
  }
  api.use(() => {
    throw new HttpProblem(404, 'request.unknown', 'There is nothing at this address.');
  });
  app.use('/api', api);

  if (webFolder && existsSync(webFolder)) {
    const index = join(webFolder, 'index.html');
    app.use(
      express.static(webFolder, {
        index: false,
        setHeaders: (response, path) => {
          // What has its content's hash in its name never changes; the page itself does.
          const isHashed = /[-.][A-Z0-9]{8}\.\w+$/.test(path);
          response.setHeader('Cache-Control', isHashed ? 'public, max-age=31536000, immutable' : 'no-cache');
        },
      }),
    );
    app.get('/{*splat}', (request, response) => {
      if (/\.\w{1,8}$/.test(request.path))
        throw new HttpProblem(404, 'request.unknown', 'There is nothing at this address.');
      response.setHeader('Cache-Control', 'no-cache');
      response.sendFile(index);
    });
  }
  app.use(() => {
    throw new HttpProblem(404, 'request.unknown', 'There is nothing at this address.');
  });

  app.use((error: unknown, request: Request, response: Response, next: NextFunction) => {
    if (response.headersSent) return next(error);
    const problem = problemFor(error);
    if (problem.status === 500) request.log.error({ err: plainError(error) }, 'request failed');
    if (problem.more.retryAfter) response.setHeader('Retry-After', problem.more.retryAfter);
    response
      .status(problem.status)
      .type('application/problem+json')
      .send(JSON.stringify({ ...problem.body(), requestId: request.id }));
  });
  return app;
}
