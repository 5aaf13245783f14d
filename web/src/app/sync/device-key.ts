import type { DeviceAsked } from '@mule-tally/core';
import { openDB } from 'idb';

const KEY = { name: 'ECDSA', namedCurve: 'P-256' } as const;
const opened = () => openDB('mule-tally-key', 1, { upgrade: (db) => void db.createObjectStore('key') });

/**
 * The key of this device, made when it is first asked for. Its private half cannot be read out of the browser; what the device
 * hands over is signed with it. Undefined where the browser keeps none (a private window, no TLS).
 */
export async function deviceKey(): Promise<CryptoKeyPair | undefined> {
  if (!('subtle' in crypto)) return undefined;
  try {
    const db = await opened();
    const known = (await db.get('key', 'own')) as CryptoKeyPair | undefined;
    if (known) return known;
    const made = await crypto.subtle.generateKey(KEY, false, ['sign', 'verify']);
    await db.put('key', made, 'own');
    return made;
  } catch {
    return undefined;
  }
}

/** The public half, as the crew's devices know it. */
export async function publicKey(): Promise<DeviceAsked['publicKey']> {
  const pair = await deviceKey();
  if (!pair) return undefined;
  const { x, y } = await crypto.subtle.exportKey('jwk', pair.publicKey);
  return x && y ? { kty: 'EC', crv: 'P-256', x, y } : undefined;
}

const SIGNING = { name: 'ECDSA', hash: 'SHA-256' } as const;
const bytesOf = (text: string): Uint8Array<ArrayBuffer> => new TextEncoder().encode(text);

/** The signature of a text by the key of this device, base64. */
export async function signatureOf({ privateKey }: CryptoKeyPair, text: string): Promise<string> {
  const signature = await crypto.subtle.sign(SIGNING, privateKey, bytesOf(text));
  return btoa(String.fromCharCode(...new Uint8Array(signature)));
}

/** Whether a device whose public half this is has signed a text. */
export async function isSignedBy(key: unknown, text: string, signature: string): Promise<boolean> {
  try {
    const known = await crypto.subtle.importKey('jwk', key as JsonWebKey, KEY, false, ['verify']);
    const given = Uint8Array.from(atob(signature), (letter) => letter.charCodeAt(0));
    return await crypto.subtle.verify(SIGNING, known, given, bytesOf(text));
  } catch {
    return false;
  }
}

/** What this device would call itself, as far as its browser tells: to be told from the others on a list. */
export function deviceName(): string {
  const agent = navigator.userAgent;
  const kind = /iPad|Tablet|Android(?!.*Mobile)/.test(agent)
    ? $localize`Tablet`
    : /Mobi|iPhone|Android/.test(agent)
      ? $localize`Phone`
      : $localize`Computer`;
  return `${kind} ${crypto.randomUUID().slice(0, 4)}`;
}
