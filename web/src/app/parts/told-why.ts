import { Refused, ServerAway } from '../sync/api';

/** Why the server did not do something, in a sentence. */
export function toldWhy(error: unknown): string {
  if (error instanceof Refused || error instanceof ServerAway) return error.message;
  return $localize`That did not work. Try again.`;
}
