import type { HouseReader } from '../../derive/reader.js';
import { deviceType } from '../../facts/box-facts.js';
import type { Device } from '../../house/model.js';
import type { ReachedPoint } from './controls.js';
import { sidesOf } from './device-sides.js';
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
  /** The control of a load, when it has one that can be wired. */
  readonly controlOfLoad: (pointId: string) => string | undefined;
  readonly placeOfLever: (pointId: string) => LeverPlace | undefined;
  /** Signals of its LOAD side, when what lies beyond is fed from there. */
  readonly onward: { readonly hot: Signal; readonly neutral: Signal } | undefined;
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
 * signal; where they differ the tab on the hot side comes off. Single-pole levers of one yoke share one supply, unless they
 * are of different circuits. What each point gets is always its own circuit's.
 */
export function terminalsOf(reader: HouseReader, task: DeviceTask, supply: Supply): Terminal[] {
  const { device, points, node } = task;
  const type = deviceType(reader, device);
  const sides = sidesOf(reader, device);
  const landings: [string, Signal, string[]?][] = [];
  const supplies: [string, Signal][] = [];
  const legs: [string, Signal][] = [];
  for (const { point, circuitId } of points) {
    if (point.role !== 'lever') continue;
    const number = sides.levers.indexOf(point) + 1;
    const place = task.placeOfLever(point.id);
    const hot = supply.hot(node, circuitId);
    if (!place || leverKind(place) === 'single-pole') {
      const name = sides.suppliesApart ? `supply ${number}` : 'supply';
      if (!supplies.some(([known]) => known === name)) supplies.push([name, hot]);
    }
    if (place) legs.push(...leverTerminals(place, hot, sides.levers.length > 1 ? ` ${number}` : ''));
  }
  landings.push(...supplies, ...legs);
  const hots = new Map<Signal, { first: number; loads: string[] }>();
  for (const { point, circuitId } of points) {
    if (point.role === 'lever') continue;
    const control = task.controlOfLoad(point.id);
    const signal = control ? legOf(control) : supply.hot(node, circuitId);
    const known = hots.get(signal);
    if (known) known.loads.push(point.id);
    else hots.set(signal, { first: sides.loads.indexOf(point) + 1, loads: [point.id] });
  }
  const line = task.onward ? 'line ' : '';
  const isSplit = hots.size > 1 || (sides.hotsApart && hots.size > 0);
  for (const [signal, { first, loads }] of hots)
    landings.push([isSplit ? `hot ${first}` : `${line}hot`, signal, loads]);
  const both = type.supply === '240' || type.supply === '120/240';
  if (both && points[0]) landings.push(['hot B', secondHotOf(points[0].circuitId)]);
  const onNeutral = points.find(({ point }) =>
    point.role === 'lever'
      ? type.needsNeutral && point === sides.levers[0]
      : !both || type.supply === '120/240',
  );
  if (onNeutral)
    landings.push([
      sides.neutralsApart ? `neutral ${sides.numberOf(onNeutral.point.id)}` : `${line}neutral`,
      supply.neutral(node),
    ]);
  if (task.onward) landings.push(['load hot', task.onward.hot], ['load neutral', task.onward.neutral]);
  if (task.alarmsJoined && points.some(({ point }) => point.role === 'alarm'))
    landings.push(['interconnect', 'interconnect']);
  const { id: deviceId, boxId } = device;
  return landings.map(([name, signal, loads]) =>
    loads ? { boxId, node, deviceId, name, signal, points: loads } : { boxId, node, deviceId, name, signal },
  );
}

/** Every terminal that a device may have, whichever kind of switch was put in: what a hand can have landed a wire on. */
export function possibleTerminals(reader: HouseReader, device: Device): readonly string[] {
  const type = deviceType(reader, device);
  const points = reader.mentioning('points', device.id);
  const levers = points.filter(({ role }) => role === 'lever').length;
  const loads = points.length - levers;
  const names: string[] = ['ground'];
  if (levers) names.push('supply');
  if (levers > 1) for (let lever = 1; lever <= levers; lever++) names.push(`supply ${lever}`);
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
  if (sidesOf(reader, device).neutralsApart)
    for (let point = 1; point <= points.length; point++) names.push(`neutral ${point}`);
  if (type.feedThrough) names.push('load hot', 'load neutral');
  if (points.some(({ role }) => role === 'alarm')) names.push('interconnect');
  return names;
}
