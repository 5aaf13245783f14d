import { union } from 'polyclip-ts';
import type { SingleChangeBody } from '../changes/change.js';
import { adding, removing, setting } from '../changes/change.js';
import type { HouseReader } from '../derive/reader.js';
import type { Room } from '../house/model.js';
import { nearestWall } from './arrange.js';
import type { Corner, Outline, OutlineProblem, Place } from './outline.js';
import {
  SNAP_IN,
  contains,
  counterClockwise,
  distance,
  outlineProblem,
  placeAlong,
  signedArea,
} from './outline.js';
import { outlineOf, placeOfBox } from './storey-plan.js';

/** Why an outline was not changed. */
export type EditProblem = OutlineProblem | 'apart' | 'no-such-wall';
export type Edited =
  | { readonly ok: true; readonly changes: readonly SingleChangeBody[] }
  | { readonly ok: false; readonly problem: EditProblem };

const failed = (problem: EditProblem): Edited => ({ ok: false, problem });
const indexOf = (outline: Outline, cornerId: string): number =>
  outline.findIndex(({ id }) => id === cornerId);

/** A name for a corner that no corner of the outline bears: what stood on a wall that is gone is not found on another. */
function newCornerId(outline: Outline): string {
  const numbers = outline.map(({ id }) => Number(/^c(\d+)$/.exec(id)?.[1] ?? -1));
  return `c${Math.max(-1, ...numbers) + 1}`;
}

/** A number drawn to the nearest of some others within reach. */
const drawnTo = (value: number, others: readonly number[], reachIn: number): number => {
  const near = others.filter((other) => Math.abs(other - value) <= reachIn);
  return near.length ? near.reduce((a, b) => (Math.abs(b - value) < Math.abs(a - value) ? b : a)) : value;
};

/** The outline with a corner elsewhere, drawn to the lines of its neighbors and of other rooms' corners within reach. Inches. */
export function cornerMoved(
  outline: Outline,
  cornerId: string,
  to: Place,
  others: readonly Outline[] = [],
  reachIn = 0,
): Outline {
  const lines = [...outline.filter(({ id }) => id !== cornerId), ...others.flat()];
  const place = {
    xIn: drawnTo(
      to.xIn,
      lines.map(({ xIn }) => xIn),
      reachIn,
    ),
    yIn: drawnTo(
      to.yIn,
      lines.map(({ yIn }) => yIn),
      reachIn,
    ),
  };
  return outline.map((corner) => (corner.id === cornerId ? { ...corner, ...place } : corner));
}

/** The outline with the wall that begins at a corner moved out (or in, below zero) by so many inches, square to itself. */
export function wallMoved(
  outline: Outline,
  cornerId: string,
  outIn: number,
  others: readonly Outline[] = [],
  reachIn = 0,
): Outline {
  const at = indexOf(outline, cornerId);
  const [a, b] = [outline[at], outline[(at + 1) % outline.length]];
  if (!a || !b) return outline;
  const length = distance(a, b);
  // The room lies to the left of the way along: outward is to the right.
  const [nx, ny] = [(b.yIn - a.yIn) / length, -(b.xIn - a.xIn) / length];
  const along = ({ xIn, yIn }: Place): number => xIn * nx + yIn * ny;
  const target = drawnTo(along(a) + outIn, others.flat().map(along), reachIn);
  const by = target - along(a);
  const moved = (corner: Corner): Corner => ({
    ...corner,
    xIn: corner.xIn + nx * by,
    yIn: corner.yIn + ny * by,
  });
  return outline.map((corner) => (corner === a || corner === b ? moved(corner) : corner));
}

/** The outline with one more corner in a wall, so far along it; what stands beyond it stands on a wall of another name from then on. */
export function cornerAdded(outline: Outline, cornerId: string, alongIn: number): Outline {
  const at = indexOf(outline, cornerId);
  const place = placeAlong(outline, cornerId, alongIn);
  if (!place) return outline;
  const { xIn, yIn } = place;
  return outline.toSpliced(at + 1, 0, { id: newCornerId(outline), xIn, yIn });
}

export const cornerRemoved = (outline: Outline, cornerId: string): Outline =>
  outline.filter(({ id }) => id !== cornerId);

const written = (outline: Outline): NonNullable<Room['outline']> =>
  outline.map(({ id, xIn, yIn }) => ({ id, xIn, yIn }));

/** Things that stand nearer than this to a wall of the new outline stand on it. Inches. */
const ON_WALL_IN = 6;

interface Target {
  readonly roomId: string;
  readonly outline: Outline;
}

/**
 * What stands in some rooms, stood anew on the walls of their new outlines where it was on the plan. Boxes whose wall is gone keep
 * their room and have no place; openings and bands of a wall that is gone go with it.
 */
function stoodAnew(
  reader: HouseReader,
  from: readonly Room[],
  targets: readonly Target[],
): SingleChangeBody[] {
  const seat = (place: Place, preferred: string) =>
    targets
      .flatMap(({ roomId, outline }) => {
        const wall = nearestWall(outline, place);
        return wall && wall.besideIn <= ON_WALL_IN ? [{ roomId, ...wall }] : [];
      })
      .toSorted(
        (a, b) =>
          Math.round(a.besideIn - b.besideIn) ||
          Number(b.roomId === preferred) - Number(a.roomId === preferred),
      )[0];
  const round = (inches: number): number => Math.round(inches * 1000) / 1000;
  const first = targets[0]!.roomId;
  return from.flatMap((room): SingleChangeBody[] => {
    const outline = outlineOf(room)!;
    const stays = targets.some(({ roomId }) => roomId === room.id) ? room.id : first;
    const boxes = reader.mentioning('boxes', room.id).flatMap((box): SingleChangeBody[] => {
      const place = placeOfBox(outline, box);
      const corner = box.corner;
      if (!place) return stays === room.id ? [] : [setting('boxes', box.id, { roomId: stays })];
      if (corner === undefined) {
        const inside = targets.find((target) => contains(target.outline, place))?.roomId ?? stays;
        return inside === room.id ? [] : [setting('boxes', box.id, { roomId: inside })];
      }
      const at = seat(place, room.id);
      if (!at) return [setting('boxes', box.id, { roomId: stays, corner: null, alongIn: null })];
      if (at.roomId === room.id && at.corner === corner && Math.abs(at.alongIn - box.alongIn!) < 0.01)
        return [];
      return [
        setting('boxes', box.id, {
          roomId: at.roomId,
          corner: at.corner,
          alongIn: round(at.alongIn),
        }),
      ];
    });
    const spans = (['openings', 'bands'] as const).flatMap((table) =>
      reader.mentioning(table, room.id).flatMap((record): SingleChangeBody[] => {
        const corner = record.corner;
        const middle =
          corner === undefined || record.alongIn === undefined
            ? undefined
            : placeAlong(outline, corner, record.alongIn + record.widthIn / 2);
        if (!middle) return stays === room.id ? [] : [setting(table, record.id, { roomId: stays })];
        const at = seat(middle, room.id);
        if (!at) return [removing(table, record.id)];
        const alongIn = round(Math.max(0, at.alongIn - record.widthIn / 2));
        if (at.roomId === room.id && at.corner === corner && Math.abs(alongIn - record.alongIn!) < 0.01)
          return [];
        return [setting(table, record.id, { roomId: at.roomId, corner: at.corner, alongIn })];
      }),
    );
    return [...boxes, ...spans];
  });
}

/** A room with another outline: what stands on walls of which the corner stays is measured from there, all else stands where it was. */
export function withOutline(reader: HouseReader, room: Room, outline: Outline, standsAnew: boolean): Edited {
  const problem = outlineProblem(outline);
  if (problem) return failed(problem);
  return {
    ok: true,
    changes: [
      setting('rooms', room.id, { outline: written(outline) }),
      ...(standsAnew && outlineOf(room) ? stoodAnew(reader, [room], [{ roomId: room.id, outline }]) : []),
    ],
  };
}

/** A place on a wall, to split a room at. */
export interface SplitAt {
  readonly corner: string;
  readonly alongIn: number;
}

/**
 * A room split in two along a line from wall to wall. The larger part stays the room it was; the other is a new one of the id that is
 * given, next in walking order. Inches.
 */
export function splitRoom(
  reader: HouseReader,
  room: Room,
  [one, other]: readonly [SplitAt, SplitAt],
  newRoom: Pick<Room, 'id' | 'name' | 'kind'>,
): Edited {
  const outline = outlineOf(room);
  if (!outline) return failed('few-corners');
  const [p, q] = [one, other].map(({ corner, alongIn }) => placeAlong(outline, corner, alongIn));
  if (!p || !q || one.corner === other.corner) return failed('no-such-wall');
  const [from, to] = [indexOf(outline, one.corner), indexOf(outline, other.corner)];
  const ids = [newCornerId(outline)];
  ids.push(newCornerId([...outline, { id: ids[0]!, xIn: 0, yIn: 0 }]));
  const corner = (id: string, { xIn, yIn }: Place): Corner => ({ id, xIn, yIn });
  /** From p along the walls to q, and the way back is the new wall. */
  const part = (start: number, end: number, begin: Corner, finish: Corner): Outline => {
    const between: Corner[] = [];
    for (let at = start; at !== end; at = (at + 1) % outline.length)
      between.push(outline[(at + 1) % outline.length]!);
    return [begin, ...between, finish];
  };
  const [cp, cq] = [corner(ids[0]!, p), corner(ids[1]!, q)];
  const parts = [part(from, to, cp, cq), part(to, from, cq, cp)].map((ring) =>
    // A split at a corner itself leaves no wall of no length.
    ring.filter((own, at) => distance(own, ring[(at + 1) % ring.length]!) > SNAP_IN),
  );
  for (const ring of parts) {
    const problem = outlineProblem(ring);
    if (problem) return failed(problem);
    if (signedArea(ring) <= 0) return failed('crossing');
  }
  const [large, small] =
    signedArea(parts[0]!) >= signedArea(parts[1]!) ? [parts[0]!, parts[1]!] : [parts[1]!, parts[0]!];
  const next = reader
    .mentioning('rooms', room.storeyId)
    .map(({ order }) => order)
    .filter((order) => order > room.order);
  const order = next.length ? (room.order + Math.min(...next)) / 2 : Math.min(100_000, room.order + 1);
  const targets = [
    { roomId: room.id, outline: large },
    { roomId: newRoom.id, outline: small },
  ];
  return {
    ok: true,
    changes: [
      adding('rooms', { ...newRoom, storeyId: room.storeyId, order, outline: written(small) }),
      setting('rooms', room.id, { outline: written(large) }),
      ...stoodAnew(reader, [room], targets),
    ],
  };
}

/** Corners in one line with their neighbors are none. */
function withoutNeedless(ring: readonly Place[]): Place[] {
  return ring.filter((place, at) => {
    const [a, b] = [ring.at(at - 1)!, ring[(at + 1) % ring.length]!];
    const cross = (place.xIn - a.xIn) * (b.yIn - a.yIn) - (place.yIn - a.yIn) * (b.xIn - a.xIn);
    return Math.abs(cross) / (distance(a, b) || 1) > 1e-6;
  });
}

/** Two rooms of a story as one, the first of them: the wall between is gone, and doors in it. What belonged to the other is the first's. */
export function joinRooms(reader: HouseReader, room: Room, other: Room): Edited {
  const [own, its] = [outlineOf(room), outlineOf(other)];
  if (!own || !its || room.storeyId !== other.storeyId) return failed('apart');
  // Corners that are within reach of the other's are the same.
  const close = its.map((corner) => {
    const near = own.find((mine) => distance(mine, corner) <= SNAP_IN);
    return { ...corner, xIn: near?.xIn ?? corner.xIn, yIn: near?.yIn ?? corner.yIn };
  });
  const ring = (outline: Outline): [number, number][] => outline.map(({ xIn, yIn }) => [xIn, yIn]);
  const all = union([ring(own)], [ring(close)]);
  const [only] = all;
  if (all.length !== 1 || !only) return failed('apart');
  if (only.length !== 1) return failed('crossing');
  const places = withoutNeedless(only[0]!.slice(0, -1).map(([xIn, yIn]) => ({ xIn: xIn!, yIn: yIn! })));
  const outline: Corner[] = [];
  for (const place of places) {
    const known = own.find(
      (corner) => distance(corner, place) <= SNAP_IN && !outline.some(({ id }) => id === corner.id),
    );
    outline.push({ id: known?.id ?? newCornerId([...own, ...outline]), ...place });
  }
  const joined = counterClockwise(outline);
  const problem = outlineProblem(joined);
  if (problem) return failed(problem);
  return {
    ok: true,
    changes: [
      setting('rooms', room.id, { outline: written(joined) }),
      ...stoodAnew(reader, [room, other], [{ roomId: room.id, outline: joined }]),
      ...reader
        .mentioning('asks', other.id)
        .filter(({ roomId }) => roomId === other.id)
        .map(({ id }) => setting('asks', id, { roomId: room.id })),
      removing('rooms', other.id, true),
    ],
  };
}
