import type { Terminal } from './terminal.js';

/**
 * What a conductor carries within one wiring group (a circuit, or the circuits that share one neutral):
 * - `hot:<circuit>` the circuit's hot, `hot2:<circuit>` its second pole at 240 V,
 * - `neutral` the group's one neutral,
 * - `load-hot:<device>` and `load-neutral:<device>` what is protected behind a feed-through GFCI device,
 * - `traveler:<control>:<n>:a|b` between place n and place n + 1 of a control, `leg:<control>` from its last place to its loads,
 * - `interconnect` between smoke alarms.
 */
export type Signal =
  | `hot:${string}`
  | `hot2:${string}`
  | 'neutral'
  | `load-hot:${string}`
  | `load-neutral:${string}`
  | `traveler:${string}:${number}:${'a' | 'b'}`
  | `leg:${string}`
  | 'interconnect';

export type SignalKind = 'hot' | 'neutral' | 'traveler' | 'leg' | 'interconnect';

/** What is known of a conductor: its signal, that it is not needed, or that it cannot be derived. */
export type Carried = Signal | 'spare' | 'undecided';

export function kindOf(signal: Signal): SignalKind {
  // By a letter or two: this is asked for every signal again and again.
  switch (signal.charAt(0)) {
    case 'h':
      return 'hot';
    case 'n':
      return 'neutral';
    case 't':
      return 'traveler';
    case 'i':
      return 'interconnect';
    default:
      return signal.charAt(1) === 'e' ? 'leg' : signal.startsWith('load-hot') ? 'hot' : 'neutral';
  }
}

/** The control that a leg or a traveler belongs to. */
export function controlOf(carried: Carried): string | undefined {
  if (carried.startsWith('leg:')) return carried.slice(4);
  return carried.startsWith('traveler:') ? carried.slice(9, carried.indexOf(':', 9)) : undefined;
}

/** The circuit whose breaker a hot comes from. */
export const circuitOfHot = (carried: Carried): string | undefined =>
  carried.startsWith('hot:') ? carried.slice(4) : carried.startsWith('hot2:') ? carried.slice(5) : undefined;

/** The GFCI device that a protected hot or neutral comes from. */
export const protectedBy = (carried: Carried): string | undefined =>
  carried.startsWith('load-') ? carried.split(':')[1] : undefined;

export const hotOf = (circuitId: string): Signal => `hot:${circuitId}`;
export const secondHotOf = (circuitId: string): Signal => `hot2:${circuitId}`;
export const legOf = (controlId: string): Signal => `leg:${controlId}`;
export const travelerOf = (controlId: string, pair: number, side: 'a' | 'b'): Signal =>
  `traveler:${controlId}:${pair}:${side}`;
/** Which of a pair a traveler is; undefined for everything else. */
export const travelerSide = (signal: Signal): 'a' | 'b' | undefined =>
  signal.startsWith('traveler:') ? (signal.endsWith(':a') ? 'a' : 'b') : undefined;

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

/** Whether it is the second pole of a circuit. */
export const isSecondHot = (carried: Carried): boolean => carried.startsWith('hot2:');
