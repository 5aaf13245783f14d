import type { HarmlessSlip } from '../circuit/device-models.js';
import type { JointsByBox } from '../netlist/netlist.js';
import type { Edit } from './edits.js';

/** The faults that crews make, by the table of the trade: what an electrical one does shows when it is operated. */
export const FAULT_KINDS = [
  'traveler on common',
  'four-way pairs mixed',
  'missed neutral splice',
  'neutrals of two circuits joined',
  'borrowed neutral',
  'hot and neutral by different ways',
  'white not marked',
  'switched neutral',
  'tab not broken',
  'halves swapped',
  'missed jumper',
  'ring open',
  'series lights',
  'ground missing',
  'metal box unbonded',
  'bare ground on a terminal',
  'load on another breaker',
  'neutral joined to ground',
  'LOAD joined to LINE',
  'GFCI fed on LOAD',
  'interconnect open',
  'interconnect on a hot',
  'neutral on the bar',
  'neutral on another breaker',
  'hot on another breaker',
  'link of two splices left off',
  'single-pole for a three-way',
] as const;
export type FaultKind = (typeof FAULT_KINDS)[number];

/** Changes that do nothing: they are not to be reported. */
export const EQUIVALENCES = [
  'travelers swapped at one end',
  'pairs of a four-way swapped',
  'a pair of a four-way turned over',
] as const satisfies readonly HarmlessSlip[];
export type Equivalence = (typeof EQUIVALENCES)[number];

/** One fault at one place, ready to be put in. */
export interface Fault {
  readonly kind: FaultKind | Equivalence;
  readonly boxId: string;
  readonly harmless: boolean;
  readonly into: (joints: JointsByBox) => JointsByBox;
}

/** Takes in a fault of a box that is found possible. */
export type AddFault = (kind: Fault['kind'], edit: Edit, harmless?: boolean) => void;
