import type { HouseReader } from '../../derive/reader.js';
import { boxFacts, boxesOf, circuitOfPoint, devicesIn, roomOf, runsAt } from '../../facts/box-facts.js';
import type { Run } from '../../house/model.js';
import type { CableId } from '../../rulebook/cables.js';
import { cutBetween, cutOf } from '../../routing/cut.js';
import { lightestCable } from '../../routing/run-cable.js';
import type { Way } from '../../routing/way.js';
import { usualCable } from '../../wiring/circuit/gauge.js';

/** What crews differ in, each with its price when it is gone against. */
export interface PlanSchools {
  /** Receptacles through the rooms in order, without branches and with few trips through the attic. */
  readonly oneWay: boolean;
  /** At most two power cables in a receptacle box. */
  readonly twoCables: boolean;
  /** Where switched lights are fed. */
  readonly feed: 'cheaper' | 'switch' | 'light';
  /** Receptacles apart from lights. */
  readonly apart: boolean;
  /** A room is left from the box nearest the next. */
  readonly nearest: boolean;
}
export type PlanSchool = keyof PlanSchools;
export const PLAN_SCHOOLS: readonly PlanSchool[] = ['oneWay', 'twoCables', 'feed', 'apart', 'nearest'];

/** How often a plan goes against each school. */
export type AgainstSchools = Readonly<Record<PlanSchool, number>>;

/** The schools of the house, but for those that are chosen here. */
export function schoolsOf(reader: HouseReader, chosen: Partial<PlanSchools> = {}): PlanSchools {
  const rules = reader.rules();
  const isOn = (key: string): boolean => rules.text(key) === 'yes';
  return {
    oneWay: isOn('plan.oneWay'),
    twoCables: isOn('plan.twoCables'),
    feed: rules.text('plan.feed') as PlanSchools['feed'],
    apart: isOn('plan.apart'),
    nearest: isOn('plan.nearest'),
    ...chosen,
  };
}

/** A cable between two boxes, before it is known what it carries. */
export interface Leg {
  readonly lengthIn: number;
  readonly way: Way;
  /** Minutes of boring, pulling and securing. */
  readonly minutes: number;
}

/** A run of a plan, with the box that it comes from and the one that it feeds, by their numbers. */
export interface LaidRun {
  readonly from: number;
  readonly to: number;
  readonly leg: Leg;
  readonly power: boolean;
}

type Kind = 'panel' | 'receptacles' | 'lighting' | 'other';

/** The boxes of a circuit, or of several that share a neutral, as they stand, whatever is pulled between them: node 0 is the panel. */
export class PlanGround {
  readonly numbers: ReadonlyMap<string, number>;
  /** Nodes of the places and of the loads of each control that is all on these boxes. */
  readonly controls: readonly { readonly places: readonly number[]; readonly loads: readonly number[] }[];
  private readonly kinds: readonly Kind[];
  private readonly rooms: readonly (string | undefined)[];
  private readonly legs = new Map<CableId, Map<number, Leg>>();
  /** The cable that its runs usually are. */
  private readonly usual: CableId;
  private readonly least = new Map<string, number>();

  constructor(
    private readonly reader: HouseReader,
    circuitIds: readonly string[],
    readonly nodes: readonly string[],
  ) {
    const circuit = circuitIds.length === 1 ? reader.get('circuits', circuitIds[0]!) : undefined;
    this.usual = (circuit && usualCable(reader, circuit)) ?? lightestCable(reader);
    this.numbers = new Map(nodes.map((id, at) => [id, at]));
    this.rooms = nodes.map((id) => roomOf(reader, id)?.id);
    const nodeOf = new Map<string, number>();
    this.kinds = nodes.map((boxId, at) => {
      if (at === 0) return 'panel';
      const points = devicesIn(reader, boxId).flatMap(({ id }) =>
        reader.mentioning('points', id).filter((point) => {
          const own = circuitOfPoint(reader, point);
          return own !== undefined && circuitIds.includes(own);
        }),
      );
      for (const { id } of points) nodeOf.set(id, at);
      if (points.some(({ role }) => role === 'lever' || role === 'lamp')) return 'lighting';
      return points.some(({ role }) => role === 'receptacle') ? 'receptacles' : 'other';
    });
    const controls = new Set([...nodeOf.keys()].flatMap((id) => reader.mentioning('controls', id)));
    this.controls = [...controls].flatMap(({ places, loads }) => {
      const [at, to] = [places, loads].map((ids) => ids.map((id) => nodeOf.get(id)));
      return [...at!, ...to!].includes(undefined) ? [] : [{ places: at as number[], loads: to as number[] }];
    });
  }

  private legOf(lengthIn: number, way: Way): Leg {
    const rules = this.reader.rules();
    return {
      lengthIn,
      way,
      minutes:
        rules.number('plan.minutesPerRun') +
        (lengthIn / 12) * rules.number('plan.minutesPerFoot') +
        way.minutes,
    };
  }

  /** A new cable between two boxes: the same both ways. Of no cable in particular, that which its runs usually are. */
  between(a: number, b: number, cable: CableId = this.usual): Leg {
    let legs = this.legs.get(cable);
    if (!legs) this.legs.set(cable, (legs = new Map<number, Leg>()));
    const key = Math.min(a, b) * this.nodes.length + Math.max(a, b);
    let leg = legs.get(key);
    if (!leg) {
      const cut = cutBetween(this.reader, this.nodes[Math.min(a, b)]!, this.nodes[Math.max(a, b)]!, cable);
      legs.set(key, (leg = this.legOf(cut.lengthIn, cut.way)));
    }
    return leg;
  }

  /** A run that is there, with its own length where it was measured, and its own way where somebody forced it. */
  ofRun(run: Run, cable?: CableId): Leg {
    const [a, b] = boxesOf(run).map((id) => this.numbers.get(id));
    const isOwn = run.measuredLengthIn !== undefined || run.route?.length || run.shutOut?.length;
    if (!isOwn && a !== undefined && b !== undefined) return this.between(a, b, cable);
    const cut = cutOf(this.reader, run);
    return this.legOf(cut.lengthIn, cut.way);
  }

  /** The least length between boxes of two rooms. */
  private leastBetween(one: string, other: string): number {
    const key = one < other ? `${one} ${other}` : `${other} ${one}`;
    let least = this.least.get(key);
    if (least === undefined) {
      least = Infinity;
      this.rooms.forEach((from, a) => {
        if (from !== one || a === 0) return;
        this.rooms.forEach((to, b) => {
          if (to === other && b !== 0) least = Math.min(least!, this.between(a, b).lengthIn);
        });
      });
      this.least.set(key, least);
    }
    return least;
  }

  private orderOf(roomId: string | undefined): number | undefined {
    return this.reader.get('rooms', roomId ?? '')?.order;
  }

  /** How often runs go against each school, chosen or not. `parent` is the node that feeds a node. */
  against(runs: readonly LaidRun[], parent: (node: number) => number, { feed }: PlanSchools): AgainstSchools {
    let [oneWay, twoCables, apart, nearest] = [0, 0, 0, 0];
    const powered = new Int32Array(this.nodes.length);
    for (const { from, to, leg, power } of runs) {
      const [here, there] = [this.rooms[from], this.rooms[to]];
      const isBetweenRooms = from !== 0 && here !== there && here !== undefined && there !== undefined;
      if (isBetweenRooms && leg.lengthIn > this.leastBetween(here, there) + 12) nearest++;
      if (!power) continue;
      powered[from]!++;
      powered[to]!++;
      if (from === 0) continue;
      if (this.kinds[to] === 'receptacles' && isBetweenRooms) {
        const [a, b] = [this.orderOf(here), this.orderOf(there)];
        if (leg.way.kind !== 'studs') oneWay++;
        if (a !== undefined && b !== undefined) oneWay += Math.min(3, Math.max(0, Math.abs(a - b) - 1));
      }
      const kinds = [this.kinds[from], this.kinds[to]];
      if (kinds.includes('receptacles') && kinds.includes('lighting')) apart++;
    }
    this.kinds.forEach((kind, node) => {
      if (kind !== 'receptacles') return;
      const more = Math.max(0, powered[node]! - 2);
      twoCables += more;
      oneWay += more;
    });
    const isFedAtLight = ({ places, loads }: PlanGround['controls'][number]): boolean =>
      places.every((place) => {
        for (let at = place; at > 0; at = parent(at)) if (at !== place && loads.includes(at)) return true;
        return false;
      });
    const fedOtherwise =
      feed === 'cheaper'
        ? 0
        : this.controls.filter((control) => isFedAtLight(control) !== (feed === 'light')).length;
    return { oneWay, twoCables, feed: fedOtherwise, apart, nearest };
  }
}

/**
 * The boxes that a plan joins: the panel, those of the runs of a circuit, those whose things belong to it, and those to which no
 * cable comes yet and whose things a control of it switches or is switched from (a stray light goes to the circuit of its switch).
 */
export function nodesOf(reader: HouseReader, circuitId: string, own: readonly Run[]): readonly string[] {
  const { panelId } = reader.get('circuits', circuitId)!;
  const boxOf = (deviceId: string): string | undefined => reader.get('devices', deviceId)?.boxId;
  const asked = reader.mentioning('points', circuitId).flatMap(({ deviceId }) => boxOf(deviceId) ?? []);
  const nodes = new Set([panelId, ...own.flatMap((run) => boxesOf(run)), ...asked]);
  const points = [...nodes].flatMap((boxId) =>
    devicesIn(reader, boxId).flatMap(({ id }) =>
      reader.mentioning('points', id).filter((point) => circuitOfPoint(reader, point) === circuitId),
    ),
  );
  const stray = points
    .flatMap(({ id }) => reader.mentioning('controls', id))
    .flatMap(({ places, loads }) => [...places, ...loads])
    .flatMap((id) => {
      const point = reader.get('points', id);
      const boxId = point && boxOf(point.deviceId);
      return boxId && circuitOfPoint(reader, point) === undefined && runsAt(reader, boxId).length === 0
        ? [boxId]
        : [];
    });
  return [...nodes, ...new Set(stray)].filter(
    (id) => boxFacts(reader, reader.get('boxes', id)!).kind !== 'low-voltage',
  );
}
