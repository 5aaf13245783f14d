import type { ChangeBody, SingleChangeBody } from '../../changes/change.js';
import { applyChange } from '../../changes/apply.js';
import { adding, removing, setting } from '../../changes/change.js';
import { Derivations } from '../../derive/derivations.js';
import type { HouseReader } from '../../derive/reader.js';
import { boxesInRoom, boxesOf, circuitsAt, runsAt, standingPull } from '../../facts/box-facts.js';
import { fillBox } from '../../fill/fill-box.js';
import type { House } from '../../house/house.js';
import type { Run } from '../../house/model.js';
import { modelFields } from '../../house/model.js';
import { cutOf } from '../../routing/cut.js';
import { holesOf } from '../../routing/way.js';
import { sameJson } from '../../structures/equal.js';
import type { CableId } from '../../rulebook/cables.js';
import { wireCircuit } from '../../wiring/conductors/wire-circuit.js';
import { neededCable } from '../../routing/run-cable.js';
import type { CircuitFound } from './plan-circuit.js';
import { planCircuit, plannedCircuit } from './plan-circuit.js';
import type { PlanCost, PriceOf, Pricing } from './plan-cost.js';
import { costOf, sumOf } from './plan-cost.js';
import type { PlanSchools } from './plan-ground.js';
import { schoolsOf } from './plan-ground.js';
import type { SharedHomeRun } from './plan-multiwire.js';
import { sharedHomeRuns, sharedSwaps } from './plan-multiwire.js';
import type { PlanSwap } from './plan-swaps.js';
import { swapsOf } from './plan-swaps.js';

/** What is planned: a circuit, what enters the boxes of a room, or the house. */
export interface PlanScope {
  readonly circuitId?: string | undefined;
  readonly roomId?: string | undefined;
}

export interface PlanOptions {
  readonly priceOf: PriceOf;
  /** In place of those of the house. */
  readonly schools?: Partial<PlanSchools> | undefined;
  /** Exchanges that are tried for each circuit, and what makes them the same every time. */
  readonly steps: number;
  readonly seed: number;
  readonly newId: () => string;
  /** Runs that stay, besides those in the wall and those that are kept. */
  readonly alsoKept?: ReadonlySet<string> | undefined;
  /** Kept runs that are planned as if they were not. */
  readonly letGo?: ReadonlySet<string> | undefined;
}

/** How far the search has come: what the best so far costs, and what stood. */
export interface PlanProgress {
  readonly step: number;
  readonly of: number;
  readonly cost: number;
  readonly before: number;
}

/** Cable, holes and findings, as they stand and as planned. */
export interface PlanMeasure {
  readonly feetOf: Readonly<Record<string, number>>;
  readonly runs: number;
  readonly studHoles: number;
  readonly plateHoles: number;
  /** Boxes that are to be larger. */
  readonly tooFull: number;
  readonly stops: number;
  readonly fixes: number;
}

/** What is planned for a circuit that is better planned otherwise. */
export interface CircuitPlan {
  readonly circuitId: string;
  /** The circuit that shares its home run and its neutral by the plan; what is said is of both then. */
  readonly withCircuitId?: string;
  readonly before: PlanCost;
  readonly after: PlanCost;
  readonly swaps: readonly PlanSwap[];
}

export interface PullPlan {
  readonly before: PlanCost;
  readonly after: PlanCost;
  readonly measured: { readonly before: PlanMeasure; readonly after: PlanMeasure };
  readonly circuits: readonly CircuitPlan[];
  /** Circuits that were not planned: their runs are all in or kept, or they share a neutral. */
  readonly left: readonly string[];
  /** Boxes that the plan makes larger. */
  readonly larger: readonly { readonly boxId: string; readonly catalogueId: string }[];
  /** What makes the house so; undefined where nothing is better than what stands. */
  readonly change?: ChangeBody;
}

/** Rounds in which the circuits are gone through: all of them roughly, then better. */
const ROUNDS = [0.15, 0.85] as const;

/** The circuits of a scope, by number. */
export function circuitsInScope(reader: HouseReader, { circuitId, roomId }: PlanScope): readonly string[] {
  if (circuitId !== undefined) return reader.get('circuits', circuitId) ? [circuitId] : [];
  const inRoom =
    roomId === undefined
      ? undefined
      : new Set(boxesInRoom(reader, roomId).flatMap(({ id }) => circuitsAt(reader, id)));
  return [...reader.all('circuits')]
    .filter(({ id }) => inRoom?.has(id) ?? true)
    .sort((a, b) => a.number - b.number || (a.id < b.id ? -1 : 1))
    .map(({ id }) => id);
}

/**
 * Which box feeds which, for a circuit, a room or the house: never dearer than what stands, and what is said is what it costs once
 * taken. Circuits are gone through one after the other, each with the plans of those before it. Yields how far it is; whoever runs
 * it may answer *enough*, and has the best so far.
 */
export function* planPulls(
  house: House,
  scope: PlanScope,
  options: PlanOptions,
): Generator<PlanProgress, PullPlan, boolean | undefined> {
  const kept = { base: new Derivations(house), tried: new Derivations(house) };
  const reader = kept.base.reader();
  const pricing = { priceOf: options.priceOf, schools: schoolsOf(reader, options.schools) };
  const ids = circuitsInScope(reader, scope);
  const inRoom =
    scope.roomId === undefined ? undefined : new Set(boxesInRoom(reader, scope.roomId).map(({ id }) => id));
  const isHeld = (run: Run): boolean =>
    options.alsoKept?.has(run.id) === true ||
    (inRoom !== undefined && !boxesOf(run).some((box) => inRoom.has(box)));
  const costs = new Map<string, number>();
  for (const id of ids) {
    const circuit = plannedCircuit(reader, id, { ...options, isHeld });
    if (circuit) costs.set(id, costOf(reader, [id], pricing, circuit.ground).total);
    // What it comes to is not known before all are added up.
    yield { step: 0, of: options.steps * ids.length, cost: Infinity, before: Infinity };
  }
  const before = [...costs.values()].reduce((sum, cost) => sum + cost, 0);
  const of = options.steps * costs.size;
  const last = new Map<string, CircuitFound>();
  let at = house;
  let step = 0;
  let isEnough = false;
  for (const share of ROUNDS)
    for (const circuitId of costs.keys()) {
      // What has not been looked at yet gets its first tree all the same.
      if (isEnough && last.has(circuitId)) continue;
      const steps = Math.ceil(options.steps * share);
      const others = [...costs].reduce((sum, [id, cost]) => (id === circuitId ? sum : sum + cost), 0);
      const search = planCircuit(at, circuitId, { ...options, ...pricing, steps, isHeld, kept });
      let told = search.next(isEnough);
      while (!told.done) {
        const cost = others + Math.min(told.value.cost, costs.get(circuitId)!);
        isEnough = (yield { step: step + told.value.step, of, cost, before }) === true;
        told = search.next(isEnough);
      }
      step += steps;
      const found = told.value;
      if (!found) continue;
      costs.set(circuitId, found.after.total);
      last.set(circuitId, found);
      at = found.house;
    }
  const shared = sharedHomeRuns(at, last, { ...options, ...pricing });
  return planOf(house, shared.at(-1)?.house ?? at, ids, pricing, last, shared);
}

function planOf(
  house: House,
  planned: House,
  ids: readonly string[],
  { priceOf, schools }: Pricing,
  last: ReadonlyMap<string, CircuitFound>,
  shared: readonly SharedHomeRun[],
): PullPlan {
  const [reader, next] = [new Derivations(house).reader(), new Derivations(planned).reader()];
  const known = ids.filter((id) => last.has(id));
  const pricing = { priceOf, schools };
  const ownCost = (of: HouseReader, id: string): PlanCost =>
    costOf(of, [id], pricing, last.get(id)!.circuit.ground);
  const isShared = new Set(shared.flatMap(({ circuitIds }) => circuitIds));
  const costs = (of: HouseReader): ReadonlyMap<string, PlanCost> =>
    new Map([
      ...known.flatMap((id) => (isShared.has(id) ? [] : [[id, ownCost(of, id)] as const])),
      ...shared.map(
        ({ circuitIds, ground }) => [circuitIds[0], costOf(of, circuitIds, pricing, ground)] as const,
      ),
    ]);
  const [first, then] = [costs(reader), costs(next)];
  const [before, after] = [sumOf(first.values()), sumOf(then.values())];
  const boxes = [...new Set(known.flatMap((id) => last.get(id)!.circuit.ground.nodes))];
  const measured = measureOf(reader, known, boxes);
  const left = ids.filter((id) => !last.has(id));
  const changes = after.total < before.total - 1e-9 ? changesBetween(reader, next, known) : [];
  if (changes.length === 0)
    return {
      before,
      after: before,
      measured: { before: measured, after: measured },
      circuits: [],
      left,
      larger: [],
    };
  // The cheapest larger box wherever what enters does not fit; a box with cable in it is nailed to its stud.
  const isSet = (boxId: string): boolean =>
    reader.get('boxes', boxId)?.asBuilt !== undefined ||
    runsAt(reader, boxId).some(({ id }) => standingPull(reader, id)?.state === 'in');
  const larger = boxes.flatMap((boxId) => {
    if (isSet(boxId)) return [];
    const fill = fillBox(next, boxId);
    const [type] = fill && !fill.fits ? fill.wouldFit : [];
    return type ? [{ boxId, catalogueId: type.id }] : [];
  });
  const circuits = known.flatMap((circuitId): CircuitPlan[] => {
    const pair = shared.find(({ circuitIds }) => circuitIds.includes(circuitId));
    if (pair) {
      const [own, other] = pair.circuitIds;
      if (circuitId !== own) return [];
      return [
        {
          circuitId,
          withCircuitId: other,
          before: first.get(own)!,
          after: then.get(own)!,
          swaps: sharedSwaps(
            pair,
            [own, other].flatMap((id) => swapsOf(reader, last.get(id)!)),
          ),
        },
      ];
    }
    const swaps = swapsOf(reader, last.get(circuitId)!);
    return swaps.length
      ? [{ circuitId, before: first.get(circuitId)!, after: then.get(circuitId)!, swaps }]
      : [];
  });
  const [one, ...more] = circuits;
  const change: ChangeBody = {
    kind: 'group',
    title:
      one && more.length === 0 && !one.withCircuitId
        ? `Planned circuit ${reader.get('circuits', one.circuitId)!.number}`
        : `Planned ${circuits.length + shared.length} circuits`,
    changes: [
      ...changes,
      ...larger.map(({ boxId, catalogueId }) => setting('boxes', boxId, modelFields({ catalogueId }))),
    ],
  };
  const applied = applyChange(house, change);
  const whole = applied.ok ? new Derivations(applied.document).reader() : next;
  return {
    before,
    after,
    measured: { before: measured, after: measureOf(whole, known, boxes) },
    circuits,
    left,
    larger,
    change,
  };
}

/** What turns the runs of these circuits into those of the plan. */
function changesBetween(
  before: HouseReader,
  after: HouseReader,
  circuitIds: readonly string[],
): SingleChangeBody[] {
  const [gone, rest]: [SingleChangeBody[], SingleChangeBody[]] = [[], []];
  const runsOf = (reader: HouseReader): Run[] => [
    ...new Set(
      circuitIds.flatMap((id) =>
        reader.mentioning('runs', id).filter(({ circuitIds: own }) => own.includes(id)),
      ),
    ),
  ];
  for (const run of runsOf(before)) if (!after.get('runs', run.id)) gone.push(removing('runs', run.id));
  for (const run of runsOf(after)) {
    const old = before.get('runs', run.id);
    // What stays is the same record.
    if (old === run) continue;
    if (!old) rest.push(adding('runs', run));
    else if (
      old.plannedCable !== run.plannedCable ||
      old.purpose !== undefined ||
      !sameJson(old.circuitIds, run.circuitIds)
    )
      rest.push(
        setting('runs', run.id, {
          plannedCable: run.plannedCable ?? null,
          ...(old.purpose && { purpose: null }),
          ...(!sameJson(old.circuitIds, run.circuitIds) && { circuitIds: run.circuitIds }),
        }),
      );
  }
  for (const id of circuitIds) {
    const neutralGroup = after.get('circuits', id)?.neutralGroup;
    if (neutralGroup !== before.get('circuits', id)?.neutralGroup)
      rest.push(setting('circuits', id, { neutralGroup: neutralGroup ?? null }));
  }
  return [...gone, ...rest];
}

/** What is measured of circuits and their boxes. */
function measureOf(
  reader: HouseReader,
  circuitIds: readonly string[],
  boxIds: readonly string[],
): PlanMeasure {
  const feetOf: Record<string, number> = {};
  let [studHoles, plateHoles, stops, fixes] = [0, 0, 0, 0];
  const runs = new Set(
    circuitIds.flatMap((id) =>
      reader
        .mentioning('runs', id)
        .filter(({ circuitIds: own, kind }) => kind === 'cable' && own.includes(id)),
    ),
  );
  for (const run of runs) {
    const { lengthIn, way } = cutOf(reader, run);
    const cable: CableId | 'none' = neededCable(reader, run) ?? 'none';
    feetOf[cable] = (feetOf[cable] ?? 0) + lengthIn / 12;
    const holes = holesOf(reader, way);
    studHoles += holes.studs;
    plateHoles += holes.plates;
  }
  for (const id of circuitIds)
    for (const { severity } of wireCircuit(reader, id).findings) {
      if (severity === 'stop') stops++;
      if (severity === 'fix') fixes++;
    }
  const tooFull = boxIds.filter((id) => fillBox(reader, id)?.fits === false).length;
  return { feetOf, runs: runs.size, studHoles, plateHoles, tooFull, stops, fixes };
}
