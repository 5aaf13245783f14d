import { Union } from '../../structures/union.js';
import type { NetLever, NetLoad, Netlist } from './netlist.js';

/**
 * The parts of a netlist that do not touch each other: cut at the nets tied to the panel, what hangs together through
 * conductors, levers and loads is one part. Each behaves the same whatever the levers of the others do.
 */
export function partsOf(netlist: Netlist): Netlist[] {
  const { joints, nets, through, sources } = netlist;
  const net = (joint: number): number => joints[joint]!.net;
  const tied = new Uint8Array(nets);
  for (const { joint } of sources) tied[net(joint)] = 1;
  // What a feed-through device passes on is tied to the panel too.
  for (let more = true; more;) {
    more = false;
    for (const [a, b] of through) {
      if (tied[net(a)] === tied[net(b)]) continue;
      tied[net(a)] = tied[net(b)] = 1;
      more = true;
    }
  }
  const union = new Union(nets);
  /** Joins the net of a joint with what was met before, unless it is tied; gives what was met. */
  const meet = (met: number, joint: number | undefined): number => {
    if (joint === undefined || tied[net(joint)]) return met;
    if (met >= 0) union.join(net(joint), met);
    return net(joint);
  };
  const meetAll = (met: number, contacts: NetLever['up']): number => {
    let last = met;
    for (const [a, b] of contacts) last = meet(meet(last, a), b);
    return last;
  };
  const ofLever = netlist.levers.map((lever) => meetAll(meetAll(-1, lever.down), lever.up));
  const ofLoad = netlist.loads.map(({ hot, back }) => meet(meet(-1, hot), back));
  for (const pair of through) meetAll(-1, [pair]);
  const parts = new Map<number, { levers: NetLever[]; loads: NetLoad[] }>();
  const partAt = (at: number): { levers: NetLever[]; loads: NetLoad[] } => {
    let part = parts.get(at);
    if (!part) parts.set(at, (part = { levers: [], loads: [] }));
    return part;
  };
  // Loads between what is tied are one part; a lever between what is tied is one by itself.
  netlist.levers.forEach((lever, index) =>
    partAt(ofLever[index]! < 0 ? -2 - index : union.find(ofLever[index]!)).levers.push(lever),
  );
  netlist.loads.forEach((load, index) =>
    partAt(ofLoad[index]! < 0 ? -1 : union.find(ofLoad[index]!)).loads.push(load),
  );
  return [...parts.values()].map(({ levers, loads }) => ({ ...netlist, levers, loads }));
}
