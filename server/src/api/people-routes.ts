import {
  AccountAsked,
  DeviceSet,
  Id,
  LIMITS,
  PairIn,
  PairingAsked,
  PairingLook,
  SetUp,
  SignIn,
} from '@mule-tally/core';
import express from 'express';
import type { Request, RequestHandler, Router } from 'express';
import { asMember } from '../people/caller.js';
import type { Door } from '../people/door.js';
import { checked } from './checked.js';
import { deviceKeyIn, dropFrom, keepIn, sessionIn } from './cookies.js';
import { callerOf, maybeCaller, onlyKnown, sourceOf } from './identify.js';

const json = express.json({ limit: LIMITS.requestBytes });
const idIn = (request: Request, name: string): string => checked(Id, request.params[name]);

/** Coming in and going out, and what leads decide about people's devices. */
export function peopleRoutes(door: Door): Router {
  const routes = express.Router();
  routes.get('/me', async (_request, response) => {
    response.json(await door.me(maybeCaller(response)));
  });
  routes.post('/set-up', json, async (request, response) => {
    const kept = await door.setUp(checked(SetUp, request.body), sourceOf(request), deviceKeyIn(request));
    keepIn(response, request, kept);
    response.status(201).json({});
  });
  routes.post('/sign-in', json, async (request, response) => {
    const kept = await door.signIn(checked(SignIn, request.body), sourceOf(request), deviceKeyIn(request));
    keepIn(response, request, kept);
    response.json({});
  });
  routes.post('/pair/look', json, async (request, response) => {
    response.json(await door.look(checked(PairingLook, request.body).secret, sourceOf(request)));
  });
  routes.post('/pair', json, async (request, response) => {
    const kept = await door.pair(checked(PairIn, request.body), sourceOf(request), deviceKeyIn(request));
    keepIn(response, request, kept);
    response.status(201).json({});
  });
  routes.post('/sign-out', async (request, response) => {
    const caller = maybeCaller(response);
    const secret = sessionIn(request);
    // A second tab that signs out too has nothing left to do.
    if (caller && secret) await door.sessions.end(caller.crewId, secret);
    dropFrom(response, request);
    response.json({});
  });

  const members: RequestHandler[] = [
    onlyKnown,
    (_request, response, next) => {
      asMember(callerOf(response));
      next();
    },
  ];
  for (const path of ['/account', '/pairings', '/devices']) routes.use(path, members);
  routes.post('/account', json, async (request, response) => {
    await door.setAccount(callerOf(response), checked(AccountAsked, request.body));
    response.json({});
  });
  routes.post('/pairings', json, async (request, response) => {
    response.status(201).json(await door.invite(callerOf(response), checked(PairingAsked, request.body)));
  });
  routes.get('/pairings', async (_request, response) => {
    response.json(await door.links(callerOf(response)));
  });
  routes.get('/pairings/:id', async (request, response) => {
    response.json(await door.invited(callerOf(response), idIn(request, 'id')));
  });
  routes.delete('/pairings/:id', async (request, response) => {
    await door.uninvite(callerOf(response), idIn(request, 'id'));
    response.json({});
  });
  routes.get('/devices', async (_request, response) => {
    response.json(await door.devices(callerOf(response)));
  });
  routes.post('/devices/:id', json, async (request, response) => {
    await door.setDevice(callerOf(response), idIn(request, 'id'), checked(DeviceSet, request.body));
    response.json({});
  });
  routes.delete('/devices/:id', async (request, response) => {
    await door.revoke(callerOf(response), idIn(request, 'id'));
    response.json({});
  });
  return routes;
}
