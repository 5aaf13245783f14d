import type { Json } from './version-1.js';
import { isObject, listOf } from './version-1.js';

/** Version 0 was the design sketch, in which a device carried its points and a house had no lists of points, reels or own devices. */
export function pointsLifted(file: Json): Json {
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
}
