import type { Request, RequestHandler, Response } from 'express';
import type { Caller } from '../people/caller.js';
import type { Door } from '../people/door.js';
import { LOCAL_CREW } from '../storage/local-crew.js';
import { dropFrom, keepIn, sessionIn } from './cookies.js';
import { HttpProblem } from './problem.js';

const LOOPBACK = /^(::ffff:)?127\.|^::1$/;

/** Who asks, where they are known; sets the cookie anew when its time has come, and takes one back that opens nothing. */
export const identify =
  (door: Door): RequestHandler =>
  async (request, response, next) => {
    const secret = sessionIn(request);
    const found = secret ? await door.sessions.find(secret) : undefined;
    if (found?.renewed) keepIn(response, request, found.renewed);
    if (secret && !found) dropFrom(response, request);
    // Before the crew is set up, whoever sits at this machine works for it.
    const isHere = LOOPBACK.test(request.socket.remoteAddress ?? '');
    const caller: Caller | undefined =
      found?.caller ??
      (isHere && !(await door.isSetUp()) ? { crewId: LOCAL_CREW, standing: 'local' } : undefined);
    response.locals['caller'] = caller;
    next();
  };

/** Lets nobody on who is not known. */
export const onlyKnown: RequestHandler = (_request, response, next) => {
  if (response.locals['caller']) return next();
  throw new HttpProblem(401, 'session.none', 'Nobody is signed in on this device.');
};

export const maybeCaller = (response: Response): Caller | undefined =>
  response.locals['caller'] as Caller | undefined;
export const callerOf = (response: Response): Caller => maybeCaller(response)!;

/** Where a try comes from, as far as the connection tells. */
export const sourceOf = (request: Request): string => request.socket.remoteAddress ?? '';
