import type { Place } from '../plan/outline.js';
import type { Attached, Spot } from './attached.js';
import type { CeilingPlane } from './ceiling-plane.js';
import { beamBetween, cellMiddle, joistsBetween } from './ceiling-plane.js';
import type { Bored } from './effort.js';
import type { EdgeKind, FramingGraph, GraphWall } from './framing-graph.js';
import { alongWall } from './framing-graph.js';
import { metInBay } from './wall-bays.js';

/** A hole that a way takes, through one member. */
export interface Crossing {
  /**
   * The place in the member where holes of several cables can be one: the stud at this height, the plate in this bay. It begins with
   * the wall or ceiling that it is in, up to a bar.
   */
  readonly member: string;
  readonly bored: Bored;
  /** The wall it is in, or the ceiling. */
  readonly wall?: number;
  readonly plane?: number;
  /** Along its wall; of a joist, across the joists. Inches. */
  readonly atIn: number;
  /** Over the floor of its story; inches. */
  readonly heightIn: number;
  /** Of a plate: which. */
  readonly plate?: 'top' | 'sole';
  readonly spot: Spot;
  /** So far along the way from its beginning; inches. */
  readonly pastIn: number;
}

/** A straight stretch of a way. */
export interface WaySegment {
  readonly kind: EdgeKind;
  readonly from: Spot;
  readonly to: Spot;
  readonly lengthIn: number;
  /** The wall it is in (by its number in the graph), or the ceiling or floor. */
  readonly wall?: number;
  readonly plane?: number;
  /** The story whose wall it is in, or whose ceiling (under the lowest one: whose floor). */
  readonly storeyId: string;
}

export interface Laid {
  readonly segments: readonly WaySegment[];
  readonly crossings: readonly Crossing[];
}

/** A hole through a plate is so far from the middle of the studs beside it. Inches. */
const CLEAR_IN = 2;
/** Less than this is no stretch. Inches. */
const NOTHING_IN = 0.01;
/** Along a roof a foot on the plan is so much longer: a slope of 8 in 12, common practice. */
const ROOF_TIMES = 1.2;

class Pen {
  readonly segments: WaySegment[] = [];
  readonly crossings: Crossing[] = [];
  private pastIn = 0;
  constructor(
    public at: Spot,
    private readonly graph: FramingGraph,
  ) {}

  /** Bored on from here, or on what was last gone. */
  bore(crossing: Omit<Crossing, 'pastIn'>, which: 'ahead' | 'behind' = 'ahead'): void {
    const { at } = this;
    const { xIn, yIn, zIn } = crossing.spot;
    const apart = Math.hypot(xIn - at.xIn, yIn - at.yIn, zIn - at.zIn);
    this.crossings.push({ ...crossing, pastIn: this.pastIn + (which === 'ahead' ? apart : -apart) });
  }

  /** Nothing goes up only to come down again in the same bay: what of the last stretch would be gone twice is left away. */
  private turnedBack(to: Spot): 'done' | undefined {
    const last = this.segments.at(-1);
    if (!last || (last.kind !== 'rise' && last.kind !== 'plate')) return undefined;
    const { from, to: at } = last;
    if (Math.hypot(to.xIn - from.xIn, to.yIn - from.yIn) > NOTHING_IN) return undefined;
    const [was, now] = [at.zIn - from.zIn, to.zIn - at.zIn];
    if (was * now >= 0) return undefined;
    const back = Math.min(Math.abs(was), Math.abs(now));
    this.segments.pop();
    this.pastIn -= last.lengthIn;
    this.at = from;
    if (back < Math.abs(was) - NOTHING_IN) {
      const lengthIn = Math.abs(was) - back;
      this.segments.push({ ...last, to, lengthIn });
      this.pastIn += lengthIn;
      this.at = to;
      return 'done';
    }
    return undefined;
  }

  to(kind: EdgeKind, to: Spot, where: { readonly wall?: number; readonly plane?: number }, times = 1): void {
    if ((kind === 'rise' || kind === 'plate') && this.turnedBack(to)) return;
    const { at } = this;
    const lengthIn = Math.hypot(to.xIn - at.xIn, to.yIn - at.yIn, to.zIn - at.zIn) * times;
    if (lengthIn < NOTHING_IN) return;
    this.pastIn += lengthIn;
    const last = this.segments.at(-1);
    const isOn =
      last?.kind === kind &&
      last.wall === where.wall &&
      last.plane === where.plane &&
      Math.abs(
        Math.hypot(to.xIn - last.from.xIn, to.yIn - last.from.yIn, to.zIn - last.from.zIn) * times -
          last.lengthIn -
          lengthIn,
      ) < 1e-6;
    if (isOn) this.segments[this.segments.length - 1] = { ...last, to, lengthIn: last.lengthIn + lengthIn };
    else {
      const { wall, plane } = where;
      const storeyId =
        wall !== undefined ? this.graph.walls[wall]!.storey.id : this.graph.planes[plane!]!.storeyId;
      this.segments.push({ kind, from: at, to, lengthIn, storeyId, ...where });
    }
    this.at = to;
  }
}

/** On, in one direction, to a coordinate. */
interface Step {
  readonly field: 'xIn' | 'yIn';
  end: number;
}
type Nodes = readonly number[];
interface Stretch {
  readonly space: number;
  readonly nodes: Nodes;
}

/** What is measured in lengths and bored in holes on the way along these nodes, from where one box meets the framing to where the other does. */
export class WayLayer {
  constructor(
    private readonly graph: FramingGraph,
    private readonly headerIn: number,
    /** Half the height of joists: cable that goes over them climbs that much. */
    private readonly climbIn: number,
  ) {}

  /** In one bay nothing is bored: up and across. */
  within(a: Attached, b: Attached): Laid {
    const pen = new Pen(a.spot, this.graph);
    const where = { wall: a.wall! };
    pen.to('rise', { ...a.spot, zIn: b.spot.zIn }, where);
    pen.to('studs', b.spot, where);
    return pen;
  }

  along(nodes: Nodes, a: Attached, b: Attached): Laid {
    const { nodeSpace } = this.graph;
    const stretches: Stretch[] = [];
    for (const node of nodes) {
      const space = nodeSpace[node]!;
      const last = stretches.at(-1);
      if (last?.space === space) (last.nodes as number[]).push(node);
      else stretches.push({ space, nodes: [node] });
    }
    const pen = new Pen(a.spot, this.graph);
    stretches.forEach((stretch, at) => {
      const [before, after] = [stretches[at - 1], stretches[at + 1]];
      if (stretch.space >= 0) this.inWall(pen, stretch, before, after, a, b);
      else {
        // Where it leaves for a wall, or where the box is.
        const exit = after ? this.placeIn(after, after.nodes[0]!, stretch, b, undefined) : b.spot;
        this.inPlane(pen, stretch, exit);
        if (!after) pen.to('rise', b.spot, { plane: -1 - stretch.space });
      }
    });
    return pen;
  }

  private wallOf({ space }: Stretch): GraphWall {
    return this.graph.walls[space]!;
  }
  private bayOf(node: number): number {
    return this.graph.nodeA[node]!;
  }

  /** How far along its wall a stretch begins or ends that comes from (or goes on to) another one: at a corner, or where a plate is bored. */
  private alongIn(
    stretch: Stretch,
    node: number,
    other: Stretch,
    box: Attached,
    same: number | undefined,
  ): number {
    const wall = this.wallOf(stretch);
    const bay = this.bayOf(node);
    if (other.space >= 0) {
      const { lengthIn } = wall.framed.wall;
      // Walls of one bay have both ends in it: the end that lies in the other wall's end.
      const ends = [0, lengthIn].map((at) => alongWall(wall.framed.wall, at));
      const there = this.wallOf(other).framed.wall;
      const apart = ends.map((end) =>
        Math.min(...[there.a, there.b].map(({ xIn, yIn }) => Math.hypot(xIn - end.xIn, yIn - end.yIn))),
      );
      return apart[0]! <= apart[1]! ? 0 : lengthIn;
    }
    const { fromIn, toIn } = wall.bays[bay]!;
    const middle = (fromIn + toIn) / 2;
    // By the end of a beam it is known of the middle of the bay alone that something comes up there.
    if (this.graph.planes[-1 - other.space]!.beams.length) return middle;
    const from = box.wall === stretch.space && box.bay === bay ? box.alongIn! : same;
    // Clear of the studs on both sides, and of the corner.
    const clear = Math.min(CLEAR_IN, (toIn - fromIn) / 2);
    return from === undefined ? middle : Math.min(toIn - clear, Math.max(fromIn + clear, from));
  }
  private placeIn(
    stretch: Stretch,
    node: number,
    other: Stretch,
    box: Attached,
    same: number | undefined,
  ): Place {
    return alongWall(this.wallOf(stretch).framed.wall, this.alongIn(stretch, node, other, box, same));
  }

  private inWall(
    pen: Pen,
    stretch: Stretch,
    before: Stretch | undefined,
    after: Stretch | undefined,
    a: Attached,
    b: Attached,
  ): void {
    const { nodes, space } = stretch;
    const wall = this.wallOf(stretch);
    const { floorIn } = wall.storey;
    const [firstBay, lastBay] = [this.bayOf(nodes[0]!), this.bayOf(nodes.at(-1)!)];
    const start = before ? this.alongIn(stretch, nodes[0]!, before, b, undefined) : a.alongIn!;
    const end = after
      ? this.alongIn(
          stretch,
          nodes.at(-1)!,
          after,
          a,
          firstBay === lastBay && before && before.space < 0 ? start : undefined,
        )
      : b.alongIn!;
    const where = { wall: space };
    const at = (alongIn: number, heightIn: number): Spot => ({
      ...alongWall(wall.framed.wall, alongIn),
      zIn: floorIn + heightIn,
    });
    const isFromCorner = before !== undefined && before.space >= 0;
    let here = start;
    let height = pen.at.zIn - floorIn;
    if (before && before.space < 0) {
      // Down through the top plate, or up through the sole plate.
      height = wall.levelsIn[this.graph.nodeB[nodes[0]!]!]!;
      this.plate(pen, stretch, nodes[0]!, here, this.graph.planes[-1 - before.space]!, 'ahead');
      pen.to('plate', at(here, height), where);
    } else if (before) this.corner(pen, stretch, before, height);
    const level = (node: number): number => wall.levelsIn[this.graph.nodeB[node]!]!;
    const go = (alongIn: number): void => {
      this.studs(pen, stretch, here, alongIn, height);
      pen.to('studs', at(alongIn, height), where);
      here = alongIn;
    };
    // Out of its own bay a cable goes up (or down) right where its plate is bored.
    const goesOut = after !== undefined && after.space < 0;
    if (!before && goesOut && firstBay === lastBay && a.bay === firstBay) go(end);
    for (const node of nodes) {
      const bay = this.bayOf(node);
      const { fromIn, toIn } = wall.bays[bay]!;
      const within = (place: number): number => Math.min(toIn, Math.max(fromIn, place));
      const goesOn = bay === lastBay && after !== undefined && after.space >= 0;
      const to = bay === lastBay && !goesOn ? within(end) : (fromIn + toIn) / 2;
      const up = level(node);
      if (up !== height) {
        // A box beside an opening is reached from the bay beside it; nothing goes up in the corner itself.
        if (here < fromIn || here > toIn) go(within(here));
        else if (bay === firstBay && isFromCorner && here === start) go(to);
        pen.to('rise', at(here, up), where);
        height = up;
      }
      if (bay !== firstBay) go(to);
    }
    if (Math.abs(here - end) > NOTHING_IN && after) go(end);
    if (after && after.space < 0) {
      const plane = this.graph.planes[-1 - after.space]!;
      pen.to('plate', { ...at(here, 0), zIn: plane.heightIn }, where);
      this.plate(pen, stretch, nodes.at(-1)!, here, plane, 'behind');
    }
    if (!after) {
      const boxHeight = b.spot.zIn - floorIn;
      const { fromIn, toIn } = wall.bays[lastBay]!;
      if (end < fromIn || end > toIn) {
        pen.to('rise', at(here, boxHeight), where);
        height = boxHeight;
        pen.to('studs', at(end, boxHeight), where);
        here = end;
      } else {
        // What is left to go within its bay is gone at the height of the box.
        pen.to('rise', at(here, boxHeight), where);
        height = boxHeight;
        if (Math.abs(here - end) > NOTHING_IN) go(end);
      }
    }
  }

  /** Studs between two places of a wall. */
  private studs(pen: Pen, { space }: Stretch, fromIn: number, toIn: number, heightIn: number): void {
    const wall = this.graph.walls[space]!;
    const { key, members, bays, storey } = wall;
    const [low, high] = [Math.min(fromIn, toIn), Math.max(fromIn, toIn)];
    const met = members.flatMap(({ atIn, kind }, index) => {
      if (atIn <= low || atIn >= high) return [];
      const isHeader = [bays[index]!, bays[index + 1]!].some(
        (bay) => metInBay(bay, heightIn, this.headerIn) === 'may-bore',
      );
      const crossing: Omit<Crossing, 'pastIn'> = {
        member: `w${space}|${key} stud ${atIn.toFixed(1)} ${heightIn}`,
        bored: isHeader ? 'header' : kind,
        wall: space,
        atIn,
        heightIn,
        spot: { ...alongWall(wall.framed.wall, atIn), zIn: storey.floorIn + heightIn },
      };
      return [crossing];
    });
    for (const one of fromIn <= toIn ? met : met.reverse()) pen.bore(one);
  }

  private corner(pen: Pen, stretch: Stretch, before: Stretch, heightIn: number): void {
    const [one, other] = [this.wallOf(before), this.wallOf(stretch)];
    const away = ({ framed: { wall } }: GraphWall): Place => {
      const isStart = Math.hypot(wall.a.xIn - pen.at.xIn, wall.a.yIn - pen.at.yIn) < wall.lengthIn / 2;
      const turn = isStart ? 1 : -1;
      return {
        xIn: (turn * (wall.b.xIn - wall.a.xIn)) / wall.lengthIn,
        yIn: (turn * (wall.b.yIn - wall.a.yIn)) / wall.lengthIn,
      };
    };
    const [d1, d2] = [away(one), away(other)];
    const isStraight = d1.xIn * d2.xIn + d1.yIn * d2.yIn < -0.95;
    const lower = Math.min(before.space, stretch.space);
    const place = `w${lower}|${one.storey.id} corner ${pen.at.xIn.toFixed(1)} ${pen.at.yIn.toFixed(1)} ${heightIn}`;
    const keys = [one.key, other.key].sort();
    const crossing = (member: string, bored: Bored): Omit<Crossing, 'pastIn'> => ({
      member,
      bored,
      wall: stretch.space,
      atIn: this.alongIn(stretch, stretch.nodes[0]!, before, NOWHERE, undefined),
      heightIn,
      spot: pen.at,
    });
    // In line: the end studs of both walls. Round the corner: all that stands in it, at once.
    if (isStraight) for (const key of keys) pen.bore(crossing(`${place} ${key}`, 'stud'));
    else pen.bore(crossing(`${place} ${keys.join(' ')}`, 'corner'));
  }

  private plate(
    pen: Pen,
    stretch: Stretch,
    node: number,
    alongIn: number,
    plane: CeilingPlane,
    which: 'ahead' | 'behind',
  ): void {
    const wall = this.wallOf(stretch);
    const isTop = plane.heightIn > wall.storey.floorIn + wall.storey.ceilingIn / 2;
    const heightIn = isTop ? wall.storey.ceilingIn : 0;
    const plate = isTop ? 'top' : 'sole';
    pen.bore(
      {
        member: `w${stretch.space}|${wall.key} ${plate} ${this.bayOf(node)}`,
        bored: 'plate',
        wall: stretch.space,
        atIn: alongIn,
        heightIn,
        plate,
        spot: { ...alongWall(wall.framed.wall, alongIn), zIn: wall.storey.floorIn + heightIn },
      },
      which,
    );
  }

  /** Along and across joists, at right angles, with as few bends as the cells allow. */
  private inPlane(pen: Pen, { nodes, space }: Stretch, exit: Place): void {
    const index = -1 - space;
    const plane = this.graph.planes[index]!;
    const { nodeA, nodeB } = this.graph;
    const where = { plane: index };
    // From a box, up (or down) to where cable runs.
    pen.to('rise', { ...pen.at, zIn: plane.heightIn }, where);
    const steps: Step[] = [];
    for (let at = 1; at < nodes.length; at++) {
      const [from, to] = [nodes[at - 1]!, nodes[at]!];
      const field = nodeA[from] !== nodeA[to] ? 'xIn' : 'yIn';
      const last = steps.at(-1);
      const end = cellMiddle(plane, nodeA[to]!, nodeB[to]!)[field];
      if (last?.field === field) last.end = end;
      else steps.push({ field, end });
    }
    const lastOf = { xIn: -1, yIn: -1 };
    steps.forEach(({ field }, at) => (lastOf[field] = at));
    const exact: Step[] = [
      ...steps.map(({ field, end }, at) => ({ field, end: lastOf[field] === at ? exit[field] : end })),
      { field: 'xIn', end: exit.xIn },
      { field: 'yIn', end: exit.yIn },
    ];
    // By the end of a beam there may be no room but in the middle of the cells.
    const middle = cellMiddle(plane, nodeA[nodes[0]!]!, nodeB[nodes[0]!]!);
    const byMiddles = (one: 'xIn' | 'yIn', other: 'xIn' | 'yIn'): Step[] => [
      { field: one, end: middle[one] },
      { field: other, end: middle[other] },
      ...steps,
      { field: other, end: exit[other] },
      { field: one, end: exit[one] },
    ];
    const isFree = (all: readonly Step[]): boolean => {
      let from: Place = pen.at;
      return all.every(({ field, end }) => {
        const to = { ...from, [field]: end };
        const isClear = from[field] === end || beamBetween(plane, from, to) !== 'blocked';
        from = to;
        return isClear;
      });
    };
    const ways = plane.beams.length ? [exact, byMiddles('xIn', 'yIn'), byMiddles('yIn', 'xIn')] : [exact];
    for (const { field, end } of ways.find(isFree) ?? exact) this.straight(pen, plane, index, field, end);
  }

  private straight(pen: Pen, plane: CeilingPlane, index: number, field: 'xIn' | 'yIn', toIn: number): void {
    const from = pen.at;
    if (Math.abs(from[field] - toIn) < NOTHING_IN) return;
    const where = { plane: index };
    const to: Spot = { ...from, [field]: toIn };
    const times = plane.kind === 'roof' ? ROOF_TIMES : 1;
    const crossing = (member: string, bored: Bored, atIn: number): Omit<Crossing, 'pastIn'> => ({
      member,
      bored,
      plane: index,
      atIn,
      heightIn: plane.heightIn,
      spot: { ...from, [field]: atIn },
    });
    if (beamBetween(plane, from, to) !== 'none')
      pen.bore(
        crossing(
          `p${index}|${plane.key} beam ${field} ${Math.round(from.xIn / plane.cellIn)} ${Math.round(from.yIn / plane.cellIn)}`,
          'beam',
          (from[field] + toIn) / 2,
        ),
      );
    if ((field === 'xIn') === (plane.along === 'x')) return pen.to('along', to, where, times);
    const across = plane.along === 'x' ? 'yIn' : 'xIn';
    const joists = joistsBetween(plane, from[across], toIn);
    // Within one space between joists nothing is crossed, and between the webs of trusses nothing is bored.
    if (joists.length === 0) return pen.to('along', to, where, times);
    if (plane.crossing === 'over') {
      pen.to('rise', { ...from, zIn: from.zIn + this.climbIn }, where);
      pen.to('over', { ...to, zIn: from.zIn + this.climbIn }, where, times);
      pen.to('rise', to, where);
      return;
    }
    if (plane.crossing === 'webs') return pen.to('across', to, where, times);
    const station = Math.floor(
      (plane.along === 'x' ? from.xIn - plane.xIn : from.yIn - plane.yIn) / plane.cellIn,
    );
    const origin = plane.along === 'x' ? plane.yIn : plane.xIn;
    for (const joist of joists)
      pen.bore(
        crossing(
          `p${index}|${plane.key} joist ${joist} ${station}`,
          'joist',
          origin + joist * plane.joistsIn,
        ),
      );
    pen.to('across', to, where, times);
  }
}

/** No box: for places that hang on the framing alone. */
const NOWHERE: Attached = { spot: { xIn: 0, yIn: 0, zIn: 0 }, entries: [] };
