import RBush from 'rbush';
import type { Place } from './outline.js';
import { distance, signedArea } from './outline.js';

/** A line of a drawing, from end to end, in inches. */
export type Line = readonly [Place, Place];

/** What lines enclose: rings counter-clockwise, none of them within itself cut by a line; and ends that meet nothing. */
export interface Enclosed {
  readonly rings: readonly (readonly Place[])[];
  readonly openEnds: readonly Place[];
  /** The lines meet so often that nothing was looked for: no plan does. */
  readonly isTangled: boolean;
}

/** Pairs of lines that are looked at for each line, on the average, and at least. */
const PAIRS = 60;
const PAIRS_AT_LEAST = 200_000;

/** Vertices that stand for places within reach of each other, found by the cell of a grid. */
class Vertices {
  readonly all: Place[] = [];
  private readonly cells = new Map<string, number[]>();
  constructor(private readonly reachIn: number) {}

  of(place: Place): number {
    const [x, y] = [Math.floor(place.xIn / this.reachIn), Math.floor(place.yIn / this.reachIn)];
    for (let dx = -1; dx <= 1; dx++)
      for (let dy = -1; dy <= 1; dy++)
        for (const index of this.cells.get(`${x + dx} ${y + dy}`) ?? [])
          if (distance(this.all[index]!, place) <= this.reachIn) return index;
    const cell = this.cells.get(`${x} ${y}`);
    if (cell) cell.push(this.all.length);
    else this.cells.set(`${x} ${y}`, [this.all.length]);
    this.all.push(place);
    return this.all.length - 1;
  }
}

interface Segment {
  readonly minX: number;
  readonly minY: number;
  readonly maxX: number;
  readonly maxY: number;
  readonly from: number;
  readonly to: number;
  /** Shares of its length at which it is met, with the vertex that stands there. */
  readonly met: (readonly [share: number, vertex: number])[];
}

/** Where two lines cross, as shares of each; undefined where they run along each other. */
function crossing([a, b]: Line, [c, d]: Line): readonly [number, number] | undefined {
  const [rx, ry] = [b.xIn - a.xIn, b.yIn - a.yIn];
  const [sx, sy] = [d.xIn - c.xIn, d.yIn - c.yIn];
  const across = rx * sy - ry * sx;
  if (Math.abs(across) < 1e-9 * Math.hypot(rx, ry) * Math.hypot(sx, sy)) return undefined;
  const [qx, qy] = [c.xIn - a.xIn, c.yIn - a.yIn];
  return [(qx * sy - qy * sx) / across, (qx * ry - qy * rx) / across];
}

/** How far along a line, as a share of it, a place lies that is within reach of it; undefined where it is not. */
function shareAlong([a, b]: Line, place: Place, reachIn: number): number | undefined {
  const length = distance(a, b);
  const [dx, dy] = [(b.xIn - a.xIn) / length, (b.yIn - a.yIn) / length];
  const [x, y] = [place.xIn - a.xIn, place.yIn - a.yIn];
  const along = x * dx + y * dy;
  return along >= -reachIn && along <= length + reachIn && Math.abs(x * dy - y * dx) <= reachIn
    ? along / length
    : undefined;
}

/**
 * The smallest rings that lines enclose. Ends within reach of each other, or of another line, meet; lines are cut where they meet
 * or cross; what leads nowhere encloses nothing and is told of by its open end. What lies within a ring and touches it nowhere is
 * a ring of its own. Inches.
 */
export function enclosedBy(lines: readonly Line[], reachIn = 0.5): Enclosed {
  const vertices = new Vertices(reachIn);
  const segments: Segment[] = [];
  for (const [a, b] of lines) {
    const [from, to] = [vertices.of(a), vertices.of(b)];
    if (from === to) continue;
    const [p, q] = [vertices.all[from]!, vertices.all[to]!];
    segments.push({
      minX: Math.min(p.xIn, q.xIn) - reachIn,
      minY: Math.min(p.yIn, q.yIn) - reachIn,
      maxX: Math.max(p.xIn, q.xIn) + reachIn,
      maxY: Math.max(p.yIn, q.yIn) + reachIn,
      ...{ from, to, met: [] },
    });
  }
  const lineOf = ({ from, to }: Segment): Line => [vertices.all[from]!, vertices.all[to]!];
  const tree = new RBush<Segment>();
  tree.load(segments);
  let pairs = Math.max(PAIRS_AT_LEAST, PAIRS * segments.length);
  for (const one of segments) {
    const near = tree.search(one);
    pairs -= near.length;
    if (pairs < 0) return { rings: [], openEnds: [], isTangled: true };
    for (const other of near) {
      if (other === one) continue;
      // Ends of the other one that lie on this one, and, once for each pair, where they cross.
      for (const end of [other.from, other.to]) {
        if (end === one.from || end === one.to) continue;
        const share = shareAlong(lineOf(one), vertices.all[end]!, reachIn);
        if (share !== undefined) one.met.push([share, end]);
      }
      const at = crossing(lineOf(one), lineOf(other));
      if (!at || at.some((share) => share <= 0 || share >= 1)) continue;
      const [a, b] = lineOf(one);
      const place = { xIn: a.xIn + at[0] * (b.xIn - a.xIn), yIn: a.yIn + at[0] * (b.yIn - a.yIn) };
      one.met.push([at[0], vertices.of(place)]);
    }
  }

  const beside = new Map<number, Set<number>>();
  const join = (a: number, b: number): void => {
    if (a === b) return;
    for (const [one, other] of [
      [a, b],
      [b, a],
    ] as const) {
      const known = beside.get(one);
      if (known) known.add(other);
      else beside.set(one, new Set([other]));
    }
  };
  for (const { from, to, met } of segments) {
    const way = [from, ...met.sort((a, b) => a[0] - b[0]).map(([, vertex]) => vertex), to];
    for (let at = 1; at < way.length; at++) join(way[at - 1]!, way[at]!);
  }

  const openEnds = [...beside].filter(([, next]) => next.size === 1).map(([vertex]) => vertex);
  // What leads nowhere is taken off, end by end.
  const loose = [...openEnds];
  for (let end = loose.pop(); end !== undefined; end = loose.pop()) {
    const [next] = beside.get(end) ?? [];
    beside.delete(end);
    if (next === undefined) continue;
    const others = beside.get(next);
    others?.delete(end);
    if (others?.size === 1) loose.push(next);
    else if (others?.size === 0) beside.delete(next);
  }
  return {
    rings: ringsOf(vertices.all, beside),
    openEnds: openEnds.map((vertex) => vertices.all[vertex]!),
    isTangled: false,
  };
}

/** The rings of a plane graph that is walked with the hand on the left wall. */
function ringsOf(places: readonly Place[], beside: ReadonlyMap<number, ReadonlySet<number>>): Place[][] {
  const angle = (from: number, to: number): number =>
    Math.atan2(places[to]!.yIn - places[from]!.yIn, places[to]!.xIn - places[from]!.xIn);
  const round = new Map(
    [...beside].map(([vertex, next]) => [
      vertex,
      [...next].sort((a, b) => angle(vertex, a) - angle(vertex, b)),
    ]),
  );
  const walked = new Set<string>();
  const rings: Place[][] = [];
  for (const [start, nexts] of round)
    for (const first of nexts) {
      if (walked.has(`${start} ${first}`)) continue;
      const ring: number[] = [];
      let [from, to] = [start, first];
      while (!walked.has(`${from} ${to}`)) {
        walked.add(`${from} ${to}`);
        ring.push(from);
        // The sharpest turn to the left: the one before the way back, going round.
        const ways = round.get(to)!;
        const back = ways.indexOf(from);
        [from, to] = [to, ways[(back + ways.length - 1) % ways.length]!];
      }
      const straight = withoutStraight(ring.map((vertex) => places[vertex]!));
      if (straight.length > 2 && signedArea(straight) > 0) rings.push(straight);
    }
  return rings;
}

/** A corner that stands this near to the line of its neighbours is none. Inches. */
const STRAIGHT_IN = 0.05;

/** A ring without the corners at which it does not turn. */
export function withoutStraight(ring: readonly Place[]): Place[] {
  const kept: Place[] = [];
  ring.forEach((place, at) => {
    const before = kept.at(-1) ?? ring.at(-1)!;
    const after = ring[(at + 1) % ring.length]!;
    const length = distance(before, after);
    if (length === 0) return;
    const beside =
      ((after.xIn - before.xIn) * (place.yIn - before.yIn) -
        (after.yIn - before.yIn) * (place.xIn - before.xIn)) /
      length;
    if (Math.abs(beside) > STRAIGHT_IN) kept.push(place);
  });
  return kept;
}
