import type { Netlist } from './netlist.js';

/** Lever positions: the points whose lever is up. */
export type LeversUp = ReadonlySet<string>;

export type LoadState = 'on' | 'off' | 'dim' | 'over';

/** What a netlist does with its levers in one position. Voltages against neutral, in volts. */
export interface Operated {
  /** Voltage of every net; undefined for one that hangs on nothing. */
  readonly volts: readonly (number | undefined)[];
  /** Nets joined to a hot of the panel without a load between. */
  readonly hot: ReadonlySet<number>;
  readonly loads: readonly { readonly pointId: string; readonly state: LoadState; readonly volts: number }[];
  readonly shorts: readonly Short[];
}

/** Different voltages joined without a load between, or hot joined with ground. */
export interface Short {
  readonly joint: number;
  readonly what: string;
}

/** A netlist made ready for being operated many times: flat numbers instead of records. */
export class Machine {
  private readonly up: Int32Array;
  /** Voltage that a class is tied to; NaN for none. */
  private readonly fixed: Float64Array;
  /** The same, with the voltages of what hangs on loads only. */
  private readonly solved: Float64Array;
  private readonly pairs: { readonly down: readonly number[]; readonly up: readonly number[] }[];
  private readonly through: readonly number[];
  private readonly loadNets: Int32Array;
  private readonly groundNets: Int32Array;

  constructor(readonly netlist: Netlist) {
    const net = (joint: number): number => netlist.joints[joint]!.net;
    this.up = new Int32Array(netlist.nets);
    this.fixed = new Float64Array(netlist.nets);
    this.solved = new Float64Array(netlist.nets);
    const flat = (pairs: readonly (readonly [number, number])[]): number[] =>
      pairs.flatMap(([a, b]) => [net(a), net(b)]);
    this.pairs = netlist.levers.map(({ down, up }) => ({ down: flat(down), up: flat(up) }));
    this.through = flat(netlist.through);
    this.loadNets = new Int32Array(
      netlist.loads.flatMap(({ hot, back }) => [
        hot === undefined ? -1 : net(hot),
        back === undefined ? -1 : net(back),
      ]),
    );
    this.groundNets = new Int32Array([...new Set([...netlist.ground].map(net))]);
  }

  /** Whether a joint is tied to this voltage in the last position that was operated. */
  isAt(joint: number | undefined, volts: number): boolean {
    return joint !== undefined && this.fixed[this.find(this.netlist.joints[joint]!.net)] === volts;
  }

  private find(at: number): number {
    const { up } = this;
    while (up[at] !== at) {
      up[at] = up[up[at]!]!;
      at = up[at]!;
    }
    return at;
  }

  /**
   * Joins what the levers join; `levers` has 1 for each lever of the netlist that is up. Afterwards `fixed` has the voltage
   * of every class, NaN where none is given. Adds to `shorts` where two voltages meet.
   */
  private settle(levers: Uint8Array, shorts: Short[] | undefined): boolean {
    const { up, fixed, netlist } = this;
    for (let net = 0; net < up.length; net++) {
      up[net] = net;
      fixed[net] = Number.NaN;
    }
    const joinAll = (pairs: readonly number[]): void => {
      for (let at = 0; at < pairs.length; at += 2) {
        const [a, b] = [this.find(pairs[at]!), this.find(pairs[at + 1]!)];
        if (a !== b) up[a] = b;
      }
    };
    joinAll(this.through);
    this.pairs.forEach((pair, index) => joinAll(levers[index] ? pair.up : pair.down));
    let sound = true;
    for (const { joint, volts, name } of netlist.sources) {
      const top = this.find(netlist.joints[joint]!.net);
      const known = fixed[top]!;
      if (Number.isNaN(known)) fixed[top] = volts;
      else if (known !== volts) {
        sound = false;
        shorts?.push({
          joint,
          what: `${name} is joined to ${known === 0 || volts === 0 ? 'neutral' : 'another leg'} without a load between`,
        });
      }
    }
    for (const net of this.groundNets) {
      const top = this.find(net);
      if (!Number.isNaN(fixed[top]!) && fixed[top] !== 0) {
        sound = false;
        shorts?.push({ joint: this.jointOf(net), what: 'hot is joined to ground' });
      }
    }
    return sound;
  }

  private jointOf(net: number): number {
    return this.netlist.joints.findIndex((joint) => joint.net === net);
  }

  /** Voltage across each load, into `into`. False when something is shorted (the voltages say nothing then). */
  loadVolts(levers: Uint8Array, into: Float64Array): boolean {
    const sound = this.settle(levers, undefined);
    this.solveFloating();
    const { loads } = this.netlist;
    for (let index = 0; index < loads.length; index++) {
      const [a, b] = [this.loadNets[2 * index]!, this.loadNets[2 * index + 1]!];
      const [va, vb] = [
        a === -1 ? Number.NaN : this.solved[this.find(a)]!,
        b === -1 ? Number.NaN : this.solved[this.find(b)]!,
      ];
      into[index] = Number.isNaN(va) || Number.isNaN(vb) ? 0 : va - vb;
    }
    return sound;
  }

  /** Classes that hang on loads only: their voltages from the currents, by elimination (few and seldom). */
  private solveFloating(): void {
    const { netlist, fixed, solved, loadNets } = this;
    solved.set(fixed);
    const unknown = new Map<number, number>();
    for (let at = 0; at < loadNets.length; at++) {
      const net = loadNets[at]!;
      if (net === -1) continue;
      const top = this.find(net);
      if (Number.isNaN(fixed[top]!) && !unknown.has(top)) unknown.set(top, unknown.size);
    }
    if (unknown.size === 0) return;
    const size = unknown.size;
    const rows = Array.from({ length: size }, () => new Float64Array(size + 1));
    let coupled = false;
    netlist.loads.forEach(({ ohms }, index) => {
      const [a, b] = [loadNets[2 * index]!, loadNets[2 * index + 1]!];
      if (a === -1 || b === -1) return;
      const [ta, tb] = [this.find(a), this.find(b)];
      if (ta === tb) return;
      for (const [here, there] of [
        [ta, tb],
        [tb, ta],
      ] as const) {
        const row = unknown.get(here);
        if (row === undefined) continue;
        coupled = true;
        rows[row]![row]! += 1 / ohms;
        const column = unknown.get(there);
        if (column === undefined) rows[row]![size]! += fixed[there]! / ohms;
        else rows[row]![column]! -= 1 / ohms;
      }
    });
    if (!coupled) return;
    const solution = eliminate(rows, size);
    for (const [top, index] of unknown) solved[top] = solution[index]!;
  }

  /** Everything there is to say about one position of the levers. */
  operate(levers: Uint8Array): Operated {
    const shorts: Short[] = [];
    this.settle(levers, shorts);
    const hot = new Set<number>();
    for (let net = 0; net < this.netlist.nets; net++) {
      const volts = this.fixed[this.find(net)]!;
      if (!Number.isNaN(volts) && volts !== 0) hot.add(net);
    }
    this.solveFloating();
    const volts = Array.from({ length: this.netlist.nets }, (_, net) => {
      const value = this.solved[this.find(net)]!;
      return Number.isNaN(value) ? undefined : value;
    });
    const across = new Float64Array(this.netlist.loads.length);
    this.loadVolts(levers, across);
    return {
      volts,
      hot,
      shorts,
      loads: this.netlist.loads.map((load, index) => ({
        pointId: load.pointId,
        volts: across[index]!,
        state: stateOf(across[index]!, load.volts),
      })),
    };
  }
}

/** A load is on at its rated voltage, off at none. Between it is dim (in series with others), above it burns out. */
export function stateOf(volts: number, rated: number): LoadState {
  const part = Math.abs(volts) / rated;
  return part < 0.001 ? 'off' : part < 0.99 ? 'dim' : part > 1.01 ? 'over' : 'on';
}

/** Gauss with pivoting; a variable that hangs on nothing is zero. */
function eliminate(rows: Float64Array[], size: number): Float64Array {
  const order = [...rows];
  const pivots: (Float64Array | undefined)[] = [];
  for (let column = 0; column < size; column++) {
    let best = -1;
    for (let row = 0; row < order.length; row++)
      if (best === -1 || Math.abs(order[row]![column]!) > Math.abs(order[best]![column]!)) best = row;
    const pivot = best === -1 ? undefined : order[best];
    if (!pivot || Math.abs(pivot[column]!) < 1e-12) {
      pivots.push(undefined);
      continue;
    }
    order.splice(best, 1);
    for (const row of order) {
      const factor = row[column]! / pivot[column]!;
      if (factor) for (let at = column; at <= size; at++) row[at]! -= factor * pivot[at]!;
    }
    pivots.push(pivot);
  }
  const solution = new Float64Array(size);
  for (let column = size - 1; column >= 0; column--) {
    const pivot = pivots[column];
    if (!pivot) continue;
    let value = pivot[size]!;
    for (let at = column + 1; at < size; at++) value -= pivot[at]! * solution[at]!;
    solution[column] = value / pivot[column]!;
  }
  return solution;
}

/** 1 for each lever of the netlist that is up. */
export const positionsOf = (netlist: Netlist, up: LeversUp): Uint8Array =>
  Uint8Array.from(netlist.levers, ({ pointId }) => (up.has(pointId) ? 1 : 0));

/** Operates a netlist once: any positions of the levers. */
export function operate(netlist: Netlist, up: LeversUp): Operated {
  return new Machine(netlist).operate(positionsOf(netlist, up));
}
