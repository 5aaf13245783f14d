import type { Derivation, HouseReader } from '../derive/reader.js';
import { boxFacts, boxesOf } from '../facts/box-facts.js';
import { pulledLengthIn } from '../facts/reel-usage.js';
import type { Pull } from '../house/model.js';
import type { CableId } from '../rulebook/cables.js';
import { roleOf } from './pull-list.js';

/** What a run is for, as far as it makes a difference to how much more is pulled than planned. */
export type RunKind = 'home-run' | 'power' | 'leg';

/**
 * So many runs of a crew weigh as much as the guess that it pulls what is planned, and so many of a person, cable or kind as
 * much as the crew's own: our choice.
 */
const CREW_WEIGHT = 4;
const OWN_WEIGHT = 6;
/** Pulled over planned outside of this is a wrong entry, not a habit: common practice is 1.05 to 1.20. */
const LIKELY = [0.5, 2] as const;

/** Pulled over planned. */
export interface Factor {
  /** What lengths are to be multiplied with. */
  readonly factor: number;
  /** How many lengths it rests on: runs that were measured, and stretches between foot marks. */
  readonly lengths: number;
}

export interface Habit {
  readonly crew: Factor;
  readonly byPerson: ReadonlyMap<string, Factor>;
  readonly byCable: ReadonlyMap<CableId, Factor>;
  readonly byKind: ReadonlyMap<RunKind, Factor>;
}

/** Cable that was measured, against what was planned for it: one run, or all that came off a reel between two marks. */
interface Measured {
  readonly pulledIn: number;
  readonly plannedIn: number;
  readonly by: string | undefined;
  readonly cable: CableId | undefined;
  readonly kind: RunKind | undefined;
}

const isPanel = (reader: HouseReader, boxId: string): boolean =>
  boxFacts(reader, reader.get('boxes', boxId)!).kind === 'panel';

function kindOf(reader: HouseReader, runId: string): RunKind | undefined {
  const run = reader.get('runs', runId);
  if (!run) return undefined;
  const role = roleOf(reader, run);
  return role === 'power' && boxesOf(run).some((id) => isPanel(reader, id)) ? 'home-run' : role;
}

/** All that is the same of several, or nothing. */
const same = <T>(values: readonly T[]): T | undefined =>
  values.every((value) => value === values[0]) ? values[0] : undefined;

function measuredIn(reader: HouseReader): Measured[] {
  const segments = new Map<string, Pull[]>();
  for (const pull of reader.all('pulls')) {
    const lengthIn = pulledLengthIn(pull);
    // A length that was taken as planned says nothing, nor one that was shared out by itself.
    if (pull.state !== 'in' || lengthIn === undefined || !pull.plannedIn || pull.lengthFrom === 'planned')
      continue;
    const key = pull.lengthFrom === 'shared' ? (pull.segmentId ?? pull.id) : pull.id;
    segments.set(key, [...(segments.get(key) ?? []), pull]);
  }
  return [...segments.values()].flatMap((pulls): Measured[] => {
    const sum = (of: (pull: Pull) => number | undefined): number =>
      pulls.reduce((all, pull) => all + (of(pull) ?? 0), 0);
    const [pulledIn, plannedIn] = [sum(pulledLengthIn), sum((pull) => pull.plannedIn)];
    const ratio = pulledIn / plannedIn;
    return ratio < LIKELY[0] || ratio > LIKELY[1]
      ? []
      : [
          {
            pulledIn,
            plannedIn,
            by: same(pulls.map(({ by }) => by)),
            cable: same(pulls.map(({ cable }) => cable)),
            kind: same(pulls.map(({ runId }) => kindOf(reader, runId))),
          },
        ];
  });
}

/** Pulled over planned, drawn towards what is taken to be usual the more, the fewer lengths there are. */
function factorOf(lengths: readonly Measured[], towards: number, weight: number): Factor {
  const pulled = lengths.reduce((sum, { pulledIn }) => sum + pulledIn, 0);
  const planned = lengths.reduce((sum, { plannedIn }) => sum + plannedIn, 0);
  const own = planned > 0 ? pulled / planned : towards;
  const share = lengths.length / (lengths.length + weight);
  return { factor: towards + share * (own - towards), lengths: lengths.length };
}

function grouped<K>(
  lengths: readonly Measured[],
  of: (length: Measured) => K | undefined,
  towards: number,
): Map<K, Factor> {
  const groups = new Map<K, Measured[]>();
  for (const length of lengths) {
    const key = of(length);
    if (key !== undefined) groups.set(key, [...(groups.get(key) ?? []), length]);
  }
  return new Map([...groups].map(([key, own]) => [key, factorOf(own, towards, OWN_WEIGHT)]));
}

/** By house id. */
const HABIT: Derivation<Habit> = {
  name: 'habit',
  compute: (reader) => {
    const lengths = measuredIn(reader);
    const crew = factorOf(lengths, 1, CREW_WEIGHT);
    return {
      crew,
      byPerson: grouped(lengths, ({ by }) => by, crew.factor),
      byCable: grouped(lengths, ({ cable }) => cable, crew.factor),
      byKind: grouped(lengths, ({ kind }) => kind, crew.factor),
    };
  },
};

/**
 * How much more is pulled in this house than was planned, by person, cable and kind of run: each drawn towards the crew's while
 * there are few, and the crew's towards 1. Cable that was shared out between foot marks counts as one length. Common practice.
 */
export const habitOf = (reader: HouseReader): Habit => reader.derive(HABIT, reader.houseId);
