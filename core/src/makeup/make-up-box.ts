import { supplyOf } from '../facts/circuit-facts.js';
import type { Derivation, HouseReader } from '../derive/reader.js';
import { shapeOfBox, cableIn, circuitsAt, devicesIn, endAt, runsAt } from '../facts/box-facts.js';
import type { Landing, TerminalKind } from '../vocabulary/terminal.js';
import type { BoxJoint } from '../wiring/joints/box-joint.js';
import { boxJoints } from '../wiring/joints/box-joints.js';
import { wireCircuit } from '../wiring/conductors/wire-circuit.js';
import type { DeviceSheet } from './device-sheet.js';
import { sheetOf } from './device-sheet.js';
import type { MakeUpStep } from './make-up-step.js';
import { STAGES, STAGE_OF, stepOf } from './make-up-step.js';
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

export interface MakeUp {
  readonly boxId: string;
  readonly devices: readonly DeviceSheet[];
  readonly cables: readonly EnteringCable[];
  /** Circuits whose breakers are opened before anybody reaches in. */
  readonly breakers: readonly string[];
  /** Length past the face of the box that conductors are trimmed to, in inches. */
  readonly trimIn: number;
  readonly sheathFirst: boolean;
  readonly steps: readonly MakeUpStep[];
  /** Terminals that no conductor reaches. */
  readonly unfed: readonly Landing[];
  /** Everything is derived: the steps are the whole make-up. */
  readonly complete: boolean;
}

/** Terminals of a lever that what it switches hangs on. */
const OF_A_LEVER: ReadonlySet<TerminalKind> = new Set(['leg', 'common', 'traveler', 'pair']);

function cablesOf(reader: HouseReader, boxId: string, joints: readonly BoxJoint[]): EnteringCable[] {
  const roles = new Map<string, EnteringCable['role']>();
  for (const joint of joints) {
    for (const end of joint.ends) {
      const circuitId = joint.circuitId;
      const power = circuitId && wireCircuit(reader, circuitId).runs.get(end.runId)?.power;
      if (joint.role === 'hot' && power) roles.set(end.runId, 'power');
      else if ((joint.role === 'leg' || joint.role === 'traveler') && roles.get(end.runId) !== 'power')
        roles.set(end.runId, joint.role === 'leg' ? 'leg' : (roles.get(end.runId) ?? 'travelers'));
    }
  }
  const { slots, kind } = shapeOfBox(reader, boxId);
  const gangOf = (runId: string): number | undefined => {
    const switched = joints
      .filter(
        (joint) =>
          (joint.role === 'leg' || joint.role === 'traveler') &&
          joint.ends.some((end) => end.runId === runId),
      )
      .flatMap((joint) => joint.landings)
      .find(({ terminal: { kind } }) => OF_A_LEVER.has(kind))?.deviceId;
    return switched ? reader.get('devices', switched)?.gang : undefined;
  };
  const labelOf = (role: EnteringCable['role'], isFeed: boolean, runId: string): EnteringCable['label'] => {
    if (role === 'power') return { kind: isFeed ? 'power-in' : 'power-on' };
    const controlIds = joints.flatMap((joint) =>
      joint.controlId && joint.role === 'leg' && joint.ends.some((end) => end.runId === runId)
        ? joint.controlId
        : [],
    );
    return controlIds.length ? { kind: 'legs', controlIds: [...new Set(controlIds)] } : { kind: 'to' };
  };
  const entering = runsAt(reader, boxId)
    .filter((run) => run.kind !== 'low-voltage')
    .map((run) => {
      const role = roles.get(run.id) ?? 'other';
      const feeds = run.circuitIds.some((id) => {
        if (!supplyOf(reader, id)) return false;
        const { tree } = wireCircuit(reader, id);
        return [...tree.feed].some(
          ([node, feed]) => feed.run.id === run.id && tree.boxOf.get(node) === boxId,
        );
      });
      const isFeed = role === 'power' && feeds;
      return { run, role, isFeed, gang: role === 'power' ? undefined : gangOf(run.id) };
    });
  const suggested =
    kind === 'panel'
      ? new Map<string, number>()
      : suggestSlots(
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
  return entering
    .map(({ run, role, isFeed }): EnteringCable => {
      const { slot } = endAt(run, boxId);
      const cable = run.kind === 'raceway' ? 'raceway' : cableIn(reader, run);
      const suggestedSlot = suggested.get(run.id);
      return {
        runId: run.id,
        role,
        label: labelOf(role, isFeed, run.id),
        ...(slot !== undefined && { slot }),
        ...(cable && { cable }),
        ...(suggestedSlot !== undefined && { suggestedSlot }),
      };
    })
    .sort((a, b) => (a.slot ?? a.suggestedSlot ?? 99) - (b.slot ?? b.suggestedSlot ?? 99));
}

/** Traveler A before B. */
const signalOrder = (a: BoxJoint, b: BoxJoint): number =>
  a.role === 'traveler' && b.role === 'traveler' ? ((a.signal ?? '') < (b.signal ?? '') ? -1 : 1) : 0;

function compute(reader: HouseReader, boxId: string): MakeUp {
  const { joints, unfed, openDevices } = boxJoints(reader, boxId);
  const rules = reader.rules();
  const gangOf = (joint: BoxJoint): number =>
    Math.min(
      99,
      ...joint.landings.map(({ deviceId }) => (deviceId && reader.get('devices', deviceId)?.gang) || 99),
    );
  const steps = [...joints]
    .sort(
      (a, b) =>
        STAGES.indexOf(STAGE_OF[a.role]) - STAGES.indexOf(STAGE_OF[b.role]) ||
        gangOf(a) - gangOf(b) ||
        signalOrder(a, b),
    )
    .map((joint) => stepOf(reader, boxId, joint, joints));
  return {
    boxId,
    devices: devicesIn(reader, boxId).map((device) => sheetOf(reader, device, joints)),
    cables: cablesOf(reader, boxId, joints),
    breakers: circuitsAt(reader, boxId),
    trimIn: rules.number('makeup.trim'),
    sheathFirst: rules.text('makeup.sheath') === 'before-entering',
    steps,
    unfed,
    complete: unfed.length === 0 && openDevices.size === 0 && joints.every((joint) => !joint.open),
  };
}

/** The make-up of a box, by box id: grounds, neutrals, hots, legs, spares, each as steps in the order of the trade. */
const BOX_MAKE_UP: Derivation<MakeUp> = { name: 'box make-up', compute };

export const makeUpBox = (reader: HouseReader, boxId: string): MakeUp => reader.derive(BOX_MAKE_UP, boxId);
