import type { Place } from '../plan/outline.js';
import { crosses } from '../plan/outline.js';

/** A beam that lies in a ceiling, and whether it may be bored. */
export interface BeamAcross {
  readonly a: Place;
  readonly b: Place;
  readonly boring?: string;
}

/** What holds a ceiling or floor, seen from above, with the spaces between its joists. Inches. */
export interface CeilingPlane {
  readonly key: string;
  readonly kind: 'attic' | 'floor' | 'basement' | 'crawl-space' | 'roof';
  /** The story whose ceiling it is, or, under the lowest one, whose floor. */
  readonly storeyId: string;
  /** Where cable runs in it, over the floor of the lowest story. */
  readonly heightIn: number;
  /** Which way its joists run. */
  readonly along: 'x' | 'y';
  /** How cable crosses them: through holes, between the webs of trusses, over them, or not at all. */
  readonly crossing: 'bored' | 'webs' | 'over' | 'none';
  readonly beams: readonly BeamAcross[];
  /** Size of a cell: the space between two joists, or, of very large houses, between several. */
  readonly cellIn: number;
  readonly joistsIn: number;
  readonly xIn: number;
  readonly yIn: number;
  readonly columns: number;
  readonly rows: number;
  /** For each cell, row by row, the number of its node from the first node of the plane; -1 where nothing is under or over it. */
  readonly nodeAt: Int32Array;
  readonly nodes: number;
}

/** Cells of a plane at most: larger houses are looked at in larger cells. */
const MOST_CELLS = 6000;

type PlaneFacts = Omit<CeilingPlane, 'cellIn' | 'xIn' | 'yIn' | 'columns' | 'rows' | 'nodeAt' | 'nodes'>;

/** A plane over (or under) rooms, by their outlines; undefined where there are none. */
export function planeOver(
  outlines: readonly (readonly Place[])[],
  facts: PlaneFacts,
): CeilingPlane | undefined {
  const corners = outlines.flat();
  if (corners.length === 0) return undefined;
  const [left, right, low, high] = [
    Math.min(...corners.map(({ xIn }) => xIn)),
    Math.max(...corners.map(({ xIn }) => xIn)),
    Math.min(...corners.map(({ yIn }) => yIn)),
    Math.max(...corners.map(({ yIn }) => yIn)),
  ];
  const [wide, deep] = [right - left, high - low];
  const times = Math.ceil(Math.sqrt((wide * deep) / MOST_CELLS) / facts.joistsIn);
  const cellIn = facts.joistsIn * Math.max(1, times);
  const [columns, rows] = [Math.max(1, Math.ceil(wide / cellIn)), Math.max(1, Math.ceil(deep / cellIn))];
  const nodeAt = new Int32Array(columns * rows).fill(-1);
  let nodes = 0;
  const covered = new Uint8Array(columns);
  for (let row = 0; row < rows; row++) {
    // The middle of the last cell may lie beyond the house.
    const y = Math.min(low + (row + 0.5) * cellIn, high - 0.01);
    covered.fill(0);
    for (const ring of outlines) {
      const cuts: number[] = [];
      ring.forEach((a, at) => {
        const b = ring[(at + 1) % ring.length]!;
        if (a.yIn > y !== b.yIn > y) cuts.push(a.xIn + ((y - a.yIn) / (b.yIn - a.yIn)) * (b.xIn - a.xIn));
      });
      cuts.sort((a, b) => a - b);
      for (let at = 0; at + 1 < cuts.length; at += 2) {
        const from = Math.max(0, Math.ceil((cuts[at]! - left) / cellIn - 0.5 - 1e-9));
        const to = Math.min(columns - 1, Math.floor((cuts[at + 1]! - left) / cellIn - 0.5 + 1e-9));
        covered.fill(1, from, to + 1);
        // A last column of which the middle lies beyond the house.
        if (cuts[at + 1]! > right - 0.01) covered[columns - 1] = 1;
      }
    }
    for (let column = 0; column < columns; column++)
      if (covered[column]) nodeAt[row * columns + column] = nodes++;
  }
  return { ...facts, cellIn, xIn: left, yIn: low, columns, rows, nodeAt, nodes };
}

/** The middle of a cell. */
export const cellMiddle = ({ xIn, yIn, cellIn }: CeilingPlane, column: number, row: number): Place => ({
  xIn: xIn + (column + 0.5) * cellIn,
  yIn: yIn + (row + 0.5) * cellIn,
});

/** Cells that one looks at, from a place outwards, until one is found. */
const NEAR: readonly (readonly [number, number])[] = [
  [0, 0],
  [1, 0],
  [-1, 0],
  [0, 1],
  [0, -1],
  [1, 1],
  [1, -1],
  [-1, 1],
  [-1, -1],
];

/**
 * The node (from the first of the plane) of the cell at a place, or of one right beside it, on the same side of every beam; undefined
 * where there is none.
 */
export function nodeNear(plane: CeilingPlane, { xIn, yIn }: Place): number | undefined {
  const column = Math.floor((xIn - plane.xIn) / plane.cellIn);
  const row = Math.floor((yIn - plane.yIn) / plane.cellIn);
  // Rather along a joist than across it.
  for (const [one, other] of NEAR) {
    const [c, r] = plane.along === 'x' ? [column + one, row + other] : [column + other, row + one];
    if (c < 0 || r < 0 || c >= plane.columns || r >= plane.rows) continue;
    const node = plane.nodeAt[r * plane.columns + c]!;
    const middle = cellMiddle(plane, c, r);
    const isNear = Math.abs(middle.xIn - xIn) <= plane.cellIn && Math.abs(middle.yIn - yIn) <= plane.cellIn;
    if (node >= 0 && isNear && beamBetween(plane, { xIn, yIn }, middle) !== 'blocked') return node;
  }
  return undefined;
}

/** Whether a beam that may not be bored lies between two places of a plane, and whether one does that may. */
export function beamBetween({ beams }: CeilingPlane, a: Place, b: Place): 'none' | 'bored' | 'blocked' {
  const met = beams.filter((beam) => crosses(a, b, beam.a, beam.b));
  if (met.some(({ boring }) => boring === undefined)) return 'blocked';
  return met.length ? 'bored' : 'none';
}

/** Where joists stand between two coordinates across them: their numbers from the edge of the plane. */
export function joistsBetween(plane: CeilingPlane, fromIn: number, toIn: number): readonly number[] {
  const origin = plane.along === 'x' ? plane.yIn : plane.xIn;
  const [low, high] = [Math.min(fromIn, toIn) - origin, Math.max(fromIn, toIn) - origin];
  const numbers: number[] = [];
  for (let at = Math.floor(low / plane.joistsIn + 1e-9) + 1; at * plane.joistsIn < high - 1e-6; at++)
    numbers.push(at);
  return fromIn <= toIn ? numbers : numbers.reverse();
}
