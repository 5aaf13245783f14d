import type { HouseReader } from '../../derive/reader.js';
import { circuitOfPoint, deviceType } from '../../facts/box-facts.js';
import type { Device, Point } from '../../house/model.js';
import { NOMINAL_WATTS } from '../../rulebook/nominal-watts.js';
import { controlsOf } from '../circuit/controls.js';
import { sidesOf } from '../circuit/device-sides.js';
import type { NetLever, NetLoad } from './netlist.js';
import type { LeverKind, LeverPlace } from '../circuit/terminals.js';
import { leverKind } from '../circuit/terminals.js';
import type { CircuitWiring } from '../conductors/circuit-wiring.js';

/** Volts between a hot and neutral. */
export const LINE_VOLTS = 120;

type Contacts = readonly (readonly [number, number])[];

/** The joint at a terminal of a device; undefined where nothing lands. */
export type JointAt = (terminal: string) => number | undefined;

/** What a device is in a netlist. */
export interface NetDevice {
  /** Whether anything of it hangs on the circuits of the netlist. */
  readonly isOwn: boolean;
  readonly levers: readonly NetLever[];
  readonly loads: readonly NetLoad[];
  /** Its LINE and its LOAD side, where it is a feed-through device of which both are used. */
  readonly through: Contacts;
  /** Terminals that are one piece of metal as long as their tab is whole. */
  readonly tabs: Contacts;
  readonly alarms: readonly { readonly pointId: string; readonly joint: number | undefined }[];
}

/** What the derived wiring says of points: on which terminal a load hangs, and where a lever stands in its control. */
export interface PointFacts {
  readonly circuitIds: readonly string[];
  readonly hotTerminal: ReadonlyMap<string, string>;
  readonly placeOf: ReadonlyMap<string, LeverPlace>;
}

export function pointFacts(wirings: readonly CircuitWiring[]): PointFacts {
  const hotTerminal = new Map<string, string>();
  const placeOf = new Map<string, LeverPlace>();
  for (const { terminals, levers } of wirings) {
    for (const own of terminals.values())
      for (const { name, points } of own) for (const point of points ?? []) hotTerminal.set(point, name);
    for (const [point, place] of levers) placeOf.set(point, place);
  }
  return { circuitIds: wirings.flatMap(({ circuitIds }) => circuitIds), hotTerminal, placeOf };
}

const joined = (a: number | undefined, b: number | undefined): Contacts =>
  a === undefined || b === undefined ? [] : [[a, b]];

/** Contacts of one lever by the kind of switch that the terminals in use tell of, else by the kind that is derived. */
function leverOf(
  { id: deviceId, boxId }: Device,
  pointId: string,
  t: JointAt,
  supply: number | undefined,
  place: LeverPlace | undefined,
): NetLever {
  const has = (...names: string[]): boolean => names.some((name) => t(name) !== undefined);
  const kind: LeverKind = has('pair 1 A', 'pair 2 A', 'pair 1 B', 'pair 2 B')
    ? 'four-way'
    : has('common', 'traveler A', 'traveler B')
      ? 'three-way'
      : has('leg') || !place
        ? 'single-pole'
        : leverKind(place);
  // Field by field: a spread costs many times as much, and there are many levers and loads.
  const lever = (down: Contacts, up: Contacts): NetLever => ({ pointId, deviceId, boxId, kind, down, up });
  if (kind === 'single-pole') return lever([], joined(supply, t('leg')));
  if (kind === 'four-way') {
    const [a1, b1, a2, b2] = [t('pair 1 A'), t('pair 1 B'), t('pair 2 A'), t('pair 2 B')];
    return lever([...joined(a1, a2), ...joined(b1, b2)], [...joined(a1, b2), ...joined(b1, a2)]);
  }
  const [toA, toB] = [joined(t('common'), t('traveler A')), joined(t('common'), t('traveler B'))];
  // Which traveler a three-way meets when it is down is inside the device; taken so that all down is off.
  const isLast = place !== undefined && place.index === place.of - 1;
  return isLast ? lever(toB, toA) : lever(toA, toB);
}

const NOTHING: NetDevice = { isOwn: false, levers: [], loads: [], through: [], tabs: [], alarms: [] };

/** A device of a box with what lands on it. */
export function netDevice(
  reader: HouseReader,
  { circuitIds, hotTerminal, placeOf }: PointFacts,
  device: Device,
  at: JointAt,
): NetDevice {
  const type = deviceType(reader, device);
  const points = reader.mentioning('points', device.id);
  const isOwn = (point: Point): boolean => circuitIds.includes(circuitOfPoint(reader, point) ?? '');
  // In a box of several circuits much belongs to none of this netlist.
  if (!points.some(isOwn)) return NOTHING;
  const sides = sidesOf(reader, device);
  const { id: deviceId, boxId } = device;
  const terminalsOf =
    (index: number): JointAt =>
    (name) =>
      at(sides.levers.length > 1 ? `${name} ${index + 1}` : name);
  const supplyOf = (index: number): number | undefined => at(`supply ${index + 1}`) ?? at('supply');
  const levers = sides.levers.flatMap((point, index) =>
    isOwn(point)
      ? [leverOf(device, point.id, terminalsOf(index), supplyOf(index), placeOf.get(point.id))]
      : [],
  );
  const backOf = (point: Point): number | undefined =>
    at(`neutral ${sides.numberOf(point.id)}`) ?? at('neutral') ?? at('line neutral');
  const loads: NetLoad[] = [];
  const [first] = sides.levers;
  if (type.needsNeutral && first && isOwn(first)) {
    const isFed = (placeOf.get(first.id)?.index ?? 0) === 0;
    loads.push({
      pointId: first.id,
      deviceId,
      boxId,
      role: 'electronics',
      circuitId: circuitOfPoint(reader, first)!,
      hot: isFed ? (supplyOf(0) ?? terminalsOf(0)('common')) : undefined,
      back: backOf(first),
      volts: LINE_VOLTS,
      ohms: LINE_VOLTS ** 2 / NOMINAL_WATTS.electronics,
      controlId: undefined,
    });
  }
  const both = type.supply === '240' || type.supply === '120/240';
  sides.loads.forEach((point, index) => {
    if (point.role === 'lever' || !isOwn(point)) return;
    const volts = both ? 2 * LINE_VOLTS : LINE_VOLTS;
    const watts = point.watts || NOMINAL_WATTS[point.role] * (both ? 3 : 1);
    loads.push({
      pointId: point.id,
      deviceId,
      boxId,
      role: point.role,
      circuitId: circuitOfPoint(reader, point)!,
      hot: at(hotTerminal.get(point.id) ?? 'hot') ?? at(`hot ${index + 1}`) ?? at('hot') ?? at('line hot'),
      back: both ? at('hot B') : backOf(point),
      volts,
      ohms: (volts * volts) / watts,
      controlId: controlsOf(reader, point.id).find((control) => control.loads.includes(point.id))?.id,
    });
  });
  const whole = (isApart: boolean, name: string): Contacts => {
    if (isApart) return [];
    const there: number[] = [];
    for (let number = 0; number <= points.length; number++) {
      const joint = at(number ? `${name} ${number}` : name);
      if (joint !== undefined) there.push(joint);
    }
    return there.slice(1).map((joint) => [there[0]!, joint] as const);
  };
  const hotsApart = sides.loads.some(({ id }) => /^hot \d/.test(hotTerminal.get(id) ?? ''));
  return {
    isOwn: true,
    levers,
    loads,
    through: type.feedThrough
      ? [...joined(at('line hot'), at('load hot')), ...joined(at('line neutral'), at('load neutral'))]
      : [],
    tabs:
      points.length < 2
        ? []
        : [
            ...whole(sides.suppliesApart, 'supply'),
            ...whole(sides.hotsApart || hotsApart, 'hot'),
            ...whole(sides.neutralsApart, 'neutral'),
          ],
    alarms: points.flatMap((point) =>
      point.role === 'alarm' && isOwn(point) ? [{ pointId: point.id, joint: at('interconnect') }] : [],
    ),
  };
}
