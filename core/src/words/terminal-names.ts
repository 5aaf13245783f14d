import type { HouseReader } from '../derive/reader.js';
import { deviceType } from '../facts/box-facts.js';
import type { Device } from '../house/model.js';
import { controlsOf } from '../wiring/circuit/controls.js';
import type { Landing, Terminal } from '../vocabulary/terminal.js';
import { terminalText } from './terminal-text.js';
import { sidesOf } from '../wiring/circuit/device-sides.js';
import { landingText, termsOf } from './landing-text.js';

/** What the leads of a device are called, where it has leads instead of screws. */
const LEADS: Partial<Record<Terminal['kind'], string>> = { supply: 'line lead', leg: 'load lead' };
const HALVES = ['upper half', 'lower half'];

/** A half of a split receptacle, and what it does: "upper half, always hot". */
function halfName(reader: HouseReader, device: Device, terminal: Terminal): string | undefined {
  const { loads } = sidesOf(reader, device);
  const part = terminal.kind === 'hot' ? terminal.part : undefined;
  const point = part ? loads[part - 1] : undefined;
  if (!part || !point || loads.length !== 2 || point.role !== 'receptacle') return undefined;
  const control = controlsOf(reader, point.id)[0];
  return `${terminalText(terminal, undefined, termsOf(reader))}, ${point.name ?? HALVES[part - 1]}, ${control ? `switched by ${control.name}` : 'always hot'}`;
}

/** What a hand calls a terminal of a device: a screw by what it is, a lead as a lead, a half of a receptacle by which it is. */
export function terminalName(reader: HouseReader, device: Device, terminal: Terminal): string {
  const type = deviceType(reader, device);
  if (type.connection !== 'leads')
    return halfName(reader, device, terminal) ?? terminalText(terminal, undefined, termsOf(reader));
  const { loads } = sidesOf(reader, device);
  const isHot = terminal.kind === 'hot' && !terminal.of && !terminal.pole;
  const roles = new Set(loads.map(({ role }) => role));
  if (isHot && roles.has('fan') && roles.has('lamp')) {
    const own = terminal.part ? loads[terminal.part - 1]?.role : undefined;
    return own === 'fan' ? 'fan lead' : own === 'lamp' ? 'light lead' : 'fan lead and light lead';
  }
  const isAlone = !('lever' in terminal && terminal.lever);
  return (isAlone && LEADS[terminal.kind]) || `${terminalText(terminal, undefined, termsOf(reader))} lead`;
}

/** "Switch, gang 1: leg", "Fan with light: fan lead", "breaker 5, neutral" */
export function landingName(reader: HouseReader, landing: Landing): string {
  const device = landing.deviceId ? reader.get('devices', landing.deviceId) : undefined;
  if (!device) return landingText(reader, landing);
  const type = deviceType(reader, device);
  const name = terminalName(reader, device, landing.terminal);
  return type.mount === 'yoke' ? `${type.name}, gang ${device.gang}: ${name}` : `${type.name}: ${name}`;
}
