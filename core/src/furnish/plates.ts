import type { SingleChangeBody } from '../changes/change.js';
import { adding, setting } from '../changes/change.js';
import type { HouseReader } from '../derive/reader.js';
import type { DeviceType } from '../vocabulary/catalogue-types.js';
import type { Jurisdiction } from '../vocabulary/jurisdiction.js';
import type { PlannedBox, PlannedDevice } from './planned.js';

/** The plate of so many gangs, where switches are sold on plates. */
const plateOf = ({ devices }: Jurisdiction, gangs: number): DeviceType | undefined =>
  devices.find(({ commonsApart, points }) => commonsApart && points.length === gangs);

/** The most gangs on one plate. */
const MOST_GANGS = 4;

/**
 * A box with its switches on plates of several gangs, where they are sold so: the points stay what they are, so that what switches what does
 * too. Devices of another kind stay beside them.
 */
export function onPlates(trade: Jurisdiction, box: PlannedBox): PlannedBox {
  const sold = trade.devices;
  const plain = box.devices.filter(({ catalogueId }) => catalogueId === 'switch');
  if (plain.length === 0 || !plateOf(trade, 1)) return box;
  const plates: PlannedDevice[] = [];
  for (let at = 0; at < plain.length; at += MOST_GANGS) {
    const own = plain.slice(at, at + MOST_GANGS);
    plates.push({
      key: own[0]!.key,
      gang: 1,
      catalogueId: plateOf(trade, own.length)!.id,
      points: own.flatMap(({ points }) => points),
    });
  }
  let gang = 1;
  const devices = [...plates, ...box.devices.filter((device) => !plain.includes(device))].map((device) => {
    const placed = { ...device, gang };
    gang += sold.find(({ id }) => id === device.catalogueId)?.widthGangs ?? 1;
    return placed;
  });
  return { ...box, devices };
}

/**
 * A plate with one gang more, behind those it has, whose switches keep what they switch: the new one takes its line from the permanent
 * line that is in the box already, COM linked to COM (common practice). Undefined where no plate has so many, or it is none. `newId`
 * makes a UUID.
 */
export function withGangMore(
  reader: HouseReader,
  deviceId: string,
  newId: () => string,
): SingleChangeBody[] | undefined {
  const trade = reader.rules().jurisdiction;
  const device = reader.get('devices', deviceId);
  const levers = reader.mentioning('points', deviceId);
  if (!device || plateOf(trade, levers.length)?.id !== device.catalogueId) return undefined;
  const next = plateOf(trade, levers.length + 1);
  return (
    next && [
      setting('devices', deviceId, { catalogueId: next.id }),
      adding('points', { id: newId(), deviceId, role: 'lever' }),
    ]
  );
}
