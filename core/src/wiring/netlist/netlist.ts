import type { Landing } from '../../vocabulary/terminal.js';
import type { LoadRole } from '../../vocabulary/kinds.js';
import type { BoxJoint } from '../joints/box-joint.js';
import type { LeverKind } from '../circuit/device-models.js';

/** The joints of each box: what a netlist is made of, whether derived, recorded as made, or given by hand. */
export type JointsByBox = ReadonlyMap<string, readonly BoxJoint[]>;

export interface NetJoint {
  readonly boxId: string;
  readonly joint: BoxJoint;
  /** What is joined with it through conductors and splices has the same net. */
  readonly net: number;
}

/** A conductor from the joint at one of its ends to the joint at the other. */
export interface NetConductor {
  readonly runId: string;
  readonly key: string;
  readonly from: number;
  readonly to: number;
}

/** A lever: between which joints it makes contact when it is down and when it is up. */
export interface NetLever {
  readonly pointId: string;
  readonly deviceId: string;
  readonly boxId: string;
  readonly kind: LeverKind;
  readonly down: readonly (readonly [number, number])[];
  readonly up: readonly (readonly [number, number])[];
}

export interface NetLoad {
  /** What is switched or fed; the lever itself where this is the electronics of its device. */
  readonly pointId: string;
  readonly deviceId: string;
  readonly boxId: string;
  readonly role: LoadRole;
  readonly circuitId: string;
  /**
   * Joint at its hot side and at its return; undefined when nothing lands there, and for the hot side of electronics that are
   * not at the first place of their control: what feeds those there is inside of the device.
   */
  readonly hot: number | undefined;
  readonly back: number | undefined;
  /** Hots that it lies between: of one its current comes back on a neutral. */
  readonly hots: 1 | 2;
  /** Rated volts and the resistance that draws its watts at them, in ohms. */
  readonly volts: number;
  readonly ohms: number;
  /** The control that is to switch it; undefined for one that is always on. */
  readonly controlId: string | undefined;
}

/** A joint at the panel, whose voltage is given. */
export interface NetSource {
  readonly joint: number;
  readonly kind: 'hot' | 'neutral';
  /** Against neutral, in volts: +120 or −120 for the two legs of the service. */
  readonly volts: number;
  readonly circuitId: string;
  /** Where it lands in the panel. */
  readonly landing: Landing;
  /** It lands on a breaker, a neutral too; else on the neutral bar. */
  readonly isOnBreaker: boolean;
}

export interface Netlist {
  readonly circuitIds: readonly string[];
  readonly joints: readonly NetJoint[];
  readonly nets: number;
  readonly conductors: readonly NetConductor[];
  readonly levers: readonly NetLever[];
  readonly loads: readonly NetLoad[];
  readonly sources: readonly NetSource[];
  /** Joined inside a feed-through device: its LINE and its LOAD side. */
  readonly through: readonly (readonly [number, number])[];
  /** Feed-through devices of which both sides are used, each with its contacts in `through`. */
  readonly feedThrough: readonly {
    readonly boxId: string;
    readonly deviceId: string;
    readonly contacts: readonly (readonly [number, number])[];
  }[];
  /** Joined by the tab of a device, or by a link between two splices of one kind: one net. */
  readonly tabs: readonly (readonly [number, number])[];
  /** Alarms that are to call each other, by the circuits that do; the joint of their interconnect. */
  readonly alarms: readonly {
    readonly boxId: string;
    readonly pointId: string;
    readonly group: string;
    readonly joint: number | undefined;
  }[];
  /** Where a feeder ends: the joints of its hots and of its neutral in the panel that it feeds. */
  readonly feeders: readonly {
    readonly boxId: string;
    readonly circuitId: string;
    readonly hots: readonly (number | undefined)[];
    readonly neutral: number | undefined;
  }[];
  /** Places of each control, by control id. */
  readonly places: ReadonlyMap<string, readonly string[]>;
  /** What must be grounded and whether its ground reaches the panel. */
  readonly grounded: readonly { readonly boxId: string; readonly deviceId?: string; readonly ok: boolean }[];
  /** Joints of grounds. */
  readonly ground: ReadonlySet<number>;
}
