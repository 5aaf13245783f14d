import * as z from 'zod';

/** Four to eight figures that let somebody take their turn on a shared device, with a network or without. */
export const Pin = z.string().regex(/^\d{4,8}$/, $localize`A PIN has four to eight figures.`);

const Kept = z.record(z.string(), z.strictObject({ salt: z.string(), hash: z.string() }));
const NAME = 'mule-tally.pins';
/** How often a figure is turned over: half a second's work for whoever guesses, on a phone. */
const ROUNDS = 300_000;
/** Wrong tries in a row before one has to wait, and how long, doubling. Milliseconds. */
const TRIES = 5;
const WAIT = 30_000;

const read = (): z.infer<typeof Kept> => {
  try {
    return Kept.parse(JSON.parse(localStorage.getItem(NAME) ?? '{}'));
  } catch {
    return {};
  }
};
const text = (bytes: ArrayBuffer | Uint8Array): string =>
  btoa(String.fromCharCode(...new Uint8Array(bytes as ArrayBuffer)));
const bytes = (given: string): Uint8Array<ArrayBuffer> =>
  Uint8Array.from(atob(given), (letter) => letter.charCodeAt(0));

async function hashed(pin: string, salt: Uint8Array<ArrayBuffer>): Promise<string> {
  const key = await crypto.subtle.importKey('raw', new TextEncoder().encode(pin), 'PBKDF2', false, [
    'deriveBits',
  ]);
  const how = { name: 'PBKDF2', hash: 'SHA-256', salt, iterations: ROUNDS };
  return text(await crypto.subtle.deriveBits(how, key, 256));
}

export const hasPin = (personId: string): boolean => Object.hasOwn(read(), personId);

/** Sets the PIN of somebody who has just signed in on this device. */
export async function setPin(personId: string, pin: string): Promise<void> {
  const salt = crypto.getRandomValues(new Uint8Array(16));
  const kept = { ...read(), [personId]: { salt: text(salt), hash: await hashed(pin, salt) } };
  localStorage.setItem(NAME, JSON.stringify(kept));
}

const failed = new Map<string, { count: number; until: number }>();

/** Whether it is their PIN; `wait` after too many wrong ones, theirs alone. */
export async function isPin(personId: string, pin: string, now = Date.now()): Promise<boolean | 'wait'> {
  const kept = read()[personId];
  const before = failed.get(personId) ?? { count: 0, until: 0 };
  if (now < before.until) return 'wait';
  if (kept && (await hashed(pin, bytes(kept.salt))) === kept.hash) {
    failed.delete(personId);
    return true;
  }
  const count = before.count + 1;
  const until = count < TRIES ? 0 : now + WAIT * 2 ** (count - TRIES);
  failed.set(personId, { count, until });
  return false;
}
