import type { HouseReader } from '../../derive/reader.js';
import { deviceType } from '../../facts/box-facts.js';
import type { Gauge } from '../../vocabulary/size.js';
import type { Bundle, Connector } from '../../vocabulary/catalogue-types.js';
import { connectorFor, splicingKinds } from '../../rulebook/connectors.js';
import type { BoxJoint } from './box-joint.js';
import type { Landing } from '../../vocabulary/terminal.js';
import { isGroundBar, isLink } from '../circuit/panel-terminals.js';

/** A short wire of a splice, with the terminals that it serves. */
export interface Tail {
  readonly to: readonly Landing[];
  /** 'pigtail' from the splice to a terminal, 'loop' unbroken from screw to screw, 'link' from one screw to the next. */
  readonly kind: 'pigtail' | 'loop' | 'link';
  /** One end of it goes into the connector. */
  readonly inSplice: boolean;
}

/** Leads are spliced, never looped or hooked: those of canopies, and of devices that have leads instead of screws. */
export function isLead(reader: HouseReader, { deviceId }: Landing): boolean {
  const device = deviceId ? reader.get('devices', deviceId) : undefined;
  return device !== undefined && deviceType(reader, device).connection === 'leads';
}

/**
 * The terminal that all conductors of a joint go into together, where terminals take several: then no connector is needed, and other
 * terminals are linked from there. Undefined where they are joined by a connector.
 */
export function heldInTerminal(reader: HouseReader, joint: BoxJoint): Landing | undefined {
  const rules = reader.rules();
  if (joint.kind !== 'splice' || joint.ends.length < 1 || !rules.has('makeup.inTerminal')) return undefined;
  // What is recorded with a connector was made with it.
  if (joint.connector || joint.ends.length > rules.number('makeup.inTerminal')) return undefined;
  if (joint.landings.some((to) => isLink(to) || to.terminal.kind === 'capped')) return undefined;
  return joint.landings.find((to) => to.deviceId && !isLead(reader, to));
}

/**
 * The short wires of a splice: a pigtail to each terminal, or by the school of the house one wire looped unbroken from supply
 * to supply, or links between the supplies. A single conductor that is looped, or linked on, is in no splice at all.
 */
export function tailsOf(reader: HouseReader, joint: BoxJoint): readonly Tail[] {
  const held = heldInTerminal(reader, joint);
  if (held)
    return joint.landings.flatMap((to): Tail[] =>
      to === held ? [] : [{ to: [to], kind: 'link', inSplice: false }],
    );
  const pigtail = (landing: Landing): Tail => ({ to: [landing], kind: 'pigtail', inSplice: true });
  const links = joint.landings.filter(isLink).map(pigtail);
  const landings = joint.landings.filter((to) => !isLink(to));
  const school = reader.rules().text('makeup.hots');
  const screws = landings.filter((to) => to.deviceId && !isLead(reader, to));
  if (joint.role !== 'hot' || school === 'pigtails' || screws.length < 2 || joint.ends.length === 0)
    return [...landings.map(pigtail), ...links];
  const rest = landings.filter((to) => !screws.includes(to)).map(pigtail);
  // One conductor and nothing to splice it with goes to the first screw itself.
  const isDirect = joint.ends.length === 1 && rest.length + links.length === 0;
  const own: Tail[] =
    school === 'looped'
      ? [{ to: screws, kind: 'loop', inSplice: !isDirect }]
      : screws.map((to, at) => ({
          to: [to],
          kind: at ? ('link' as const) : ('pigtail' as const),
          inSplice: at === 0 && !isDirect,
        }));
  return [...own, ...rest, ...links];
}

/** So many of each gauge. */
export const bundleOf = (gauges: readonly Gauge[]): Bundle => {
  const bundle: Partial<Record<Gauge, number>> = {};
  for (const gauge of gauges) bundle[gauge] = (bundle[gauge] ?? 0) + 1;
  return bundle;
};

/** Kinds of connectors for a splice, by its role and the school of the house, the wanted ones first. */
const connectorKinds = (reader: HouseReader, role: BoxJoint['role']): readonly Connector['kind'][] => [
  ...(role === 'ground' ? (['grounding'] as const) : []),
  ...splicingKinds(reader.rules()),
];

/** What goes into a connector, and the one that takes it. */
export interface Fitting {
  readonly bundle: Bundle;
  readonly connector: Connector | undefined;
  /** The longest ground goes on through the hole and is the first pigtail: it is not cut. */
  readonly through: boolean;
}

/**
 * The connector for these conductors and so many tails of one gauge. Through the hole of a grounding connector the longest
 * ground goes on as the first pigtail, so that there is one wire less in it.
 */
export function fittingFor(
  reader: HouseReader,
  role: BoxJoint['role'],
  ends: readonly Gauge[],
  tails: readonly Gauge[],
): Fitting {
  const bundle = bundleOf([...ends, ...tails]);
  for (const kind of connectorKinds(reader, role)) {
    const through = kind === 'grounding' && tails.length > 0 && ends.length > 0;
    const own = through ? bundleOf([...ends, ...tails.slice(1)]) : bundle;
    const connector = connectorFor(reader.rules(), own, [kind]);
    if (connector) return { bundle: own, connector, through };
  }
  return { bundle, connector: undefined, through: false };
}

/** Whether a joint is held by a connector at all: not on a bar, and more than one wire. */
export const isSpliced = (joint: BoxJoint): boolean =>
  joint.kind === 'splice' && !joint.landings.some(isGroundBar);
