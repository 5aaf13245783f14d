import type { HouseReader } from '../derive/reader.js';
import { deviceType } from '../house/box-facts.js';
import type { Device } from '../house/model.js';
import type { ReachedPoint } from './controls.js';
import type { Signal, Terminal } from './signal.js';
import { legOf, secondHotOf, travelerOf } from './signal.js';

export type LeverKind = 'single-pole' | 'three-way' | 'four-way';

/** Where a lever stands in the electrical order of its control. */
export interface LeverPlace {
  readonly controlId: string;
  readonly index: number;
  readonly of: number;
}

export const leverKind = ({ index, of }: LeverPlace): LeverKind =>
  of === 1 ? 'single-pole' : index === 0 || index === of - 1 ? 'three-way' : 'four-way';

/** What feeds a node: its hot and its neutral, protected or not. */
export interface Supply {
  readonly hot: (node: string, circuitId: string) => Signal;
  readonly neutral: (node: string) => Signal;
}

/** What is known of the points of one device. */
export interface DeviceTask {
  readonly device: Device;
  readonly points: readonly ReachedPoint[];
  readonly node: string;
  readonly circuitId: string;
  /** The control of a load, when it has one that can be wired. */
  readonly controlOfLoad: (pointId: string) => string | undefined;
  readonly placeOfLever: (pointId: string) => LeverPlace | undefined;
  /** Signals of its LOAD side, when what lies beyond is fed from there. */
  readonly onward?: { readonly hot: Signal; readonly neutral: Signal };
  readonly alarmsJoined: boolean;
}

/** Terminals of one lever. Screws of a three- or four-way are told by what they are, never by where they sit. */
function leverTerminals(place: LeverPlace, supply: Signal, suffix: string): [string, Signal][] {
  const { controlId, index, of } = place;
  const travelers = (pair: number, name: string): [string, Signal][] => [
    [`${name}A${suffix}`, travelerOf(controlId, pair, 'a')],
    [`${name}B${suffix}`, travelerOf(controlId, pair, 'b')],
  ];
  switch (leverKind(place)) {
    case 'single-pole':
      return [[`leg${suffix}`, legOf(controlId)]];
    case 'three-way':
      return index === 0
        ? [[`common${suffix}`, supply], ...travelers(0, 'traveler ')]
        : [[`common${suffix}`, legOf(controlId)], ...travelers(of - 2, 'traveler ')];
    case 'four-way':
      return [...travelers(index - 1, 'pair 1 '), ...travelers(index, 'pair 2 ')];
  }
}

/**
 * Which signal lands where on a device. The halves of a receptacle share one terminal as long as they carry the same
 * signal; where they differ the tab on the hot side comes off. Single-pole levers of one yoke share one supply.
 */
export function terminalsOf(reader: HouseReader, task: DeviceTask, supply: Supply): Terminal[] {
  const { device, points, node, circuitId } = task;
  const type = deviceType(reader, device);
  const hot = supply.hot(node, circuitId);
  const landings: [string, Signal, string[]?][] = [];
  const levers = points.filter(({ point }) => point.role === 'lever');
  const legs: [string, Signal][] = [];
  let fed = false;
  levers.forEach(({ point }, index) => {
    const place = task.placeOfLever(point.id);
    const own = place && leverTerminals(place, hot, levers.length > 1 ? ` ${index + 1}` : '');
    if (!place || leverKind(place) === 'single-pole') fed = true;
    legs.push(...(own ?? []));
  });
  if (levers.length && fed) landings.push(['supply', hot]);
  landings.push(...legs);
  const hots = new Map<Signal, string[]>();
  for (const { point, circuitId: own } of points) {
    if (point.role === 'lever') continue;
    const control = task.controlOfLoad(point.id);
    const signal = control ? legOf(control) : supply.hot(node, own);
    hots.set(signal, [...(hots.get(signal) ?? []), point.id]);
  }
  const line = task.onward ? 'line ' : '';
  [...hots].forEach(([signal, loads], index) =>
    landings.push([hots.size === 1 ? `${line}hot` : `hot ${index + 1}`, signal, loads]),
  );
  const both = type.supply === '240' || type.supply === '120/240';
  if (both) landings.push(['hot B', secondHotOf(circuitId)]);
  const neutral = both
    ? type.supply === '120/240'
    : hots.size > 0 || (levers.length > 0 && type.needsNeutral);
  if (neutral) landings.push([`${line}neutral`, supply.neutral(node)]);
  if (task.onward) landings.push(['load hot', task.onward.hot], ['load neutral', task.onward.neutral]);
  if (task.alarmsJoined && points.some(({ point }) => point.role === 'alarm'))
    landings.push(['interconnect', 'interconnect']);
  return landings.map(([name, signal, loads]) => ({
    boxId: device.boxId,
    node,
    deviceId: device.id,
    name,
    signal,
    ...(loads && { points: loads }),
  }));
}

/** Every terminal that a device may have, whichever kind of switch was put in: what a hand can have landed a wire on. */
export function possibleTerminals(reader: HouseReader, device: Device): readonly string[] {
  const type = deviceType(reader, device);
  const points = reader.mentioning('points', device.id);
  const levers = points.filter(({ role }) => role === 'lever').length;
  const loads = points.length - levers;
  const names: string[] = ['ground'];
  if (levers) names.push('supply');
  for (let lever = 1; lever <= levers; lever++) {
    const suffix = levers > 1 ? ` ${lever}` : '';
    for (const name of [
      'leg',
      'common',
      'traveler A',
      'traveler B',
      'pair 1 A',
      'pair 1 B',
      'pair 2 A',
      'pair 2 B',
    ])
      names.push(`${name}${suffix}`);
  }
  const line = type.feedThrough ? 'line ' : '';
  if (loads) names.push(`${line}hot`);
  if (loads > 1) for (let half = 1; half <= loads; half++) names.push(`hot ${half}`);
  if (type.supply === '240' || type.supply === '120/240') names.push('hot B');
  if ((loads && type.supply !== '240') || type.needsNeutral) names.push(`${line}neutral`);
  if (type.feedThrough) names.push('load hot', 'load neutral');
  if (points.some(({ role }) => role === 'alarm')) names.push('interconnect');
  return names;
}
