import type { HouseReader } from '../derive/reader.js';
import type { Box, Room } from '../house/model.js';
import { nearestWall } from '../plan/arrange.js';
import type { Outline, Place } from '../plan/outline.js';
import { contains, distance, inset } from '../plan/outline.js';
import { isOnWall } from '../plan/bands.js';
import type { Door } from '../plan/doors.js';
import { firstReachedIsLast } from '../plan/first-reached.js';
import { NEW_RECEPTACLE, freePlace, inTheWay } from '../plan/free-place.js';
import type { RoomLayout } from '../plan/room-layout.js';
import { roomLayout } from '../plan/room-layout.js';
import { OVER_TOP_IN, counterSpace, foyerWalls, overCounter, wallSpace } from '../plan/spacing.js';
import type { OnWall } from '../plan/wall-runs.js';
import { receptaclePlaces } from '../plan/wall-runs.js';
import type { KitItem } from '../vocabulary/room-kit-types.js';

export type BoxPlace = Pick<Box, 'corner' | 'alongIn' | 'xIn' | 'yIn' | 'heightIn' | 'heightReference'>;

/** From the side of a doorway to the middle of a switch box: king and jack stud and half a box. Common practice. */
const BESIDE_DOOR_IN = 6;
/** So near to the end of a wall no box is nailed. */
const AT_END_IN = 4;
const round = (inches: number): number => Math.round(inches * 100) / 100;
const onWall = ({ corner, alongIn }: OnWall): BoxPlace => ({ corner, alongIn: round(alongIn) });

/** Where things of a room go that has an outline: what stands by a door, by spacing, or in the middle of the ceiling. */
export class RoomPlaces {
  private readonly layout: RoomLayout | undefined;
  private readonly outline: Outline | undefined;
  private readonly doors: readonly Door[];

  constructor(
    private readonly reader: HouseReader,
    room: Room,
  ) {
    const layout = roomLayout(reader, room.id);
    this.layout = layout;
    this.outline = layout?.outline;
    this.doors = layout?.openings.filter(({ kind }) => kind !== 'window') ?? [];
  }

  /** Doorways by which one walks in; undefined where the room has no outline or no door has been drawn. */
  get ways(): number | undefined {
    return this.doors.length || undefined;
  }

  /** As many receptacles as spacing, counters, basins or walls ask for; undefined where nothing of these is drawn. */
  outlets(item: KitItem): readonly BoxPlace[] | undefined {
    const { layout, reader } = this;
    if (!layout?.outline || item.thing !== 'receptacle') return undefined;
    if (item.inEachWall) return foyerWalls(reader, layout).map((place) => this.free(place));
    if (item.circuit === 'counter') {
      const runs = counterSpace(reader, layout);
      return runs.length
        ? receptaclePlaces(runs, reader.rules().number('layout.counterReach')).map((place) => ({
            ...onWall(place),
            heightIn: overCounter(layout, place),
            heightReference: 'centre',
          }))
        : undefined;
    }
    if (item.circuit === 'bath') {
      const basins = layout.bands.filter(isOnWall).filter(({ kind }) => kind === 'basin');
      return basins.length
        ? basins.map(({ corner, alongIn, widthIn, toIn }) => {
            const heightIn = toIn + OVER_TOP_IN;
            const beside = this.free({ corner, alongIn: alongIn + widthIn + OVER_TOP_IN }, heightIn);
            return { ...beside, heightIn, heightReference: 'centre' as const };
          })
        : undefined;
    }
    if (item.every?.of !== 'wall-ft') return undefined;
    return receptaclePlaces(wallSpace(reader, layout), (item.every.each * 12) / 2).map((place) =>
      this.free(place),
    );
  }

  /** A place for a receptacle, or the nearest where nothing is in its way. */
  private free(place: OnWall, middleIn = this.reader.rules().number('height.receptacle')): BoxPlace {
    const { layout, reader } = this;
    const box = NEW_RECEPTACLE;
    if (!layout || !inTheWay(reader, layout, box, { ...place, middleIn })) return onWall(place);
    return onWall(freePlace(reader, { ...layout, boxes: [] }, box, { ...place, middleIn }) ?? place);
  }

  /** Beside the latch of the door one walks in by; at the first corner while no door has been drawn. */
  switchAt(way: number): BoxPlace {
    if (!this.outline) return {};
    const door = this.doors[way - 1];
    if (!door) {
      const corner = this.outline[(way - 1) % this.outline.length]!;
      return onWall({ corner: corner.id, alongIn: 2 * BESIDE_DOOR_IN });
    }
    const length = this.lengthOf(door.corner);
    const away = Math.sign(door.latchIn - door.hingeIn);
    const places = [door.latchIn + away * BESIDE_DOOR_IN, door.hingeIn - away * BESIDE_DOOR_IN];
    const fits = places.find((alongIn) => alongIn > AT_END_IN && alongIn < length - AT_END_IN);
    if (fits !== undefined) return onWall({ corner: door.corner, alongIn: fits });
    // No wall beside the door: round the corner.
    const at = this.outline.findIndex(({ id }) => id === door.corner);
    const next = this.outline[(at + 1) % this.outline.length]!;
    return onWall({ corner: next.id, alongIn: 2 * BESIDE_DOOR_IN });
  }

  /** Whether the last gang of a switch box at a place is reached first: it is beside the door. */
  isReversed({ corner, alongIn }: BoxPlace): boolean {
    return this.layout !== undefined && firstReachedIsLast(this.layout, corner, alongIn);
  }

  /** In the ceiling, in rows as even as the room is long. */
  ceilingAt(number: number, many: number): BoxPlace {
    if (!this.outline) return {};
    const face = inset(this.outline, () => this.layout!.faceIn) ?? this.outline;
    const [x, y] = (['xIn', 'yIn'] as const).map((field) => {
      const all = face.map((corner) => corner[field]);
      return { from: Math.min(...all), length: Math.max(...all) - Math.min(...all) };
    }) as [Span, Span];
    const columns = Math.max(1, Math.round(Math.sqrt((many * x.length) / Math.max(1, y.length))));
    const rows = Math.ceil(many / columns);
    const row = Math.floor((number - 1) / columns);
    const inRow = row === rows - 1 ? many - columns * (rows - 1) : columns;
    // To and fro, so that the leg from light to light takes no long way back.
    const inTurn = (number - 1) % columns;
    const column = row % 2 ? inRow - 1 - inTurn : inTurn;
    const place: Place = {
      xIn: round(x.from + (x.length * (column + 0.5)) / inRow),
      yIn: round(y.from + (y.length * (row + 0.5)) / rows),
    };
    if (contains(face, place)) return { xIn: place.xIn, yIn: place.yIn };
    // Beyond an inner corner: a step in from the nearest wall.
    const wall = nearestWall(this.outline, place)!;
    return onWall(wall);
  }

  private lengthOf(corner: string): number {
    const outline = this.outline!;
    const at = outline.findIndex(({ id }) => id === corner);
    return distance(outline[at]!, outline[(at + 1) % outline.length]!);
  }
}

interface Span {
  readonly from: number;
  readonly length: number;
}
