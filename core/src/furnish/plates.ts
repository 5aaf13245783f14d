import type { Jurisdiction } from '../vocabulary/jurisdiction.js';
import type { PlannedBox, PlannedDevice } from './planned.js';

/** The most gangs on one plate. */
const MOST_GANGS = 4;

/**
 * A box with its switches on plates of several gangs, where they are sold so: the points stay what they are, so that what switches what does
 * too. Devices of another kind stay beside them.
 */
export function onPlates({ devices: sold }: Jurisdiction, box: PlannedBox): PlannedBox {
  const plateOf = (gangs: number) =>
    sold.find(({ commonsApart, points }) => commonsApart && points.length === gangs);
  const plain = box.devices.filter(({ catalogueId }) => catalogueId === 'switch');
  if (plain.length === 0 || !plateOf(1)) return box;
  const plates: PlannedDevice[] = [];
  for (let at = 0; at < plain.length; at += MOST_GANGS) {
    const own = plain.slice(at, at + MOST_GANGS);
    plates.push({
      key: own[0]!.key,
      gang: 1,
      catalogueId: plateOf(own.length)!.id,
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
