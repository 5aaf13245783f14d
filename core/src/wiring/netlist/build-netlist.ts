import type { CircuitSupply } from '../../facts/circuit-facts.js';
import { supplyOf } from '../../facts/circuit-facts.js';
import type { Derivation, HouseReader } from '../../derive/reader.js';
import { shapeOfBox, boxesOf, circuitOfPoint, deviceType, devicesIn } from '../../facts/box-facts.js';
import type { BoxJoint } from '../joints/box-joint.js';
import { jointsForGroup } from '../joints/box-joints.js';
import { groundReach } from './ground-reach.js';
import { netDevice, pointFacts } from './net-devices.js';
import { PairMap } from '../../structures/pair-map.js';
import type { Terminal } from '../../vocabulary/terminal.js';
import {
  BOX_GROUND,
  GROUND,
  GROUND_BAR,
  LUGS,
  NEUTRAL_BAR,
  circuitOfTerminal,
  sameTerminal,
  terminalKey,
} from '../../vocabulary/terminal.js';
import { isLink, isPanelTerminal, isSubPanel, legOfSpace } from '../circuit/panel-terminals.js';
import { Union } from '../../structures/union.js';
import type { CircuitWiring } from '../conductors/circuit-wiring.js';
import { wireCircuit } from '../conductors/wire-circuit.js';
import type {
  JointsByBox,
  NetConductor,
  NetJoint,
  NetLever,
  NetLoad,
  NetSource,
  Netlist,
} from './netlist.js';

/** 1 or −1 for the two legs of the service. Without a space, by its place in the group. */
function legSign(reader: HouseReader, circuit: CircuitSupply, index: number): 1 | -1 {
  if (reader.rules().jurisdiction.legs === 1) return 1;
  return (legOfSpace(circuit) ?? index % 2) === 0 ? 1 : -1;
}

const onNeutralBar = (joint: BoxJoint): boolean =>
  joint.landings.some(({ terminal }) => terminal.kind === 'neutral-bar');

/** In the main panel neutral and ground are one: what lands on the neutral bar goes no further by the grounds that do so too. */
function bonded(joint: BoxJoint): BoxJoint[] {
  const grounds = joint.ends.filter((end) => end.ground);
  if (!grounds.length || grounds.length === joint.ends.length) {
    const onNeutral = grounds.length && onNeutralBar(joint);
    return onNeutral ? [{ ...joint, role: 'ground', landings: [{ terminal: GROUND_BAR }] }] : [joint];
  }
  if (!onNeutralBar(joint)) return [joint];
  return [
    { ...joint, ends: joint.ends.filter((end) => !end.ground) },
    { ...joint, role: 'ground', ends: grounds, landings: [{ terminal: GROUND_BAR }] },
  ];
}

/** A netlist of these wiring groups from joints of their boxes. */
export function buildNetlist(
  reader: HouseReader,
  wirings: readonly CircuitWiring[],
  jointsByBox: JointsByBox,
): Netlist {
  const circuitIds = wirings.flatMap((wiring) => wiring.circuitIds);
  const union = new Union();
  const ground = new Union();
  const list: { boxId: string; joint: BoxJoint }[] = [];
  const met: { readonly runId: string; readonly key: string; readonly from: number; to?: number }[] = [];
  const ends = new PairMap<(typeof met)[number]>();
  /** By device or box and terminal. */
  const terminals = new PairMap<number>();
  const groundJoints = new Set<number>();
  const tabs: (readonly [number, number])[] = [];
  const homes = new Set(wirings.map(({ tree }) => tree.panelId));
  for (const [boxId, joints] of jointsByBox) {
    const isMainPanel = homes.has(boxId) && !isSubPanel(reader, boxId);
    for (const joint of isMainPanel ? joints.flatMap(bonded) : joints) {
      const index = list.push({ boxId, joint }) - 1;
      union.make();
      ground.make();
      const bare = joint.ends.some((end) => end.ground) || joint.role === 'ground';
      if (bare) groundJoints.add(index);
      for (const end of joint.ends) {
        const known = ends.get(end.runId, end.key);
        if (known) known.to ??= index;
        else {
          const conductor = { runId: end.runId, key: end.key, from: index };
          met.push(conductor);
          ends.set(end.runId, end.key, conductor);
        }
      }
      for (const landing of joint.landings) {
        const owner = landing.deviceId ?? boxId;
        const key = terminalKey(landing.terminal);
        const other = isLink(landing) ? terminals.get(owner, key) : undefined;
        if (other === undefined) terminals.set(owner, key, index);
        else tabs.push([other, index]);
      }
    }
  }
  const conductors: NetConductor[] = [];
  for (const { runId, key, from, to } of met) {
    if (to === undefined) continue;
    conductors.push({ runId, key, from, to });
    union.join(from, to);
    ground.join(from, to);
  }

  const levers: NetLever[] = [];
  const loads: NetLoad[] = [];
  const feedThrough: { boxId: string; deviceId: string; contacts: (readonly [number, number])[] }[] = [];
  const alarms: Netlist['alarms'][number][] = [];
  const feeders: Netlist['feeders'][number][] = [];
  const groupOf = (circuitId: string): string =>
    wirings.find((wiring) => wiring.circuitIds.includes(circuitId))?.circuitIds[0] ?? circuitId;
  const facts = pointFacts(wirings);
  const mustBeGrounded: { boxId: string; deviceId?: string; joint: number | undefined }[] = [];
  for (const boxId of jointsByBox.keys()) {
    const { kind, material } = shapeOfBox(reader, boxId);
    if (kind !== 'panel' && material === 'metal')
      mustBeGrounded.push({ boxId, joint: terminals.get(boxId, terminalKey(BOX_GROUND)) });
    if (kind === 'panel') {
      for (const { circuitIds: own, tree } of wirings) {
        if (tree.panelId === boxId || !tree.boxOf.has(boxId) || !isSubPanel(reader, boxId)) continue;
        for (const circuitId of own.filter((id) => supplyOf(reader, id)?.poles === 2)) {
          const landed = (terminal: Terminal): number | undefined => {
            const index = list.findIndex(
              ({ boxId: at, joint }) =>
                at === boxId &&
                joint.landings.some((to) => sameTerminal(to.terminal, terminal)) &&
                joint.ends.some(({ runId }) => reader.get('runs', runId)?.circuitIds.includes(circuitId)),
            );
            return index === -1 ? undefined : index;
          };
          feeders.push({ boxId, circuitId, hots: LUGS.map(landed), neutral: landed(NEUTRAL_BAR) });
          mustBeGrounded.push({ boxId, joint: landed(GROUND_BAR) });
        }
      }
    }
    for (const device of devicesIn(reader, boxId)) {
      const own = netDevice(reader, facts, device, (terminal) =>
        terminals.get(device.id, terminalKey(terminal)),
      );
      levers.push(...own.levers);
      loads.push(...own.loads);
      if (own.through.length) feedThrough.push({ boxId, deviceId: device.id, contacts: [...own.through] });
      tabs.push(...own.tabs);
      for (const { pointId, joint } of own.alarms)
        alarms.push({
          boxId,
          pointId,
          joint,
          group: groupOf(circuitOfPoint(reader, reader.get('points', pointId)!)!),
        });
      if (own.isOwn && deviceType(reader, device).mount !== 'direct')
        mustBeGrounded.push({
          boxId,
          deviceId: device.id,
          joint: terminals.get(device.id, terminalKey(GROUND)),
        });
    }
  }
  for (const [a, b] of tabs) {
    union.join(a, b);
    ground.join(a, b);
  }
  const places = new Map<string, readonly string[]>();
  for (const { controlId } of loads)
    // One that is named twice is one place.
    if (controlId !== undefined)
      places.set(controlId, [...new Set(reader.get('controls', controlId)!.places)]);

  const sources: NetSource[] = [];
  list.forEach(({ joint, boxId }, index) => {
    for (const landing of joint.landings) {
      const { terminal } = landing;
      if (!isPanelTerminal(landing) || terminal.kind === 'ground-bar') continue;
      // A breaker feeds what lands on it, whatever was meant to.
      const circuitId = circuitOfTerminal(terminal) ?? joint.circuitId;
      const group = wirings.find(({ circuitIds: own }) => own.includes(circuitId ?? ''));
      const circuit = circuitId ? supplyOf(reader, circuitId) : undefined;
      if (!circuit || circuit.panelId !== boxId) continue;
      const hot = terminal.kind === 'breaker';
      const place = group ? group.circuitIds.indexOf(circuit.id) : 0;
      const sign = legSign(reader, circuit, place) * (hot && terminal.pole === 2 ? -1 : 1);
      sources.push({
        joint: index,
        kind: hot ? 'hot' : 'neutral',
        volts: hot ? sign * reader.rules().jurisdiction.lineVolts : 0,
        circuitId: circuit.id,
        landing,
        isOnBreaker: terminal.kind !== 'neutral-bar',
      });
    }
  });

  const nets = new Map<number, number>();
  const joints = list.map(({ boxId, joint }, index): NetJoint => {
    const top = union.find(index);
    let net = nets.get(top);
    if (net === undefined) nets.set(top, (net = nets.size));
    return { boxId, joint, net };
  });
  return {
    circuitIds,
    joints,
    nets: nets.size,
    conductors,
    levers,
    loads,
    sources,
    through: feedThrough.flatMap(({ contacts }) => contacts),
    feedThrough,
    tabs,
    alarms,
    feeders,
    places,
    grounded: groundReach(reader, list, terminals, ground, wirings, mustBeGrounded),
    ground: groundJoints,
  };
}

/** The wiring groups that are joined with this one somewhere, itself first; and the joints of all of their boxes. */
export function netlistScope(
  reader: HouseReader,
  circuitId: string,
  jointsOf = jointsForGroup,
): { wirings: CircuitWiring[]; joints: Map<string, readonly BoxJoint[]> } {
  const wirings = [wireCircuit(reader, circuitId)];
  const joints = new Map<string, BoxJoint[]>();
  for (let next = 0; next < wirings.length; next++) {
    const wiring = wirings[next]!;
    const boxes = new Set<string>();
    for (const id of wiring.runs.keys()) {
      const run = reader.get('runs', id)!;
      for (const boxId of boxesOf(run)) boxes.add(boxId);
    }
    for (const boxId of boxes) {
      const terminals = wiring.terminals.get(boxId);
      const own = jointsOf(reader, boxId, wiring).filter(
        (joint) =>
          joint.role === 'ground' ||
          joint.ends.some(({ runId, key }) => wiring.runs.get(runId)?.carries.has(key)) ||
          joint.landings.some(({ deviceId }) =>
            terminals?.some((terminal) => terminal.deviceId === deviceId),
          ),
      );
      const known = joints.get(boxId);
      joints.set(boxId, known ? [...known, ...own.filter((joint) => !known.includes(joint))] : own);
      for (const joint of own) {
        if (joint.role === 'ground') continue;
        for (const { runId } of joint.ends) {
          for (const id of reader.get('runs', runId)!.circuitIds) {
            if (wiring.runs.has(runId) || !supplyOf(reader, id)) continue;
            const other = wireCircuit(reader, id);
            if (!wirings.includes(other)) wirings.push(other);
          }
        }
      }
    }
  }
  return { wirings, joints };
}

/** The netlist of a circuit as it stands: what has been made as made, the rest as derived. By circuit id. */
const CIRCUIT_NETLIST: Derivation<Netlist> = {
  name: 'circuit netlist',
  compute: (reader, circuitId) => {
    const leader = wireCircuit(reader, circuitId).circuitIds[0]!;
    if (leader !== circuitId) return reader.derive(CIRCUIT_NETLIST, leader);
    const { wirings, joints } = netlistScope(reader, circuitId);
    return buildNetlist(reader, wirings, joints);
  },
};

export const netlistOf = (reader: HouseReader, circuitId: string): Netlist =>
  reader.derive(CIRCUIT_NETLIST, circuitId);
