import type { HouseReader } from '../derive/reader.js';
import { circuitOfPoint, devicesIn } from '../house/box-facts.js';
import type { Control, Device, Point } from '../house/model.js';
import { circuitName } from '../house/naming.js';
import type { Finding } from '../inspection/finding.js';
import type { CircuitTree } from './circuit-tree.js';

/** A point that a circuit reaches, and where it is. */
export interface ReachedPoint {
  readonly point: Point;
  readonly device: Device;
  readonly boxId: string;
}

/** The points of a circuit, box by box in walking order. */
export function pointsReached(
  reader: HouseReader,
  circuitId: string,
  tree: CircuitTree,
): readonly ReachedPoint[] {
  return tree.boxes.flatMap((boxId) =>
    devicesIn(reader, boxId).flatMap((device) =>
      reader
        .mentioning('points', device.id)
        .filter((point) => circuitOfPoint(reader, point) === circuitId)
        .map((point) => ({ point, device, boxId })),
    ),
  );
}

export interface CircuitControls {
  /** Controls that can be wired: one lever each, its loads and its lever reached. */
  readonly wired: readonly Control[];
  /** Controls whose wiring cannot be derived, with the boxes they certainly have to do with. */
  readonly open: readonly {
    readonly control: Control;
    readonly boxes: readonly string[];
    readonly fromPanel: boolean;
  }[];
  readonly ofPoint: ReadonlyMap<string, Control>;
  readonly findings: readonly Finding[];
}

const isUpstream = (tree: CircuitTree, above: string, below: string): boolean => {
  for (let at: string | undefined = below; at !== undefined; at = tree.feed.get(at)?.from)
    if (at === above) return true;
  return false;
};

/**
 * Sorts the controls of a circuit into those that can be wired today (one single-pole switch that its loads hang behind)
 * and those that cannot, each of these with a finding that says why.
 */
export function sortControls(
  reader: HouseReader,
  circuitId: string,
  tree: CircuitTree,
  points: readonly ReachedPoint[],
): CircuitControls {
  const where = new Map(points.map((reached) => [reached.point.id, reached]));
  const ofPoint = new Map<string, Control>();
  const controls = new Map<string, Control>();
  const shared = new Set<string>();
  for (const { point } of points) {
    for (const control of reader.mentioning('controls', point.id)) {
      if (ofPoint.has(point.id) && ofPoint.get(point.id) !== control) {
        shared.add(control.id).add(ofPoint.get(point.id)!.id);
      }
      ofPoint.set(point.id, control);
      controls.set(control.id, control);
    }
  }
  const wired: Control[] = [];
  const open: { control: Control; boxes: string[]; fromPanel: boolean }[] = [];
  const findings: Finding[] = [];
  for (const control of controls.values()) {
    const problem = obstacle(reader, circuitId, tree, control, where, shared.has(control.id));
    if (!problem) {
      wired.push(control);
      continue;
    }
    findings.push({ ...problem, where: { circuitId, controlId: control.id, ...problem.where } });
    const boxes = [...control.places, ...control.loads].flatMap((id) => where.get(id)?.boxId ?? []);
    open.push({ control, boxes, fromPanel: !control.places.some((id) => where.has(id)) });
  }
  return { wired, open, ofPoint, findings };
}

type Obstacle = Pick<Finding, 'code' | 'severity' | 'message'> & { readonly where?: Finding['where'] };

function obstacle(
  reader: HouseReader,
  circuitId: string,
  tree: CircuitTree,
  control: Control,
  where: ReadonlyMap<string, ReachedPoint>,
  isShared: boolean,
): Obstacle | undefined {
  const named = `Control “${control.name}”`;
  if (isShared) {
    return {
      code: 'control.shared-point',
      severity: 'mend',
      message: `${named} shares a switch or a load with another control. Give each point to one control.`,
    };
  }
  if (control.places.length === 0) {
    return {
      code: 'control.no-place',
      severity: 'mend',
      message: `${named} has no switch. Say what switches it.`,
    };
  }
  if (control.loads.length === 0) {
    return {
      code: 'control.no-load',
      severity: 'mend',
      message: `${named} switches nothing. Say what it switches.`,
    };
  }
  const strays = [...control.places, ...control.loads].filter((id) => !where.has(id));
  if (strays.length) {
    const foreign = strays
      .map((id) => reader.get('points', id))
      .map((point) => (point ? circuitOfPoint(reader, point) : undefined))
      .find((id) => id !== undefined && id !== circuitId);
    return foreign
      ? {
          code: 'control.two-circuits',
          severity: 'stop',
          message: `${named} lies on ${circuitName(reader, circuitId)} and on ${circuitName(reader, foreign)}. Put its switch and its loads on one circuit.`,
        }
      : {
          code: 'control.unreached',
          severity: 'mend',
          message: `${named}: power from ${circuitName(reader, circuitId)} does not reach all of its points yet.`,
        };
  }
  const wrong = control.places.find((id) => where.get(id)!.point.role !== 'lever');
  if (wrong) {
    return {
      code: 'control.not-a-switch',
      severity: 'mend',
      message: `${named}: a switch is expected among its places.`,
    };
  }
  if (control.loads.some((id) => where.get(id)!.point.role === 'lever')) {
    return {
      code: 'control.switch-as-load',
      severity: 'mend',
      message: `${named}: a switch cannot be a load.`,
    };
  }
  if (control.places.length > 1) {
    return {
      code: 'not-yet.several-places',
      severity: 'note',
      message: `${named} is switched from ${control.places.length} places. Deriving three-way and four-way wiring is not built yet: its conductors are left open.`,
    };
  }
  const lever = where.get(control.places[0]!)!.boxId;
  const upstream = control.loads.find((id) => !isUpstream(tree, lever, where.get(id)!.boxId));
  if (upstream) {
    return {
      code: 'not-yet.feed-at-load',
      severity: 'note',
      message: `${named}: the feed reaches a load before its switch (a switch loop, or the load on another branch). Deriving that is not built yet: its conductors are left open.`,
      where: { boxId: where.get(upstream)!.boxId },
    };
  }
  return undefined;
}
