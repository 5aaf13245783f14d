import type { HouseReader } from '../../derive/reader.js';
import { deviceType, devicesIn } from '../../facts/box-facts.js';
import type { Device } from '../../house/model.js';
import type { BoxJoint } from './box-joint.js';
import type { Landing, Terminal } from '../../vocabulary/terminal.js';
import { SUPPLY, sameLanding, terminalKey } from '../../vocabulary/terminal.js';
import type { OfLever } from '../circuit/device-models.js';
import { LEVER_KINDS, LEVER_MODELS } from '../circuit/device-models.js';
import { sidesOf } from '../circuit/device-sides.js';
import { endKey } from './box-joint.js';

/**
 * Other terminals for those of a device, by their keys: what is exchanged for what does not change what the device does.
 */
export type Exchange = ReadonlyMap<string, Terminal>;

const AS_IT_IS: Exchange = new Map();
const swap = (one: Terminal, other: Terminal): Exchange =>
  new Map([
    [terminalKey(one), other],
    [terminalKey(other), one],
  ]);
/** The one exchange after the other. */
const both = (a: Exchange, b: Exchange): Exchange => {
  const all = new Map(b);
  for (const [key, terminal] of a) all.set(key, b.get(terminalKey(terminal)) ?? terminal);
  return all;
};
const exchanged = (exchange: Exchange, terminal: Terminal): Terminal =>
  exchange.get(terminalKey(terminal)) ?? terminal;

/** Exchanges, and all that come of doing one after another. */
function closure(generators: readonly Exchange[]): Exchange[] {
  const keyOf = (exchange: Exchange): string =>
    [...exchange]
      .flatMap(([key, terminal]) => (key === terminalKey(terminal) ? [] : `${key}>${terminalKey(terminal)}`))
      .sort()
      .join();
  const known = new Map([['', AS_IT_IS]]);
  for (const exchange of known.values())
    for (const generator of generators) {
      const next = both(exchange, generator);
      if (!known.has(keyOf(next))) known.set(keyOf(next), next);
    }
  return [...known.values()];
}

/** What can be exchanged on a device without changing what it does, by the models of its levers. */
function exchangesOf(reader: HouseReader, device: Device): Exchange[] {
  const sides = sidesOf(reader, device);
  const isPlain = !deviceType(reader, device).needsNeutral;
  const perLever = sides.levers.map((_, index): Exchange[] => {
    const lever = sides.levers.length > 1 ? index + 1 : undefined;
    const supply = sides.suppliesApart ? SUPPLY(lever) : SUPPLY();
    const ownSupply = isPlain && (sides.levers.length === 1 || sides.suppliesApart);
    const terminal = (of: OfLever): Terminal => (of === SUPPLY ? supply : of(lever));
    return LEVER_KINDS.flatMap((kind) => {
      const { alike, terminals } = LEVER_MODELS[kind];
      if (terminals.includes(SUPPLY) && !ownSupply) return [];
      return closure(
        alike.map((pairs) =>
          pairs.map(([one, other]) => swap(terminal(one), terminal(other))).reduce(both, AS_IT_IS),
        ),
      );
    });
  });
  return perLever.reduce<Exchange[]>(
    (all, own) => all.flatMap((before) => own.map((exchange) => both(before, exchange))),
    [AS_IT_IS],
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
          (to) =>
            isOn(device, to) &&
            terminalKey(exchanged(exchange, to.terminal)) === terminalKey(landing.terminal),
        ),
      );
      if (!asked) continue;
      const meets = made.ends.length
        ? asked.ends.some((end) => made.ends.some((own) => endKey(own) === endKey(end)))
        : made.landings.some(
            (own) => !isOn(device, own) && asked.landings.some((to) => sameLanding(to, own)),
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
    let best = AS_IT_IS;
    let most = agreement(device, joints, recorded, best);
    for (const exchange of exchangesOf(reader, device)) {
      const count = agreement(device, joints, recorded, exchange);
      if (count > most) [best, most] = [exchange, count];
    }
    if (best.size === 0) continue;
    joints = joints.map((joint) =>
      joint.landings.some((to) => isOn(device, to) && best.has(terminalKey(to.terminal)))
        ? {
            ...joint,
            landings: joint.landings.map((to) =>
              isOn(device, to) ? { ...to, terminal: exchanged(best, to.terminal) } : to,
            ),
          }
        : joint,
    );
  }
  return joints;
}
