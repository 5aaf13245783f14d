import type { Outline } from './outline.js';
import { distance, inset } from './outline.js';

/** A doorway or other gap, along the wall that begins at a corner, in inches along its center line. */
export interface Gap {
  readonly corner: string;
  readonly alongIn: number;
  readonly widthIn: number;
}
/** A place on a wall. */
export interface OnWall {
  readonly corner: string;
  readonly alongIn: number;
}
/** A stretch of wall without a gap, round corners, on the face that the room sees. */
export interface WallRun {
  readonly lengthIn: number;
  /** The place so far along it. */
  at(inches: number): OnWall;
}

/** Less than this is no wall space that asks for a receptacle: NEC 210.52(A)(2), from memory. */
const LEAST_IN = 24;

interface Piece {
  readonly corner: string;
  /** Where the piece begins on the center line of its wall, and how long it is. */
  readonly fromIn: number;
  readonly lengthIn: number;
}

/** The face that a room sees of the wall that begins at a corner. */
export interface WallOfRoom {
  readonly corner: string;
  /** Where the face begins, in inches along the center line from the corner. */
  readonly startIn: number;
  readonly lengthIn: number;
}

/** The walls of a room as it sees them, in their order round it. `depthIn` is the depth of the walls. */
export function wallsOfRoom(outline: Outline, depthIn: number): WallOfRoom[] {
  const face = inset(outline, () => depthIn / 2) ?? outline;
  return outline.map((a, at) => {
    const b = outline[(at + 1) % outline.length]!;
    const [from, to] = [face[at]!, face[(at + 1) % outline.length]!];
    const length = distance(a, b);
    const [dx, dy] = [(b.xIn - a.xIn) / length, (b.yIn - a.yIn) / length];
    return {
      corner: a.id,
      startIn: (from.xIn - a.xIn) * dx + (from.yIn - a.yIn) * dy,
      lengthIn: distance(from, to),
    };
  });
}

/**
 * The unbroken wall space of a room, measured on the faces of its walls and round its corners: doorways cut it, windows do
 * not (NEC 210.52(A)(2), from memory). `depthIn` is the depth of the walls.
 */
export function wallRuns(outline: Outline, gaps: readonly Gap[], depthIn: number): WallRun[] {
  const pieces: (Piece | undefined)[] = [];
  for (const { corner: own, startIn: start, lengthIn } of wallsOfRoom(outline, depthIn)) {
    const end = start + lengthIn;
    const cuts = gaps
      .filter(({ corner }) => corner === own)
      .map(({ alongIn, widthIn }) => [Math.max(start, alongIn), Math.min(end, alongIn + widthIn)] as const)
      .filter(([one, other]) => other > one)
      .sort((one, other) => one[0] - other[0]);
    let here = start;
    for (const [one, other] of cuts) {
      if (one > here) pieces.push({ corner: own, fromIn: here, lengthIn: one - here });
      // Undefined stands for a gap.
      pieces.push(undefined);
      here = Math.max(here, other);
    }
    if (end > here) pieces.push({ corner: own, fromIn: here, lengthIn: end - here });
  }
  const firstGap = pieces.indexOf(undefined);
  const round = firstGap < 0 ? pieces : [...pieces.slice(firstGap + 1), ...pieces.slice(0, firstGap)];
  const runs: Piece[][] = [[]];
  for (const piece of round)
    if (piece) runs.at(-1)!.push(piece);
    else runs.push([]);
  return runs.filter((run) => run.length > 0).map(runOf);
}

function runOf(pieces: readonly Piece[]): WallRun {
  const lengthIn = pieces.reduce((sum, piece) => sum + piece.lengthIn, 0);
  return {
    lengthIn,
    at: (inches) => {
      let left = Math.min(lengthIn, Math.max(0, inches));
      const piece = pieces.find((one, at) => {
        if (left <= one.lengthIn || at === pieces.length - 1) return true;
        left -= one.lengthIn;
        return false;
      })!;
      return { corner: piece.corner, alongIn: piece.fromIn + left };
    },
  };
}

/**
 * Where receptacles go so that no point along the floor line of a wall is more than `reachIn` from one (NEC 210.52(A)(1): 6 ft,
 * from memory): as few as that takes, spread evenly over each run.
 */
export function receptaclePlaces(runs: readonly WallRun[], reachIn = 72): OnWall[] {
  return runs
    .filter(({ lengthIn }) => lengthIn >= LEAST_IN)
    .flatMap((run) => {
      const many = Math.max(1, Math.ceil(run.lengthIn / (2 * reachIn) - 1e-9));
      return Array.from({ length: many }, (_none, index) => run.at((run.lengthIn * (index + 0.5)) / many));
    });
}
