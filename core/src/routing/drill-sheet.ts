import type { Derivation, HouseReader } from '../derive/reader.js';
import type { WorkRecord } from '../house/model.js';
import { contains } from '../plan/outline.js';
import { builtStorey, outlineOf } from '../plan/storey-plan.js';
import { facesOf } from '../plan/wall-depths.js';
import { wallsOfRoom } from '../plan/wall-runs.js';
import type { WallFace } from '../plan/walls.js';
import type { Steps } from '../structures/steps.js';
import { cutOf } from './cut.js';
import type { WallWay } from './wall-stretch.js';
import { stretchesOf } from './wall-stretch.js';
import type { FramingGraph } from './framing-graph.js';
import { framingGraph } from './framing-graph.js';
import type { Hole } from './holes.js';
import { boredMembers, holesIn } from './holes.js';

/** What a hand ticks of a wall: its holes are bored and plated; what goes through its plates is sealed. */
export const DRILLED_STEP = 'drilled-and-plated';
export const SEALED_STEP = 'sealed';

/** A hole, by where it is from the right corner of the wall as one faces it; of a ceiling, along its joists nobody measures. Inches. */
export interface DrillHole {
  readonly fromCornerIn?: number;
  readonly hole: Hole;
}

/** Holes of one size in one row: through studs at one height, through the top or sole plates, through joists. */
export interface DrillRow {
  readonly through: 'studs' | 'corner' | 'header' | 'top-plate' | 'sole-plate' | 'joists' | 'beam';
  /** Of studs: over the floor. */
  readonly heightIn?: number;
  readonly diameterIn: number;
  readonly holes: readonly DrillHole[];
}

/** A wall of a room that is drilled, or what is over it. A wall between two rooms is on the sheet of the one that is walked first. */
export interface DrillWall {
  readonly roomId: string;
  readonly corner?: string;
  /** Number on the way round the room, from 1, and how long the room sees it. */
  readonly number?: number;
  readonly lengthIn?: number;
  /** Where its face begins, along the center line from its corner. */
  readonly startIn?: number;
  readonly rows: readonly DrillRow[];
  readonly holes: number;
  readonly plates: number;
  readonly toSeal: number;
  /** The latest ticks; what they said of how many holes there were. */
  readonly drilled?: WorkRecord;
  readonly sealed?: WorkRecord;
}

export interface DrillSheet {
  readonly walls: readonly DrillWall[];
  readonly done: number;
}

interface Drilled {
  readonly roomId: string;
  readonly corner?: string;
  /** Along the center line of the room's wall, from its corner. */
  readonly alongIn?: number;
  readonly hole: Hole;
}

/** The face under which a wall is drilled: of the room that is walked first. */
function faceOf(reader: HouseReader, graph: FramingGraph, wall: number): WallFace | undefined {
  const { left, right } = graph.walls[wall]!.framed.wall;
  const order = (face: WallFace): number => reader.get('rooms', face.roomId)?.order ?? Infinity;
  if (!left || !right) return left ?? right;
  return order(left) <= order(right) ? left : right;
}

/** By house id: every hole with the room on whose sheet it stands. */
const DRILLED: Derivation<ReadonlyMap<string, readonly Drilled[]>> = {
  name: 'holes by room',
  compute: (reader) => {
    const graph = framingGraph(reader);
    const byRoom = new Map<string, Drilled[]>();
    const put = (one: Drilled): void => {
      const own = byRoom.get(one.roomId);
      if (own) own.push(one);
      else byRoom.set(one.roomId, [one]);
    };
    const faces = graph.walls.map((_wall, at) => faceOf(reader, graph, at));
    for (const member of boredMembers(reader))
      for (const hole of holesIn(reader, member)) {
        const { wall, plane, atIn, spot } = hole.at;
        if (wall !== undefined) {
          const face = faces[wall];
          if (!face) continue;
          const isLeft = graph.walls[wall]!.framed.wall.left === face;
          put({
            roomId: face.roomId,
            corner: face.corner,
            alongIn: isLeft ? face.fromIn + atIn : face.toIn - atIn,
            hole,
          });
        } else if (plane !== undefined) {
          const { rooms } = builtStorey(reader, graph.planes[plane]!.storeyId);
          const under = rooms.find(({ outline }) => contains(outline, spot)) ?? rooms[0];
          if (under) put({ roomId: under.id, hole });
        }
      }
    return byRoom;
  },
};

const THROUGH: Readonly<Record<Hole['at']['bored'], DrillRow['through']>> = {
  stud: 'studs',
  king: 'studs',
  cripple: 'studs',
  corner: 'corner',
  header: 'header',
  plate: 'top-plate',
  joist: 'joists',
  beam: 'beam',
};

function rowsOf(of: readonly Drilled[], startIn: number): DrillRow[] {
  const rows = new Map<string, { -readonly [K in keyof DrillRow]: DrillRow[K] } & { holes: DrillHole[] }>();
  for (const { hole, alongIn } of of) {
    const through = hole.at.plate === 'sole' ? 'sole-plate' : THROUGH[hole.at.bored];
    const heightIn = through === 'studs' || through === 'corner' ? hole.at.heightIn : undefined;
    const key = `${through} ${heightIn ?? ''} ${hole.diameterIn}`;
    let row = rows.get(key);
    if (!row)
      rows.set(
        key,
        (row = {
          through,
          ...(heightIn !== undefined && { heightIn }),
          diameterIn: hole.diameterIn,
          holes: [],
        }),
      );
    row.holes.push({ ...(alongIn !== undefined && { fromCornerIn: Math.max(0, alongIn - startIn) }), hole });
  }
  const order: readonly DrillRow['through'][] = [
    'studs',
    'corner',
    'header',
    'top-plate',
    'sole-plate',
    'joists',
    'beam',
  ];
  return [...rows.values()]
    .map((row) => ({
      ...row,
      holes: row.holes.toSorted(
        (a, b) => (a.fromCornerIn ?? 0) - (b.fromCornerIn ?? 0) || a.hole.number - b.hole.number,
      ),
    }))
    .sort(
      (a, b) =>
        order.indexOf(a.through) - order.indexOf(b.through) ||
        (a.heightIn ?? 0) - (b.heightIn ?? 0) ||
        a.diameterIn - b.diameterIn,
    );
}

/** By room id. */
const DRILL_SHEET: Derivation<DrillSheet> = {
  name: 'drill sheet',
  compute: (reader, roomId) => {
    const room = reader.get('rooms', roomId);
    const drilled = reader.derive(DRILLED, reader.houseId).get(roomId) ?? [];
    const outline = room && outlineOf(room);
    const walls = outline ? wallsOfRoom(outline, facesOf(reader, roomId)) : [];
    const ticks = reader.mentioning('records', roomId).filter(({ kind }) => kind === 'tick');
    const tick = (step: string, corner: string | undefined): WorkRecord | undefined =>
      ticks.findLast((one) => one.step === step && one.corner === corner);
    const sheet = [...walls.map(({ corner }) => corner), undefined].flatMap((corner): DrillWall[] => {
      const of = drilled.filter((one) => one.corner === corner);
      if (!of.length) return [];
      const at = walls.findIndex((wall) => wall.corner === corner);
      const wall = walls[at];
      const isDrilled = tick(DRILLED_STEP, corner);
      const isSealed = tick(SEALED_STEP, corner);
      return [
        {
          roomId,
          ...(corner !== undefined && { corner }),
          ...(wall && { number: at + 1, lengthIn: wall.lengthIn, startIn: wall.startIn }),
          rows: rowsOf(of, wall?.startIn ?? 0),
          holes: of.length,
          plates: of.filter(({ hole }) => hole.needsPlate).length,
          toSeal: of.filter(({ hole }) => hole.isSealed).length,
          ...(isDrilled && { drilled: isDrilled }),
          ...(isSealed && { sealed: isSealed }),
        },
      ];
    });
    return {
      walls: sheet,
      done: sheet.filter(({ drilled: is, sealed, toSeal }) => is && (sealed || toSeal === 0)).length,
    };
  },
};

/** What is drilled, plated and sealed for the ways of all runs, on the walls and over the ceiling of a room. */
export const drillSheet = (reader: HouseReader, roomId: string): DrillSheet =>
  reader.derive(DRILL_SHEET, roomId);

export interface DrillLook {
  readonly sheet: DrillSheet;
  readonly ways: readonly WallWay[];
}

/** The drill sheet of a room, with the ways that go through its walls; run by run, so that somebody can be heard in between. */
export function* drillLook(reader: HouseReader, roomId: string): Steps<DrillLook> {
  for (const { id } of reader.all('runs')) {
    cutOf(reader, { id });
    yield;
  }
  const ways = reader
    .all('runs')
    .flatMap((run) => stretchesOf(reader, run.id).filter((stretch) => stretch.roomId === roomId));
  return { sheet: drillSheet(reader, roomId), ways };
}
