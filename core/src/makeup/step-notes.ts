import { numberOf, supplyOf } from '../facts/circuit-facts.js';
import type { HouseReader } from '../derive/reader.js';
import type { Marking } from '../findings/facts.js';
import type { Gauge } from '../vocabulary/size.js';
import type { Colour } from '../vocabulary/text.js';
import type { BoxJoint, CableEnd } from '../wiring/joints/box-joint.js';
import type { Landing } from '../vocabulary/terminal.js';
import { isGroundBar, isLink } from '../wiring/circuit/panel-terminals.js';
import { travelerSide } from '../vocabulary/signal.js';
import { markingOf } from '../wiring/joints/marked-ends.js';
import { isLead } from '../wiring/joints/splice-tails.js';
import { wireCircuit } from '../wiring/conductors/wire-circuit.js';

import type { Made } from './holding.js';
import { isClamp, isCutBefore } from './holding.js';

export interface StepConductor {
  readonly runId: string;
  readonly slot?: number;
  readonly colour: Colour;
  readonly gauge: Gauge;
}

export const conductorOf = ({ runId, slot, colour, gauge }: CableEnd): StepConductor => ({
  runId,
  colour,
  gauge,
  ...(slot !== undefined && { slot }),
});

/** The circuit of a joint; of a neutral that circuits share, all of them by number. */
export function circuitsOf(reader: HouseReader, joint: BoxJoint): readonly string[] {
  const { circuitId } = joint;
  if (!circuitId || !supplyOf(reader, circuitId)) return [];
  if (joint.role !== 'neutral') return [circuitId];
  return [...wireCircuit(reader, circuitId).circuitIds].sort(
    (a, b) => numberOf(reader, a) - numberOf(reader, b),
  );
}

/** What to mind at a step. */
export type StepNote =
  | {
      readonly code:
        | 'link-only'
        | 'links-on'
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
      readonly code: 'left-long-looped' | 'landed-then-links' | 'longest-is-pigtail' | 'together-in-terminal';
      readonly to: readonly Landing[];
    }
  /** Twist, then clip back to this strip, in inches. */
  | { readonly code: 'clip-back'; readonly lengthIn: number }
  | { readonly code: 'shared-neutral' }
  | ({ readonly code: 'mark-white'; readonly is: BoxJoint['role'] } & Marking)
  | { readonly code: 'colour-changes'; readonly side: 'a' | 'b'; readonly ends: readonly StepConductor[] }
  | { readonly code: 'leave-loop'; readonly lengthIn: number }
  | { readonly code: 'label-it'; readonly controlId: string };

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

/** How the wire runs where it is more than one pigtail to each. */
function wayNotes(joint: BoxJoint, { tails, isSplice, isDirect, inTerminal }: Made): StepNote[] {
  if (inTerminal)
    return [
      { code: joint.ends.length > 1 ? 'together-in-terminal' : 'landed-then-links', to: [inTerminal] },
      ...(joint.ends.length > 1 && tails.length ? [{ code: 'links-on' } as const] : []),
    ];
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
  if (joint.ends.some((end) => end.reidentified))
    notes.push({ code: 'mark-white', is: joint.role, ...markingOf(reader, joint.role, joint.ends) });
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

export function notesOf(
  reader: HouseReader,
  joint: BoxJoint,
  all: readonly BoxJoint[],
  made: Made,
): StepNote[] {
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
