import type { HouseReader } from '../derive/reader.js';
import { roomLayout } from '../plan/room-layout.js';
import { wallNumber } from '../plan/wall-number.js';
import type { Spot } from './attached.js';
import { cutOf } from './cut.js';
import { framingGraph } from './framing-graph.js';
import { holesOfRun } from './holes.js';

/** A stretch of a run in a wall, as one sees it standing in a room: from the right corner, over the floor. Inches. */
export interface WallWay {
  readonly runId: string;
  readonly roomId: string;
  readonly corner: string;
  readonly from: { readonly fromCornerIn: number; readonly heightIn: number };
  readonly to: { readonly fromCornerIn: number; readonly heightIn: number };
}

/** A stretch, and how often it goes through wood there; how often so near to its edge that a plate covers it (300.4(A)(1)). */
export interface WallStretch extends WallWay {
  /** Number of its wall on the way round the room, from 1. */
  readonly number: number;
  readonly holes: number;
  readonly plated: number;
}

/** The stretches of a run in walls, in the order of its way: one in a wall between two rooms is seen from both. */
export function stretchesOf(reader: HouseReader, runId: string): WallStretch[] {
  const graph = framingGraph(reader);
  const { way } = cutOf(reader, { id: runId });
  // A hole where two stretches meet is one of the first.
  const unseen = new Set(holesOfRun(reader, runId));
  return way.segments.flatMap(({ wall, from, to }) => {
    if (wall === undefined) return [];
    const { framed, storey } = graph.walls[wall]!;
    const { left, right, a } = framed.wall;
    const along = ({ xIn, yIn }: Spot): number => Math.hypot(xIn - a.xIn, yIn - a.yIn);
    const within = (spot: Spot): boolean =>
      [
        [along(spot), along(from), along(to)],
        [spot.zIn, from.zIn, to.zIn],
      ].every(([at, one, other]) => at! > Math.min(one!, other!) - 3 && at! < Math.max(one!, other!) + 3);
    const crossed = [...unseen].filter(({ at }) => at.wall === wall && within(at.spot));
    crossed.forEach((hole) => unseen.delete(hole));
    return [left, right].flatMap((face): WallStretch[] => {
      const seenBy = face && roomLayout(reader, face.roomId);
      const own = seenBy?.walls.find(({ corner }) => corner === face!.corner);
      if (!face || !own) return [];
      const { startIn } = own;
      const seen = (spot: Spot): WallWay['from'] => ({
        fromCornerIn: (face === left ? face.fromIn + along(spot) : face.toIn - along(spot)) - startIn,
        heightIn: spot.zIn - storey.floorIn,
      });
      return [
        {
          runId,
          roomId: face.roomId,
          corner: face.corner,
          number: wallNumber(seenBy!.room, face.corner) ?? 0,
          from: seen(from),
          to: seen(to),
          holes: crossed.length,
          plated: crossed.filter(({ needsPlate }) => needsPlate).length,
        },
      ];
    });
  });
}

export interface RunStretches {
  readonly runId: string;
  readonly stretches: readonly WallStretch[];
}

/** {@link stretchesOf} with the run that it is about. */
export const runStretches = (reader: HouseReader, runId: string): RunStretches => ({
  runId,
  stretches: stretchesOf(reader, runId),
});
