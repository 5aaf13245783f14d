import type { HouseReader } from '../../derive/reader.js';
import { deviceType } from '../../facts/box-facts.js';
import { poleOf } from '../../vocabulary/signal.js';
import type { Landing, Terminal } from '../../vocabulary/terminal.js';
import {
  COMMON,
  GROUND,
  HOT,
  LINE,
  LOAD,
  NEUTRAL,
  NEUTRAL_BAR,
  SUPPLY,
  circuitOfTerminal,
  sameTerminal,
  terminalKey,
} from '../../vocabulary/terminal.js';
import { LEVER_MODELS } from '../circuit/device-models.js';
import { isLink } from '../circuit/panel-terminals.js';
import type { BoxJoint } from '../joints/box-joint.js';
import type { Edit } from './edits.js';
import { lands, loosened, merged, moved, relanded, reshaped, swapped } from './edits.js';
import type { AddFault } from './fault-kinds.js';

export function faultsOfDevice(
  reader: HouseReader,
  deviceId: string,
  joints: readonly BoxJoint[],
  add: AddFault,
): void {
  const used = new Set(
    joints.flatMap((joint) =>
      joint.landings.filter((to) => to.deviceId === deviceId).map((to) => terminalKey(to.terminal)),
    ),
  );
  const has = (terminal: Terminal): boolean => used.has(terminalKey(terminal));
  const at = (terminal: Terminal): BoxJoint | undefined =>
    joints.find((joint) => lands(joint, deviceId, terminal));
  for (const { slipOn, slips } of Object.values(LEVER_MODELS)) {
    if (slipOn.length === 0 || !slipOn.every((terminal) => has(terminal()))) continue;
    for (const { kind, moves, harmless } of slips)
      add(kind, relanded(deviceId, ...moves.map(([from, to]) => [from(), to?.()] as const)), harmless);
  }
  const device = reader.get('devices', deviceId)!;
  const receptacle = reader.mentioning('points', deviceId).every(({ role }) => role === 'receptacle');
  const [half, other] = [at(HOT(1)), at(HOT(2))];
  if (receptacle && half && other && half !== other) {
    add('tab not broken', merged(half, other));
    add('halves swapped', swapped(deviceId, HOT(1), HOT(2)));
  }
  for (const part of [SUPPLY, HOT, NEUTRAL]) {
    const [one, two] = [at(part(1)), at(part(2))];
    if (one && two && one !== two && (part !== HOT || !receptacle)) add('tab not broken', merged(one, two));
  }
  const ground = at(GROUND);
  // A device of which nothing else lands here belongs to another circuit.
  if (ground && used.size > 1 && deviceType(reader, device).mount !== 'direct')
    add('ground missing', (before) =>
      before.map((joint) =>
        joint === ground
          ? reshaped(joint, { landings: joint.landings.filter((to) => to.deviceId !== deviceId) })
          : joint,
      ),
    );
  const hot = at(SUPPLY()) ?? at(COMMON()) ?? at(HOT());
  if (ground && hot && (hot.role === 'hot' || hot.role === 'leg'))
    add('bare ground on a terminal', merged(hot, ground));
}

/** What lands on the wrong terminal of the panel. */
export function faultsOfPanel(joints: readonly BoxJoint[], add: AddFault): void {
  const movedTo =
    (target: BoxJoint, landing: Landing): Edit =>
    (before) =>
      before.map((joint) => (joint === target ? reshaped(joint, { landings: [landing] }) : joint));
  const hots = joints.filter((joint) =>
    joint.landings.some(({ terminal }) => terminal.kind === 'breaker' && terminal.pole === 1),
  );
  const breakerOn = (joint: BoxJoint): string | undefined =>
    joint.landings[0] && circuitOfTerminal(joint.landings[0].terminal);
  const isWatched = (joint: BoxJoint): boolean => joint.landings[0]?.terminal.kind === 'breaker-neutral';
  for (const joint of joints) {
    if (!isWatched(joint)) continue;
    add('neutral on the bar', movedTo(joint, { terminal: NEUTRAL_BAR }));
    const other = joints.find((one) => isWatched(one) && breakerOn(one) !== breakerOn(joint));
    if (other) add('neutral on another breaker', movedTo(joint, other.landings[0]!));
  }
  for (const joint of hots) {
    const other = hots.find((one) => breakerOn(one) !== breakerOn(joint));
    if (other) add('hot on another breaker', movedTo(joint, other.landings[0]!));
  }
}

/** A terminal that hangs on a hot. */
const isFed = (terminal: Terminal): boolean =>
  terminal.kind === 'supply' ||
  terminal.kind === 'common' ||
  (terminal.kind === 'hot' && terminal.of === undefined);

/** What is joined across where it is to be kept apart: breakers, ground, the sides of a GFCI device, the interconnect. */
export function faultsAcross(joints: readonly BoxJoint[], add: AddFault): void {
  const hots = joints.filter(({ role, signal }) => role === 'hot' && signal && poleOf(signal) === 1);
  for (const own of hots) {
    const other = hots.find((one) => one.circuitId !== own.circuitId);
    const to = own.landings.find(({ terminal }) => isFed(terminal));
    if (other && to && own.landings.length > 1) add('load on another breaker', moved(own, other, to));
  }
  const ground = joints.find(({ role, ends }) => role === 'ground' && ends.length);
  const neutral = joints.find(({ role, ends }) => role === 'neutral' && ends.length > 1);
  if (ground && neutral) add('neutral joined to ground', merged(neutral, ground));
  const at = (deviceId: string, terminal: Terminal): BoxJoint | undefined =>
    joints.find((joint) => lands(joint, deviceId, terminal));
  for (const joint of joints) {
    const deviceId = joint.landings.find(({ terminal }) => sameTerminal(terminal, LOAD.hot))?.deviceId;
    if (!deviceId) continue;
    for (const side of ['hot', 'neutral'] as const) {
      const [line, load] = [at(deviceId, LINE[side]), at(deviceId, LOAD[side])];
      if (line && load) add('LOAD joined to LINE', merged(line, load));
    }
    add(
      'GFCI fed on LOAD',
      relanded(
        deviceId,
        [LINE.hot, LOAD.hot],
        [LOAD.hot, LINE.hot],
        [LINE.neutral, LOAD.neutral],
        [LOAD.neutral, LINE.neutral],
      ),
    );
  }
  for (const joint of joints) {
    if (joint.role !== 'interconnect') continue;
    for (const end of joint.ends)
      if (joint.ends.length + joint.landings.length > 1) add('interconnect open', loosened(joint, end));
    if (hots[0]) add('interconnect on a hot', merged(hots[0], joint));
  }
  for (const joint of joints) {
    const link = joint.landings.find(isLink);
    if (link)
      add('link of two splices left off', (before) =>
        before.map((one) =>
          one === joint ? reshaped(one, { landings: one.landings.filter((to) => to !== link) }) : one,
        ),
      );
  }
}
