import type { Terminal } from './terminal.js';

/**
 * What a conductor carries within one wiring group (a circuit, or the circuits that share one neutral), as data: hots by
 * circuit and pole, the one neutral, what is protected behind a feed-through GFCI device, travelers between place `pair` and
 * the next of a control, the leg from its last place to its loads, the interconnect
 * between smoke alarms, the core that joins the commons of two-way switches wired by conversion.
 */
export type SignalFacts =
  | { readonly kind: 'hot'; readonly circuitId: string; readonly pole: 1 | 2 }
  | { readonly kind: 'hot' | 'neutral'; readonly protectedBy: string }
  | { readonly kind: 'neutral' }
  | {
      readonly kind: 'traveler';
      readonly controlId: string;
      readonly pair: number;
      readonly side: 'a' | 'b';
    }
  | { readonly kind: 'leg' | 'common'; readonly controlId: string }
  | { readonly kind: 'interconnect' };

/** The name of a signal, by which it is looked up and put in order. What it is stands in its facts; nothing reads it off the name. */
export type Signal =
  | `hot:${string}`
  | `hot2:${string}`
  | 'neutral'
  | `load-hot:${string}`
  | `load-neutral:${string}`
  | `traveler:${string}:${number}:${'a' | 'b'}`
  | `leg:${string}`
  | `common:${string}`
  | 'interconnect';

export type SignalKind = SignalFacts['kind'];

/** What is known of a conductor: its signal, that it is not needed, or that it cannot be derived. */
export type Carried = Signal | 'spare' | 'undecided';
/** The same as data. */
export type CarriedFacts = SignalFacts | 'spare' | 'undecided';

/** What each signal is, from when it was named. */
const FACTS = new Map<Carried, SignalFacts>([
  ['neutral', { kind: 'neutral' }],
  ['interconnect', { kind: 'interconnect' }],
]);

function named<S extends Signal>(name: S, facts: SignalFacts): S {
  if (!FACTS.has(name)) FACTS.set(name, facts);
  return name;
}

export const hotOf = (circuitId: string): Signal =>
  named(`hot:${circuitId}`, { kind: 'hot', circuitId, pole: 1 });
export const secondHotOf = (circuitId: string): Signal =>
  named(`hot2:${circuitId}`, { kind: 'hot', circuitId, pole: 2 });
export const protectedHotOf = (deviceId: string): Signal =>
  named(`load-hot:${deviceId}`, { kind: 'hot', protectedBy: deviceId });
export const protectedNeutralOf = (deviceId: string): Signal =>
  named(`load-neutral:${deviceId}`, { kind: 'neutral', protectedBy: deviceId });
export const legOf = (controlId: string): Signal => named(`leg:${controlId}`, { kind: 'leg', controlId });
export const commonOf = (controlId: string): Signal =>
  named(`common:${controlId}`, { kind: 'common', controlId });
export const travelerOf = (controlId: string, pair: number, side: 'a' | 'b'): Signal =>
  named(`traveler:${controlId}:${pair}:${side}`, { kind: 'traveler', controlId, pair, side });

export const factsOf = (signal: Signal): SignalFacts => FACTS.get(signal)!;
export const carriedFacts = (carried: Carried): CarriedFacts =>
  FACTS.get(carried) ?? (carried as 'spare' | 'undecided');

export const kindOf = (signal: Signal): SignalKind => factsOf(signal).kind;

/** The control that a leg or a traveler belongs to. */
export function controlOf(carried: Carried): string | undefined {
  const facts = FACTS.get(carried);
  return facts && 'controlId' in facts ? facts.controlId : undefined;
}

/** The circuit whose breaker a hot comes from. */
export function circuitOfHot(carried: Carried): string | undefined {
  const facts = FACTS.get(carried);
  return facts && 'circuitId' in facts ? facts.circuitId : undefined;
}

/** The pole of a breaker that a hot comes from; undefined for everything else, protected hots too. */
export function poleOf(carried: Carried): 1 | 2 | undefined {
  const facts = FACTS.get(carried);
  return facts && 'pole' in facts ? facts.pole : undefined;
}

/** The GFCI device that a protected hot or neutral comes from. */
export function protectedBy(carried: Carried): string | undefined {
  const facts = FACTS.get(carried);
  return facts && 'protectedBy' in facts ? facts.protectedBy : undefined;
}

/** Which of a pair a traveler is; undefined for everything else. */
export function travelerSide(signal: Signal): 'a' | 'b' | undefined {
  const facts = factsOf(signal);
  return facts.kind === 'traveler' ? facts.side : undefined;
}

/** Whether it is the second pole of a circuit. */
export const isSecondHot = (carried: Carried): boolean => poleOf(carried) === 2;

/** A terminal of a device on which a signal lands. */
export interface SignalLanding {
  readonly boxId: string;
  /** Part of the box, where a box is fed twice by separate branches. */
  readonly node: string;
  readonly deviceId: string;
  readonly terminal: Terminal;
  readonly signal: Signal;
  /** Loads that it feeds, by point, for a hot terminal. */
  readonly points?: readonly string[];
}
