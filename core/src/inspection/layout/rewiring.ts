import type { ChangeBody, SingleChangeBody } from '../../changes/change.js';
import { removing, setting } from '../../changes/change.js';
import type { HouseReader } from '../../derive/reader.js';
import { boxFacts, circuitOfPoint } from '../../facts/box-facts.js';
import type { CircuitSupply } from '../../facts/circuit-facts.js';
import { supplyOf } from '../../facts/circuit-facts.js';
import { couldBeNearWater } from '../../plan/near-water.js';
import { panelSpaces, protectionFor } from '../../furnish/circuit-plan.js';
import { panelLayout } from '../../furnish/panel.js';
import type { Control, Room, Run } from '../../house/model.js';
import { modelFields } from '../../house/model.js';
import type { BoxPlace } from '../../furnish/room-places.js';
import type { CableId } from '../../rulebook/cables.js';
import { cableFor, cableOf } from '../../rulebook/cables.js';
import type { CircuitUse } from '../../vocabulary/room-kit-types.js';
import { usualCable } from '../../wiring/circuit/gauge.js';
import type { CircuitTree } from '../../wiring/circuit/circuit-tree.js';
import { wireCircuit } from '../../wiring/conductors/wire-circuit.js';
import { Additions, heightOf, holds, isUntouched, largerFor, smallestLike } from './additions.js';

/** Amperes of the circuits that the code asks for by themselves. */
const AMPS = 20;
/** Cubic inches that a cable in, a cable on and a device take with room to spare: common practice. */
const ROOMY_IN3 = 18;

/** A box in the tree of a circuit of which nothing is in the wall yet. */
interface InTree {
  readonly supply: CircuitSupply;
  readonly tree: CircuitTree;
  readonly node: string;
}

/** Whether a run is only planned, and of one circuit. */
const isFree = (reader: HouseReader, run: Run): boolean =>
  run.kind === 'cable' &&
  run.circuitIds.length === 1 &&
  run.plannedCable !== undefined &&
  reader.mentioning('pulls', run.id).length === 0;

function inTree(reader: HouseReader, boxId: string): InTree | undefined {
  const points = reader
    .mentioning('devices', boxId)
    .flatMap(({ id }) => reader.mentioning('points', id))
    .filter(({ role }) => role !== 'lever');
  const [circuitId, ...more] = new Set(points.map((point) => circuitOfPoint(reader, point)));
  const supply = circuitId === undefined ? undefined : supplyOf(reader, circuitId);
  if (!supply || more.length || supply.poles !== 1 || supply.neutralGroup) return undefined;
  const { tree } = wireCircuit(reader, supply.id);
  const nodes = tree.nodes.filter((node) => tree.boxOf.get(node) === boxId);
  return nodes.length === 1 && tree.feed.has(nodes[0]!) ? { supply, tree, node: nodes[0]! } : undefined;
}

/** What hangs on a node of a tree. */
const childrenOf = (tree: CircuitTree, node: string): { node: string; run: Run }[] =>
  [...tree.feed].flatMap(([child, { from, run }]) => (from === node ? [{ node: child, run }] : []));

/**
 * Receptacles of a room taken off the circuits that they share, each of these `groups` on one circuit of its own with a home run;
 * what hung on them hangs on what fed them. Undefined where something of it is pulled, made up or cannot be.
 */
export function ownCircuits(
  reader: HouseReader,
  room: Room,
  use: CircuitUse,
  groups: readonly (readonly string[])[],
): ChangeBody | undefined {
  const taken = new Set(groups.flat());
  if (taken.size === 0 || groups.some((own) => own.length === 0)) return undefined;
  const changes: SingleChangeBody[] = [];
  const add = new Additions(reader, room, 'own circuit');
  const gone = new Set<string>();
  let panelId = '';
  let like: CircuitSupply | undefined;
  for (const boxId of taken) {
    const at = inTree(reader, boxId);
    if (!at || !isUntouched(reader, boxId)) return undefined;
    const { supply, tree, node } = at;
    panelId = supply.panelId;
    like ??= supply;
    // The first box on the way to the panel that stays on the circuit.
    let up = tree.feed.get(node)!;
    while (taken.has(tree.boxOf.get(up.from)!)) {
      const next = tree.feed.get(up.from);
      if (!next) return undefined;
      up = next;
    }
    const children = childrenOf(tree, node);
    const own = [tree.feed.get(node)!.run, ...children.map(({ run }) => run)];
    if (!own.every((run) => isFree(reader, run))) return undefined;
    own.forEach(({ id }) => gone.add(id));
    const left = children.filter((child) => !taken.has(tree.boxOf.get(child.node)!));
    // More than one would ask for room in what fed it.
    if (left.length > 1) return undefined;
    for (const child of left) {
      const [from, to] = [tree.boxOf.get(up.from)!, tree.boxOf.get(child.node)!];
      // A box that is made up gets no other cable by the way.
      if (from !== panelId && !isUntouched(reader, from)) return undefined;
      if (!isUntouched(reader, to)) return undefined;
      add.run(from, to, supply.id, child.run.plannedCable!);
    }
  }
  if (!like) return undefined;
  const cable = usualCable(reader, { ...like, breakerAmps: AMPS });
  if (!cable) return undefined;
  const rules = reader.rules();
  const { circuitPlans, lineVolts } = rules.jurisdiction;
  const all = reader.all('circuits');
  const numbers = new Set(all.map(({ number }) => number));
  const spaces = panelSpaces(
    groups.map((_own, at) => ({ key: String(at), poles: 1, loadVa: 1 })),
    new Set(all.filter((one) => one.panelId === panelId).flatMap((one) => one.spaces ?? [])),
    panelLayout(reader, panelId).legAmps,
  );
  const protection = protectionFor(
    rules,
    [
      {
        ...{ use, room, hasReceptacle: true, isCounter: use === 'counter' },
        nearWater: couldBeNearWater(reader, room.id),
      },
    ],
    AMPS,
    lineVolts,
  );
  groups.forEach((own, at) => {
    let number = 1;
    while (numbers.has(number)) number++;
    numbers.add(number);
    const name = circuitPlans.find((plan) => plan.use === use)?.name ?? room.name;
    const circuitId = add.circuit({
      number,
      name: `${name}, ${room.name}${groups.length > 1 ? ` ${at + 1}` : ''}`.slice(0, 200),
      panelId,
      poles: 1,
      spaces: [...(spaces.get(String(at)) ?? [])],
      breakerAmps: AMPS,
      protection,
    });
    let from = panelId;
    for (const boxId of own) {
      add.run(from, boxId, circuitId, cable);
      from = boxId;
      for (const device of reader.mentioning('devices', boxId))
        for (const point of reader.mentioning('points', device.id))
          if (point.role !== 'lever') changes.push(setting('points', point.id, { circuitId }));
      const larger = roomyModel(reader, boxId);
      if (larger) changes.push(setting('boxes', boxId, modelFields({ catalogueId: larger })));
    }
  });
  return {
    kind: 'group',
    changes: [...[...gone].map((id) => removing('runs', id)), ...add.list, ...changes],
  };
}

/** The box of its kind with room for two cables of 12 AWG, where this one has less; undefined where it is roomy. */
function roomyModel(reader: HouseReader, boxId: string): string | undefined {
  const { volumeIn3 = 0, gangs } = boxFacts(reader, reader.get('boxes', boxId)!);
  return volumeIn3 >= ROOMY_IN3 || gangs > 1 ? undefined : smallestLike(reader, boxId, ROOMY_IN3);
}

/**
 * A second place to switch the lights of a control from: travelers go on from the switch that is there, and the leg comes from
 * the new one. Undefined where the leg is pulled, where more than these lights hangs on it, or where the box holds no more.
 */
export function locationAddition(
  reader: HouseReader,
  room: Room,
  control: Control,
  place: BoxPlace,
): ChangeBody | undefined {
  const [leverId, ...others] = control.places;
  const lever = leverId === undefined ? undefined : reader.get('points', leverId);
  const boxId = lever && reader.get('devices', lever.deviceId)?.boxId;
  const load = reader.get('points', control.loads[0] ?? '');
  const circuitId = load && circuitOfPoint(reader, load);
  const supply = circuitId === undefined ? undefined : supplyOf(reader, circuitId);
  if (!boxId || !supply || others.length || !isUntouched(reader, boxId)) return undefined;
  const { tree } = wireCircuit(reader, supply.id);
  const node = tree.nodes.find((one) => tree.boxOf.get(one) === boxId);
  if (node === undefined) return undefined;
  const loads = new Set(control.loads);
  const servesOnly = (at: string): boolean =>
    reader
      .mentioning('devices', tree.boxOf.get(at)!)
      .flatMap(({ id }) => reader.mentioning('points', id))
      .every(({ id }) => loads.has(id)) && childrenOf(tree, at).every((child) => servesOnly(child.node));
  const legs = childrenOf(tree, node).filter((child) => servesOnly(child.node));
  const [leg, ...more] = legs;
  const gauge = leg?.run.plannedCable && cableOf(leg.run.plannedCable).gauge;
  const travelers: CableId | undefined = gauge && cableFor(reader.rules(), gauge, 3)?.id;
  if (!leg || more.length || !isFree(reader, leg.run) || !travelers) return undefined;
  if (!isUntouched(reader, tree.boxOf.get(leg.node)!)) return undefined;
  const add = new Additions(reader, room, 'location');
  if (!holds(reader, boxId, travelers, 1)) {
    const larger = largerFor(reader, boxId, travelers);
    if (!larger) return undefined;
    add.widen({ boxId, larger });
  }
  const next = add.box('switch', 'S', 'switch', { ...heightOf(reader, 'switch'), ...place }, supply.id);
  add.run(boxId, next.boxId, supply.id, travelers);
  add.run(next.boxId, tree.boxOf.get(leg.node)!, supply.id, leg.run.plannedCable!);
  return {
    kind: 'group',
    changes: [
      removing('runs', leg.run.id),
      ...add.list,
      setting('controls', control.id, { places: [...control.places, ...next.points] }),
    ],
  };
}
