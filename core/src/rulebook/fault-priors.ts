/**
 * How often a fault is the cause, against the others, and what finding out takes. Common practice: the usual causes first (a breaker
 * that is just off; a bare ground on a neutral; a splice of the last box made up; travelers and common mixed; a neutral forgotten in a
 * multi-gang box; then staple or nail; then a bad device). No published counts are known to us.
 */
export const FAULT_PRIORS = {
  /** A box that was recorded as made otherwise than asked for, where there is one. */
  'as recorded': 20,
  'breaker off': 12,
  'bare ground on a terminal': 6,
  'neutral joined to ground': 6,
  'neutral on the bar': 5,
  'GFCI fed on LOAD': 5,
  'LOAD joined to LINE': 3,
  'missed jumper': 5,
  'missed neutral splice': 5,
  'ring open': 5,
  'traveler on common': 5,
  'four-way pairs mixed': 4,
  'single-pole for a three-way': 2,
  'link of two splices left off': 3,
  'neutrals of two circuits joined': 3,
  'borrowed neutral': 3,
  'tab not broken': 3,
  'halves swapped': 2,
  'series lights': 2,
  'switched neutral': 2,
  'load on another breaker': 1,
  'neutral on another breaker': 1,
  'hot on another breaker': 1,
  'hot and neutral by different ways': 1,
  'interconnect open': 2,
  'interconnect on a hot': 1,
  'white not marked': 2,
  'ground missing': 2,
  'metal box unbonded': 1,
  'conductor cut in the wall': 2,
  'conductors shorted in the wall': 2,
  'dead device': 1.5,
} as const;

/** What can be the cause: the faults of the table, what was recorded as made otherwise, and what nobody made wrong. */
export type CauseKind = keyof typeof FAULT_PRIORS;

/** What finding out takes, in minutes: common practice. */
export const FINDING_MINUTES = {
  /** One lever thrown. */
  flip: 0.1,
  /** One look at a light, or at what is plugged in. */
  look: 0.05,
  /** Looking at a breaker and setting it anew. */
  breaker: 0.3,
  /** Taking the cover off a panel and looking at what lands where. */
  panel: 2,
  /** A lamp or device tried with another one. */
  swap: 2,
  /** Opening a box and looking through its joints. */
  open: 5,
  /** Taking one cable loose in a box that is open, and trying the breaker. */
  part: 1,
  /** A meter between two conductors in a box that is open, its breaker on again for it. */
  meter: 1,
  /** Finding where in a wall a run was hit, by ringing it from both ends. */
  wall: 12,
} as const;
