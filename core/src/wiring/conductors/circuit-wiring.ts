import type { Finding } from '../../findings/finding.js';
import type { CableId } from '../../rulebook/cables.js';
import type { CircuitTree } from '../circuit/circuit-tree.js';
import type { Carried, Signal, SignalLanding } from '../../vocabulary/signal.js';
import type { LeverPlace } from '../circuit/device-models.js';

/** What one run of a circuit has to carry and which conductor does it. */
export interface RunWiring {
  readonly needs: readonly Signal[];
  /** By conductor key; empty while the run has no cable. */
  readonly carries: ReadonlyMap<string, Carried>;
  readonly missing: readonly Signal[];
  /** The cable this run needs by breaker and conductors; undefined where that cannot be derived. */
  readonly needed?: CableId | undefined;
  /** It carries power on, and is pulled before what only carries switched conductors. */
  readonly power: boolean;
  /** What runs in it cannot be derived. */
  readonly open: boolean;
}

/** The wiring of a circuit, or of the circuits that share its neutral. */
export interface CircuitWiring {
  readonly circuitIds: readonly string[];
  readonly tree: CircuitTree;
  readonly runs: ReadonlyMap<string, RunWiring>;
  /** Where signals land, by box. */
  readonly terminals: ReadonlyMap<string, readonly SignalLanding[]>;
  /** Where each lever stands in the electrical order of its control, by point. */
  readonly levers: ReadonlyMap<string, LeverPlace>;
  /** Devices of which at least one point could not be wired. */
  readonly openDevices: ReadonlySet<string>;
  readonly findings: readonly Finding[];
}
