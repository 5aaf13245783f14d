import type { Derivation, HouseReader } from '../derive/reader.js';
import { devicesIn } from '../facts/box-facts.js';
import { outlineProblem } from './outline.js';
import { doorsOf } from './doors.js';
import { cornerOf, outlineOf } from './storey-plan.js';
import type { OnWallSpan } from './wall-runs.js';
import { LEAST_WALL_IN, farFrom, wallRuns } from './wall-runs.js';

/** A receptacle above this does not serve the wall below it: NEC 210.52, from memory (5 ft 6 in). */
const TOO_HIGH_IN = 66;

/**
 * Wall space of a drawn room that is more than 6 ft from a receptacle along the floor line (NEC 210.52(A), from memory), by room
 * id; undefined where the room has no outline. Receptacles that are switched as a whole are counted all the same.
 */
const FAR_WALLS: Derivation<readonly OnWallSpan[] | undefined> = {
  name: 'wall space far from receptacles',
  compute: (reader, roomId) => {
    const room = reader.get('rooms', roomId);
    const outline = room && outlineOf(room);
    if (!room || !outline || outlineProblem(outline)) return undefined;
    const places = reader.mentioning('boxes', roomId).flatMap((box) => {
      const corner = cornerOf(box);
      if (corner === undefined || box.alongIn === undefined || box.facesOut) return [];
      if ((box.heightIn ?? 0) > TOO_HIGH_IN) return [];
      const isReceptacle = devicesIn(reader, box.id).some(({ id }) =>
        reader.mentioning('points', id).some(({ role }) => role === 'receptacle'),
      );
      return isReceptacle ? [{ corner, alongIn: box.alongIn }] : [];
    });
    return wallRuns(outline, doorsOf(reader, room, outline), reader.rules().number('wall.interior'))
      .filter(({ lengthIn }) => lengthIn >= LEAST_WALL_IN)
      .flatMap((run) => {
        const offsets = places.flatMap((place) => run.offsetOf(place) ?? []);
        return farFrom(run, offsets).flatMap(([fromIn, toIn]) => run.between(fromIn, toIn));
      });
  },
};

export const farWalls = (reader: HouseReader, roomId: string): readonly OnWallSpan[] | undefined =>
  reader.derive(FAR_WALLS, roomId);
