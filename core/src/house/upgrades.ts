/**
 * One step per version of the house file. Version 0 was the design sketch, in which a device carried its points and a
 * house had no lists of points, reels or own devices.
 */
export const FILE_VERSION = 1;

type Json = Record<string, unknown>;
const isObject = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const listOf = (value: unknown): unknown[] => (Array.isArray(value) ? value : []);

const liftPoints = (file: Json): Json => {
  const points: unknown[] = [];
  const devices = listOf(file['devices']).map((device) => {
    if (!isObject(device)) return device;
    const { points: own, ...rest } = device;
    for (const point of listOf(own))
      points.push(isObject(point) ? { ...point, deviceId: device['id'] } : point);
    return rest;
  });
  const { catalogue, ...rest } = file;
  return {
    ...rest,
    version: 1,
    devices,
    points,
    catalogueBoxes: listOf(catalogue),
    catalogueDevices: [],
    reels: [],
  };
};

/** UPGRADES[n] turns a file of version n into one of version n + 1. */
const UPGRADES: readonly ((file: Json) => Json)[] = [liftPoints];

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
