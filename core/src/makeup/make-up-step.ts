import { loadModel } from '../wiring/circuit/device-models.js';
import { numberOf, supplyOf } from '../facts/circuit-facts.js';
import type { HouseReader } from '../derive/reader.js';
import { deviceType } from '../facts/box-facts.js';
import type { Gauge } from '../vocabulary/size.js';
import { isThicker } from '../vocabulary/size.js';
import type { Colour } from '../vocabulary/text.js';
import type { Bundle, Connector } from '../vocabulary/catalogue-types.js';
import { connectorFor, connectorOf, takes } from '../rulebook/connectors.js';
import type { BoxJoint, CableEnd } from '../wiring/joints/box-joint.js';
import type { Landing } from '../vocabulary/terminal.js';
import { sameTerminal } from '../vocabulary/terminal.js';
import { isGroundBar, isLink, isPanelTerminal } from '../wiring/circuit/panel-terminals.js';
import { protectedBy, travelerSide } from '../vocabulary/signal.js';
import type { JointTitle } from '../findings/facts.js';
import type { Tail } from '../wiring/joints/splice-tails.js';
import { bundleOf, fittingFor, isLead, isSpliced, tailsOf } from '../wiring/joints/splice-tails.js';
import { wireCircuit } from '../wiring/conductors/wire-circuit.js';
import { PIGTAIL_COLOUR } from './device-sheet.js';

export interface StepConductor {
  readonly runId: string;
  readonly slot?: number;
  readonly colour: Colour;
  readonly gauge: Gauge;
}

export interface Pigtail {
  /** Where it goes, from one terminal on to the next. */
  readonly to: readonly Landing[];
  readonly gauge: Gauge;
  readonly colour: Colour;
  readonly lengthIn: number;
  /** Strip at the device, in inches. */
  readonly stripIn: number;
  /** It goes from terminal to terminal and not into the splice. */
  readonly link?: true;
  /** Id of the connector with which it is spliced to a lead. */
  readonly connector?: string;
}

/** What to mind at a step. */
export type StepNote =
  | {
      readonly code:
        | 'link-only'
        | 'one-loop'
        | 'one-pigtail-and-links'
        | 'other-link-here'
        | 'hooks'
        | 'own-bar-screw'
        | 'clamp-straight'
        | 'more-may-join'
        | 'travelers-together'
        | 'capped-both-ends'
        | 'raceway-is-ground'
        | 'at-its-gang'
        | 'tug-and-fold';
    }
  | {
      readonly code: 'left-long-looped' | 'landed-then-links' | 'longest-is-pigtail';
      readonly to: readonly Landing[];
    }
  /** Twist, then clip back to this strip, in inches. */
  | { readonly code: 'clip-back'; readonly lengthIn: number }
  | { readonly code: 'shared-neutral' }
  | { readonly code: 'mark-white'; readonly is: BoxJoint['role'] }
  | { readonly code: 'colour-changes'; readonly side: 'a' | 'b'; readonly ends: readonly StepConductor[] }
  | { readonly code: 'leave-loop'; readonly lengthIn: number }
  | { readonly code: 'label-it'; readonly controlId: string };

export type Stage = 'grounds' | 'neutrals' | 'travelers' | 'hots' | 'legs' | 'spares' | 'open';

/** One joint as work: what to take, cut, strip, twist and where it lands. */
export interface MakeUpStep {
  readonly stage: Stage;
  /** The joint itself: what a tick writes into the house. */
  readonly joint: BoxJoint;
  /** It has been ticked. */
  readonly made: boolean;
  readonly title: JointTitle;
  readonly conductors: readonly StepConductor[];
  readonly pigtails: readonly Pigtail[];
  /** Whites to be marked all round, in a colour other than white, grey or green (NEC 200.7(C)). */
  readonly marks: readonly StepConductor[];
  /** The one terminal that the conductor lands on directly. */
  readonly landsOn?: Landing;
  readonly connector?: { readonly id: string; readonly bundle: Bundle };
  /** The connector that was put on does not take this bundle; the one that would, where there is one. */
  readonly misfit?: { readonly bundle: Bundle; readonly instead?: string };
  /** It was made as one splice, and no connector of the table takes so many. */
  readonly split: boolean;
  /** Strip of the conductors, in inches; undefined where they stay whole. */
  readonly stripIn?: number;
  readonly twist: boolean;
  /** Something in this box is not derived yet, and may belong to this joint. */
  readonly open: boolean;
  readonly notes: readonly StepNote[];
}

export const STAGES: readonly Stage[] = [
  'grounds',
  'neutrals',
  'travelers',
  'hots',
  'legs',
  'spares',
  'open',
];
export const STAGE_OF: Record<BoxJoint['role'], Stage> = {
  ground: 'grounds',
  neutral: 'neutrals',
  traveler: 'travelers',
  hot: 'hots',
  interconnect: 'hots',
  leg: 'legs',
  spare: 'spares',
  undecided: 'open',
};

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
function isClamp(reader: HouseReader, landing: Landing): boolean {
  const device = landing.deviceId ? reader.get('devices', landing.deviceId) : undefined;
  if (!device) return isPanelTerminal(landing) || landing.terminal.kind === 'lug';
  return landing.terminal.kind !== 'ground' && loadModel(deviceType(reader, device)).hots === 2;
}

/** Strip at a device's screw or clamp, in inches. Leads of a device, and links, are spliced. */
function terminalStrip(reader: HouseReader, landing: Landing, gauge: Gauge): number {
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
function leadConnector(reader: HouseReader, landing: Landing, gauge: Gauge): string | undefined {
  const device = landing.deviceId ? reader.get('devices', landing.deviceId) : undefined;
  if (!device || !isLead(reader, landing)) return undefined;
  return leadFitting(reader, landing, gauge)?.id;
}

const leadGauge = (reader: HouseReader, { deviceId }: Landing): Gauge =>
  reader.rules().jurisdiction.leads[deviceType(reader, reader.get('devices', deviceId!)!).mount];

function leadFitting(reader: HouseReader, landing: Landing, gauge: Gauge): Connector | undefined {
  const kind = reader.rules().text('makeup.connector') === 'lever' ? 'lever' : 'twist-on';
  return connectorFor(reader.rules(), bundleOf([gauge, leadGauge(reader, landing)]), [kind, 'twist-on']);
}

/** The circuit of a joint; of a neutral that circuits share, all of them by number. */
function circuitsOf(reader: HouseReader, joint: BoxJoint): readonly string[] {
  const { circuitId } = joint;
  if (!circuitId || !supplyOf(reader, circuitId)) return [];
  if (joint.role !== 'neutral') return [circuitId];
  return [...wireCircuit(reader, circuitId).circuitIds].sort(
    (a, b) => numberOf(reader, a) - numberOf(reader, b),
  );
}

function titleOf(reader: HouseReader, boxId: string, joint: BoxJoint): JointTitle {
  const [end] = joint.ends;
  const of =
    joint.signal && protectedBy(joint.signal)
      ? ('load' as const)
      : joint.landings.some(({ terminal }) => 'of' in terminal && terminal.of === 'line')
        ? ('line' as const)
        : undefined;
  const { controlId } = joint;
  const shared = { circuitIds: circuitsOf(reader, joint), isPart: joint.landings.some(isLink) };
  const withSide = { ...shared, ...(of && { of }) };
  switch (joint.role) {
    case 'ground':
      return { code: joint.landings.some(isGroundBar) ? 'grounds-to-bar' : 'grounds', ...shared };
    case 'traveler':
      return {
        code: 'traveler',
        controlId,
        side: (joint.signal && travelerSide(joint.signal)) ?? 'b',
        isThrough: joint.landings.length === 0 && joint.kind !== 'cap',
      };
    case 'neutral':
      if (joint.kind === 'uncut') return { code: 'neutral-uncut', ...withSide };
      return { code: joint.kind === 'cap' ? 'neutral-cap' : 'neutrals', ...withSide };
    case 'hot':
      return joint.kind === 'cap' ? { code: 'hot-cap', ...shared } : { code: 'hot', ...withSide };
    case 'interconnect':
      return { code: 'interconnect', ...shared };
    case 'leg':
      return { code: 'leg', controlId, isPart: shared.isPart };
    case 'spare':
      return joint.ends.length > 1
        ? { code: 'spares-spliced', ...shared }
        : { code: 'spare-cap', boxId, runId: end!.runId, colour: end!.colour };
    case 'undecided':
      return end
        ? { code: 'not-derived', boxId, runId: end.runId, colour: end.colour }
        : { code: 'link-unasked', ...shared };
  }
}

const conductorOf = ({ runId, slot, colour, gauge }: CableEnd): StepConductor => ({
  runId,
  colour,
  gauge,
  ...(slot !== undefined && { slot }),
});

/** Where the colour of a traveler changes from one cable to the next. */
function colourChange(joint: BoxJoint, all: readonly BoxJoint[]): StepNote[] {
  if (joint.role !== 'traveler' || !joint.signal || !joint.controlId) return [];
  const side = travelerSide(joint.signal);
  const same = all.filter(
    (one) =>
      one.role === 'traveler' &&
      one.controlId === joint.controlId &&
      one.signal &&
      travelerSide(one.signal) === side,
  );
  const colours = new Map(same.flatMap((one) => one.ends).map((end) => [end.colour, end]));
  if (!side || colours.size < 2) return [];
  return [{ code: 'colour-changes', side, ends: [...colours.values()].map(conductorOf) }];
}

/** Whether a link between two splices has been cut with one that comes before. */
const isCutBefore = (joint: BoxJoint, link: Landing, all: readonly BoxJoint[]): boolean =>
  all
    .slice(0, all.indexOf(joint))
    .some(({ landings }) => landings.some((to) => sameTerminal(to.terminal, link.terminal)));

/** How a joint is held together: its short wires, what lies in the connector, and which that is. */
interface Made {
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
}

function holdingOf(reader: HouseReader, joint: BoxJoint): Made {
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
  const isSplice = spliced && !isLinked;
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
  };
}

function pigtailsOf(reader: HouseReader, joint: BoxJoint, all: readonly BoxJoint[], made: Made): Pigtail[] {
  const lengthIn = reader.rules().number('makeup.pigtail');
  return made.tails.flatMap((tail): Pigtail[] => {
    if (made.goesThrough && tail === made.inSplice[0]) return [];
    // Looped unbroken, or linked on, the conductor itself is the first.
    if (tail.kind !== 'link' && !tail.inSplice) return [];
    const landing = tail.to[0]!;
    // A link is cut once, with the splice that comes first.
    if (isLink(landing) && isCutBefore(joint, landing, all)) return [];
    const own = leadConnector(reader, landing, joint.gauge);
    return [
      {
        to: tail.to,
        gauge: joint.gauge,
        colour: PIGTAIL_COLOUR[joint.role] ?? 'BK',
        lengthIn: lengthIn * tail.to.length,
        stripIn: terminalStrip(reader, landing, joint.gauge),
        ...(tail.kind === 'link' && { link: true as const }),
        ...(own && { connector: own }),
      },
    ];
  });
}

/** Whether the wires are twisted before the connector goes on, by the school of the house. */
function isTwisted(reader: HouseReader, joint: BoxJoint, made: Made): boolean {
  const school = reader.rules().text('makeup.pretwist');
  const wires = joint.ends.length + made.inSplice.length - (made.goesThrough ? 1 : 0);
  return (
    made.isSplice &&
    made.connector?.kind !== 'lever' &&
    (school === 'always' || (school === 'three-or-more' && wires >= 3))
  );
}

/** How the wire runs where it is more than one pigtail to each. */
function wayNotes(joint: BoxJoint, { tails, isSplice, isDirect }: Made): StepNote[] {
  const looped = tails.find(({ kind }) => kind === 'loop');
  const notes: StepNote[] = [];
  if (joint.ends.length === 0 && tails.length > 0 && !isSplice) notes.push({ code: 'link-only' });
  if (isDirect && looped) notes.push({ code: 'left-long-looped', to: looped.to });
  else if (isDirect && tails[0]) notes.push({ code: 'landed-then-links', to: tails[0].to.slice(0, 1) });
  else if (looped) notes.push({ code: 'one-loop' });
  else if (tails.some(({ kind }) => kind === 'link')) notes.push({ code: 'one-pigtail-and-links' });
  return notes;
}

/** What to mind at the terminals of a joint. */
function landingNotes(reader: HouseReader, joint: BoxJoint): StepNote[] {
  const notes: StepNote[] = [];
  const onBar = joint.landings.some(isGroundBar);
  if (joint.role === 'ground' && !onBar && joint.landings.some((to) => !isLead(reader, to) && !isLink(to)))
    notes.push({ code: 'hooks' });
  if (onBar) notes.push({ code: 'own-bar-screw' });
  if (joint.kind === 'land' && isClamp(reader, joint.landings[0]!)) notes.push({ code: 'clamp-straight' });
  if (joint.role === 'neutral' && circuitsOf(reader, joint).length > 1)
    notes.push({ code: 'shared-neutral' });
  return notes;
}

/** What to mind of what the joint carries. */
function roleNotes(reader: HouseReader, joint: BoxJoint, all: readonly BoxJoint[]): StepNote[] {
  const notes: StepNote[] = [];
  if (joint.open && joint.role !== 'undecided') notes.push({ code: 'more-may-join' });
  if (joint.ends.some((end) => end.reidentified)) notes.push({ code: 'mark-white', is: joint.role });
  if (joint.role === 'traveler') notes.push({ code: 'travelers-together' });
  notes.push(...colourChange(joint, all));
  if (joint.kind === 'uncut') notes.push({ code: 'leave-loop', lengthIn: joint.loopIn ?? 0 });
  if (joint.role === 'spare') notes.push({ code: 'capped-both-ends' });
  if (joint.role === 'ground' && joint.ends.length === 0) notes.push({ code: 'raceway-is-ground' });
  const isAtSwitch = joint.landings.some(({ terminal: { kind } }) => kind === 'leg' || kind === 'common');
  if (joint.role === 'leg' && isAtSwitch)
    notes.push(
      reader.rules().text('makeup.legs') === 'label' && joint.controlId
        ? { code: 'label-it', controlId: joint.controlId }
        : { code: 'at-its-gang' },
    );
  return notes;
}

function notesOf(reader: HouseReader, joint: BoxJoint, all: readonly BoxJoint[], made: Made): StepNote[] {
  const rules = reader.rules();
  const notes = wayNotes(joint, made);
  if (made.isSplice && rules.text('makeup.spliceStrip') === 'clip-back')
    notes.push({ code: 'clip-back', lengthIn: rules.number('makeup.strip.clippedTo') });
  if (joint.landings.some((to) => isLink(to) && isCutBefore(joint, to, all)))
    notes.push({ code: 'other-link-here' });
  if (made.goesThrough) notes.push({ code: 'longest-is-pigtail', to: made.inSplice[0]!.to });
  notes.push(...landingNotes(reader, joint), ...roleNotes(reader, joint, all));
  if (made.isSplice) notes.push({ code: 'tug-and-fold' });
  return notes;
}

/** Strip of the conductors of a joint, in inches; undefined where they stay whole. */
function stripOf(reader: HouseReader, joint: BoxJoint, { isDirect }: Made): number | undefined {
  if (joint.kind === 'cap' || joint.kind === 'uncut' || joint.kind === 'undecided') return undefined;
  const [first] = joint.landings;
  const isAtTerminal = joint.kind === 'land' || joint.landings.some(isGroundBar) || isDirect;
  return first && isAtTerminal ? terminalStrip(reader, first, joint.gauge) : spliceStrip(reader);
}

/** A joint of a box as work, in facts; `words.makeUp` says it. */
export function stepOf(
  reader: HouseReader,
  boxId: string,
  joint: BoxJoint,
  all: readonly BoxJoint[],
): MakeUpStep {
  const made = holdingOf(reader, joint);
  const { connector, fitting, bundle } = made;
  const isAtTerminal = joint.kind === 'land' || joint.landings.some(isGroundBar);
  const stripIn = stripOf(reader, joint, made);
  return {
    stage: STAGE_OF[joint.role],
    joint,
    made: joint.made ?? false,
    marks: joint.ends.filter((end) => end.reidentified).map(conductorOf),
    title: titleOf(reader, boxId, joint),
    conductors: joint.ends.map(conductorOf),
    pigtails: pigtailsOf(reader, joint, all, made),
    ...(isAtTerminal && { landsOn: joint.landings[0]! }),
    ...(connector && { connector: { id: connector.id, bundle } }),
    split: made.isSplit,
    ...(made.isMisfit && { misfit: { bundle, ...(fitting && { instead: fitting.id }) } }),
    ...(stripIn !== undefined && { stripIn }),
    twist: isTwisted(reader, joint, made),
    open: joint.open,
    notes: notesOf(reader, joint, all, made),
  };
}
