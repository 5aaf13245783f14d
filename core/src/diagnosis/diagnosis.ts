import type { HouseReader } from '../derive/reader.js';
import type { MeterEnd, Report } from '../house/report.js';
import { circuitsAt, shapeOfBox } from '../facts/box-facts.js';
import type { BoxJoint } from '../wiring/joints/box-joint.js';
import type { CircuitWiring } from '../wiring/conductors/circuit-wiring.js';
import { soundForGroup } from '../wiring/joints/box-joints.js';
import { buildNetlist, netlistScope } from '../wiring/netlist/build-netlist.js';
import type { JointsByBox } from '../wiring/netlist/netlist.js';
import type { Evidence } from './evidence.js';
import { WRONG, bareNetsOf, says, wrongOf } from './evidence.js';
import type { Hypothesis, Known, Place, Scope } from './hypotheses.js';
import { hypothesesIn, keyOfPlace } from './hypotheses.js';
import { MadeCase, Sights, TRIPS } from './predictions.js';

/** A cable that leads on from a box, away from the panel, and which places lie beyond where it begins. */
export interface Onward {
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

/**
 * Finding one fault of a circuit from what is seen of it. Hypotheses are put in by the injection that the proof is checked with, into
 * a circuit that is made up as it is asked for; reports weigh them (Bayes).
 */
export class Diagnosis {
  readonly hypotheses: readonly Hypothesis[];
  readonly sights: Sights;
  /** By hypothesis: the circuit as it would be. */
  readonly cases: readonly MadeCase[];
  readonly places: readonly Place[];
  readonly onward: readonly Onward[];
  readonly wirings: readonly CircuitWiring[];
  /** How the boxes are to be made up. */
  readonly sound: JointsByBox;
  readonly placeOf: Int32Array;
  private readonly priors: Float64Array;
  /** By hypothesis: it shows neither by switching nor by a trip. */
  private readonly isHidden: readonly boolean[];
  private readonly said = new WeakMap<Evidence, Uint8Array>();
  /** Hypotheses that nothing but getting there tells apart: of one place, and the same to look at in every position. */
  readonly classes: readonly {
    readonly place: number;
    readonly row: Uint8Array;
    readonly members: readonly number[];
  }[];

  constructor(
    private readonly reader: HouseReader,
    circuitId: string,
    known: Known = {},
  ) {
    const own = netlistScope(reader, circuitId, soundForGroup);
    const { wirings, joints } = withNeighbours(reader, own);
    this.wirings = wirings;
    this.sound = joints;
    this.hypotheses = hypothesesIn(reader, own, joints, known);
    this.sights = new Sights(
      buildNetlist(reader, wirings, joints),
      buildNetlist(reader, own.wirings, own.joints),
    );
    this.cases = this.hypotheses.map(
      (one) => new MadeCase(reader, wirings, this.sights, one.joints, one.tripsWatched),
    );
    const places = new Map<string, Place>();
    for (const { place } of this.hypotheses) if (!places.has(place.key)) places.set(place.key, place);
    this.places = [...places.values()];
    const number = new Map([...places.keys()].map((key, at) => [key, at]));
    const classes = new Map<string, { place: number; row: Uint8Array; members: number[] }>();
    this.hypotheses.forEach(({ place }, at) => {
      const { row } = this.cases[at]!;
      const key = `${place.key}|${row.join('')}`;
      const own = classes.get(key);
      if (own) own.members.push(at);
      else classes.set(key, { place: number.get(place.key)!, row, members: [at] });
    });
    this.classes = [...classes.values()];
    this.placeOf = Int32Array.from(this.hypotheses, ({ place }) => number.get(place.key)!);
    this.onward = onwardIn(reader, own.wirings, this.places);
    // Faults of one kind at one place share what is to be said of that kind there: more conductors make it no likelier.
    const alike = new Map<string, number>();
    const nameOf = ({ kind, place }: Hypothesis): string => `${kind} ${place.key}`;
    for (const one of this.hypotheses) alike.set(nameOf(one), (alike.get(nameOf(one)) ?? 0) + 1);
    this.priors = Float64Array.from(this.hypotheses, (one) => one.weight / alike.get(nameOf(one))!);
    const row = new MadeCase(reader, wirings, this.sights, joints, false).row.join();
    this.isHidden = this.cases.map((made) => made.row.join() === row);
  }

  /** Whether the breaker trips with the levers so, if a hypothesis is what is wrong. */
  trips(hypothesis: number, levers: Uint8Array, position = this.sights.placeOf(levers)): boolean {
    const made = this.cases[hypothesis]!;
    return this.sights.loads.length ? made.at(levers, 0, position) === TRIPS : made.trips(levers);
  }

  /** Which hypotheses say what each report says: 1 for each that does. What was rung is looked up for all reports at once. */
  private sayers(reports: readonly Evidence[]): Uint8Array[] {
    const fresh = reports.filter((one) => !this.said.has(one));
    for (const one of fresh) this.said.set(one, new Uint8Array(this.hypotheses.length).fill(1));
    const rung = fresh.filter(({ kind }) => kind === 'ring' || kind === 'rang');
    this.hypotheses.forEach(({ place, joints }, at) => {
      const nets = rung.length ? bareNetsOf(this.reader, this.sound, joints) : undefined;
      for (const one of fresh) {
        const holds =
          one.kind === 'looked'
            ? (place.key === keyOfPlace(one.place)) === one.isThere
            : one.kind === 'parted'
              ? this.tripsParted(at, one) === one.trips
              : says(this.sights, this.cases[at]!, one, nets);
        this.said.get(one)![at] = Number(holds);
      }
    });
    return reports.map((one) => this.said.get(one)!);
  }

  /**
   * Where a meter is held in a box: one conductor of each joint as it is to be made up against ground, and against each neutral. A joint
   * that was looked at needs no more than one lead.
   */
  metersIn(boxId: string): readonly (readonly [MeterEnd, MeterEnd])[] {
    const ends = (this.sound.get(boxId) ?? []).flatMap(({ ends: own, role }) => {
      const [first] = own;
      return first ? [{ end: { boxId, ...first }, role }] : [];
    });
    const grounds = ends.filter(({ role }) => role === 'ground').slice(0, 1);
    const neutrals = ends.filter(({ role }) => role === 'neutral');
    return ends.flatMap((one) =>
      one.role === 'ground'
        ? []
        : [...grounds, ...neutrals.filter((other) => other !== one && one.role !== 'neutral')].map(
            (other) => [one.end, other.end] as const,
          ),
    );
  }

  /** Whether the breaker still trips with a cable taken loose where it leads on from a box. */
  tripsParted(
    hypothesis: number,
    { boxId, runId, up }: Pick<Extract<Report, { kind: 'parted' }>, 'boxId' | 'runId' | 'up'>,
  ): boolean {
    const cable = this.onward.find((one) => one.boxId === boxId && one.runId === runId);
    const isBeyond = cable?.beyond[this.placeOf[hypothesis]!];
    return this.trips(hypothesis, this.sights.leversOf(up)) && !isBeyond;
  }

  /** Nobody looks for a fault without a reason: but for what is rung or measured it is one that shows. */
  private priorOf(reports: readonly Evidence[]): Float64Array {
    const isMeasured = reports.some(({ kind }) => kind === 'ring' || kind === 'rang' || kind === 'volts');
    return this.priors.map((prior, at) => (this.isHidden[at] && !isMeasured ? WRONG * prior : prior));
  }

  /** How likely each hypothesis is after these reports; together 1. */
  posterior(reports: readonly Evidence[]): Float64Array {
    const shares = this.priorOf(reports);
    const sayers = this.sayers(reports);
    for (const [nth, report] of reports.entries()) {
      const wrong = wrongOf(report);
      let most = 0;
      const says = sayers[nth]!;
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

  /** How well all single faults together, by their priors, say these reports: 0 to 1. */
  likelihood(reports: readonly Evidence[]): number {
    const sayers = this.sayers(reports);
    const sum = this.priors.reduce((a, b) => a + b, 0);
    return this.priors.reduce((all, prior, at) => {
      const each = reports.reduce((product, report, nth) => {
        const wrong = wrongOf(report);
        return product * (sayers[nth]![at] ? 1 - wrong : wrong);
      }, prior / sum);
      return all + each;
    }, 0);
  }

  /** Causes, the likeliest first: what is at one place, looks the same in every position, and says the same of the reports is one. */
  causes(reports: readonly Evidence[]): Cause[] {
    const shares = this.posterior(reports);
    const sayers = this.sayers(reports);
    return this.classes
      .flatMap(({ members }) => {
        // What looks the same may ring otherwise.
        const alike = new Map<string, number[]>();
        for (const at of members) {
          const said = sayers.map((says) => says[at]).join('');
          alike.set(said, [...(alike.get(said) ?? []), at]);
        }
        return [...alike].map(([said, own]): Cause => {
          const sorted = own.toSorted((a, b) => shares[b]! - shares[a]!);
          return {
            hypotheses: sorted.map((at) => this.hypotheses[at]!),
            place: this.hypotheses[sorted[0]!]!.place,
            share: own.reduce((sum, at) => sum + shares[at]!, 0),
            for: [...said].flatMap((one, at) => (one === '1' ? at : [])),
            against: [...said].flatMap((one, at) => (one === '1' ? [] : at)),
          };
        });
      })
      .sort((a, b) => b.share - a.share);
  }

  /**
   * Two reports, by their numbers, of which every single fault says one at most: asked the same and answered otherwise, or not to be
   * had together. Nothing where some fault says all of them, or where it takes more than two.
   */
  clash(reports: readonly Evidence[]): readonly [number, number] | undefined {
    const sayers = this.sayers(reports);
    const any = (...nth: readonly number[]): boolean =>
      this.hypotheses.some((_, at) => nth.every((one) => sayers[one]![at] === 1));
    if (any(...reports.keys())) return undefined;
    // The later of two is the one to look at again.
    for (let later = 1; later < reports.length; later++)
      for (let earlier = later - 1; earlier >= 0; earlier--)
        if (!any(earlier, later)) return [earlier, later];
    return undefined;
  }

  /** Whether some single fault says everything that was reported. */
  isExplained(reports: readonly Evidence[]): boolean {
    const sayers = this.sayers(reports);
    return this.hypotheses.some((_, at) => sayers.every((says) => says[at] === 1));
  }
}

/** A circuit with all that come into one of its boxes: what may be joined with it there by mistake. */
function withNeighbours(reader: HouseReader, own: Scope): Scope {
  const wirings = [...own.wirings];
  const joints = new Map(own.joints);
  const known = new Set(wirings.flatMap(({ circuitIds }) => circuitIds));
  for (const boxId of own.joints.keys()) {
    if (shapeOfBox(reader, boxId).kind === 'panel') continue;
    for (const circuitId of circuitsAt(reader, boxId)) {
      if (known.has(circuitId)) continue;
      const other = netlistScope(reader, circuitId, soundForGroup);
      for (const wiring of other.wirings)
        if (!wiring.circuitIds.some((id) => known.has(id))) {
          wirings.push(wiring);
          wiring.circuitIds.forEach((id) => known.add(id));
        }
      for (const [at, theirs] of other.joints) {
        const here = joints.get(at) ?? [];
        joints.set(at, [...here, ...theirs.filter((joint) => !isIn(here, joint))]);
      }
    }
  }
  return { wirings, joints };
}

/** Whether a joint is among these: the same, or one of the same conductors as the panel has it for another circuit. */
const isIn = (here: readonly BoxJoint[], joint: BoxJoint): boolean =>
  here.some(
    (one) =>
      one === joint ||
      (one.ends.length > 0 &&
        one.ends.some(({ runId, key }) => joint.ends.some((end) => end.runId === runId && end.key === key))),
  );

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
