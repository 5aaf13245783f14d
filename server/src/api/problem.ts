import type { Problem, ProblemDetails } from '@mule-tally/core';
import { LIMITS, megabytes } from '@mule-tally/core';

/** An answer that is not the wished one, as RFC 9457 problem details with a stable code. */
export class HttpProblem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    readonly detail: string,
    /** Fields of the problem; `retryAfter` in seconds becomes a header too. */
    readonly more: {
      readonly problems?: readonly Problem[];
      readonly retryAfter?: number;
      readonly [key: string]: unknown;
    } = {},
  ) {
    super(detail);
  }

  body(): ProblemDetails {
    return {
      type: `urn:mule-tally:problem:${this.code}`,
      title: TITLES[this.status] ?? 'Problem',
      status: this.status,
      code: this.code,
      detail: this.detail,
      ...this.more,
    } as ProblemDetails;
  }
}

const TITLES: Record<number, string> = {
  400: 'Not understood',
  401: 'Not signed in',
  403: 'Not allowed',
  404: 'Not found',
  409: 'Conflict',
  413: 'Too large',
  415: 'Not JSON',
  422: 'Not accepted',
  429: 'Too many tries',
  500: 'Our mistake',
  503: 'Not available',
};

/** Errors that say that the database is away, or takes nothing now, whatever the layer that noticed (SQLSTATE or errno). */
const AWAY = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  'ETIMEDOUT',
  'ENOTFOUND',
  'EAI_AGAIN',
  'EHOSTUNREACH',
  'ENETUNREACH',
  // A standby that has not been promoted yet; a database that is not there, or lets nobody in.
  '25006',
  '25P03',
  '3D000',
  '28000',
  '28P01',
]);
/** Classes of SQLSTATE: connection, resources, operator, system. */
const AWAY_CLASSES = /^(08|53|57P|58)/;
/** A lock that was not had in time, or a statement that took too long: somebody else holds the house. */
const HELD = new Set(['55P03', '57014', '40P01', '40001']);

function* causes(error: unknown): Generator<Error & { code?: string }> {
  for (let at = error; at instanceof Error; at = at.cause ?? (at as { previous?: unknown }).previous)
    yield at;
}

export function isDatabaseAway(error: unknown): boolean {
  for (const { code, message } of causes(error)) {
    if (code && (AWAY.has(code) || (/^[0-9A-Z]{5}$/.test(code) && AWAY_CLASSES.test(code)))) return true;
    if (
      /Connection terminated|timeout exceeded when trying to connect|Timeout acquiring a connection|the database system is|Client has encountered a connection error|Unable to acquire a connection|Transaction query already complete/i.test(
        message,
      )
    )
      return true;
  }
  return false;
}

export function isHouseHeld(error: unknown): boolean {
  for (const { code } of causes(error)) if (code && HELD.has(code)) return true;
  return false;
}

/** There is a row of this key already. */
export function isTaken(error: unknown): boolean {
  for (const { code } of causes(error)) if (code === '23505') return true;
  return false;
}

/** What a person and a program are told about any error. */
export function problemFor(error: unknown): HttpProblem {
  if (error instanceof HttpProblem) return error;
  if (isHouseHeld(error)) {
    return new HttpProblem(
      503,
      'house.busy',
      'This house is busy. What you entered is kept; it is sent again in a moment.',
      { retryAfter: 2 },
    );
  }
  if (isDatabaseAway(error)) {
    return new HttpProblem(
      503,
      'database.away',
      'The database cannot be reached. What you entered is kept; try again in a moment.',
      { retryAfter: 2 },
    );
  }
  const { type, status, limit } = error as { type?: string; status?: number; limit?: number };
  if (type === 'entity.too.large') {
    const most = limit ?? LIMITS.fileBytes;
    return new HttpProblem(
      413,
      'body.too-large',
      `This is too large: at most ${most >= 1024 * 1024 ? megabytes(most) : `${Math.round(most / 1024)} kB`} are taken here.`,
    );
  }
  if (type === 'entity.parse.failed') return new HttpProblem(400, 'body.not-json', 'The body is not JSON.');
  if (status && status >= 400 && status < 500)
    return new HttpProblem(status, 'request.invalid', 'This request is not understood.');
  return new HttpProblem(
    500,
    'server.failed',
    'Something went wrong on the server. What was sent may or may not have been taken: send it again, each change is taken once.',
  );
}
