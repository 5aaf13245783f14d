import { randomUUID } from 'node:crypto';
import { CHANGE_VERSION } from '../core/src/documents/envelope.js';
import { personOfVersion1 } from '../core/src/house/upgrade/version-1.js';

/** A change as a device sends it. Lead and Hand are on the list of a new crew. */
export const sent = (body: unknown, by: 'Lead' | 'Hand' = 'Lead') => ({
  change: { id: randomUUID() as string, version: CHANGE_VERSION, body },
  actorId: personOfVersion1(by),
});
