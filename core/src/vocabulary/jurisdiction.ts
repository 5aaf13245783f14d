import type {
  BoxType,
  Cable,
  CatalogueDevice,
  ColourPlan,
  Connector,
  DeviceType,
  FittingType,
} from './catalogue-types.js';
import type { Glossary } from './glossary.js';
import type { LoadRole, NeutralException, RoomKind } from './kinds.js';
import type { CircuitPlan, PublishedKit } from './room-kit-types.js';
import type { Rule } from './rule.js';
import type { SaidHere } from './said-in.js';
import type { Gauge } from './size.js';

/** Rules without a number of their own that the core asks for by name; each jurisdiction says where they stand. */
export type SectionKey =
  | 'together'
  | 'multiwire'
  | 'yoke'
  | 'marking'
  | 'switchInHot'
  | 'neutralWhole'
  | 'neutralApart'
  | 'bonding'
  | 'neutralGround'
  | 'ownNeutral'
  | 'twoOnBreaker'
  | 'oneNeutralPerHole'
  | 'nameplate'
  | 'gfciRooms'
  | 'fanBox'
  | 'torque'
  | 'markedVolume'
  | 'fillCount'
  | 'lightingOutlets'
  | 'stairLights'
  | 'switchAtTub'
  | 'panelPlace'
  | 'panelSpace'
  | 'outdoorOutlets'
  | 'garageOutlets'
  | 'laundryOutlet'
  | 'basementOutlet'
  | 'serviceOutlet'
  | 'bathOutlet'
  | 'ownCircuits'
  | 'kitchenCircuits'
  | 'reachable'
  | 'spliceInBox'
  | 'lowVoltage'
  | 'homeRuns'
  | 'fireStop';

export interface Section {
  readonly section: string;
  /** What it asks. */
  readonly says: string;
  /** Another publication than the electrical code of the country, or that nobody publishes it. */
  readonly publication?: string;
}

/** An edition of a published code that a house can be built by. */
export interface Edition {
  /** As it stands in the house file: "us-2020". */
  readonly id: string;
  /** "NEC 2020" */
  readonly name: string;
}

/** What stands beside the terminals of switches, where they are marked alike everywhere. */
export interface TerminalMarks {
  readonly supply: string;
  readonly leg: string;
  readonly common: string;
  readonly travelers: Readonly<Record<'a' | 'b', string>>;
  /** Of the two pairs of an intermediate switch. */
  readonly pairs: Readonly<Record<1 | 2, Readonly<Record<'a' | 'b', string>>>>;
}

/** The rules of one country, as data: adding one is a folder of these and a line in the list. */
export interface Jurisdiction {
  readonly id: string;
  readonly name: string;
  /** What its published code is called, before the number of a section. */
  readonly code: string;
  readonly editions: readonly Edition[];
  /** The edition that is offered first. */
  readonly usual: string;
  /** Every trade value, in the order in which the rulebook page shows them. */
  readonly rules: readonly Rule[];
  /** Chapters of the rulebook: rules whose keys begin so, before the first dot. */
  readonly chapters: readonly { readonly id: string; readonly title: string }[];
  readonly sections: Readonly<Record<SectionKey, Section>>;
  readonly glossary: Glossary;
  /** What is said here for the words of the United States, in sentences that are written in those. */
  readonly saidHere: SaidHere;
  /** Rooms in which the switches of lights are asked to have a neutral. */
  readonly neutralRooms: readonly RoomKind[];
  /** Reasons for which a switch box may go without, those that are taken most first. */
  readonly neutralExceptions: readonly { readonly code: NeutralException; readonly text: string }[];
  /** Rooms from whose ceiling a paddle fan could hang, and those where a fan draws out air. */
  readonly fanRooms: readonly RoomKind[];
  readonly exhaustRooms: readonly RoomKind[];
  /** What a room of each kind usually gets. */
  readonly roomKits: readonly PublishedKit[];
  /** Circuits that are asked for, in the order in which they are numbered. */
  readonly circuitPlans: readonly CircuitPlan[];
  /** Rules that a draft asks about first. */
  readonly askedFirst: readonly string[];
  /** Rooms whose floor counts for the general lighting load. */
  readonly lightingArea: readonly RoomKind[];
  /** Rooms in which a panel may not hang, and those in which it usually does, the best first. */
  readonly noPanel: readonly RoomKind[];
  readonly panelRooms: readonly RoomKind[];
  /** Conductors of circuits, the thinnest first: it is the least that a branch circuit is wired with. */
  readonly sizes: readonly [Gauge, ...Gauge[]];
  /** What floors are called from the one on the ground up; higher ones by their number. */
  readonly floors: readonly [string, string];
  /** Sizes of raceway as they are called here, the smallest first: "½ in EMT", "16 mm EMT". */
  readonly raceways: Readonly<Record<'1/2' | '3/4' | '1', string>>;
  /** Leads of devices by how these are mounted: common practice. */
  readonly leads: Readonly<Record<CatalogueDevice['mount'], Gauge>>;
  /** What is sold there, the smallest first. */
  readonly cables: readonly Cable[];
  readonly boxes: readonly BoxType[];
  readonly devices: readonly DeviceType[];
  readonly fittings: readonly FittingType[];
  /** Common practice, from memory: what is printed on the package of the connector in hand decides. */
  readonly connectors: readonly Connector[];
  readonly colours: ColourPlan;
  /** Undefined where screws are told by what they are for. */
  readonly terminalMarks?: TerminalMarks;
  /** Which way a lever of a one-way switch is thrown when it makes contact. */
  readonly leverOn: 'up' | 'down';
  /**
   * How a rough-in is tested: rung out and then, if the lead wants, live; or by dead tests in their order, continuity, insulation,
   * polarity, and nothing live.
   */
  readonly testing: 'ring-out' | 'dead-tests';
  /** Legs of the service: two with twice the volts between them, or one. */
  readonly legs: 1 | 2;
  /** Volts between a hot and neutral. */
  readonly lineVolts: number;
  /** Breakers that circuits are commonly put on, in amperes. */
  readonly breakers: readonly number[];
  /** The tag of a panel that nobody has named. */
  readonly panelTag: string;
  /** What a load draws when nothing is stated, in watts. */
  readonly watts: Readonly<Record<LoadRole, number>>;
  /** How it is counted whether a box is too full. */
  readonly fillMethod: FillMethod;
}

/**
 * Volume allowances for each thing in a box, by the gauge of conductors; or conductors alone, with connectors counted by pairs and
 * deep devices by their depth; or no rule at all: what room is left by the depth of the box and of what goes into it.
 */
export type FillMethod = 'volume-allowances' | 'conductor-count' | 'free-volume';
