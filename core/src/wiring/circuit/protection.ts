import { supplyOf } from '../../facts/circuit-facts.js';
import type { HouseReader } from '../../derive/reader.js';
import { deviceType } from '../../facts/box-facts.js';
import type { CircuitTree } from './circuit-tree.js';
import { numbersOf } from './circuit-tree.js';
import type { NumberedTree } from './numbered-tree.js';
import { sidesOf } from './device-sides.js';
import type { CircuitControls, ReachedPoint } from './controls.js';
import type { Signal } from '../../vocabulary/signal.js';
import { hotOf, protectedHotOf, protectedNeutralOf } from '../../vocabulary/signal.js';
import type { Supply } from './terminals.js';

/** A feed-through device that does not protect what lies beyond it, and the receptacles that go without because of it. */
export interface LostProtection {
  readonly deviceId: string;
  readonly why: 'control' | 'shared neutral';
  readonly lost: readonly ReachedPoint[];
}

/** Which feed-through GFCI device protects what lies beyond it. */
export interface Protection extends Supply {
  /** Devices whose LOAD side is used, with the node they stand at. */
  readonly used: ReadonlyMap<string, string>;
  /** Devices whose LOAD side cannot be used: a control reaches across them, or circuits share the neutral beyond. */
  readonly lost: readonly LostProtection[];
}

/** Feed-through devices of a circuit that may protect what lies beyond them, by numbers of nodes. */
export interface Protective {
  readonly devices: readonly {
    readonly deviceId: string;
    readonly node: number;
    readonly circuitId: string;
  }[];
  /** The nodes of each control. */
  readonly groups: readonly (readonly number[])[];
  readonly points: readonly { readonly node: number; readonly circuitId: string }[];
}

/** What each of them protects on a tree. */
export interface Domains {
  /** By node: the device from whose LOAD side it is fed. */
  readonly domain: readonly (string | undefined)[];
  /** Devices whose LOAD side is used, with their nodes. */
  readonly used: ReadonlyMap<string, number>;
  /** Devices that do not protect what lies beyond them on a branch: 1 for each of its nodes. */
  readonly passed: readonly {
    readonly deviceId: string;
    readonly why: LostProtection['why'];
    readonly beyond: Uint8Array;
  }[];
}

const NO_DOMAINS: Domains = { domain: [], used: new Map(), passed: [] };

/**
 * Feeds what lies beyond a feed-through GFCI receptacle from its LOAD side: everything downstream of its box, except where a
 * control has points on both sides, and where circuits that share a neutral go on together: a LOAD neutral cannot be shared.
 * Beyond their split each is a circuit of its own.
 */
export function protect({ devices, groups, points }: Protective, tree: NumberedTree): Domains {
  if (devices.length === 0) return NO_DOMAINS;
  const domain: (string | undefined)[] = [];
  const used = new Map<string, number>();
  const passed: Domains['passed'][number][] = [];
  const first = new Map<number, Protective['devices'][number]>();
  for (const device of devices) if (!first.has(device.node)) first.set(device.node, device);
  for (const child of tree.order) {
    if (child === 0) continue;
    const node = tree.parent[child]!;
    let own = domain[node];
    const device = first.get(node);
    if (device) {
      const beyond = tree.beyond(child);
      const across = groups.some(
        (nodes) => nodes.some((at) => beyond[at]) && !nodes.every((at) => beyond[at]),
      );
      const isShared = points.some((one) => beyond[one.node] && one.circuitId !== device.circuitId);
      if (across || isShared)
        passed.push({ deviceId: device.deviceId, why: across ? 'control' : 'shared neutral', beyond });
      else {
        own = device.deviceId;
        used.set(own, node);
      }
    }
    if (own) domain[child] = own;
  }
  return { domain, used, passed };
}

/** What may protect something on this circuit, when the house goes by that school. */
export function protectiveOf(
  reader: HouseReader,
  numbers: ReadonlyMap<string, number>,
  points: readonly ReachedPoint[],
  controls: CircuitControls,
): Protective {
  const devices = new Map<string, ReachedPoint>();
  const rules = reader.rules();
  if (rules.has('wiring.gfciOnward') && rules.text('wiring.gfciOnward') === 'load') {
    for (const reached of points)
      if (deviceType(reader, reached.device).feedThrough && !controls.ofPoint.has(reached.point.id))
        devices.set(reached.device.id, reached);
    for (const id of [...devices.keys()])
      if (sidesOf(reader, reader.get('devices', id)!).circuitIds.length > 1) devices.delete(id);
  }
  if (devices.size === 0) return { devices: [], groups: [], points: [] };
  const nodeOf = new Map(points.map(({ point, node }) => [point.id, numbers.get(node)!]));
  return {
    devices: [...devices].map(([deviceId, { node, circuitId }]) => ({
      deviceId,
      node: numbers.get(node)!,
      circuitId,
    })),
    groups: [...controls.wired, ...controls.open.map(({ control }) => control)].map((control) =>
      [...control.places, ...control.loads].flatMap((id) => nodeOf.get(id) ?? []),
    ),
    points: points.map(({ node, circuitId }) => ({ node: numbers.get(node)!, circuitId })),
  };
}

/** Whether a receptacle has no protection but what would stand before it. */
export const isUnprotected = (reader: HouseReader, { point, device, circuitId }: ReachedPoint): boolean =>
  point.role === 'receptacle' &&
  !deviceType(reader, device).feedThrough &&
  !['gfci', 'dual'].includes(supplyOf(reader, circuitId)!.protection);

/** Which device protects what, on a tree of which these points are reached. */
export function protectionOf(
  reader: HouseReader,
  tree: CircuitTree,
  points: readonly ReachedPoint[],
  { domain, used, passed }: Domains,
): Protection {
  const { of } = numbersOf(tree);
  const deviceAt = (node: string): string | undefined => domain[of.get(node)!];
  const lost = passed.map(({ deviceId, why, beyond }): LostProtection => ({
    deviceId,
    why,
    lost: points.filter(
      (one) => beyond[of.get(one.node)!] && !deviceAt(one.node) && isUnprotected(reader, one),
    ),
  }));
  return {
    used: new Map([...used].map(([deviceId, node]) => [deviceId, tree.nodes[node]!])),
    lost: lost.filter(
      ({ deviceId, why }, at) =>
        lost.findIndex((one) => one.deviceId === deviceId && one.why === why) === at ||
        lost[at]!.lost.length > 0,
    ),
    hot: (node, circuitId): Signal => hotIn(deviceAt(node), circuitId),
    neutral: (node): Signal => neutralIn(deviceAt(node)),
  };
}

/** The hot of a circuit, and the neutral, where this device protects them. */
export const hotIn = (deviceId: string | undefined, circuitId: string): Signal =>
  deviceId ? protectedHotOf(deviceId) : hotOf(circuitId);
export const neutralIn = (deviceId: string | undefined): Signal =>
  deviceId ? protectedNeutralOf(deviceId) : 'neutral';
