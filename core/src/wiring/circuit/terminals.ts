import type { HouseReader } from '../../derive/reader.js';
import { deviceType } from '../../facts/box-facts.js';
import type { Device } from '../../house/model.js';
import type { ReachedPoint } from './controls.js';
import type { LeverPlace } from './device-models.js';
import { LEVER_KINDS, LEVER_MODELS, leverKind, loadModel } from './device-models.js';
import { sidesOf } from './device-sides.js';
import type { Terminal } from '../../vocabulary/terminal.js';
import {
  GROUND,
  HOT,
  INTERCONNECT,
  LINE,
  LOAD,
  NEUTRAL,
  SECOND_HOT,
  SUPPLY,
} from '../../vocabulary/terminal.js';
import type { Signal, SignalLanding } from '../../vocabulary/signal.js';
import { legOf, secondHotOf } from '../../vocabulary/signal.js';

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

/**
 * Which signal lands where on a device. The halves of a receptacle share one terminal as long as they carry the same
 * signal; where they differ the tab on the hot side comes off. Single-pole levers of one yoke share one supply, unless they
 * are of different circuits. What each point gets is always its own circuit's.
 */
export function terminalsOf(reader: HouseReader, task: DeviceTask, supply: Supply): SignalLanding[] {
  const { device, points, node } = task;
  const type = deviceType(reader, device);
  const sides = sidesOf(reader, device);
  const landings: [Terminal, Signal, string[]?][] = [];
  const supplies: [Terminal, Signal][] = [];
  const legs: [Terminal, Signal][] = [];
  for (const { point, circuitId } of points) {
    if (point.role !== 'lever') continue;
    const number = sides.levers.indexOf(point) + 1;
    const place = task.placeOfLever(point.id);
    const hot = supply.hot(node, circuitId);
    if (!place || LEVER_MODELS[leverKind(place)].terminals.includes(SUPPLY)) {
      const terminal = sides.suppliesApart ? SUPPLY(number) : SUPPLY();
      if (!supplies.some(([known]) => known === terminal)) supplies.push([terminal, hot]);
    }
    const lever = sides.levers.length > 1 ? number : undefined;
    if (place)
      for (const [terminal, signal] of LEVER_MODELS[leverKind(place)].needs(place, hot))
        legs.push([terminal(lever), signal]);
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
  const isSplit = hots.size > 1 || (sides.hotsApart && hots.size > 0);
  for (const [signal, { first, loads }] of hots)
    landings.push([isSplit ? HOT(first) : task.onward ? LINE.hot : HOT(), signal, loads]);
  const load = loadModel(type);
  if (load.hots === 2 && points[0]) landings.push([SECOND_HOT, secondHotOf(points[0].circuitId)]);
  const onNeutral = points.find(({ point }) =>
    point.role === 'lever' ? type.needsNeutral && point === sides.levers[0] : load.onNeutral,
  );
  if (onNeutral)
    landings.push([
      sides.neutralsApart
        ? NEUTRAL(sides.numberOf(onNeutral.point.id))
        : task.onward
          ? LINE.neutral
          : NEUTRAL(),
      supply.neutral(node),
    ]);
  if (task.onward) landings.push([LOAD.hot, task.onward.hot], [LOAD.neutral, task.onward.neutral]);
  if (task.alarmsJoined && points.some(({ point }) => point.role === 'alarm'))
    landings.push([INTERCONNECT, 'interconnect']);
  const { id: deviceId, boxId } = device;
  return landings.map(([terminal, signal, loads]) =>
    loads
      ? { boxId, node, deviceId, terminal, signal, points: loads }
      : { boxId, node, deviceId, terminal, signal },
  );
}

/** Every terminal that a device may have, whichever kind of switch was put in: what a hand can have landed a wire on. */
export function possibleTerminals(reader: HouseReader, device: Device): readonly Terminal[] {
  const type = deviceType(reader, device);
  const points = reader.mentioning('points', device.id);
  const levers = points.filter(({ role }) => role === 'lever').length;
  const loads = points.length - levers;
  const terminals: Terminal[] = [GROUND];
  if (levers) terminals.push(SUPPLY());
  if (levers > 1) for (let lever = 1; lever <= levers; lever++) terminals.push(SUPPLY(lever));
  for (let lever = 1; lever <= levers; lever++) {
    const number = levers > 1 ? lever : undefined;
    for (const kind of LEVER_KINDS.toReversed())
      for (const terminal of LEVER_MODELS[kind].toldBy) terminals.push(terminal(number));
  }
  if (loads) terminals.push(type.feedThrough ? LINE.hot : HOT());
  if (loads > 1) for (let half = 1; half <= loads; half++) terminals.push(HOT(half));
  const load = loadModel(type);
  if (load.hots === 2) terminals.push(SECOND_HOT);
  if ((loads && load.onNeutral) || type.needsNeutral)
    terminals.push(type.feedThrough ? LINE.neutral : NEUTRAL());
  if (sidesOf(reader, device).neutralsApart)
    for (let point = 1; point <= points.length; point++) terminals.push(NEUTRAL(point));
  if (type.feedThrough) terminals.push(LOAD.hot, LOAD.neutral);
  if (points.some(({ role }) => role === 'alarm')) terminals.push(INTERCONNECT);
  return terminals;
}
