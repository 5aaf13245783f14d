import type { HouseReader } from '../derive/reader.js';
import type { Box, Room } from '../house/model.js';
import { nearestWall } from '../plan/arrange.js';
import type { Outline, Place } from '../plan/outline.js';
import { clearOf, contains, placeAlong } from '../plan/outline.js';
import { isOnWall } from '../plan/bands.js';
import type { Door } from '../plan/doors.js';
import { firstReachedIsLast } from '../plan/first-reached.js';
import { NEW_RECEPTACLE, atTub, freePlace, inTheWay, newSwitch } from '../plan/free-place.js';
import type { RoomLayout } from '../plan/room-layout.js';
import { roomLayout } from '../plan/room-layout.js';
import { OVER_TOP_IN, counterSpace, foyerWalls, overCounter, wallSpace } from '../plan/spacing.js';
import type { OnWall } from '../plan/wall-runs.js';
import { receptaclePlaces } from '../plan/wall-runs.js';
import type { KitItem } from '../vocabulary/room-kit-types.js';

export type BoxPlace = Pick<Box, 'corner' | 'alongIn' | 'xIn' | 'yIn' | 'heightIn' | 'heightReference'>;

/** From the side of a doorway to the side of a switch box: king and jack stud, and what trim takes. Common practice. */
const BESIDE_DOOR_IN = 5;
const round = (inches: number): number => Math.round(inches * 100) / 100;
/** A tape is read to half an inch. */
const toHalf = (inches: number): number => Math.round(inches * 2) / 2;
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
        ? receptaclePlaces(runs, reader.rules().number('layout.counterReach')).map((place): BoxPlace => {
            const heightIn = overCounter(layout, place);
            const at = this.free(place, heightIn, (other) => overCounter(layout, other) === heightIn);
            return { ...at, ...(heightIn !== undefined && { heightIn }), heightReference: 'centre' };
          })
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
  private free(
    place: OnWall,
    middleIn = this.reader.rules().number('height.receptacle'),
    isWanted?: (at: OnWall) => boolean,
  ): BoxPlace {
    const { layout, reader } = this;
    const at = { ...place, middleIn };
    const onPlan = this.outline && placeAlong(this.outline, place.corner, place.alongIn);
    const isFree =
      !layout ||
      (!inTheWay(reader, layout, NEW_RECEPTACLE, at) &&
        !atTub(reader, layout, NEW_RECEPTACLE, onPlan, middleIn));
    if (isFree) return onWall(place);
    return onWall(freePlace(reader, { ...layout, boxes: [] }, NEW_RECEPTACLE, at, isWanted) ?? place);
  }

  /**
   * Beside the latch of the n-th door, or as near to it as a box of so many gangs is in nobody's way; at a corner while no such
   * door has been drawn.
   */
  switchAt(way: number, gangs = 1): BoxPlace {
    const { layout, reader, outline } = this;
    if (!layout || !outline) return {};
    const middleIn = reader.rules().number('height.switch');
    const door = this.doors[way - 1];
    const box = newSwitch(gangs);
    const beside = box.halfWidthIn + BESIDE_DOOR_IN;
    const from = door
      ? {
          corner: door.corner,
          alongIn: toHalf(door.latchIn + Math.sign(door.latchIn - door.hingeIn) * beside),
        }
      : { corner: outline[(way - 1) % outline.length]!.id, alongIn: 12 };
    const at = { ...from, middleIn };
    const wall = layout.walls.find(({ corner }) => corner === from.corner)!;
    const isOn =
      from.alongIn >= wall.startIn + box.halfWidthIn &&
      from.alongIn <= wall.startIn + wall.lengthIn - box.halfWidthIn;
    const place = placeAlong(outline, from.corner, from.alongIn);
    const isFree = !inTheWay(reader, layout, box, at) && !atTub(reader, layout, box, place, middleIn);
    if (isOn && isFree) return onWall(from);
    // Nothing of what is there is known to stay: it is drafted anew.
    return onWall(freePlace(reader, { ...layout, boxes: [] }, box, at) ?? from);
  }

  /** Whether the last gang of a switch box at a place is reached first: it is beside the door. */
  isReversed({ corner, alongIn }: BoxPlace): boolean {
    return this.layout !== undefined && firstReachedIsLast(this.layout, corner, alongIn);
  }

  /** In the ceiling, in rows as even as the room is long. */
  ceilingAt(number: number, many: number): BoxPlace {
    if (!this.outline) return {};
    const face = clearOf(this.outline, this.layout!.faceIn) ?? this.outline;
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
}

interface Span {
  readonly from: number;
  readonly length: number;
}
