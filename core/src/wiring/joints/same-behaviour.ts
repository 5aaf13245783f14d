import type { HouseReader } from '../../derive/reader.js';
import { deviceType, devicesIn } from '../../facts/box-facts.js';
import type { Device } from '../../house/model.js';
import type { BoxJoint } from './box-joint.js';
import type { Landing } from '../circuit/landing.js';
import { sidesOf } from '../circuit/device-sides.js';
import { endKey } from './box-joint.js';

/** Other names for the terminals of a device: what is exchanged for what does not change what the device does. */
export type Exchange = Readonly<Record<string, string>>;

const swap = (one: string, other: string): Exchange => ({ [one]: other, [other]: one });
const both = (a: Exchange, b: Exchange): Exchange => {
  const names = new Set([...Object.keys(a), ...Object.keys(b)]);
  return Object.fromEntries([...names].map((name) => [name, b[a[name] ?? name] ?? a[name] ?? name]));
};

/** The exchanges that leave a four-way what it is: either pair turned over, and the pairs changed for each other. */
function fourWay(suffix: string): Exchange[] {
  const pair = (number: number, side: string): string => `pair ${number} ${side}${suffix}`;
  const turn1 = swap(pair(1, 'A'), pair(1, 'B'));
  const turn2 = swap(pair(2, 'A'), pair(2, 'B'));
  const turned = [{}, turn1, turn2, both(turn1, turn2)];
  const pairs = both(swap(pair(1, 'A'), pair(2, 'A')), swap(pair(1, 'B'), pair(2, 'B')));
  return [...turned, ...turned.map((exchange) => both(exchange, pairs))];
}

/**
 * What can be exchanged on a device without changing what it does: the two screws of a single-pole switch (common practice:
 * they are interchangeable; not where electronics tell line from load), the travelers of a three-way, the pairs of a four-way.
 */
function exchangesOf(reader: HouseReader, device: Device): Exchange[] {
  const sides = sidesOf(reader, device);
  const isPlain = !deviceType(reader, device).needsNeutral;
  const perLever = sides.levers.map((_, index): Exchange[] => {
    const suffix = sides.levers.length > 1 ? ` ${index + 1}` : '';
    const supply = sides.suppliesApart ? `supply${suffix}` : 'supply';
    const ownSupply = sides.levers.length === 1 || sides.suppliesApart;
    const three = swap(`traveler A${suffix}`, `traveler B${suffix}`);
    const kinds: Exchange[] = [three, ...(isPlain && ownSupply ? [swap(supply, `leg${suffix}`)] : [])];
    return [...fourWay(suffix), ...kinds];
  });
  return perLever.reduce<Exchange[]>(
    (all, own) => all.flatMap((before) => own.map((exchange) => both(before, exchange))),
    [{}],
  );
}

const isOn = (device: Device, to: Landing): boolean => to.deviceId === device.id;

/** In how many recorded joints a terminal of the device meets what it is to meet, with the names exchanged. */
function agreement(
  device: Device,
  derived: readonly BoxJoint[],
  recorded: readonly Pick<BoxJoint, 'ends' | 'landings'>[],
  exchange: Exchange,
): number {
  let count = 0;
  for (const made of recorded) {
    for (const landing of made.landings) {
      if (!isOn(device, landing)) continue;
      const asked = derived.find((joint) =>
        joint.landings.some(
          (to) => isOn(device, to) && (exchange[to.terminal] ?? to.terminal) === landing.terminal,
        ),
      );
      if (!asked) continue;
      const meets = made.ends.length
        ? asked.ends.some((end) => made.ends.some((own) => endKey(own) === endKey(end)))
        : made.landings.some(
            (own) =>
              !isOn(device, own) &&
              asked.landings.some((to) => to.deviceId === own.deviceId && to.terminal === own.terminal),
          );
      if (meets) count++;
    }
  }
  return count;
}

/**
 * The derived joints of a box with the terminals of its devices named as they have been landed, where that does not change
 * what the devices do: a recorded box is compared by what it does, not by name.
 */
export function namedAsMade(
  reader: HouseReader,
  boxId: string,
  derived: readonly BoxJoint[],
  recorded: readonly Pick<BoxJoint, 'ends' | 'landings'>[],
): readonly BoxJoint[] {
  let joints = derived;
  for (const device of devicesIn(reader, boxId)) {
    if (!recorded.some(({ landings }) => landings.some((to) => isOn(device, to)))) continue;
    let best: Exchange = {};
    let most = agreement(device, joints, recorded, best);
    for (const exchange of exchangesOf(reader, device)) {
      const count = agreement(device, joints, recorded, exchange);
      if (count > most) [best, most] = [exchange, count];
    }
    if (Object.keys(best).length === 0) continue;
    joints = joints.map((joint) =>
      joint.landings.some((to) => isOn(device, to) && best[to.terminal])
        ? {
            ...joint,
            landings: joint.landings.map((to) =>
              isOn(device, to) ? { ...to, terminal: best[to.terminal] ?? to.terminal } : to,
            ),
          }
        : joint,
    );
  }
  return joints;
}
