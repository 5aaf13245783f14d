import type { CircuitSupply } from '../../facts/circuit-facts.js';
import { wiringGroup } from '../../facts/circuit-facts.js';
import { NO_FACTS } from '../../findings/finding.js';
import { setting } from '../../changes/change.js';
import { roomOf } from '../../facts/box-facts.js';
import type { Derivation, HouseReader } from '../../derive/reader.js';
import { deviceType } from '../../facts/box-facts.js';
import type { CableId } from '../../rulebook/cables.js';
import { cableFor } from '../../rulebook/cables.js';
import type { Run } from '../../house/model.js';
import type { Gauge } from '../../vocabulary/size.js';
import type { Colour } from '../../vocabulary/text.js';
import type { Finding, Fix } from '../../findings/finding.js';
import { needsGfci } from '../../rulebook/rooms.js';
import { withBranches } from '../needs/branches.js';
import { circuitTree } from '../circuit/circuit-tree.js';
import type { ColourSchools } from './conductors.js';
import { assignConductors } from './conductors.js';
import { gaugeOfGroup, isRing } from '../circuit/gauge.js';
import { landSignals, leversOf, madeSignals } from './land-signals.js';
import type { TreeNeeds } from '../needs/needs.js';
import type { LostProtection } from '../circuit/protection.js';
import { conductorsFor } from '../needs/conductors-for.js';
import { noNeutral, paletteOf, planCable, tooFew } from './shortages.js';
import type { SignalLanding } from '../../vocabulary/signal.js';
import { controlOf, kindOf } from '../../vocabulary/signal.js';
import type { LeverPlace } from '../circuit/device-models.js';
import { coloursOf } from '../circuit/marking.js';
import { travelerColours } from './traveler-colours.js';
import { leverKind } from '../circuit/device-models.js';
import { runsOfGroup } from '../circuit/wiring-group.js';
import type { CircuitWiring, RunWiring } from './circuit-wiring.js';

const SCHOOLS = new WeakMap<TreeNeeds, { readonly cable: ColourSchools; readonly raceway: ColourSchools }>();

function schoolsOf(
  reader: HouseReader,
  needs: TreeNeeds,
  run: Run,
  circuitIds: readonly string[],
): ColourSchools {
  let known = SCHOOLS.get(needs);
  if (!known) {
    const cable = cableSchools(reader, needs, circuitIds);
    SCHOOLS.set(needs, (known = { cable, raceway: { ...cable, isRaceway: true } }));
  }
  if (run.kind === 'raceway') return known.raceway;
  const plan = coloursOf(reader, run);
  return plan === known.cable.plan ? known.cable : { ...known.cable, plan };
}

function cableSchools(reader: HouseReader, needs: TreeNeeds, circuitIds: readonly string[]): ColourSchools {
  const runs = new Map([...needs.tree.feed.values()].map(({ run }) => [run.id, run]));
  const fans = new Set(
    needs.controls.wired
      .filter((control) => control.loads.some((id) => reader.get('points', id)?.role === 'fan'))
      .map(({ id }) => id),
  );
  return {
    plan: reader.rules().jurisdiction.colours,
    fan: reader.rules().text('makeup.fanColour') as Colour,
    loopSupply: reader.rules().text('wiring.loopSupply') as Colour,
    isFanLeg: (signal) => kindOf(signal) === 'leg' && fans.has(controlOf(signal)!),
    isRaceway: false,
    palette: paletteOf(reader),
    alongChain: travelerColours(needs, reader.rules().jurisdiction.colours, (id) =>
      conductorsFor(reader, runs.get(id)!, circuitIds),
    ),
  };
}

/** What a feed-through GFCI device does not protect, although it stands before it. */
function lostFindings(reader: HouseReader, circuitId: string, all: readonly LostProtection[]): Finding[] {
  return all.map(({ deviceId, why, lost }): Finding => {
    const device = reader.get('devices', deviceId)!;
    const asked = lost.filter(({ boxId }) =>
      needsGfci(reader.rules(), roomOf(reader, boxId)?.kind ?? 'other'),
    );
    return {
      code: 'gfci.crossed',
      severity: asked.length ? 'stop' : 'note',
      where: { circuitId, boxId: asked[0]?.boxId ?? device.boxId, deviceId },
      facts: {
        why: why === 'control' ? 'control' : 'shared-neutral',
        deviceBoxId: device.boxId,
        askedIn: [...new Set(asked.map(({ boxId }) => boxId))],
      },
      ...(asked.length && {
        source: { rule: 'gfci.rooms' },
        fixes: [...new Set(asked.map(({ device: open }) => open.id))].flatMap((id): Fix[] => {
          const points = reader.mentioning('points', id);
          // Only one that is as it came from the catalogue and switched by nothing can be changed by one touch.
          return points.length === 1 && reader.mentioning('controls', points[0]!.id).length === 0
            ? [
                {
                  code: 'gfci-receptacle',
                  facts: { boxId: reader.get('devices', id)!.boxId },
                  change: setting('devices', id, { catalogueId: 'receptacle-gfci' }),
                },
              ]
            : [];
        }),
      }),
    };
  });
}

/** Dimmers, timers and smart switches at a place that their kind cannot serve. */
function cannotServe(
  reader: HouseReader,
  needs: TreeNeeds,
  levers: ReadonlyMap<string, LeverPlace>,
): Finding[] {
  return needs.points.flatMap(({ point, device, boxId, circuitId }): Finding[] => {
    const place = levers.get(point.id);
    const type = deviceType(reader, device);
    if (!place || !type.serves || type.serves.includes(leverKind(place))) return [];
    const kind = leverKind(place);
    const isAlone = reader.mentioning('points', device.id).length === 1;
    return [
      {
        code: 'device.cannot-serve',
        severity: 'fix',
        where: { circuitId, boxId, deviceId: device.id, pointId: point.id, controlId: place.controlId },
        facts: { kind, serves: type.serves },
        source: { practice: 'sheet' },
        ...(isAlone && {
          fixes: [
            {
              code: 'plain-switch',
              facts: { boxId },
              change: setting('devices', device.id, { catalogueId: 'switch' }),
            },
          ],
        }),
      },
    ];
  });
}

/** What runs carry, and what is to be said of it. */
interface Wired {
  readonly runs: ReadonlyMap<string, RunWiring>;
  readonly findings: readonly Finding[];
}

/** A group and what it needs, for the conductors of its runs. */
interface Task {
  readonly group: readonly CircuitSupply[];
  readonly circuitIds: readonly string[];
  readonly needs: TreeNeeds;
}

/** A run of which nothing can be derived: what its conductors carry is for a person to say. */
function leftOpen(reader: HouseReader, { circuitIds, needs }: Task, run: Run): RunWiring {
  const carries = (conductorsFor(reader, run, circuitIds) ?? []).map(
    (conductor) => [conductor.key, 'undecided'] as const,
  );
  return { needs: [], carries: new Map(carries), missing: [], power: needs.power.has(run.id), open: true };
}

/** Runs that are not part of the tree: they close a loop, end loose, or hang on nothing. */
function runsBesideTree(reader: HouseReader, task: Task): Wired {
  const { tree } = task.needs;
  const circuitId = task.circuitIds[0]!;
  const all = [...tree.loops, ...tree.loose, ...tree.islands];
  return {
    runs: new Map(all.map((run) => [run.id, leftOpen(reader, task, run)])),
    findings: [
      ...tree.loops.map((run): Finding => ({
        code: 'wiring.loop',
        severity: 'fix',
        where: { circuitId, runId: run.id },
        facts: NO_FACTS,
        source: { section: 'together' },
      })),
      ...tree.loose.map((run): Finding => ({
        code: 'run.loose-end',
        severity: 'note',
        where: { circuitId, runId: run.id, boxId: run.from.boxId },
        facts: NO_FACTS,
      })),
    ],
  };
}

function byBox(landings: readonly SignalLanding[]): ReadonlyMap<string, readonly SignalLanding[]> {
  const boxes = new Map<string, SignalLanding[]>();
  for (const landing of landings) {
    const known = boxes.get(landing.boxId);
    if (known) known.push(landing);
    else boxes.set(landing.boxId, [landing]);
  }
  return boxes;
}

/** What is said of controls and devices besides what lands on them. */
function findingsOfDevices(
  reader: HouseReader,
  task: Task,
  levers: ReadonlyMap<string, LeverPlace>,
): Finding[] {
  const { needs } = task;
  const circuitId = task.circuitIds[0]!;
  return [
    ...lostFindings(reader, circuitId, needs.protection.lost),
    ...cannotServe(reader, needs, levers),
    ...[...needs.unproven].map((controlId): Finding => ({
      code: 'control.order-not-proven',
      severity: 'note',
      where: { circuitId, controlId },
      facts: NO_FACTS,
    })),
  ];
}

/** A run for which no cable has been chosen. */
function withoutCable(
  { circuitIds }: Task,
  run: Run,
  needed: CableId | undefined,
  gauge: Gauge | undefined,
  count: number,
): Finding[] {
  if (run.kind !== 'cable') return [];
  const where = { circuitId: circuitIds[0]!, runId: run.id };
  return needed || !gauge
    ? [
        {
          code: 'run.no-cable',
          severity: 'note',
          where,
          facts: { needed },
          ...(needed && { fixes: [planCable(run, needed)] }),
        },
      ]
    : [
        {
          code: 'run.no-one-cable',
          severity: 'stop',
          where,
          facts: { count },
          source: { section: 'together' },
        },
      ];
}

/** A run that belongs to other circuits too, or with which something has to do that cannot be derived; undefined for others. */
function apart(
  reader: HouseReader,
  task: Task,
  run: Run,
): { wiring: RunWiring; findings: Finding[] } | undefined {
  const { circuitIds, needs } = task;
  const isForeign = run.kind === 'cable' && run.circuitIds.some((id) => !circuitIds.includes(id));
  if (!needs.open.has(run.id) && !isForeign) return undefined;
  // Said once, by the first of its circuits.
  const isFirst = circuitIds[0] === [...run.circuitIds].sort()[0];
  return {
    wiring: leftOpen(reader, task, run),
    findings:
      isForeign && isFirst
        ? [
            {
              code: 'run.circuits-apart',
              severity: 'stop',
              where: { circuitId: circuitIds[0]!, runId: run.id },
              facts: { circuitIds: run.circuitIds },
              source: { section: 'multiwire' },
            },
          ]
        : [],
  };
}

/** Conductors that runs lack for the neutral rule, by run id. */
function shortForRule({ neutralShort }: TreeNeeds): ReadonlySet<string> {
  return new Set(neutralShort.flatMap(({ runs }) => runs));
}

/** Step three: the signals of each run of the tree on its conductors. */
function conductorsOfTree(
  reader: HouseReader,
  task: Task,
  terminals: ReadonlyMap<string, readonly SignalLanding[]>,
): Wired {
  const { group, circuitIds, needs } = task;
  const gauge = gaugeOfGroup(reader, group);
  const made = madeSignals(reader, group, needs.tree, terminals);
  const short = shortForRule(needs);
  const runs = new Map<string, RunWiring>();
  const findings: Finding[] = [];
  const { ring } = needs.tree;
  for (const run of [...[...needs.tree.feed.values()].map((feed) => feed.run), ...(ring ? [ring] : [])]) {
    const other = apart(reader, task, run);
    if (other) {
      runs.set(run.id, other.wiring);
      findings.push(...other.findings);
      continue;
    }
    const wanted = needs.needs.get(run.id) ?? [];
    const available = conductorsFor(reader, run, circuitIds);
    const count = Math.max(2, wanted.length + (short.has(run.id) ? 1 : 0));
    const needed = run.kind === 'cable' && gauge ? cableFor(reader.rules(), gauge, count)?.id : undefined;
    const own = { needs: wanted, power: needs.power.has(run.id), open: false, needed };
    if (!available) {
      runs.set(run.id, { ...own, carries: new Map(), missing: [] });
      findings.push(...withoutCable(task, run, needed, gauge, count));
      continue;
    }
    const assigned = (tried: TreeNeeds) => {
      const extra = tried.kept.get(run.id);
      const all = tried.needs.get(run.id) ?? [];
      return assignConductors(
        extra ? [...all, extra] : all,
        available,
        schoolsOf(reader, tried, run, circuitIds),
        made.of(run.id),
      );
    };
    const { carries, missing } = assigned(needs);
    made.learn(run.id, carries);
    runs.set(run.id, { ...own, carries, missing });
    if (missing.length) {
      const lackOf = (tried: TreeNeeds): number => assigned(tried).missing.length;
      findings.push(tooFew(reader, { group, needs, run, wanted, missing, needed, gauge, lackOf }));
    }
  }
  return { runs, findings };
}

/** Steps one to three of wiring for one group: needs on its tree, what lands where, what each conductor carries. */
function wireGroup(reader: HouseReader, group: readonly CircuitSupply[]): CircuitWiring {
  const circuitIds = group.map(({ id }) => id);
  const plain = circuitTree(reader, group[0]!.panelId, runsOfGroup(reader, group), isRing(group));
  const task: Task = { group, circuitIds, needs: withBranches(reader, group, plain) };
  const { tree, controls, neutralShort } = task.needs;
  const beside = runsBesideTree(reader, task);
  const levers = leversOf(task.needs);
  const landed = landSignals(reader, task.needs, levers);
  const terminals = byBox(landed.terminals);
  const wired = conductorsOfTree(reader, task, terminals);
  const runs = new Map([...beside.runs, ...wired.runs]);
  return {
    circuitIds,
    tree,
    runs,
    terminals,
    levers,
    openDevices: landed.openDevices,
    findings: [
      ...beside.findings,
      ...controls.findings,
      ...landed.findings,
      ...findingsOfDevices(reader, task, levers),
      ...wired.findings,
      ...neutralShort.map((shortage) => noNeutral(reader, shortage, runs)),
    ],
  };
}

/**
 * The wiring of one circuit, by circuit id: signals, needs on the tree, conductors. Circuits that share a neutral have one
 * wiring together, derived under the first of them. Joints follow per box.
 */
const CIRCUIT_WIRING: Derivation<CircuitWiring> = {
  name: 'circuit wiring',
  compute: (reader, circuitId) => {
    const group = wiringGroup(reader, circuitId);
    const leader = group[0]!.id;
    return leader === circuitId ? wireGroup(reader, group) : reader.derive(CIRCUIT_WIRING, leader);
  },
};

export const wireCircuit = (reader: HouseReader, circuitId: string): CircuitWiring =>
  reader.derive(CIRCUIT_WIRING, circuitId);
