import type { MeterEnd, Seen } from '../house/report.js';
import { FINDING_MINUTES } from '../rulebook/fault-priors.js';
import type { Diagnosis } from './diagnosis.js';
import type { Evidence } from './evidence.js';
import { LOOKED_WRONG, WRONG, readsOf } from './evidence.js';
import type { Place } from './hypotheses.js';
import { keyOfPlace } from './hypotheses.js';
import { SEEN } from './predictions.js';

/** What to do next: look at one light with the levers so, or get to a place and look there. */
export type Step =
  | {
      readonly kind: 'see';
      readonly up: readonly string[];
      readonly pointId: string;
      readonly minutes: number;
      /** What may be seen, the likelier first. */
      readonly answers: readonly Seen[];
    }
  | { readonly kind: 'look'; readonly place: Place; readonly minutes: number }
  /** In a box that is open: take the cable that leads on loose, and try the breaker. */
  | {
      readonly kind: 'part';
      readonly boxId: string;
      readonly runId: string;
      readonly up: readonly string[];
      readonly minutes: number;
    }
  /** In a box that is open, with the breaker on: what a meter shows between two conductors. */
  | {
      readonly kind: 'meter';
      readonly boxId: string;
      readonly ends: readonly [MeterEnd, MeterEnd];
      readonly up: readonly string[];
      readonly minutes: number;
    };

/** A place that is likely is worth getting to when no look at a light saves so much of what is to be expected, in minutes. */
const LEAST_SAVED = 0.02;

/** A box that is opened is weighed as so many times its minutes: what is opened has to be closed and made good again (our choice). */
const OPENING = 2.6;
/** A reading of which one answer is less likely than this tells nothing. */
const LEAST_TOLD = 0.02;
/** Causes that are less likely than this are not weighed when a meter is thought of. */
const LEAST_WEIGHED = 3e-2;

/** Where what was told does not go together the same is asked so often at most. */
const MOST_TIMES = 3;

/** The levers as they stand: those of the last report that says so; all down before that. */
export const standingUp = (reports: readonly Evidence[]): readonly string[] =>
  reports.reduce<readonly string[]>((up, one) => ('up' in one ? one.up : up), []);

/**
 * The next thing to do: after it the least is to be expected, in minutes of getting to places in the order of their likelihood by
 * effort, after each answer that it may have, looked one step ahead. Nothing where the cause was found. `skipped`: steps, by
 * {@link stepKey}, that nobody knows an answer to.
 */
export function nextStep(
  diagnosis: Diagnosis,
  reports: readonly Evidence[],
  skipped: ReadonlySet<string> = new Set(),
): Step | undefined {
  if (reports.some((report) => report.kind === 'looked' && report.isThere)) return undefined;
  return new Planner(diagnosis, reports, skipped).next();
}

const seeKey = (pointId: string, up: readonly string[]): string => `see ${pointId} ${[...up].sort().join()}`;

const partKey = (boxId: string, runId: string): string => `part ${boxId} ${runId}`;

const meterKey = (ends: readonly MeterEnd[], up: readonly string[]): string =>
  `meter ${ends.map(({ boxId, runId, key }) => `${boxId} ${runId} ${key}`).join()} ${[...up].sort().join()}`;

/** By what a step is known again. */
export const stepKey = (step: Step): string =>
  step.kind === 'look'
    ? keyOfPlace(step.place)
    : step.kind === 'see'
      ? seeKey(step.pointId, step.up)
      : step.kind === 'part'
        ? partKey(step.boxId, step.runId)
        : meterKey(step.ends, step.up);

interface Option {
  readonly cost: number;
  readonly step: Step;
}

class Planner {
  /** What was answered already: asked again only where what was told does not go together. */
  private readonly answered: ReadonlySet<string>;
  private readonly shares: Float64Array;
  /** By place how likely it is there. */
  private readonly mass: Float64Array;
  private readonly up: readonly string[];
  /** By place what getting there is weighed as, in minutes. */
  private readonly effort: Float64Array;
  /** What trips with the levers as they stand, by place: only of that a cable taken loose says something. */
  private readonly tripping: Float64Array;
  /** By hypothesis how likely it is. */
  private readonly each: Float64Array;
  /** By hypothesis what a meter reads with the levers as they stand. */
  private readonly readings = new Map<number, (end: MeterEnd) => number | undefined>();

  constructor(
    private readonly of: Diagnosis,
    private readonly reports: readonly Evidence[],
    private readonly skipped: ReadonlySet<string>,
  ) {
    const { classes, places, sights } = of;
    const each = of.posterior(reports);
    this.each = each;
    this.shares = Float64Array.from(classes, ({ members }) =>
      members.reduce((sum, at) => sum + each[at]!, 0),
    );
    this.mass = new Float64Array(places.length);
    this.effort = Float64Array.from(places, ({ minutes, opens }) => (opens ? OPENING : 1) * minutes);
    classes.forEach(({ place }, at) => (this.mass[place]! += this.shares[at]!));
    const times = new Map<string, number>();
    for (const one of reports) {
      const key =
        one.kind === 'seen'
          ? seeKey(one.pointId, one.up)
          : one.kind === 'parted'
            ? partKey(one.boxId, one.runId)
            : one.kind === 'looked'
              ? keyOfPlace(one.place)
              : one.kind === 'volts'
                ? meterKey(one.ends, one.up)
                : undefined;
      if (key) times.set(key, (times.get(key) ?? 0) + 1);
    }
    const most = of.isExplained(reports) ? 1 : MOST_TIMES;
    this.answered = new Set([...times].flatMap(([key, count]) => (count >= most ? key : [])));
    this.up = standingUp(reports);
    this.tripping = new Float64Array(places.length);
    const stand = sights.leversOf(this.up);
    const position = sights.placeOf(stand);
    classes.forEach(({ place, members: [first] }, at) => {
      if (of.trips(first!, stand, position)) this.tripping[place]! += this.shares[at]!;
    });
  }

  next(): Step | undefined {
    const least = (options: readonly (Option | undefined)[]): Option | undefined =>
      options.filter((one) => one !== undefined).sort((a, b) => a.cost - b.cost)[0];
    const best = least([this.bestPlace(), this.bestLook(), ...this.parts()]);
    // What is cheap to see comes first; a meter in a box that is open comes before the next one is opened.
    if (best?.step.kind !== 'look' || best.step.minutes < FINDING_MINUTES.open) return best?.step;
    return least([best, ...this.open().map((boxId) => this.bestMeter(boxId))])?.step;
  }

  /** Minutes that are to be expected if places are gone to one after another, by what they are likely against what they take. */
  private expected(mass: Float64Array): number {
    const { effort } = this;
    const order = Array.from(mass.keys())
      .filter((at) => mass[at]! > 0)
      .sort((a, b) => mass[b]! / effort[b]! - mass[a]! / effort[a]!);
    let spent = 0;
    let expected = 0;
    for (const at of order) {
      spent += effort[at]!;
      expected += mass[at]! * spent;
    }
    return expected;
  }

  /** Boxes that are open. */
  private open(): readonly string[] {
    return this.reports.flatMap((one) =>
      one.kind === 'looked' && one.place.kind === 'box' ? [one.place.id] : [],
    );
  }

  /**
   * The reading in a box that is open after which the least is to be expected, in minutes.
   */
  private bestMeter(boxId: string): Option | undefined {
    const { of, up, each, mass } = this;
    const levers = of.sights.leversOf(up);
    const by = [0, 1, 2].map(() => new Float64Array(mass.length));
    const after = new Float64Array(mass.length);
    const minutes = FINDING_MINUTES.meter;
    let best: Option | undefined;
    for (const ends of of.metersIn(boxId)) {
      const step: Step = { kind: 'meter', boxId, ends, up, minutes };
      const key = stepKey(step);
      if (this.skipped.has(key) || this.answered.has(key)) continue;
      for (const own of by) own.fill(0);
      for (let at = 0; at < each.length; at++) {
        // What is next to nothing changes no order.
        if (each[at]! < LEAST_WEIGHED) continue;
        let read = this.readings.get(at);
        if (!read) this.readings.set(at, (read = of.cases[at]!.readings(levers)));
        const [a, b] = [read(ends[0]), read(ends[1])];
        const reads =
          a === undefined || b === undefined ? 'none' : readsOf(Math.abs(a - b), of.sights.lineVolts);
        by[reads === 'full' ? 0 : reads === 'none' ? 1 : 2]![of.placeOf[at]!]! += each[at]!;
      }
      const told = by.map((own) => own.reduce((a, b) => a + b, 0));
      const most = told.indexOf(Math.max(...told));
      if (told.filter((share) => share > LEAST_TOLD).length < 2) continue;
      // What was not weighed goes with the likeliest reading.
      for (let at = 0; at < mass.length; at++)
        by[most]![at]! += mass[at]! - by.reduce((sum, own) => sum + own[at]!, 0);
      let cost = minutes;
      for (const [reads, own] of by.entries()) {
        if (told[reads] === 0) continue;
        for (let at = 0; at < after.length; at++)
          after[at] = (1 - LOOKED_WRONG) * own[at]! + LOOKED_WRONG * (mass[at]! - own[at]!);
        cost += this.expected(after);
      }
      if (!best || cost < best.cost) best = { cost, step };
    }
    return best;
  }

  /** In boxes that are open: cables that may be taken loose. */
  private parts(): Option[] {
    const { mass, up } = this;
    const open = new Set(this.open());
    const mixed = (own: Float64Array): Float64Array =>
      own.map((one, at) => (1 - WRONG) * one + WRONG * (mass[at]! - one));
    return this.of.onward.flatMap(({ boxId, runId, beyond }) => {
      if (!open.has(boxId)) return [];
      const step: Step = { kind: 'part', boxId, runId, up, minutes: FINDING_MINUTES.part };
      if (this.skipped.has(stepKey(step)) || this.answered.has(stepKey(step))) return [];
      const out = mass.map((_, at) => (beyond[at] ? this.tripping[at]! : 0));
      const share = out.reduce((a, b) => a + b, 0);
      if (share < 1e-6 || share > 1 - 1e-6) return [];
      const rest = mass.map((one, at) => one - out[at]!);
      return [{ cost: step.minutes + this.expected(mixed(out)) + this.expected(mixed(rest)), step }];
    });
  }

  /** The place to get to, and what is to be expected then: a box that is open anyway divides what trips by the cables that lead on. */
  private bestPlace(): Option | undefined {
    const { places } = this.of;
    let best: Option | undefined;
    for (const [at, place] of places.entries()) {
      if (this.mass[at]! < 1e-9 || this.skipped.has(place.key) || this.answered.has(place.key)) continue;
      const { minutes, kind, id } = place;
      const effort = this.effort[at]!;
      const rest = this.mass.slice();
      rest[at] = LOOKED_WRONG * this.mass[at]!;
      let cost = effort + this.expected(rest);
      if (kind === 'box') {
        const cables = this.of.onward.filter(({ boxId }) => boxId === id);
        let divided = effort;
        for (const { beyond } of cables) {
          const out = rest.map((_, other) => (beyond[other] ? this.tripping[other]! : 0));
          out.forEach((share, other) => (rest[other]! -= share));
          divided += FINDING_MINUTES.part + this.expected(out);
        }
        cost = Math.min(cost, divided + this.expected(rest));
      }
      cost -= LEAST_SAVED;
      if (!best || cost < best.cost) best = { cost, step: { kind: 'look', place, minutes } };
    }
    return best;
  }

  /** The look at one light after which the least is to be expected, in minutes; nothing where every look is known beforehand. */
  private bestLook(): Option | undefined {
    const { places, sights, classes } = this.of;
    const { shares, mass } = this;
    const stand = this.reports.some((one) => 'up' in one) ? sights.leversOf(this.up) : undefined;
    const count = sights.loads.length;
    const by = SEEN.map(() => new Float64Array(places.length));
    const after = new Float64Array(places.length);
    const seenBefore = new Set<string>();
    let best: Option | undefined;
    for (const [position, levers] of sights.positions.entries()) {
      const flips = stand
        ? levers.reduce((sum, lever, at) => sum + Number(lever !== stand[at]), 0)
        : sights.ownLevers.length;
      const minutes = flips * FINDING_MINUTES.flip + FINDING_MINUTES.look;
      for (let load = 0; load < count; load++) {
        const at = position * count + load;
        const told = SEEN.map(() => 0);
        for (const own of by) own.fill(0);
        classes.forEach(({ place, row }, index) => {
          by[row[at]!]![place]! += shares[index]!;
          told[row[at]!]! += shares[index]!;
        });
        if (told.some((share) => share > 1 - 1e-9)) continue;
        // Looks that tell the same apart cost the same afterwards: the one with the fewest levers thrown is enough.
        const name = `${minutes}|${told.map((share) => share.toFixed(9)).join()}`;
        if (seenBefore.has(name)) continue;
        seenBefore.add(name);
        let cost = minutes;
        for (const [seen, own] of by.entries()) {
          if (told[seen] === 0) continue;
          // Some of those who see this are wrong: what says otherwise stays a little.
          for (let one = 0; one < after.length; one++)
            after[one] = (1 - WRONG) * own[one]! + WRONG * (mass[one]! - own[one]!);
          cost += this.expected(after);
        }
        if (best && cost >= best.cost) continue;
        const step: Step = {
          kind: 'see',
          up: sights.upOf(levers),
          pointId: sights.loads[load]!,
          minutes,
          answers: SEEN.filter((_, seen) => told[seen]! > 0).sort(
            (a, b) => told[SEEN.indexOf(b)]! - told[SEEN.indexOf(a)]!,
          ),
        };
        const key = stepKey(step);
        if (!this.skipped.has(key) && !this.answered.has(key)) best = { cost, step };
      }
    }
    return best;
  }
}
