import { supplyOf } from '../facts/circuit-facts.js';
import type { HouseReader } from '../derive/reader.js';
import { cableIn, endAt, runsAt, shapeOfBox } from '../facts/box-facts.js';
import type { Run } from '../house/model.js';
import type { TerminalKind } from '../vocabulary/terminal.js';
import { wireCircuit } from '../wiring/conductors/wire-circuit.js';
import type { BoxJoint } from '../wiring/joints/box-joint.js';
import { suggestSlots } from './slots.js';

/** A cable where it enters the box. */
export interface EnteringCable {
  readonly runId: string;
  readonly slot?: number;
  readonly cable?: string;
  readonly role: 'power' | 'leg' | 'travelers' | 'other';
  /** What a label on its sheath tells: that it brings the power, takes it on, is the leg of controls, or only where it goes. */
  readonly label:
    | { readonly kind: 'power-in' | 'power-on' | 'to' }
    | { readonly kind: 'legs'; readonly controlIds: readonly string[] };
  /** The slot that the house's school would give it, where it has one. */
  readonly suggestedSlot?: number;
}

type Role = EnteringCable['role'];

/** A run that enters, with what it is for in this box. */
interface Entering {
  readonly run: Run;
  readonly role: Role;
  /** It brings the power into the box. */
  readonly isFeed: boolean;
  /** The gang of what it switches, or is switched by. */
  readonly gang: number | undefined;
}

const isOf = (runId: string, joint: BoxJoint): boolean => joint.ends.some((end) => end.runId === runId);

/** What each run is for: power before leg before travelers. */
function rolesOf(reader: HouseReader, joints: readonly BoxJoint[]): ReadonlyMap<string, Role> {
  const roles = new Map<string, Role>();
  for (const { circuitId, role, ends } of joints)
    for (const { runId } of ends) {
      const power = circuitId && wireCircuit(reader, circuitId).runs.get(runId)?.power;
      if (role === 'hot' && power) roles.set(runId, 'power');
      else if (roles.get(runId) === 'power') continue;
      else if (role === 'leg') roles.set(runId, 'leg');
      else if (role === 'traveler' && !roles.has(runId)) roles.set(runId, 'travelers');
    }
  return roles;
}

/** Terminals of a lever that what it switches hangs on. */
const OF_A_LEVER: ReadonlySet<TerminalKind> = new Set(['leg', 'common', 'traveler', 'pair']);

/** The gang of the device that a run's legs and travelers land on. */
function gangOf(reader: HouseReader, joints: readonly BoxJoint[], runId: string): number | undefined {
  const switched = joints
    .filter((joint) => (joint.role === 'leg' || joint.role === 'traveler') && isOf(runId, joint))
    .flatMap((joint) => joint.landings)
    .find(({ terminal: { kind } }) => OF_A_LEVER.has(kind))?.deviceId;
  return switched ? reader.get('devices', switched)?.gang : undefined;
}

/** Whether one of its circuits comes into the box by this run. */
const isFedBy = (reader: HouseReader, boxId: string, run: Run): boolean =>
  run.circuitIds.some((id) => {
    if (!supplyOf(reader, id)) return false;
    const { tree } = wireCircuit(reader, id);
    return [...tree.feed].some(([node, feed]) => feed.run.id === run.id && tree.boxOf.get(node) === boxId);
  });

function labelOf({ run, role, isFeed }: Entering, joints: readonly BoxJoint[]): EnteringCable['label'] {
  if (role === 'power') return { kind: isFeed ? 'power-in' : 'power-on' };
  const legs = joints.filter((joint) => joint.role === 'leg' && isOf(run.id, joint));
  const controlIds = new Set(legs.flatMap(({ controlId }) => controlId ?? []));
  return controlIds.size ? { kind: 'legs', controlIds: [...controlIds] } : { kind: 'to' };
}

/** Slots by the house's school; a panel has none of its own. */
function slotsFor(
  reader: HouseReader,
  boxId: string,
  entering: readonly Entering[],
): ReadonlyMap<string, number> {
  const { slots, kind } = shapeOfBox(reader, boxId);
  if (kind === 'panel') return new Map();
  return suggestSlots(
    reader,
    entering.map(({ run, role, isFeed, gang }) => ({
      runId: run.id,
      role,
      isFeed,
      slot: endAt(run, boxId).slot,
      gang,
    })),
    slots,
  );
}

/** The cables and raceways of a box by the slots that they have, or should have. */
export function enteringCables(
  reader: HouseReader,
  boxId: string,
  joints: readonly BoxJoint[],
): EnteringCable[] {
  const roles = rolesOf(reader, joints);
  const entering = runsAt(reader, boxId)
    .filter((run) => run.kind !== 'low-voltage')
    .map((run): Entering => {
      const role = roles.get(run.id) ?? 'other';
      const isPower = role === 'power';
      return {
        run,
        role,
        isFeed: isPower && isFedBy(reader, boxId, run),
        gang: isPower ? undefined : gangOf(reader, joints, run.id),
      };
    });
  const suggested = slotsFor(reader, boxId, entering);
  return entering
    .map((one): EnteringCable => {
      const { run, role } = one;
      const { slot } = endAt(run, boxId);
      const cable = run.kind === 'raceway' ? 'raceway' : cableIn(reader, run);
      const suggestedSlot = suggested.get(run.id);
      return {
        runId: run.id,
        role,
        label: labelOf(one, joints),
        ...(slot !== undefined && { slot }),
        ...(cable && { cable }),
        ...(suggestedSlot !== undefined && { suggestedSlot }),
      };
    })
    .sort((a, b) => (a.slot ?? a.suggestedSlot ?? 99) - (b.slot ?? b.suggestedSlot ?? 99));
}
