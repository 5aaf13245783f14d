import { AssetId, AssetUse, LIMITS } from '@mule-tally/core';
import express from 'express';
import type { Request, Router } from 'express';
import type { AssetStore } from '../assets/asset-store.js';
import { asMember } from '../people/caller.js';
import { callerOf } from './identify.js';
import { HttpProblem } from './problem.js';

const UNKNOWN = [
  404,
  'asset.unknown',
  'This picture is not here. It may still be on its way from the device that it was taken with.',
] as const;

const hashIn = (request: Request): string => {
  const hash = AssetId.safeParse(request.params['sha256']);
  if (hash.success) return hash.data;
  throw new HttpProblem(...UNKNOWN);
};

/** Pictures, by their hashes. Whoever has a link to one house sees the pictures of that house. */
export function assetRoutes(assets: AssetStore): Router {
  const routes = express.Router();
  routes.put(
    '/:sha256',
    (_request, response, next) => {
      asMember(callerOf(response));
      next();
    },
    express.raw({ limit: LIMITS.assetBytes, type: () => true }),
    async (request, response) => {
      const body = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
      // What it is kept for says how large it may be; a device that does not say so yet sends plan sheets.
      const use = AssetUse.catch('sheet').parse(request.query['as']);
      const how = await assets.keep(callerOf(response).crewId, hashIn(request), body, use);
      response.status(how === 'kept' ? 201 : 200).json({ how });
    },
  );
  routes.get('/:sha256', async (request, response) => {
    const { crewId, houseId } = callerOf(response);
    const kept = await assets.read(crewId, hashIn(request), houseId);
    if (!kept) throw new HttpProblem(...UNKNOWN);
    // Its bytes never change; who may see them is asked each time, so no store between us keeps it.
    response.setHeader('Cache-Control', 'private, no-cache');
    response.setHeader('Content-Security-Policy', "default-src 'none'; sandbox");
    response.type(kept.type);
    response.end(kept.bytes);
  });
  return routes;
}
