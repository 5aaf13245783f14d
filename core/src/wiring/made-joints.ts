import type { HouseReader } from '../derive/reader.js';
import { conductorsOf, endAt, runsAt } from '../house/box-facts.js';
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
    landings.forEach((landing) => landed.add(landingKey(landing)));
    if (ends.length + landings.length === 0) continue;
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
      kind: record.kind,
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
    const landings = joint.landings.filter((to) => !landed.has(landingKey(to)));
    if (ends.length === joint.ends.length && landings.length === joint.landings.length) joints.push(joint);
    else if (ends.length) {
      const kind =
        ends.length === 1 && landings.length === 1
          ? 'land'
          : ends.length + landings.length === 1
            ? 'cap'
            : 'splice';
      joints.push({ ...joint, kind: joint.kind === 'undecided' ? 'undecided' : kind, ends, landings });
    } else if (!joint.ends.length && landings.length > 1) joints.push({ ...joint, landings });
    else if (landings.length) unfed.push(...landings.filter(({ deviceId }) => deviceId));
  }
  return { ...derived, joints, unfed, conflicts };
}
