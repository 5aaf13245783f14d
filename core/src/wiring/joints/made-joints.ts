import { circuitsOfPanel, numberOf, wiringGroup } from '../../facts/circuit-facts.js';
import type { HouseReader } from '../../derive/reader.js';
import { boxFacts, conductorsOf, endAt, runsAt } from '../../facts/box-facts.js';
import type { Box, Joint } from '../../house/model.js';
import type { BoxJoint, BoxJoints, CableEnd } from './box-joint.js';
import type { Landing } from '../../vocabulary/terminal.js';
import {
  BOX_GROUND,
  CAPPED,
  GROUND_BAR,
  LUGS,
  NEUTRAL_BAR,
  breakerNeutralOf,
  breakerOf,
  isNumbered,
  landingKey,
  sameLanding,
  sameTerminal,
  wholeOf,
} from '../../vocabulary/terminal.js';
import { hasOwnNeutral, isGroundBar, isLink, isSubPanel } from '../circuit/panel-terminals.js';
import { canBeMarked, coloursOf } from '../circuit/marking.js';
import { recordedJoints } from '../circuit/recorded-joints.js';
import { namedAsMade } from './same-behaviour.js';
import { Union } from '../../structures/union.js';
import type { MadeConflict } from './box-joint.js';
import { endKey, shapeOf } from './box-joint.js';

/** What is wrong with the record itself. */
export interface RecordProblem {
  readonly code: 'made.conductor-twice' | 'made.unknown-conductor' | 'made.unknown-terminal';
  readonly what: string;
}

/** Insulated and bare conductors that end in a box, by `endKey`. */
function endsIn(reader: HouseReader, boxId: string): ReadonlyMap<string, CableEnd> {
  const ends = new Map<string, CableEnd>();
  for (const run of runsAt(reader, boxId)) {
    if (run.kind === 'low-voltage') continue;
    const { slot } = endAt(run, boxId);
    for (const conductor of conductorsOf(reader, run))
      ends.set(endKey(conductor), { ...conductor, ...(slot !== undefined && { slot }) });
  }
  return ends;
}

/** A box as far as its record goes. */
type MadeBox = Pick<Box, 'id' | 'asBuilt'>;

/** Conductors named twice or not there, in the joints recorded for a box. */
export function recordProblems(reader: HouseReader, box: MadeBox): RecordProblem[] {
  const there = endsIn(reader, box.id);
  const seen = new Set<string>();
  const problems: RecordProblem[] = [];
  for (const joint of box.asBuilt ?? []) {
    for (const { runId, conductor } of joint.ends) {
      const key = `${runId} ${conductor}`;
      if (!there.has(key)) problems.push({ code: 'made.unknown-conductor', what: conductor });
      else if (seen.has(key)) problems.push({ code: 'made.conductor-twice', what: conductor });
      seen.add(key);
    }
  }
  return problems;
}

/** The joint as it is written into the house when a step is ticked: made and marked as the step says. */
export function recordOfJoint(joint: BoxJoint, connector?: string): Joint {
  return {
    kind: joint.kind === 'undecided' ? 'cap' : joint.kind,
    ends: joint.ends.map(({ runId, key, reidentified }) => ({
      runId,
      conductor: key,
      ...(reidentified && { marked: true }),
    })),
    ...(joint.landings.length && {
      terminals: joint.landings.map(({ deviceId, terminal }) => ({
        ...(deviceId && { deviceId }),
        terminal,
      })),
    }),
    ...(connector && { connector }),
    ...(joint.loopIn !== undefined && { loopIn: joint.loopIn }),
  };
}

/** What of the box itself a wire can land on: at the panel its bars, its breakers, and the lugs of its feeder. */
export function boxTerminals(reader: HouseReader, box: Box): readonly Landing[] {
  const facts = boxFacts(reader, box);
  if (facts.kind === 'panel') {
    const circuits = circuitsOfPanel(reader, box.id).toSorted(
      (a, b) => numberOf(reader, a.id) - numberOf(reader, b.id),
    );
    const breakers = circuits.flatMap((circuit): Landing[] => [
      { terminal: breakerOf(circuit.id) },
      ...(circuit.poles === 2 ? [{ terminal: breakerOf(circuit.id, 2) }] : []),
      ...(hasOwnNeutral(circuit) ? [{ terminal: breakerNeutralOf(circuit.id) }] : []),
    ]);
    const lugs = isSubPanel(reader, box.id) ? LUGS.map((terminal) => ({ terminal })) : [];
    return [{ terminal: GROUND_BAR }, { terminal: NEUTRAL_BAR }, ...lugs, ...breakers];
  }
  const own = facts.material === 'metal' || facts.groundScrew ? [BOX_GROUND] : [];
  return [...own, CAPPED].map((terminal) => ({ terminal }));
}

/** Several wires may be under these; every other terminal belongs to one joint. */
const isShared = ({ deviceId, terminal }: Landing): boolean => !deviceId && terminal.kind !== 'box-ground';

const isCapped = ({ terminal }: Landing): boolean => terminal.kind === 'capped';

/** A joint as a hand has made it: what kind it is follows from what is in it, unless it says so. */
export function jointByHand(
  ends: Joint['ends'],
  terminals: NonNullable<Joint['terminals']>,
  more: Pick<Joint, 'connector' | 'loopIn'> & { readonly uncut?: boolean } = {},
): Joint {
  const { uncut, ...rest } = more;
  return {
    kind: uncut ? 'uncut' : shapeOf(ends.length, terminals.length),
    ends,
    ...(terminals.length && { terminals }),
    ...rest,
  };
}

/**
 * The joints recorded for a box with one more. A conductor or a terminal is in one joint only: the others let go of what the
 * new one names, and one that is left empty is gone.
 */
export function withJoint(asBuilt: readonly Joint[] | undefined, joint: Joint): Joint[] {
  const ends = new Set(joint.ends.map(({ runId, conductor }) => `${runId} ${conductor}`));
  const own = new Set((joint.terminals ?? []).filter((to) => !isShared(to)).map(landingKey));
  const others = (asBuilt ?? []).flatMap((other): Joint[] => {
    const left = other.ends.filter(({ runId, conductor }) => !ends.has(`${runId} ${conductor}`));
    const terminals = (other.terminals ?? []).filter((to) => !own.has(landingKey(to)));
    if (left.length === other.ends.length && terminals.length === (other.terminals ?? []).length)
      return [other];
    if (left.length === 0 && (terminals.length < 2 || terminals.every(isShared))) return [];
    const { connector, loopIn: _, ...rest } = other;
    return [
      {
        ...jointByHand(left, terminals),
        ...(rest.kind !== 'uncut' && connector && left.length + terminals.length > 1 && { connector }),
      },
    ];
  });
  return [...others, joint];
}

/** The recorded joints without the one that a made joint comes from. */
export function withoutJoint(asBuilt: readonly Joint[] | undefined, made: BoxJoint): Joint[] {
  const [end] = made.ends;
  const [landing] = made.landings;
  return (asBuilt ?? []).filter(({ ends, terminals }) =>
    end
      ? !ends.some(({ runId, conductor }) => runId === end.runId && conductor === end.key)
      : !(terminals ?? []).some((to) => landing && landingKey(to) === landingKey(landing)),
  );
}

const isSubset = (a: readonly string[], b: readonly string[]): boolean => a.every((one) => b.includes(one));

/**
 * What hangs together in the record of a box, as one: joints that share a link, the ground bar, or a terminal whose tab is
 * whole (but a neutral that several circuits share never goes through a device).
 */
function groupsOf(
  reader: HouseReader,
  made: readonly BoxJoint[],
  plain: (joint: BoxJoint, landing: Landing) => string,
): readonly (readonly BoxJoint[])[] {
  const union = new Union();
  const first = new Map<string, number>();
  made.forEach((joint) => {
    const own = union.make();
    const isShared = joint.role === 'neutral' && (groupOf(reader, joint)?.length ?? 1) > 1;
    for (const landing of joint.landings) {
      const together =
        isLink(landing) || isGroundBar(landing) || (landing.deviceId !== undefined && !isShared);
      if (!together) continue;
      const key = plain(joint, landing);
      const known = first.get(key);
      if (known === undefined) first.set(key, own);
      else union.join(own, known);
    }
  });
  const groups = new Map<number, BoxJoint[]>();
  made.forEach((joint, index) => {
    const top = union.find(index);
    groups.set(top, [...(groups.get(top) ?? []), joint]);
  });
  return [...groups.values()];
}

/** The circuits that are wired as one with the circuit of a joint. */
function groupOf(reader: HouseReader, { circuitId }: BoxJoint): readonly string[] | undefined {
  const group = circuitId ? wiringGroup(reader, circuitId) : [];
  return group.length ? group.map(({ id }) => id) : undefined;
}

/** Whether what hangs together in the record is what is asked for, or a part of it of which the rest is still to be made. */
function isAsAsked(
  group: readonly BoxJoint[],
  asked: readonly BoxJoint[],
  plain: (joint: BoxJoint, landing: Landing) => string,
): boolean {
  if (asked.length > 0 && asked.every(({ role }) => role === 'undecided')) return true;
  // Spares that are left spliced to each other touch nothing.
  const onlyWires = group.every(({ landings }) => landings.length === 0);
  if (onlyWires && asked.length > 0 && asked.every(({ role }) => role === 'spare')) return true;
  const [one, ...more] = asked;
  if (!one || more.length) return false;
  const ends = group.flatMap((joint) => joint.ends.map(endKey));
  const landings = [
    ...new Set(
      group.flatMap((joint) => joint.landings.filter((to) => !isLink(to)).map((to) => plain(joint, to))),
    ),
  ];
  const askedEnds = one.ends.map(endKey);
  const askedLandings = [...new Set(one.landings.map((to) => plain(one, to)))];
  if (!isSubset(ends, askedEnds) || !isSubset(landings, askedLandings)) return false;
  if (ends.length === askedEnds.length && landings.length === askedLandings.length) return true;
  // More can come to it: by a link that waits, on the bar, or on the other screw of a terminal.
  return group.some((joint) =>
    joint.landings.some(
      (to) => isLink(to) || isGroundBar(to) || (to.deviceId && plain(joint, to) !== landingKey(to)),
    ),
  );
}

/**
 * Takes what is recorded as made as it is; the rest of the box is what is derived of it. The two are compared by what they
 * do, not by name; where they differ the made joint stands, and the difference is a conflict.
 */
export function overlayMade(
  reader: HouseReader,
  box: MadeBox,
  plan: Omit<BoxJoints, 'conflicts'>,
): BoxJoints {
  const there = endsIn(reader, box.id);
  const recorded = recordedJoints(reader, box.id).flatMap(({ record, ends: named, landings }) => {
    const ends = named.map(({ runId, conductor, marked }) => {
      const end = there.get(`${runId} ${conductor}`)!;
      const plan = coloursOf(reader, reader.get('runs', runId));
      return canBeMarked(plan, end.colour) ? { ...end, marked: marked ?? false } : end;
    });
    // A terminal alone is no joint.
    return ends.length === 0 && landings.length < 2 ? [] : [{ record, ends, landings }];
  });
  const taken = new Set(recorded.flatMap(({ ends }) => ends.map(endKey)));
  const derived = { ...plan, joints: namedAsMade(reader, box.id, plan.joints, recorded) };
  const asDerived = new Map(derived.joints.flatMap((joint) => joint.ends.map((end) => [endKey(end), end])));
  const names = new Set(derived.joints.flatMap((joint) => joint.landings.map(landingKey)));
  /** A screw of a terminal whose tab is whole is that terminal. */
  const plain = (_joint: BoxJoint, landing: Landing): string => {
    const key = landingKey(landing);
    const bare = landing.deviceId && isNumbered(landing.terminal);
    const whole = bare ? landingKey({ ...landing, terminal: wholeOf(landing.terminal) }) : key;
    return !names.has(key) && names.has(whole) ? whole : key;
  };
  const landed = new Set<string>();
  const unfed = derived.unfed.filter(
    (to) => !box.asBuilt?.some(({ terminals }) => terminals?.some((own) => sameLanding(own, to))),
  );
  const askedOf = (joint: Pick<BoxJoint, 'ends' | 'landings'>): BoxJoint[] => {
    const ends = new Set(joint.ends.map(endKey));
    const screws = new Set(
      joint.landings.filter(({ deviceId }) => deviceId).map((to) => plain(joint as BoxJoint, to)),
    );
    return derived.joints.filter(
      (one) =>
        one.ends.some((end) => ends.has(endKey(end))) ||
        one.landings.some((to) => to.deviceId && screws.has(landingKey(to))),
    );
  };
  const made = recorded.map(({ record, ends: found, landings }): BoxJoint => {
    const ends = found.map((end) => {
      const known = asDerived.get(endKey(end));
      return { ...known, ...end, ...(known?.reidentified && { reidentified: true }) };
    });
    landings.forEach((landing) => landed.add(landingKey(landing)));
    const asked = askedOf({ ends, landings });
    const nearest =
      asked.find((joint) => ends[0] && joint.ends.some((end) => endKey(end) === endKey(ends[0]!))) ??
      asked[0];
    return {
      // A device may have been taken out since, or a cable: what is left says what kind of joint it is.
      kind:
        record.kind === 'uncut' && ends.length === 2 && landings.length === 0
          ? 'uncut'
          : shapeOf(ends.length, landings.length),
      role: nearest?.role ?? 'undecided',
      ...(nearest?.circuitId && { circuitId: nearest.circuitId }),
      ...(nearest?.controlId && { controlId: nearest.controlId }),
      ...(nearest?.signal && { signal: nearest.signal }),
      ends,
      landings,
      gauge: nearest?.gauge ?? ends[0]?.gauge ?? reader.rules().jurisdiction.sizes[0],
      open: false,
      made: true,
      ...(record.connector && { connector: record.connector }),
      ...(record.loopIn !== undefined && { loopIn: record.loopIn }),
    };
  });
  const conflicts = groupsOf(reader, made, plain).flatMap((group): MadeConflict[] => {
    const asked = [...new Set(group.flatMap(askedOf))];
    return isAsAsked(group, asked, plain)
      ? []
      : group.map((joint) => ({ made: joint, asked: askedOf(joint) }));
  });
  const joints: BoxJoint[] = [...made];
  const landedOn = new Set(made.flatMap((joint) => joint.landings.map((to) => plain(joint, to))));
  /** A link of a made splice whose other end is still to be made. */
  const waiting = (joint: BoxJoint): Landing[] => {
    const links = made.flatMap((one) => (askedOf(one).includes(joint) ? one.landings.filter(isLink) : []));
    return links.filter(
      (to, at) =>
        links.findIndex((one) => sameTerminal(one.terminal, to.terminal)) === at &&
        links.filter((one) => sameTerminal(one.terminal, to.terminal)).length === 1,
    );
  };
  /** Pigtails for later devices that made parts of this joint have already. */
  const cappedOf = (joint: BoxJoint): number =>
    made
      .filter((one) => askedOf(one).includes(joint))
      .reduce((sum, { landings }) => sum + landings.filter(isCapped).length, 0);
  for (const joint of derived.joints) {
    const ends = joint.ends.filter((end) => !taken.has(endKey(end)));
    let capped = joint.landings.some(isCapped) ? cappedOf(joint) : 0;
    const landings = joint.landings.filter((to) =>
      isCapped(to) ? capped-- <= 0 : isShared(to) || !landed.has(landingKey(to)),
    );
    if (ends.length === joint.ends.length && landings.length === joint.landings.length) {
      joints.push(joint);
      continue;
    }
    const links = waiting(joint);
    const all = [...landings, ...links];
    // What is left is a joint of conductors, or of screws: by themselves, or with a link to what is made.
    const ofScrews = landings.some((to) => !isShared(to)) && (links.length > 0 || !joint.ends.length);
    if (ends.length || (ofScrews && all.length > 1)) {
      const kind = shapeOf(ends.length, all.length);
      joints.push({ ...joint, kind: joint.kind === 'undecided' ? 'undecided' : kind, ends, landings: all });
    } else unfed.push(...landings.filter((to) => to.deviceId && !landedOn.has(landingKey(to))));
  }
  return { ...derived, joints, unfed, conflicts };
}
