import type { Derivation, HouseReader } from '../derive/reader.js';
import { framedWalls } from '../plan/framing.js';
import type { Place } from '../plan/outline.js';
import type { Wall } from '../plan/walls.js';
import type { CeilingPlane } from './ceiling-plane.js';
import { beamBetween, cellMiddle, nodeNear } from './ceiling-plane.js';
import type { Bored } from './effort.js';
import { boringMinutes } from './effort.js';
import { planesOf } from './planes.js';
import type { StackedStorey } from './storey-stack.js';
import { storeyStack } from './storey-stack.js';
import type { BayedWall } from './wall-bays.js';
import { baysOf, isOneSide, metInBay } from './wall-bays.js';

/** A wall of the graph: its bays, and the heights at which it is drilled. */
export interface GraphWall extends BayedWall {
  readonly key: string;
  readonly storey: StackedStorey;
  /** Heights of its rows of holes over its floor, from the lowest up; inches. */
  readonly levelsIn: readonly number[];
  /** Node of a bay at a level, by bay and level; -1 where an opening or its header is in the way. */
  readonly nodeAt: Int32Array;
}

/** What an edge goes through or along. */
export type EdgeKind = 'studs' | 'rise' | 'corner' | 'plate' | 'along' | 'across' | 'over';
export const EDGE_KINDS: readonly EdgeKind[] = [
  'studs',
  'rise',
  'corner',
  'plate',
  'along',
  'across',
  'over',
];

/**
 * Where cable can go in a house: walls by bay and height, ceilings and floors by the spaces between their joists. Edges run both ways.
 * What it costs depends on the cable: by minutes of boring, other minutes, and feet that take so many times as long.
 */
export interface FramingGraph {
  readonly stack: readonly StackedStorey[];
  /** Rooms that are drawn. */
  readonly drawn: ReadonlySet<string>;
  readonly walls: readonly GraphWall[];
  readonly planes: readonly CeilingPlane[];
  /** First node of each plane. */
  readonly planeFirst: readonly number[];
  readonly nodeCount: number;
  /** By node: the wall, or below zero the plane (-1 for the first); its bay or column; its level or row. */
  readonly nodeSpace: Int32Array;
  readonly nodeA: Int32Array;
  readonly nodeB: Int32Array;
  /** Edges that leave a node: from `first[node]` to `first[node + 1]` in `to` and `edge`. */
  readonly first: Int32Array;
  readonly to: Int32Array;
  readonly edge: Int32Array;
  /** By edge. */
  readonly edgeKind: Uint8Array;
  readonly edgeLengthIn: Float64Array;
  /** Minutes of boring, which take longer with a heavy cable. */
  readonly edgeBoring: Float64Array;
  /** Minutes that are the same for every cable, and what the house's school weighs. */
  readonly edgeMinutes: Float64Array;
  /** A foot takes so many times as long as in a wall. */
  readonly edgeTimes: Float64Array;
  /** Decides between ways that cost the same. */
  readonly edgeTie: Uint16Array;
  /** The stretches of wall that a room sees of the wall that begins at a corner. */
  readonly faces: ReadonlyMap<string, readonly FaceOn[]>;
  /** Planes over a room and under it. */
  readonly over: ReadonlyMap<string, number>;
  readonly under: ReadonlyMap<string, number>;
}

/** A stretch of the face of a room's wall, on a wall of the graph. */
export interface FaceOn {
  readonly wall: number;
  readonly side: 'left' | 'right';
  readonly fromIn: number;
  readonly toIn: number;
}

export const faceKey = (roomId: string, corner: string): string => `${roomId} ${corner}`;

const placeOn = ({ a, b, lengthIn }: Wall, alongIn: number, leftIn = 0): Place => {
  const [dx, dy] = [(b.xIn - a.xIn) / lengthIn, (b.yIn - a.yIn) / lengthIn];
  return { xIn: a.xIn + dx * alongIn - dy * leftIn, yIn: a.yIn + dy * alongIn + dx * leftIn };
};
/** A place so far along a wall. */
export const alongWall = (wall: Wall, alongIn: number): Place => placeOn(wall, alongIn);

/** So far into a room a ceiling is looked for that lies over it. Inches. */
const INTO_IN = 6;

class Builder {
  private readonly ends: number[] = [];
  readonly kind: number[] = [];
  readonly lengthIn: number[] = [];
  readonly boring: number[] = [];
  readonly minutes: number[] = [];
  readonly times: number[] = [];
  readonly tie: number[] = [];
  readonly space: number[] = [];
  readonly a: number[] = [];
  readonly b: number[] = [];

  node(space: number, a: number, b: number): number {
    this.space.push(space);
    this.a.push(a);
    this.b.push(b);
    return this.space.length - 1;
  }

  join(
    one: number,
    other: number,
    kind: EdgeKind,
    lengthIn: number,
    { boring = 0, minutes = 0, times = 1, tie = 0 } = {},
  ): void {
    this.ends.push(one, other);
    this.kind.push(EDGE_KINDS.indexOf(kind));
    this.lengthIn.push(lengthIn);
    this.boring.push(boring);
    this.minutes.push(minutes);
    this.times.push(times);
    this.tie.push(tie);
  }

  /** Edges by the node that they leave. */
  leaving(): Pick<FramingGraph, 'first' | 'to' | 'edge'> {
    const first = new Int32Array(this.space.length + 1);
    for (const end of this.ends) first[end + 1]!++;
    for (let node = 0; node < this.space.length; node++) first[node + 1]! += first[node]!;
    const next = first.slice();
    const [to, edge] = [new Int32Array(this.ends.length), new Int32Array(this.ends.length)];
    for (let at = 0; at < this.ends.length; at += 2) {
      const [one, other] = [this.ends[at]!, this.ends[at + 1]!];
      to[next[one]!] = other;
      edge[next[one]!++] = at / 2;
      to[next[other]!] = one;
      edge[next[other]!++] = at / 2;
    }
    return { first, to, edge };
  }
}

/** Heights of rows of holes of a story: low, over switches, along the top. Those that would stand in each other are one. */
function levelsOf(reader: HouseReader, { ceilingIn }: StackedStorey): number[] {
  const rules = reader.rules();
  const chain = rules.text('route.chain');
  const top = Math.max(6, ceilingIn - rules.number('route.plates') - rules.number('route.underPlate'));
  const low = chain === 'box' ? rules.number('height.receptacle') : rules.number('route.height');
  const wanted = chain === 'top' ? [top] : [low, rules.number('route.switchHeight'), top];
  return wanted.filter((at, index) => at > 3 && at <= top && (index === wanted.length - 1 || at < top - 6));
}

/** By house id. */
const GRAPH: Derivation<FramingGraph> = {
  name: 'framing graph',
  compute: (reader) => {
    const rules = reader.rules();
    const minutes = boringMinutes(reader);
    const prefer = rules.text('route.prefer');
    const perStud = prefer === 'over' ? rules.number('route.price.over') : 0;
    const perPlate = prefer === 'stay' ? rules.number('route.price.stay') : 0;
    const ladder = rules.number('route.minutesLadder');
    const headerIn = rules.number('route.header');
    const atticTimes = rules.number('route.attic.times');
    const storeys = storeyStack(reader);
    const graph = new Builder();

    const walls: GraphWall[] = [];
    const faces = new Map<string, FaceOn[]>();
    for (const storey of storeys) {
      const levelsIn = levelsOf(reader, storey);
      for (const framed of framedWalls(reader, storey.id)) {
        const bayed = baysOf(reader, framed);
        const { a, b } = framed.wall;
        const nodeAt = new Int32Array(bayed.bays.length * levelsIn.length).fill(-1);
        const index = walls.length;
        bayed.bays.forEach((own, bay) => {
          levelsIn.forEach((heightIn, level) => {
            const met = metInBay(own, heightIn, headerIn);
            if (met === 'free' || met === 'may-bore')
              nodeAt[bay * levelsIn.length + level] = graph.node(index, bay, level);
          });
        });
        const key = [storey.id, ...[a.xIn, a.yIn, b.xIn, b.yIn].map((one) => one.toFixed(1))].join(' ');
        walls.push({ ...bayed, key, storey, levelsIn, nodeAt });
        for (const side of ['left', 'right'] as const) {
          const face = framed.wall[side];
          if (!face) continue;
          const at = faceKey(face.roomId, face.corner);
          const on = { wall: index, side, fromIn: face.fromIn, toIn: face.toIn };
          faces.set(at, [...(faces.get(at) ?? []), on]);
        }
      }
    }

    const { planes, over, under } = planesOf(reader, storeys);
    const planeFirst = planes.map((plane, at) => {
      const start = graph.space.length;
      for (let row = 0; row < plane.rows; row++)
        for (let column = 0; column < plane.columns; column++)
          if (plane.nodeAt[row * plane.columns + column]! >= 0) graph.node(-1 - at, column, row);
      return start;
    });

    // Through studs, and up and down in a bay.
    walls.forEach(({ framed, bays, members, levelsIn, nodeAt }, at) => {
      const levels = levelsIn.length;
      // A wall rather than another one that costs the same: always the same one.
      const own = at % 16;
      bays.forEach((inBay, bay) => {
        const { fromIn, toIn, openings } = inBay;
        for (let level = 0; level < levels; level++) {
          const here = nodeAt[bay * levels + level]!;
          if (here < 0) continue;
          const above = level + 1 < levels ? nodeAt[bay * levels + level + 1]! : -1;
          if (above >= 0 && openings.length === 0)
            graph.join(here, above, 'rise', levelsIn[level + 1]! - levelsIn[level]!);
          const next = bay + 1 < bays.length ? nodeAt[(bay + 1) * levels + level]! : -1;
          if (next < 0) continue;
          const bored: Bored = [inBay, bays[bay + 1]!].some(
            (one) => metInBay(one, levelsIn[level]!, headerIn) === 'may-bore',
          )
            ? 'header'
            : members[bay]!.kind;
          graph.join(here, next, 'studs', (bays[bay + 1]!.toIn - fromIn) / 2, {
            boring: minutes[bored],
            minutes: perStud,
            tie: 1 + level * 16 + own,
          });
        }
        const { wall } = framed;
        const { storey } = walls[at]!;
        const planesBy = (by: ReadonlyMap<string, number>): { plane: number; place: Place }[] => {
          const found = (['left', 'right'] as const).flatMap((side) => {
            const face = wall[side];
            const plane = face && by.get(face.roomId);
            if (plane === undefined) return [];
            const [on, into] = [0, side === 'left' ? INTO_IN : -INTO_IN].map((by) =>
              placeOn(wall, (fromIn + toIn) / 2, by),
            ) as [Place, Place];
            // Where a beam lies on the wall nothing comes up through its plate.
            return beamBetween(planes[plane]!, on, into) === 'blocked' ? [] : [{ plane, place: into }];
          });
          return found.filter(({ plane }, index) => found.findIndex((one) => one.plane === plane) === index);
        };
        const throughPlate = (level: number, floorToHole: number, by: ReadonlyMap<string, number>): void => {
          const node = nodeAt[bay * levels + level]!;
          if (node < 0) return;
          for (const { plane, place } of planesBy(by)) {
            const cell = nodeNear(planes[plane]!, place);
            if (cell === undefined) continue;
            const lengthIn = Math.abs(planes[plane]!.heightIn - storey.floorIn - floorToHole);
            graph.join(node, planeFirst[plane]! + cell, 'plate', lengthIn, {
              boring: minutes.plate,
              minutes: ladder + perPlate,
              tie: own,
            });
          }
        };
        const [low, top] = [0, levels - 1];
        // Nothing goes up through what stands over an opening, nor down through a doorway.
        if (
          metInBay(inBay, levelsIn[top]!, headerIn) === 'free' &&
          isOneSide(inBay, levelsIn[top]!, Infinity)
        )
          throughPlate(top, levelsIn[top]!, over);
        if (metInBay(inBay, levelsIn[low]!, headerIn) === 'free' && isOneSide(inBay, levelsIn[low]!, -1))
          throughPlate(low, levelsIn[low]!, under);
      });
    });

    // From wall to wall, round their corners and on in their line.
    const meeting = new Map<string, { wall: number; isEnd: boolean }[]>();
    walls.forEach(({ framed: { wall }, storey }, at) => {
      for (const isEnd of [false, true]) {
        const { xIn, yIn } = isEnd ? wall.b : wall.a;
        const key = `${storey.id} ${xIn.toFixed(2)} ${yIn.toFixed(2)}`;
        meeting.set(key, [...(meeting.get(key) ?? []), { wall: at, isEnd }]);
      }
    });
    const away = ({ wall, isEnd }: { wall: number; isEnd: boolean }) => {
      const { a, b, lengthIn } = walls[wall]!.framed.wall;
      const turn = isEnd ? -1 : 1;
      return { x: (turn * (b.xIn - a.xIn)) / lengthIn, y: (turn * (b.yIn - a.yIn)) / lengthIn };
    };
    for (const ends of meeting.values())
      ends.forEach((one, index) => {
        for (const other of ends.slice(index + 1)) {
          const [w1, w2] = [walls[one.wall]!, walls[other.wall]!];
          const [b1, b2] = [one.isEnd ? w1.bays.length - 1 : 0, other.isEnd ? w2.bays.length - 1 : 0];
          const half = ({ bays }: GraphWall, bay: number): number =>
            (bays[bay]!.toIn - bays[bay]!.fromIn) / 2;
          const [d1, d2] = [away(one), away(other)];
          const isStraight = d1.x * d2.x + d1.y * d2.y < -0.95;
          for (let level = 0; level < w1.levelsIn.length; level++) {
            const n1 = w1.nodeAt[b1 * w1.levelsIn.length + level]!;
            const n2 = w2.nodeAt[b2 * w2.levelsIn.length + level]!;
            if (n1 < 0 || n2 < 0) continue;
            // In line: the two end studs, with what backs the wall that meets them; round: the solid corner.
            graph.join(n1, n2, isStraight ? 'studs' : 'corner', half(w1, b1) + half(w2, b2), {
              boring: isStraight ? 2 * minutes.stud : minutes.corner,
              minutes: isStraight ? 2 * perStud : perStud,
              tie: 1 + level * 16 + (one.wall % 16),
            });
          }
        }
      });

    // Along joists, and across them.
    planes.forEach((plane, at) => {
      const start = planeFirst[at]!;
      const times = plane.kind === 'floor' ? 1 : plane.kind === 'roof' ? 1.2 * atticTimes : atticTimes;
      const [columns, rows] = [plane.columns, plane.rows];
      const each = plane.cellIn / plane.joistsIn;
      for (let row = 0; row < rows; row++)
        for (let column = 0; column < columns; column++) {
          const here = plane.nodeAt[row * columns + column]!;
          if (here < 0) continue;
          for (const [dx, dy] of [
            [1, 0],
            [0, 1],
          ] as const) {
            if (column + dx >= columns || row + dy >= rows) continue;
            const next = plane.nodeAt[(row + dy) * columns + column + dx]!;
            if (next < 0) continue;
            const isAlong = (dx === 1) === (plane.along === 'x');
            if (!isAlong && plane.crossing === 'none') continue;
            const beam = beamBetween(
              plane,
              cellMiddle(plane, column, row),
              cellMiddle(plane, column + dx, row + dy),
            );
            if (beam === 'blocked') continue;
            // Everything that crosses does so in one line, the one nearest the middle: no stairs.
            const line = dx === 1 ? row : column;
            const middle = (dx === 1 ? rows : columns) / 2;
            graph.join(
              start + here,
              start + next,
              isAlong ? 'along' : plane.crossing === 'over' ? 'over' : 'across',
              plane.cellIn,
              {
                boring:
                  (isAlong || plane.crossing !== 'bored' ? 0 : each * minutes.joist) +
                  (beam === 'bored' ? minutes.beam : 0),
                times,
                tie: isAlong
                  ? 0
                  : Math.min(900, Math.round(Math.abs(line - middle) * 2)) * 2 + (line > middle ? 1 : 0),
              },
            );
          }
        }
    });

    return {
      stack: storeys,
      drawn: new Set(
        walls.flatMap(({ framed: { wall } }) =>
          [wall.left, wall.right].flatMap((face) => face?.roomId ?? []),
        ),
      ),
      walls,
      planes,
      planeFirst,
      nodeCount: graph.space.length,
      nodeSpace: Int32Array.from(graph.space),
      nodeA: Int32Array.from(graph.a),
      nodeB: Int32Array.from(graph.b),
      ...graph.leaving(),
      edgeKind: Uint8Array.from(graph.kind),
      edgeLengthIn: Float64Array.from(graph.lengthIn),
      edgeBoring: Float64Array.from(graph.boring),
      edgeMinutes: Float64Array.from(graph.minutes),
      edgeTimes: Float64Array.from(graph.times),
      edgeTie: Uint16Array.from(graph.tie),
      faces,
      over,
      under,
    };
  },
};

/** Where cable can go in a house: by what is built, whatever hangs in it. */
export const framingGraph = (reader: HouseReader): FramingGraph => reader.derive(GRAPH, reader.houseId);
