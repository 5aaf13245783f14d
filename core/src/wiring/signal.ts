/**
 * What a conductor carries within one circuit. 'leg:<control id>' is on when the control is on. Travelers and protected
 * conductors join these when the product learns to derive them.
 */
export type Signal = 'hot' | 'neutral' | 'interconnect' | `leg:${string}`;

/** What is known of a conductor: its signal, that it is not needed, or that it cannot be derived yet. */
export type Carried = Signal | 'spare' | 'undecided';

export const legOf = (controlId: string): Signal => `leg:${controlId}`;
export const controlOfLeg = (carried: Carried): string | undefined =>
  carried.startsWith('leg:') ? carried.slice(4) : undefined;

/** A place on a device where a signal lands. */
export interface Terminal {
  readonly boxId: string;
  readonly deviceId: string;
  /** Name for people: "supply", "leg", "hot", "neutral". */
  readonly name: string;
  readonly signal: Signal;
}
