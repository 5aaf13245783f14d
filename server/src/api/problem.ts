import type { Problem, ProblemDetails } from '@mule-tally/core';

/** An answer that is not the wished one, as RFC 9457 problem details with a stable code. */
export class HttpProblem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    readonly detail: string,
    readonly more: { readonly problems?: readonly Problem[]; readonly [key: string]: unknown } = {},
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
  403: 'Not allowed',
  404: 'Not found',
  409: 'Conflict',
  413: 'Too large',
  415: 'Not JSON',
  422: 'Not accepted',
  500: 'Our mistake',
  503: 'Not available',
};

/** Errors that say that the database is away, whatever the layer that noticed. */
const AWAY = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  'ETIMEDOUT',
  '57P01',
  '57P02',
  '57P03',
  '08006',
  '08001',
  '53300',
]);

export function isDatabaseAway(error: unknown): boolean {
  for (let at = error; at instanceof Error; at = at.cause ?? (at as { previous?: unknown }).previous) {
    const { code } = at as { code?: string };
    if (code && AWAY.has(code)) return true;
    if (
      /Connection terminated|timeout exceeded when trying to connect|Timeout acquiring a connection|the database system is/i.test(
        at.message,
      )
    ) {
      return true;
    }
  }
  return false;
}

/** What a person and a program are told about any error. */
export function problemFor(error: unknown): HttpProblem {
  if (error instanceof HttpProblem) return error;
  if (isDatabaseAway(error)) {
    return new HttpProblem(
      503,
      'database.away',
      'The database cannot be reached. What you entered is kept; try again in a moment.',
    );
  }
  const { type, status } = error as { type?: string; status?: number };
  if (type === 'entity.too.large') {
    return new HttpProblem(413, 'body.too-large', 'This is too large. A house file may have up to 16 MB.');
  }
  if (type === 'entity.parse.failed') return new HttpProblem(400, 'body.not-json', 'The body is not JSON.');
  if (status && status >= 400 && status < 500)
    return new HttpProblem(status, 'request.invalid', 'This request is not understood.');
  return new HttpProblem(
    500,
    'server.failed',
    'Something went wrong on the server. Nothing was half-applied; try again.',
  );
}
