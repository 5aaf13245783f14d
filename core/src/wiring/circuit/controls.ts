import { supplyOf } from '../../facts/circuit-facts.js';
import { NO_FACTS } from '../../findings/finding.js';
import { setting } from '../../changes/change.js';
import type { HouseReader } from '../../derive/reader.js';
import { circuitOfPoint, devicesIn } from '../../facts/box-facts.js';
import type { Control, Device, Point } from '../../house/model.js';
import type { Finding } from '../../findings/finding.js';
import type { CircuitTree } from './circuit-tree.js';

/** A point that its circuit reaches, and where it is. */
export interface ReachedPoint {
  readonly point: Point;
  readonly device: Device;
  readonly boxId: string;
  readonly node: string;
  readonly circuitId: string;
}

/** The points of a wiring group's circuits, box by box outward from the panel. */
export function pointsReached(
  reader: HouseReader,
  circuitIds: readonly string[],
  tree: CircuitTree,
): readonly ReachedPoint[] {
  const boxes = new Set(tree.nodes.map((node) => tree.boxOf.get(node)!));
  const reached: ReachedPoint[] = [];
  for (const boxId of boxes) {
    for (const device of devicesIn(reader, boxId)) {
      const node = tree.moved.get(device.id) ?? boxId;
      for (const point of reader.mentioning('points', device.id)) {
        const circuitId = circuitOfPoint(reader, point);
        if (circuitId && circuitIds.includes(circuitId) && carriesTo(tree, circuitId, node))
          reached.push({ point, device, boxId, node, circuitId });
      }
    }
  }
  return reached;
}

/** Whether every run from the panel to the node carries the circuit. */
export const carriesTo = (tree: CircuitTree, circuitId: string, node: string): boolean => {
  if (!tree.boxOf.has(node)) return false;
  for (let feed = tree.feed.get(node); feed; feed = tree.feed.get(feed.from))
    if (!feed.run.circuitIds.includes(circuitId)) return false;
  return true;
};

/** Controls that a point is a place or a load of; one that only pins it in an order does not count. */
export const controlsOf = (reader: HouseReader, pointId: string): readonly Control[] =>
  reader
    .mentioning('controls', pointId)
    .filter(({ places, loads }) => places.includes(pointId) || loads.includes(pointId));

export interface CircuitControls {
  /** Controls that can be wired: all their places and loads are reached. */
  readonly wired: readonly Control[];
  /** Controls whose wiring cannot be derived, with the nodes they certainly have to do with. */
  readonly open: readonly {
    readonly control: Control;
    readonly points: readonly ReachedPoint[];
    readonly fromPanel: boolean;
  }[];
  readonly ofPoint: ReadonlyMap<string, Control>;
  readonly findings: readonly Finding[];
}

/**
 * Sorts the controls of a wiring group into those that can be wired and those that cannot, each of these with a finding
 * that says why.
 */
export function sortControls(reader: HouseReader, points: readonly ReachedPoint[]): CircuitControls {
  const where = new Map(points.map((reached) => [reached.point.id, reached]));
  const ofPoint = new Map<string, Control>();
  const controls = new Map<string, Control>();
  const shared = new Set<string>();
  for (const { point } of points) {
    for (const control of controlsOf(reader, point.id)) {
      const other = ofPoint.get(point.id);
      if (other && other !== control) shared.add(control.id).add(other.id);
      ofPoint.set(point.id, control);
      controls.set(control.id, control);
    }
  }
  const wired: Control[] = [];
  const open: { control: Control; points: ReachedPoint[]; fromPanel: boolean }[] = [];
  const findings: Finding[] = [];
  for (const control of [...controls.values()].sort((a, b) => (a.id < b.id ? -1 : 1))) {
    const own = [...new Set([...control.places, ...control.loads])].flatMap((id) => where.get(id) ?? []);
    const circuitId = own[0]!.circuitId;
    if (
      new Set(control.places).size < control.places.length ||
      new Set(control.loads).size < control.loads.length
    ) {
      findings.push({
        code: 'control.point-twice',
        severity: 'fix',
        where: { circuitId, controlId: control.id },
        facts: NO_FACTS,
        fixes: [
          {
            code: 'name-once',
            facts: NO_FACTS,
            change: setting('controls', control.id, {
              places: [...new Set(control.places)],
              loads: [...new Set(control.loads)],
            }),
          },
        ],
      });
    }
    const problem = obstacle(reader, control, where, shared.has(control.id));
    if (!problem) {
      wired.push(
        new Set(control.places).size === control.places.length
          ? control
          : { ...control, places: [...new Set(control.places)], loads: [...new Set(control.loads)] },
      );
      continue;
    }
    findings.push({ ...problem, where: { circuitId, controlId: control.id } } as Finding);
    open.push({ control, points: own, fromPanel: !control.places.some((id) => where.has(id)) });
  }
  return { wired, open, ofPoint, findings };
}

type Obstacle = Pick<Finding, 'code' | 'severity' | 'facts'>;

function obstacle(
  reader: HouseReader,
  control: Control,
  where: ReadonlyMap<string, ReachedPoint>,
  isShared: boolean,
): Obstacle | undefined {
  if (isShared) {
    return {
      code: 'control.shared-point',
      severity: 'fix',
      facts: NO_FACTS,
    };
  }
  if (control.places.length === 0) {
    return {
      code: 'control.no-place',
      severity: 'fix',
      facts: NO_FACTS,
    };
  }
  if (control.loads.length === 0) {
    return {
      code: 'control.no-load',
      severity: 'fix',
      facts: NO_FACTS,
    };
  }
  const all = [...control.places, ...control.loads];
  const first = all.map((id) => where.get(id)).find((reached) => reached !== undefined)!;
  const stray = all.filter((id) => where.get(id)?.circuitId !== first.circuitId);
  if (stray.length) {
    const foreign = stray
      .map((id) => reader.get('points', id))
      .map((point) => (point ? circuitOfPoint(reader, point) : undefined))
      .find((id) => id !== undefined && id !== first.circuitId);
    return foreign
      ? {
          code: 'control.two-circuits',
          severity: 'stop',
          facts: { circuitIds: [first.circuitId, foreign] },
        }
      : {
          code: 'control.unreached',
          severity: 'fix',
          facts: { circuitId: first.circuitId },
        };
  }
  if (control.places.some((id) => where.get(id)!.point.role !== 'lever')) {
    return {
      code: 'control.not-a-switch',
      severity: 'fix',
      facts: NO_FACTS,
    };
  }
  if (control.loads.some((id) => where.get(id)!.point.role === 'lever')) {
    return {
      code: 'control.switch-as-load',
      severity: 'fix',
      facts: NO_FACTS,
    };
  }
  if (supplyOf(reader, first.circuitId)?.poles === 2) {
    return {
      code: 'control.240-volt',
      severity: 'fix',
      facts: NO_FACTS,
    };
  }
  const pinned = control.pinnedOrder;
  if (pinned && [...new Set(pinned)].sort().join() !== [...new Set(control.places)].sort().join()) {
    return {
      code: 'control.pinned-wrong',
      severity: 'fix',
      facts: NO_FACTS,
    };
  }
  return undefined;
}
