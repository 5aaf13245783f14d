import type { HouseReader } from '../derive/reader.js';
import type { ConductorRef } from '../findings/facts.js';
import type { FaultPlace } from '../house/report.js';
import { boxJoints } from '../wiring/joints/box-joints.js';
import { boxesOf, shapeOfBox } from '../facts/box-facts.js';
import { supplyOf } from '../facts/circuit-facts.js';
import type { CauseKind } from '../rulebook/fault-priors.js';
import { FAULT_PRIORS, FINDING_MINUTES } from '../rulebook/fault-priors.js';
import { hasOwnNeutral, isOnBreaker } from '../wiring/circuit/panel-terminals.js';
import type { CircuitWiring } from '../wiring/conductors/circuit-wiring.js';
import { loosened, merged, reshaped } from '../wiring/faults/edits.js';
import type { Edit } from '../wiring/faults/edits.js';
import { EQUIVALENCES } from '../wiring/faults/fault-kinds.js';
import { faultsIn } from '../wiring/faults/faults.js';
import type { BoxJoint } from '../wiring/joints/box-joint.js';
import type { JointsByBox } from '../wiring/netlist/netlist.js';

/** Where one has to get to for mending it; what that takes is the same for all that is there. */
export interface Place extends FaultPlace {
  /** `<kind> <id>`: by what it is known. */
  readonly key: string;
  /** To get there and see it. */
  readonly minutes: number;
  /** It is a box that has to be opened. */
  readonly opens: boolean;
}

/** What is known of a circuit beside how it is wired. */
export interface Known {
  /** Boxes made or opened since the last good test. */
  readonly recent?: ReadonlySet<string>;
  /** How often each kind of fault was found by this crew. */
  readonly found?: ReadonlyMap<string, number>;
}

/** Circuits that are looked at together, and the joints of their boxes. */
export interface Scope {
  readonly wirings: readonly CircuitWiring[];
  readonly joints: JointsByBox;
}

/** One thing that may be wrong, at one place, put in as it would be. */
export interface Hypothesis {
  readonly kind: CauseKind;
  readonly place: Place;
  /** How often, against the others. */
  readonly weight: number;
  /** The conductor to look at, where there is one. */
  readonly conductor?: ConductorRef;
  readonly joints: JointsByBox;
  /** An AFCI or GFCI breaker or device ahead of it does not hold. */
  readonly tripsWatched: boolean;
}

const PRIORS: Readonly<Record<CauseKind, number>> = FAULT_PRIORS;
const PRIOR_SUM = Object.values(FAULT_PRIORS).reduce((a, b) => a + b, 0);
/** So many faults that a crew found weigh as much as what is usual: our choice. */
const FOUND_WEIGHT = 30;

/** How often a kind of fault is the cause: what is usual, moved by what the crew found. Together as much as what is usual. */
function weights(found: ReadonlyMap<string, number>): (kind: CauseKind) => number {
  const all = [...found.values()].reduce((a, b) => a + b, 0);
  return (kind) => (PRIORS[kind] * FOUND_WEIGHT + (found.get(kind) ?? 0) * PRIOR_SUM) / (FOUND_WEIGHT + all);
}

/** Faults that a breaker or device which watches ground and neutral does not hold with. */
const WATCHED: ReadonlySet<CauseKind> = new Set<CauseKind>([
  'bare ground on a terminal',
  'neutral joined to ground',
  'neutral on the bar',
  'neutral on another breaker',
  'neutrals of two circuits joined',
  'borrowed neutral',
  'LOAD joined to LINE',
  'hot and neutral by different ways',
]);

const HARMLESS: ReadonlySet<string> = new Set(EQUIVALENCES);

export const keyOfPlace = ({ kind, id }: FaultPlace): string => `${kind} ${id}`;

const placeAt = (kind: Place['kind'], id: string): Place => ({
  key: keyOfPlace({ kind, id }),
  kind,
  id,
  opens: kind === 'box',
  minutes: {
    breaker: FINDING_MINUTES.breaker,
    panel: FINDING_MINUTES.panel,
    box: FINDING_MINUTES.open,
    device: FINDING_MINUTES.swap,
    wall: FINDING_MINUTES.wall,
  }[kind],
});

/** The conductor that is joined otherwise than before: the first end that is no ground, of the joints that are not as they were. */
function changedConductor(before: readonly BoxJoint[], after: readonly BoxJoint[]): ConductorRef | undefined {
  const left = before.filter((joint) => !after.includes(joint)).flatMap(({ ends }) => ends);
  const end = left.find(({ ground }) => !ground) ?? left[0];
  return end && { runId: end.runId, key: end.key };
}

/** What a box is like when hands did `edit` in it. */
const edited = (joints: JointsByBox, boxId: string, edit: Edit): JointsByBox =>
  new Map(joints).set(
    boxId,
    edit(joints.get(boxId)!).filter(({ ends, landings }) => ends.length + landings.length > 0),
  );

/**
 * Everything single that may be wrong with these circuits in their boxes, made by the injection that the proof is checked with; and the
 * breaker just off, a conductor cut or two shorted in a wall, a device or lamp that is dead. `joints` are those of all circuits that come
 * into the same boxes. `recent` are boxes made or opened since the last good test: what is there is three times as likely (common practice). `found`: how often the crew has found each kind.
 */
export function hypothesesIn(
  reader: HouseReader,
  { wirings, joints: ownJoints }: Scope,
  joints: JointsByBox,
  { recent = new Set(), found: before = new Map() }: Known = {},
): Hypothesis[] {
  const found: Hypothesis[] = [];
  const often = weights(before);
  const circuits = wirings.flatMap(({ circuitIds }) => circuitIds);
  const isWatched = circuits.some((id) => {
    const supply = supplyOf(reader, id);
    return supply !== undefined && hasOwnNeutral(supply);
  });
  const add = (
    kind: CauseKind,
    place: Place,
    after: JointsByBox,
    conductor?: ConductorRef,
    boxIds: readonly string[] = [],
  ): void => {
    found.push({
      kind,
      place,
      weight: often(kind) * (boxIds.some((boxId) => recent.has(boxId)) ? 3 : 1),
      joints: after,
      tripsWatched: isWatched && WATCHED.has(kind),
      ...(conductor && { conductor }),
    });
  };
  for (const [boxId, own] of ownJoints) {
    // What was recorded as made otherwise than asked for.
    const { joints: made, conflicts } = boxJoints(reader, boxId);
    if (!conflicts.length) continue;
    const ends = new Set(own.flatMap((joint) => joint.ends.map(({ runId, key }) => `${runId} ${key}`)));
    const recorded = made.filter(
      (joint) => !joint.ends.length || joint.ends.some(({ runId, key }) => ends.has(`${runId} ${key}`)),
    );
    const kind = shapeOfBox(reader, boxId).kind === 'panel' ? 'panel' : 'box';
    const others = joints.get(boxId)!.filter((joint) => !own.includes(joint));
    const after = new Map(joints).set(boxId, [...recorded, ...others]);
    add('as recorded', placeAt(kind, boxId), after, changedConductor(own, recorded), [boxId]);
  }
  for (const fault of faultsIn(reader, joints)) {
    if (fault.harmless || HARMLESS.has(fault.kind)) continue;
    const mine = ownJoints.get(fault.boxId);
    if (!mine) continue;
    const after = fault.into(joints);
    // What is wrong with another circuit only is no cause here.
    if (mine.every((joint) => after.get(fault.boxId)!.includes(joint))) continue;
    const conductor = changedConductor(joints.get(fault.boxId)!, after.get(fault.boxId)!);
    const kind = shapeOfBox(reader, fault.boxId).kind === 'panel' ? 'panel' : 'box';
    add(fault.kind as CauseKind, placeAt(kind, fault.boxId), after, conductor, [fault.boxId]);
  }
  for (const [boxId, own] of ownJoints) {
    if (shapeOfBox(reader, boxId).kind === 'panel') {
      for (const circuitId of circuits) {
        const onIt = own.filter(({ landings }) =>
          landings.some(
            (to) => to.terminal.kind === 'breaker' && isOnBreaker(to) && to.terminal.circuitId === circuitId,
          ),
        );
        if (!onIt.length) continue;
        const off = edited(joints, boxId, (all) =>
          all.map((joint) => (onIt.includes(joint) ? reshaped(joint, { landings: [] }) : joint)),
        );
        add('breaker off', placeAt('breaker', circuitId), off);
      }
      continue;
    }
    const devices = new Set(
      own.flatMap(({ landings }) => landings.flatMap(({ deviceId }) => deviceId ?? [])),
    );
    for (const deviceId of devices) {
      const dead = edited(joints, boxId, (all) =>
        all.map((joint) =>
          joint.role === 'ground'
            ? joint
            : reshaped(joint, { landings: joint.landings.filter((to) => to.deviceId !== deviceId) }),
        ),
      );
      add('dead device', placeAt('device', deviceId), dead, undefined, [boxId]);
    }
  }
  const runs = new Set(wirings.flatMap(({ runs: own }) => [...own.keys()]));
  for (const runId of runs) {
    const run = reader.get('runs', runId);
    const boxId = run && boxesOf(run).find((id) => ownJoints.has(id));
    if (!run || boxId === undefined) continue;
    const own = ownJoints.get(boxId)!;
    // Grounds last: what two shorted conductors are together is told by the other one.
    const ends = own
      .flatMap((joint) =>
        joint.ends
          .filter((end) => end.runId === runId && joint.role !== 'spare')
          .map((end) => ({ joint, end })),
      )
      .sort((a, b) => Number(a.end.ground) - Number(b.end.ground));
    const place = placeAt('wall', runId);
    for (const { joint, end } of ends) {
      const cut = edited(joints, boxId, loosened(joint, end));
      add('conductor cut in the wall', place, cut, { runId, key: end.key }, boxesOf(run));
    }
    for (const [at, a] of ends.entries())
      for (const b of ends.slice(at + 1)) {
        if (a.joint === b.joint) continue;
        const short = edited(joints, boxId, merged(a.joint, b.joint));
        add('conductors shorted in the wall', place, short, { runId, key: a.end.key }, boxesOf(run));
      }
  }
  return found;
}
