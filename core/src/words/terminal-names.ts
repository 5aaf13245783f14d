import type { HouseReader } from '../derive/reader.js';
import { deviceType } from '../facts/box-facts.js';
import type { Device } from '../house/model.js';
import { controlsOf } from '../wiring/circuit/controls.js';
import type { Landing, Terminal } from '../vocabulary/terminal.js';
import { sidesOf } from '../wiring/circuit/device-sides.js';
import { landingText } from './landing-text.js';
import type { Say } from './language/language.js';
import { terminalText } from './terminal-text.js';

/** A half of a split receptacle, and what it does: "upper half, always hot". */
function halfName(reader: HouseReader, say: Say, device: Device, terminal: Terminal): string | undefined {
  const { loads } = sidesOf(reader, device);
  const part = terminal.kind === 'hot' ? terminal.part : undefined;
  const point = part ? loads[part - 1] : undefined;
  if (!part || !point || loads.length !== 2 || point.role !== 'receptacle') return undefined;
  const control = controlsOf(reader, point.id)[0];
  const { phrases } = say.tongue;
  return phrases.half(
    terminalText(terminal, undefined, say.tongue),
    point.name ?? phrases.halves[part - 1]!,
    control?.name,
  );
}

/** What a hand calls a terminal of a device: a screw by what it is, a lead as a lead, a half of a receptacle by which it is. */
export function terminalName(reader: HouseReader, say: Say, device: Device, terminal: Terminal): string {
  const type = deviceType(reader, device);
  const plain = terminalText(terminal, undefined, say.tongue);
  if (type.connection !== 'leads') return halfName(reader, say, device, terminal) ?? plain;
  const { leads } = say.tongue.phrases;
  const { loads } = sidesOf(reader, device);
  const isHot = terminal.kind === 'hot' && !terminal.of && !terminal.pole;
  const roles = new Set(loads.map(({ role }) => role));
  if (isHot && roles.has('fan') && roles.has('lamp')) {
    const own = terminal.part ? loads[terminal.part - 1]?.role : undefined;
    return own === 'fan' || own === 'lamp' ? leads[own] : leads.both;
  }
  const isAlone = !('lever' in terminal && terminal.lever);
  if (isAlone && (terminal.kind === 'supply' || terminal.kind === 'leg')) return leads[terminal.kind];
  return leads.lead(plain);
}

/** "Switch, gang 1: leg", "Fan with light: fan lead", "breaker 5, neutral" */
export function landingName(reader: HouseReader, say: Say, landing: Landing): string {
  const device = landing.deviceId ? reader.get('devices', landing.deviceId) : undefined;
  if (!device) return landingText(reader, landing, say.tongue);
  const type = deviceType(reader, device);
  const name = terminalName(reader, say, device, landing.terminal);
  const of = say.deviceType(device.catalogueId);
  return `${type.mount === 'yoke' ? say.tongue.phrases.atGang(of, device.gang) : of}: ${name}`;
}
