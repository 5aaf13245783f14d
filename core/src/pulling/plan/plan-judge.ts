import { Derivations } from '../../derive/derivations.js';
import type { HouseReader } from '../../derive/reader.js';
import { boxesOf, cableIn, circuitOfPoint, roomOf } from '../../facts/box-facts.js';
import { wiringGroup } from '../../facts/circuit-facts.js';
import type { BoxFill } from '../../fill/fill-box.js';
import { fillInstead } from '../../fill/fill-box.js';
import type { House } from '../../house/house.js';
import { withRow } from '../../house/house.js';
import type { Run } from '../../house/model.js';
import type { CableId } from '../../rulebook/cables.js';
import { cableFor, cableOf, mostConductors } from '../../rulebook/cables.js';
import { needsGfci } from '../../rulebook/rooms.js';
import { circuitTree } from '../../wiring/circuit/circuit-tree.js';
import { gaugeOfGroup } from '../../wiring/circuit/gauge.js';
import { NumberedTree } from '../../wiring/circuit/numbered-tree.js';
import { isUnprotected } from '../../wiring/circuit/protection.js';
import { conductorsFor } from '../../wiring/needs/conductors-for.js';
import { solveNeeds } from '../../wiring/needs/kernel.js';
import { wireCircuit } from '../../wiring/conductors/wire-circuit.js';
import { KeptOrders } from '../../wiring/needs/order-task.js';
import { layOut } from '../../wiring/needs/needs.js';
import { neededCable } from '../../routing/run-cable.js';
import type { PlanCost, PricedRun, Pricing, Weights } from './plan-cost.js';
import { costOf, priced, weightsOf } from './plan-cost.js';
import type { PlanGround } from './plan-ground.js';

/** A run between two boxes, by their numbers; `beside` counts cables that go the same way from the second on. */
export interface Edge {
  readonly a: number;
  readonly b: number;
  readonly beside?: number;
}

export const keyOf = ({ a, b, beside }: Edge): string =>
  `${Math.min(a, b)} ${Math.max(a, b)}${beside ? ` ${beside}` : ''}`;

/** A circuit that is planned: its boxes, the runs that stay, and how those between its boxes are made. */
export interface PlannedCircuit {
  readonly circuitId: string;
  readonly ground: PlanGround;
  readonly fixed: readonly Run[];
  readonly free: readonly Run[];
  readonly runOf: (edge: Edge) => Run;
}

/** Judges trees of one circuit. Both ways give the same for every tree; the quick one does not touch the house. */
export interface Judge {
  readonly costOf: (edges: readonly Edge[]) => PlanCost;
}

/** By the wiring and the fill of the house as it would be: for every circuit. `tried` keeps what still holds from tree to tree. */
export class WholeJudge implements Judge {
  private readonly bare: House;
  private readonly rowOf: ReadonlyMap<string, number>;
  private readonly known = new Map<string, PlanCost>();

  constructor(
    house: House,
    private readonly circuit: PlannedCircuit,
    private readonly pricing: Pricing,
    private readonly tried = new Derivations(house),
  ) {
    this.bare = circuit.free.reduce((at, { id }) => withRow(at, 'runs', id, undefined), house);
    this.rowOf = new Map(circuit.free.map(({ id }, at) => [id, at]));
  }

  /** The house with these runs, each with the cable that it needs. */
  housed(edges: readonly Edge[]): House {
    const { runOf } = this.circuit;
    const withRuns = (runs: readonly Run[], on: House): House =>
      runs.reduce(
        (at, record) =>
          withRow(at, 'runs', record.id, {
            at: 1e6 + (this.rowOf.get(record.id) ?? this.rowOf.size),
            record,
          }),
        on,
      );
    const runs = edges.map(runOf);
    const bare = withRuns(runs, this.bare);
    this.tried.update(bare);
    const reader = this.tried.reader();
    const cabled = runs.flatMap((run): Run[] => {
      const plannedCable = neededCable(reader, run);
      return plannedCable ? [{ ...run, plannedCable }] : [];
    });
    return withRuns(cabled, bare);
  }

  costOf(edges: readonly Edge[]): PlanCost {
    const key = edges.map(keyOf).sort().join('|');
    let cost = this.known.get(key);
    if (!cost) {
      const { circuitId, ground } = this.circuit;
      this.tried.update(this.housed(edges));
      this.known.set(key, (cost = costOf(this.tried.reader(), [circuitId], this.pricing, ground)));
    }
    return cost;
  }
}

/** How many kept results are let go at once. */
const MOST_KEPT = 20_000;

/**
 * By the kernel of the needs that the wiring calls too, and the fill of the boxes with the cables that this makes: a tree costs
 * some microseconds. Undefined where a circuit has what depends on more than its tree: joints that are made at its switches,
 * loops, raceway, runs of several circuits or of another gauge, things of two circuits, controls that cannot be wired.
 */
export class QuickJudge implements Judge {
  private readonly fills = new Map<string, BoxFill | undefined>();
  private readonly known = new Map<string, PlanCost>();
  private readonly orders = new KeptOrders();
  private offset = 0;
  private readonly weights: Weights;

  private constructor(
    private readonly reader: HouseReader,
    private readonly circuit: PlannedCircuit,
    private readonly pricing: Pricing,
    private readonly laid: ReturnType<typeof layOut>,
    private readonly asked: readonly number[],
    private readonly fixed: readonly {
      readonly edge: Edge;
      readonly cable: CableId | undefined;
      readonly capacity: number;
      readonly run: Run;
    }[],
    private readonly largest: number,
    private readonly cables: (conductors: number) => CableId | undefined,
    private readonly gaugeOn: Parameters<typeof fillInstead>[2]['gaugeOn'],
  ) {
    this.weights = weightsOf(reader);
  }

  static of(
    reader: HouseReader,
    circuit: PlannedCircuit,
    pricing: Pricing,
    start: readonly Edge[],
  ): QuickJudge | undefined {
    const { circuitId, ground, fixed, runOf } = circuit;
    const group = wiringGroup(reader, circuitId);
    const gauge = gaugeOfGroup(reader, group);
    if (group.length > 1 || !gauge) return undefined;
    const isOther = (run: Run): boolean => {
      const cable = cableIn(reader, run);
      return (
        run.kind !== 'cable' ||
        run.circuitIds.length > 1 ||
        (cable !== undefined && cableOf(cable).gauge !== gauge)
      );
    };
    if (fixed.some(isOther)) return undefined;
    const tree = circuitTree(reader, ground.nodes[0]!, [...fixed, ...start.map(runOf)]);
    if (tree.loops.length || tree.islands.length || tree.loose.length) return undefined;
    if (tree.nodes.length !== ground.nodes.length || tree.nodes.some((id, at) => id !== ground.nodes[at]))
      return undefined;
    const laid = layOut(reader, group, tree);
    if (laid.controls.open.length || laid.task.controls.some(({ reopens }) => reopens)) return undefined;
    const isOfTwo = laid.points.some(({ device }) =>
      reader.mentioning('points', device.id).some((point) => circuitOfPoint(reader, point) !== circuitId),
    );
    if (isOfTwo) return undefined;
    const rules = reader.rules();
    const cables = new Map<number, CableId | undefined>();
    const { openDevices } = wireCircuit(reader, circuitId);
    const number = (id: string): number => ground.numbers.get(id)!;
    return new QuickJudge(
      reader,
      circuit,
      pricing,
      laid,
      laid.points.flatMap((reached) =>
        isUnprotected(reader, reached) && needsGfci(rules, roomOf(reader, reached.boxId)?.kind ?? 'other')
          ? [number(reached.boxId)]
          : [],
      ),
      fixed.map((run) => {
        const [a, b] = boxesOf(run).map(number) as [number, number];
        const cable = cableIn(reader, run);
        return {
          run,
          edge: { a, b },
          cable,
          capacity: conductorsFor(reader, run, [circuitId])?.length ?? mostConductors(rules, gauge),
        };
      }),
      mostConductors(rules, gauge),
      (conductors) => {
        if (!cables.has(conductors)) cables.set(conductors, cableFor(rules, gauge, conductors)?.id);
        return cables.get(conductors);
      },
      (deviceId) => {
        const isOwn = reader
          .mentioning('points', deviceId)
          .some((point) => circuitOfPoint(reader, point) === circuitId);
        return isOwn && !openDevices.has(deviceId) ? gauge : undefined;
      },
    );
  }

  /** What else is wrong whatever the tree: as the whole house says of this one. False where they do not agree about it. */
  agreesWith(whole: PlanCost, edges: readonly Edge[]): boolean {
    const own = this.costOf(edges);
    const offset = whole.wrong - own.wrong;
    this.offset += offset;
    this.known.clear();
    const isNear = (a: number, b: number): boolean => Math.abs(a - b) < 1e-6;
    return (
      isNear(offset, Math.round(offset)) &&
      offset > -1e-6 &&
      isNear(whole.total - whole.wrong * 100_000, own.total - own.wrong * 100_000)
    );
  }

  private fill(node: number, cables: readonly CableId[]): BoxFill | undefined {
    const key = `${node} ${[...cables].sort().join()}`;
    let fill = this.fills.get(key);
    if (fill === undefined && !this.fills.has(key)) {
      const { free, ground } = this.circuit;
      const gone = [...free, ...this.fixed.flatMap(({ cable, run }) => (cable ? [] : [run]))];
      fill = fillInstead(this.reader, ground.nodes[node]!, {
        runIds: new Set(gone.map(({ id }) => id)),
        cables,
        gaugeOn: this.gaugeOn,
      });
      this.fills.set(key, fill);
    }
    return fill;
  }

  costOf(edges: readonly Edge[]): PlanCost {
    const { ground } = this.circuit;
    const size = ground.nodes.length;
    const all = [...this.fixed.map(({ edge }) => edge), ...edges];
    const at: number[][] = Array.from({ length: size }, () => []);
    all.forEach(({ a, b }, index) => {
      at[a]!.push(index);
      at[b]!.push(index);
    });
    const parent = new Int32Array(size).fill(-1);
    const order = new Int32Array(size);
    const feeding = new Int32Array(size).fill(-1);
    let found = 1;
    for (let next = 0; next < found; next++) {
      const here = order[next]!;
      for (const index of at[here]!) {
        const { a, b } = all[index]!;
        const to = a === here ? b : a;
        if (to === 0 || feeding[to]! >= 0) continue;
        feeding[to] = index;
        parent[to] = here;
        order[found++] = to;
      }
    }
    if (found < size) throw new Error('A plan must join all boxes.');
    const fixedCount = this.fixed.length;
    const key = parent.join();
    const isSame = this.known.get(key);
    if (isSame) return isSame;
    const capacity = Float64Array.from(feeding, (index) =>
      index < 0 ? Infinity : index < fixedCount ? this.fixed[index]!.capacity : this.largest,
    );
    const tree = new NumberedTree(parent, order);
    const solved = solveNeeds(this.laid.task, { tree, capacity, together: capacity, kept: this.orders });
    const isShort = new Set(solved.short.flatMap(({ runs }) => runs));
    let wrong = this.offset;
    const { domain, passed } = solved.domains;
    for (const { beyond } of passed) if (this.asked.some((node) => beyond[node] && !domain[node])) wrong++;
    const entering: CableId[][] = Array.from({ length: size }, () => []);
    const runs: PricedRun[] = [];
    for (let node = 1; node < size; node++) {
      const index = feeding[node]!;
      const own = index < fixedCount ? this.fixed[index]! : undefined;
      const conductors = solved.needs[node]!.length;
      const cable = own?.cable ?? this.cables(Math.max(2, conductors + (isShort.has(node) ? 1 : 0)));
      const from = parent[node]!;
      if (own?.cable) {
        const more = conductors - own.capacity;
        if (more > 0) wrong += more + 1;
      } else if (cable) {
        entering[from]!.push(cable);
        entering[node]!.push(cable);
      } else wrong++;
      runs.push({
        from,
        to: node,
        leg: own ? ground.ofRun(own.run, cable) : ground.between(from, node, cable),
        power: solved.power[node] === 1,
        cable,
        conductors,
      });
    }
    const fills: BoxFill[] = [];
    for (let node = 0; node < size; node++) {
      const fill = this.fill(node, entering[node]!);
      if (fill) fills.push(fill);
    }
    const cost = priced(this.weights, ground, this.pricing, runs, (node) => parent[node]!, fills, wrong);
    if (this.known.size > MOST_KEPT) this.known.clear();
    this.known.set(key, cost);
    return cost;
  }
}
