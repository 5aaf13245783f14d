import { supplyOf } from '../../facts/circuit-facts.js';
import type { HouseReader } from '../../derive/reader.js';
import { netlistOf } from './build-netlist.js';
import type { BoxJoint } from '../joints/box-joint.js';
import { isPanelTerminal } from '../circuit/panel-terminals.js';

/** The whole way of a conductor through the house: everything it is joined to without a switch or a load between. */
export interface Trace {
  /** `<run> <conductor>` of every conductor on the way. */
  readonly conductors: ReadonlySet<string>;
  /** Joints on the way, box by box outward from the panel or from where the way begins. */
  readonly stops: readonly { readonly boxId: string; readonly joint: BoxJoint }[];
}

/** Follows a conductor both ways. Empty when its circuit cannot be told. */
export function traceConductor(reader: HouseReader, runId: string, key: string): Trace {
  const run = reader.get('runs', runId);
  for (const circuitId of run?.circuitIds ?? []) {
    if (!supplyOf(reader, circuitId)) continue;
    const { conductors, joints, tabs } = netlistOf(reader, circuitId);
    const own = conductors.find((conductor) => conductor.runId === runId && conductor.key === key);
    if (!own) continue;
    const { net } = joints[own.from]!;
    const along = conductors.filter(({ from }) => joints[from]!.net === net);
    const neighbours = new Map<number, number[]>();
    const joined = tabs.filter(([a]) => joints[a]!.net === net).map(([from, to]) => ({ from, to }));
    for (const { from, to } of [...along, ...joined]) {
      neighbours.set(from, [...(neighbours.get(from) ?? []), to]);
      neighbours.set(to, [...(neighbours.get(to) ?? []), from]);
    }
    const isPanel = (index: number): boolean => joints[index]!.joint.landings.some(isPanelTerminal);
    const members = [...neighbours.keys()];
    const start =
      members.find(isPanel) ?? members.find((index) => neighbours.get(index)!.length === 1) ?? members[0]!;
    const order = [start];
    const seen = new Set(order);
    for (let next = 0; next < order.length; next++) {
      for (const other of neighbours.get(order[next]!) ?? []) {
        if (seen.has(other)) continue;
        seen.add(other);
        order.push(other);
      }
    }
    return {
      conductors: new Set(along.map((conductor) => `${conductor.runId} ${conductor.key}`)),
      stops: order.map((index) => ({ boxId: joints[index]!.boxId, joint: joints[index]!.joint })),
    };
  }
  return { conductors: new Set(), stops: [] };
}
