import type { DeviceType } from '../../vocabulary/catalogue-types.js';
import type { Signal } from '../../vocabulary/signal.js';
import { commonOf, legOf, travelerOf } from '../../vocabulary/signal.js';
import type { Terminal } from '../../vocabulary/terminal.js';
import {
  COMMON,
  HOT,
  LEG,
  LINE,
  LOAD,
  NEUTRAL,
  PAIR,
  SECOND_HOT,
  SUPPLY,
  TRAVELER,
} from '../../vocabulary/terminal.js';

export type LeverKind = 'single-pole' | 'three-way' | 'four-way';

/** Where a lever stands in the electrical order of its control. */
export interface LeverPlace {
  readonly controlId: string;
  readonly index: number;
  readonly of: number;
  /**
   * The commons of the first and the last place are joined, and line and leg come to the first: *conversion*, as a one-way switch
   * is made two-way. Left out where travelers go from place to place.
   */
  readonly isConverted?: true;
}

export const leverKind = ({ index, of }: LeverPlace): LeverKind =>
  of === 1 ? 'single-pole' : index === 0 || index === of - 1 ? 'three-way' : 'four-way';

/** A terminal of a lever, by its number where a yoke has several. */
export type OfLever = (lever?: number) => Terminal;
type Pair = readonly [OfLever, OfLever];

/** A slip in landing a switch: from which terminal to which, or to nowhere; one that changes nothing is harmless. */
export interface LeverSlip {
  readonly kind: 'traveler on common' | 'single-pole for a three-way' | 'four-way pairs mixed' | HarmlessSlip;
  readonly moves: readonly (readonly [OfLever, OfLever | undefined])[];
  readonly harmless?: true;
}
export type HarmlessSlip =
  'travelers swapped at one end' | 'pairs of a four-way swapped' | 'a pair of a four-way turned over';

const exchanged = (...pairs: readonly Pair[]): LeverSlip['moves'] =>
  pairs.flatMap(([one, other]): LeverSlip['moves'] => [
    [one, other],
    [other, one],
  ]);

/**
 * One kind of switch: what it has, what it joins, and what it needs. Wiring, netlist, sheets, faults and the comparison with
 * what was made all read it here. Screws are told by what they are, never by where they sit.
 */
export interface LeverModel {
  /** In the order in which they are told. The supply may be shared by the levers of a yoke. */
  readonly terminals: readonly OfLever[];
  /** Something that lands on one of these tells that this kind was put in. */
  readonly toldBy: readonly OfLever[];
  /** What its own terminals carry in the place that it has; the supply comes from its yoke. */
  readonly needs: (place: LeverPlace, supply: Signal) => readonly (readonly [OfLever, Signal])[];
  /** What is joined with the lever down and up, and whether that is the other way round in the last place of a control. */
  readonly contacts: {
    readonly down: readonly Pair[];
    readonly up: readonly Pair[];
    /** Not where the commons are joined: there both throws lead to the same conductors. */
    readonly turnsLast?: true;
  };
  /**
   * What can be exchanged without changing what it does (common practice), each a number of pairs that change places together.
   * The screws of a single-pole: not where electronics tell line from load.
   */
  readonly alike: readonly (readonly Pair[])[];
  /** What hands land wrong on it, where something lands on all of `slipOn`. */
  readonly slipOn: readonly OfLever[];
  readonly slips: readonly LeverSlip[];
  /** For the rough-in test without it: terminals that are joined two by two, and what is capped after them. */
  readonly bridged: readonly OfLever[];
}

const travelers = (
  { controlId }: LeverPlace,
  pair: number,
  { a, b }: { readonly a: OfLever; readonly b: OfLever },
): readonly (readonly [OfLever, Signal])[] => [
  [a, travelerOf(controlId, pair, 'a')],
  [b, travelerOf(controlId, pair, 'b')],
];

/** What the two cores between a place and the next carry: travelers; in the first stretch of a conversion line and leg themselves. */
const stretch = (
  place: LeverPlace,
  pair: number,
  of: { readonly a: OfLever; readonly b: OfLever },
  supply: Signal,
): readonly (readonly [OfLever, Signal])[] =>
  place.isConverted && pair === 0
    ? [
        [of.a, supply],
        [of.b, legOf(place.controlId)],
      ]
    : travelers(place, pair, of);

export const LEVER_MODELS: Readonly<Record<LeverKind, LeverModel>> = {
  'single-pole': {
    terminals: [SUPPLY, LEG],
    toldBy: [LEG],
    needs: ({ controlId }) => [[LEG, legOf(controlId)]],
    contacts: { down: [], up: [[SUPPLY, LEG]] },
    alike: [[[SUPPLY, LEG]]],
    slipOn: [],
    slips: [],
    bridged: [SUPPLY, LEG],
  },
  'three-way': {
    terminals: [COMMON, TRAVELER.a, TRAVELER.b],
    toldBy: [COMMON, TRAVELER.a, TRAVELER.b],
    needs: (place, supply) =>
      place.isConverted
        ? [
            [COMMON, commonOf(place.controlId)],
            ...stretch(place, place.index === 0 ? 0 : place.of - 2, TRAVELER, supply),
          ]
        : place.index === 0
          ? [[COMMON, supply], ...travelers(place, 0, TRAVELER)]
          : [[COMMON, legOf(place.controlId)], ...travelers(place, place.of - 2, TRAVELER)],
    // Which traveler it meets when it is down is inside the device; taken so that all down is off.
    contacts: { down: [[COMMON, TRAVELER.a]], up: [[COMMON, TRAVELER.b]], turnsLast: true },
    alike: [[[TRAVELER.a, TRAVELER.b]]],
    slipOn: [COMMON, TRAVELER.a, TRAVELER.b],
    slips: [
      { kind: 'traveler on common', moves: exchanged([COMMON, TRAVELER.a]) },
      { kind: 'travelers swapped at one end', moves: exchanged([TRAVELER.a, TRAVELER.b]), harmless: true },
      {
        kind: 'single-pole for a three-way',
        moves: [
          [COMMON, SUPPLY],
          [TRAVELER.a, LEG],
          [TRAVELER.b, undefined],
        ],
      },
    ],
    bridged: [COMMON, TRAVELER.a, TRAVELER.b],
  },
  'four-way': {
    terminals: [PAIR[1].a, PAIR[1].b, PAIR[2].a, PAIR[2].b],
    toldBy: [PAIR[1].a, PAIR[1].b, PAIR[2].a, PAIR[2].b],
    needs: (place, supply) => [
      ...stretch(place, place.index - 1, PAIR[1], supply),
      ...stretch(place, place.index, PAIR[2], supply),
    ],
    contacts: {
      down: [
        [PAIR[1].a, PAIR[2].a],
        [PAIR[1].b, PAIR[2].b],
      ],
      up: [
        [PAIR[1].a, PAIR[2].b],
        [PAIR[1].b, PAIR[2].a],
      ],
    },
    alike: [
      [[PAIR[1].a, PAIR[1].b]],
      [[PAIR[2].a, PAIR[2].b]],
      [
        [PAIR[1].a, PAIR[2].a],
        [PAIR[1].b, PAIR[2].b],
      ],
    ],
    slipOn: [PAIR[1].a, PAIR[2].a],
    slips: [
      { kind: 'four-way pairs mixed', moves: exchanged([PAIR[1].b, PAIR[2].a]) },
      {
        kind: 'pairs of a four-way swapped',
        moves: exchanged([PAIR[1].a, PAIR[2].a], [PAIR[1].b, PAIR[2].b]),
        harmless: true,
      },
      { kind: 'a pair of a four-way turned over', moves: exchanged([PAIR[1].a, PAIR[1].b]), harmless: true },
    ],
    bridged: [PAIR[1].a, PAIR[2].a, PAIR[1].b, PAIR[2].b],
  },
};

/** The kinds, those first of which the terminals tell most. */
export const LEVER_KINDS: readonly LeverKind[] = ['four-way', 'three-way', 'single-pole'];

/** How what is fed hangs on its circuit, by the voltage of its kind. */
export interface LoadModel {
  readonly terminals: readonly Terminal[];
  /** Where its current comes back to; undefined for the neutral of its part. */
  readonly back?: Terminal;
  /** It needs a neutral, for itself or for what is inside. */
  readonly onNeutral: boolean;
  /** Hots that it lies between: so many times the volts of one. */
  readonly hots: 1 | 2;
}

const LOAD_MODELS: Readonly<Record<NonNullable<DeviceType['supply']>, LoadModel>> = {
  '120': { terminals: [HOT(), NEUTRAL()], onNeutral: true, hots: 1 },
  '240': { terminals: [HOT(), SECOND_HOT], back: SECOND_HOT, onNeutral: false, hots: 2 },
  '120/240': { terminals: [HOT(), SECOND_HOT, NEUTRAL()], back: SECOND_HOT, onNeutral: true, hots: 2 },
};

export const loadModel = ({ supply }: Pick<DeviceType, 'supply'>): LoadModel => LOAD_MODELS[supply ?? '120'];

/** What a feed-through device joins inside: its LINE side feeds its LOAD side. */
export const THROUGH: readonly (readonly [Terminal, Terminal])[] = [
  [LINE.hot, LOAD.hot],
  [LINE.neutral, LOAD.neutral],
];
