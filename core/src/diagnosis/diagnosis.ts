import type { HouseReader } from '../derive/reader.js';
import { FINDING_MINUTES } from '../rulebook/fault-priors.js';
import { buildNetlist, netlistScope } from '../wiring/netlist/build-netlist.js';
import type { CircuitWiring } from '../wiring/conductors/circuit-wiring.js';
import type { Hypothesis, Place } from './hypotheses.js';
import { hypothesesIn } from './hypotheses.js';
import type { Seen } from './predictions.js';
import { Predictions, SEEN } from './predictions.js';

/** What somebody says of the circuit; each by itself, in any order, wrong now and then. */
export type Report =
  /** A light or outlet with the levers so: points of those that are up, all others down. */
  | { readonly kind: 'seen'; readonly up: readonly string[]; readonly pointId: string; readonly seen: Seen }
  /** A place that was opened, tried or looked at: whether the cause was there. */
  | { readonly kind: 'looked'; readonly placeKey: string; readonly isThere: boolean }
  /** In a box that is open, the cable that leads on is taken loose for the time: whether the breaker trips still. */
  | {
      readonly kind: 'parted';
      readonly boxId: string;
      readonly runId: string;
      readonly up: readonly string[];
      readonly trips: boolean;
    };

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
  | {
      readonly kind: 'part';
      readonly boxId: string;
      readonly runId: string;
      readonly up: readonly string[];
      readonly minutes: number;
    };

/** A cable that leads on from a box, away from the panel, and which places lie beyond where it begins. */
interface Onward {
  readonly boxId: string;
  readonly runId: string;
  readonly beyond: Uint8Array;
}

/** A cause with all that nothing but getting there tells from it. */
export interface Cause {
  readonly hypotheses: readonly Hypothesis[];
  readonly place: Place;
  /** Share of all causes, 0 to 1. */
  readonly share: number;
  /** Reports, by their number, that it says, and that it does not. */
  readonly for: readonly number[];
  readonly against: readonly number[];
}

/** How often a report is wrong: common practice, a lever misread, a lamp not looked at. */
const WRONG = 0.04;
/** A box that was looked through is seen wrong less often, and a breaker that was set anew next to never. */
const LOOKED_WRONG = 0.02;
const BREAKER_WRONG = 0.002;

const TRIPS = SEEN.indexOf('trips');

const wrongOf = (report: Report): number =>
  report.kind !== 'looked' ? WRONG : report.placeKey.startsWith('breaker ') ? BREAKER_WRONG : LOOKED_WRONG;

/** A place that is likely is worth getting to when no look at a light saves so much of what is to be expected, in minutes. */
const LEAST_SAVED = 0.02;

/**
 * Finding one fault of a circuit from what is seen of it. Hypotheses are put in by the injection that the proof is checked with;
 * reports weigh them (Bayes), and the next step is the one after which the least is to be expected: minutes of getting to places in
 * the order of their likelihood by effort, after each answer that it may have.
 */
export class Diagnosis {
  readonly hypotheses: readonly Hypothesis[];
  readonly predictions: Predictions;
  readonly places: readonly Place[];
  private readonly priors: Float64Array;
  private readonly onward: readonly Onward[];
  private readonly placeOf: Int32Array;
  private readonly said = new WeakMap<Report, Uint8Array>();
  /** Hypotheses that nothing but getting there tells apart: of one place, and the same to look at in every position. */
  private readonly classes: readonly {
    readonly place: number;
    readonly row: Uint8Array;
    readonly members: readonly number[];
  }[];

  /** `recent` are boxes made or opened since the last good test. */
  constructor(reader: HouseReader, circuitId: string, recent?: ReadonlySet<string>) {
    const { wirings, joints } = netlistScope(reader, circuitId);
    this.hypotheses = hypothesesIn(reader, wirings, joints, recent);
    this.predictions = new Predictions(
      reader,
      wirings,
      buildNetlist(reader, wirings, joints),
      this.hypotheses,
    );
    const places = new Map<string, Place>();
    for (const { place } of this.hypotheses) if (!places.has(place.key)) places.set(place.key, place);
    this.places = [...places.values()];
    const number = new Map([...places.keys()].map((key, at) => [key, at]));
    const classes = new Map<string, { place: number; row: Uint8Array; members: number[] }>();
    this.hypotheses.forEach(({ place }, at) => {
      const row = this.predictions.table[at]!;
      const key = `${place.key}|${row.join('')}`;
      const own = classes.get(key);
      if (own) own.members.push(at);
      else classes.set(key, { place: number.get(place.key)!, row, members: [at] });
    });
    this.classes = [...classes.values()];
    this.placeOf = Int32Array.from(this.hypotheses, ({ place }) => number.get(place.key)!);
    this.onward = onwardIn(reader, wirings, this.places);
    // Faults of one kind at one place share what is to be said of that kind there: more conductors make it no likelier.
    const alike = new Map<string, number>();
    const nameOf = ({ kind, place }: Hypothesis): string => `${kind} ${place.key}`;
    for (const one of this.hypotheses) alike.set(nameOf(one), (alike.get(nameOf(one)) ?? 0) + 1);
    this.priors = Float64Array.from(this.hypotheses, (one) => one.weight / alike.get(nameOf(one))!);
  }

  private leversOf(up: readonly string[]): Uint8Array {
    return Uint8Array.from(this.predictions.levers, (id) => (up.includes(id) ? 1 : 0));
  }

  /** Which hypotheses say what a report says: 1 for each that does. */
  private sayers(report: Report): Uint8Array {
    const known = this.said.get(report);
    if (known) return known;
    const { predictions, hypotheses } = this;
    const all = hypotheses.map((_, at) => at);
    const found = Uint8Array.from(all, () => 1);
    const fill = (says: (at: number) => boolean): void => all.forEach((at) => (found[at] = Number(says(at))));
    if (report.kind === 'looked')
      fill((at) => (hypotheses[at]!.place.key === report.placeKey) === report.isThere);
    else {
      const levers = this.leversOf(report.up);
      const position = predictions.placeOf(levers);
      if (report.kind === 'parted')
        fill((at) => this.tripsParted(at, report, levers, position) === report.trips);
      else {
        const load = predictions.loads.indexOf(report.pointId);
        const seen = SEEN.indexOf(report.seen);
        if (load >= 0) fill((at) => predictions.at(at, levers, load, position) === seen);
      }
    }
    this.said.set(report, found);
    return found;
  }

  /** Whether the breaker still trips with a cable taken loose where it leads on from a box. */
  tripsParted(
    hypothesis: number,
    { boxId, runId, up }: Pick<Extract<Report, { kind: 'parted' }>, 'boxId' | 'runId' | 'up'>,
    levers = this.leversOf(up),
    position = this.predictions.placeOf(levers),
  ): boolean {
    if (!this.predictions.loads.length) return false;
    const cable = this.onward.find((one) => one.boxId === boxId && one.runId === runId);
    const isBeyond = cable?.beyond[this.placeOf[hypothesis]!];
    return this.predictions.at(hypothesis, levers, 0, position) === TRIPS && !isBeyond;
  }

  /** How likely each hypothesis is after these reports; together 1. */
  posterior(reports: readonly Report[]): Float64Array {
    const shares = this.priors.slice();
    for (const report of reports) {
      const wrong = wrongOf(report);
      let most = 0;
      const says = this.sayers(report);
      for (let at = 0; at < shares.length; at++) {
        shares[at]! *= says[at] ? 1 - wrong : wrong;
        most = Math.max(most, shares[at]!);
      }
      // Many reports make small numbers.
      if (most > 0) for (let at = 0; at < shares.length; at++) shares[at]! /= most;
    }
    const sum = shares.reduce((a, b) => a + b, 0);
    return sum > 0 ? shares.map((share) => share / sum) : shares;
  }

  /** Causes, the likeliest first: what is at one place and looks the same in every position is one. */
  causes(reports: readonly Report[]): Cause[] {
    const shares = this.posterior(reports);
    return this.classes
      .map(({ members }): Cause => {
        const first = members[0]!;
        const told = reports.map((report, at) => ({ at, says: this.sayers(report)[first] === 1 }));
        return {
          hypotheses: members.toSorted((a, b) => shares[b]! - shares[a]!).map((at) => this.hypotheses[at]!),
          place: this.hypotheses[first]!.place,
          share: members.reduce((sum, at) => sum + shares[at]!, 0),
          for: told.filter(({ says }) => says).map(({ at }) => at),
          against: told.filter(({ says }) => !says).map(({ at }) => at),
        };
      })
      .sort((a, b) => b.share - a.share);
  }

  /** Minutes that are to be expected if places are gone to one after another, by what they are likely against what they take. */
  private expected(mass: Float64Array): number {
    const order = Array.from(mass.keys())
      .filter((at) => mass[at]! > 0)
      .sort((a, b) => mass[b]! / this.places[b]!.minutes - mass[a]! / this.places[a]!.minutes);
    let spent = 0;
    let expected = 0;
    for (const at of order) {
      spent += this.places[at]!.minutes;
      expected += mass[at]! * spent;
    }
    return expected;
  }

  /** The next thing to do; nothing where the cause was found. */
  next(reports: readonly Report[]): Step | undefined {
    if (reports.some((report) => report.kind === 'looked' && report.isThere)) return undefined;
    const { places, predictions, classes } = this;
    const each = this.posterior(reports);
    const shares = Float64Array.from(classes, ({ members }) =>
      members.reduce((sum, at) => sum + each[at]!, 0),
    );
    const mass = new Float64Array(places.length);
    classes.forEach(({ place }, at) => (mass[place]! += shares[at]!));
    const last = reports.findLast((report) => report.kind === 'seen');
    const up = last?.up ?? [];
    // What trips with the levers as they stand, by place: only of that a cable taken loose says something.
    const tripping = new Float64Array(places.length);
    const stand = this.leversOf(up);
    const position = predictions.placeOf(stand);
    classes.forEach(({ place, members: [first] }, at) => {
      if (predictions.loads.length && predictions.at(first!, stand, 0, position) === TRIPS)
        tripping[place]! += shares[at]!;
    });
    const far = this.bestPlace(mass, tripping);
    const options: { readonly cost: number; readonly step: () => Step }[] = [];
    if (far)
      options.push({
        cost: far.cost - LEAST_SAVED,
        step: () => ({ kind: 'look', place: places[far.place]!, minutes: places[far.place]!.minutes }),
      });
    const best = this.bestLook(last, shares, mass);
    if (best)
      options.push({
        cost: best.cost,
        step: () => ({
          kind: 'see',
          up: predictions.levers.filter((_, at) => predictions.positions[best.position]![at]),
          pointId: predictions.loads[best.load]!,
          minutes: best.minutes,
          answers: SEEN.filter((_, seen) => best.told[seen]! > 0).sort(
            (a, b) => best.told[SEEN.indexOf(b)]! - best.told[SEEN.indexOf(a)]!,
          ),
        }),
      });
    const open = new Set(reports.flatMap((report) => (report.kind === 'looked' ? [report.placeKey] : [])));
    for (const { boxId, runId, beyond } of this.onward) {
      if (!open.has(`box ${boxId}`)) continue;
      const out = mass.map((_, at) => (beyond[at] ? tripping[at]! : 0));
      const share = out.reduce((a, b) => a + b, 0);
      if (share < 1e-6 || share > 1 - 1e-6) continue;
      const mixed = (own: Float64Array): Float64Array =>
        own.map((one, at) => (1 - WRONG) * one + WRONG * (mass[at]! - one));
      const rest = mass.map((one, at) => one - out[at]!);
      options.push({
        cost: FINDING_MINUTES.part + this.expected(mixed(out)) + this.expected(mixed(rest)),
        step: () => ({ kind: 'part', boxId, runId, up, minutes: FINDING_MINUTES.part }),
      });
    }
    return options.sort((a, b) => a.cost - b.cost)[0]?.step();
  }

  /** The place to get to, and what is to be expected then: a box that is open anyway divides what trips by the cables that lead on. */
  private bestPlace(mass: Float64Array, tripping: Float64Array) {
    const { places } = this;
    let best: { readonly place: number; readonly cost: number } | undefined;
    for (const [at, { minutes, kind, id }] of places.entries()) {
      if (mass[at]! < 1e-9) continue;
      const rest = mass.slice();
      rest[at] = LOOKED_WRONG * mass[at]!;
      let cost = minutes + this.expected(rest);
      if (kind === 'box') {
        const cables = this.onward.filter(({ boxId }) => boxId === id);
        let divided = minutes;
        for (const { beyond } of cables) {
          const out = rest.map((_, place) => (beyond[place] ? tripping[place]! : 0));
          out.forEach((share, place) => (rest[place]! -= share));
          divided += FINDING_MINUTES.part + this.expected(out);
        }
        cost = Math.min(cost, divided + this.expected(rest));
      }
      if (!best || cost < best.cost) best = { place: at, cost };
    }
    return best;
  }

  /** The look at one light after which the least is to be expected, in minutes; nothing where every look is known beforehand. */
  private bestLook(
    last: Extract<Report, { kind: 'seen' }> | undefined,
    shares: Float64Array,
    mass: Float64Array,
  ) {
    const { places, predictions, classes } = this;
    const stand = last ? this.leversOf(last.up) : undefined;
    const count = predictions.loads.length;
    const by = SEEN.map(() => new Float64Array(places.length));
    const after = new Float64Array(places.length);
    const seenBefore = new Set<string>();
    let best:
      | {
          readonly cost: number;
          readonly position: number;
          readonly load: number;
          readonly minutes: number;
          readonly told: readonly number[];
        }
      | undefined;
    for (const [position, levers] of predictions.positions.entries()) {
      const flips = stand
        ? levers.reduce((sum, lever, at) => sum + Number(lever !== stand[at]), 0)
        : levers.length;
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
          for (let at = 0; at < after.length; at++)
            after[at] = (1 - WRONG) * own[at]! + WRONG * (mass[at]! - own[at]!);
          cost += this.expected(after);
        }
        if (!best || cost < best.cost) best = { cost, position, load, minutes, told };
      }
    }
    return best;
  }
}

/** The cables that lead on, with what lies beyond each: boxes, their devices, and the walls that it goes through from its beginning. */
function onwardIn(
  reader: HouseReader,
  wirings: readonly CircuitWiring[],
  places: readonly Place[],
): Onward[] {
  return wirings.flatMap(({ tree }) =>
    [...tree.feed].map(([child, { run, from }]): Onward => {
      const nodes = new Set([child]);
      const runIds = new Set([run.id]);
      // Every node stands after the one that feeds it.
      for (const node of tree.nodes) {
        const feed = tree.feed.get(node);
        if (!feed || !nodes.has(feed.from)) continue;
        nodes.add(node);
        runIds.add(feed.run.id);
      }
      const boxIds = new Set([...nodes].map((node) => tree.boxOf.get(node)!));
      // A box that is fed from elsewhere as well lies not beyond.
      for (const node of tree.nodes) if (!nodes.has(node)) boxIds.delete(tree.boxOf.get(node)!);
      return {
        boxId: tree.boxOf.get(from)!,
        runId: run.id,
        beyond: Uint8Array.from(places, ({ kind, id }) =>
          Number(
            kind === 'box'
              ? boxIds.has(id)
              : kind === 'wall'
                ? runIds.has(id)
                : kind === 'device' && boxIds.has(reader.get('devices', id)?.boxId ?? ''),
          ),
        ),
      };
    }),
  );
}
