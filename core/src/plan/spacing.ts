import type { Derivation, HouseReader } from '../derive/reader.js';
import type { BandOnWall } from './bands.js';
import { besideCounters, counterAt, cutsOf, distanceTo, footprint, isOnWall } from './bands.js';
import type { Place } from './outline.js';
import { ON_LINE } from './outline.js';
import type { RoomLayout } from './room-layout.js';
import { hasReceptacle, isGeneral } from '../facts/outlets.js';
import { roomLayout } from './room-layout.js';
import type { OnWall, OnWallSpan, WallRun } from './wall-runs.js';
import { farFrom, wallRuns } from './wall-runs.js';

/** Wall space, or a counter, and what of it no receptacle is near enough to. */
export interface FarStretch {
  readonly run: WallRun;
  readonly fromIn: number;
  readonly toIn: number;
  readonly spans: readonly OnWallSpan[];
}

const isWallRoom = (reader: HouseReader, { room }: RoomLayout): boolean =>
  reader.rules().list('layout.wallRooms').includes(room.kind) &&
  // The walls of a kitchen are mostly counter: nothing is known of them before these are drawn.
  (room.kind !== 'kitchen' || reader.mentioning('bands', room.id).some(({ kind }) => kind === 'counter'));

/** The wall space of a drawn room that is asked for receptacles, and the counters of it. */
export function wallSpace(reader: HouseReader, layout: RoomLayout): readonly WallRun[] {
  const { outline, openings, bands, faceIn } = layout;
  if (!outline) return [];
  const doors = openings.filter(({ kind }) => kind !== 'window');
  return wallRuns(outline, [...doors, ...cutsOf(bands)], faceIn).filter(
    ({ lengthIn }) => lengthIn >= reader.rules().number('layout.leastWall') - 1e-6,
  );
}
export function counterSpace(reader: HouseReader, layout: RoomLayout): readonly WallRun[] {
  const { outline, walls, bands, faceIn } = layout;
  if (!outline || !bands.some(({ kind }) => kind === 'counter')) return [];
  return wallRuns(outline, besideCounters(walls, bands), faceIn).filter(
    ({ lengthIn }) => lengthIn >= reader.rules().number('layout.counterLeast') - 1e-6,
  );
}

function far(
  layout: RoomLayout,
  runs: readonly WallRun[],
  reachIn: number,
  counts: (box: RoomLayout['boxes'][number]) => boolean,
): FarStretch[] {
  const places = layout.boxes.flatMap((box) =>
    box.corner !== undefined && box.alongIn !== undefined && hasReceptacle(box) && counts(box)
      ? [{ corner: box.corner, alongIn: box.alongIn }]
      : [],
  );
  return runs.flatMap((run) => {
    const offsets = places.flatMap((place) => run.offsetOf(place) ?? []);
    return farFrom(run, offsets, reachIn).map(([fromIn, toIn]) => ({
      run,
      fromIn,
      toIn,
      spans: run.between(fromIn, toIn),
    }));
  });
}

/** Whether a receptacle at this place serves the counter below it: between its top and so much above (NEC 210.52(C), from memory). */
export function servesCounter(
  reader: HouseReader,
  { bands }: RoomLayout,
  place: { readonly corner?: string; readonly alongIn?: number; readonly middleIn?: number },
): boolean {
  const counter = counterAt(bands, place);
  const { middleIn } = place;
  if (!counter || middleIn === undefined) return counter !== undefined;
  return (
    middleIn >= counter.toIn && middleIn <= counter.toIn + reader.rules().number('layout.counterAbove') + 1e-6
  );
}

/**
 * Wall space of a drawn room that is farther from a receptacle along the floor line than the house allows (NEC 210.52(A), from
 * memory); undefined where the room has no outline or is of a kind that is not asked for it. Receptacles that are switched as a
 * whole are counted all the same, those of a counter are not (A)(4).
 */
export function farOfWalls(reader: HouseReader, layout: RoomLayout): readonly FarStretch[] | undefined {
  if (!layout.outline || !isWallRoom(reader, layout)) return undefined;
  const rules = reader.rules();
  const tooHigh = rules.number('layout.tooHigh');
  return far(
    layout,
    wallSpace(reader, layout),
    rules.number('layout.reach'),
    (box) => (box.middleIn ?? 0) <= tooHigh && !servesCounter(reader, layout, box),
  );
}

/** Counter of a drawn room that is farther from a receptacle above it than the house allows (NEC 210.52(C)(1), from memory). */
export const farOfCounters = (reader: HouseReader, layout: RoomLayout): readonly FarStretch[] =>
  far(layout, counterSpace(reader, layout), reader.rules().number('layout.counterReach'), (box) =>
    servesCounter(reader, layout, box),
  );

/** A basin of a bath that no receptacle is near enough to (NEC 210.52(D), from memory), and how far the nearest is, in inches. */
export function farBasins(
  reader: HouseReader,
  { bands, boxes, outline, room }: RoomLayout,
): { readonly basin: BandOnWall; readonly rectangle: readonly Place[]; readonly awayIn: number }[] {
  if (!outline || !['bath', 'water-closet'].includes(room.kind)) return [];
  const places = boxes.filter((box) => hasReceptacle(box) && isGeneral(box));
  // One of which nobody has said the place may be there.
  if (places.some(({ place }) => !place)) return [];
  if (!reader.rules().has('layout.basin')) return [];
  const reach = reader.rules().number('layout.basin');
  return bands
    .filter(isOnWall)
    .filter(({ kind }) => kind === 'basin')
    .flatMap((basin) => {
      const rectangle = footprint(basin, outline, ON_LINE);
      if (!rectangle) return [];
      const awayIn = Math.min(...places.map(({ place }) => distanceTo(rectangle, place!)));
      return awayIn <= reach ? [] : [{ basin, rectangle, awayIn }];
    });
}

/** What a room lacks of receptacles near enough: inches of wall and of counter, basins, walls of a foyer. */
export function lacking(reader: HouseReader, layout: RoomLayout): readonly number[] {
  const inches = (stretches: readonly FarStretch[]): number =>
    stretches.reduce((sum, { fromIn, toIn }) => sum + toIn - fromIn, 0);
  return [
    inches(farOfWalls(reader, layout) ?? []),
    inches(farOfCounters(reader, layout)),
    farBasins(reader, layout).length,
    bareFoyerWalls(reader, layout).length,
  ];
}

const FAR_WALLS: Derivation<readonly FarStretch[] | undefined> = {
  name: 'wall space far from receptacles',
  compute: (reader, roomId) => {
    const layout = roomLayout(reader, roomId);
    return layout && farOfWalls(reader, layout);
  },
};
const FAR_COUNTERS: Derivation<readonly FarStretch[]> = {
  name: 'counters far from receptacles',
  compute: (reader, roomId) => {
    const layout = roomLayout(reader, roomId);
    return layout ? farOfCounters(reader, layout) : [];
  },
};

/** A receptacle stands so far above a counter or beside a basin: inches, common practice. */
export const OVER_TOP_IN = 8;

/** The height of a receptacle over the counter at a place, over the finished floor, to its middle. */
export function overCounter({ bands }: Pick<RoomLayout, 'bands'>, place: OnWall): number | undefined {
  const counter = counterAt(bands, place);
  return counter && counter.toIn + OVER_TOP_IN;
}

export const farStretches = (reader: HouseReader, roomId: string): readonly FarStretch[] | undefined =>
  reader.derive(FAR_WALLS, roomId);
export const farCounters = (reader: HouseReader, roomId: string): readonly FarStretch[] =>
  reader.derive(FAR_COUNTERS, roomId);
/** Where on its walls a room lacks receptacles, counters and walls together. */
export const farWalls = (reader: HouseReader, roomId: string): readonly OnWallSpan[] =>
  [...(farStretches(reader, roomId) ?? []), ...farCounters(reader, roomId)].flatMap(({ spans }) => spans);

/** Where a receptacle goes in every wall of a large foyer that is long enough (NEC 210.52(I), from memory). */
export function foyerWalls(reader: HouseReader, layout: RoomLayout): OnWall[] {
  if (!reader.rules().has('layout.foyerWall')) return [];
  const least = reader.rules().number('layout.foyerWall');
  return layout.walls.flatMap(({ corner, startIn, lengthIn }) => {
    // Doorways cut it; the longest piece is what counts.
    const doors = layout.openings
      .filter((opening) => opening.corner === corner && opening.kind !== 'window')
      .toSorted((a, b) => a.alongIn - b.alongIn);
    const pieces: [number, number][] = [];
    let here = startIn;
    for (const { alongIn, widthIn } of doors) {
      pieces.push([here, alongIn]);
      here = Math.max(here, alongIn + widthIn);
    }
    pieces.push([here, startIn + lengthIn]);
    return pieces
      .filter(([from, to]) => to - from >= least - 1e-6)
      .map(([from, to]) => ({ corner, alongIn: (from + to) / 2 }))
      .slice(0, 1);
  });
}

/** Walls of a drawn foyer that are long enough and have no receptacle. */
export const bareFoyerWalls = (reader: HouseReader, layout: RoomLayout): OnWall[] =>
  layout.room.kind === 'foyer'
    ? foyerWalls(reader, layout).filter(
        ({ corner }) => !layout.boxes.some((box) => hasReceptacle(box) && box.corner === corner),
      )
    : [];
