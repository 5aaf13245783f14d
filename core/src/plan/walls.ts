import RBush from 'rbush';
import type { Outline, Place } from './outline.js';
import { SNAP_IN, counterClockwise, distance } from './outline.js';

/** A room on the plan of a story. */
export interface PlanRoom {
  readonly id: string;
  /** Center lines of its walls. */
  readonly outline: Outline;
}

/** Part of a wall of a room's outline that runs along a wall of the story. */
export interface WallFace {
  readonly roomId: string;
  /** The corner at which the wall of the outline begins. */
  readonly corner: string;
  /** From where to where it runs along that wall, in inches from the corner. */
  readonly fromIn: number;
  readonly toIn: number;
}

/** A wall of a story from corner or joint to corner or joint: all along it the same rooms lie on its two sides. */
export interface Wall {
  readonly a: Place;
  readonly b: Place;
  readonly lengthIn: number;
  /** To the left and to the right on the way from a to b; outside where there is none. */
  readonly left?: WallFace;
  readonly right?: WallFace;
}

export interface StoreyWalls {
  readonly walls: readonly Wall[];
  /** Outlines with their corners brought together, and with a corner where a wall of another room meets theirs. */
  readonly rings: ReadonlyMap<string, readonly Place[]>;
  /** Rooms that lie over one another: both have a wall on the same side. */
  readonly overlaps: readonly (readonly [string, string])[];
}

/** A vertex is searched by the place where it stands. */
interface Vertex extends Place {
  readonly index: number;
}
class Vertices extends RBush<Vertex> {
  override toBBox({ xIn, yIn }: Vertex) {
    return { minX: xIn, minY: yIn, maxX: xIn, maxY: yIn };
  }
  override compareMinX(a: Vertex, b: Vertex): number {
    return a.xIn - b.xIn;
  }
  override compareMinY(a: Vertex, b: Vertex): number {
    return a.yIn - b.yIn;
  }
}
/** Two corners that each move by the snap at most to meet. */
const REACH = 2 * SNAP_IN;

const around = (a: Place, b: Place, by: number) => ({
  minX: Math.min(a.xIn, b.xIn) - by,
  minY: Math.min(a.yIn, b.yIn) - by,
  maxX: Math.max(a.xIn, b.xIn) + by,
  maxY: Math.max(a.yIn, b.yIn) + by,
});

/** Corners of all rooms brought together where they nearly meet: each stands in the middle of those that meet. */
function broughtTogether(corners: readonly Place[]): { vertices: Vertex[]; of: number[] } {
  const tree = new Vertices();
  tree.load(corners.map(({ xIn, yIn }, index) => ({ xIn, yIn, index })));
  const of = corners.map(() => -1);
  const vertices: Vertex[] = [];
  corners.forEach((_corner, at) => {
    if (of[at] !== -1) return;
    // Corners that one can go to from this one in steps no longer than the reach.
    const met = [at];
    of[at] = vertices.length;
    for (let next = 0; next < met.length; next++) {
      const from = corners[met[next]!]!;
      for (const { index } of tree.search(around(from, from, REACH)))
        if (of[index] === -1 && distance(corners[index]!, from) <= REACH) {
          of[index] = vertices.length;
          met.push(index);
        }
    }
    const mean = (field: 'xIn' | 'yIn'): number =>
      met.reduce((sum, index) => sum + corners[index]![field], 0) / met.length;
    vertices.push({ xIn: mean('xIn'), yIn: mean('yIn'), index: vertices.length });
  });
  return { vertices, of };
}

/** How far along the way from a to b a place lies, and how far beside it. */
function along(a: Place, b: Place, place: Place): { alongIn: number; besideIn: number } {
  const length = distance(a, b);
  const [dx, dy] = [(b.xIn - a.xIn) / length, (b.yIn - a.yIn) / length];
  const [x, y] = [place.xIn - a.xIn, place.yIn - a.yIn];
  return { alongIn: x * dx + y * dy, besideIn: Math.abs(x * dy - y * dx) };
}

/** One stretch between two vertices, and the faces on its sides on the way from the lower to the higher. */
interface Stretch {
  readonly low: number;
  readonly high: number;
  left?: WallFace;
  right?: WallFace;
}

/**
 * The walls of a story from the outlines of its rooms: what two rooms share is one wall, split where a third one meets it and
 * at corners. Corners that nearly meet are brought together first. Any simple polygons; rooms that lie over one another are
 * told of, and their walls are given all the same.
 */
export function wallsOf(rooms: readonly PlanRoom[]): StoreyWalls {
  const outlines = rooms.map(({ outline }) => counterClockwise(outline));
  const { vertices, of } = broughtTogether(outlines.flat());
  const tree = new Vertices();
  tree.load([...vertices]);
  const stretches = new Map<string, Stretch>();
  const overlaps: (readonly [string, string])[] = [];
  const rings = new Map<string, Place[]>();
  let first = 0;
  rooms.forEach(({ id: roomId }, at) => {
    const outline = outlines[at]!;
    const ring: Place[] = [];
    outline.forEach((corner, index) => {
      const [from, to] = [of[first + index]!, of[first + ((index + 1) % outline.length)]!];
      if (from === to) return;
      const [a, b] = [vertices[from]!, vertices[to]!];
      const length = distance(a, b);
      const met = tree
        .search(around(a, b, REACH))
        .map((vertex) => ({ vertex, ...along(a, b, vertex) }))
        .filter(
          ({ vertex, alongIn, besideIn }) =>
            vertex.index !== from &&
            vertex.index !== to &&
            besideIn <= REACH &&
            // What is within reach of an end has been brought together with it; what has not, and lies more along the wall than
            // beside it, meets the wall.
            alongIn > besideIn &&
            length - alongIn > besideIn,
        )
        .sort((one, other) => one.alongIn - other.alongIn);
      const ends = [
        { index: from, alongIn: 0 },
        ...met.map(({ vertex, alongIn }) => ({ index: vertex.index, alongIn })),
        { index: to, alongIn: length },
      ];
      for (let part = 0; part + 1 < ends.length; part++) {
        const [start, end] = [ends[part]!, ends[part + 1]!];
        ring.push(vertices[start.index]!);
        const isUp = start.index < end.index;
        const [low, high] = isUp ? [start.index, end.index] : [end.index, start.index];
        const key = `${low} ${high}`;
        const stretch = stretches.get(key) ?? { low, high };
        stretches.set(key, stretch);
        const face: WallFace = {
          roomId,
          corner: corner.id,
          fromIn: start.alongIn,
          toIn: end.alongIn,
        };
        // Counter-clockwise, a room lies to the left of its walls.
        const which = isUp ? 'left' : 'right';
        const other = stretch[which];
        if (other) overlaps.push([other.roomId, roomId]);
        else stretch[which] = face;
      }
    });
    rings.set(roomId, ring);
    first += outline.length;
  });
  return { walls: joined([...stretches.values()], vertices), rings, overlaps };
}

const facesSame = (one: WallFace | undefined, other: WallFace | undefined): boolean =>
  one?.roomId === other?.roomId && one?.corner === other?.corner;

/** Stretches in one line with the same walls of rooms on both sides, one after another, are one wall. */
function joined(stretches: readonly Stretch[], vertices: readonly Vertex[]): Wall[] {
  const at = new Map<number, Stretch[]>();
  for (const stretch of stretches)
    for (const end of [stretch.low, stretch.high]) at.set(end, [...(at.get(end) ?? []), stretch]);
  const done = new Set<Stretch>();
  const facing = ({ low, left, right }: Stretch, from: number) =>
    low === from ? { left, right } : { left: right, right: left };
  const far = ({ low, high }: Stretch, from: number): number => (low === from ? high : low);
  /** The stretch that goes on from an end in the same line, between the same walls. */
  const onward = (stretch: Stretch, end: number): Stretch | undefined => {
    const others = at.get(end)!.filter((other) => other !== stretch);
    const [next] = others;
    if (others.length !== 1 || !next || done.has(next)) return undefined;
    const from = far(stretch, end);
    const [now, then] = [facing(stretch, from), facing(next, end)];
    return facesSame(now.left, then.left) && facesSame(now.right, then.right) ? next : undefined;
  };
  return stretches.flatMap((stretch): Wall[] => {
    if (done.has(stretch)) return [];
    done.add(stretch);
    let [start, end] = [stretch.low, stretch.high];
    const parts = [stretch];
    for (let next = onward(stretch, end), last = stretch; next;) {
      done.add(next);
      parts.push(next);
      end = far(next, end);
      last = next;
      next = onward(last, end);
    }
    for (let next = onward(stretch, start), last = stretch; next;) {
      done.add(next);
      parts.unshift(next);
      start = far(next, start);
      last = next;
      next = onward(last, start);
    }
    const spread = (which: 'left' | 'right'): WallFace | undefined => {
      let from = start;
      const faces = parts.flatMap((part) => {
        const face = facing(part, from)[which];
        from = far(part, from);
        return face ?? [];
      });
      const [one] = faces;
      return (
        one && {
          ...one,
          fromIn: Math.min(...faces.map(({ fromIn }) => fromIn)),
          toIn: Math.max(...faces.map(({ toIn }) => toIn)),
        }
      );
    };
    const [left, right] = [spread('left'), spread('right')];
    const [a, b] = [vertices[start]!, vertices[end]!];
    return [
      {
        a: { xIn: a.xIn, yIn: a.yIn },
        b: { xIn: b.xIn, yIn: b.yIn },
        lengthIn: distance(a, b),
        ...(left && { left }),
        ...(right && { right }),
      },
    ];
  });
}
