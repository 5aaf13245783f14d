import type { HouseReader } from '../derive/reader.js';
import { deviceType } from '../house/box-facts.js';
import type { CircuitTree } from './circuit-tree.js';
import { wayUp } from './circuit-tree.js';
import type { CircuitControls, ReachedPoint } from './controls.js';
import type { Signal } from './signal.js';
import { hotOf } from './signal.js';
import type { Supply } from './terminals.js';

/** Which feed-through GFCI device protects what lies beyond it. */
export interface Protection extends Supply {
  /** Devices whose LOAD side is used, with the node they stand at. */
  readonly used: ReadonlyMap<string, string>;
  /** Devices whose LOAD side cannot be used because a control reaches across them. */
  readonly crossed: readonly string[];
}

/**
 * Feeds what lies beyond a feed-through GFCI receptacle from its LOAD side, when the house goes by that school: everything
 * downstream of its box, except where a control has points on both sides. Where circuits share a neutral it is passed by:
 * its LOAD neutral cannot be shared.
 */
export function protectionOf(
  reader: HouseReader,
  circuitIds: readonly string[],
  tree: CircuitTree,
  points: readonly ReachedPoint[],
  controls: CircuitControls,
): Protection {
  const used = new Map<string, string>();
  const crossed: string[] = [];
  const domain = new Map<string, string>();
  const devices = new Map<string, string>();
  if (circuitIds.length === 1 && reader.rules().text('wiring.gfciOnward') === 'from LOAD') {
    for (const { device, node, point } of points)
      if (deviceType(reader, device).feedThrough && !controls.ofPoint.has(point.id))
        devices.set(device.id, node);
  }
  if (devices.size) {
    const children = new Map<string, string[]>();
    for (const [child, { from }] of tree.feed) children.set(from, [...(children.get(from) ?? []), child]);
    const nodeOf = new Map(points.map(({ point, node }) => [point.id, node]));
    const groups = [...controls.wired, ...controls.open.map(({ control }) => control)].map((control) =>
      [...control.places, ...control.loads].flatMap((id) => nodeOf.get(id) ?? []),
    );
    const first = new Map<string, string>();
    for (const [device, node] of devices) if (!first.has(node)) first.set(node, device);
    for (const node of tree.nodes) {
      const inherited = tree.feed.has(node) ? domain.get(node) : undefined;
      const device = first.get(node);
      for (const child of children.get(node) ?? []) {
        let own = inherited;
        if (device) {
          const beyond = new Set(tree.nodes.filter((other) => wayUp(tree, other).includes(child)));
          const across = groups.some(
            (nodes) => nodes.some((at) => beyond.has(at)) && !nodes.every((at) => beyond.has(at)),
          );
          if (across) crossed.push(device);
          else {
            own = device;
            used.set(device, node);
          }
        }
        if (own) domain.set(child, own);
      }
    }
  }
  return {
    used,
    crossed: [...new Set(crossed)],
    hot: (node, circuitId): Signal => {
      const device = domain.get(node);
      return device ? `load-hot:${device}` : hotOf(circuitId);
    },
    neutral: (node): Signal => {
      const device = domain.get(node);
      return device ? `load-neutral:${device}` : 'neutral';
    },
  };
}
