import type { HouseReader } from '../../derive/reader.js';
import type { Control } from '../../house/model.js';
import type { Terminal } from '../../vocabulary/terminal.js';
import type { CircuitTree } from '../circuit/circuit-tree.js';
import { runsBetween } from '../circuit/circuit-tree.js';
import type { ReachedPoint } from '../circuit/controls.js';
import { recordedJoints } from '../circuit/recorded-joints.js';
import type { PlacedControl } from './order-task.js';

/** A terminal of a place on which something is recorded as made: the run that leads away from it, or the place it is linked to. */
interface MadeTerminal {
  readonly point: string;
  readonly terminal: Terminal;
  readonly runId?: string;
  readonly linked?: string;
}

function madeTerminals(
  reader: HouseReader,
  control: Control,
  where: ReadonlyMap<string, ReachedPoint>,
): MadeTerminal[] {
  /** The place that a terminal belongs to: on a yoke with several levers its number says which. */
  const placeOf = (deviceId: string | undefined, terminal: Terminal): string | undefined =>
    control.places.find((id) => {
      const { device, point } = where.get(id)!;
      if (device.id !== deviceId) return false;
      const levers = reader.mentioning('points', device.id).filter(({ role }) => role === 'lever');
      return levers.length < 2 || ('lever' in terminal && terminal.lever === levers.indexOf(point) + 1);
    });
  return [...new Set(control.places.map((id) => where.get(id)!.boxId))].flatMap((boxId) =>
    recordedJoints(reader, boxId).flatMap(({ ends, landings }) => {
      const landed = landings.flatMap(({ deviceId, terminal }) => {
        const point = placeOf(deviceId, terminal);
        return point ? [{ point, terminal }] : [];
      });
      return landed.flatMap((to): MadeTerminal[] => [
        ...ends.map(({ runId }) => ({ ...to, runId })),
        ...landed.flatMap(({ point }) => (point === to.point ? [] : [{ ...to, linked: point }])),
      ]);
    }),
  );
}

/**
 * How many terminals recorded as made at a place would land elsewhere with it between these two others. The pairs of a
 * four-way are the same either way round.
 */
export function reopened(
  reader: HouseReader,
  tree: CircuitTree,
  control: Control,
  where: ReadonlyMap<string, ReachedPoint>,
): PlacedControl['reopens'] {
  const made = new Map<string, MadeTerminal[]>();
  for (const terminal of madeTerminals(reader, control, where))
    made.set(terminal.point, [...(made.get(terminal.point) ?? []), terminal]);
  if (made.size === 0) return undefined;
  const ways = new Map<string, ReadonlySet<string>>();
  const way = (from: string, to: string): ReadonlySet<string> => {
    const key = `${from} ${to}`;
    let runs = ways.get(key);
    if (!runs) {
      runs = runsBetween(tree, [where.get(from)!.node, where.get(to)!.node]);
      ways.set(key, runs);
    }
    return runs;
  };
  const kept = new Map<string, number>();
  const count = (point: string, before: string | undefined, after: string | undefined): number => {
    const isFour = before !== undefined && after !== undefined;
    const isAlone = before === undefined && after === undefined;
    const misfits = (one: string | undefined, other: string | undefined): number =>
      made.get(point)!.filter(({ terminal, runId, linked }) => {
        const toward = (place: string | undefined): boolean =>
          place !== undefined && (linked === place || (runId !== undefined && way(point, place).has(runId)));
        switch (terminal.kind) {
          case 'common':
            return isFour || isAlone;
          case 'traveler':
            return isFour || !(toward(before) || toward(after));
          case 'pair':
            return !isFour || !toward(terminal.pair === 1 ? one : other);
          default:
            return !isAlone;
        }
      }).length;
    return Math.min(misfits(before, after), misfits(after, before));
  };
  return (point, before, after) => {
    if (!made.has(point)) return 0;
    const key = `${point} ${before} ${after}`;
    let known = kept.get(key);
    if (known === undefined) kept.set(key, (known = count(point, before, after)));
    return known;
  };
}
