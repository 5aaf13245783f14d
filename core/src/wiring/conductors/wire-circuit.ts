import type { CircuitSupply } from '../../facts/circuit-facts.js';
import { wiringGroup } from '../../facts/circuit-facts.js';
import { NO_FACTS } from '../../findings/finding.js';
import { setting } from '../../changes/change.js';
import { roomOf } from '../../facts/box-facts.js';
import type { Derivation, HouseReader } from '../../derive/reader.js';
import { deviceType } from '../../facts/box-facts.js';
import { cableFor } from '../../rulebook/cables.js';
import type { Run } from '../../house/model.js';
import type { Colour } from '../../vocabulary/text.js';
import type { Finding, Fix } from '../../findings/finding.js';
import { needsGfci } from '../../rulebook/rooms.js';
import { withBranches } from '../needs/branches.js';
import { circuitTree } from '../circuit/circuit-tree.js';
import type { ColourSchools } from './conductors.js';
import { assignConductors } from './conductors.js';
import { gaugeOfGroup } from '../circuit/gauge.js';
import { landSignals, leversOf, madeSignals } from './land-signals.js';
import type { TreeNeeds } from '../needs/needs.js';
import type { LostProtection } from '../circuit/protection.js';
import { conductorsFor } from '../needs/needs.js';
import { noNeutral, paletteOf, planCable, tooFew } from './shortages.js';
import type { SignalLanding } from '../../vocabulary/signal.js';
import { controlOf, kindOf } from '../../vocabulary/signal.js';
import type { LeverPlace } from '../circuit/device-models.js';
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
  return run.kind === 'raceway' ? known.raceway : known.cable;
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
    alongChain: travelerColours(needs, (id) => conductorsFor(reader, runs.get(id)!, circuitIds)),
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
        severity: 'mend',
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

/** Steps one to three of wiring for one group. */
function wireGroup(reader: HouseReader, group: readonly CircuitSupply[]): CircuitWiring {
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
      facts: NO_FACTS,
      source: { section: 'together' },
    });
  }
  for (const run of tree.loose) {
    leaveOpen(run);
    findings.push({
      code: 'run.loose-end',
      severity: 'note',
      where: { circuitId: leader.id, runId: run.id, boxId: run.from.boxId },
      facts: NO_FACTS,
    });
  }
  for (const run of tree.islands) leaveOpen(run);
  findings.push(...controls.findings);

  const levers = leversOf(needs);
  const landed = landSignals(reader, needs, levers);
  findings.push(...landed.findings);
  const terminals = new Map<string, SignalLanding[]>();
  for (const terminal of landed.terminals) {
    const known = terminals.get(terminal.boxId);
    if (known) known.push(terminal);
    else terminals.set(terminal.boxId, [terminal]);
  }
  findings.push(...lostFindings(reader, leader.id, needs.protection.lost));
  findings.push(...cannotServe(reader, needs, levers));
  for (const controlId of needs.unproven)
    findings.push({
      code: 'control.order-not-proven',
      severity: 'note',
      where: { circuitId: leader.id, controlId },
      facts: NO_FACTS,
    });

  const gauge = gaugeOfGroup(reader, group);
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
          facts: { circuitIds: run.circuitIds },
          source: { section: 'multiwire' },
        });
      }
      continue;
    }
    const wanted = needs.needs.get(run.id) ?? [];
    const available = conductorsFor(reader, run, circuitIds);
    const count = Math.max(2, wanted.length + (short.get(run.id) ?? 0));
    const needed = run.kind === 'cable' && gauge ? cableFor(reader.rules(), gauge, count)?.id : undefined;
    if (!available) {
      runs.set(run.id, {
        needs: wanted,
        carries: new Map(),
        missing: [],
        power: needs.power.has(run.id),
        open: false,
        needed,
      });
      if (run.kind === 'cable' && (needed || !gauge)) {
        findings.push({
          code: 'run.no-cable',
          severity: 'note',
          where: { circuitId: leader.id, runId: run.id },
          facts: { needed },
          ...(needed && { fixes: [planCable(run, needed)] }),
        });
      } else if (run.kind === 'cable' && gauge) {
        findings.push({
          code: 'run.no-one-cable',
          severity: 'stop',
          where: { circuitId: leader.id, runId: run.id },
          facts: { count },
          source: { section: 'together' },
        });
      }
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
    runs.set(run.id, {
      needs: wanted,
      carries,
      missing,
      power: needs.power.has(run.id),
      open: false,
      needed,
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
