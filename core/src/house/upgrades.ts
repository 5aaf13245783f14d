import type { Json } from './upgrade/version-1.js';
import { pointsLifted } from './upgrade/version-0.js';
import {
  bodyOfVersion1,
  diffOfVersion1,
  fileOfVersion1,
  isObject,
  personOfVersion1,
} from './upgrade/version-1.js';

/** The version of the house file. A change, and an entry of the journal, carries the version of the file it was made for. */
export const FILE_VERSION = 2;

/** UPGRADES[n] turns a file of version n into one of version n + 1. */
const UPGRADES: readonly ((file: Json) => Json)[] = [pointsLifted, fileOfVersion1];

/** Lists that files of the current version from before houses were drafted do without. */
const LATER_LISTS: Json = { bands: [], asks: [], drafts: [] };

/** The file brought to the current version; undefined when its version is unknown or newer than this product. */
export function upgradeFile(file: Json): Json | undefined {
  let current = file;
  let version = file['version'];
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 0 || version > FILE_VERSION) {
    return undefined;
  }
  for (; version < FILE_VERSION; version++) current = UPGRADES[version]!(current);
  return { ...LATER_LISTS, ...current };
}

/** A diff as it was stored with a change of some version, brought to the current one. Nothing that is stored is rewritten. */
export const upgradeDiff = (diff: unknown, version: number): unknown =>
  version < 2 ? diffOfVersion1(diff) : diff;

/** A stored change, for reading. */
export function upgradeChange(change: unknown): unknown {
  if (!isObject(change) || change['version'] !== 1) return change;
  const { by: _by, ...rest } = change;
  return { ...rest, version: 2, body: bodyOfVersion1(change['body']) };
}

/**
 * A change on its way, from a device that has not been brought up to date yet: of version 1 the change itself was what was
 * sent, with the name of its maker in it. `isThere` tells a box that the house has already.
 */
export function upgradeEnvelope(input: unknown, isThere?: (boxId: string) => boolean): unknown {
  if (!isObject(input) || input['version'] !== 1) return input;
  const { by, body, ...rest } = input;
  return {
    change: { ...rest, version: 2, body: bodyOfVersion1(body, isThere) },
    actorId: typeof by === 'string' ? personOfVersion1(by) : by,
  };
}
