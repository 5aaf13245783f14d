import { loadModel } from '../wiring/circuit/device-models.js';
import type { HouseReader } from '../derive/reader.js';
import { deviceType } from '../facts/box-facts.js';
import type { Gauge } from '../vocabulary/size.js';
import { isThicker } from '../vocabulary/size.js';
import type { Bundle, Connector } from '../vocabulary/catalogue-types.js';
import { connectorFor, connectorOf, takes, splicingKinds } from '../rulebook/connectors.js';
import type { BoxJoint } from '../wiring/joints/box-joint.js';
import type { Landing } from '../vocabulary/terminal.js';
import { sameTerminal } from '../vocabulary/terminal.js';
import { isGroundBar, isLink, isPanelTerminal } from '../wiring/circuit/panel-terminals.js';
import type { Tail } from '../wiring/joints/splice-tails.js';
import {
  bundleOf,
  fittingFor,
  isLead,
  isSpliced,
  tailsOf,
  heldInTerminal,
} from '../wiring/joints/splice-tails.js';

/** Strip of a conductor that goes into a splice, in inches, by the house's school. */
function spliceStrip(reader: HouseReader): number {
  const rules = reader.rules();
  const schools: Record<string, string> = {
    'half-inch': 'makeup.strip.splice',
    'three-eighths': 'makeup.strip.thinSplice',
    'clip-back': 'makeup.strip.clipBack',
  };
  return rules.number(schools[rules.text('makeup.spliceStrip')]!);
}

/** Terminals that clamp the wire straight: breakers, bars and lugs, and the receptacles and connections of 240 V. */
export function isClamp(reader: HouseReader, landing: Landing): boolean {
  const device = landing.deviceId ? reader.get('devices', landing.deviceId) : undefined;
  if (!device) return isPanelTerminal(landing) || landing.terminal.kind === 'lug';
  return landing.terminal.kind !== 'ground' && loadModel(deviceType(reader, device)).hots === 2;
}

/** Strip at a device's screw or clamp, in inches. Leads of a device, and links, are spliced. */
export function terminalStrip(reader: HouseReader, landing: Landing, gauge: Gauge): number {
  const rules = reader.rules();
  if (isLead(reader, landing) || isLink(landing)) return spliceStrip(reader);
  if (isClamp(reader, landing)) return rules.number('makeup.strip.clamp');
  const school = rules.text('makeup.termination');
  // Push-in takes the thinnest circuit conductor only (14 AWG solid); thicker wire goes round the screw. The ground always does.
  const hooked =
    school === 'hooks' ||
    !landing.deviceId ||
    landing.terminal.kind === 'ground' ||
    (school === 'push-in' && isThicker(gauge, rules.jurisdiction.sizes[0]));
  return rules.number(hooked ? 'makeup.strip.hook' : 'makeup.strip.pushIn');
}

/** The connector between a wire and a lead of a device. */
export function leadConnector(reader: HouseReader, landing: Landing, gauge: Gauge): string | undefined {
  const device = landing.deviceId ? reader.get('devices', landing.deviceId) : undefined;
  if (!device || !isLead(reader, landing)) return undefined;
  return leadFitting(reader, landing, gauge)?.id;
}

const leadGauge = (reader: HouseReader, { deviceId }: Landing): Gauge =>
  reader.rules().jurisdiction.leads[deviceType(reader, reader.get('devices', deviceId!)!).mount];

function leadFitting(reader: HouseReader, landing: Landing, gauge: Gauge): Connector | undefined {
  const rules = reader.rules();
  return connectorFor(rules, bundleOf([gauge, leadGauge(reader, landing)]), splicingKinds(rules));
}

/** Whether a link between two splices has been cut with one that comes before. */
export const isCutBefore = (joint: BoxJoint, link: Landing, all: readonly BoxJoint[]): boolean =>
  all
    .slice(0, all.indexOf(joint))
    .some(({ landings }) => landings.some((to) => sameTerminal(to.terminal, link.terminal)));

/** How a joint is held together: its short wires, what lies in the connector, and which that is. */
export interface Made {
  readonly tails: readonly Tail[];
  readonly inSplice: readonly Tail[];
  /** It is twisted or clamped together. */
  readonly isSplice: boolean;
  /** One wire that goes from supply to supply, or a link alone: nothing to splice. */
  readonly isDirect: boolean;
  readonly fitting: Connector | undefined;
  readonly connector: Connector | undefined;
  readonly bundle: Bundle;
  /** No connector of the table takes so many. */
  readonly isSplit: boolean;
  readonly isMisfit: boolean;
  /** The longest ground goes through the hole of the connector: it is the first pigtail. */
  readonly goesThrough: boolean;
  /** All its conductors go into this terminal together: there is no connector. */
  readonly inTerminal?: Landing;
}

export function holdingOf(reader: HouseReader, joint: BoxJoint): Made {
  const spliced = isSpliced(joint) && joint.ends.length + joint.landings.length > 1;
  const tails = spliced ? tailsOf(reader, joint) : [];
  const inSplice = tails.filter((tail) => tail.inSplice);
  const gauges = joint.ends.map((end) => end.gauge);
  const fit = fittingFor(
    reader,
    joint.role,
    gauges,
    inSplice.map(() => joint.gauge),
  );
  // Nothing to twist together: a link between terminals, or one wire that goes from supply to supply.
  const isLinked = spliced && (joint.ends.length === 0 || gauges.length + inSplice.length < 2);
  const held = heldInTerminal(reader, joint);
  const isSplice = spliced && !isLinked && !held;
  const lead = joint.kind === 'land' ? joint.landings.find((to) => isLead(reader, to)) : undefined;
  const fitting = isSplice ? fit.connector : lead && leadFitting(reader, lead, joint.gauge);
  const recorded = isSplice ? connectorOf(joint.connector) : undefined;
  const connector = recorded ?? fitting;
  const goesThrough =
    connector?.kind === 'grounding' && joint.role === 'ground' && inSplice.length > 0 && gauges.length > 0;
  const bundle = lead
    ? bundleOf([joint.gauge, leadGauge(reader, lead)])
    : bundleOf([...gauges, ...inSplice.slice(goesThrough ? 1 : 0).map(() => joint.gauge)]);
  return {
    tails,
    inSplice,
    isSplice,
    isDirect: isLinked && joint.ends.length === 1,
    fitting,
    connector,
    bundle,
    isSplit: isSplice && !fit.connector,
    isMisfit: recorded !== undefined && !takes(recorded, bundle),
    goesThrough,
    ...(held && { inTerminal: held }),
  };
}

/** Whether the wires are twisted before the connector goes on, by the school of the house. */
export function isTwisted(reader: HouseReader, joint: BoxJoint, made: Made): boolean {
  const school = reader.rules().text('makeup.pretwist');
  const wires = joint.ends.length + made.inSplice.length - (made.goesThrough ? 1 : 0);
  return (
    made.isSplice &&
    made.connector?.kind !== 'lever' &&
    made.connector?.kind !== 'block' &&
    (school === 'always' || (school === 'three-or-more' && wires >= 3))
  );
}

/** Strip of the conductors of a joint, in inches; undefined where they stay whole. */
export function stripOf(reader: HouseReader, joint: BoxJoint, made: Made): number | undefined {
  if (joint.kind === 'cap' || joint.kind === 'uncut' || joint.kind === 'undecided') return undefined;
  const first = made.inTerminal ?? joint.landings[0];
  const isAtTerminal =
    joint.kind === 'land' || joint.landings.some(isGroundBar) || made.isDirect || made.inTerminal;
  return first && isAtTerminal ? terminalStrip(reader, first, joint.gauge) : spliceStrip(reader);
}
