import type { HouseReader } from '../derive/reader.js';
import type { Run } from '../house/model.js';
import type { Place } from '../plan/outline.js';
import type { Spot } from './attached.js';
import { cutOf } from './cut.js';
import { framingGraph } from './framing-graph.js';
import { storeyStack } from './storey-stack.js';

type Route = NonNullable<Run['route']>;

/** A wall that a way goes through: the room that sees it, and the corner at which it begins there. */
export interface WallOnWay {
  readonly roomId: string;
  readonly corner: string;
}

/** Where along its way a point lies: the stretch that is nearest. */
function stretchOf(segments: readonly { readonly from: Spot; readonly to: Spot }[], at: Spot): number {
  let [best, least] = [0, Infinity];
  segments.forEach(({ from, to }, index) => {
    const parts = (['xIn', 'yIn', 'zIn'] as const).map((axis) => [from[axis], to[axis], at[axis]] as const);
    const square = parts.reduce((sum, [a, b]) => sum + (b - a) ** 2, 0) || 1;
    const t = Math.max(0, Math.min(1, parts.reduce((sum, [a, b, p]) => sum + (p - a) * (b - a), 0) / square));
    const apart = Math.hypot(...parts.map(([a, b, p]) => a + t * (b - a) - p));
    if (apart < least) [best, least] = [index, apart];
  });
  return best;
}

/** The points through which a way is forced when one of its stretches is dragged to a place on the plan, at the height of the stretch. */
export function forcedThrough(reader: HouseReader, run: Run, stretch: number, place: Place): Route {
  const { segments } = cutOf(reader, run).way;
  const route = run.route ?? [];
  const own = segments[stretch];
  if (!own) return route;
  const zIn = (own.from.zIn + own.to.zIn) / 2;
  const stack = storeyStack(reader);
  const storey =
    stack.find(({ floorIn, ceilingIn }) => zIn >= floorIn && zIn <= floorIn + ceilingIn + 12) ?? stack[0];
  const point = {
    ...(storey && { storeyId: storey.id }),
    xIn: Math.round(place.xIn),
    yIn: Math.round(place.yIn),
    zIn: Math.round((zIn - (storey?.floorIn ?? 0)) * 100) / 100,
  };
  const floorOf = (id: string | undefined): number => stack.find((one) => one.id === id)?.floorIn ?? 0;
  const before = route.filter(
    (one) => stretchOf(segments, { ...one, zIn: one.zIn + floorOf(one.storeyId) }) < stretch,
  ).length;
  return [...route.slice(0, before), point, ...route.slice(before)];
}

/** The walls that a way goes through, in its order. */
export function wallsOnWay(reader: HouseReader, run: Run): readonly WallOnWay[] {
  const graph = framingGraph(reader);
  const walls: WallOnWay[] = [];
  for (const { wall, kind } of cutOf(reader, run).way.segments) {
    if (wall === undefined || kind === 'rise') continue;
    const { left, right } = graph.walls[wall]!.framed.wall;
    const face = left ?? right;
    if (face && !walls.some(({ roomId, corner }) => roomId === face.roomId && corner === face.corner))
      walls.push({ roomId: face.roomId, corner: face.corner });
  }
  return walls;
}
