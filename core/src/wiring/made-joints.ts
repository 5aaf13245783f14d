import type { HouseReader } from '../derive/reader.js';
import { boxFacts, conductorsOf, endAt, runsAt } from '../house/box-facts.js';
import { farName } from '../house/naming.js';
import type { Box, Joint } from '../house/model.js';
import type { BoxJoint, BoxJoints, CableEnd, Landing } from './box-joints.js';

/** A joint recorded as made that the wiring no longer asks for, and what it asks for instead. */
export interface MadeConflict {
  readonly made: BoxJoint;
  /** The derived joints that the conductors and terminals of the made one belong to. */
  readonly asked: readonly BoxJoint[];
}

/** What is wrong with the record itself. */
export interface RecordProblem {
  readonly code: 'made.conductor-twice' | 'made.unknown-conductor' | 'made.unknown-terminal';
  readonly what: string;
}

const BOX_SCREW = 'ground screw of the box';

export const endKey = (end: { readonly runId: string; readonly key: string }): string =>
  `${end.runId} ${end.key}`;
export const landingKey = ({ deviceId, terminal }: Landing): string => `${deviceId ?? ''} ${terminal}`;

/** Insulated and bare conductors that end in a box, by `endKey`. */
export function endsIn(reader: HouseReader, boxId: string): ReadonlyMap<string, CableEnd> {
  const ends = new Map<string, CableEnd>();
  for (const run of runsAt(reader, boxId)) {
    if (run.kind === 'low-voltage') continue;
    const { slot } = endAt(run, boxId);
    for (const conductor of conductorsOf(reader, run))
      ends.set(endKey(conductor), { ...conductor, ...(slot !== undefined && { slot }) });
  }
  return ends;
}

/** Conductors named twice or not there, in the joints recorded for a box. */
export function recordProblems(reader: HouseReader, box: Box): RecordProblem[] {
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

/** "WH to R1, BK to L2, leg of gang 2" */
export function memberWords(
  reader: HouseReader,
  boxId: string,
  ends: readonly { readonly runId: string; readonly key: string }[],
  landings: readonly Landing[],
): string {
  const wires = ends.map(({ runId, key }) => {
    const run = reader.get('runs', runId);
    return `${key} to ${run ? farName(reader, run, boxId) : 'a cable that is gone'}`;
  });
  const screws = landings.map(({ deviceId, terminal }) => {
    const device = deviceId ? reader.get('devices', deviceId) : undefined;
    return device ? `${terminal} of gang ${device.gang}` : terminal;
  });
  return [...wires, ...screws].join(', ');
}

/** What of the box itself a wire can land on: at the panel its bars and breakers. */
export function boxTerminals(reader: HouseReader, box: Box): readonly string[] {
  const facts = boxFacts(reader, box);
  if (facts.kind === 'panel') {
    const breakers = reader
      .mentioning('circuits', box.id)
      .filter(({ panelId }) => panelId === box.id)
      .sort((a, b) => a.number - b.number)
      .flatMap(({ number, poles }) =>
        poles === 2 ? [`breaker ${number}`, `breaker ${number}, second pole`] : [`breaker ${number}`],
      );
    return ['ground bar', 'neutral bar', ...breakers];
  }
  return [
    ...(facts.material === 'metal' || facts.groundScrew ? [BOX_SCREW] : []),
    'capped, for a later device',
  ];
}

/** Several wires may be under these; every other terminal belongs to one joint. */
const isShared = ({ deviceId, terminal }: Landing): boolean => !deviceId && terminal !== BOX_SCREW;

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

/** What kind of joint so many conductors and terminals make. */
export const shapeOf = (ends: number, landings: number): 'land' | 'cap' | 'splice' =>
  ends === 1 && landings === 1 ? 'land' : ends + landings <= 1 ? 'cap' : 'splice';

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

const sameSet = (a: readonly string[], b: readonly string[]): boolean =>
  a.length === b.length && [...a].sort().join('|') === [...b].sort().join('|');

const isSame = (a: BoxJoint, b: BoxJoint): boolean =>
  sameSet(a.ends.map(endKey), b.ends.map(endKey)) &&
  sameSet(a.landings.map(landingKey), b.landings.map(landingKey));

/**
 * Takes what is recorded as made as it is; the rest of the box is what is derived of it. Where the two differ the made
 * joint stands, and the difference is a conflict.
 */
export function overlayMade(reader: HouseReader, box: Box, derived: Omit<BoxJoints, 'conflicts'>): BoxJoints {
  const there = endsIn(reader, box.id);
  const marked = new Map(derived.joints.flatMap((joint) => joint.ends.map((end) => [endKey(end), end])));
  const taken = new Set<string>();
  const landed = new Set<string>();
  const joints: BoxJoint[] = [];
  const conflicts: MadeConflict[] = [];
  const unfed = derived.unfed.filter(
    (to) =>
      !box.asBuilt?.some(({ terminals }) =>
        terminals?.some((own) => own.deviceId === to.deviceId && own.terminal === to.terminal),
      ),
  );
  for (const record of box.asBuilt ?? []) {
    const ends = record.ends.flatMap(({ runId, conductor, marked: isMarked }) => {
      const key = `${runId} ${conductor}`;
      const end = marked.get(key) ?? there.get(key);
      if (!end || taken.has(key)) return [];
      taken.add(key);
      return [end.colour === 'WH' ? { ...end, marked: isMarked ?? false } : end];
    });
    const landings = (record.terminals ?? []).map(({ deviceId, terminal }) => ({
      ...(deviceId && { deviceId }),
      terminal,
    }));
    // A terminal alone is no joint.
    if (ends.length === 0 && landings.length < 2) continue;
    landings.forEach((landing) => landed.add(landingKey(landing)));
    const asked = derived.joints.filter(
      (joint) =>
        joint.ends.some((end) => ends.some((own) => endKey(own) === endKey(end))) ||
        joint.landings.some(
          (to) => to.deviceId && landings.some((own) => landingKey(own) === landingKey(to)),
        ),
    );
    const nearest =
      asked.find((joint) => ends[0] && joint.ends.some((end) => endKey(end) === endKey(ends[0]!))) ??
      asked[0];
    const made: BoxJoint = {
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
      awg: nearest?.awg ?? ends[0]?.awg ?? 14,
      open: false,
      made: true,
      ...(record.connector && { connector: record.connector }),
      ...(record.loopIn !== undefined && { loopIn: record.loopIn }),
    };
    joints.push(made);
    if (asked.length !== 1 || !isSame(made, asked[0]!)) conflicts.push({ made, asked });
  }
  for (const joint of derived.joints) {
    const ends = joint.ends.filter((end) => !taken.has(endKey(end)));
    const landings = joint.landings.filter((to) => isShared(to) || !landed.has(landingKey(to)));
    if (ends.length === joint.ends.length && landings.length === joint.landings.length) joints.push(joint);
    else if (ends.length) {
      const kind = shapeOf(ends.length, landings.length);
      joints.push({ ...joint, kind: joint.kind === 'undecided' ? 'undecided' : kind, ends, landings });
    } else if (!joint.ends.length && landings.length > 1) joints.push({ ...joint, landings });
    else if (landings.length) unfed.push(...landings.filter(({ deviceId }) => deviceId));
  }
  return { ...derived, joints, unfed, conflicts };
}
