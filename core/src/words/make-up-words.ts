import type { HouseReader } from '../derive/reader.js';
import { deviceType } from '../facts/box-facts.js';
import type { DeviceSheet, TestJoin, WireFrom } from '../makeup/device-sheet.js';
import type { EnteringCable } from '../makeup/entering-cables.js';
import type { MakeUp } from '../makeup/make-up-box.js';
import type { MakeUpStep, Pigtail } from '../makeup/make-up-step.js';
import type { StepConductor, StepNote } from '../makeup/step-notes.js';
import { bundleText } from '../rulebook/connectors.js';
import type { Landing, Terminal } from '../vocabulary/terminal.js';
import type { Colour } from '../vocabulary/text.js';
import { toward } from './joint-title.js';
import type { AroundNote, MakeUpWords } from './language/language.js';
import type { Say } from './language/language.js';
import type { Sentence } from './language/sentence.js';
import { sentence } from './language/sentence.js';
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
  /** All of it in a line, for a phone. */
  readonly inShort: Sentence;
}

export interface SaidSheet extends Omit<DeviceSheet, 'terminals' | 'notes' | 'test'> {
  readonly name: string;
  readonly terminals: readonly {
    readonly terminal: Terminal;
    /** What a hand calls it. */
    readonly name: string;
    /** What stands beside the screw. */
    readonly screw: string;
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

const onTo = (reader: HouseReader, say: Say, words: MakeUpWords, to: readonly Landing[]): string =>
  words.onTo(to.map((landing) => landingName(reader, say, landing)));

function noteText(reader: HouseReader, say: Say, words: MakeUpWords, boxId: string, note: StepNote): string {
  const write = words.notes[note.code] as (say: Say, note: StepNote, around: AroundNote) => string;
  return write(say, note, {
    landed: (to) => onTo(reader, say, words, to),
    list: (to) => to.map((landing) => landingName(reader, say, landing)).join(', '),
    far: (runId) => toward(reader, boxId, runId, say.tongue),
    control: (id) => reader.get('controls', id)?.name,
    section: (key) => reader.rules().section(key),
  });
}

function fromText(reader: HouseReader, say: Say, words: MakeUpWords, from: WireFrom): string {
  switch (from.kind) {
    case 'cable':
      return words.from.cable(
        say.colour(from.colour),
        toward(reader, from.boxId, from.runId, say.tongue),
        from.looped,
      );
    case 'pigtail':
      return words.from.pigtail(say.tongue.phrases.joints[from.of]);
    default:
      return words.from.other[from.kind];
  }
}

function testText(reader: HouseReader, say: Say, words: MakeUpWords, { lever, ends }: TestJoin): string {
  const [a, b, c, d] = ends.map(({ terminal, from }) =>
    from ? fromText(reader, say, words, from) : terminalText(terminal, undefined, say.tongue),
  ) as [string, string, string, string];
  switch (lever) {
    case 'single-pole':
      return words.test.singlePole(a, b);
    case 'three-way':
      return words.test.threeWay(a, b, c);
    case 'four-way':
      return words.test.fourWay(a, b, c, d);
  }
}

function saidSheet(reader: HouseReader, say: Say, words: MakeUpWords, sheet: DeviceSheet): SaidSheet {
  const device = reader.get('devices', sheet.deviceId)!;
  const { mount } = deviceType(reader, device);
  const name = say.deviceType(device.catalogueId);
  const kinds = [...new Set(sheet.levers)].map((kind) => say.term(kind));
  const torque = reader.rules().section('torque');
  return {
    ...sheet,
    name: [
      name,
      ...(kinds.length && mount === 'yoke' ? [say.tongue.phrases.and(kinds)] : []),
      ...(sheet.seen ? [words.seen[sheet.seen]] : []),
    ].join(', '),
    terminals: sheet.terminals.map(({ terminal, from }) => ({
      terminal,
      name: terminalName(reader, say, device, terminal),
      screw: terminalText(terminal, undefined, say.tongue),
      from: fromText(reader, say, words, from),
      colour: from.colour,
    })),
    notes: sheet.notes.map((code) => sentence(words.sheetNotes[code](torque))),
    test: sheet.test.map((join) => sentence(testText(reader, say, words, join))),
  };
}

function saidStep(
  reader: HouseReader,
  say: Say,
  words: MakeUpWords,
  boxId: string,
  step: MakeUpStep,
): SaidStep {
  const { title, conductors, marks, pigtails, landsOn, connector, notes, ...rest } = step;
  const withFar = (wire: StepConductor): SaidConductor => ({
    ...wire,
    toward: toward(reader, boxId, wire.runId, say.tongue),
  });
  return {
    ...rest,
    title: sentence(say.jointTitle(title)),
    conductors: conductors.map(withFar),
    marks: marks.map(withFar),
    pigtails: pigtails.map(({ to, connector: lead, ...tail }) => ({
      ...tail,
      to: onTo(reader, say, words, to),
      ...(lead && { connector: say.connector(lead) }),
    })),
    ...(landsOn && { landsOn: landingName(reader, say, landsOn) }),
    ...(connector && {
      connector: {
        id: connector.id,
        name: say.connector(connector.id),
        bundle: bundleText(connector.bundle),
      },
    }),
    notes: notes.map((note) => sentence(noteText(reader, say, words, boxId, note))),
    inShort: words.inShort({
      wires: byColour(reader, say, boxId, conductors),
      pigtails: pigtails.length,
      landsOn: landsOn && landingName(reader, say, landsOn),
      strip: rest.stripIn === undefined ? undefined : say.units.short(rest.stripIn),
      connector: connector && say.connector(connector.id),
      marks: marks.length,
    }) as Sentence,
  };
}

/** "black to S2, L3": the conductors of a step by their colours. */
function byColour(reader: HouseReader, say: Say, boxId: string, wires: readonly StepConductor[]): string[] {
  const far = new Map<Colour, string[]>();
  for (const { colour, runId } of wires)
    far.set(colour, [...(far.get(colour) ?? []), toward(reader, boxId, runId, say.tongue)]);
  return [...far].map(([colour, boxes]) => say.wireTo(colour, boxes.join(', ')));
}

function labelText(reader: HouseReader, words: MakeUpWords, { label }: EnteringCable, far: string): string {
  switch (label.kind) {
    case 'power-in':
      return words.labels.powerIn;
    case 'power-on':
      return words.labels.on(far);
    case 'to':
      return words.labels.to(far);
    case 'legs':
      return label.controlIds.map((id) => reader.get('controls', id)?.name ?? '').join(', ');
  }
}

/** The make-up of a box in the words of its house. */
export function saidMakeUp(reader: HouseReader, say: Say, made: MakeUp): SaidMakeUp {
  const { boxId } = made;
  const words = say.language.makeUp(say.term);
  return {
    ...made,
    devices: made.devices.map((sheet) => saidSheet(reader, say, words, sheet)),
    cables: made.cables.map((cable) => {
      const far = toward(reader, boxId, cable.runId, say.tongue);
      return { ...cable, toward: far, label: labelText(reader, words, cable, far) };
    }),
    breakers: made.breakers.map((circuitId) => {
      const { number, name, breakerAmps } = reader.get('circuits', circuitId)!;
      return { circuitId, number, name, amps: breakerAmps };
    }),
    steps: made.steps.map((step) => saidStep(reader, say, words, boxId, step)),
    unfed: made.unfed.map((landing) => landingName(reader, say, landing)),
  };
}
