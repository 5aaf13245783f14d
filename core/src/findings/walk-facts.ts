/** What tells cables apart where they enter a box, before anything is made up: those that carry power on, and all others. */
export type CableRole = 'power' | 'leg';
export const CABLE_ROLES: readonly CableRole[] = ['power', 'leg'];

/** Cables that enter a box, by role. */
export type CableCount = Readonly<Record<CableRole, number>>;
/** What was counted; of a role that nobody has counted nothing is known. */
export type SeenCount = Readonly<Partial<Record<CableRole, number | undefined>>>;
export const NO_CABLES: CableCount = { power: 0, leg: 0 };

/** One thing that is otherwise than planned, as it shows in what enters the boxes. Boxes and runs by their ids. */
export type WalkFault =
  /** A run that was not pulled. */
  | { readonly kind: 'missing'; readonly runId: string }
  /** A cable that is not planned. */
  | { readonly kind: 'extra'; readonly role: CableRole; readonly boxIds: readonly [string, string] }
  /** A run that was to end in one box and ends in another. */
  | { readonly kind: 'misrouted'; readonly runId: string; readonly left: string; readonly got: string }
  /** A run with the cable of the other role. */
  | { readonly kind: 'other-role'; readonly runId: string }
  /** A run one end of which has not come in: it hangs somewhere else. */
  | { readonly kind: 'not-in'; readonly runId: string; readonly boxId: string }
  /** A cable that comes in, and whose other end is in no box. */
  | { readonly kind: 'stray'; readonly role: CableRole; readonly boxId: string };

/** What would tell apart what counting cannot. */
export type Settling =
  /** Trace the cables of this box: the one of these ends that does not come is the one. */
  | { readonly kind: 'trace'; readonly boxId: string; readonly ends: readonly string[] }
  /** Trace the cables of this box: these ends are planned, and the one that leads elsewhere is the one. */
  | { readonly kind: 'odd'; readonly boxId: string; readonly ends: readonly string[] }
  /** Look in this box which of these runs, which go the same way, is there. */
  | { readonly kind: 'look'; readonly boxId: string; readonly runIds: readonly string[] }
  /** Count what enters this box too. */
  | { readonly kind: 'count'; readonly boxId: string };

/** A fault as the trade calls it. */
export interface WalkTold {
  readonly fault: WalkFault;
  /** What a run that is missing is, or what an extra cable makes: it closes a loop, or joins two circuits. */
  readonly as: 'home-run' | 'jumper' | 'leg' | 'loop' | 'crossed' | 'extra';
  /** The log has it in. */
  readonly isLogged: boolean;
}
