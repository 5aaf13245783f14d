import type { Request, Response } from 'express';
import type { Kept } from '../people/sessions.js';

/** With TLS the browser itself holds a cookie to this host and to TLS, by its name. */
const nameOf = (request: Request, name: string): string => (request.secure ? `__Host-${name}` : name);

const SESSION = 'mule-tally';
const DEVICE = 'mule-tally-device';
/** How long a device goes by its key, in ms: a year. */
const KNOWN = 365 * 86_400_000;

function cookie(request: Request, name: string): string | undefined {
  const wanted = `${nameOf(request, name)}=`;
  const found = (request.headers.cookie ?? '').split(/;\s*/).find((one) => one.startsWith(wanted));
  return found?.slice(wanted.length) || undefined;
}

export const sessionIn = (request: Request): string | undefined => cookie(request, SESSION);
export const deviceKeyIn = (request: Request): string | undefined => cookie(request, DEVICE);

const rules = (request: Request) =>
  ({ httpOnly: true, sameSite: 'lax', secure: request.secure, path: '/' }) as const;

/** Gives the browser what it is known by; no script of any page can read it. */
export function keepIn(response: Response, request: Request, { session, endsAt, deviceKey }: Kept): void {
  response.cookie(nameOf(request, SESSION), session, { ...rules(request), expires: endsAt });
  if (deviceKey) response.cookie(nameOf(request, DEVICE), deviceKey, { ...rules(request), maxAge: KNOWN });
}

export const dropFrom = (response: Response, request: Request): void =>
  void response.clearCookie(nameOf(request, SESSION), rules(request));
