import type { RequestHandler } from 'express';
import { HttpProblem } from './problem.js';

const LOOPBACK = new Set(['127.0.0.1', 'localhost', '[::1]']);

/** Answers to this machine and to the names that it is served under, whatever name a web page elsewhere gives it. */
export const onlyOwnHosts =
  (names: readonly string[] = []): RequestHandler =>
  (request, _response, next) => {
    const host = (request.headers.host ?? '').replace(/:\d+$/, '').toLowerCase();
    if (!LOOPBACK.has(host) && !names.includes(host))
      throw new HttpProblem(403, 'request.other-host', 'Mule Tally answers on this machine only.');
    next();
  };

/**
 * Writes come from this program's own pages, or from no browser at all. A page of another origin in the same browser says so
 * by `Origin` or `Sec-Fetch-Site`, and could not send JSON unasked anyway: every write has to be that.
 */
export const onlyOwnPages: RequestHandler = (request, _response, next) => {
  if (request.method === 'GET' || request.method === 'HEAD') return next();
  const { origin, host } = request.headers;
  const site = request.headers['sec-fetch-site'];
  const isForeign =
    (origin !== undefined && origin !== `http://${host}` && origin !== `https://${host}`) ||
    (site !== undefined && site !== 'same-origin');
  if (isForeign)
    throw new HttpProblem(
      403,
      'request.other-origin',
      'This was sent by a page of another address. Nothing was taken.',
    );
  const type = request.headers['content-type'] ?? '';
  // Nor could it put a picture: only this program's own scripts send a PUT.
  const isPicture = request.method === 'PUT' && /^image\//i.test(type);
  if (!isPicture && !/^application\/json\s*(;|$)/i.test(type))
    throw new HttpProblem(415, 'body.not-json-type', 'A write is sent as application/json.');
  next();
};
