import type { NetLever, Netlist } from './netlist.js';

/**
 * The parts of a netlist that do not touch each other: cut at the nets tied to the panel, what hangs together through
 * conductors, levers and loads is one part. Each behaves the same whatever the levers of the others do.
 */
export function partsOf(netlist: Netlist): Netlist[] {
  const tied = new Set(netlist.sources.map(({ joint }) => netlist.joints[joint]!.net));
  const up = Array.from({ length: netlist.nets }, (_, net) => net);
  const find = (at: number): number => {
    while (up[at] !== at) at = up[at] = up[up[at]!]!;
    return at;
  };
  const net = (joint: number): number => netlist.joints[joint]!.net;
  // What a feed-through device passes on is tied to the panel too.
  for (let more = true; more;) {
    more = false;
    for (const [a, b] of netlist.through) {
      if (tied.has(net(a)) === tied.has(net(b))) continue;
      tied.add(net(a)).add(net(b));
      more = true;
    }
  }
  const joinAll = (nets: readonly number[]): void => {
    const free = nets.filter((one) => !tied.has(one));
    for (const other of free.slice(1)) up[find(free[0]!)] = find(other);
  };
  const netsOfLever = ({ down, up: contacts }: NetLever): number[] => [...down, ...contacts].flat().map(net);
  const netsOfLoad = (load: Netlist['loads'][number]): number[] =>
    [load.hot, load.back].flatMap((joint) => (joint === undefined ? [] : [net(joint)]));
  for (const lever of netlist.levers) joinAll(netsOfLever(lever));
  for (const load of netlist.loads) joinAll(netsOfLoad(load));
  for (const [a, b] of netlist.through) joinAll([net(a), net(b)]);
  const parts = new Map<string, { levers: NetLever[]; loads: Netlist['loads'][number][] }>();
  const partOf = (nets: readonly number[], alone: string) => {
    const free = nets.find((one) => !tied.has(one));
    const key = free === undefined ? alone : `net ${find(free)}`;
    let part = parts.get(key);
    if (!part) parts.set(key, (part = { levers: [], loads: [] }));
    return part;
  };
  for (const lever of netlist.levers) partOf(netsOfLever(lever), `lever ${lever.pointId}`).levers.push(lever);
  for (const load of netlist.loads) partOf(netsOfLoad(load), 'always on').loads.push(load);
  return [...parts.values()].map(({ levers, loads }) => ({ ...netlist, levers, loads }));
}
