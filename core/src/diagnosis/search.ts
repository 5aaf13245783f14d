import type { HouseReader } from '../derive/reader.js';
import type { ConductorRef } from '../findings/facts.js';
import type { WorkRecord } from '../house/model.js';
import type { FaultPlace } from '../house/report.js';
import { ringOut } from '../proving/ring-out.js';
import { ringState } from '../proving/tested.js';
import { wireCircuit } from '../wiring/conductors/wire-circuit.js';
import type { Cause, Diagnosis } from './diagnosis.js';
import type { Evidence } from './evidence.js';
import type { CauseKind } from '../rulebook/fault-priors.js';
import type { Hypothesis } from './hypotheses.js';
import type { FoundElsewhere } from './known.js';
import { diagnosisOf } from './known.js';
import type { Step } from './next-step.js';
import { nextStep, standingUp } from './next-step.js';
import { pairsInSteps } from './pairs.js';
import { trimState } from './trim-test.js';

/** One thing that may be wrong, as it is told. */
export interface Suspicion {
  readonly kind: CauseKind;
  readonly place: FaultPlace;
  readonly conductor?: ConductorRef;
}

/** A cause with what speaks for and against it. */
export interface Suspect {
  /** The likeliest first: what nothing but getting there tells apart. */
  readonly suspicions: readonly Suspicion[];
  readonly place: FaultPlace;
  /** Share of all causes, 0 to 1. */
  readonly share: number;
  /** Reports, by their place in {@link Search.reports}. */
  readonly for: readonly number[];
  readonly against: readonly number[];
}

/** What was told or tested of a circuit since its last fault was found, and the record of it. */
export interface Told {
  readonly record: WorkRecord;
  readonly evidence: Evidence;
}

/** How the search for a fault of a circuit stands. */
export interface Search {
  /** The circuits that are wired as one; records stand with the first. */
  readonly circuitIds: readonly string[];
  readonly reports: readonly Told[];
  /** Levers as they stand, as far as it was said. */
  readonly up: readonly string[];
  /** The likeliest first. */
  readonly suspects: readonly Suspect[];
  readonly next?: Step;
  /** Two reports that no single fault says both of; look at the second again. */
  readonly clash?: readonly [number, number];
  /** No single fault is likely: two at once that are, if any. */
  readonly pairs?: readonly {
    readonly both: readonly [Suspicion, Suspicion];
    readonly share: number;
    readonly against: readonly number[];
  }[];
  /** The cause as it was found last, where nothing was told since. */
  readonly found?: WorkRecord;
  /** Levers, lights and outlets of the circuit that can be told of. */
  readonly levers: readonly string[];
  readonly loads: readonly string[];
}

/** Pairs are looked at where the best single fault has less than this share. */
const BEST_SINGLE = 0.05;
/** How often two things are wrong at once, and how much of what is seen a pair would say by chance: our choice. */
const SEVERAL = 0.03;
const BY_CHANCE = 0.5;

const byTime = (a: WorkRecord, b: WorkRecord): number => Date.parse(a.at) - Date.parse(b.at);

/** What steps of tests say, by the record: the same for the same. */
const TESTED = new WeakMap<WorkRecord, Evidence>();
function testedAs(record: WorkRecord, make: () => Evidence): Evidence {
  const known = TESTED.get(record);
  if (known) return known;
  const made = make();
  TESTED.set(record, made);
  return made;
}

/** The last fault found of a circuit, by the first of its wiring group. */
export const lastFound = (reader: HouseReader, circuitId: string): WorkRecord | undefined =>
  reader
    .mentioning('records', circuitId)
    .filter(({ kind, circuitId: of }) => kind === 'found' && of === circuitId)
    .sort(byTime)
    .at(-1);

/** Everything that was told and tested of a circuit since its last fault was found, in the order of time. */
export function toldOf(reader: HouseReader, circuitId: string): Told[] {
  const after = Date.parse(lastFound(reader, circuitId)?.at ?? '') || -Infinity;
  const isSince = ({ at }: WorkRecord): boolean => Date.parse(at) > after;
  const own = reader
    .mentioning('records', circuitId)
    .filter((record) => record.circuitId === circuitId && isSince(record));
  const said = own.flatMap((record): Told[] =>
    record.kind === 'seen' && record.report ? [{ record, evidence: record.report }] : [],
  );
  // Of what was tested counts what was recorded last of each step, and only while the boxes are as they were then.
  // Of a step that was rung again after the board was hung, the later one: a screw may have come between.
  const latest = new Map<string, Told>();
  for (const boarded of [false, true])
    for (const { step, is, record } of ringState(reader, circuitId, boarded).steps) {
      if (!record || (is !== 'good' && is !== 'bad') || !isSince(record)) continue;
      const before = latest.get(step.key);
      if (before && Date.parse(before.record.at) > Date.parse(record.at)) continue;
      latest.set(step.key, {
        record,
        evidence: testedAs(record, () => ({ kind: 'ring', step, isGood: is === 'good' })),
      });
    }
  const rung = [...latest.values()];
  const tried = own.some(({ tested }) => tested?.routine === 'trim')
    ? trimState(reader, circuitId).steps.flatMap(({ step: { up, lit, dark }, is, record }): Told[] =>
        record && (is === 'good' || is === 'bad')
          ? [
              {
                record,
                evidence: testedAs(record, () => ({ kind: 'trim', up, lit, dark, isGood: is === 'good' })),
              },
            ]
          : [],
      )
    : [];
  return [...said, ...rung, ...tried].sort((a, b) => byTime(a.record, b.record));
}

const suspicionOf = ({ kind, place, conductor }: Hypothesis): Suspicion => ({
  kind,
  place: { kind: place.kind, id: place.id },
  ...(conductor && { conductor }),
});

function suspectOf({ hypotheses, place, share, for: says, against }: Cause): Suspect {
  return {
    suspicions: hypotheses.map(suspicionOf),
    place: { kind: place.kind, id: place.id },
    share,
    for: says,
    against,
  };
}

/** Whether no single fault is likely any more. */
function isSeveral(causes: readonly Cause[], diagnosis: Diagnosis, reports: readonly Evidence[]): boolean {
  const [best] = causes;
  if (!best || best.against.length < 2) return false;
  if (diagnosis.isExplained(reports)) return false;
  // All singles together against all pairs, by what each would say of the reports.
  const single = diagnosis.likelihood(reports);
  const several = SEVERAL * BY_CHANCE ** reports.length;
  return best.share * ((1 - SEVERAL) * single) < BEST_SINGLE * (several + (1 - SEVERAL) * single);
}

/**
 * How the search for a fault of a circuit stands: suspects, what to do next; where no single fault is likely, pairs of them, which takes
 * longer. `elsewhere`: what was found in other houses. `skipped`: steps that nobody knows an answer to, by their key. `most`: so many suspects.
 */
export function* searchInSteps(
  reader: HouseReader,
  circuitId: string,
  skipped: ReadonlySet<string> = new Set(),
  elsewhere: FoundElsewhere = [],
  most = 6,
): Generator<{ readonly done: number; readonly of: number }, Search> {
  const { circuitIds } = ringOut(reader, circuitId);
  const first = wireCircuit(reader, circuitId).circuitIds[0] ?? circuitId;
  yield { done: 0, of: 1 };
  const diagnosis = diagnosisOf(reader, first, elsewhere);
  yield { done: 0, of: 1 };
  const told = toldOf(reader, first);
  const reports = told.map(({ evidence }) => evidence);
  const causes = diagnosis.causes(reports);
  const clash = diagnosis.clash(reports);
  const pairs = isSeveral(causes, diagnosis, reports)
    ? yield* pairsInSteps(reader, diagnosis, reports)
    : undefined;
  const next = nextStep(diagnosis, reports, skipped);
  const found = told.length ? undefined : lastFound(reader, first);
  return {
    circuitIds,
    reports: told,
    up: standingUp(reports),
    suspects: causes.slice(0, most).map(suspectOf),
    levers: diagnosis.sights.ownLevers,
    loads: diagnosis.sights.loads,
    ...(next && { next }),
    ...(clash && { clash }),
    ...(pairs && {
      pairs: pairs.map(({ both: [a, b], share, against }) => ({
        both: [suspicionOf(a), suspicionOf(b)] as const,
        share,
        against,
      })),
    }),
    ...(found && { found }),
  };
}
