import type { HouseReader } from '../derive/reader.js';
import { boxesOf, farBox, runsAt } from '../facts/box-facts.js';
import type { Run } from '../house/model.js';
import type { Place } from '../plan/outline.js';
import type { Steps } from '../structures/steps.js';
import type { Spot } from './attached.js';
import type { Cut } from './cut.js';
import { cutOf } from './cut.js';
import type { Hole } from './holes.js';
import { holesOfRun } from './holes.js';
import type { Staples } from './securing.js';
import { cableOnWay, lightestCable } from './run-cable.js';
import { staplesOf } from './securing.js';
import { standingOf } from './standing.js';
import { storeyStack } from './storey-stack.js';
import { wayBetween, wayOfRun } from './way.js';

/** A run with its way, its length to cut, and what is bored and nailed for it. */
export interface RoutedRun {
  readonly runId: string;
  /** Its way, measured length or estimate, and the parts that add up to what is cut. */
  readonly cut: Cut;
  /** Its way as one line, from its first box to the other; empty where it is not known. */
  readonly points: readonly Spot[];
  /** Where it turns. NM is bent no closer than five times its width (334.24, from memory). */
  readonly bends: number;
  readonly holes: readonly Hole[];
  /** Nail plates over its holes: one for each, shared where the hole is. */
  readonly plates: number;
  readonly staples: Staples;
  /** The most cables that share a hole with it, itself counted. */
  readonly bundled: number;
}

/** The line of a way: where it begins, and the end of each of its stretches. */
export const pointsOf = ({ way }: Pick<Cut, 'way'>): readonly Spot[] => {
  const [first] = way.segments;
  return first ? [first.from, ...way.segments.map(({ to }) => to)] : [];
};

const bendsOf = (points: readonly Spot[]): number =>
  points.slice(2).filter((to, at) => {
    const [from, over] = [points[at]!, points[at + 1]!];
    const direction = (a: Spot, b: Spot): readonly number[] => {
      const parts = [b.xIn - a.xIn, b.yIn - a.yIn, b.zIn - a.zIn];
      const length = Math.hypot(...parts) || 1;
      return parts.map((part) => part / length);
    };
    const [one, other] = [direction(from, over), direction(over, to)];
    return one.reduce((sum, part, axis) => sum + part * other[axis]!, 0) < 0.999;
  }).length;

/** What is known of a run once its way is: routed as if it were alone, its holes shared with others afterwards. */
export function routeRun(reader: HouseReader, run: Run): RoutedRun {
  const cut = cutOf(reader, run);
  const points = pointsOf(cut);
  const holes = run.kind === 'cable' ? holesOfRun(reader, run.id) : [];
  const [from, to] = boxesOf(run);
  return {
    runId: run.id,
    cut,
    points,
    bends: bendsOf(points),
    holes,
    plates: holes.filter(({ needsPlate }) => needsPlate).length,
    staples: staplesOf(reader, cut.way, from, to),
    bundled: Math.max(0, ...holes.map(({ runIds }) => runIds.length)),
  };
}

/** Cable over a ceiling or under a floor, by so much, is drawn on the plan of the story too. Inches. */
const NEAR_STOREY_IN = 12.5;

/**
 * What of a line lies in a story, as it is drawn on its plan: the joists over it and under it are of it. One line for each time that
 * it comes into the story; upright stretches are points of it.
 */
export function lineOnStorey(
  reader: HouseReader,
  points: readonly Spot[],
  storeyId: string,
): readonly (readonly Place[])[] {
  const storey = storeyStack(reader).find(({ id }) => id === storeyId);
  if (!storey) return [];
  const [low, high] = [storey.floorIn - NEAR_STOREY_IN, storey.floorIn + storey.ceilingIn + NEAR_STOREY_IN];
  const isIn = ({ zIn }: Spot): boolean => zIn >= low && zIn <= high;
  const lines: Place[][] = [];
  let isOpen = false;
  points.forEach((point) => {
    if (!isIn(point)) {
      isOpen = false;
      return;
    }
    if (!isOpen) lines.push([]);
    isOpen = true;
    const line = lines.at(-1)!;
    const last = line.at(-1);
    if (!last || Math.hypot(last.xIn - point.xIn, last.yIn - point.yIn) > 0.05)
      line.push({ xIn: point.xIn, yIn: point.yIn });
  });
  return lines.filter((line) => line.length > 1);
}

/** The way between two boxes as it is drawn on the plan of a story: of the run that joins them, or as one would go. */
export function wayOnPlan(
  reader: HouseReader,
  fromId: string,
  toId: string,
  storeyId: string,
): readonly (readonly Place[])[] {
  const run = runsAt(reader, fromId).find((one) => farBox(one, fromId) === toId);
  const way = run
    ? wayOfRun(reader, run.id, cableOnWay(reader, run.id))
    : wayBetween(reader, fromId, toId, lightestCable(reader));
  return lineOnStorey(reader, pointsOf({ way }), storeyId);
}

/** The way of a run as it is drawn on the plan of a story, and what is cut for it. */
export interface DrawnWay {
  readonly runId: string;
  readonly lines: readonly (readonly Place[])[];
  readonly lengthIn: number;
  readonly source: Cut['source'];
}

/** The ways of all runs that come into a story. */
export function* waysOnStorey(reader: HouseReader, storeyId: string): Steps<readonly DrawnWay[]> {
  const drawn: DrawnWay[] = [];
  for (const run of reader.all('runs')) {
    const { id } = run;
    const cut = cutOf(reader, run);
    // What only passes through the joists over a story is drawn where its boxes stand.
    const isOfStorey =
      boxesOf(run).some((boxId) => standingOf(reader, boxId).storeyId === storeyId) ||
      cut.way.segments.some((segment) => segment.wall !== undefined && segment.storeyId === storeyId);
    const lines = isOfStorey ? lineOnStorey(reader, pointsOf(cut), storeyId) : [];
    if (lines.length) drawn.push({ runId: id, lines, lengthIn: cut.lengthIn, source: cut.source });
    yield;
  }
  return drawn;
}
