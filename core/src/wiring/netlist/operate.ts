import type { Landing } from '../../vocabulary/terminal.js';
import type { ShortFacts } from '../../findings/facts.js';
import { eliminate } from '../../structures/eliminate.js';
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
  readonly short: ShortFacts;
}

const HOT_TO_GROUND: ShortFacts = { kind: 'hot-to-ground' };
const isHot = (volts: number): boolean => volts > 0 || volts < 0;
const shortOf = (source: Landing | undefined, one: number, other: number): ShortFacts => ({
  kind: 'voltages',
  source,
  other: one === 0 || other === 0 ? 'neutral' : 'leg',
});

/** What no lever touches, settled once for a netlist and for all of its parts. */
export class Settled {
  /** Each net as part of what a feed-through device joins for good. */
  readonly part: Int32Array;
  /** Voltage that each of these is tied to; NaN for none. */
  readonly fixed: Float64Array;
  /** Whether it has a ground in it. */
  readonly grounded: Uint8Array;
  /** What is shorted whatever the levers do. */
  readonly shorts: readonly Short[];

  constructor(readonly netlist: Netlist) {
    const { joints, nets } = netlist;
    const part = new Int32Array(nets);
    for (let net = 0; net < nets; net++) part[net] = net;
    if (netlist.through.length) {
      for (const [a, b] of netlist.through) part[topOf(part, joints[a]!.net)] = topOf(part, joints[b]!.net);
      for (let net = 0; net < nets; net++) part[net] = topOf(part, net);
    }
    const fixed = new Float64Array(nets).fill(Number.NaN);
    const grounded = new Uint8Array(nets);
    const shorts: Short[] = [];
    for (const { joint, volts, landing } of netlist.sources) {
      const top = part[joints[joint]!.net]!;
      if (Number.isNaN(fixed[top]!)) fixed[top] = volts;
      else if (fixed[top] !== volts) shorts.push({ joint, short: shortOf(landing, fixed[top]!, volts) });
    }
    for (const joint of netlist.ground) {
      const top = part[joints[joint]!.net]!;
      grounded[top] = 1;
      if (isHot(fixed[top]!)) shorts.push({ joint, short: HOT_TO_GROUND });
    }
    this.part = part;
    this.fixed = fixed;
    this.grounded = grounded;
    this.shorts = shorts;
  }

  /** The part that the net of a joint belongs to. */
  at(joint: number): number {
    return this.part[this.netlist.joints[joint]!.net]!;
  }
}

/** Not `Union`: what the levers join is taken apart again at every position, so that no path may be shortened. */
const topOf = (up: Int32Array, net: number): number => {
  let at = net;
  while (up[at] !== at) at = up[at]!;
  return at;
};

/**
 * A netlist, or a part of one, made ready for being operated many times: flat numbers instead of records. A position costs
 * what its levers and loads cost.
 */
export class Machine {
  /** Union of nets, as the levers stand. */
  private readonly up: Int32Array;
  /** Voltage that a class is tied to; NaN for none. */
  private readonly fixed: Float64Array;
  private readonly grounded: Uint8Array;
  /** Voltages of what hangs on loads only, where there is any. */
  private solved: Float64Array | undefined;
  /** Contacts of each lever, two nets each: when it is down, and when it is up. */
  private readonly down: Int32Array[] = [];
  private readonly raised: Int32Array[] = [];
  /** Nets at contacts: only these change with the levers. */
  private readonly touched: Int32Array;
  private readonly loadNets: Int32Array;

  /** `settled` of a netlist that this one is a part of holds here too. */
  constructor(
    readonly netlist: Netlist,
    private readonly settled = new Settled(netlist),
  ) {
    this.up = settled.part.slice();
    this.fixed = settled.fixed.slice();
    this.grounded = settled.grounded.slice();
    const touched: number[] = [];
    const netsOf = (contacts: readonly (readonly [number, number])[]): Int32Array => {
      const nets = new Int32Array(2 * contacts.length);
      for (let at = 0; at < nets.length; at++) {
        nets[at] = settled.at(contacts[at >> 1]![at & 1]!);
        if (!touched.includes(nets[at]!)) touched.push(nets[at]!);
      }
      return nets;
    };
    for (const { down, up } of netlist.levers) {
      this.down.push(netsOf(down));
      this.raised.push(netsOf(up));
    }
    this.touched = Int32Array.from(touched);
    const { loads } = netlist;
    this.loadNets = new Int32Array(2 * loads.length).fill(-1);
    for (let index = 0; index < loads.length; index++) {
      const { hot, back } = loads[index]!;
      if (hot !== undefined) this.loadNets[2 * index] = settled.at(hot);
      if (back !== undefined) this.loadNets[2 * index + 1] = settled.at(back);
    }
  }

  /** Whether a joint is tied to this voltage in the last position that was operated. */
  isAt(joint: number | undefined, volts: number): boolean {
    return joint !== undefined && this.fixed[this.topOf(this.netlist.joints[joint]!.net)] === volts;
  }

  /** Whether a joint is tied to a hot of the panel in the last position that was operated. */
  isHot(joint: number): boolean {
    return isHot(this.fixed[this.topOf(this.netlist.joints[joint]!.net)]!);
  }

  private topOf(net: number): number {
    return this.find(this.settled.part[net]!);
  }

  private find(net: number): number {
    return topOf(this.up, net);
  }

  /**
   * Joins what the levers join; `levers` has 1 for each lever of the netlist that is up. Afterwards `fixed` has the voltage
   * of every class, NaN where none is given. Adds to `shorts` where two voltages meet.
   */
  private settle(levers: Uint8Array, shorts: Short[] | undefined): boolean {
    const { up, fixed, grounded, settled } = this;
    for (const net of this.touched) {
      up[net] = net;
      fixed[net] = settled.fixed[net]!;
      grounded[net] = settled.grounded[net]!;
    }
    shorts?.push(...settled.shorts);
    let sound = settled.shorts.length === 0;
    for (let lever = 0; lever < this.down.length; lever++) {
      const pairs = levers[lever] ? this.raised[lever]! : this.down[lever]!;
      for (let at = 0; at < pairs.length; at += 2) {
        const a = topOf(up, pairs[at]!);
        const b = topOf(up, pairs[at + 1]!);
        if (a === b) continue;
        const va = fixed[a]!;
        const vb = fixed[b]!;
        up[a] = b;
        if (Number.isNaN(vb)) fixed[b] = va;
        else if (!Number.isNaN(va) && va !== vb) {
          sound = false;
          shorts?.push({ joint: this.jointAt(lever), short: shortOf(undefined, va, vb) });
        }
        if (grounded[a]) grounded[b] = 1;
        if (grounded[b] && isHot(fixed[b]!)) {
          sound = false;
          shorts?.push({ joint: this.jointAt(lever), short: HOT_TO_GROUND });
        }
      }
    }
    this.solved = undefined;
    return sound;
  }

  /** A joint at a lever. */
  private jointAt(lever: number): number {
    const { down, up } = this.netlist.levers[lever]!;
    return (up[0] ?? down[0])![0];
  }

  private voltsAt(net: number): number {
    const top = this.find(net);
    return this.solved ? this.solved[top]! : this.fixed[top]!;
  }

  /** Voltage across each load, into `into`. False when something is shorted (the voltages say nothing then). */
  loadVolts(levers: Uint8Array, into: Float64Array): boolean {
    const sound = this.settle(levers, undefined);
    this.solveFloating();
    const { loadNets } = this;
    for (let index = 0; index < into.length; index++) {
      const a = loadNets[2 * index]!;
      const b = loadNets[2 * index + 1]!;
      const across = a === -1 || b === -1 ? 0 : this.voltsAt(a) - this.voltsAt(b);
      into[index] = Number.isNaN(across) ? 0 : across;
    }
    return sound;
  }

  /** Classes that hang on loads only: their voltages from the currents, by elimination (few and seldom). */
  private solveFloating(): void {
    const { netlist, fixed, loadNets } = this;
    let floating = false;
    for (const net of loadNets) if (net !== -1 && Number.isNaN(fixed[this.find(net)]!)) floating = true;
    if (!floating) return;
    const unknown = new Map<number, number>();
    for (const net of loadNets) {
      if (net === -1) continue;
      const top = this.find(net);
      if (Number.isNaN(fixed[top]!) && !unknown.has(top)) unknown.set(top, unknown.size);
    }
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
    const solved = fixed.slice();
    const solution = eliminate(rows, size);
    for (const [top, index] of unknown) solved[top] = solution[index]!;
    this.solved = solved;
  }

  /** Everything there is to say about one position of the levers. */
  operate(levers: Uint8Array): Operated {
    const shorts: Short[] = [];
    this.settle(levers, shorts);
    const hot = new Set<number>();
    for (let net = 0; net < this.netlist.nets; net++) {
      const volts = this.fixed[this.topOf(net)]!;
      if (!Number.isNaN(volts) && volts !== 0) hot.add(net);
    }
    this.solveFloating();
    const volts = Array.from({ length: this.netlist.nets }, (_, net) => {
      const value = this.voltsAt(this.settled.part[net]!);
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

/** 1 for each lever of the netlist that is up. */
export const positionsOf = (netlist: Netlist, up: LeversUp): Uint8Array =>
  Uint8Array.from(netlist.levers, ({ pointId }) => (up.has(pointId) ? 1 : 0));

/** Operates a netlist once: any positions of the levers. */
export function operate(netlist: Netlist, up: LeversUp): Operated {
  return new Machine(netlist).operate(positionsOf(netlist, up));
}
