import type {
  ConductorRef,
  FindingCode,
  FixCode,
  FixFacts,
  JointTitle,
  LoadFacts,
  Measure,
  ShortFacts,
  Source,
} from '../../findings/facts.js';
import type { FindingOf, Where } from '../../findings/finding.js';
import type { FillItem } from '../../fill/fill-box.js';
import type { SheetNote, WireFrom } from '../../makeup/device-sheet.js';
import type { StepNote } from '../../makeup/step-notes.js';
import type { Fitting } from '../../vocabulary/catalogue-types.js';
import type { Glossary, Term } from '../../vocabulary/glossary.js';
import type { CauseKind } from '../../rulebook/fault-priors.js';
import type { NeutralException, PointRole, PowerState } from '../../vocabulary/kinds.js';
import type { CarriedFacts } from '../../vocabulary/signal.js';
import type { Landing, Side } from '../../vocabulary/terminal.js';
import type { Colour } from '../../vocabulary/text.js';
import type { BoxJoint } from '../../wiring/joints/box-joint.js';
import type { MarkOf } from './terminal-marks.js';
import type { Units } from './units.js';

/** What the country calls something, in the language. */
export type TermOf = (word: Term) => string;

/** What a sentence is made of: the facts of a finding, and where it is. */
export type ToldOf<C extends FindingCode> = Pick<FindingOf<C>, 'facts'> & { readonly where: Where };

/** What to do first and why, in three lines of a phone; what there is to know besides stands apart. */
export type Told = string | readonly [first: string, more: string];

/** The sentence of every kind of finding: the only place where it is written. */
export type FindingWords = {
  readonly [C in FindingCode]: (say: Say, told: ToldOf<C>) => Told;
};
/** What stands on the button of every way out. */
export type FixWords = { readonly [C in FixCode]: (say: Say, facts: FixFacts[C]) => string };

/** Words that do not stand alone: how things are named, and what joins them. */
export interface Phrases {
  and(words: readonly string[]): string;
  or(words: readonly string[]): string;
  /** "A, B and 4 more": so that a sentence does not grow with the house. */
  some(words: readonly string[], left: number): string;
  circuit(number: number, name: string): string;
  /** "circuits 5 and 9": several by their numbers alone, so that a sentence stays short. */
  circuits(numbers: readonly number[]): string;
  readonly aCircuit: string;
  readonly aBox: string;
  readonly aRoom: string;
  readonly anotherBox: string;
  readonly aDevice: string;
  readonly aControl: string;
  readonly goneRun: string;
  readonly goneCable: string;
  /** "the 14/2 from S2 to L3"; without a cable "the run from …". */
  run(cable: string | undefined, from: string, to: string): string;
  /** "from S2 to L3" */
  ends(from: string, to: string): string;
  /** "the 14/2 to L3", as it is said in the box that it comes to. */
  cableTo(cable: string | undefined, to: string): string;
  /** "the black in the 14/2 from S2 to L3" */
  conductor(colour: string, run: string): string;
  /** "white to R1" */
  wireTo(colour: string, to: string): string;
  /** "breaker 5 (Hall, 15 A)" */
  breaker(number: number, name: string, amps: number): string;
  atGang(words: string, gang: number): string;
  ofGang(words: string, gang: number): string;
  loadIn(load: string, box: string): string;
  insideOfSwitch(box: string): string;
  readonly colours: Readonly<Record<Colour, string>>;
  readonly roles: Readonly<Record<PointRole, string>>;
  /** What a joint carries, in a word. */
  readonly joints: Readonly<Record<BoxJoint['role'], string>>;
  readonly hotToGround: string;
  joined(one: string, other: string): string;
  readonly anotherLeg: string;
  readonly wall: (number: number) => string;
  readonly slot: (number: number) => string;
  readonly cables: (count: number) => string;
  readonly slots: (count: number) => string;
  readonly fanRatedBox: string;
  readonly practice: Readonly<Record<'common' | 'package' | 'sheet', string>>;

  /** Signals. */
  legOf(control: string): string;
  commonOf(control: string): string;
  travelerOf(side: Side, control: string): string;
  readonly undecided: string;
  readonly protectedNeutral: string;
  readonly protectedHot: string;
  readonly firstHot: string;
  readonly secondHot: string;
  hotOf(circuit: number): string;

  /** Terminals. */
  readonly supply: string;
  readonly common: string;
  traveler(side: Side): string;
  pair(pair: number, side: Side): string;
  readonly hotB: string;
  onSide(of: 'line' | 'load', words: string): string;
  readonly boxGround: string;
  readonly capped: string;
  readonly link: string;
  readonly groundBar: string;
  readonly neutralBar: string;
  lug(pole: number): string;
  readonly secondPole: string;
  readonly halves: readonly [string, string];
  half(terminal: string, name: string, control: string | undefined): string;
  readonly leads: {
    readonly supply: string;
    readonly leg: string;
    readonly fan: string;
    readonly lamp: string;
    readonly both: string;
    lead(terminal: string): string;
  };

  /** What a conductor meets in a box. */
  landsOn(terminal: string): string;
  readonly isCapped: string;
  readonly passesUncut: string;
  spliceOf(count: number, pigtails: readonly string[]): string;

  /** What stands in the fill of a box. */
  fill(item: FillItem, device: string): string;
  readonly fittings: Readonly<Record<Fitting['kind'], string>>;
}

/** The titles of the steps of a make-up. */
export interface Titles {
  ofCircuits(numbers: readonly string[]): string;
  readonly part: string;
  readonly fromLoad: string;
  readonly toLine: string;
  readonly groundsToBar: string;
  readonly grounds: string;
  readonly groundsPart: string;
  traveler(side: Side, control: string, isThrough: boolean): string;
  neutralUncut(on: string): string;
  neutralCap(on: string): string;
  neutrals(rest: string): string;
  hotCap(on: string): string;
  hot(rest: string): string;
  interconnect(on: string): string;
  leg(control: string, part: string): string;
  commons(control: string): string;
  readonly sparesSpliced: string;
  spareCap(colour: string, far: string): string;
  notDerived(colour: string, far: string): string;
  readonly linkUnasked: string;
}

/** What the notes of a step are made of besides their facts. */
export interface AroundNote {
  landed(to: Extract<StepNote, { to: unknown }>['to']): string;
  list(to: Extract<StepNote, { to: unknown }>['to']): string;
  far(runId: string): string;
  control(controlId: string): string | undefined;
  section(key: 'neutralWhole' | 'torque'): string;
}
export type NoteWords = {
  readonly [C in StepNote['code']]: (
    say: Say,
    note: Extract<StepNote, { readonly code: C }>,
    around: AroundNote,
  ) => string;
};

/** The make-up of a box. */
export interface MakeUpWords {
  readonly notes: NoteWords;
  readonly from: {
    cable(colour: string, far: string, looped: boolean): string;
    readonly other: Readonly<Record<Exclude<WireFrom['kind'], 'cable' | 'pigtail'>, string>>;
    pigtail(of: string): string;
  };
  /** Beside the name of a plate that is drawn from one side. */
  readonly seen: Readonly<Record<'front' | 'behind', string>>;
  readonly sheetNotes: Readonly<Record<SheetNote, (torque: string) => string>>;
  readonly test: {
    singlePole(supply: string, leg: string): string;
    threeWay(common: string, traveler: string, other: string): string;
    fourWay(a: string, b: string, c: string, d: string): string;
  };
  onTo(landings: readonly string[]): string;
  /** A step in one sentence: "Black to S2, L3. Strip ½ in. Medium twist-on." */
  inShort(step: {
    readonly wires: readonly string[];
    readonly pigtails: number;
    readonly landsOn: string | undefined;
    readonly strip: string | undefined;
    readonly connector: string | undefined;
    readonly marks: number;
  }): string;
  readonly labels: { readonly powerIn: string; on(far: string): string; to(far: string): string };
}

/** How things of one house are called: names of its records, words of its trade, its units. Nothing of it is kept. */
export interface Say {
  readonly language: Language;
  readonly tongue: Tongue;
  readonly term: (term: Term) => string;
  /** Text of the rulebook, the catalogue, a refusal, in the language of the person. */
  readonly told: (text: string) => string;
  /** A sentence in the trade words of the United States, in those of where the house is built; in English. */
  readonly inTrade: (text: string) => string;
  /** "black": of a colour, or of the name of a conductor ("BK", "BK#2"). */
  readonly colour: (code: Colour | string) => string;
  /** "white to R1" */
  readonly wireTo: (colour: Colour | string, far: string) => string;
  /** "S2 · Living room · wall 3" */
  readonly place: (where: Where) => string;
  /** "240 V": of so many hots. */
  readonly volts: (hots: number) => string;
  readonly units: Units;
  readonly box: (id: string | undefined) => string;
  readonly boxes: (ids: readonly string[]) => string;
  readonly room: (id: string | undefined) => string;
  readonly run: (id: string | undefined) => string;
  /** "from S2 to L3" */
  readonly ends: (id: string | undefined) => string;
  readonly circuit: (id: string | undefined) => string;
  /** "the 14/2 to L3" where it is said of a box that it comes to; else by both its ends. */
  readonly cableAt: (runId: string | undefined, boxId: string | undefined) => string;
  readonly circuits: (ids: readonly string[]) => string;
  /** "½ in EMT", "20 mm conduit": of a trade size. */
  readonly raceway: (size: '1/2' | '3/4' | '1') => string;
  /** "“Hall lights”" */
  readonly control: (id: string | undefined) => string;
  /** "Smart switch (needs neutral)" */
  readonly device: (id: string | undefined) => string;
  readonly deviceType: (catalogueId: string) => string;
  readonly boxType: (catalogueId: string) => string;
  /** "Plastic, 1 gang, 22.5 in³" */
  readonly boxModel: (model: { readonly name: string; readonly volumeIn3?: number | undefined }) => string;
  readonly gangOf: (deviceId: string | undefined) => number;
  readonly load: (load: LoadFacts) => string;
  readonly signals: (signals: readonly CarriedFacts[]) => string;
  /** "the black in the 14/2 to L3", said of a box; without one by both ends of the cable. */
  readonly conductor: (ref: ConductorRef, boxId?: string) => string;
  readonly connector: (id: string) => string;
  readonly jointTitle: (title: JointTitle) => string;
  /** "WH to R1, BK to L2, leg of gang 2" */
  readonly members: (
    boxId: string | undefined,
    ends: readonly ConductorRef[],
    landings: readonly Landing[],
  ) => string;
  readonly short: (short: ShortFacts) => string;
  readonly measure: (measure: Measure) => string;
  readonly source: (source: Source) => string;
  readonly rule: (key: string) => string;
  /** Why a box may go without a neutral. */
  readonly exception: (code: NeutralException) => string;
}

/** What is said before anybody reaches into a box. */
export interface CautionWords {
  /** What to do at the panel, by the power of the house; `breakers` are those of the box. */
  atPanel(power: PowerState | undefined, breakers: readonly string[]): string;
  /** The same in one line, once it has been read. */
  short(power: PowerState | undefined, numbers: readonly number[]): string;
  readonly proveDead: string;
  readonly who: string;
  readonly power: Readonly<Record<PowerState | 'not-said', string>>;
}

/** What may be wrong in a circuit, in words, by its kind. */
export type CauseWords = (term: TermOf) => Readonly<Record<CauseKind, string>>;

/** A language in which the trade is told. Trade words of a country come from its glossary. */
export interface Language {
  /** "en", "es" */
  readonly code: string;
  /** The trade words of a jurisdiction in this language. */
  glossary(own: Glossary): Glossary;
  /** What stands in rulebook, catalogue and refusals as text: titles, names, notes. Itself where there is no other word. */
  told(text: string): string;
  phrases(term: TermOf): Phrases;
  titles(term: TermOf): Titles;
  readonly findings: FindingWords;
  /** Where to look first, before what is wrong. */
  lookAt(conductor: string): string;
  readonly fixes: FixWords;
  makeUp(term: TermOf): MakeUpWords;
  caution(term: TermOf): CautionWords;
  readonly causes: CauseWords;
}

/** What the words of a place need: the trade words and how this language joins them. */
export interface Tongue {
  readonly term: TermOf;
  readonly phrases: Phrases;
  readonly titles: Titles;
  /** What stands on a device beside a terminal, where that is the same on all of them. */
  readonly mark?: MarkOf;
}
