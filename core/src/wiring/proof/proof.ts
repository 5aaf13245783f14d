import type { HouseReader } from '../../derive/reader.js';
import { boxName, runName } from '../../facts/naming.js';
import type { NetLoad, Netlist } from '../netlist/netlist.js';

export type ProofCode =
  | 'proof.does-not-follow'
  | 'proof.always-on-is-not'
  | 'proof.short'
  | 'proof.series'
  | 'proof.switched-neutral'
  | 'proof.neutral-broken'
  | 'proof.circuits-joined'
  | 'proof.unbalanced'
  | 'proof.no-ground'
  | 'proof.other-breaker'
  | 'proof.neutral-grounded'
  | 'proof.neutral-on-bar'
  | 'proof.load-on-line'
  | 'proof.interconnect'
  | 'proof.feeder'
  | 'proof.spare-joined'
  | 'proof.white-unmarked'
  | 'proof.off-position';

/** A property that does not hold, with the smallest counterexample. */
export interface ProofFailure {
  readonly code: ProofCode;
  readonly message: string;
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

export interface ConductorRef {
  readonly runId: string;
  readonly key: string;
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

/** How a proof names things; only worked out where something fails. */
export interface Names {
  readonly load: (load: NetLoad) => string;
  readonly control: (id: string) => string;
  readonly box: (id: string) => string;
}

export function namesOf(reader: HouseReader): Names {
  return {
    load: ({ pointId, boxId, role }) =>
      role === 'electronics'
        ? `the inside of the switch in ${boxName(reader, boxId)}`
        : `${reader.get('points', pointId)?.name ?? role} in ${boxName(reader, boxId)}`,
    control: (id) => `“${reader.get('controls', id)?.name ?? 'a control'}”`,
    box: (id) => boxName(reader, id),
  };
}

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

/** "RD of S13 → S14" */
export function conductorName(reader: HouseReader, { runId, key }: ConductorRef): string {
  const run = reader.get('runs', runId);
  return run ? `${key} of ${runName(reader, run)}` : key;
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
