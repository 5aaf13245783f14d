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

const KINDS: Readonly<Record<string, SignalKind>> = {
  hot: 'hot',
  hot2: 'hot',
  'load-hot': 'hot',
  neutral: 'neutral',
  'load-neutral': 'neutral',
  traveler: 'traveler',
  leg: 'leg',
  interconnect: 'interconnect',
};

const KNOWN = new Map<string, SignalKind>();

export function kindOf(signal: Signal): SignalKind {
  let kind = KNOWN.get(signal);
  if (!kind) {
    const end = signal.indexOf(':');
    kind = KINDS[end === -1 ? signal : signal.slice(0, end)]!;
    KNOWN.set(signal, kind);
  }
  return kind;
}

/** The control that a leg or a traveler belongs to. */
export const controlOf = (carried: Carried): string | undefined =>
  carried.startsWith('leg:') || carried.startsWith('traveler:') ? carried.split(':')[1] : undefined;

/** The circuit whose breaker a hot comes from. */
export const circuitOfHot = (carried: Carried): string | undefined =>
  carried.startsWith('hot:') || carried.startsWith('hot2:') ? carried.split(':')[1] : undefined;

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

/** A place on a device where a signal lands. */
export interface Terminal {
  readonly boxId: string;
  /** Part of the box, where a box is fed twice by separate branches. */
  readonly node: string;
  readonly deviceId: string;
  /** Name for people and for joints recorded as built: "supply", "leg", "common", "traveler A", "hot", "neutral". */
  readonly name: string;
  readonly signal: Signal;
  /** Loads that it feeds, by point, for a hot terminal. */
  readonly points?: readonly string[];
}
