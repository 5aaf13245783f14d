import { setting } from '../changes/change.js';
import type { Refusal } from '../changes/apply.js';
import { applyChange } from '../changes/apply.js';
import type { ChangeBody, SingleChangeBody } from '../changes/change.js';
import type { HouseReader } from '../derive/reader.js';
import { readerOf } from '../derive/reader.js';
import { fillBox } from '../fill/fill-box.js';
import { boxesOf, cableIn, circuitOfPoint, standingPull } from '../facts/box-facts.js';
import type { CableId } from '../rulebook/cables.js';
import { cableOf } from '../rulebook/cables.js';
import type { House } from '../house/house.js';
import type { Control, Run } from '../house/model.js';
import { boxName, runName } from '../facts/naming.js';
import { BOX_FINDINGS } from '../inspection/box-findings.js';
import { CIRCUIT_FINDINGS } from '../inspection/circuit-findings.js';
import type { Finding } from '../findings/finding.js';
import type { Progress } from '../inspection/look-through.js';
import type { Steps } from '../structures/steps.js';
import { finish } from '../structures/steps.js';
import { runsBetween, wayUp } from '../wiring/circuit/circuit-tree.js';
import type { LeverKind } from '../wiring/circuit/device-models.js';
import { leverKind } from '../wiring/circuit/device-models.js';
import { wireCircuit } from '../wiring/conductors/wire-circuit.js';

/** What a change would mean for one control and the runs and boxes it has to do with. */
export interface Outlook {
  readonly refusal?: Refusal;
  /** Switches by their place in the electrical order. */
  readonly places: readonly { readonly pointId: string; readonly box: string; readonly kind: LeverKind }[];
  readonly runs: readonly {
    readonly runId: string;
    readonly name: string;
    /** In the wall or planned. */
    readonly has?: CableId;
    readonly needed?: CableId;
    readonly pulled: boolean;
    readonly conductors: number;
  }[];
  readonly conductors: number;
  /** Volumes in in³, with every run that is not pulled planned as needed. */
  readonly fills: readonly {
    readonly boxId: string;
    readonly tag: string;
    readonly before?: number;
    readonly after: number;
    readonly capacity: number;
  }[];
  /** What is found then about these runs and boxes. */
  readonly findings: readonly Finding[];
  /** The change together with the cables that it asks for. */
  readonly change: ChangeBody;
}

interface Extent {
  readonly runs: readonly string[];
  readonly boxes: readonly string[];
  readonly circuitId?: string;
  /** The box of the control that power reaches first, and the run that brings it. */
  readonly first?: string;
  readonly feed?: Run;
}

/** The boxes of a control and the runs between them, with the feed that reaches them first. */
function extentOf(reader: HouseReader, control: Control): Extent {
  const points = [...control.places, ...control.loads].flatMap((id) => reader.get('points', id) ?? []);
  const circuitId = points.map((point) => circuitOfPoint(reader, point)).find(Boolean);
  const own = points.map(({ deviceId }) => reader.get('devices', deviceId)!.boxId);
  if (!circuitId || !reader.get('circuits', circuitId)) return { runs: [], boxes: [...new Set(own)] };
  const { tree } = wireCircuit(reader, circuitId);
  const nodes = points
    .map(({ deviceId }) => tree.moved.get(deviceId) ?? reader.get('devices', deviceId)!.boxId)
    .filter((node) => tree.boxOf.has(node));
  const runs = runsBetween(tree, nodes);
  const boxes = new Set(own);
  for (const id of runs) {
    const run = reader.get('runs', id)!;
    for (const boxId of boxesOf(run)) boxes.add(boxId);
  }
  const ways = nodes.map((node) => wayUp(tree, node));
  const top = ways[0]?.find((node) => ways.every((way) => way.includes(node)));
  const feed = top ? tree.feed.get(top)?.run : undefined;
  return {
    runs: [...(feed ? [feed.id] : []), ...[...runs].reverse()],
    boxes: [...boxes],
    circuitId,
    ...(top && { first: tree.boxOf.get(top)! }),
    ...(feed && { feed }),
  };
}

/** So many times the cables that a change asks for are planned and the order of the places derived again. */
const ROUNDS = 4;

const NOTHING = { places: [], runs: [], conductors: 0, fills: [], findings: [] };

const sizeOf = (cable: CableId | undefined): number => (cable ? cableOf(cable).colours.length : 0);

/** Runs of the circuit that need another cable, or carry more or fewer conductors, than they did before. */
function changedRuns(before: HouseReader, after: HouseReader, circuitId: string): string[] {
  const known = before.get('circuits', circuitId) && wireCircuit(before, circuitId).runs;
  return [...wireCircuit(after, circuitId).runs].flatMap(([id, { needs, needed }]) => {
    const was = known?.get(id);
    return was && (was.needed !== needed || was.needs.length !== needs.length) ? [id] : [];
  });
}

/** The changes that a change is made of. */
const singlesOf = (body: ChangeBody | undefined): readonly SingleChangeBody[] =>
  !body ? [] : body.kind === 'group' ? body.changes : [body as SingleChangeBody];

const planning = (recordId: string, plannedCable: CableId): SingleChangeBody =>
  setting('runs', recordId, { plannedCable });

/**
 * What a change would mean for a control: nothing is changed, the house is only looked at. The runs are those of the control,
 * those that the change makes carry something else, and these others. `before` is a reader of the house as it is: what is kept
 * by it is shared.
 */
export function outlook(
  house: House,
  body: ChangeBody | undefined,
  controlId: string,
  others: readonly string[] = [],
  before = readerOf(house),
): Outlook {
  const cables = new Map<string, CableId>();
  for (let round = 1; ; round++) {
    const changes = [...singlesOf(body), ...[...cables].map(([id, cable]) => planning(id, cable))];
    const together = (title: string): ChangeBody => ({ kind: 'group', title, changes });
    const applied = changes.length
      ? applyChange(house, together(''))
      : { ok: true as const, document: house };
    if (!applied.ok) return { ...NOTHING, refusal: applied.refusal, change: together('') };
    const then = before.fork(applied.document);
    const control = then.get('controls', controlId);
    if (!control) return { ...NOTHING, change: together('') };
    const extent = extentOf(then, control);
    const { circuitId } = extent;
    const wiring = circuitId ? wireCircuit(then, circuitId) : undefined;
    const ids = [
      ...new Set([
        ...extent.runs,
        ...(circuitId ? changedRuns(before, then, circuitId) : []),
        ...others.filter((id) => wiring?.runs.has(id)),
      ]),
    ];
    let isSettled = true;
    for (const id of ids) {
      const run = then.get('runs', id)!;
      const needed = wiring?.runs.get(id)?.needed;
      const has = cableIn(then, run);
      if (!needed || needed === has || run.kind !== 'cable' || standingPull(then, id)) continue;
      // Later only larger ones, so that it comes to an end.
      if (round > 1 && sizeOf(needed) <= sizeOf(has)) continue;
      cables.set(id, needed);
      isSettled = false;
    }
    if (!isSettled && round < ROUNDS) continue;
    const title = (body?.kind === 'group' && body.title) || `Changed “${control.name}”`;
    return seen(before, then, control, extent, ids, together(title));
  }
}

function seen(
  before: HouseReader,
  then: HouseReader,
  control: Control,
  extent: Extent,
  ids: readonly string[],
  change: ChangeBody,
): Outlook {
  const { circuitId } = extent;
  const wiring = circuitId ? wireCircuit(then, circuitId) : undefined;
  const runs = ids.map((runId) => {
    const run = then.get('runs', runId)!;
    const has = cableIn(before, before.get('runs', runId) ?? run);
    const own = wiring?.runs.get(runId);
    return {
      runId,
      name: runName(then, run),
      ...(has && { has }),
      ...(own?.needed && { needed: own.needed }),
      pulled: standingPull(then, runId) !== undefined,
      conductors: own?.needs.length ?? 0,
    };
  });
  const boxes = new Set([...extent.boxes, ...ids.flatMap((id) => boxesOf(then.get('runs', id)!))]);
  const ownRuns = new Set(ids);
  return {
    places: control.places.map((pointId) => {
      const place = wiring?.levers.get(pointId);
      const device = then.get('devices', then.get('points', pointId)?.deviceId ?? '');
      return {
        pointId,
        box: boxName(then, device?.boxId ?? ''),
        kind: place ? leverKind(place) : 'single-pole',
      };
    }),
    runs,
    conductors: runs.reduce((sum, run) => sum + run.conductors, 0),
    fills: [...boxes].flatMap((boxId) => {
      const fill = fillBox(then, boxId);
      if (!fill) return [];
      const was = before.get('boxes', boxId) ? fillBox(before, boxId) : undefined;
      return [
        {
          boxId,
          tag: boxName(then, boxId),
          ...(was && { before: was.totalIn3 }),
          after: fill.totalIn3,
          capacity: fill.capacityIn3,
        },
      ];
    }),
    findings: [
      ...(wiring?.circuitIds ?? []).flatMap((id) => then.derive(CIRCUIT_FINDINGS, id)),
      ...[...boxes].flatMap((boxId) => then.derive(BOX_FINDINGS, boxId)),
    ].filter(
      ({ where }) =>
        where.controlId === control.id ||
        (where.runId !== undefined && ownRuns.has(where.runId)) ||
        (where.boxId !== undefined && extent.boxes.includes(where.boxId)),
    ),
    change,
  };
}

/** A control fed at one of its boxes. */
export interface FeedOption {
  readonly boxId: string;
  readonly tag: string;
  /** Power comes here now. */
  readonly now: boolean;
  readonly hasSwitch: boolean;
  readonly hasLoad: boolean;
  readonly outlook: Outlook;
}

/**
 * The same control with its feed brought to each of its boxes instead: what cable, how many conductors, how full the boxes
 * and what the neutral rule says. Only a feed that is not pulled yet can be led elsewhere. Stops after each box that it has
 * looked at.
 */
export function* feedOptionsInSteps(
  house: House,
  controlId: string,
  reader = readerOf(house),
): Steps<FeedOption[], Progress> {
  const control = reader.get('controls', controlId);
  if (!control) return [];
  const { first, feed } = extentOf(reader, control);
  if (!first || !feed) return [];
  const boxesOf = (points: readonly string[]): Set<string> =>
    new Set(points.map((id) => reader.get('devices', reader.get('points', id)!.deviceId)!.boxId));
  const [switches, loads] = [boxesOf(control.places), boxesOf(control.loads)];
  const side = feed.from.boxId === first ? 'from' : 'to';
  const ends = [...new Set([first, ...switches, ...loads])].filter(
    (boxId) => boxId === first || (!standingPull(reader, feed.id) && feed.from.boxId !== boxId),
  );
  const bodyFor = (boxId: string): ChangeBody | undefined =>
    boxId === first ? undefined : setting('runs', feed.id, { [side]: { boxId } });
  const of = ends.length * 2;
  let done = 0;
  const possible: string[] = [];
  const runs: string[] = [];
  for (const boxId of ends) {
    const looked = outlook(house, bodyFor(boxId), controlId, [], reader);
    if (!looked.refusal) possible.push(boxId);
    runs.push(...looked.runs.map(({ runId }) => runId));
    yield { done: ++done, of };
  }
  const options: FeedOption[] = [];
  // The same runs for all, so that they can be compared.
  for (const boxId of possible) {
    options.push({
      boxId,
      tag: boxName(reader, boxId),
      now: boxId === first,
      hasSwitch: switches.has(boxId),
      hasLoad: loads.has(boxId),
      outlook: outlook(house, bodyFor(boxId), controlId, runs, reader),
    });
    yield { done: ++done, of };
  }
  return options;
}

/** All of {@link feedOptionsInSteps} at once. */
export const feedOptions = (house: House, controlId: string, reader = readerOf(house)): FeedOption[] =>
  finish(feedOptionsInSteps(house, controlId, reader));
