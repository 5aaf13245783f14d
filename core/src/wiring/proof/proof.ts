import type { ConductorRef, FindingFacts, LoadFacts, ProofCode } from '../../findings/facts.js';
import type { NetLoad, Netlist } from '../netlist/netlist.js';

/** A property that does not hold, with the smallest counterexample. */
export type ProofFailure = { [C in ProofCode]: ProofFailureOf<C> }[ProofCode];
export interface ProofFailureOf<C extends ProofCode> {
  readonly code: C;
  readonly facts: FindingFacts[C];
  /** Levers that are up, the others down, in the position that shows it; undefined where no position matters. */
  readonly up?: readonly string[];
  readonly boxId?: string;
  readonly deviceId?: string;
  readonly pointId?: string;
  readonly controlId?: string;
  readonly runId?: string;
  /** The conductor to look at. */
  readonly conductor?: ConductorRef;
}

export interface Proof {
  readonly circuitIds: readonly string[];
  /** What hangs together through switches and loads, each operated by itself. */
  readonly parts: number;
  /** Lever positions that were operated. */
  readonly positions: number;
  /** Some part had too many levers to try all: controls in full, and fixed samples. */
  readonly sampled: boolean;
  readonly failures: readonly ProofFailure[];
  /** What depends on the inside of the devices: said, never a failure. */
  readonly advice: readonly ProofFailure[];
  readonly holds: boolean;
}

/** A load as a failure tells of it. */
export const loadFacts = ({ pointId, boxId, role }: NetLoad): LoadFacts => ({ pointId, boxId, role });

/** A conductor at a joint, or else one that the joint is joined with; nothing when it hangs on terminals only. */
export function conductorAt(netlist: Netlist, joint: number | undefined): { conductor?: ConductorRef } {
  if (joint === undefined) return {};
  const { joint: own, net } = netlist.joints[joint]!;
  const found =
    own.ends.find((end) => !end.ground) ??
    own.ends[0] ??
    netlist.conductors.find(({ from }) => netlist.joints[from]!.net === net);
  return found ? { conductor: { runId: found.runId, key: found.key } } : {};
}

/** Each failure once, with the first and so the smallest position that shows it. */
export class Failures {
  private readonly seen = new Map<string, ProofFailure>();
  add(failure: ProofFailure): void {
    const key = `${failure.code} ${failure.boxId} ${failure.deviceId} ${failure.pointId} ${failure.runId} ${failure.controlId}`;
    if (!this.seen.has(key)) this.seen.set(key, failure);
  }
  has(code: ProofCode, pointId: string): boolean {
    return [...this.seen.values()].some((failure) => failure.code === code && failure.pointId === pointId);
  }
  all(): ProofFailure[] {
    return [...this.seen.values()];
  }
}
