import type { HouseReader } from '../../derive/reader.js';
import type { Landing } from '../../vocabulary/terminal.js';
import { HOT, LEG, NEUTRAL, SUPPLY, sameTerminal } from '../../vocabulary/terminal.js';
import { isLink } from '../circuit/panel-terminals.js';
import { ringOf } from '../circuit/ring.js';
import { supplyOf } from '../../facts/circuit-facts.js';
import { wireCircuit } from '../conductors/wire-circuit.js';
import type { BoxJoint, CableEnd } from '../joints/box-joint.js';
import { lands, loosened, merged, moved, reshaped } from './edits.js';
import type { AddFault } from './fault-kinds.js';

/** The tape left off a white that is not neutral. */
export function unmarked(joints: readonly BoxJoint[], add: AddFault): void {
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
export function boxUnbonded(joints: readonly BoxJoint[], add: AddFault): void {
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

/** Whether an end belongs to a cable of a closed ring. */
function ringEndsOf(reader: HouseReader): (end: Pick<CableEnd, 'runId'>) => boolean {
  const known = new Map<string, ReadonlySet<string>>();
  return ({ runId }) => {
    const circuitId = reader.get('runs', runId)?.circuitIds[0];
    if (!circuitId || !supplyOf(reader, circuitId)?.ring) return false;
    let runs = known.get(circuitId);
    if (!runs) {
      const ring = ringOf(wireCircuit(reader, circuitId).tree);
      known.set(circuitId, (runs = new Set(ring?.runs.map(({ id }) => id))));
    }
    return runs.has(runId);
  };
}

export function faultsOfJoints(reader: HouseReader, joints: readonly BoxJoint[], add: AddFault): void {
  const neutrals = joints.filter(({ role }) => role === 'neutral');
  /** A core that is out of a ring leaves everything fed, by its other end. */
  const isOnRing = ringEndsOf(reader);
  for (const joint of neutrals) {
    if (joint.ends.length < 2 || joint.kind === 'uncut') continue;
    for (const end of joint.ends)
      add(isOnRing(end) ? 'ring open' : 'missed neutral splice', loosened(joint, end));
  }
  for (const joint of joints) {
    if (joint.ends.length < 2 || (joint.role !== 'hot' && joint.role !== 'ground')) continue;
    for (const end of joint.ends)
      if (isOnRing(end)) add('ring open', loosened(joint, end));
      else if (joint.role === 'hot') add('missed jumper', loosened(joint, end));
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
function switchedNeutral(joints: readonly BoxJoint[], add: AddFault): void {
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
function seriesLights(joints: readonly BoxJoint[], add: AddFault): void {
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
