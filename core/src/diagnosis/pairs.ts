import type { HouseReader } from '../derive/reader.js';
import type { JointsByBox } from '../wiring/netlist/netlist.js';
import type { Diagnosis } from './diagnosis.js';
import type { Evidence } from './evidence.js';
import { bareNetsOf, says, wrongOf } from './evidence.js';
import type { CauseKind } from '../rulebook/fault-priors.js';
import type { Hypothesis } from './hypotheses.js';
import { hypothesesIn } from './hypotheses.js';
import { MadeCase } from './predictions.js';

/** Two things that are wrong at once. */
export interface Pair {
  readonly both: readonly [Hypothesis, Hypothesis];
  /** Share of all pairs that were looked at, 0 to 1. */
  readonly share: number;
  /** Reports, by their number, that the pair does not say. */
  readonly against: readonly number[];
}

/** A conductor that landed where it does not belong. */
const LANDED: ReadonlySet<CauseKind> = new Set<CauseKind>([
  'traveler on common',
  'four-way pairs mixed',
  'single-pole for a three-way',
  'halves swapped',
  'as recorded',
]);
/** Something that was left out. */
const LEFT_OUT: ReadonlySet<CauseKind> = new Set<CauseKind>([
  'missed neutral splice',
  'missed jumper',
  'link of two splices left off',
  'dead device',
  'breaker off',
]);

/** The second thing wrong in the same box is put in after the first. */
const inOneBox = (reader: HouseReader, { wirings }: Diagnosis, first: Hypothesis): Hypothesis[] => {
  const boxId = first.place.id;
  const own = first.joints.get(boxId);
  if (!own) return [];
  const here = new Map([[boxId, own]]);
  return hypothesesIn(reader, { wirings, joints: here }, here)
    .filter(({ kind, place }) => place.kind === 'box' && (LANDED.has(kind) || LEFT_OUT.has(kind)))
    .map((second) => ({ ...second, joints: new Map(first.joints).set(boxId, second.joints.get(boxId)!) }));
};

/**
 * The likely pairs: two conductors that landed wrong in one box, two that landed wrong in different ones, and one left out beside one
 * that landed wrong. Those that say the most of what was reported come first. Yields after each; for where no single fault is likely.
 */
export function* pairsInSteps(
  reader: HouseReader,
  diagnosis: Diagnosis,
  reports: readonly Evidence[],
  most = 5,
): Generator<{ readonly done: number; readonly of: number }, Pair[]> {
  const { hypotheses, sights, wirings, sound } = diagnosis;
  const landed = hypotheses.filter(({ kind }) => LANDED.has(kind));
  const leftOut = hypotheses.filter(({ kind }) => LEFT_OUT.has(kind));
  const isRung = reports.some(({ kind }) => kind === 'ring' || kind === 'rang');
  const weighed: {
    readonly both: readonly [Hypothesis, Hypothesis];
    readonly weight: number;
    readonly against: number[];
  }[] = [];
  const weigh = (first: Hypothesis, second: Hypothesis, joints: JointsByBox): void => {
    const made = new MadeCase(reader, wirings, sights, joints, first.tripsWatched || second.tripsWatched, []);
    const nets = isRung ? bareNetsOf(reader, sound, joints) : undefined;
    let weight = first.weight * second.weight;
    const against: number[] = [];
    for (const [nth, report] of reports.entries()) {
      const wrong = wrongOf(report);
      // A place that was looked at holds one of two.
      const holds =
        report.kind === 'looked'
          ? report.isThere ===
            [first, second].some(
              ({ place: { kind, id } }) => kind === report.place.kind && id === report.place.id,
            )
          : report.kind === 'parted' || says(sights, made, report, nets);
      weight *= holds ? 1 - wrong : wrong;
      if (!holds) against.push(nth);
    }
    weighed.push({ both: [first, second], weight, against });
  };
  let done = 0;
  for (const [at, first] of landed.entries()) {
    for (const second of inOneBox(reader, diagnosis, first)) weigh(first, second, second.joints);
    yield { done: ++done, of: landed.length };
    for (const second of [...landed.slice(at + 1), ...leftOut]) {
      // Of different boxes: what each did to its own.
      const changed = [...second.joints].filter(([boxId, own]) => own !== sound.get(boxId));
      if (changed.some(([boxId]) => first.joints.get(boxId) !== sound.get(boxId))) continue;
      weigh(first, second, new Map([...first.joints, ...changed]));
      yield { done, of: landed.length };
    }
  }
  const sum = weighed.reduce((all, { weight }) => all + weight, 0);
  return weighed
    .sort((a, b) => b.weight - a.weight)
    .slice(0, most)
    .map(({ both, weight, against }) => ({ both, share: sum > 0 ? weight / sum : 0, against }));
}
