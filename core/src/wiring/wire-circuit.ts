import type { Derivation, HouseReader } from '../derive/reader.js';
import { cableFor } from '../house/cables.js';
import type { CableId } from '../house/cables.js';
import { cableIn, conductorsOf, standingPull } from '../house/box-facts.js';
import type { Circuit, Run } from '../house/model.js';
import { boxName, circuitName, runName } from '../house/naming.js';
import type { Awg, Colour } from '../house/text.js';
import type { Finding } from '../inspection/finding.js';
import type { CircuitTree } from './circuit-tree.js';
import { circuitTree } from './circuit-tree.js';
import { assignConductors } from './conductors.js';
import type { CircuitControls, ReachedPoint } from './controls.js';
import { pointsReached, sortControls } from './controls.js';
import type { Carried, Signal, Terminal } from './signal.js';
import { controlOfLeg, legOf } from './signal.js';
import { terminalsOf } from './terminals.js';

/** What one run of a circuit has to carry and which conductor does it. */
export interface RunWiring {
  readonly needs: readonly Signal[];
  /** By conductor key; empty while the run has no cable. */
  readonly carries: ReadonlyMap<string, Carried>;
  readonly missing: readonly Signal[];
  /** The cable this run needs by breaker and conductors; undefined where that cannot be derived yet. */
  readonly needed?: CableId;
  /** What runs in it cannot be derived yet. */
  readonly open: boolean;
}

export interface CircuitWiring {
  readonly circuitId: string;
  readonly tree: CircuitTree;
  readonly runs: ReadonlyMap<string, RunWiring>;
  /** Where signals land, by box. */
  readonly terminals: ReadonlyMap<string, readonly Terminal[]>;
  /** Devices of which at least one point could not be wired. */
  readonly openDevices: ReadonlySet<string>;
  readonly findings: readonly Finding[];
}

const GAUGES: readonly Awg[] = [14, 12, 10, 8, 6];

/** The thinnest copper that the breaker allows (240.4(D)); undefined above 6 AWG. */
export const gaugeFor = (reader: HouseReader, breakerAmps: number): Awg | undefined =>
  GAUGES.find((awg) => reader.rules().number(`wire.maxBreaker.${awg}`) >= breakerAmps);

/** In which tree runs a set of boxes needs to be joined: those with boxes of the set on both sides. */
function runsBetween(tree: CircuitTree, boxes: readonly string[]): Set<Run> {
  const below = new Map<string, number>();
  for (const boxId of boxes) below.set(boxId, (below.get(boxId) ?? 0) + 1);
  const found = new Set<Run>();
  for (const boxId of tree.boxes.toReversed()) {
    const feed = tree.feed.get(boxId);
    const count = below.get(boxId) ?? 0;
    if (!feed || count === 0) continue;
    if (count < boxes.length) found.add(feed.run);
    below.set(feed.from, (below.get(feed.from) ?? 0) + count);
  }
  return found;
}

/** Step two of four: which signal each run carries. A signal is needed on a run exactly when it has ends on both sides. */
function needsOf(
  tree: CircuitTree,
  terminals: readonly Terminal[],
  points: readonly ReachedPoint[],
  controls: CircuitControls,
): Map<Run, Signal[]> {
  const ends = new Map<Signal, string[]>([
    ['hot', [tree.panelId]],
    ['neutral', [tree.panelId]],
  ]);
  const end = (signal: Signal, boxId: string): void => {
    ends.set(signal, [...(ends.get(signal) ?? []), boxId]);
  };
  for (const { signal, boxId } of terminals) end(signal, boxId);
  // The neutral comes along to every switch (404.2(C)); with the feed at the switch it is there anyway.
  for (const { point, boxId } of points) if (point.role === 'lever') end('neutral', boxId);
  // A control that cannot be wired yet is fed all the same.
  for (const { boxes } of controls.open) {
    for (const boxId of boxes) {
      end('hot', boxId);
      end('neutral', boxId);
    }
  }
  const needs = new Map<Run, Signal[]>();
  for (const [signal, boxes] of ends) {
    for (const run of runsBetween(tree, boxes)) needs.set(run, [...(needs.get(run) ?? []), signal]);
  }
  return needs;
}

function colourWish(reader: HouseReader, controls: CircuitControls): (signal: Signal) => readonly Colour[] {
  const fan = reader.rules().text('makeup.fanColour') as Colour;
  const other: Colour = fan === 'BK' ? 'RD' : 'BK';
  const isFan = new Map(
    controls.wired.map((control) => [
      legOf(control.id),
      control.loads.some((id) => reader.get('points', id)?.role === 'fan'),
    ]),
  );
  const hasFan = [...isFan.values()].some(Boolean);
  return (signal) => {
    if (signal === 'neutral') return ['WH'];
    if (signal === 'hot') return ['BK', 'RD', 'BU'];
    if (signal === 'interconnect') return ['RD', 'BU'];
    if (isFan.get(signal)) return [fan, other, 'BU'];
    return hasFan ? [other, fan, 'BU'] : ['BK', 'RD', 'BU'];
  };
}

/** Words for a signal, for people. */
export function signalName(reader: HouseReader, carried: Carried): string {
  const control = controlOfLeg(carried);
  if (control) return `leg of “${reader.get('controls', control)?.name ?? 'a control'}”`;
  return carried;
}

const notDerived = (circuit: Circuit): Pick<Finding, 'code' | 'message'> | undefined => {
  if (circuit.poles === 2) return { code: 'not-yet.240-volt', message: '240 V circuits are' };
  if (circuit.neutralGroup)
    return { code: 'not-yet.multiwire', message: 'circuits that share a neutral are' };
  return undefined;
};

function wire(reader: HouseReader, circuitId: string): CircuitWiring {
  const circuit = reader.get('circuits', circuitId)!;
  const tree = circuitTree(reader, circuitId, circuit.panelId);
  const findings: Finding[] = [];
  const runs = new Map<string, RunWiring>();
  const leaveOpen = (run: Run): void => {
    const carries = conductorsOf(reader, run)
      .filter((conductor) => !conductor.ground)
      .map((conductor) => [conductor.key, 'undecided'] as const);
    runs.set(run.id, { needs: [], carries: new Map(carries), missing: [], open: true });
  };
  for (const run of tree.loops) {
    leaveOpen(run);
    findings.push({
      code: 'wiring.loop',
      severity: 'mend',
      where: { circuitId, runId: run.id },
      message: `${runName(reader, run)} closes a loop on ${circuitName(reader, circuitId)}: both its ends are already fed. Take it out, or change which boxes it joins. Its conductors are left open.`,
      source: 'NEC 300.3(B)',
    });
  }
  for (const run of tree.loose) {
    leaveOpen(run);
    findings.push({
      code: 'run.loose-end',
      severity: 'note',
      where: { circuitId, runId: run.id, boxId: run.from.boxId },
      message: `${runName(reader, run)} ends loose. Say which box it goes to; until then its conductors are left open.`,
    });
  }
  for (const run of tree.islands) leaveOpen(run);

  const unsupported = notDerived(circuit);
  if (unsupported) {
    for (const { run } of tree.feed.values()) leaveOpen(run);
    findings.push({
      code: unsupported.code,
      severity: 'note',
      where: { circuitId },
      message: `${circuitName(reader, circuitId)}: deriving how ${unsupported.message} wired is not built yet. Its conductors are left open.`,
    });
    const openDevices = new Set(pointsReached(reader, circuitId, tree).map(({ device }) => device.id));
    return { circuitId, tree, runs, terminals: new Map(), openDevices, findings };
  }

  // Signals.
  const points = pointsReached(reader, circuitId, tree);
  const controls = sortControls(reader, circuitId, tree, points);
  findings.push(...controls.findings);
  for (const { point, boxId } of points) {
    if (point.role !== 'lever' || controls.ofPoint.has(point.id)) continue;
    findings.push({
      code: 'control.switch-without',
      severity: 'mend',
      where: { circuitId, boxId, pointId: point.id },
      message: `A switch in ${boxName(reader, boxId)} switches nothing yet. Say what it controls.`,
    });
  }
  const { terminals, open: openDevices } = terminalsOf(reader, points, controls);

  // Needs on the tree.
  const needs = needsOf(tree, terminals, points, controls);
  const openRuns = new Set(
    controls.open.flatMap(({ boxes, fromPanel }) => [
      ...runsBetween(tree, fromPanel ? [tree.panelId, ...boxes] : boxes),
    ]),
  );

  // Conductors.
  const gauge = gaugeFor(reader, circuit.breakerAmps);
  const wish = colourWish(reader, controls);
  for (const { run } of tree.feed.values()) {
    if (openRuns.has(run)) {
      leaveOpen(run);
      continue;
    }
    if (run.kind === 'raceway' || run.circuitIds.length > 1) {
      leaveOpen(run);
      findings.push({
        code: run.kind === 'raceway' ? 'not-yet.raceway' : 'not-yet.shared-run',
        severity: 'note',
        where: { circuitId, runId: run.id },
        message: `${runName(reader, run)}: deriving ${run.kind === 'raceway' ? 'single conductors in raceway' : 'a run that carries several circuits'} is not built yet. Its conductors are left open.`,
      });
      continue;
    }
    runs.set(run.id, wireRun(reader, run, needs.get(run) ?? [], gauge, wish, findings, circuitId));
  }
  const byBox = new Map<string, Terminal[]>();
  for (const terminal of terminals)
    byBox.set(terminal.boxId, [...(byBox.get(terminal.boxId) ?? []), terminal]);
  return { circuitId, tree, runs, terminals: byBox, openDevices, findings };
}

function wireRun(
  reader: HouseReader,
  run: Run,
  needs: readonly Signal[],
  gauge: Awg | undefined,
  wish: (signal: Signal) => readonly Colour[],
  findings: Finding[],
  circuitId: string,
): RunWiring {
  const needed = gauge && cableFor(gauge, Math.max(2, needs.length))?.id;
  const cable = cableIn(reader, run);
  if (!cable) {
    findings.push({
      code: 'run.no-cable',
      severity: 'note',
      where: { circuitId, runId: run.id },
      message: `${runName(reader, run)} has no cable yet.${needed ? ` It needs ${needed}.` : ''}`,
      ...(needed && { fixes: [planCable(run, needed)] }),
    });
    return { needs, carries: new Map(), missing: [], open: false, ...(needed && { needed }) };
  }
  const { carries, missing } = assignConductors(needs, conductorsOf(reader, run), wish);
  if (missing.length) {
    const pulled = standingPull(reader, run.id) !== undefined;
    findings.push({
      code: 'wiring.too-few-conductors',
      severity: 'stop',
      where: { circuitId, runId: run.id },
      message: `${runName(reader, run)} must carry ${needs.map((signal) => signalName(reader, signal)).join(', ')}; ${cable} ${pulled ? 'is in the wall' : 'is planned'} and has no conductor for ${missing.map((signal) => signalName(reader, signal)).join(', ')}.${needed ? ` It needs ${needed}.` : ' No one cable has so many: a second run is needed.'}`,
      measured: cable,
      ...(needed && { allowed: needed }),
      ...(needed && !pulled && { fixes: [planCable(run, needed)] }),
    });
  }
  return { needs, carries, missing, open: false, ...(needed && { needed }) };
}

const planCable = (run: Run, cable: CableId) => ({
  label: `Plan ${cable} for this run`,
  change: { kind: 'run.set' as const, recordId: run.id, fields: { plannedCable: cable } },
});

/** The wiring of one circuit, by circuit id: signals, needs on the tree, conductors. Joints follow per box. */
export const CIRCUIT_WIRING: Derivation<CircuitWiring> = { name: 'circuit wiring', compute: wire };

export const wireCircuit = (reader: HouseReader, circuitId: string): CircuitWiring =>
  reader.derive(CIRCUIT_WIRING, circuitId);
