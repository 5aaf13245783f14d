import { createHash, randomBytes, randomInt } from 'node:crypto';

/** Something that nobody guesses, as it travels: 256 bits. */
export const newSecret = (): string => randomBytes(32).toString('base64url');
/** What is kept of a secret. */
export const hashOf = (secret: string): Buffer => createHash('sha256').update(secret).digest();
/** Six figures for whoever cannot read the picture. */
export const newPairingCode = (): string => String(randomInt(1_000_000)).padStart(6, '0');

/** No letter or figure that is taken for another. */
const LETTERS = 'abcdefghjkmnpqrstuvwxyz23456789';
/** What a crew goes by when its people sign in elsewhere. */
export const newCrewCode = (): string =>
  Array.from({ length: 6 }, () => LETTERS[randomInt(LETTERS.length)]).join('');

/** The id that comes after a session's: the same for everybody who asks with the old one, so that no answer lost locks out. */
export const nextSecret = (secret: string, salt: Buffer): string =>
  createHash('sha256').update(secret).update(salt).digest('base64url');
