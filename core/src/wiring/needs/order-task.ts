import type { NumberedTree } from '../circuit/numbered-tree.js';

/** A control on the tree: where its places and its loads stand. */
export interface PlacedControl {
  readonly id: string;
  /** Lever points and their nodes, in id order. */
  readonly places: readonly {
    readonly pointId: string;
    readonly node: number;
    /** The hot that it takes when it stands first. */
    readonly hot: string;
  }[];
  readonly loadNodes: readonly number[];
  /** The only order that is allowed, by point id. */
  readonly pinned?: readonly string[];
  /**
   * How many joints made already at a place would have to be made again if it stood between these two (undefined at either
   * end); left out where nothing has been made.
   */
  readonly reopens?: (point: string, before: string | undefined, after: string | undefined) => number;
}

/** What the tree carries whatever the order, and how much each run can carry. */
export interface OrderTask {
  readonly tree: NumberedTree;
  readonly controls: readonly PlacedControl[];
  /** Controls of several places are wired by conversion: see `LeverPlace`. */
  readonly isConverted?: boolean;
  /** Signals that a run carries in any case, by run. */
  readonly base: Int32Array;
  /** Nodes that have an unswitched hot in any case, by hot: those of several circuits are told apart. */
  readonly hotNodes: ReadonlyMap<string, readonly number[]>;
  /** Insulated conductors of a run, by run; infinite where there is no limit. */
  readonly capacity: Float64Array;
  /** Neutrals to be taken along besides, each over one of its ways. A neutral is one conductor, whoever asks for it. */
  readonly neutrals: readonly WantedNeutral[];
  /** What was solved on other trees over the same nodes and controls. */
  readonly kept?: KeptOrders | undefined;
}

/** A control with its orders, or a neutral with its ways. */
export interface Choice {
  readonly id: string;
  readonly control?: PlacedControl;
  readonly candidates: readonly Candidate[];
  readonly isProven: boolean;
  /** Runs that any of the candidates asks something of. */
  readonly runs: ReadonlySet<number>;
  /** What tells it from others of the same control. */
  readonly key: string;
}

/** How many solved parts are let go at once. */
const MOST_KEPT = 20_000;

/**
 * What was solved of the orders on trees over the same nodes with the same controls: a control is solved again only where its own runs,
 * or what they carry besides, are others. Not for controls of which joints are made.
 */
export class KeptOrders {
  private readonly known = new Map<string, unknown>();

  of<T>(key: string, solve: () => T): T {
    let found = this.known.get(key) as T | undefined;
    if (found === undefined) {
      if (this.known.size > MOST_KEPT) this.known.clear();
      this.known.set(key, (found = solve()));
    }
    return found;
  }
}

/** A neutral that is asked for, and the ways on which it can come: runs in which there is none in any case. */
export interface WantedNeutral {
  readonly id: string;
  readonly ways: readonly { readonly id: string; readonly runs: readonly number[] }[];
}

export interface ChosenOrders {
  readonly orders: ReadonlyMap<string, readonly string[]>;
  /** The way of each neutral that is asked for, by its id. */
  readonly ways: ReadonlyMap<string, string>;
  /** Controls of which the order is the best that was found, not proven to be the best there is. */
  readonly unproven: ReadonlySet<string>;
}

/** The cost of a set of orders: less is better, the first difference decides. */
export type OrderCost = readonly [missing: number, reopened: number, conductors: number];

/** Whether the first cost is less. */
export const isCheaper = (a: OrderCost, b: OrderCost): boolean => {
  for (let index = 0; index < a.length; index++) if (a[index] !== b[index]) return a[index]! < b[index]!;
  return false;
};

export interface Candidate {
  /** Points in their order; of a neutral the id of its way. */
  readonly order: readonly string[];
  /** Travelers and leg on each run. */
  readonly adds: Uint8Array;
  /** Runs on the way of its hot to the first place, or of a neutral, that have it not in any case: see `Runs.shared`. */
  readonly shared: readonly number[];
  readonly reopened: number;
}

export const isBefore = (a: readonly string[], b: readonly string[]): boolean => {
  for (let index = 0; index < a.length; index++) if (a[index] !== b[index]) return a[index]! < b[index]!;
  return false;
};
