import type { Derivation, HouseReader } from '../derive/reader.js';
import type { Box, Opening, Room } from '../house/model.js';
import type { Outline, OutlineProblem, Place } from './outline.js';
import { counterClockwise, outlineProblem, placeAlong } from './outline.js';
import type { StoreyWalls } from './walls.js';
import { wallsOf } from './walls.js';

/** The outline of a room, counter-clockwise, with a name for each corner; undefined where it has none. */
export const outlineOf = ({ outline }: Pick<Room, 'outline'>): Outline | undefined =>
  outline && counterClockwise(outline);

/** A box on the plan: its middle, and which way it faces; a ceiling box faces nowhere. */
export interface PlacedBox extends Place {
  readonly boxId: string;
  /** Direction of the wall in radians, counter-clockwise from x; the room lies to its left. */
  readonly angle?: number;
  /** It stands beyond the end of its wall, after an edit. */
  readonly isOff: boolean;
}

export interface PlacedOpening {
  readonly openingId: string;
  readonly roomId: string;
  readonly a: Place;
  readonly b: Place;
  readonly isOff: boolean;
  /** What of it lies in its wall: one that reaches past the end cuts no other. */
  readonly cuts: readonly [a: Place, b: Place];
}

/** What is built of a story, whatever is hung in it. */
export interface BuiltStorey extends StoreyWalls {
  readonly rooms: readonly { readonly id: string; readonly outline: Outline }[];
  readonly openings: readonly PlacedOpening[];
  /** Rooms without an outline, and those whose outline encloses no room. */
  readonly without: readonly string[];
  readonly wrong: readonly { readonly roomId: string; readonly problem: OutlineProblem }[];
}

export interface StoreyPlan extends BuiltStorey {
  readonly boxes: readonly PlacedBox[];
}

/** Where a box stands on the plan; undefined while it has no place, or its wall is gone. */
export function placeOfBox(outline: Outline | undefined, box: Box): PlacedBox | undefined {
  const { corner } = box;
  if (corner !== undefined && box.alongIn !== undefined && outline) {
    const at = placeAlong(outline, corner, box.alongIn);
    if (!at) return undefined;
    return {
      boxId: box.id,
      xIn: at.xIn,
      yIn: at.yIn,
      angle: box.facesOut ? at.angle + Math.PI : at.angle,
      isOff: box.alongIn > at.lengthIn,
    };
  }
  return box.xIn !== undefined && box.yIn !== undefined
    ? { boxId: box.id, xIn: box.xIn, yIn: box.yIn, isOff: false }
    : undefined;
}

function placeOfOpening(outline: Outline, opening: Opening): PlacedOpening | undefined {
  const { corner } = opening;
  if (corner === undefined) return undefined;
  const at = (along: number) => placeAlong(outline, corner, along);
  const [a, b] = [at(opening.alongIn), at(opening.alongIn + opening.widthIn)];
  if (!a || !b) return undefined;
  const cuts = [
    at(Math.min(a.lengthIn, opening.alongIn))!,
    at(Math.min(a.lengthIn, opening.alongIn + opening.widthIn))!,
  ] as const;
  return {
    openingId: opening.id,
    roomId: opening.roomId,
    a,
    b,
    cuts,
    isOff: opening.alongIn + opening.widthIn > a.lengthIn,
  };
}

/** By story id. */
const BUILT_STOREY: Derivation<BuiltStorey> = {
  name: 'built storey',
  // Names and finishes of rooms say nothing of their walls.
  cutsOff: true,
  compute: (reader, storeyId) => {
    const all = reader.mentioning('rooms', storeyId);
    const outlined = all.flatMap((room) => {
      const outline = outlineOf(room);
      return outline ? [{ id: room.id, outline, problem: outlineProblem(outline) }] : [];
    });
    const rooms = outlined.filter(({ problem }) => !problem).map(({ id, outline }) => ({ id, outline }));
    return {
      ...wallsOf(rooms),
      rooms,
      openings: rooms.flatMap(({ id, outline }) =>
        reader.mentioning('openings', id).flatMap((opening) => placeOfOpening(outline, opening) ?? []),
      ),
      without: all.filter(({ outline }) => !outline).map(({ id }) => id),
      wrong: outlined.flatMap(({ id, problem }) => (problem ? [{ roomId: id, problem }] : [])),
    };
  },
};

/** Walls, rooms and openings of a story. */
export const builtStorey = (reader: HouseReader, storeyId: string): BuiltStorey =>
  reader.derive(BUILT_STOREY, storeyId);

/** Everything that stands on the plan of a story, by its id. */
const STOREY_PLAN: Derivation<StoreyPlan> = {
  name: 'storey plan',
  compute: (reader, storeyId) => {
    const built = builtStorey(reader, storeyId);
    return {
      ...built,
      boxes: reader.mentioning('rooms', storeyId).flatMap(({ id }) => {
        const outline = built.rooms.find((room) => room.id === id)?.outline;
        return reader.mentioning('boxes', id).flatMap((box) => placeOfBox(outline, box) ?? []);
      }),
    };
  },
};

export const storeyPlan = (reader: HouseReader, storeyId: string): StoreyPlan =>
  reader.derive(STOREY_PLAN, storeyId);
