import { hash, verify } from '@node-rs/argon2';
import common from '@zxcvbn-ts/language-common';
import { HttpProblem } from '../api/problem.js';

/** OWASP password storage cheat sheet, argon2id: 19 MiB, two passes, one lane (from memory). */
const COST = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };
/** At once, and waiting: each takes 19 MiB and some forty milliseconds. */
const AT_ONCE = 2;
const WAITING = 60;

let running = 0;
const waiting: (() => void)[] = [];
async function inTurn<T>(work: () => Promise<T>): Promise<T> {
  if (running >= AT_ONCE) {
    if (waiting.length >= WAITING)
      throw new HttpProblem(503, 'server.busy', 'Too many are signing in just now. Try again in a moment.', {
        retryAfter: 3,
      });
    await new Promise<void>((resolve) => waiting.push(resolve));
  }
  running++;
  try {
    return await work();
  } finally {
    running--;
    waiting.shift()?.();
  }
}

export const hashPassword = (password: string): Promise<string> => inTurn(() => hash(password, COST));

let nobody: Promise<string> | undefined;
/** Whether it is the password. Takes as long where there is no such person. */
export async function isPassword(kept: string | undefined, password: string): Promise<boolean> {
  const against = kept ?? (await (nobody ??= hashPassword('nobody has this')));
  const isRight = await inTurn(() => verify(against, password));
  return isRight && kept !== undefined;
}

/** Those that everybody tries first: a list of common ones that the library ships. */
const COMMON: ReadonlySet<string> = new Set(common.dictionary['passwords-common'] as readonly string[]);
/** A common password with figures or signs before and behind it is as easily tried. */
const bare = (password: string): string => password.toLowerCase().replace(/^[^a-z]+|[^a-z]+$/g, '');

/** Why a password will not do; nothing where it will. `words` are what is known of its owner: names, the crew's, the login. */
export function passwordProblem(password: string, words: readonly string[]): HttpProblem | undefined {
  const lower = password.toLowerCase();
  const isOwn = words.some((word) => word.length > 2 && bare(lower) === bare(word));
  const isOne = new Set(lower).size < 4;
  if (!COMMON.has(lower) && !COMMON.has(bare(lower)) && !isOwn && !isOne) return undefined;
  return new HttpProblem(
    422,
    'password.common',
    'This password is one of those that are tried first. Take another: a few words in a row are easy to keep in mind.',
  );
}
