import type { HouseReader } from '../derive/reader.js';
import { deviceType } from '../house/box-facts.js';
import type { Device } from '../house/model.js';
import type { CircuitControls, ReachedPoint } from './controls.js';
import type { Signal, Terminal } from './signal.js';
import { legOf } from './signal.js';

export interface CircuitTerminals {
  readonly terminals: readonly Terminal[];
  /** Devices of which at least one point could not be wired. */
  readonly open: ReadonlySet<string>;
}

const numbered = (name: string, signals: readonly Signal[], index: number): string =>
  signals.length === 1 ? name : `${name} ${index + 1}`;

/**
 * Which signal lands where on every device of the circuit. The halves of a receptacle share one terminal as long as they
 * carry the same signal; where they differ the tab on the hot side comes off.
 */
export function terminalsOf(
  reader: HouseReader,
  points: readonly ReachedPoint[],
  controls: CircuitControls,
): CircuitTerminals {
  const wired = new Set(controls.wired);
  const alarms = points.filter(({ point }) => point.role === 'alarm').length;
  const terminals: Terminal[] = [];
  const open = new Set<string>();
  const byDevice = new Map<Device, ReachedPoint[]>();
  for (const reached of points) {
    byDevice.set(reached.device, [...(byDevice.get(reached.device) ?? []), reached]);
  }
  for (const [device, own] of byDevice) {
    const boxId = own[0]!.boxId;
    const supply = new Set<Signal>();
    const legs: Signal[] = [];
    const loads = new Set<Signal>();
    for (const { point } of own) {
      const control = controls.ofPoint.get(point.id);
      if (control && !wired.has(control)) open.add(device.id);
      else if (point.role === 'lever') {
        supply.add('hot');
        if (control) legs.push(legOf(control.id));
      } else loads.add(control ? legOf(control.id) : 'hot');
    }
    const land = (name: string, signal: Signal): void => {
      terminals.push({ boxId, deviceId: device.id, name, signal });
    };
    for (const signal of supply) land('supply', signal);
    legs.forEach((signal, index) => land(numbered('leg', legs, index), signal));
    const hots = [...loads];
    hots.forEach((signal, index) => land(numbered('hot', hots, index), signal));
    if (hots.length || (supply.size && deviceType(reader, device).needsNeutral)) land('neutral', 'neutral');
    if (alarms > 1 && own.some(({ point }) => point.role === 'alarm')) land('interconnect', 'interconnect');
  }
  return { terminals, open };
}
