import type { Ask, Box, Circuit, Drafted, Room } from '../house/model.js';
import type { CircuitUse, KitItem } from '../vocabulary/room-kit-types.js';
import type { PointRole } from '../vocabulary/kinds.js';

/** What a draft is made of before it has ids: everything is named by its key. */

export type Why = Drafted['why'];

export interface PlannedPoint {
  readonly key: string;
  readonly role: PointRole;
}

export interface PlannedDevice {
  readonly key: string;
  readonly gang: number;
  readonly catalogueId: string;
  readonly points: readonly PlannedPoint[];
}

/** What decides of which models a box can be. */
export type BoxShape =
  'switch' | 'device' | 'ceiling' | 'fan' | 'light-box' | 'buried-point' | 'low-voltage' | 'panel';

export interface PlannedBox extends Pick<
  Box,
  'heightIn' | 'heightReference' | 'placeNote' | 'corner' | 'alongIn' | 'facesOut' | 'xIn' | 'yIn'
> {
  readonly key: string;
  readonly roomId: string;
  /** Letter or word that its tag begins with. */
  readonly prefix: string;
  readonly shape: BoxShape;
  readonly devices: readonly PlannedDevice[];
  readonly why: Why;
}

export interface PlannedControl {
  readonly key: string;
  readonly name: string;
  /** Keys of points. */
  readonly places: readonly string[];
  readonly loads: readonly string[];
  readonly why: Why;
}

export interface Edge {
  readonly from: string;
  readonly to: string;
}

/** Boxes that hang on one circuit together: a switch box and all that it switches, or one receptacle. By keys of boxes. */
export interface Group {
  readonly use: CircuitUse;
  readonly room: Room;
  /** Where power comes in, and from where it goes on to the next group. */
  readonly feed: string;
  readonly onward: string;
  readonly edges: readonly Edge[];
  /** Lights, fans, receptacles and alarms: what the limit of a circuit counts. */
  readonly points: number;
  /** There is a receptacle in it. */
  readonly hasReceptacle: boolean;
  /** It serves the top of a kitchen counter. */
  readonly isCounter: boolean;
  /** Its receptacle stands near water, or does not; undefined where that is not asked or not known. */
  readonly nearWater?: boolean | undefined;
  readonly own?: { readonly item: KitItem; readonly spec: NonNullable<KitItem['own']> };
}

export interface PlannedAsk extends Pick<Ask, 'kind'> {
  readonly key: string;
  readonly roomId: string;
  readonly boxKey: string;
  readonly why: Why;
}

/** A run outside of all circuits. */
export interface LowVoltage {
  readonly boxKey: string;
  readonly label: string;
  readonly why: Why;
}

export interface RoomPlan {
  readonly room: Room;
  readonly boxes: readonly PlannedBox[];
  readonly controls: readonly PlannedControl[];
  readonly groups: readonly Group[];
  readonly asks: readonly PlannedAsk[];
  readonly lowVoltage: readonly LowVoltage[];
}

export interface PlannedCircuit extends Pick<Circuit, 'name' | 'poles' | 'breakerAmps' | 'protection'> {
  readonly key: string;
  readonly groups: readonly Group[];
  readonly nameplateOpen: boolean;
  /** Its last box is led home again. */
  readonly ring?: true;
  /** The upper halves of its receptacles; the lower ones are on another circuit that shares its neutral: on one cable, with one handle. */
  readonly split?: true;
  /** What it is taken to draw, in volt-amperes, for the balance of the panel. */
  readonly loadVa: number;
  readonly why: Why;
}

/** Key of the circuit that the lower halves of the receptacles of a split one are on. */
export const otherHalf = ({ key }: Pick<PlannedCircuit, 'key'>): string => `${key} lower`;

/** Something to look at before the draft is used, as facts. */
export type LookAt =
  | { readonly code: 'size-assumed'; readonly roomIds: readonly string[] }
  | { readonly code: 'nameplate'; readonly circuits: readonly string[] }
  | { readonly code: 'gangs-split'; readonly roomId: string; readonly gangs: number }
  | { readonly code: 'one-from-every'; readonly roomId: string; readonly item: string }
  | { readonly code: 'pulled-circuit'; readonly roomId: string; readonly items: number }
  | { readonly code: 'no-box-holds'; readonly roomId: string; readonly tag: string }
  | { readonly code: 'panel-place'; readonly roomId: string }
  | { readonly code: 'own-boxes'; readonly roomIds: readonly string[] };
