import type { HouseReader } from '../derive/reader.js';
import { deviceType } from '../facts/box-facts.js';
import type { DeviceSheet, SheetNote, TestJoin, WireFrom } from '../makeup/device-sheet.js';
import type { EnteringCable } from '../makeup/entering-cables.js';
import type { MakeUp } from '../makeup/make-up-box.js';
import type { MakeUpStep, Pigtail } from '../makeup/make-up-step.js';
import type { StepConductor, StepNote } from '../makeup/step-notes.js';
import { bundleText } from '../rulebook/connectors.js';
import type { Landing, Terminal } from '../vocabulary/terminal.js';
import type { Colour } from '../vocabulary/text.js';
import { toward } from './joint-title.js';
import type { Say } from './say.js';
import type { Sentence } from './sentence.js';
import { sentence } from './sentence.js';
import { landingName, terminalName } from './terminal-names.js';
import { terminalText } from './terminal-text.js';

/** A conductor of a step, with the tag of the box at its other end. */
export interface SaidConductor extends StepConductor {
  readonly toward: string;
}

export interface SaidPigtail extends Omit<Pigtail, 'to' | 'connector'> {
  readonly to: string;
  readonly connector?: string;
}

/** A step as a hand reads it. */
export interface SaidStep extends Omit<
  MakeUpStep,
  'title' | 'conductors' | 'marks' | 'pigtails' | 'landsOn' | 'connector' | 'notes'
> {
  readonly title: Sentence;
  readonly conductors: readonly SaidConductor[];
  readonly marks: readonly SaidConductor[];
  readonly pigtails: readonly SaidPigtail[];
  readonly landsOn?: string;
  readonly connector?: { readonly id: string; readonly name: string; readonly bundle: string };
  readonly notes: readonly Sentence[];
}

export interface SaidSheet extends Omit<DeviceSheet, 'terminals' | 'notes' | 'test'> {
  readonly name: string;
  readonly terminals: readonly {
    readonly terminal: Terminal;
    /** What a hand calls it. */
    readonly name: string;
    readonly from: string;
    readonly colour: Colour;
  }[];
  readonly notes: readonly Sentence[];
  readonly test: readonly Sentence[];
}

export interface SaidCable extends Omit<EnteringCable, 'label'> {
  readonly toward: string;
  /** What is written on its sheath where the house goes by labels. */
  readonly label: string;
}

export interface SaidBreaker {
  readonly circuitId: string;
  readonly number: number;
  readonly name: string;
  readonly amps: number;
}

/** The make-up of a box in words. */
export interface SaidMakeUp extends Omit<MakeUp, 'steps' | 'devices' | 'cables' | 'breakers' | 'unfed'> {
  readonly steps: readonly SaidStep[];
  readonly devices: readonly SaidSheet[];
  readonly cables: readonly SaidCable[];
  readonly breakers: readonly SaidBreaker[];
  readonly unfed: readonly string[];
}

/** What a white that is marked is. */
const IS: Partial<Record<MakeUpStep['joint']['role'], (say: Say) => string>> = {
  hot: (say) => `it is ${say.term('hot')}`,
  traveler: (say) => `it is a ${say.term('traveler')}`,
  leg: (say) => `it is a ${say.term('switch leg')}`,
};

const onTo = (reader: HouseReader, to: readonly Landing[]): string =>
  to.map((landing) => landingName(reader, landing)).join(', on to ');

function noteText(reader: HouseReader, say: Say, boxId: string, note: StepNote): string {
  switch (note.code) {
    case 'link-only':
      return 'One link from terminal to terminal; no splice.';
    case 'left-long-looped':
      return `Leave it long and loop it unbroken round the screws: ${onTo(reader, note.to)}. No splice.`;
    case 'landed-then-links':
      return `Land it on ${onTo(reader, note.to)}; short links from there to the others. No splice.`;
    case 'one-loop':
      return 'One wire, looped unbroken round the screws from supply to supply.';
    case 'one-pigtail-and-links':
      return `One ${say.term('pigtail')}; short links from supply to supply.`;
    case 'clip-back':
      return `Pre-twist, then clip back to ${say.units.short(note.lengthIn)}.`;
    case 'other-link-here':
      return 'The link from the other splice goes in here too.';
    case 'longest-is-pigtail':
      return `Let the longest ${say.term('ground')} through the hole: it is the first ${say.term('pigtail')}, to ${note.to.map((to) => landingName(reader, to)).join(', ')}.`;
    case 'hooks':
      return 'Hooks clockwise, half round the screw or more.';
    case 'own-bar-screw':
      return `Each under a screw of its own on the ${say.term('ground')} bar, or as the ${say.term('panel')} is marked.`;
    case 'clamp-straight':
      return 'A clamp takes the wire straight, no hook: strip as it is marked, and torque as it says.';
    case 'shared-neutral':
      return `A ${say.term('neutral')} that ${say.term('circuits')} share is spliced through with a ${say.term('pigtail')}, never through the device (${reader.rules().section('neutralWhole')}).`;
    case 'more-may-join':
      return 'More may join here: something in this box is not derived yet.';
    case 'mark-white':
      return `Mark the white all round in black or red ${say.term('tape')}, here and wherever it is seen: ${IS[note.is]?.(say) ?? `it is ${note.is}`}.`;
    case 'travelers-together':
      return `Both ${say.term('travelers')} of a pair lie in one cable; keep this colour on this side along the whole chain.`;
    case 'colour-changes':
      return `${say.term('traveler')} ${note.side.toUpperCase()} changes its colour in this box: ${note.ends
        .map(({ colour, runId }) => `${colour} to ${toward(reader, boxId, runId)}`)
        .join(', ')}.`;
    case 'leave-loop':
      return `Leave a loop of ${say.units.short(note.lengthIn)}, so that a later device can be put in.`;
    case 'capped-both-ends':
      return 'Capped at both ends, and noted.';
    case 'raceway-is-ground':
      return `The metal ${say.term('raceway')} is the ${say.term('ground')} of this box.`;
    case 'label-it':
      return `Label it: ${reader.get('controls', note.controlId)?.name ?? say.term('leg')}.`;
    case 'at-its-gang':
      return 'Hang it at its gang.';
    case 'tug-and-fold':
      return 'Tug every wire, then fold the splice to the back before the next.';
  }
}

function fromText(reader: HouseReader, say: Say, from: WireFrom): string {
  switch (from.kind) {
    case 'cable':
      return `${from.colour} of the cable to ${toward(reader, from.boxId, from.runId)}${from.looped ? ', looped on' : ''}`;
    case 'loop-from-splice':
      return `loop from the ${say.term('hot')} splice`;
    case 'loop-from-screw':
      return 'loop from the screw before';
    case 'link-from-screw':
      return 'link from the screw before';
    case 'link':
      return 'link from terminal to terminal';
    case 'pigtail':
      return `${say.term('pigtail')} of the ${from.of} splice`;
  }
}

const SHEET_NOTES: Readonly<Record<SheetNote, (say: Say, reader: HouseReader) => string>> = {
  'common-is-odd': (say) =>
    `The common is the odd-coloured screw, the other two are the ${say.term('travelers')}; where they sit differs by maker.`,
  'four-way-pairs': (say) =>
    `A ${say.term('four-way')} has no common. Which screws make a pair differs by maker: follow its sheet.`,
  'break-tab-hot': (say) => `Break the tab between the two ${say.term('hot')} screws.`,
  'break-tab-supply': () => 'Break the tab between the two supply screws.',
  'break-tab-neutral': (say) => `Break the tab between the two ${say.term('neutral')} screws too.`,
  'line-and-load': () => 'Incoming pair on LINE, onward pair on LOAD; never join the two sides.',
  'needs-neutral': (say) => `This device needs its ${say.term('neutral')}.`,
  'hand-tools': (_say, reader) =>
    `Hand tools only; torque as the device marks it (${reader.rules().section('torque')}).`,
};

function testText(reader: HouseReader, say: Say, { lever, ends }: TestJoin): string {
  const [a, b, c, d] = ends.map(({ terminal, from }) =>
    from ? fromText(reader, say, from) : terminalText(terminal, undefined, say.term),
  );
  switch (lever) {
    case 'single-pole':
      return `Join supply (${a}) and ${b}: on.`;
    case 'three-way':
      return `Join common (${a}) and ${say.term('traveler')} A (${b}); cap ${c}.`;
    case 'four-way':
      return `Straight through: join A (${a}) to A (${b}), B (${c}) to B (${d}).`;
  }
}

function saidSheet(reader: HouseReader, say: Say, sheet: DeviceSheet): SaidSheet {
  const device = reader.get('devices', sheet.deviceId)!;
  const { name, mount } = deviceType(reader, device);
  const kinds = [...new Set(sheet.levers)].map((kind) => say.term(kind));
  return {
    ...sheet,
    name: kinds.length && mount === 'yoke' ? `${name}, ${kinds.join(' and ')}` : name,
    terminals: sheet.terminals.map(({ terminal, from }) => ({
      terminal,
      name: terminalName(reader, device, terminal),
      from: fromText(reader, say, from),
      colour: from.colour,
    })),
    notes: sheet.notes.map((code) => sentence(SHEET_NOTES[code](say, reader))),
    test: sheet.test.map((join) => sentence(testText(reader, say, join))),
  };
}

function saidStep(reader: HouseReader, say: Say, boxId: string, step: MakeUpStep): SaidStep {
  const { title, conductors, marks, pigtails, landsOn, connector, notes, ...rest } = step;
  const withFar = (wire: StepConductor): SaidConductor => ({
    ...wire,
    toward: toward(reader, boxId, wire.runId),
  });
  return {
    ...rest,
    title: sentence(say.jointTitle(title)),
    conductors: conductors.map(withFar),
    marks: marks.map(withFar),
    pigtails: pigtails.map(({ to, connector: lead, ...tail }) => ({
      ...tail,
      to: onTo(reader, to),
      ...(lead && { connector: say.connector(lead) }),
    })),
    ...(landsOn && { landsOn: landingName(reader, landsOn) }),
    ...(connector && {
      connector: {
        id: connector.id,
        name: say.connector(connector.id),
        bundle: bundleText(connector.bundle),
      },
    }),
    notes: notes.map((note) => sentence(noteText(reader, say, boxId, note))),
  };
}

function labelText(reader: HouseReader, { label }: EnteringCable, far: string): string {
  switch (label.kind) {
    case 'power-in':
      return 'power in';
    case 'power-on':
      return `on to ${far}`;
    case 'to':
      return `to ${far}`;
    case 'legs':
      return label.controlIds.map((id) => reader.get('controls', id)?.name ?? '').join(', ');
  }
}

/** The make-up of a box in the words of its house. */
export function saidMakeUp(reader: HouseReader, say: Say, made: MakeUp): SaidMakeUp {
  const { boxId } = made;
  return {
    ...made,
    devices: made.devices.map((sheet) => saidSheet(reader, say, sheet)),
    cables: made.cables.map((cable) => {
      const far = toward(reader, boxId, cable.runId);
      return { ...cable, toward: far, label: labelText(reader, cable, far) };
    }),
    breakers: made.breakers.map((circuitId) => {
      const { number, name, breakerAmps } = reader.get('circuits', circuitId)!;
      return { circuitId, number, name, amps: breakerAmps };
    }),
    steps: made.steps.map((step) => saidStep(reader, say, boxId, step)),
    unfed: made.unfed.map((landing) => landingName(reader, landing)),
  };
}
