import type { FaceIn, Outline } from './outline.js';
import { clearOf, distance } from './outline.js';

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
  /** It goes all the way round the room, without a gap. */
  readonly isLoop: boolean;
  /** The place so far along it. */
  at(inches: number): OnWall;
  /** How far along it a place is; undefined where it is on another run. */
  offsetOf(place: OnWall): number | undefined;
  /** The walls from one offset to another. */
  between(fromIn: number, toIn: number): OnWallSpan[];
}
/** A stretch of one wall. */
export interface OnWallSpan {
  readonly corner: string;
  readonly fromIn: number;
  readonly toIn: number;
}

/** So near to the end of a run a box still stands on it, in inches. */
const NEAR_IN = 4;

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

/** The walls of a room as it sees them, in their order round it. */
export function wallsOfRoom(outline: Outline, faceIn: FaceIn): WallOfRoom[] {
  const face = clearOf(outline, faceIn) ?? outline;
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
 * not (NEC 210.52(A)(2), from memory).
 */
export function wallRuns(outline: Outline, gaps: readonly Gap[], faceIn: FaceIn): WallRun[] {
  const pieces: (Piece | undefined)[] = [];
  for (const { corner: own, startIn: start, lengthIn } of wallsOfRoom(outline, faceIn)) {
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
  return runs.filter((run) => run.length > 0).map((run) => runOf(run, firstGap < 0));
}

function runOf(pieces: readonly Piece[], isLoop: boolean): WallRun {
  const lengthIn = pieces.reduce((sum, piece) => sum + piece.lengthIn, 0);
  const starts: number[] = [];
  pieces.reduce((sum, piece) => (starts.push(sum), sum + piece.lengthIn), 0);
  return {
    lengthIn,
    isLoop,
    offsetOf: ({ corner, alongIn }) => {
      // A box that stands a little beyond the face is at its end.
      const at = pieces.findIndex(
        (piece) =>
          piece.corner === corner &&
          alongIn >= piece.fromIn - NEAR_IN &&
          alongIn <= piece.fromIn + piece.lengthIn + NEAR_IN,
      );
      const piece = pieces[at];
      return piece && starts[at]! + Math.min(piece.lengthIn, Math.max(0, alongIn - piece.fromIn));
    },
    between: (fromIn, toIn) =>
      pieces.flatMap((piece, at): OnWallSpan[] => {
        const [from, to] = [Math.max(fromIn, starts[at]!), Math.min(toIn, starts[at]! + piece.lengthIn)];
        return to - from > 1e-6
          ? [
              {
                corner: piece.corner,
                fromIn: piece.fromIn + from - starts[at]!,
                toIn: piece.fromIn + to - starts[at]!,
              },
            ]
          : [];
      }),
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
  return runs.flatMap((run) => {
    const many = Math.max(1, Math.ceil(run.lengthIn / (2 * reachIn) - 1e-9));
    return Array.from({ length: many }, (_none, index) => run.at((run.lengthIn * (index + 0.5)) / many));
  });
}

/** Stretches of a run that are farther than `reachIn` from every one of these offsets along it. */
export function farFrom(
  run: WallRun,
  offsets: readonly number[],
  reachIn = 72,
): (readonly [fromIn: number, toIn: number])[] {
  const { lengthIn, isLoop } = run;
  const around = isLoop ? offsets.flatMap((at) => [at - lengthIn, at, at + lengthIn]) : offsets;
  const far: (readonly [number, number])[] = [];
  let covered = 0;
  for (const at of around.toSorted((a, b) => a - b)) {
    const from = at - reachIn;
    if (from > covered + 1e-6 && covered < lengthIn) far.push([covered, Math.min(from, lengthIn)]);
    covered = Math.max(covered, at + reachIn);
  }
  if (covered < lengthIn - 1e-6) far.push([covered, lengthIn]);
  return far;
}
