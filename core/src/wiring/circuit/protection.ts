import { supplyOf } from '../../facts/circuit-facts.js';
import type { HouseReader } from '../../derive/reader.js';
import { deviceType } from '../../facts/box-facts.js';
import type { CircuitTree } from './circuit-tree.js';
import { wayUp } from './circuit-tree.js';
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

/**
 * Feeds what lies beyond a feed-through GFCI receptacle from its LOAD side, when the house goes by that school: everything
 * downstream of its box, except where a control has points on both sides, and where circuits that share a neutral go on
 * together: a LOAD neutral cannot be shared. Beyond their split each is a circuit of its own.
 */
export function protectionOf(
  reader: HouseReader,
  tree: CircuitTree,
  points: readonly ReachedPoint[],
  controls: CircuitControls,
): Protection {
  const used = new Map<string, string>();
  const domain = new Map<string, string>();
  const devices = new Map<string, ReachedPoint>();
  if (reader.rules().text('wiring.gfciOnward') === 'load') {
    for (const reached of points)
      if (deviceType(reader, reached.device).feedThrough && !controls.ofPoint.has(reached.point.id))
        devices.set(reached.device.id, reached);
    for (const id of [...devices.keys()])
      if (sidesOf(reader, reader.get('devices', id)!).circuitIds.length > 1) devices.delete(id);
  }
  const passed: { deviceId: string; why: LostProtection['why']; beyond: ReadonlySet<string> }[] = [];
  if (devices.size) {
    const children = new Map<string, string[]>();
    for (const [child, { from }] of tree.feed) children.set(from, [...(children.get(from) ?? []), child]);
    const nodeOf = new Map(points.map(({ point, node }) => [point.id, node]));
    const groups = [...controls.wired, ...controls.open.map(({ control }) => control)].map((control) =>
      [...control.places, ...control.loads].flatMap((id) => nodeOf.get(id) ?? []),
    );
    const first = new Map<string, ReachedPoint>();
    for (const reached of devices.values()) if (!first.has(reached.node)) first.set(reached.node, reached);
    for (const node of tree.nodes) {
      const inherited = tree.feed.has(node) ? domain.get(node) : undefined;
      const reached = first.get(node);
      for (const child of children.get(node) ?? []) {
        let own = inherited;
        if (reached) {
          const deviceId = reached.device.id;
          const beyond = new Set(tree.nodes.filter((other) => wayUp(tree, other).includes(child)));
          const across = groups.some(
            (nodes) => nodes.some((at) => beyond.has(at)) && !nodes.every((at) => beyond.has(at)),
          );
          const isShared = points.some((one) => beyond.has(one.node) && one.circuitId !== reached.circuitId);
          if (across || isShared)
            passed.push({ deviceId, why: across ? 'control' : 'shared neutral', beyond });
          else {
            own = deviceId;
            used.set(deviceId, node);
          }
        }
        if (own) domain.set(child, own);
      }
    }
  }
  const isOpen = ({ point, device, node, circuitId }: ReachedPoint): boolean =>
    point.role === 'receptacle' &&
    !domain.has(node) &&
    !deviceType(reader, device).feedThrough &&
    !['gfci', 'dual'].includes(supplyOf(reader, circuitId)!.protection);
  const lost = passed.map(({ deviceId, why, beyond }): LostProtection => ({
    deviceId,
    why,
    lost: points.filter((one) => beyond.has(one.node) && isOpen(one)),
  }));
  return {
    used,
    lost: lost.filter(
      ({ deviceId, why }, at) =>
        lost.findIndex((one) => one.deviceId === deviceId && one.why === why) === at ||
        lost[at]!.lost.length > 0,
    ),
    hot: (node, circuitId): Signal => {
      const device = domain.get(node);
      return device ? protectedHotOf(device) : hotOf(circuitId);
    },
    neutral: (node): Signal => {
      const device = domain.get(node);
      return device ? protectedNeutralOf(device) : 'neutral';
    },
  };
}
