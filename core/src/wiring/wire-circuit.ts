import type { Derivation, HouseReader } from '../derive/reader.js';
import { cableFor } from '../house/cables.js';
import type { CableId } from '../house/cables.js';
import type { Circuit, Run } from '../house/model.js';
import { boxName, circuitName, runName } from '../house/naming.js';
import type { Awg, Colour } from '../house/text.js';
import type { Finding } from '../inspection/finding.js';
import { cited } from '../rulebook/sections.js';
import { withBranches } from './branches.js';
import type { CircuitTree } from './circuit-tree.js';
import { circuitTree } from './circuit-tree.js';
import type { ColourSchools } from './conductors.js';
import { assignConductors } from './conductors.js';
import { landSignals, leversOf, madeSignals } from './land-signals.js';
import type { TreeNeeds } from './needs.js';
import { conductorsFor } from './needs.js';
import { noNeutral, paletteOf, planCable, tooFew } from './shortages.js';
import type { Carried, Signal, Terminal } from './signal.js';
import { controlOf, kindOf } from './signal.js';
import type { LeverPlace } from './terminals.js';
import { runsOfGroup, wiringGroup } from './wiring-group.js';

/** What one run of a circuit has to carry and which conductor does it. */
export interface RunWiring {
  readonly needs: readonly Signal[];
  /** By conductor key; empty while the run has no cable. */
  readonly carries: ReadonlyMap<string, Carried>;
  readonly missing: readonly Signal[];
  /** The cable this run needs by breaker and conductors; undefined where that cannot be derived. */
  readonly needed?: CableId;
  /** It carries power on, and is pulled before what only carries switched conductors. */
  readonly power: boolean;
  /** What runs in it cannot be derived. */
  readonly open: boolean;
}

/** The wiring of a circuit, or of the circuits that share its neutral. */
export interface CircuitWiring {
  readonly circuitIds: readonly string[];
  readonly tree: CircuitTree;
  readonly runs: ReadonlyMap<string, RunWiring>;
  /** Where signals land, by box. */
  readonly terminals: ReadonlyMap<string, readonly Terminal[]>;
  /** Where each lever stands in the electrical order of its control, by point. */
  readonly levers: ReadonlyMap<string, LeverPlace>;
  /** Devices of which at least one point could not be wired. */
  readonly openDevices: ReadonlySet<string>;
  readonly findings: readonly Finding[];
}

const GAUGES: readonly Awg[] = [14, 12, 10, 8, 6];

/** The thinnest copper that the breaker allows (240.4(D)); undefined above 6 AWG. */
export const gaugeFor = (reader: HouseReader, breakerAmps: number): Awg | undefined =>
  GAUGES.find((awg) => reader.rules().number(`wire.maxBreaker.${awg}`) >= breakerAmps);

function schoolsOf(reader: HouseReader, needs: TreeNeeds, run: Run): ColourSchools {
  const fans = new Set(
    needs.controls.wired
      .filter((control) => control.loads.some((id) => reader.get('points', id)?.role === 'fan'))
      .map(({ id }) => id),
  );
  return {
    fan: reader.rules().text('makeup.fanColour') as Colour,
    loopSupply: reader.rules().text('wiring.loopSupply') as Colour,
    isFanLeg: (signal) => kindOf(signal) === 'leg' && fans.has(controlOf(signal)!),
    isRaceway: run.kind === 'raceway',
    palette: paletteOf(reader),
  };
}

/** Steps one to three of wiring for one group. */
function wireGroup(reader: HouseReader, group: readonly Circuit[]): CircuitWiring {
  const circuitIds = group.map(({ id }) => id);
  const leader = group[0]!;
  const plain = circuitTree(reader, leader.panelId, runsOfGroup(reader, group));
  const needs = withBranches(reader, group, plain);
  const { tree, controls } = needs;
  const findings: Finding[] = [];
  const runs = new Map<string, RunWiring>();
  const leaveOpen = (run: Run): void => {
    const carries = (conductorsFor(reader, run, circuitIds) ?? []).map(
      (conductor) => [conductor.key, 'undecided'] as const,
    );
    runs.set(run.id, {
      needs: [],
      carries: new Map(carries),
      missing: [],
      power: needs.power.has(run.id),
      open: true,
    });
  };
  for (const run of tree.loops) {
    leaveOpen(run);
    findings.push({
      code: 'wiring.loop',
      severity: 'mend',
      where: { circuitId: leader.id, runId: run.id },
      message: `${runName(reader, run)} closes a loop on ${circuitName(reader, leader.id)}: both its ends are already fed. Take it out, or change which boxes it joins. Its conductors are left open.`,
      source: cited('together'),
    });
  }
  for (const run of tree.loose) {
    leaveOpen(run);
    findings.push({
      code: 'run.loose-end',
      severity: 'note',
      where: { circuitId: leader.id, runId: run.id, boxId: run.from.boxId },
      message: `${runName(reader, run)} ends loose. Say which box it goes to; until then its conductors are left open.`,
    });
  }
  for (const run of tree.islands) leaveOpen(run);
  findings.push(...controls.findings);

  const levers = leversOf(needs);
  const landed = landSignals(reader, needs, levers);
  findings.push(...landed.findings);
  const terminals = new Map<string, Terminal[]>();
  for (const terminal of landed.terminals)
    terminals.set(terminal.boxId, [...(terminals.get(terminal.boxId) ?? []), terminal]);
  for (const deviceId of needs.protection.crossed) {
    const device = reader.get('devices', deviceId)!;
    findings.push({
      code: 'gfci.crossed',
      severity: 'note',
      where: { circuitId: leader.id, boxId: device.boxId, deviceId },
      message: `A control reaches across the GFCI receptacle in ${boxName(reader, device.boxId)}: what is fed on to its side is pigtailed past the receptacle, not protected by it.`,
    });
  }

  const gauge = gaugeFor(reader, Math.max(...group.map(({ breakerAmps }) => breakerAmps)));
  const made = madeSignals(reader, group, tree, terminals);
  const short = new Map<string, number>();
  for (const { runs: full } of needs.neutralShort)
    for (const run of full) short.set(run, Math.max(short.get(run) ?? 0, 1));
  for (const { run } of tree.feed.values()) {
    const foreign = run.circuitIds.filter((id) => !circuitIds.includes(id));
    if (needs.open.has(run.id) || (run.kind === 'cable' && foreign.length)) {
      leaveOpen(run);
      if (run.kind === 'cable' && foreign.length && circuitIds[0] === [...run.circuitIds].sort()[0]) {
        findings.push({
          code: 'run.circuits-apart',
          severity: 'stop',
          where: { circuitId: leader.id, runId: run.id },
          message: `${runName(reader, run)} carries ${run.circuitIds.map((id) => circuitName(reader, id)).join(' and ')}, which share no neutral. Give them one neutral group and a common disconnect, or a run each.`,
          source: cited('multiwire'),
        });
      }
      continue;
    }
    const wanted = needs.needs.get(run.id) ?? [];
    const available = conductorsFor(reader, run, circuitIds);
    const count = Math.max(2, wanted.length + (short.get(run.id) ?? 0));
    const needed = run.kind === 'cable' && gauge ? cableFor(gauge, count)?.id : undefined;
    if (!available) {
      runs.set(run.id, {
        needs: wanted,
        carries: new Map(),
        missing: [],
        power: needs.power.has(run.id),
        open: false,
        ...(needed && { needed }),
      });
      if (run.kind === 'cable') {
        findings.push({
          code: 'run.no-cable',
          severity: 'note',
          where: { circuitId: leader.id, runId: run.id },
          message: `${runName(reader, run)} has no cable yet.${needed ? ` It needs ${needed}.` : ''}`,
          ...(needed && { fixes: [planCable(run, needed)] }),
        });
      }
      continue;
    }
    const assigned = (tried: TreeNeeds) =>
      assignConductors(
        tried.needs.get(run.id) ?? [],
        available,
        schoolsOf(reader, tried, run),
        made.of(run.id),
      );
    const { carries, missing } = assigned(needs);
    made.learn(run.id, carries);
    runs.set(run.id, {
      needs: wanted,
      carries,
      missing,
      power: needs.power.has(run.id),
      open: false,
      ...(needed && { needed }),
    });
    if (missing.length) {
      const lackOf = (tried: TreeNeeds): number => assigned(tried).missing.length;
      findings.push(tooFew(reader, { group, needs, run, wanted, missing, needed, gauge, lackOf }));
    }
  }
  for (const shortage of needs.neutralShort) findings.push(noNeutral(reader, shortage, runs));
  return {
    circuitIds,
    tree,
    runs,
    terminals,
    levers,
    openDevices: landed.openDevices,
    findings,
  };
}

/**
 * The wiring of one circuit, by circuit id: signals, needs on the tree, conductors. Circuits that share a neutral have one
 * wiring together, derived under the first of them. Joints follow per box.
 */
export const CIRCUIT_WIRING: Derivation<CircuitWiring> = {
  name: 'circuit wiring',
  compute: (reader, circuitId) => {
    const group = wiringGroup(reader, circuitId);
    const leader = group[0]!.id;
    return leader === circuitId ? wireGroup(reader, group) : reader.derive(CIRCUIT_WIRING, leader);
  },
};

export const wireCircuit = (reader: HouseReader, circuitId: string): CircuitWiring =>
  reader.derive(CIRCUIT_WIRING, circuitId);
