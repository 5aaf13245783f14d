import type { Derivation, HouseReader } from '../derive/reader.js';
import { partOf } from '../derive/part.js';
import type { Run } from '../house/model.js';
import { placeAlong } from '../plan/outline.js';
import { builtStorey } from '../plan/storey-plan.js';
import type { CableId } from '../rulebook/cables.js';
import type { Attached, Spot, Unattached } from './attached.js';
import { attachedAt } from './attached.js';
import { nodeNear } from './ceiling-plane.js';
import { boringMinutes, heavyTimes } from './effort.js';
import { estimatedWay, overEverything } from './estimate.js';
import type { FramingGraph } from './framing-graph.js';
import { alongWall, faceKey, framingGraph } from './framing-graph.js';
import type { Entry, Priced } from './search.js';
import { WayTree, pricedGraph } from './search.js';
import type { Standing } from './standing.js';
import { standingOf } from './standing.js';
import { storeyStack } from './storey-stack.js';
import type { Crossing, Laid, WaySegment } from './way-geometry.js';
import { WayLayer } from './way-geometry.js';

/** Why a way is not known: a box has no place, stands in no wall, or nothing that cable goes through leads from one to the other. */
export type NoWay = Unattached | 'apart';

/** How a cable goes from box to box. Inches. */
export interface Way {
  /**
   * `studs`: along walls, through their studs; `over`: up, over the top plates, and down; `under`: through what lies under the
   * floor; `floors`: from story to story; `rooms`: nobody knows, its length is what such ways commonly are.
   */
  readonly kind: 'studs' | 'over' | 'under' | 'floors' | 'rooms';
  readonly lengthIn: number;
  /** Up and down, and along or across: what the length is made of. */
  readonly riseIn: number;
  readonly acrossIn: number;
  /** The room that it comes to, where it leaves its own. */
  readonly toRoomId?: string;
  /** Stretch by stretch; none where the way is not known. */
  readonly segments: readonly WaySegment[];
  /** What is bored for it, in its order. */
  readonly crossings: readonly Crossing[];
  /** Why there are none. */
  readonly unknown?: NoWay;
  /** Minutes of boring, of getting up and down, and of pulling beyond what a foot in a wall takes. */
  readonly minutes: number;
  /** Forced points (by their number) that no cable can get to: the way goes as if they were not there. */
  readonly unreached?: readonly number[];
  /** Walls are shut out, but there is no other way. */
  readonly isShut?: true;
}

/** How often the framing has been searched: what is held about kept ways is counted by it. */
export const searches = { count: 0 };

/** By cable: what the edges of the framing cost. */
const PRICED: Derivation<Priced> = {
  name: 'framing priced',
  compute: (reader, cable) => pricedGraph(reader, framingGraph(reader), cable as CableId),
};

/** The last trees that were searched, by what they were searched with: nothing in them but what that says. */
const TREES = new WeakMap<Priced, Map<string, WayTree>>();
/** A tree is some 16 bytes a node. */
const MOST_TREES = 192;

function treeFrom(graph: FramingGraph, priced: Priced, entries: readonly Entry[]): WayTree {
  let trees = TREES.get(priced);
  if (!trees) TREES.set(priced, (trees = new Map<string, WayTree>()));
  const key = entries.map(({ node, lengthIn }) => `${node} ${lengthIn}`).join('|');
  let tree = trees.get(key);
  // The latest stands last: the first one goes.
  trees.delete(key);
  if (!tree) {
    searches.count++;
    tree = new WayTree(graph, priced, entries);
    if (trees.size >= MOST_TREES) trees.delete(trees.keys().next().value!);
  }
  trees.set(key, tree);
  return tree;
}

const layerOf = (reader: HouseReader, graph: FramingGraph): WayLayer =>
  new WayLayer(graph, reader.rules().number('route.header'), reader.rules().number('route.joistDepth') / 2);

const isAttached = (one: Attached | Unattached): one is Attached => typeof one === 'object';

const attach = (reader: HouseReader, graph: FramingGraph, standing: Standing): Attached | Unattached =>
  attachedAt(graph, standing, reader.rules().number('route.header'));

const reversed = ({ segments, crossings }: Laid): Laid => ({
  segments: segments.map((one) => ({ ...one, from: one.to, to: one.from })).reverse(),
  crossings: turnedCrossings(
    crossings,
    segments.reduce((sum, { lengthIn }) => sum + lengthIn, 0),
  ),
});

const turnedCrossings = (crossings: readonly Crossing[], wholeIn: number): Crossing[] =>
  crossings.map((one) => ({ ...one, pastIn: wholeIn - one.pastIn })).reverse();

/** Whether a spot comes before another one: from which end a way is laid is the same whoever asks. */
const isBefore = (a: Spot, b: Spot): boolean =>
  a.zIn !== b.zIn ? a.zIn < b.zIn : a.xIn !== b.xIn ? a.xIn < b.xIn : a.yIn <= b.yIn;

/** The way of one stretch, between two places where it meets the framing; undefined where none leads there. */
function leg(
  graph: FramingGraph,
  priced: Priced,
  layer: WayLayer,
  a: Attached,
  b: Attached,
  shut?: (node: number) => boolean,
): Laid | undefined {
  if (a.wall !== undefined && a.wall === b.wall && a.bay === b.bay) return layer.within(a, b);
  const tree = shut ? new WayTree(graph, priced, a.entries, shut) : treeFrom(graph, priced, a.entries);
  const found = tree.to(b.entries);
  if (!found) return undefined;
  return isBefore(a.spot, b.spot)
    ? layer.along(found.nodes, a, b)
    : reversed(layer.along([...found.nodes].reverse(), b, a));
}

/** Minutes of boring, of getting up and down, and of what a foot takes longer where one crawls. */
function minutesOf(
  reader: HouseReader,
  graph: FramingGraph,
  cable: CableId,
  { segments, crossings }: Laid,
): number {
  const rules = reader.rules();
  const boring = boringMinutes(reader);
  const ladder = rules.number('route.minutesLadder');
  const slower = (rules.number('route.attic.times') - 1) * rules.number('plan.minutesPerFoot');
  const heavy = heavyTimes(reader, cable);
  let minutes = 0;
  for (const { bored } of crossings) minutes += boring[bored] * heavy + (bored === 'plate' ? ladder : 0);
  for (const { plane, lengthIn } of segments)
    if (plane !== undefined && graph.planes[plane]!.kind !== 'floor') minutes += (lengthIn / 12) * slower;
  return minutes;
}

function wayOf(
  reader: HouseReader,
  graph: FramingGraph,
  cable: CableId,
  laid: Laid,
  from: Standing,
  to: Standing,
): Way {
  const storeys = new Set([from.storeyId, to.storeyId]);
  const floorIn = graph.stack.find(({ id }) => id === from.storeyId)?.floorIn ?? 0;
  const under = laid.segments.some(
    ({ plane }) => plane !== undefined && graph.planes[plane]!.heightIn < floorIn,
  );
  const isOut = laid.segments.some(({ plane }) => plane !== undefined);
  let [riseIn, acrossIn] = [0, 0];
  for (const { kind, lengthIn } of laid.segments)
    if (kind === 'rise' || kind === 'plate') riseIn += lengthIn;
    else acrossIn += lengthIn;
  return {
    kind: storeys.size > 1 ? 'floors' : !isOut ? 'studs' : under ? 'under' : 'over',
    lengthIn: riseIn + acrossIn,
    riseIn,
    acrossIn,
    ...(to.roomId !== undefined && to.roomId !== from.roomId && { toRoomId: to.roomId }),
    segments: laid.segments,
    crossings: laid.crossings,
    minutes: minutesOf(reader, graph, cable, laid),
  };
}

/** The height of the ceiling over a box, and its place, as far as its room is drawn. */
function spotOf(
  reader: HouseReader,
  standing: Standing,
): (Spot & { readonly ceilingIn: number }) | undefined {
  const storey = storeyStack(reader).find(({ id }) => id === standing.storeyId);
  if (!storey) return undefined;
  const { roomId, corner, alongIn, xIn, yIn, heightIn } = standing;
  const outline = builtStorey(reader, storey.id).rooms.find(({ id }) => id === roomId)?.outline;
  const place =
    corner !== undefined && alongIn !== undefined
      ? outline && placeAlong(outline, corner, alongIn)
      : xIn !== undefined && yIn !== undefined
        ? { xIn, yIn }
        : undefined;
  const ceilingIn = storey.floorIn + storey.ceilingIn;
  return (
    place && {
      xIn: place.xIn,
      yIn: place.yIn,
      zIn: heightIn === undefined ? ceilingIn : storey.floorIn + heightIn,
      ceilingIn,
    }
  );
}

/** A way that is not known: how long such ways commonly are, and why it is not. */
function unknownWay(reader: HouseReader, from: Standing, to: Standing, unknown: NoWay): Way {
  const [a, b] = [spotOf(reader, from), spotOf(reader, to)];
  const estimated = a && b ? overEverything(a, b) : estimatedWay(reader, from, to);
  const rules = reader.rules();
  return {
    ...estimated,
    kind: a && b ? (from.storeyId === to.storeyId ? 'over' : 'floors') : 'rooms',
    ...(to.roomId !== undefined && to.roomId !== from.roomId && { toRoomId: to.roomId }),
    segments: [],
    crossings: [],
    unknown,
    // Up and down again.
    minutes: 2 * (rules.number('plan.minutesPerPlate') + rules.number('route.minutesLadder')),
  };
}

/** By the ids of two boxes, that from which the framing is searched first (one search serves all that leaves it), and the cable. */
const WAY: Derivation<Way> = {
  name: 'way between boxes',
  cutsOff: true,
  compute: (reader, key) => {
    const [fromId, toId, ...named] = key.split(' ') as [string, string, ...string[]];
    // What a cable is called may have spaces.
    const cable: CableId = named.join(' ');
    const [from, to] = [standingOf(reader, fromId), standingOf(reader, toId)];
    const graph = framingGraph(reader);
    const [a, b] = [attach(reader, graph, from), attach(reader, graph, to)];
    if (!isAttached(a)) return unknownWay(reader, from, to, a);
    if (!isAttached(b)) return unknownWay(reader, from, to, b);
    const laid = leg(graph, reader.derive(PRICED, cable), layerOf(reader, graph), a, b);
    return laid ? wayOf(reader, graph, cable, laid, from, to) : unknownWay(reader, from, to, 'apart');
  },
};

/**
 * How a cable goes between two boxes at the least cost in work and cable (rulebook, chapters *Ways of cables* and *Planning pulls*): along
 * the framing where both stand on it, or else as long as such ways commonly are. The same from either end.
 */
export const wayBetween = (reader: HouseReader, fromId: string, toId: string, cable: CableId): Way =>
  reader.derive(WAY, `${fromId} ${toId} ${cable}`);

/** What somebody wants of the way of a run. */
export const RUN_WAY = partOf('runs', 'way', ['from', 'to', 'route', 'shutOut']);

/** A forced point is taken to a wall that is so near to it. Inches. */
const REACH_IN = 18;

/** The place of the framing nearest a forced point; undefined where what is there lets no cable through. */
function forcedAt(
  graph: FramingGraph,
  point: NonNullable<Run['route']>[number],
  storeyId: string | undefined,
): Attached | undefined {
  const storey = graph.stack.find(({ id }) => id === (point.storeyId ?? storeyId));
  if (!storey) return undefined;
  const inPlane = (index: number): Attached | undefined => {
    const plane = graph.planes[index]!;
    const cell = nodeNear(plane, point);
    if (cell === undefined) return undefined;
    return {
      spot: { xIn: point.xIn, yIn: point.yIn, zIn: plane.heightIn },
      entries: [{ node: graph.planeFirst[index]! + cell, lengthIn: 0, times: 1 }],
      plane: index,
    };
  };
  if (point.zIn >= storey.ceilingIn - 6 || point.zIn < 0) {
    const zIn = storey.floorIn + point.zIn;
    return graph.planes
      .map((plane, index) => ({ index, apart: Math.abs(plane.heightIn - zIn) }))
      .filter(({ apart }) => apart < 24)
      .sort((a, b) => a.apart - b.apart)
      .map(({ index }) => inPlane(index))
      .find((found) => found !== undefined);
  }
  const near = graph.walls
    .flatMap((wall, index) => {
      if (wall.storey.id !== storey.id) return [];
      const { a, b, lengthIn } = wall.framed.wall;
      const along =
        ((point.xIn - a.xIn) * (b.xIn - a.xIn) + (point.yIn - a.yIn) * (b.yIn - a.yIn)) / lengthIn;
      const alongIn = Math.min(lengthIn - 0.5, Math.max(0.5, along));
      const on = alongWall(wall.framed.wall, alongIn);
      const apart = Math.hypot(on.xIn - point.xIn, on.yIn - point.yIn);
      return apart <= REACH_IN ? [{ wall, index, alongIn, on, apart }] : [];
    })
    .sort((a, b) => a.apart - b.apart)[0];
  if (!near) return undefined;
  const { wall, index, alongIn, on } = near;
  const bay = wall.bays.findIndex(({ toIn }) => alongIn < toIn);
  const level = wall.levelsIn
    .map((levelIn, at) => ({ levelIn, node: wall.nodeAt[bay * wall.levelsIn.length + at]! }))
    .filter(({ node }) => node >= 0)
    .sort((a, b) => Math.abs(a.levelIn - point.zIn) - Math.abs(b.levelIn - point.zIn))[0];
  if (!level) return undefined;
  return {
    spot: { ...on, zIn: wall.storey.floorIn + level.levelIn },
    entries: [{ node: level.node, lengthIn: 0, times: 1 }],
    wall: index,
    bay,
    alongIn,
  };
}

/** What somebody wants of the way of a run: its boxes, points it is forced through, walls that are shut out. */
export type WantedWay = Pick<Run, 'from' | 'to' | 'route' | 'shutOut'>;

/** The way of a run of which somebody forced points or shut walls out, or would. */
export function forcedWay(
  reader: HouseReader,
  runId: string,
  cable: CableId,
  { from, to, route = [], shutOut = [] }: WantedWay = reader.part(RUN_WAY, runId)!,
): Way {
  const [start, end] = [standingOf(reader, from.boxId), standingOf(reader, to.boxId)];
  const graph = framingGraph(reader);
  const [a, b] = [attach(reader, graph, start), attach(reader, graph, end)];
  if (!isAttached(a)) return unknownWay(reader, start, end, a);
  if (!isAttached(b)) return unknownWay(reader, start, end, b);
  const shutWalls = new Set(
    shutOut.flatMap(({ roomId, corner }) =>
      (graph.faces.get(faceKey(roomId, corner)) ?? []).map(({ wall }) => wall),
    ),
  );
  // A box that stands in a wall that is shut out comes out of it in its own bay.
  const isOwn = (node: number): boolean =>
    [a, b].some(({ wall, bay }) => graph.nodeSpace[node] === wall && graph.nodeA[node] === bay);
  const shut = shutWalls.size
    ? (node: number): boolean => shutWalls.has(graph.nodeSpace[node]!) && !isOwn(node)
    : undefined;
  const points = route.map((point) => forcedAt(graph, point, start.storeyId));
  const unreached = new Set(points.flatMap((point, at) => (point ? [] : [at])));
  const priced = reader.derive(PRICED, cable);
  const layer = layerOf(reader, graph);
  const through = (closed: typeof shut): Laid | undefined => {
    const segments: WaySegment[] = [];
    const crossings: Crossing[] = [];
    let here = a;
    for (const [at, stop] of [...points.entries(), [points.length, b] as const]) {
      if (!stop) continue;
      const laid = leg(graph, priced, layer, here, stop, closed);
      if (!laid) {
        // No cable gets to this point: on to the next one.
        if (stop === b) return undefined;
        unreached.add(at);
        continue;
      }
      const pastIn = segments.reduce((sum, { lengthIn }) => sum + lengthIn, 0);
      segments.push(...laid.segments);
      crossings.push(...laid.crossings.map((one) => ({ ...one, pastIn: pastIn + one.pastIn })));
      here = stop;
    }
    return { segments, crossings };
  };
  const shutLaid = through(shut);
  const laid = shutLaid ?? (shut && through(undefined));
  if (!laid) return unknownWay(reader, start, end, 'apart');
  return {
    ...wayOf(reader, graph, cable, laid, start, end),
    ...(unreached.size > 0 && { unreached: [...unreached].sort((x, y) => x - y) }),
    ...(!shutLaid && { isShut: true as const }),
  };
}

/** By run id and cable. */
const WAY_OF_RUN: Derivation<Way | undefined> = {
  name: 'way of a run',
  cutsOff: true,
  compute: (reader, key) => {
    const [runId, ...named] = key.split(' ') as [string, ...string[]];
    const cable: CableId = named.join(' ');
    const run = reader.part(RUN_WAY, runId);
    if (!run) return undefined;
    if (run.route?.length || run.shutOut?.length) return forcedWay(reader, runId, cable);
    return wayBetween(reader, run.from.boxId, run.to.boxId, cable);
  },
};

/** How the cable of a run goes from its first box to the other. */
export const wayOfRun = (reader: HouseReader, runId: string, cable: CableId): Way =>
  reader.derive(WAY_OF_RUN, `${runId} ${cable}`)!;

/** Holes that are bored for a way: through studs and joists, and through plates, where they are sealed; of a way that is not known, estimated. */
export function holesOf(
  reader: HouseReader,
  { unknown, acrossIn, toRoomId, crossings }: Way,
): { studs: number; plates: number } {
  if (unknown !== undefined)
    return toRoomId === undefined
      ? { studs: Math.floor(acrossIn / reader.rules().number('estimate.studs')), plates: 0 }
      : { studs: 0, plates: 2 };
  const plates = crossings.filter(({ bored }) => bored === 'plate').length;
  return { studs: crossings.length - plates, plates };
}
