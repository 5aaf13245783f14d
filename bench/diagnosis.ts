/**
 * How many boxes are opened until a fault is found, and how many minutes that takes: faults drawn by how often they are, of those
 * that switching or trips show, in the demo's circuits and in random ones. `npx tsx bench/diagnosis.ts [faults] [seed]`.
 */
import * as fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { readerOf } from '../core/src/derive/reader.js';
import type { HouseReader } from '../core/src/derive/reader.js';
import { houseOf, readHouseFile } from '../core/src/house/house-file.js';
import type { HouseFile } from '../core/src/house/house-file.js';
import { FINDING_MINUTES } from '../core/src/rulebook/fault-priors.js';
import { Diagnosis } from '../core/src/diagnosis/diagnosis.js';
import type { Evidence } from '../core/src/diagnosis/evidence.js';
import { readsOf } from '../core/src/diagnosis/evidence.js';
import { nextStep } from '../core/src/diagnosis/next-step.js';
import { MadeCase, SEEN } from '../core/src/diagnosis/predictions.js';
import { randomSwitching } from '../core/src/testing/random-switching.js';

const [faults = 2000, seed = 1] = process.argv.slice(2).map(Number);
let meters = 0;
/** From 0 up to 1; the same for the same seed. */
function stream(from: number): () => number {
  let state = from * 2654435761;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), state | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}
/** Which faults are drawn hangs on nothing that is done to find them; which answers are wrong comes from elsewhere. */
const [random, error] = [stream(seed), stream(seed + 7)];

interface Circuit {
  readonly diagnosis: Diagnosis;
  /** Boxes as one goes out from the panel. */
  readonly order: readonly string[];
  /** Numbers of what switching or trips show, and of what they do not. */
  readonly shown: readonly number[];
  readonly hidden: readonly number[];
}

function circuitOf(reader: HouseReader, circuitId: string): Circuit | undefined {
  const diagnosis = new Diagnosis(reader, circuitId);
  const { sights, hypotheses, wirings, sound: joints, cases } = diagnosis;
  if (!sights.loads.length) return undefined;
  const sound = new MadeCase(reader, wirings, sights, joints, false).row.join();
  const isShown = hypotheses.map((_, at) => cases[at]!.row.join() !== sound);
  const order = [
    ...new Set(wirings.flatMap(({ tree }) => tree.nodes.map((node) => tree.boxOf.get(node)!))),
  ].filter((boxId) => joints.has(boxId) && !wirings.some(({ tree }) => tree.panelId === boxId));
  // What is recorded is no fault that anybody drew.
  const all = [...hypotheses.keys()].filter((at) => hypotheses[at]!.kind !== 'as recorded');
  return {
    diagnosis,
    order,
    shown: all.filter((at) => isShown[at]),
    hidden: all.filter((at) => !isShown[at]),
  };
}

/** Follows the steps until the cause is there; a look is told wrong with this probability. */
function follow({ diagnosis }: Circuit, truth: number, wrong: number) {
  const { sights, hypotheses, cases } = diagnosis;
  const { place } = hypotheses[truth]!;
  const reports: Evidence[] = [];
  let [opened, minutes, slowest] = [0, 0, 0];
  for (let step = 0; step < 400; step++) {
    const from = performance.now();
    const next = nextStep(diagnosis, reports);
    slowest = Math.max(slowest, performance.now() - from);
    if (!next) return { reports, opened, minutes, slowest };
    minutes += next.minutes;
    if (next.kind === 'look') {
      opened += Number(next.place.opens);
      reports.push({ kind: 'looked', place: next.place, isThere: next.place.key === place.key });
    } else if (next.kind === 'part') {
      reports.push({ ...next, kind: 'parted', trips: diagnosis.tripsParted(truth, next) });
    } else if (next.kind === 'meter') {
      meters++;
      const volts = cases[truth]!.volts(next.ends, sights.leversOf(next.up));
      reports.push({
        kind: 'volts',
        ends: next.ends,
        up: [...next.up],
        reads: volts === undefined ? (meters % 2 ? 'none' : 'between') : readsOf(volts, sights.lineVolts),
      });
    } else {
      const levers = sights.leversOf(next.up);
      const seen = SEEN[cases[truth]!.at(levers, sights.loads.indexOf(next.pointId))]!;
      const others = SEEN.filter((one) => one !== seen);
      const told = error() < wrong ? others[Math.floor(error() * others.length)]! : seen;
      reports.push({ kind: 'seen', up: next.up, pointId: next.pointId, seen: told });
    }
  }
  return { reports, opened, minutes, slowest };
}

/** Faults drawn by how often they are, or each as often, and how often the cause ends first though each answer is wrong with this probability. */
function noisy(name: string, circuits: readonly Circuit[], most: number, wrong: number): void {
  const own = circuits.filter(({ shown }) => shown.length > 0);
  let [first, minutes, uniform] = [0, 0, 0];
  for (let nth = 0; nth < most; nth++) {
    const circuit = own[Math.floor(random() * own.length)]!;
    const truth = drawn(circuit);
    const { reports, minutes: spent } = follow(circuit, truth, wrong);
    const { hypotheses } = circuit.diagnosis;
    const [cause] = circuit.diagnosis.causes(reports);
    first += Number(cause!.place.key === hypotheses[truth]!.place.key);
    minutes += spent;
    const any = circuit.shown[Math.floor(random() * circuit.shown.length)]!;
    uniform += follow(circuit, any, 0).opened;
  }
  console.log(
    `${name}, each answer wrong in ${wrong}: the cause ends first in ${((100 * first) / most).toFixed(1)} %, minutes ${(minutes / most).toFixed(1)}; every fault as often: boxes opened ${(uniform / most).toFixed(2)}`,
  );
}

/** A fault, by kind and place as often as that is, whichever conductor it is then. */
function drawn({ diagnosis: { hypotheses }, shown }: Circuit): number {
  const alike = new Map<string, number>();
  const nameOf = (at: number): string => `${hypotheses[at]!.kind} ${hypotheses[at]!.place.key}`;
  shown.forEach((at) => alike.set(nameOf(at), (alike.get(nameOf(at)) ?? 0) + 1));
  const weights = shown.map((at) => hypotheses[at]!.weight / alike.get(nameOf(at))!);
  let pick = random() * weights.reduce((a, b) => a + b, 0);
  const at = weights.findIndex((weight) => (pick -= weight) < 0);
  return shown[at < 0 ? shown.length - 1 : at]!;
}

/**
 * The least minutes that looks and going to places can be expected to take where nobody errs: everything that may be done next is tried,
 * to the end. Nothing where that is too much.
 */
function expectimax({
  diagnosis,
  shown,
}: Circuit): { readonly best: number; readonly ours: number } | undefined {
  const { sights, cases, placeOf, places, hypotheses } = diagnosis;
  const alike = new Map<string, number>();
  const nameOf = (at: number): string => `${hypotheses[at]!.kind} ${hypotheses[at]!.place.key}`;
  shown.forEach((at) => alike.set(nameOf(at), (alike.get(nameOf(at)) ?? 0) + 1));
  // What is at one place and looks the same is one.
  const classes = new Map<string, { place: number; row: Uint8Array; weight: number; first: number }>();
  for (const at of shown) {
    const { row } = cases[at]!;
    const key = `${placeOf[at]}|${row.join('')}`;
    const weight = hypotheses[at]!.weight / alike.get(nameOf(at))!;
    const own = classes.get(key);
    if (own) own.weight += weight;
    else classes.set(key, { place: placeOf[at]!, row, weight, first: at });
  }
  const all = [...classes.values()];
  const used = [...new Set(all.map(({ place }) => place))];
  if (all.length > 24 || used.length > 9) return undefined;
  const count = sights.loads.length;
  const memo = new Map<string, number>();
  const sum = (some: typeof all): number => some.reduce((total, { weight }) => total + weight, 0);
  const cost = (some: typeof all, stand: number): number => {
    if (memo.size > 200_000) throw new Error('too much');
    if (some.length < 2) return some.length ? places[some[0]!.place]!.minutes : 0;
    const key = `${stand}|${some.map((one) => all.indexOf(one)).join()}`;
    const known = memo.get(key);
    if (known !== undefined) return known;
    const total = sum(some);
    let best = Infinity;
    for (const place of new Set(some.map((one) => one.place))) {
      const rest = some.filter((one) => one.place !== place);
      best = Math.min(
        best,
        places[place]!.minutes + (rest.length ? (sum(rest) / total) * cost(rest, stand) : 0),
      );
    }
    sights.positions.forEach((levers, position) => {
      const flips =
        stand < 0
          ? sights.ownLevers.length
          : levers.reduce((n, lever, at) => n + Number(lever !== sights.positions[stand]![at]), 0);
      for (let load = 0; load < count; load++) {
        const by = new Map<number, typeof all>();
        for (const one of some) {
          const seen = one.row[position * count + load]!;
          by.set(seen, [...(by.get(seen) ?? []), one]);
        }
        if (by.size < 2) continue;
        let own = flips * FINDING_MINUTES.flip + FINDING_MINUTES.look;
        for (const part of by.values()) own += (sum(part) / total) * cost(part, position);
        best = Math.min(best, own);
      }
    });
    memo.set(key, best);
    return best;
  };
  try {
    const best = cost(all, -1);
    const total = sum(all);
    const ours = all.reduce(
      (spent, { first, weight }) =>
        spent + (weight / total) * follow({ diagnosis, shown, hidden: [], order: [] }, first, 0).minutes,
      0,
    );
    return { best, ours };
  } catch {
    return undefined;
  }
}

interface Least {
  /** By looking alone: what looks the same in every position is gone through by what it is likely. */
  readonly looking: number;
  /**
   * By whatever means: before a box is open nothing tells apart what looks the same, so the first is the likeliest; and where that is not
   * the one, whatever is read in it costs nothing and tells all: the second is.
   */
  readonly anyhow: number;
  /** How likely a fault is in a box here. */
  readonly share: number;
}

/**
 * The fewest boxes that can be expected to be opened for a fault in a box, where every look, breaker, device and wall costs nothing and
 * nobody errs.
 */
function leastOpened({ diagnosis, shown }: Circuit): Least {
  const { cases, placeOf, places, hypotheses } = diagnosis;
  const alike = new Map<string, number>();
  const nameOf = (at: number): string => `${hypotheses[at]!.kind} ${hypotheses[at]!.place.key}`;
  shown.forEach((at) => alike.set(nameOf(at), (alike.get(nameOf(at)) ?? 0) + 1));
  const groups = new Map<string, Map<number, number>>();
  let total = 0;
  for (const at of shown) {
    const place = placeOf[at]!;
    total += hypotheses[at]!.weight / alike.get(nameOf(at))!;
    if (!places[place]!.opens) continue;
    const row = cases[at]!.row.join();
    const group = groups.get(row) ?? new Map<number, number>();
    group.set(place, (group.get(place) ?? 0) + hypotheses[at]!.weight / alike.get(nameOf(at))!);
    groups.set(row, group);
  }
  let [looking, anyhow, weight] = [0, 0, 0];
  for (const group of groups.values())
    [...group.values()]
      .sort((a, b) => b - a)
      .forEach((mass, before) => {
        looking += mass * (before + 1);
        anyhow += mass * Math.min(2, before + 1);
        weight += mass;
      });
  const mean = (sum: number): number => (weight ? sum / weight : 0);
  return { looking: mean(looking), anyhow: mean(anyhow), share: total ? weight / total : 0 };
}

/** Of circuits that are drawn alike often: the mean of the fewest, by how likely a fault is in a box there. */
function fewest(circuits: readonly Circuit[], by: 'looking' | 'anyhow'): string {
  const own = circuits.filter(({ shown }) => shown.length > 0).map(leastOpened);
  const all = own.reduce((sum, { share }) => sum + share, 0);
  return all ? (own.reduce((sum, one) => sum + one[by] * one.share, 0) / all).toFixed(2) : '–';
}

function measure(name: string, circuits: readonly Circuit[], most: number): void {
  const own = circuits.filter(({ shown }) => shown.length > 0);
  const total = { faults: 0, opened: 0, outward: 0, minutes: 0, slowest: 0 };
  const large = { faults: 0, opened: 0, outward: 0 };
  const small = { faults: 0, opened: 0 };
  for (let nth = 0; nth < most; nth++) {
    const circuit = own[Math.floor(random() * own.length)]!;
    const { hypotheses } = circuit.diagnosis;
    const truth = drawn(circuit);
    const { opened, minutes, slowest } = follow(circuit, truth, 0);
    const { place } = hypotheses[truth]!;
    const outward =
      place.kind === 'box' ? circuit.order.indexOf(place.id) + 1 || 1 : circuit.order.length / 2;
    total.faults++;
    total.opened += opened;
    total.outward += outward;
    total.minutes += minutes;
    total.slowest = Math.max(total.slowest, slowest);
    if (place.kind !== 'box') continue;
    if (circuit.order.length >= 6) {
      large.faults++;
      large.opened += opened;
      large.outward += outward;
    } else {
      small.faults++;
      small.opened += opened;
    }
  }
  const shown = own.reduce((sum, one) => sum + one.shown.length, 0);
  const hidden = own.reduce((sum, one) => sum + one.hidden.length, 0);
  console.log(
    `${name}: ${total.faults} faults; ${((100 * hidden) / (shown + hidden)).toFixed(0)} % of what may be wrong shows neither by switching nor by a trip`,
  );
  console.log(
    `  boxes opened ${(total.opened / total.faults).toFixed(2)}, minutes ${(total.minutes / total.faults).toFixed(1)}, slowest step ${total.slowest.toFixed(0)} ms`,
  );
  if (large.faults)
    console.log(
      `  six boxes or more (${large.faults}): ${(large.opened / large.faults).toFixed(2)} against ${(large.outward / large.faults).toFixed(2)} outward: ${(large.opened / large.outward).toFixed(2)}`,
    );
  if (small.faults) console.log(`  smaller (${small.faults}): ${(small.opened / small.faults).toFixed(2)}`);
  const bySize = (by: 'looking' | 'anyhow'): string =>
    [true, false]
      .map((isLarge) =>
        fewest(
          own.filter(({ order }) => order.length >= 6 === isLarge),
          by,
        ),
      )
      .join(', smaller ');
  console.log(`  fewest that looking alone allows: six or more ${bySize('looking')}`);
  console.log(`  fewest that anything allows: six or more ${bySize('anyhow')}`);
}

const demo = readHouseFile(readFileSync(new URL('../demo/lot-12.house.json', import.meta.url), 'utf8'));
if (!demo.ok) throw new Error(demo.problems[0]!.message);
const circuitsOf = (file: HouseFile): Circuit[] => {
  const reader = readerOf(houseOf(file));
  return file.circuits.flatMap(({ id }) => circuitOf(reader, id) ?? []);
};
const inDemo = circuitsOf(demo.file);
const inRandom = fc.sample(randomSwitching(4), { numRuns: 60, seed }).flatMap(circuitsOf);
measure('demo', inDemo, faults / 2);
measure('random', inRandom, faults / 2);
noisy('demo', inDemo, Math.ceil(faults / 10), 0.1);
noisy('random', inRandom, Math.ceil(faults / 10), 0.1);
const small = [...fc.sample(randomSwitching(2), { numRuns: 80, seed }).flatMap(circuitsOf)].flatMap((one) =>
  one.order.length <= 4 && one.shown.length ? (expectimax(one) ?? []) : [],
);
const ratio = small.reduce((sum, { ours }) => sum + ours, 0) / small.reduce((sum, { best }) => sum + best, 0);
console.log(
  `against every way to the end (${small.length} circuits of four boxes or fewer): minutes × ${ratio.toFixed(2)}`,
);
