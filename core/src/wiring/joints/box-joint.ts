import type { Conductor } from '../../facts/box-facts.js';
import type { Gauge } from '../../vocabulary/size.js';
import type { Landing } from '../../vocabulary/terminal.js';
import type { Signal, SignalKind } from '../../vocabulary/signal.js';

/** The end of a cable's conductor in a box. */
export interface CableEnd extends Conductor {
  readonly slot?: number;
  /** A white that is not neutral: marked all round wherever it is seen (NEC 200.7(C)). */
  readonly reidentified?: boolean;
  /** Of an end recorded as made: whether its mark is recorded too. An end that is only derived is marked when it is made. */
  readonly marked?: boolean;
}

export type JointRole = 'ground' | SignalKind | 'spare' | 'undecided';

export interface BoxJoint {
  readonly kind: 'splice' | 'land' | 'cap' | 'uncut' | 'undecided';
  readonly role: JointRole;
  readonly circuitId?: string;
  readonly controlId?: string;
  readonly signal?: Signal;
  readonly ends: readonly CableEnd[];
  /** For 'land' the one terminal; for 'splice' one pigtail each. */
  readonly landings: readonly Landing[];
  /** The thickest conductor in it; a pigtail is cut from that gauge. */
  readonly gauge: Gauge;
  /** Length of an unbroken loop left in the box, in inches. */
  readonly loopIn?: number;
  /** More may belong to this joint: something in this box cannot be derived. */
  readonly open: boolean;
  /** Recorded as made: taken as it is. */
  readonly made?: boolean;
  /** The connector that was put on, where it has been recorded. */
  readonly connector?: string;
}

export interface BoxJoints {
  readonly joints: readonly BoxJoint[];
  /** Terminals that no conductor reaches. */
  readonly unfed: readonly Landing[];
  /** Devices not all of whose conductors are known. */
  readonly openDevices: ReadonlySet<string>;
  /** Joints recorded as made that are not what the wiring asks for now. */
  readonly conflicts: readonly MadeConflict[];
}

/** A joint recorded as made that the wiring no longer asks for, and what it asks for instead. */
export interface MadeConflict {
  readonly made: BoxJoint;
  /** The derived joints that the conductors and terminals of the made one belong to. */
  readonly asked: readonly BoxJoint[];
}

export const endKey = (end: { readonly runId: string; readonly key: string }): string =>
  `${end.runId} ${end.key}`;

/** What kind of joint so many conductors and terminals make. */
export const shapeOf = (ends: number, landings: number): 'land' | 'cap' | 'splice' =>
  ends === 1 && landings === 1 ? 'land' : ends + landings <= 1 ? 'cap' : 'splice';
