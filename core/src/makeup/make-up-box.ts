import type { Derivation, HouseReader } from '../derive/reader.js';
import { boxFacts, cableIn, circuitsAt, deviceType, devicesIn, endAt, runsAt } from '../house/box-facts.js';

import { farName } from '../house/naming.js';
import type { Awg, Colour } from '../house/text.js';
import type { Bundle, Connector } from '../rulebook/connectors.js';
import { CONNECTORS, bundleText, connectorFor, takes } from '../rulebook/connectors.js';
import type { BoxJoint, CableEnd, Landing } from '../wiring/box-joints.js';
import { boxJoints } from '../wiring/box-joints.js';
import { wireCircuit } from '../wiring/wire-circuit.js';
import type { DeviceSheet } from './device-sheet.js';
import { PIGTAIL_COLOUR, sheetOf } from './device-sheet.js';

/** A cable where it enters the box. */
export interface EnteringCable {
  readonly runId: string;
  readonly slot?: number;
  readonly cable?: string;
  /** Tag of the box at its other end, or where it ends loose. */
  readonly toward: string;
  readonly role: 'power' | 'leg' | 'travelers' | 'other';
  /** The slot that the house's school would give it, where it has one. */
  readonly suggestedSlot?: number;
}

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
  /** The connector that was put on does not take this bundle; what would. */
  readonly misfit?: string;
  /** No connector of the table takes so many: make two splices with a link between them. */
  readonly split: boolean;
  /** Strip of the conductors, in inches; undefined where they stay whole. */
  readonly stripIn?: number;
  readonly twist: boolean;
  /** Something in this box is not derived yet, and may belong to this joint. */
  readonly open: boolean;
  readonly notes: readonly string[];
}

export interface MakeUp {
  readonly boxId: string;
  readonly devices: readonly DeviceSheet[];
  readonly cables: readonly EnteringCable[];
  /** Breakers to open before anybody reaches in. */
  readonly breakers: readonly {
    readonly circuitId: string;
    readonly number: number;
    readonly name: string;
    readonly amps: number;
  }[];
  /** Length past the face of the box that conductors are trimmed to, in inches. */
  readonly trimIn: number;
  readonly sheathFirst: boolean;
  readonly steps: readonly MakeUpStep[];
  readonly unfed: readonly string[];
  /** Everything is derived: the steps are the whole make-up. */
  readonly complete: boolean;
}

const STAGES: readonly Stage[] = ['grounds', 'neutrals', 'travelers', 'hots', 'legs', 'spares', 'open'];
const STAGE_OF: Record<BoxJoint['role'], Stage> = {
  ground: 'grounds',
  neutral: 'neutrals',
  traveler: 'travelers',
  hot: 'hots',
  interconnect: 'hots',
  leg: 'legs',
  spare: 'spares',
  undecided: 'open',
};
/** "the leg of Switch, gang 2" */
function landingName(reader: HouseReader, { deviceId, terminal }: Landing): string {
  const device = deviceId ? reader.get('devices', deviceId) : undefined;
  if (!device) return terminal;
  const type = deviceType(reader, device);
  return type.mount === 'yoke'
    ? `${type.name}, gang ${device.gang}: ${terminal}`
    : `${type.name}: ${terminal}`;
}

/** Strip of a conductor that goes into a splice, in inches, by the house's school. */
function spliceStrip(reader: HouseReader): number {
  const rules = reader.rules();
  const schools: Record<string, string> = {
    'half inch': 'makeup.strip.splice',
    'three eighths': 'makeup.strip.thinSplice',
    'clip back': 'makeup.strip.clipBack',
  };
  return rules.number(schools[rules.text('makeup.spliceStrip')]!);
}

/** Strip at a device's screw or clamp, in inches. Leads of a device are spliced. */
function terminalStrip(reader: HouseReader, landing: Landing, awg: Awg): number {
  const rules = reader.rules();
  const device = landing.deviceId ? reader.get('devices', landing.deviceId) : undefined;
  if (device && deviceType(reader, device).connection === 'leads') return spliceStrip(reader);
  const school = rules.text('makeup.termination');
  // Push-in takes 14 AWG solid only; thicker wire goes round the screw. The ground always does.
  const hooked =
    school === 'hooks' || !device || landing.terminal === 'ground' || (school === 'push-in' && awg < 14);
  return rules.number(hooked ? 'makeup.strip.hook' : 'makeup.strip.pushIn');
}

const bundleOf = (gauges: readonly Awg[]): Bundle => {
  const bundle: Partial<Record<Awg, number>> = {};
  for (const awg of gauges) bundle[awg] = (bundle[awg] ?? 0) + 1;
  return bundle;
};

function titleOf(reader: HouseReader, joint: BoxJoint, from: (end: CableEnd) => string): string {
  const circuit = joint.circuitId ? reader.get('circuits', joint.circuitId) : undefined;
  const on = circuit ? ` of circuit ${circuit.number}` : '';
  const [end] = joint.ends;
  switch (joint.role) {
    case 'ground':
      return 'All grounds together';
    case 'traveler': {
      const name = `Traveler ${joint.signal?.endsWith(':a') ? 'A' : 'B'} of ${reader.get('controls', joint.controlId!)?.name ?? ''}`;
      return joint.landings.length || joint.kind === 'cap' ? name : `${name}, straight through`;
    }
    case 'neutral':
      if (joint.kind === 'uncut') return `Neutral${on} goes through uncut`;
      return joint.kind === 'cap' ? `Cap the neutral${on}, left long` : `Neutrals${on}`;
    case 'hot':
      return joint.kind === 'cap' ? `Cap the hot${on}` : `Hot${on}`;
    case 'interconnect':
      return `Alarm interconnect${on}`;
    case 'leg':
      return `Leg: ${reader.get('controls', joint.controlId!)?.name ?? ''}`;
    case 'spare':
      return `Cap spare ${end!.colour} of the cable to ${from(end!)}`;
    case 'undecided':
      return end
        ? `${end.colour} of the cable to ${from(end)}: not derived yet`
        : 'A link that nothing asks for';
  }
}

/**
 * The short wires of a splice: a pigtail to each terminal, or by the school of the house one wire looped unbroken from supply
 * to supply, or links between the supplies. `inSplice` are those that the connector has to take.
 */
function tailsOf(
  reader: HouseReader,
  joint: BoxJoint,
): { pigtails: readonly Pigtail[]; inSplice: readonly Pigtail[]; note: string | undefined } {
  const rules = reader.rules();
  const lengthIn = rules.number('makeup.pigtail');
  const pigtails = joint.landings.map((landing): Pigtail => ({
    to: landingName(reader, landing),
    awg: joint.awg,
    colour: PIGTAIL_COLOUR[joint.role] ?? 'BK',
    lengthIn,
    stripIn: terminalStrip(reader, landing, joint.awg),
  }));
  const school = rules.text('makeup.hots');
  const [first, ...others] = pigtails;
  const single = joint.ends.length === 1;
  if (
    joint.role !== 'hot' ||
    school === 'pigtails' ||
    !first ||
    others.length === 0 ||
    joint.ends.length === 0
  )
    return { pigtails, inSplice: pigtails, note: undefined };
  if (school === 'looped') {
    const loop = {
      ...first,
      to: pigtails.map(({ to }) => to).join(', on to '),
      lengthIn: lengthIn * pigtails.length,
    };
    return single
      ? { pigtails: [], inSplice: [], note: `Leave it long and loop it unbroken: ${loop.to}. No splice.` }
      : { pigtails: [loop], inSplice: [loop], note: 'One wire, looped unbroken from supply to supply.' };
  }
  const links = others.map((pigtail): Pigtail => ({ ...pigtail, link: true }));
  return single
    ? {
        pigtails: links,
        inSplice: [],
        note: `Land it on ${first.to}; short links from there to the others. No splice.`,
      }
    : {
        pigtails: [first, ...links],
        inSplice: [first],
        note: 'One pigtail; short links from supply to supply.',
      };
}

const article = (name: string): string => `${/^[aeiou]/.test(name) ? 'an' : 'a'} ${name}`;

function stepOf(reader: HouseReader, boxId: string, joint: BoxJoint): MakeUpStep {
  const rules = reader.rules();
  const toward = (end: CableEnd): string => farName(reader, reader.get('runs', end.runId)!, boxId);
  const spliced = joint.kind === 'splice' && joint.ends.length + joint.landings.length > 1;
  const landed = joint.kind === 'land';
  const { pigtails, inSplice, note } = spliced
    ? tailsOf(reader, joint)
    : { pigtails: [], inSplice: [], note: undefined };
  const gauges = [...joint.ends.map((end) => end.awg), ...inSplice.map((pigtail) => pigtail.awg)];
  const bundle = bundleOf(gauges);
  // Nothing to twist together: a link between terminals, or one wire that goes from supply to supply.
  const link = spliced && (joint.ends.length === 0 || gauges.length < 2);
  const kinds: Connector['kind'][] = [
    ...(joint.role === 'ground' ? (['grounding'] as const) : []),
    ...(rules.text('makeup.connector') === 'lever'
      ? (['lever', 'twist-on'] as const)
      : (['twist-on'] as const)),
  ];
  const fitting = spliced && !link ? connectorFor(bundle, kinds) : undefined;
  const recorded = spliced && !link ? CONNECTORS.find(({ id }) => id === joint.connector) : undefined;
  const connector = recorded ?? fitting;
  const misfit = recorded && !takes(recorded, bundle);
  const pretwist = rules.text('makeup.pretwist');
  const twist =
    spliced &&
    !link &&
    connector?.kind !== 'lever' &&
    (pretwist === 'always' || (pretwist === 'three or more' && gauges.length >= 3));
  const notes: string[] = [];
  if (joint.ends.length === 0 && link) notes.push('One link from terminal to terminal; no splice.');
  if (note) notes.push(note);
  if (spliced && !link && rules.text('makeup.spliceStrip') === 'clip back')
    notes.push('Pre-twist, then clip back to ½–9/16 in.');
  if (connector?.kind === 'grounding')
    notes.push('Let the longest ground through the hole: it is the first pigtail.');
  if (joint.role === 'ground' && joint.landings.length)
    notes.push('Hooks clockwise, half round the screw or more.');
  if (joint.open && joint.role !== 'undecided')
    notes.push('More may join here: something in this box is not derived yet.');
  const marks = joint.ends.filter((end) => end.reidentified);
  if (marks.length)
    notes.push(
      `Mark the white all round in black or red tape, here and wherever it is seen: it carries ${joint.role}.`,
    );
  if (joint.role === 'traveler')
    notes.push(
      'Both travelers of a pair lie in one cable; keep this colour on this side along the whole chain.',
    );
  if (joint.kind === 'uncut')
    notes.push(`Leave a loop of ${joint.loopIn} in, so that a later device can be put in.`);
  if (joint.role === 'spare') notes.push('Capped at both ends, and noted.');
  if (joint.role === 'ground' && joint.ends.length === 0)
    notes.push('The metal raceway is the ground of this box.');
  return {
    stage: STAGE_OF[joint.role],
    joint,
    made: joint.made ?? false,
    marks: marks.map(({ runId, slot, colour, awg, ...end }) => ({
      runId,
      colour,
      awg,
      toward: toward({ runId, colour, awg, ...end }),
      ...(slot !== undefined && { slot }),
    })),
    title: titleOf(reader, joint, toward),
    conductors: joint.ends.map(({ runId, slot, colour, awg, ...end }) => ({
      runId,
      colour,
      awg,
      toward: toward({ runId, colour, awg, ...end }),
      ...(slot !== undefined && { slot }),
    })),
    pigtails,
    ...(landed && { landsOn: landingName(reader, joint.landings[0]!) }),
    ...(connector && { connector: { id: connector.id, name: connector.name, bundle: bundleText(bundle) } }),
    split: spliced && !link && !fitting,
    ...(misfit && {
      misfit: fitting ? `${article(fitting.name)} does` : 'no connector of the table does: make two splices',
    }),
    ...(joint.kind !== 'cap' &&
      joint.kind !== 'uncut' &&
      joint.kind !== 'undecided' && {
        stripIn: landed ? terminalStrip(reader, joint.landings[0]!, joint.awg) : spliceStrip(reader),
      }),
    twist,
    open: joint.open,
    notes,
  };
}

function cablesOf(reader: HouseReader, boxId: string, joints: readonly BoxJoint[]): EnteringCable[] {
  const roles = new Map<string, EnteringCable['role']>();
  for (const joint of joints) {
    for (const end of joint.ends) {
      const circuitId = joint.circuitId;
      const power = circuitId && wireCircuit(reader, circuitId).runs.get(end.runId)?.power;
      if (joint.role === 'hot' && power) roles.set(end.runId, 'power');
      else if ((joint.role === 'leg' || joint.role === 'traveler') && roles.get(end.runId) !== 'power')
        roles.set(end.runId, joint.role === 'leg' ? 'leg' : (roles.get(end.runId) ?? 'travelers'));
    }
  }
  const bySlot = reader.rules().text('slot.order') === 'slot order';
  const { slots } = boxFacts(reader, reader.get('boxes', boxId)!);
  const legSlot = (runId: string): number | undefined => {
    const switched = joints
      .filter(
        (joint) =>
          (joint.role === 'leg' || joint.role === 'traveler') &&
          joint.ends.some((end) => end.runId === runId),
      )
      .flatMap((joint) => joint.landings)
      .find(({ terminal }) => /^(leg|common|traveler|pair)/.test(terminal))?.deviceId;
    const gang = switched ? reader.get('devices', switched)?.gang : undefined;
    return gang === undefined ? undefined : Math.min(gang + 1, slots);
  };
  return runsAt(reader, boxId)
    .filter((run) => run.kind !== 'low-voltage')
    .map((run): EnteringCable => {
      const role = roles.get(run.id) ?? 'other';
      const { slot } = endAt(run, boxId);
      const cable = run.kind === 'raceway' ? 'raceway' : cableIn(reader, run);
      const suggestedSlot = bySlot ? (role === 'power' ? 1 : legSlot(run.id)) : undefined;
      return {
        runId: run.id,
        toward: farName(reader, run, boxId),
        role,
        ...(slot !== undefined && { slot }),
        ...(cable && { cable }),
        ...(suggestedSlot !== undefined && { suggestedSlot }),
      };
    })
    .sort((a, b) => (a.slot ?? a.suggestedSlot ?? 99) - (b.slot ?? b.suggestedSlot ?? 99));
}

/** Traveler A before B. */
const signalOrder = (a: BoxJoint, b: BoxJoint): number =>
  a.role === 'traveler' && b.role === 'traveler' ? ((a.signal ?? '') < (b.signal ?? '') ? -1 : 1) : 0;

function compute(reader: HouseReader, boxId: string): MakeUp {
  const { joints, unfed, openDevices } = boxJoints(reader, boxId);
  const rules = reader.rules();
  const gangOf = (joint: BoxJoint): number =>
    Math.min(
      99,
      ...joint.landings.map(({ deviceId }) => (deviceId && reader.get('devices', deviceId)?.gang) || 99),
    );
  const steps = [...joints]
    .sort(
      (a, b) =>
        STAGES.indexOf(STAGE_OF[a.role]) - STAGES.indexOf(STAGE_OF[b.role]) ||
        gangOf(a) - gangOf(b) ||
        signalOrder(a, b),
    )
    .map((joint) => stepOf(reader, boxId, joint));
  const breakers = circuitsAt(reader, boxId).map((circuitId) => {
    const { number, name, breakerAmps } = reader.get('circuits', circuitId)!;
    return { circuitId, number, name, amps: breakerAmps };
  });
  return {
    boxId,
    devices: devicesIn(reader, boxId).map((device) => sheetOf(reader, device, joints)),
    cables: cablesOf(reader, boxId, joints),
    breakers,
    trimIn: rules.number('makeup.trim'),
    sheathFirst: rules.text('makeup.sheath') === 'before entering',
    steps,
    unfed: unfed.map((landing) => landingName(reader, landing)),
    complete: unfed.length === 0 && openDevices.size === 0 && joints.every((joint) => !joint.open),
  };
}

/** The make-up of a box, by box id: grounds, neutrals, hots, legs, spares, each as steps in the order of the trade. */
export const BOX_MAKE_UP: Derivation<MakeUp> = { name: 'box make-up', compute };

export const makeUpBox = (reader: HouseReader, boxId: string): MakeUp => reader.derive(BOX_MAKE_UP, boxId);
