import { unitsIn } from '@mule-tally/core/work';
import type { Units } from '@mule-tally/core/work';
import type { BandKind, HouseReader } from '@mule-tally/core';
import { boxFacts, circuitsAt, roomOf } from '@mule-tally/core';
import type { Place } from '@mule-tally/core/furnish';
import {
  farWalls,
  footprint,
  framedWalls,
  placeAlong,
  facesOf,
  sizeOfRoom,
  storeyPlan,
} from '@mule-tally/core/furnish';

/** A line of the drawing: y goes down, as on a screen. */
export interface Line {
  readonly x1: number;
  readonly y1: number;
  readonly x2: number;
  readonly y2: number;
}
const line = (a: Place, b: Place): Line => ({ x1: a.xIn, y1: -a.yIn, x2: b.xIn, y2: -b.yIn });

/** Where the name of a room is written: near its upper left corner, below the tags of its upper wall, beside its lights. */
const nameAt = (places: readonly Place[]): { x: number; y: number } => {
  const top = Math.max(...places.map(({ yIn }) => yIn));
  const left = Math.min(...places.filter(({ yIn }) => yIn > top - 1).map(({ xIn }) => xIn));
  const high = top - Math.min(...places.map(({ yIn }) => yIn));
  return { x: left + 12, y: -top + Math.max(18, Math.min(40, high / 2 - 4)) };
};

/** Room beside a wall for what is drawn of a box, in inches. */
const GANG_IN = 7;

/** Tags of boxes that are nearer than this would lie over each other, in inches. */
const DENSE_IN = 22;

/** What of a plan is shown besides its walls. */
export interface Shown {
  readonly boxes: boolean;
  readonly heights: boolean;
  readonly runs: boolean;
  readonly circuits: boolean;
  /** Wall and counter too far from a receptacle. */
  readonly spacing: boolean;
}
export const SHOWN: Shown = { boxes: true, heights: false, runs: false, circuits: false, spacing: false };

/** What is built in, in words. */
export const BAND_NAMES: Readonly<Record<BandKind, string>> = {
  cabinet: $localize`cabinet`,
  counter: $localize`counter`,
  island: $localize`island`,
  peninsula: $localize`peninsula`,
  vanity: $localize`vanity`,
  basin: $localize`basin`,
  mirror: $localize`mirror`,
  tub: $localize`tub`,
  shower: $localize`shower`,
  trim: $localize`trim`,
  fireplace: $localize`fireplace`,
};

/** Everything that is drawn of a story, in inches, by its id. */
export function pictureOf(reader: HouseReader, storeyId: string, shown: Shown) {
  const plan = storeyPlan(reader, storeyId);
  const { side, system, shortNumber } = unitsIn(reader.rules());
  const heightText = (inches: number): string =>
    system === 'metric' ? shortNumber(inches) : `${Math.round(inches)}"`;
  const placeOf = new Map<string, Place>(plan.boxes.map((box) => [box.boxId, box]));
  const rooms = plan.rooms.map(({ id, outline }) => {
    const room = reader.get('rooms', id)!;
    const size = sizeOfRoom(reader, room);
    const text = `${side(size.lengthIn)} × ${side(size.widthIn)}`;
    return {
      id,
      name: room.name,
      size: text,
      label: `${room.name}, ${text}`,
      points: outline.map(({ xIn, yIn }) => `${xIn},${-yIn}`).join(' '),
      at: nameAt(outline),
    };
  });
  const walls = framedWalls(reader, storeyId).map(({ wall, depthIn }) => ({
    ...line(wall.a, wall.b),
    depth: depthIn,
  }));
  const openings = plan.openings.map(({ openingId, a, b, isOff }) => {
    const { kind = 'door', hinge = 'a', widthIn } = reader.get('openings', openingId)!;
    const [from, to] = hinge === 'a' ? [a, b] : [b, a];
    // The leaf stands open into the room, which lies to the left of the way from a to b.
    const [dx, dy] = [(b.xIn - a.xIn) / widthIn, (b.yIn - a.yIn) / widthIn];
    const leaf =
      kind === 'door'
        ? line(from, { xIn: from.xIn - dy * widthIn, yIn: from.yIn + dx * widthIn })
        : undefined;
    return { id: openingId, isWindow: kind === 'window', isOff, leaf, ...line(from, to) };
  });
  // The tag of a box that stands this near to one that has its tag is shown when the plan is looked at from nearer.
  const tagged: Place[] = [];
  const boxes = plan.boxes.map(({ boxId, xIn, yIn, angle, isOff }) => {
    const box = reader.get('boxes', boxId)!;
    const facts = boxFacts(reader, box);
    const circuits = circuitsAt(reader, boxId).map((id) => reader.get('circuits', id)?.number);
    const text = [
      box.tag,
      ...(shown.heights && box.heightIn !== undefined ? [heightText(box.heightIn)] : []),
      ...(shown.circuits && circuits.length ? [`c${circuits.join('+')}`] : []),
    ].join(' ');
    const degrees = angle === undefined ? 0 : (-angle * 180) / Math.PI;
    const room = roomOf(reader, boxId)?.id;
    const isDense = tagged.some((place) => Math.hypot(place.xIn - xIn, place.yIn - yIn) < DENSE_IN);
    if (!isDense) tagged.push({ xIn, yIn });
    return {
      id: boxId,
      isOff,
      isDense,
      isRound: angle === undefined,
      width: Math.max(1, facts.gangs) * GANG_IN,
      transform: `translate(${xIn} ${-yIn}) rotate(${degrees})`,
      upright: angle === undefined ? '' : `translate(0 -16) rotate(${-degrees})`,
      textX: angle === undefined ? 7 : 0,
      textY: angle === undefined ? 3 : 3,
      text,
      label: `${box.tag}, ${(room && reader.get('rooms', room)?.name) ?? ''}`,
    };
  });
  const far = shown.spacing
    ? plan.rooms.flatMap(({ id, outline }) =>
        (farWalls(reader, id) ?? []).flatMap(({ corner, fromIn, toIn }) => {
          const [a, b] = [placeAlong(outline, corner, fromIn), placeAlong(outline, corner, toIn)];
          return a && b ? [line(a, b)] : [];
        }),
      )
    : [];
  const bands = plan.rooms.flatMap(({ id, outline }) =>
    reader.mentioning('bands', id).flatMap((band) => {
      const ground = footprint(band, outline, facesOf(reader, id));
      if (!ground) return [];
      const [a, , c] = ground;
      return [
        {
          id: band.id,
          points: ground.map(({ xIn, yIn }) => `${xIn},${-yIn}`).join(' '),
          // Over what is under it: a wall cabinet is drawn dashed.
          isHigh: band.fromIn >= 48,
          name: Math.min(band.widthIn, band.depthIn) >= 14 ? BAND_NAMES[band.kind] : '',
          x: (a!.xIn + c!.xIn) / 2,
          y: -(a!.yIn + c!.yIn) / 2,
        },
      ];
    }),
  );
  const all = plan.rooms.flatMap(({ outline }) => outline);
  const [x, y] = [all.map(({ xIn }) => xIn), all.map(({ yIn }) => -yIn)];
  const frame = all.length
    ? {
        x: Math.min(...x) - 24,
        y: Math.min(...y) - 24,
        width: Math.max(...x) - Math.min(...x) + 48,
        height: Math.max(...y) - Math.min(...y) + 48,
      }
    : { x: -100, y: -50, width: 400, height: 200 };
  /** A line from box to box, where both stand on this floor. */
  const between = (from: string, to: string): ReturnType<typeof line>[] => {
    const [a, b] = [placeOf.get(from), placeOf.get(to)];
    return a && b ? [line(a, b)] : [];
  };
  return { rooms, walls, openings, bands, boxes, far, frame, between };
}

export type PlanPicture = ReturnType<typeof pictureOf>;

/** Names of the walls of a room: by their number on the way round, and how long they are. */
export function wallNames(outline: readonly (Place & { readonly id: string })[], { side }: Units) {
  return outline.map((a, at) => {
    const b = outline[(at + 1) % outline.length]!;
    const length = Math.hypot(b.xIn - a.xIn, b.yIn - a.yIn);
    return { corner: a.id, name: `${at + 1} (${side(length)})`, lengthIn: length };
  });
}
