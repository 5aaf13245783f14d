import type { HouseReader } from '../derive/reader.js';
import type { Gauge } from '../vocabulary/size.js';
import type { Colour } from '../vocabulary/text.js';
import type { Bundle } from '../vocabulary/catalogue-types.js';
import type { BoxJoint } from '../wiring/joints/box-joint.js';
import type { Landing } from '../vocabulary/terminal.js';
import { isGroundBar, isLink } from '../wiring/circuit/panel-terminals.js';
import { protectedBy, travelerSide } from '../vocabulary/signal.js';
import type { JointTitle } from '../findings/facts.js';
import { pigtailColour } from './device-sheet.js';

import type { Made } from './holding.js';
import { holdingOf, isCutBefore, isTwisted, leadConnector, stripOf, terminalStrip } from './holding.js';
import type { StepConductor, StepNote } from './step-notes.js';
import { circuitsOf, conductorOf, notesOf } from './step-notes.js';

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
  /** What its pigtails and links are cut from. */
  readonly tailColour: Colour;
  /** Whites to be marked all round, in a colour other than white, grey or green (NEC 200.7(C)). */
  readonly marks: readonly StepConductor[];
  /** The one terminal that the conductor lands on directly. */
  readonly landsOn?: Landing;
  readonly connector?: { readonly id: string; readonly bundle: Bundle };
  /** All go into one terminal together: no connector. */
  readonly held?: true;
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
  common: 'travelers',
  hot: 'hots',
  interconnect: 'hots',
  leg: 'legs',
  spare: 'spares',
  undecided: 'open',
};

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
    case 'common':
      return { code: 'commons', controlId };
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

const tailColour = (reader: HouseReader, joint: BoxJoint): Colour =>
  pigtailColour(reader.rules().jurisdiction.colours, joint.role);

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
        colour: tailColour(reader, joint),
        lengthIn: lengthIn * tail.to.length,
        stripIn: terminalStrip(reader, landing, joint.gauge),
        ...(tail.kind === 'link' && { link: true as const }),
        ...(own && { connector: own }),
      },
    ];
  });
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
    tailColour: tailColour(reader, joint),
    ...(isAtTerminal && { landsOn: joint.landings[0]! }),
    ...(connector && { connector: { id: connector.id, bundle } }),
    ...(made.inTerminal && { held: true as const }),
    split: made.isSplit,
    ...(made.isMisfit && { misfit: { bundle, ...(fitting && { instead: fitting.id }) } }),
    ...(stripIn !== undefined && { stripIn }),
    twist: isTwisted(reader, joint, made),
    open: joint.open,
    notes: notesOf(reader, joint, all, made),
  };
}
