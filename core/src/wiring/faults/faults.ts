import { poleOf } from '../../vocabulary/signal.js';
import type { HouseReader } from '../../derive/reader.js';
import { shapeOfBox, deviceType } from '../../facts/box-facts.js';
import type { BoxJoint, CableEnd } from '../joints/box-joint.js';
import type { Landing, Terminal } from '../../vocabulary/terminal.js';
import {
  COMMON,
  GROUND,
  HOT,
  LEG,
  LINE,
  LOAD,
  NEUTRAL,
  NEUTRAL_BAR,
  PAIR,
  SUPPLY,
  TRAVELER,
  circuitOfTerminal,
  sameTerminal,
  terminalKey,
} from '../../vocabulary/terminal.js';
import { shapeOf } from '../joints/box-joint.js';
import type { JointsByBox } from '../netlist/netlist.js';
import { isLink } from '../circuit/panel-terminals.js';

/** The faults that crews make, by the table of the trade: what an electrical one does shows when it is operated. */
export const FAULT_KINDS = [
  'traveler on common',
  'four-way pairs mixed',
  'missed neutral splice',
  'neutrals of two circuits joined',
  'borrowed neutral',
  'hot and neutral by different ways',
  'white not marked',
  'switched neutral',
  'tab not broken',
  'halves swapped',
  'missed jumper',
  'series lights',
  'ground missing',
  'metal box unbonded',
  'bare ground on a terminal',
  'load on another breaker',
  'neutral joined to ground',
  'LOAD joined to LINE',
  'GFCI fed on LOAD',
  'interconnect open',
  'interconnect on a hot',
  'neutral on the bar',
  'neutral on another breaker',
  'hot on another breaker',
  'link of two splices left off',
  'single-pole for a three-way',
] as const;
export type FaultKind = (typeof FAULT_KINDS)[number];

/** Changes that do nothing: they are not to be reported. */
export const EQUIVALENCES = [
  'travelers swapped at one end',
  'pairs of a four-way swapped',
  'a pair of a four-way turned over',
] as const;
export type Equivalence = (typeof EQUIVALENCES)[number];

/** One fault at one place, ready to be put in. */
export interface Fault {
  readonly kind: FaultKind | Equivalence;
  readonly boxId: string;
  readonly harmless: boolean;
  readonly into: (joints: JointsByBox) => JointsByBox;
}

type Edit = (joints: readonly BoxJoint[]) => readonly BoxJoint[];

const reshaped = (joint: BoxJoint, part: Partial<Pick<BoxJoint, 'ends' | 'landings' | 'role'>>): BoxJoint => {
  const ends = part.ends ?? joint.ends;
  const landings = part.landings ?? joint.landings;
  return { ...joint, ...part, ends, landings, kind: shapeOf(ends.length, landings.length) };
};
const lands = (joint: BoxJoint, deviceId: string, terminal: Terminal): boolean =>
  joint.landings.some((to) => to.deviceId === deviceId && sameTerminal(to.terminal, terminal));

/** Lands on other terminals of one device: from, to; nowhere where there is no other. */
const relanded =
  (deviceId: string, ...moves: readonly (readonly [Terminal, Terminal | undefined])[]): Edit =>
  (joints) =>
    joints.map((joint) =>
      reshaped(joint, {
        landings: joint.landings.flatMap((to) => {
          const move =
            to.deviceId === deviceId && moves.find(([terminal]) => sameTerminal(terminal, to.terminal));
          if (!move) return [to];
          const [, terminal] = move;
          return terminal ? [{ ...to, terminal }] : [];
        }),
      }),
    );
/** Exchanges two terminals of one device. */
const swapped = (deviceId: string, one: Terminal, other: Terminal): Edit =>
  relanded(deviceId, [one, other], [other, one]);
const without = (joints: readonly BoxJoint[]): readonly BoxJoint[] =>
  joints.filter((joint) => joint.ends.length + joint.landings.length > 0);

/** Takes one end or landing out of a joint and leaves the end by itself. */
const loosened =
  (target: BoxJoint, end: CableEnd): Edit =>
  (joints) =>
    joints.flatMap((joint) =>
      joint !== target
        ? [joint]
        : [
            reshaped(joint, { ends: joint.ends.filter((own) => own !== end) }),
            { ...reshaped(joint, { ends: [end], landings: [] }), role: 'undecided' as const },
          ],
    );
const merged =
  (one: BoxJoint, other: BoxJoint): Edit =>
  (joints) =>
    joints.flatMap((joint) =>
      joint === other
        ? []
        : joint === one
          ? [
              reshaped(joint, {
                ends: [...one.ends, ...other.ends],
                landings: [...one.landings, ...other.landings],
              }),
            ]
          : [joint],
    );

/** Takes a landing from one joint to another. */
const moved =
  (from: BoxJoint, to: BoxJoint, landing: Landing): Edit =>
  (joints) =>
    joints.map((joint) =>
      joint === from
        ? reshaped(joint, { landings: joint.landings.filter((own) => own !== landing) })
        : joint === to
          ? reshaped(joint, { landings: [...joint.landings, landing] })
          : joint,
    );

/** Every fault and every harmless change that can be put into these joints. */
export function faultsIn(reader: HouseReader, all: JointsByBox): Fault[] {
  const faults: Fault[] = [];
  for (const [boxId, joints] of all) {
    const isPanel = shapeOfBox(reader, boxId).kind === 'panel';
    const add = (kind: Fault['kind'], edit: Edit, harmless = false): void => {
      faults.push({
        kind,
        boxId,
        harmless,
        into: (before) => new Map(before).set(boxId, without(edit(before.get(boxId)!))),
      });
    };
    if (isPanel) {
      faultsOfPanel(joints, add);
      continue;
    }
    const devices = new Set(joints.flatMap((joint) => joint.landings.flatMap((to) => to.deviceId ?? [])));
    for (const deviceId of devices) faultsOfDevice(reader, deviceId, joints, add);
    faultsOfJoints(reader, joints, add);
    faultsAcross(joints, add);
    unmarked(joints, add);
    boxUnbonded(joints, add);
  }
  return faults;
}

function faultsOfDevice(
  reader: HouseReader,
  deviceId: string,
  joints: readonly BoxJoint[],
  add: (kind: Fault['kind'], edit: Edit, harmless?: boolean) => void,
): void {
  const used = new Set(
    joints.flatMap((joint) =>
      joint.landings.filter((to) => to.deviceId === deviceId).map((to) => terminalKey(to.terminal)),
    ),
  );
  const has = (terminal: Terminal): boolean => used.has(terminalKey(terminal));
  const at = (terminal: Terminal): BoxJoint | undefined =>
    joints.find((joint) => lands(joint, deviceId, terminal));
  const [common, a, b] = [COMMON(), TRAVELER.a(), TRAVELER.b()];
  if (has(common) && has(a) && has(b)) {
    add('traveler on common', swapped(deviceId, common, a));
    add('travelers swapped at one end', swapped(deviceId, a, b), true);
    add('single-pole for a three-way', relanded(deviceId, [common, SUPPLY()], [a, LEG()], [b, undefined]));
  }
  const [a1, b1, a2, b2] = [PAIR[1].a(), PAIR[1].b(), PAIR[2].a(), PAIR[2].b()];
  if (has(a1) && has(a2)) {
    add('four-way pairs mixed', swapped(deviceId, b1, a2));
    add('pairs of a four-way swapped', relanded(deviceId, [a1, a2], [b1, b2], [a2, a1], [b2, b1]), true);
    add('a pair of a four-way turned over', swapped(deviceId, a1, b1), true);
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
  const hot = at(SUPPLY()) ?? at(common) ?? at(HOT());
  if (ground && hot && (hot.role === 'hot' || hot.role === 'leg'))
    add('bare ground on a terminal', merged(hot, ground));
}

/** What lands on the wrong terminal of the panel. */
function faultsOfPanel(joints: readonly BoxJoint[], add: (kind: Fault['kind'], edit: Edit) => void): void {
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
function faultsAcross(joints: readonly BoxJoint[], add: (kind: Fault['kind'], edit: Edit) => void): void {
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

/** The tape left off a white that is not neutral. */
function unmarked(joints: readonly BoxJoint[], add: (kind: Fault['kind'], edit: Edit) => void): void {
  for (const joint of joints)
    if (joint.ends.some((end) => end.reidentified))
      add('white not marked', (before) =>
        before.map((one) =>
          one === joint
            ? {
                ...one,
                ends: one.ends.map((end) => (end.reidentified ? { ...end, marked: false } : end)),
              }
            : one,
        ),
      );
}

/** The pigtail to a metal box left off. */
function boxUnbonded(joints: readonly BoxJoint[], add: (kind: Fault['kind'], edit: Edit) => void): void {
  const isScrew = (to: Landing): boolean => !to.deviceId && to.terminal.kind === 'box-ground';
  const ground = joints.find((joint) => joint.landings.some(isScrew));
  if (ground && ground.ends.length)
    add('metal box unbonded', (before) =>
      before.map((joint) =>
        joint === ground ? reshaped(joint, { landings: joint.landings.filter((to) => !isScrew(to)) }) : joint,
      ),
    );
}

/** Whether what it lands on draws anything: the electronics of a switch draw next to nothing. */
const isLoad = (reader: HouseReader, { deviceId }: Landing): boolean =>
  deviceId !== undefined && reader.mentioning('points', deviceId).some(({ role }) => role !== 'lever');

function faultsOfJoints(
  reader: HouseReader,
  joints: readonly BoxJoint[],
  add: (kind: Fault['kind'], edit: Edit) => void,
): void {
  const neutrals = joints.filter(({ role }) => role === 'neutral');
  for (const joint of neutrals) {
    if (joint.ends.length < 2 || joint.kind === 'uncut') continue;
    for (const end of joint.ends) add('missed neutral splice', loosened(joint, end));
  }
  for (const joint of joints) {
    if (joint.role !== 'hot' || joint.ends.length < 2) continue;
    for (const end of joint.ends) add('missed jumper', loosened(joint, end));
  }
  const [first, ...others] = neutrals.filter(({ circuitId }) => circuitId);
  const foreign = others.find(
    ({ circuitId, signal }) =>
      circuitId !== first!.circuitId && signal === 'neutral' && first!.signal === 'neutral',
  );
  if (first && foreign) {
    add('neutrals of two circuits joined', merged(first, foreign));
    const toLoad = first.landings.find(({ deviceId }) => deviceId);
    if (toLoad) add('borrowed neutral', moved(first, foreign, toLoad));
  }
  // Cables side by side have a neutral each: a load whose neutral goes home through the other cable. Parts of one
  // splice with a link between them are one.
  for (const own of neutrals) {
    const beside = neutrals.find(
      (other) =>
        other !== own &&
        other.circuitId === own.circuitId &&
        other.signal === own.signal &&
        other.ends.length > 0 &&
        !(other.landings.some(isLink) && own.landings.some(isLink)),
    );
    const toLoad = own.landings.find((to) => isLoad(reader, to));
    if (beside && toLoad) add('hot and neutral by different ways', moved(own, beside, toLoad));
  }
  switchedNeutral(joints, add);
  seriesLights(joints, add);
}

/** A single-pole put into the neutral of what it switches instead of into its hot. */
function switchedNeutral(joints: readonly BoxJoint[], add: (kind: Fault['kind'], edit: Edit) => void): void {
  for (const leg of joints) {
    const lever = leg.landings.find(({ terminal }) => sameTerminal(terminal, LEG()));
    if (leg.role !== 'leg' || !lever || leg.ends.length > 1) continue;
    const [end] = leg.ends;
    const lights = leg.landings.filter(({ terminal }) => sameTerminal(terminal, HOT()));
    if (Boolean(end) === lights.length > 0) continue;
    const isReturn = (to: Landing): boolean =>
      sameTerminal(to.terminal, NEUTRAL()) && lights.some(({ deviceId }) => deviceId === to.deviceId);
    const hot = joints.find((joint) => joint.role === 'hot' && lands(joint, lever.deviceId!, SUPPLY()));
    const neutral = joints.find(
      (joint) =>
        joint.role === 'neutral' &&
        (end
          ? joint.ends.length > 1 && joint.ends.some(({ runId }) => runId === end.runId)
          : joint.ends.length > 0 && joint.landings.some(isReturn)),
    );
    if (!hot || !neutral) continue;
    const whites = neutral.ends.filter(({ runId }) => runId === end?.runId);
    const returns = neutral.landings.filter(isReturn);
    add('switched neutral', (before) =>
      before.map((joint) => {
        if (joint === hot)
          return reshaped(joint, {
            ends: [...joint.ends, ...leg.ends],
            landings: [...joint.landings.filter((to) => to.deviceId !== lever.deviceId), ...lights],
          });
        if (joint === neutral)
          return reshaped(joint, {
            ends: joint.ends.filter((own) => !whites.includes(own)),
            landings: [
              ...joint.landings.filter((to) => !isReturn(to)),
              { deviceId: lever.deviceId!, terminal: SUPPLY() },
            ],
          });
        return joint === leg ? reshaped(joint, { ends: whites, landings: [lever, ...returns] }) : joint;
      }),
    );
  }
}

/** A light whose return is joined to the leg that goes on, so that the next one hangs behind it. */
function seriesLights(joints: readonly BoxJoint[], add: (kind: Fault['kind'], edit: Edit) => void): void {
  for (const leg of joints) {
    const light = leg.landings.find(({ terminal }) => sameTerminal(terminal, HOT()));
    if (leg.role !== 'leg' || !light || leg.ends.length < 2) continue;
    const neutral = joints.find(
      (joint) => joint.role === 'neutral' && lands(joint, light.deviceId!, NEUTRAL()),
    );
    if (!neutral) continue;
    const onward = leg.ends.at(-1)!;
    add('series lights', (before) => [
      ...before.map((joint) =>
        joint === leg
          ? reshaped(joint, { ends: joint.ends.filter((own) => own !== onward) })
          : joint === neutral
            ? reshaped(joint, { landings: joint.landings.filter((to) => to.deviceId !== light.deviceId) })
            : joint,
      ),
      {
        ...reshaped(leg, { ends: [onward], landings: [{ deviceId: light.deviceId!, terminal: NEUTRAL() }] }),
      },
    ]);
  }
}
