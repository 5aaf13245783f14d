import type { HouseReader } from '../derive/reader.js';
import { boxFacts, cableIn, circuitsAt, roomOf } from '../facts/box-facts.js';
import { runName } from '../facts/naming.js';
import { framedWalls } from '../plan/framing.js';
import type { Place } from '../plan/outline.js';
import { contains } from '../plan/outline.js';
import { builtStorey, storeyPlan } from '../plan/storey-plan.js';
import { waysOnStorey } from '../routing/route-run.js';
import type { Steps } from '../structures/steps.js';

/** A story as it is drawn for other programs: plain lines and places in inches, y up. */
export interface PlanDrawing {
  readonly storey: string;
  readonly rooms: readonly { readonly name: string; readonly outline: readonly Place[] }[];
  /** What stands of each wall, between its openings: the four corners of it. */
  readonly walls: readonly (readonly Place[])[];
  readonly openings: readonly DrawnOpening[];
  readonly boxes: readonly DrawnBox[];
  readonly runs: readonly DrawnRun[];
}
export interface DrawnOpening {
  readonly kind: 'door' | 'window' | 'opening';
  readonly room: string;
  readonly a: Place;
  readonly b: Place;
  /** The end that a door hangs on. */
  readonly hinge: 'a' | 'b';
  readonly sillIn: number;
  readonly headIn: number;
}
export interface DrawnBox {
  readonly tag: string;
  readonly room: string;
  readonly model: string;
  readonly gangs: number;
  readonly heightIn?: number;
  /** Numbers of the circuits in it. */
  readonly circuits: readonly number[];
  readonly at: Place;
  /** Which way its wall runs, in degrees counter-clockwise; none in a ceiling. */
  readonly turnDeg?: number;
}
export interface DrawnRun {
  readonly name: string;
  readonly cable: string;
  readonly circuits: readonly number[];
  readonly lengthIn: number;
  readonly lines: readonly (readonly Place[])[];
}

/** A place within a room for its name: below the left end of its highest wall, where that lies in it. */
export function nameAt(outline: readonly Place[]): Place {
  const top = Math.max(...outline.map(({ yIn }) => yIn));
  const left = Math.min(...outline.filter(({ yIn }) => yIn > top - 1).map(({ xIn }) => xIn));
  const many = outline.length || 1;
  const middle = {
    xIn: outline.reduce((sum, { xIn }) => sum + xIn, 0) / many,
    yIn: outline.reduce((sum, { yIn }) => sum + yIn, 0) / many,
  };
  const corner = { xIn: left + 12, yIn: top - 18 };
  return [corner, middle].find((place) => contains(outline, place)) ?? corner;
}

const byNumber = (a: number, b: number): number => a - b;

/** What of a wall stands between its openings, as the corners of each part. */
function standingParts(reader: HouseReader, storeyId: string): (readonly Place[])[] {
  return framedWalls(reader, storeyId).flatMap(({ wall: { a, b, lengthIn }, depthIn, openings }) => {
    if (lengthIn === 0) return [];
    const [dx, dy] = [(b.xIn - a.xIn) / lengthIn, (b.yIn - a.yIn) / lengthIn];
    const at = (along: number, beside: number): Place => ({
      xIn: a.xIn + dx * along - dy * beside,
      yIn: a.yIn + dy * along + dx * beside,
    });
    const half = depthIn / 2;
    const parts: (readonly Place[])[] = [];
    let from = 0;
    for (const { fromIn, toIn } of [...openings, { fromIn: lengthIn, toIn: lengthIn }]) {
      if (fromIn > from) parts.push([at(from, -half), at(fromIn, -half), at(fromIn, half), at(from, half)]);
      from = Math.max(from, toIn);
    }
    return parts;
  });
}

/** Everything that is drawn of a story, with the ways of its cables; stops between runs. */
export function* planDrawingInSteps(reader: HouseReader, storeyId: string): Steps<PlanDrawing> {
  const ways = yield* waysOnStorey(reader, storeyId);
  const nameOf = (roomId: string | undefined): string => reader.get('rooms', roomId ?? '')?.name ?? '';
  const numberOf = (id: string): number | readonly number[] => reader.get('circuits', id)?.number ?? [];
  return {
    storey: reader.get('storeys', storeyId)?.name ?? '',
    rooms: builtStorey(reader, storeyId).rooms.map(({ id, outline }) => ({ name: nameOf(id), outline })),
    walls: standingParts(reader, storeyId),
    openings: builtStorey(reader, storeyId).openings.map(({ openingId, roomId, a, b }): DrawnOpening => {
      const { kind = 'door', hinge = 'a', sillIn, headIn } = reader.get('openings', openingId)!;
      return { kind, room: nameOf(roomId), a, b, hinge, sillIn, headIn };
    }),
    boxes: storeyPlan(reader, storeyId).boxes.map(({ boxId, xIn, yIn, angle }): DrawnBox => {
      const box = reader.get('boxes', boxId)!;
      const facts = boxFacts(reader, box);
      return {
        tag: box.tag,
        room: nameOf(roomOf(reader, boxId)?.id),
        model: box.catalogueId ?? '',
        gangs: facts.gangs,
        ...(box.heightIn !== undefined && { heightIn: box.heightIn }),
        circuits: circuitsAt(reader, boxId).flatMap(numberOf).sort(byNumber),
        at: { xIn, yIn },
        ...(angle !== undefined && { turnDeg: (angle * 180) / Math.PI }),
      };
    }),
    runs: ways.map(({ runId, lines, lengthIn }): DrawnRun => {
      const run = reader.get('runs', runId)!;
      return {
        name: runName(reader, run),
        cable: cableIn(reader, run) ?? run.kind,
        circuits: run.circuitIds.flatMap(numberOf).sort(byNumber),
        lengthIn,
        lines,
      };
    }),
  };
}
