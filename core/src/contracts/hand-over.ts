import * as z from 'zod';
import { readChange } from '../changes/change.js';
import { readCrewChange } from '../crew/crew-change.js';
import type { EnvelopeOf } from '../documents/envelope.js';
import type { Problem } from '../vocabulary/problem.js';
import { LIMITS } from '../vocabulary/limits.js';
import { Id } from '../vocabulary/text.js';

/**
 * A hand-over file: what is unsent on one device, carried by hand to a lead's where there is no network at all. It is signed as a
 * whole by the key that the device was paired with, and may be given as often as one likes: each change has its id.
 */

/** The documents of a crew that changes are of: its book, or a house by its id. */
const DocumentId = z.union([z.literal('crew'), Id]);

/** What is handed over, as it is signed. */
const HandedOver = z.strictObject({
  crewId: Id,
  deviceId: Id,
  /** By the clock of the device, ISO 8601. */
  madeAt: z.iso.datetime({ offset: true }),
  documents: z
    .array(
      z.strictObject({
        documentId: DocumentId,
        name: z.string().max(LIMITS.text),
        /** Number of the last entry of the journal that the device had when these were made on top of it. */
        since: z.int().min(0),
        /** In the order of entry; each is read by itself. */
        changes: z.array(z.unknown()).max(LIMITS.records),
      }),
    )
    .max(LIMITS.entries),
});
export type HandedOver = z.infer<typeof HandedOver>;

const FORMAT = 'mule-tally-hand-over';
/** The text stands in it as it was signed, so that nothing about it can be told in two ways. */
const HandOverFile = z.strictObject({
  format: z.literal(FORMAT),
  version: z.literal(1),
  signed: z.string(),
  /** ECDSA over P-256 with SHA-256 of the UTF-8 of `signed`: both halves after one another, base64. */
  signature: z.string().max(200),
});

/** The text that a device signs. */
export const signedText = (what: HandedOver): string => JSON.stringify(what);

/** The file with what was signed. */
export const writeHandOver = (signed: string, signature: string): string =>
  `${JSON.stringify({ format: FORMAT, version: 1, signed, signature } satisfies z.infer<typeof HandOverFile>)}\n`;

export type ReadHandOver =
  | { readonly ok: true; readonly what: HandedOver; readonly signed: string; readonly signature: string }
  | { readonly ok: false; readonly problem: Problem };

const noFile = (code: string, message: string): ReadHandOver => ({
  ok: false,
  problem: { code, message, path: '' },
});

const jsonOf = (text: string): unknown => {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
};

/** Reads a hand-over file. Whether its signature holds is for whoever knows the device's key to say. */
export function readHandOver(text: string): ReadHandOver {
  if (text.length > LIMITS.fileBytes)
    return noFile('hand-over.too-large', 'This file is too large to be a hand-over.');
  const file = HandOverFile.safeParse(jsonOf(text));
  if (!file.success)
    return noFile('hand-over.none', 'This is no hand-over file, or it was cut off on its way.');
  const what = HandedOver.safeParse(jsonOf(file.data.signed));
  if (!what.success)
    return noFile('hand-over.invalid', 'This hand-over file cannot be read: ask for it to be made anew.');
  return { ok: true, what: what.data, signed: file.data.signed, signature: file.data.signature };
}

/** A device of the crew, as far as it is needed to judge what it hands over. */
export interface HandingDevice {
  readonly isRevoked: boolean;
  readonly people: readonly { readonly id: string }[];
}

/** Why a crew takes nothing from this device, whatever its signature; nothing where it may. */
export function handOverProblem(
  what: HandedOver,
  crewId: string,
  device: HandingDevice | undefined,
): Problem | undefined {
  const problem = (code: string, message: string): Problem => ({ code, message, path: '' });
  if (what.crewId !== crewId) return problem('hand-over.other-crew', 'This was handed over by another crew.');
  if (!device)
    return problem(
      'hand-over.unknown-device',
      'This device does not know the one that handed it over. Open the list of devices once where there is a network, and try again.',
    );
  return device.isRevoked
    ? problem('hand-over.revoked', 'The device that handed this over has been locked out of the crew.')
    : undefined;
}

/** A change that is taken in, and which document it is of. */
export interface TakenIn {
  readonly documentId: string;
  readonly envelope: EnvelopeOf;
}

/**
 * The changes of a hand-over, in order, as a lead's device queues them: marked as handed over, so that each is judged on the
 * rights of whoever made it. What cannot be read, or was made by somebody who is not on the device, is left out and counted.
 */
export function takenIn(
  what: HandedOver,
  device: HandingDevice,
): { readonly changes: readonly TakenIn[]; readonly left: number } {
  const people = new Set(device.people.map(({ id }) => id));
  const changes: TakenIn[] = [];
  let left = 0;
  for (const { documentId, changes: handed } of what.documents)
    for (const one of handed) {
      const read = documentId === 'crew' ? readCrewChange(one) : readChange(one);
      if (!read.ok || !people.has(read.envelope.actorId)) left++;
      else
        changes.push({
          documentId,
          envelope: { ...read.envelope, deviceId: what.deviceId, isHandedOver: true },
        });
    }
  return { changes, left };
}
