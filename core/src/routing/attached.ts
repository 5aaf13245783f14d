import type { Place } from '../plan/outline.js';
import { nodeNear } from './ceiling-plane.js';
import type { FramingGraph, GraphWall } from './framing-graph.js';
import { alongWall, faceKey } from './framing-graph.js';
import type { Entry } from './search.js';
import type { Standing } from './standing.js';
import { isOneSide, metInBay } from './wall-bays.js';

/** A point in the house: x and y on the plan, z over the floor of its lowest story. Inches. */
export interface Spot extends Place {
  readonly zIn: number;
}

/** Where a box meets the framing. */
export interface Attached {
  readonly spot: Spot;
  readonly entries: readonly Entry[];
  /** In a wall: which, in which bay, how far along it. */
  readonly wall?: number;
  readonly bay?: number;
  readonly alongIn?: number;
  /** In a ceiling or floor: which. */
  readonly plane?: number;
}

/** Why a box meets no framing: it has no place, its wall is not there, or nothing is under or over it that cable goes through. */
export type Unattached = 'no-place' | 'no-wall' | 'no-space';

/** A box may stand so far beyond the end of its wall and still be taken for standing at its end. Inches. */
const BEYOND_IN = 6;

/** Which bay of a wall is at a place along it: the last one at its end. */
export const bayAt = ({ bays }: GraphWall, alongIn: number): number => {
  const at = bays.findIndex(({ toIn }) => alongIn < toIn);
  return at < 0 ? bays.length - 1 : at;
};

function inWall(
  graph: FramingGraph,
  wallIndex: number,
  alongIn: number,
  heightIn: number,
  headerIn: number,
): Attached | undefined {
  const wall = graph.walls[wallIndex]!;
  const levels = wall.levelsIn.length;
  // Higher than its ceiling nothing stands in a wall.
  if (heightIn > wall.storey.ceilingIn || heightIn < 0) return undefined;
  const spot: Spot = {
    ...alongWall(wall.framed.wall, alongIn),
    zIn: wall.storey.floorIn + heightIn,
  };
  const entriesIn = (bay: number, besideIn: number): Entry[] => {
    const inBay = wall.bays[bay]!;
    return wall.levelsIn.flatMap((levelIn, level): Entry[] => {
      const node = wall.nodeAt[bay * levels + level]!;
      if (node < 0) return [];
      // Not through the opening: a box over a door is not reached from below it.
      if (!isOneSide(inBay, heightIn, levelIn)) return [];
      return [{ node, lengthIn: besideIn + Math.abs(levelIn - heightIn), times: 1 }];
    });
  };
  const own = bayAt(wall, alongIn);
  const isFree = metInBay(wall.bays[own]!, heightIn, headerIn) !== 'open';
  const entries = isFree ? entriesIn(own, 0) : [];
  if (entries.length) return { spot, entries, wall: wallIndex, bay: own, alongIn };
  // In an opening, or between it and a plate: from the nearest bay beside it, but not through another one.
  const isInWay = (bay: number): boolean => {
    const { fromIn, toIn } = wall.bays[bay]!;
    const [low, high] = fromIn > alongIn ? [alongIn, fromIn] : [toIn, alongIn];
    return wall.framed.openings.some(
      (one) => one.fromIn < high && one.toIn > low && (alongIn <= one.fromIn || alongIn >= one.toIn),
    );
  };
  const near = wall.bays
    .map(({ fromIn, toIn }, bay) => ({
      bay,
      besideIn: Math.max(0, fromIn - alongIn, alongIn - toIn),
      entries:
        bay === own || isInWay(bay) ? [] : entriesIn(bay, Math.max(0, fromIn - alongIn, alongIn - toIn)),
    }))
    .filter((one) => one.entries.length > 0)
    .sort((a, b) => a.besideIn - b.besideIn || a.bay - b.bay)[0];
  return near && { spot, entries: near.entries, wall: wallIndex, bay: near.bay, alongIn };
}

/** Where a box meets the framing, or why it does not. `headerIn`: height of headers. */
export function attachedAt(graph: FramingGraph, standing: Standing, headerIn: number): Attached | Unattached {
  const { roomId, corner, alongIn, xIn, yIn, heightIn, isOverhead } = standing;
  if (roomId === undefined || !graph.drawn.has(roomId)) return 'no-place';
  if (corner !== undefined && alongIn !== undefined) {
    const on = (graph.faces.get(faceKey(roomId, corner)) ?? [])
      .map((face) => ({ face, beyondIn: Math.max(0, face.fromIn - alongIn, alongIn - face.toIn) }))
      .sort((a, b) => a.beyondIn - b.beyondIn)[0];
    if (!on || on.beyondIn > BEYOND_IN) return 'no-wall';
    const { wall, side, fromIn } = on.face;
    const { lengthIn } = graph.walls[wall]!.framed.wall;
    const past = Math.min(lengthIn, Math.max(0, alongIn - fromIn));
    return (
      inWall(graph, wall, side === 'left' ? past : lengthIn - past, heightIn ?? 0, headerIn) ?? 'no-space'
    );
  }
  if (xIn === undefined || yIn === undefined) return 'no-place';
  const storey = graph.stack.find(({ id }) => id === standing.storeyId);
  if (!storey) return 'no-place';
  const isAbove = isOverhead || (heightIn ?? 0) > storey.ceilingIn - 12;
  const plane = (isAbove ? graph.over : graph.under).get(roomId);
  if (plane === undefined) return 'no-space';
  const cell = nodeNear(graph.planes[plane]!, { xIn, yIn });
  if (cell === undefined) return 'no-space';
  const zIn = storey.floorIn + (isOverhead ? storey.ceilingIn : (heightIn ?? 0));
  return {
    spot: { xIn, yIn, zIn },
    entries: [
      {
        node: graph.planeFirst[plane]! + cell,
        lengthIn: Math.abs(graph.planes[plane]!.heightIn - zIn),
        times: 1,
      },
    ],
    plane,
  };
}
