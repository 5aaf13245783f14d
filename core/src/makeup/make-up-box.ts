import type { Derivation, HouseReader } from '../derive/reader.js';
import { circuitsAt, devicesIn } from '../facts/box-facts.js';
import type { Landing } from '../vocabulary/terminal.js';
import type { BoxJoint } from '../wiring/joints/box-joint.js';
import { boxJoints } from '../wiring/joints/box-joints.js';
import type { DeviceSheet } from './device-sheet.js';
import type { EnteringCable } from './entering-cables.js';
import { enteringCables } from './entering-cables.js';
import { sheetOf } from './device-sheet.js';
import type { MakeUpStep } from './make-up-step.js';
import { STAGES, STAGE_OF, stepOf } from './make-up-step.js';

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
    cables: enteringCables(reader, boxId, joints),
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
