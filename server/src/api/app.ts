import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import {
  ChangeBatch,
  DuplicateHouse,
  NewHouse,
  NewPerson,
  OnExisting,
  houseFileJsonSchema,
  problemsOf,
  readHouseFile,
} from '@mule-tally/core';
import type { Express, NextFunction, Request, RequestHandler, Response } from 'express';
import express from 'express';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import * as z from 'zod';
import { HouseStore } from '../houses/house-store.js';
import type { HouseKey } from '../houses/rows.js';
import { CrewEntity, PersonEntity } from '../storage/entities.js';
import { LOCAL_CREW } from '../storage/local-crew.js';
import type { Orm } from '../storage/orm.js';
import { HttpProblem, isDatabaseAway, problemFor } from './problem.js';

export interface AppOptions {
  readonly orm: Orm;
  readonly log: Logger;
  /** Folder of the built web app; without it only the API is served. */
  readonly webFolder?: string;
}

const Uuid = z.uuid().lowercase();
const JournalQuery = z.object({
  after: z.coerce.number().int().min(0).optional(),
  before: z.coerce.number().int().min(1).optional(),
  limit: z.coerce.number().int().min(1).max(500).default(100),
});

/** What was sent, checked against its schema; else a problem that lists everything wrong. */
function checked<S extends z.ZodType>(schema: S, input: unknown): z.infer<S> {
  const parsed = schema.safeParse(input, { reportInput: true });
  if (parsed.success) return parsed.data;
  const problems = problemsOf(parsed.error.issues).map((problem) => ({
    ...problem,
    code: problem.code.replace('file.', 'request.'),
  }));
  throw new HttpProblem(400, 'request.invalid', problems[0]?.message ?? 'This request is not understood.', {
    problems,
  });
}

const LOOPBACK = new Set(['127.0.0.1', 'localhost', '[::1]']);

/** Until people sign in this serves this machine only, whatever name a web page elsewhere gives it. */
const onlyLoopback: RequestHandler = (request, _response, next) => {
  const host = (request.headers.host ?? '').replace(/:\d+$/, '');
  if (!LOOPBACK.has(host))
    throw new HttpProblem(403, 'request.other-host', 'Mule Tally answers on this machine only.');
  next();
};

/** The place of sign-in: everything below asks for the crew of the request and nothing else. */
const identify: RequestHandler = (_request, response, next) => {
  response.locals['crewId'] = LOCAL_CREW;
  next();
};
const crewOf = (response: Response): string => response.locals['crewId'] as string;
const keyOf = (request: Request, response: Response): HouseKey => {
  const id = Uuid.safeParse(request.params['houseId']);
  if (!id.success) throw new HttpProblem(404, 'house.unknown', 'There is no such house here.');
  return { crewId: crewOf(response), houseId: id.data };
};

export function createApp({ orm, log, webFolder }: AppOptions): Express {
  const houses = new HouseStore(orm, randomUUID);
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
          'img-src': ["'self'", 'data:'],
          'object-src': ["'none'"],
          'base-uri': ["'self'"],
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
        req: ({ id, method, url }) => ({ id, method, url }),
        res: ({ statusCode }) => ({ statusCode }),
      },
    }),
  );
  app.use(onlyLoopback);

  const api = express.Router();
  api.use((_request, response, next) => {
    response.setHeader('Cache-Control', 'no-store');
    next();
  });
  api.get('/health', (_request, response) => void response.json({ status: 'up' }));
  api.get('/ready', async (_request, response) => {
    const there = await orm.em
      .fork()
      .getConnection()
      .execute('select 1')
      .catch(() => undefined);
    if (!there) throw new HttpProblem(503, 'database.away', 'The database cannot be reached.');
    response.json({ status: 'ready' });
  });
  api.get('/house-file.schema.json', (_request, response) => void response.json(houseFileJsonSchema()));
  api.use(identify);

  api.get('/crew', async (_request, response) => {
    const em = orm.em.fork();
    const crew = await em.findOneOrFail(CrewEntity, { id: crewOf(response) });
    const people = await em.find(
      PersonEntity,
      { crewId: crew.id },
      { orderBy: { addedAt: 'asc', name: 'asc' } },
    );
    response.json({ id: crew.id, name: crew.name, people: people.map(({ name }) => name) });
  });
  api.post('/crew/people', express.json({ limit: '10kb' }), async (request, response) => {
    const { name } = checked(NewPerson, request.body);
    await orm.em
      .fork()
      .upsert(
        PersonEntity,
        { crewId: crewOf(response), name, addedAt: new Date() },
        { onConflictAction: 'ignore' },
      );
    response.status(201).json({ name });
  });

  api.get('/houses', async (_request, response) => {
    response.json(await houses.list(crewOf(response)));
  });
  api.post('/houses', express.json({ limit: '10kb' }), async (request, response) => {
    const head = checked(NewHouse, request.body);
    const how = await houses.create(crewOf(response), head);
    response.status(how === 'made' ? 201 : 200).json({ id: head.id });
  });
  // Read as text, so that a file that is not JSON gets the reader's own sentence.
  api.post('/houses/import', express.text({ limit: '16mb', type: () => true }), async (request, response) => {
    const onExisting = checked(OnExisting, request.query['onExisting'] ?? 'refuse');
    const by = checked(z.string().min(1).max(200).default('Import'), request.query['by']);
    const read = readHouseFile(typeof request.body === 'string' ? request.body : '');
    if (!read.ok) {
      const [first] = read.problems;
      const detail =
        read.problems.length === 1
          ? first!.message
          : `This file has ${read.problems.length} problems. Nothing was taken in.`;
      throw new HttpProblem(422, first!.code, detail, { problems: read.problems });
    }
    response.status(201).json(await houses.import(crewOf(response), read.file, by, onExisting));
  });
  api.get('/houses/:houseId', async (request, response) => {
    response.json(await houses.read(keyOf(request, response)));
  });
  api.get('/houses/:houseId/file', async (request, response) => {
    const { file } = await houses.read(keyOf(request, response));
    const name = file.name.replace(/[^A-Za-z0-9 _-]+/g, '').trim() || 'house';
    response.setHeader('Content-Disposition', `attachment; filename="${name}.house.json"`);
    response.type('application/json').send(`${JSON.stringify(file, null, 1)}\n`);
  });
  api.post('/houses/:houseId/duplicate', express.json({ limit: '10kb' }), async (request, response) => {
    const { id, name } = checked(DuplicateHouse, request.body);
    const how = await houses.duplicate(keyOf(request, response), id, name);
    response.status(how === 'made' ? 201 : 200).json({ id });
  });
  api.post('/houses/:houseId/changes', express.json({ limit: '8mb' }), async (request, response) => {
    const { changes } = checked(ChangeBatch, request.body);
    response.json(await houses.applyBatch(keyOf(request, response), changes));
  });
  api.get('/houses/:houseId/journal', async (request, response) => {
    const page = checked(JournalQuery, request.query);
    response.json(
      await houses.journal(keyOf(request, response), {
        limit: page.limit,
        ...(page.after !== undefined && { after: page.after }),
        ...(page.before !== undefined && { before: page.before }),
      }),
    );
  });
  // Live updates (server-sent events fed by LISTEN/NOTIFY) get their route here.
  api.use(() => {
    throw new HttpProblem(404, 'request.unknown', 'There is nothing at this address.');
  });
  app.use('/api', api);

  if (webFolder && existsSync(webFolder)) {
    const index = join(webFolder, 'index.html');
    // Everything but the page itself has its content's hash in its name.
    app.use(express.static(webFolder, { index: false, immutable: true, maxAge: '1y' }));
    app.get('/{*splat}', (_request, response) => {
      response.setHeader('Cache-Control', 'no-cache');
      response.sendFile(index);
    });
  }

  app.use((error: unknown, request: Request, response: Response, next: NextFunction) => {
    if (response.headersSent) return next(error);
    const problem = problemFor(error);
    if (problem.status >= 500 && !isDatabaseAway(error)) request.log.error({ err: error }, 'request failed');
    response
      .status(problem.status)
      .type('application/problem+json')
      .send(JSON.stringify({ ...problem.body(), requestId: request.id }));
  });
  return app;
}
