import type { Derivation, HouseReader } from '../derive/reader.js';
import { cableFor } from '../house/cables.js';
import type { CableId } from '../house/cables.js';
import { cableIn, conductorsOf, deviceType, standingPull } from '../house/box-facts.js';
import type { Circuit, Device, Run } from '../house/model.js';
import { boxName, circuitName, runName } from '../house/naming.js';
import type { Awg, Colour } from '../house/text.js';
import type { Finding, Fix } from '../inspection/finding.js';
import { withBranches } from './branches.js';
import type { CircuitTree } from './circuit-tree.js';
import { circuitTree } from './circuit-tree.js';
import type { ColourSchools, RacewayPalette } from './conductors.js';
import { assignConductors, paletteColour } from './conductors.js';
import type { ReachedPoint } from './controls.js';
import type { TreeNeeds } from './needs.js';
import { conductorsFor, needsOn } from './needs.js';
import { NEUTRAL_EXCEPTIONS } from './neutral-rule.js';
import type { Carried, Signal, Terminal } from './signal.js';
import { circuitOfHot, controlOf, kindOf, protectedBy, travelerSide } from './signal.js';
import type { LeverPlace } from './terminals.js';
import { terminalsOf } from './terminals.js';
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

/** Words for a signal, for people. */
export function signalName(reader: HouseReader, carried: Carried): string {
  const control = controlOf(carried);
  const name = control && (reader.get('controls', control)?.name ?? 'a control');
  if (control && kindOf(carried as Signal) === 'leg') return `leg of “${name}”`;
  if (control) return `traveler ${travelerSide(carried as Signal)?.toUpperCase()} of “${name}”`;
  if (protectedBy(carried)) return carried.startsWith('load-hot') ? 'protected hot' : 'protected neutral';
  const circuitId = circuitOfHot(carried);
  if (!circuitId) return carried;
  const circuit = reader.get('circuits', circuitId);
  if (carried.startsWith('hot2:')) return 'second hot';
  return circuit?.neutralGroup
    ? `hot of circuit ${circuit.number}`
    : circuit?.poles === 2
      ? 'first hot'
      : 'hot';
}

function paletteOf(reader: HouseReader): RacewayPalette {
  const rules = reader.rules();
  const [one, other] = rules.text('raceway.travelerColours').split(' and ') as [Colour, Colour];
  return {
    hot: rules.text('raceway.hotColour') as Colour,
    leg: rules.text('raceway.legColour') as Colour,
    travelers: [one, other],
  };
}

/** Draws the wires that are missing into a raceway, in the house's colours. */
const addWires = (reader: HouseReader, run: Run, missing: readonly Signal[], awg: Awg): Fix => {
  const palette = paletteOf(reader);
  const more = missing.map((signal) => ({ awg, colour: paletteColour(signal, palette) ?? ('BN' as const) }));
  return {
    label: `Draw ${more.map(({ colour }) => `${awg} ${colour}`).join(', ')} into it`,
    change: { kind: 'run.set', recordId: run.id, fields: { wires: [...(run.wires ?? []), ...more] } },
  };
};

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

/** The levers of a group by their place in the electrical order. */
function leversOf(needs: TreeNeeds): Map<string, LeverPlace> {
  const levers = new Map<string, LeverPlace>();
  for (const [controlId, order] of needs.orders)
    order.forEach((pointId, index) => levers.set(pointId, { controlId, index, of: order.length }));
  return levers;
}

interface DeviceTerminals {
  readonly terminals: readonly Terminal[];
  readonly openDevices: ReadonlySet<string>;
  readonly findings: readonly Finding[];
}

function landSignals(
  reader: HouseReader,
  needs: TreeNeeds,
  levers: ReadonlyMap<string, LeverPlace>,
): DeviceTerminals {
  const wired = new Map(needs.controls.wired.map((control) => [control.id, control]));
  const byDevice = new Map<Device, ReachedPoint[]>();
  for (const reached of needs.points)
    byDevice.set(reached.device, [...(byDevice.get(reached.device) ?? []), reached]);
  const alarms = needs.points.filter(({ point }) => point.role === 'alarm').length;
  const terminals: Terminal[] = [];
  const openDevices = new Set<string>();
  const findings: Finding[] = [];
  // Devices that have something to protect: their LOAD side is used.
  const beyond = new Set(
    [...needs.needs.values()].flatMap((signals) => signals.flatMap((one) => protectedBy(one) ?? [])),
  );
  for (const [device, points] of byDevice) {
    const { boxId, node, circuitId } = points[0]!;
    const type = deviceType(reader, device);
    const circuit = reader.get('circuits', circuitId)!;
    const both = type.supply === '240' || type.supply === '120/240';
    if (both !== (circuit.poles === 2)) {
      openDevices.add(device.id);
      findings.push({
        code: 'device.wrong-voltage',
        severity: 'stop',
        where: { circuitId, boxId, deviceId: device.id },
        message: `${type.name} in ${boxName(reader, boxId)} wants ${both ? '240' : '120'} V; ${circuitName(reader, circuitId)} has ${both ? 'one pole' : 'two poles'}.`,
      });
      continue;
    }
    const controlOfLoad = (pointId: string): string | undefined => {
      const id = needs.controls.ofPoint.get(pointId)?.id;
      return id && wired.has(id) ? id : undefined;
    };
    if (
      points.some(({ point }) => {
        const control = needs.controls.ofPoint.get(point.id);
        return control !== undefined && !wired.has(control.id);
      })
    ) {
      openDevices.add(device.id);
    }
    const onward = beyond.has(device.id);
    terminals.push(
      ...terminalsOf(
        reader,
        {
          device,
          points: points.filter(({ point }) => {
            const control = needs.controls.ofPoint.get(point.id);
            return control === undefined || wired.has(control.id);
          }),
          node,
          circuitId,
          controlOfLoad,
          placeOfLever: (pointId) => levers.get(pointId),
          ...(onward && {
            onward: { hot: `load-hot:${device.id}` as const, neutral: `load-neutral:${device.id}` as const },
          }),
          alarmsJoined: alarms > 1,
        },
        needs.protection,
      ),
    );
    for (const { point } of points) {
      if (point.role !== 'lever' || needs.controls.ofPoint.has(point.id)) continue;
      findings.push({
        code: 'control.switch-without',
        severity: 'mend',
        where: { circuitId, boxId, pointId: point.id },
        message: `A switch in ${boxName(reader, boxId)} switches nothing yet. Say what it controls.`,
      });
    }
  }
  return { terminals, openDevices, findings };
}

/** What conductors of a run have been landed already, read off the joints recorded as made in the boxes at its ends. */
function madeOn(
  reader: HouseReader,
  run: Run,
  terminals: ReadonlyMap<string, readonly Terminal[]>,
): ReadonlyMap<string, Signal> {
  const made = new Map<string, Signal>();
  const boxes = [run.from.boxId, ...('boxId' in run.to ? [run.to.boxId] : [])];
  for (const boxId of boxes) {
    for (const joint of reader.get('boxes', boxId)?.asBuilt ?? []) {
      const landed = (joint.terminals ?? []).flatMap(
        ({ deviceId, terminal }) =>
          terminals.get(boxId)?.find((known) => known.deviceId === deviceId && known.name === terminal) ?? [],
      )[0];
      if (!landed) continue;
      // Two of one run on one screw is a fault of the making and says nothing about which of them carries what.
      const own = joint.ends.filter(({ runId }) => runId === run.id);
      if (own.length === 1) made.set(own[0]!.conductor, landed.signal);
    }
  }
  return made;
}

const planCable = (run: Run, cable: CableId): Fix => ({
  label: `Plan ${cable} for this run`,
  change: { kind: 'run.set', recordId: run.id, fields: { plannedCable: cable } },
});

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
      source: 'NEC 300.3(B)',
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
          source: 'NEC 210.4',
        });
      }
      continue;
    }
    const wanted = needs.needs.get(run.id) ?? [];
    const schools = schoolsOf(reader, needs, run);
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
    const { carries, missing } = assignConductors(wanted, available, schools, madeOn(reader, run, terminals));
    runs.set(run.id, {
      needs: wanted,
      carries,
      missing,
      power: needs.power.has(run.id),
      open: false,
      ...(needed && { needed }),
    });
    if (missing.length) findings.push(tooFew(reader, group, needs, run, wanted, missing, needed, gauge));
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

/** The run as it is called in a sentence about what it has. */
const has = (reader: HouseReader, run: Run): string =>
  run.kind === 'raceway'
    ? `${conductorsOf(reader, run).filter(({ ground }) => !ground).length} wires are in it and there is`
    : `${cableIn(reader, run)} is ${standingPull(reader, run.id) ? 'in the wall' : 'planned'} and has`;

function tooFew(
  reader: HouseReader,
  group: readonly Circuit[],
  needs: TreeNeeds,
  run: Run,
  wanted: readonly Signal[],
  missing: readonly Signal[],
  needed: CableId | undefined,
  gauge: Awg | undefined,
): Finding {
  const pulled = standingPull(reader, run.id) !== undefined;
  const cable = cableIn(reader, run);
  const names = (signals: readonly Signal[]): string =>
    signals.map((signal) => signalName(reader, signal)).join(', ');
  const ways = otherWays(reader, group, needs, run, missing);
  return {
    code: 'wiring.too-few-conductors',
    severity: 'stop',
    where: { circuitId: group[0]!.id, runId: run.id },
    message: `${runName(reader, run)} must carry ${names(wanted)}; ${has(reader, run)} no conductor for ${names(missing)}.${needed ? ` It needs ${needed}.` : run.kind === 'cable' ? ' No one cable has so many: a second run is needed.' : ''}`,
    ...(cable && { measured: cable }),
    ...(needed && { allowed: needed }),
    fixes: [
      ...(needed && !pulled ? [planCable(run, needed)] : []),
      ...(run.kind === 'raceway' && gauge ? [addWires(reader, run, missing, gauge)] : []),
      ...ways,
    ],
  };
}

/** Ways out of a shortage besides another cable: the derived order instead of a pinned one, the feed at the other end. */
function otherWays(
  reader: HouseReader,
  group: readonly Circuit[],
  needs: TreeNeeds,
  run: Run,
  missing: readonly Signal[],
): Fix[] {
  const fixes: Fix[] = [];
  for (const id of new Set(missing.map((signal) => controlOf(signal)))) {
    const control = id ? reader.get('controls', id) : undefined;
    if (control?.pinnedOrder)
      fixes.push({
        label: `Let the order of “${control.name}” be derived`,
        change: { kind: 'control.set', recordId: control.id, fields: { pinnedOrder: null } },
      });
  }
  const { tree } = needs;
  const child = [...tree.feed].find(([, feed]) => feed.run === run);
  const parent = child?.[1].from;
  const feed = parent && tree.feed.get(parent);
  if (!child || !feed || child[0].includes('#') || parent.includes('#')) return fixes;
  if (standingPull(reader, feed.run.id)) return fixes;
  const far = tree.boxOf.get(child[0])!;
  const other: Run =
    feed.run.from.boxId === parent
      ? { ...feed.run, from: { boxId: far } }
      : { ...feed.run, to: { boxId: far } };
  const turned = circuitTree(
    reader,
    tree.panelId,
    runsOfGroup(reader, group).map((one) => (one === feed.run ? other : one)),
  );
  if (needsOn(reader, group, turned).missing < needs.missing) {
    fixes.push({
      label: `Bring the feed to ${boxName(reader, far)} instead of ${boxName(reader, parent)}`,
      change: {
        kind: 'run.set',
        recordId: feed.run.id,
        fields: feed.run.from.boxId === parent ? { from: { boxId: far } } : { to: { boxId: far } },
      },
    });
  }
  return fixes;
}

function noNeutral(
  reader: HouseReader,
  { duty, place, runs }: TreeNeeds['neutralShort'][number],
  wirings: ReadonlyMap<string, RunWiring>,
): Finding {
  const control = reader.get('controls', duty.controlId)!;
  const cables = runs.flatMap((id): Fix[] => {
    const run = reader.get('runs', id)!;
    const needed = wirings.get(id)?.needed;
    return needed && !standingPull(reader, id)
      ? [{ ...planCable(run, needed), label: `Plan ${needed} for ${runName(reader, run)}` }]
      : [];
  });
  return {
    code: 'neutral.missing-at-switch',
    severity: 'mend',
    where: { circuitId: place.circuitId, boxId: place.boxId, controlId: duty.controlId, runId: runs[0]! },
    message: `No neutral reaches the switch of “${control.name}” in ${boxName(reader, place.boxId)}: ${runs.map((id) => runName(reader, reader.get('runs', id)!)).join(', ')} ${runs.length === 1 ? 'has' : 'have'} no conductor left for it.`,
    source: reader.rules().cite('neutral.atSwitch'),
    fixes: [
      ...cables,
      ...NEUTRAL_EXCEPTIONS.slice(0, 3).map((reason): Fix => ({
        label: `Excuse ${boxName(reader, place.boxId)}: ${reason.charAt(0).toLowerCase()}${reason.slice(1)}`,
        change: { kind: 'box.set', recordId: place.boxId, fields: { neutralException: reason } },
      })),
    ],
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
