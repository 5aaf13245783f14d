import type { HouseReader } from '../derive/reader.js';
import { deviceType } from '../facts/box-facts.js';
import { farName } from '../facts/naming.js';
import type { Awg, Colour } from '../vocabulary/text.js';
import type { Bundle } from '../rulebook/connectors.js';
import { CONNECTORS, bundleText, connectorFor, takes } from '../rulebook/connectors.js';
import type { BoxJoint, CableEnd } from '../wiring/joints/box-joint.js';
import type { Landing } from '../vocabulary/terminal.js';
import { sameTerminal } from '../vocabulary/terminal.js';
import { isGroundBar, isLink, isPanelTerminal } from '../wiring/circuit/panel-terminals.js';
import { travelerSide } from '../vocabulary/signal.js';
import { bundleOf, fittingFor, isLead, isSpliced, tailsOf } from '../wiring/joints/splice-tails.js';
import { wireCircuit } from '../wiring/conductors/wire-circuit.js';
import { PIGTAIL_COLOUR } from './device-sheet.js';
import { landingName } from './terminal-names.js';

export interface StepConductor {
  readonly runId: string;
  readonly slot?: number;
  readonly toward: string;
  readonly colour: Colour;
  readonly awg: Awg;
}

export interface Pigtail {
  readonly to: string;
  readonly awg: Awg;
  readonly colour: Colour;
  readonly lengthIn: number;
  /** Strip at the device, in inches. */
  readonly stripIn: number;
  /** It goes from terminal to terminal and not into the splice. */
  readonly link?: true;
  /** The connector with which it is spliced to a lead. */
  readonly connector?: string;
}

export type Stage = 'grounds' | 'neutrals' | 'travelers' | 'hots' | 'legs' | 'spares' | 'open';

/** One joint as work: what to take, cut, strip, twist and where it lands. */
export interface MakeUpStep {
  readonly stage: Stage;
  /** The joint itself: what a tick writes into the house. */
  readonly joint: BoxJoint;
  /** It has been ticked. */
  readonly made: boolean;
  readonly title: string;
  readonly conductors: readonly StepConductor[];
  readonly pigtails: readonly Pigtail[];
  /** Whites to be marked all round, in a colour other than white, grey or green (NEC 200.7(C)). */
  readonly marks: readonly StepConductor[];
  /** The one terminal that the conductor lands on directly. */
  readonly landsOn?: string;
  readonly connector?: { readonly id: string; readonly name: string; readonly bundle: string };
  /** The connector that was put on does not take this bundle; the one that would, where there is one. */
  readonly misfit?: { readonly bundle: Bundle; readonly instead?: string };
  /** It was made as one splice, and no connector of the table takes so many. */
  readonly split: boolean;
  /** Strip of the conductors, in inches; undefined where they stay whole. */
  readonly stripIn?: number;
  readonly twist: boolean;
  /** Something in this box is not derived yet, and may belong to this joint. */
  readonly open: boolean;
  readonly notes: readonly string[];
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

/** Leads of canopies are thin, those of other devices as thick as the wire they meet: common practice. */
const LEAD_AWG = { canopy: 18, yoke: 14, direct: 14 } as const;

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
  const { supply } = deviceType(reader, device);
  return landing.terminal.kind !== 'ground' && (supply === '240' || supply === '120/240');
}

/** Strip at a device's screw or clamp, in inches. Leads of a device, and links, are spliced. */
function terminalStrip(reader: HouseReader, landing: Landing, awg: Awg): number {
  const rules = reader.rules();
  if (isLead(reader, landing) || isLink(landing)) return spliceStrip(reader);
  if (isClamp(reader, landing)) return rules.number('makeup.strip.clamp');
  const school = rules.text('makeup.termination');
  // Push-in takes 14 AWG solid only; thicker wire goes round the screw. The ground always does.
  const hooked =
    school === 'hooks' ||
    !landing.deviceId ||
    landing.terminal.kind === 'ground' ||
    (school === 'push-in' && awg < 14);
  return rules.number(hooked ? 'makeup.strip.hook' : 'makeup.strip.pushIn');
}

/** The connector between a wire and a lead of a device. */
function leadConnector(reader: HouseReader, landing: Landing, awg: Awg): string | undefined {
  const device = landing.deviceId ? reader.get('devices', landing.deviceId) : undefined;
  if (!device || !isLead(reader, landing)) return undefined;
  return leadFitting(reader, landing, awg)?.name;
}

function leadFitting(reader: HouseReader, landing: Landing, awg: Awg) {
  const device = reader.get('devices', landing.deviceId!)!;
  const kind = reader.rules().text('makeup.connector') === 'lever' ? 'lever' : 'twist-on';
  return connectorFor(bundleOf([awg, LEAD_AWG[deviceType(reader, device).mount]]), [kind, 'twist-on']);
}

/** "circuit 5"; of a neutral that circuits share, all of them. */
function circuitWords(reader: HouseReader, joint: BoxJoint): string {
  const circuit = joint.circuitId ? reader.get('circuits', joint.circuitId) : undefined;
  if (!circuit) return '';
  const own = joint.role === 'neutral' ? wireCircuit(reader, circuit.id).circuitIds : [circuit.id];
  if (own.length < 2) return ` of circuit ${circuit.number}`;
  const numbers = own.map((id) => reader.get('circuits', id)!.number).sort((a, b) => a - b);
  return ` of circuits ${numbers.join(' and ')}, which share it`;
}

function titleOf(reader: HouseReader, joint: BoxJoint, from: (end: CableEnd) => string): string {
  const on = circuitWords(reader, joint);
  const [end] = joint.ends;
  const part = joint.landings.some(isLink) ? ', one part' : '';
  const control = joint.controlId ? (reader.get('controls', joint.controlId)?.name ?? '') : '';
  const isLine = joint.landings.some(({ terminal }) => 'of' in terminal && terminal.of === 'line');
  const isLoad = joint.signal?.startsWith('load-');
  const side = isLoad ? ' from LOAD, protected' : isLine ? ' to LINE' : '';
  switch (joint.role) {
    case 'ground':
      if (joint.landings.some(isGroundBar)) return 'All grounds to the bar';
      return part ? 'Grounds, one part' : 'All grounds together';
    case 'traveler': {
      const name = `Traveler ${joint.signal?.endsWith(':a') ? 'A' : 'B'} of ${control}`;
      return joint.landings.length || joint.kind === 'cap' ? name : `${name}, straight through`;
    }
    case 'neutral':
      if (joint.kind === 'uncut') return `Neutral${on} goes through uncut`;
      return joint.kind === 'cap' ? `Cap the neutral${on}, left long` : `Neutrals${on}${side}${part}`;
    case 'hot':
      return joint.kind === 'cap' ? `Cap the hot${on}` : `Hot${on}${side}${part}`;
    case 'interconnect':
      return `Alarm interconnect${on}`;
    case 'leg':
      return `Leg: ${control}${part}`;
    case 'spare':
      return joint.ends.length > 1
        ? 'Spares left spliced to each other'
        : `Cap spare ${end!.colour} of the cable to ${from(end!)}`;
    case 'undecided':
      return end
        ? `${end.colour} of the cable to ${from(end)}: not derived yet`
        : 'A link that nothing asks for';
  }
}

/** What a white that is marked is. */
const IS: Partial<Record<BoxJoint['role'], string>> = {
  hot: 'it is hot',
  traveler: 'it is a traveler',
  leg: 'it is a switch leg',
};
const roleWords = (role: BoxJoint['role']): string => IS[role] ?? `it is ${role}`;

/** Where the colour of a traveler changes from one cable to the next. */
function colourChange(
  reader: HouseReader,
  boxId: string,
  joint: BoxJoint,
  all: readonly BoxJoint[],
): string[] {
  if (joint.role !== 'traveler' || !joint.signal || !joint.controlId) return [];
  const side = travelerSide(joint.signal);
  const same = all.filter(
    (one) =>
      one.role === 'traveler' &&
      one.controlId === joint.controlId &&
      one.signal &&
      travelerSide(one.signal) === side,
  );
  const ends = same.flatMap((one) => one.ends);
  const colours = new Map(ends.map((end) => [end.colour, end]));
  if (colours.size < 2) return [];
  const words = [...colours.values()].map(
    (end) => `${end.colour} to ${farName(reader, reader.get('runs', end.runId)!, boxId)}`,
  );
  return [`Traveler ${side?.toUpperCase()} changes its colour in this box: ${words.join(', ')}.`];
}

/** Whether a link between two splices has been cut with one that comes before. */
const isCutBefore = (joint: BoxJoint, link: Landing, all: readonly BoxJoint[]): boolean =>
  all
    .slice(0, all.indexOf(joint))
    .some(({ landings }) => landings.some((to) => sameTerminal(to.terminal, link.terminal)));

export function stepOf(
  reader: HouseReader,
  boxId: string,
  joint: BoxJoint,
  all: readonly BoxJoint[],
): MakeUpStep {
  const rules = reader.rules();
  const toward = (end: CableEnd): string => farName(reader, reader.get('runs', end.runId)!, boxId);
  const spliced = isSpliced(joint) && joint.ends.length + joint.landings.length > 1;
  const landed = joint.kind === 'land';
  const onBar = joint.landings.some(isGroundBar);
  const tails = spliced ? tailsOf(reader, joint) : [];
  const lengthIn = rules.number('makeup.pigtail');
  const inSplice = tails.filter((tail) => tail.inSplice);
  const gauges = joint.ends.map((end) => end.awg);
  const fit = fittingFor(
    reader,
    joint.role,
    gauges,
    inSplice.map(() => joint.awg),
  );
  // Nothing to twist together: a link between terminals, or one wire that goes from supply to supply.
  const link = spliced && (joint.ends.length === 0 || gauges.length + inSplice.length < 2);
  const lead = landed ? joint.landings.find((to) => isLead(reader, to)) : undefined;
  const ofLead = lead && leadFitting(reader, lead, joint.awg);
  const fitting = spliced && !link ? fit.connector : ofLead;
  const recorded = spliced && !link ? CONNECTORS.find(({ id }) => id === joint.connector) : undefined;
  const connector = recorded ?? fitting;
  // The longest ground is the first pigtail where the connector has a hole for it: one less to cut, one less in the bundle.
  const through =
    connector?.kind === 'grounding' && joint.role === 'ground' && inSplice.length > 0 && gauges.length > 0;
  const counted = inSplice.slice(through ? 1 : 0).map(() => joint.awg);
  const bundle = lead
    ? bundleOf([joint.awg, LEAD_AWG[deviceType(reader, reader.get('devices', lead.deviceId!)!).mount]])
    : bundleOf([...gauges, ...counted]);
  const misfit = recorded && !takes(recorded, bundle);
  const looped = tails.find(({ kind }) => kind === 'loop');
  const pigtails = tails.flatMap((tail): Pigtail[] => {
    if (through && tail === inSplice[0]) return [];
    // Looped unbroken, or linked on, the conductor itself is the first.
    if (tail.kind !== 'link' && !tail.inSplice) return [];
    const landing = tail.to[0]!;
    // A link is cut once, with the splice that comes first.
    if (isLink(landing) && isCutBefore(joint, landing, all)) return [];
    const own = leadConnector(reader, landing, joint.awg);
    return [
      {
        to: tail.to.map((to) => landingName(reader, to)).join(', on to '),
        awg: joint.awg,
        colour: PIGTAIL_COLOUR[joint.role] ?? 'BK',
        lengthIn: lengthIn * tail.to.length,
        stripIn: terminalStrip(reader, landing, joint.awg),
        ...(tail.kind === 'link' && { link: true as const }),
        ...(own && { connector: own }),
      },
    ];
  });
  const pretwist = rules.text('makeup.pretwist');
  const inIt = gauges.length + counted.length;
  const twist =
    spliced &&
    !link &&
    connector?.kind !== 'lever' &&
    (pretwist === 'always' || (pretwist === 'three-or-more' && inIt >= 3));
  const direct = spliced && link && joint.ends.length === 1;
  const notes: string[] = [];
  if (joint.ends.length === 0 && link) notes.push('One link from terminal to terminal; no splice.');
  if (direct && looped)
    notes.push(
      `Leave it long and loop it unbroken round the screws: ${looped.to.map((to) => landingName(reader, to)).join(', on to ')}. No splice.`,
    );
  else if (direct && tails[0])
    notes.push(
      `Land it on ${landingName(reader, tails[0].to[0]!)}; short links from there to the others. No splice.`,
    );
  else if (looped) notes.push('One wire, looped unbroken round the screws from supply to supply.');
  else if (tails.some(({ kind }) => kind === 'link'))
    notes.push('One pigtail; short links from supply to supply.');
  if (spliced && !link && rules.text('makeup.spliceStrip') === 'clip-back')
    notes.push('Pre-twist, then clip back to ½–9/16 in.');
  if (joint.landings.some((to) => isLink(to) && isCutBefore(joint, to, all)))
    notes.push('The link from the other splice goes in here too.');
  if (through)
    notes.push(
      `Let the longest ground through the hole: it is the first pigtail, to ${inSplice[0]!.to.map((to) => landingName(reader, to)).join(', ')}.`,
    );
  if (joint.role === 'ground' && joint.landings.some((to) => !isLead(reader, to) && !isLink(to) && !onBar))
    notes.push('Hooks clockwise, half round the screw or more.');
  if (onBar) notes.push('Each under a screw of its own on the ground bar, or as the panel is marked.');
  if (landed && isClamp(reader, joint.landings[0]!))
    notes.push('A clamp takes the wire straight, no hook: strip as it is marked, and torque as it says.');
  if (
    joint.role === 'neutral' &&
    joint.circuitId &&
    wireCircuit(reader, joint.circuitId).circuitIds.length > 1
  )
    notes.push(
      `A neutral that circuits share is spliced through with a pigtail, never through the device (${rules.section('neutralWhole')}).`,
    );
  if (joint.open && joint.role !== 'undecided')
    notes.push('More may join here: something in this box is not derived yet.');
  const marks = joint.ends.filter((end) => end.reidentified);
  if (marks.length)
    notes.push(
      `Mark the white all round in black or red tape, here and wherever it is seen: ${roleWords(joint.role)}.`,
    );
  if (joint.role === 'traveler')
    notes.push(
      'Both travelers of a pair lie in one cable; keep this colour on this side along the whole chain.',
    );
  notes.push(...colourChange(reader, boxId, joint, all));
  if (joint.kind === 'uncut')
    notes.push(`Leave a loop of ${joint.loopIn} in, so that a later device can be put in.`);
  if (joint.role === 'spare') notes.push('Capped at both ends, and noted.');
  if (joint.role === 'ground' && joint.ends.length === 0)
    notes.push('The metal raceway is the ground of this box.');
  if (
    joint.role === 'leg' &&
    joint.landings.some(({ terminal: { kind } }) => kind === 'leg' || kind === 'common')
  )
    notes.push(
      rules.text('makeup.legs') === 'label'
        ? `Label it: ${reader.get('controls', joint.controlId!)?.name ?? 'leg'}.`
        : 'Hang it at its gang.',
    );
  if (spliced && !link) notes.push('Tug every wire, then fold the splice to the back before the next.');
  const where = ({ runId, slot, colour, awg, ...end }: CableEnd): StepConductor => ({
    runId,
    colour,
    awg,
    toward: toward({ runId, colour, awg, ...end }),
    ...(slot !== undefined && { slot }),
  });
  const first = joint.landings[0];
  return {
    stage: STAGE_OF[joint.role],
    joint,
    made: joint.made ?? false,
    marks: marks.map(where),
    title: titleOf(reader, joint, toward),
    conductors: joint.ends.map(where),
    pigtails,
    ...((landed || onBar) && { landsOn: landingName(reader, first!) }),
    ...(connector && { connector: { id: connector.id, name: connector.name, bundle: bundleText(bundle) } }),
    split: spliced && !link && !fit.connector,
    ...(misfit && { misfit: { bundle, ...(fitting && { instead: fitting.id }) } }),
    ...(joint.kind !== 'cap' &&
      joint.kind !== 'uncut' &&
      joint.kind !== 'undecided' && {
        stripIn:
          landed || onBar || (direct && first)
            ? terminalStrip(reader, first!, joint.awg)
            : spliceStrip(reader),
      }),
    twist,
    open: joint.open,
    notes,
  };
}
