import type { Json } from './upgrade/version-1.js';
import { pointsLifted } from './upgrade/version-0.js';
import {
  bodyOfVersion1,
  diffOfVersion1,
  fileOfVersion1,
  isObject,
  personOfVersion1,
} from './upgrade/version-1.js';
import { bodyOfVersion2, diffOfVersion2, fileOfVersion2 } from './upgrade/version-2.js';

/** The version of the house file. A change, and an entry of the journal, carries the version of the file it was made for. */
export const FILE_VERSION = 3;

/** UPGRADES[n] turns a file of version n into one of version n + 1. */
const UPGRADES: readonly ((file: Json) => Json)[] = [pointsLifted, fileOfVersion1, fileOfVersion2];

/** The file brought to the current version; undefined when its version is unknown or newer than this product. */
export function upgradeFile(file: Json): Json | undefined {
  let current = file;
  let version = file['version'];
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 0 || version > FILE_VERSION) {
    return undefined;
  }
  for (; version < FILE_VERSION; version++) current = UPGRADES[version]!(current);
  return current;
}

/** A diff as it was stored with a change of some version, brought to the current one. Nothing that is stored is rewritten. */
export const upgradeDiff = (diff: unknown, version: number): unknown =>
  version < 2 ? diffOfVersion2(diffOfVersion1(diff), false) : version < 3 ? diffOfVersion2(diff) : diff;

/** A stored change, for reading. */
export function upgradeChange(change: unknown): unknown {
  if (!isObject(change)) return change;
  switch (change['version']) {
    case 1: {
      const { by: _by, ...rest } = change;
      return { ...rest, version: 3, body: bodyOfVersion2(bodyOfVersion1(change['body']), false) };
    }
    case 2:
      return { ...change, version: 3, body: bodyOfVersion2(change['body']) };
    default:
      return change;
  }
}

/**
 * A change on its way, from a device that has not been brought up to date yet: of version 1 the change itself was what was
 * sent, with the name of its maker in it. `isThere` tells a box that the house has already.
 */
export function upgradeEnvelope(input: unknown, isThere?: (boxId: string) => boolean): unknown {
  if (!isObject(input)) return input;
  if (input['version'] !== 1) return { ...input, change: upgradeChange(input['change']) };
  const { by, body, ...rest } = input;
  return {
    change: { ...rest, version: 3, body: bodyOfVersion2(bodyOfVersion1(body, isThere), false) },
    actorId: typeof by === 'string' ? personOfVersion1(by) : by,
  };
}
