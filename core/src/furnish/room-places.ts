import type { HouseReader } from '../derive/reader.js';
import type { Box, Room } from '../house/model.js';
import { nearestWall } from '../plan/arrange.js';
import type { Outline, Place } from '../plan/outline.js';
import { clearOf, contains, placeAlong } from '../plan/outline.js';
import { isOnWall } from '../plan/bands.js';
import type { Door } from '../plan/doors.js';
import { firstReachedIsLast } from '../plan/first-reached.js';
import type { Standing } from '../plan/free-place.js';
import { NEW_RECEPTACLE, atTub, freePlace, inTheWay, newSwitch } from '../plan/free-place.js';
import { nearWater } from '../plan/near-water.js';
import type { RoomLayout } from '../plan/room-layout.js';
import { middleOf, roomLayout } from '../plan/room-layout.js';
import { freePanelPlace } from '../plan/panel-space.js';
import { OVER_TOP_IN, counterSpace, foyerWalls, overCounter, wallSpace } from '../plan/spacing.js';
import type { OnWall, WallRun } from '../plan/wall-runs.js';
import { farFrom, receptaclePlaces } from '../plan/wall-runs.js';
import type { KitItem } from '../vocabulary/room-kit-types.js';
import type { PlannedBox } from './planned.js';
import { Seats, standing } from './seats.js';

export type BoxPlace = Pick<
  Box,
  'corner' | 'alongIn' | 'facesOut' | 'xIn' | 'yIn' | 'heightIn' | 'heightReference'
>;

/** Less than this under a ceiling there is no room for a box on a wall: inches, the height of a box. */
const UNDER_CEILING_IN = 5;
/** A panel is about as wide as a box of so many gangs. */
const PANEL_GANGS = 8;
const round = (inches: number): number => Math.round(inches * 100) / 100;
/** A tape is read to half an inch. */
const toHalf = (inches: number): number => Math.round(inches * 2) / 2;
const onWall = ({ corner, alongIn }: OnWall): BoxPlace => ({ corner, alongIn: round(alongIn) });

/** Where things of a room go that has an outline: what stands by a door, by spacing, in the ceiling, or where there is room. */
export class RoomPlaces {
  private readonly layout: RoomLayout | undefined;
  private readonly outline: Outline | undefined;
  private readonly doors: readonly Door[];
  private readonly seats: Seats | undefined;
  private readonly known = new Map<string, readonly BoxPlace[] | undefined>();

  constructor(
    private readonly reader: HouseReader,
    room: Room,
  ) {
    const layout = roomLayout(reader, room.id);
    this.layout = layout;
    this.outline = layout?.outline;
    this.seats = layout?.outline && new Seats(reader, layout);
    this.doors = layout?.openings.filter(({ kind }) => kind !== 'window') ?? [];
  }

  /** Doorways by which one walks in; undefined where the room has no outline or no door has been drawn. */
  get ways(): number | undefined {
    return this.doors.length || undefined;
  }

  /** As many receptacles as spacing, counters, basins or walls ask for; undefined where nothing of these is drawn. */
  outlets(item: KitItem): readonly BoxPlace[] | undefined {
    if (!this.known.has(item.key)) {
      const found = this.outletsOf(item);
      this.known.set(item.key, found);
      found?.forEach((place, at) => this.take(`${item.key} ${at}`, NEW_RECEPTACLE, place));
    }
    return this.known.get(item.key);
  }

  /** Whether a place is near water, where that decides about its protection. */
  nearWater({ corner, alongIn, xIn, yIn }: BoxPlace): boolean | undefined {
    const { layout, outline } = this;
    if (!layout || !outline) return undefined;
    const onWall =
      corner === undefined || alongIn === undefined ? undefined : placeAlong(outline, corner, alongIn);
    const free = xIn === undefined || yIn === undefined ? undefined : { xIn, yIn };
    return nearWater(this.reader, layout, onWall ?? free);
  }

  private take(key: string, box: Standing, place: BoxPlace): void {
    const heightIn = place.heightIn ?? this.reader.rules().number('height.receptacle');
    this.seats?.take(key, box, { ...place, middleIn: middleOf(heightIn, place.heightReference) });
  }

  /** A place for what no rule of spacing sets: a proposal. */
  seat(item: KitItem, box: Standing, number: number, many: number, height: BoxPlace): BoxPlace {
    const { seats, layout, reader } = this;
    if (!seats || !layout) return {};
    if (item.thing === 'light') {
      const over = seats.overSink();
      return over ? { xIn: round(over.xIn), yIn: round(over.yIn) } : this.ceilingAt(1, 3);
    }
    const ceilingIn =
      reader.get('storeys', layout.room.storeyId)?.ceilingIn ?? reader.rules().number('layout.ceiling');
    // So near to the ceiling that it hangs from it.
    if ((height.heightIn ?? 0) > ceilingIn - UNDER_CEILING_IN) return this.ceilingAt(1, 1);
    const middleIn =
      height.heightIn === undefined ? undefined : middleOf(height.heightIn, height.heightReference);
    const place = seats.onWalls(item, box, number, many, middleIn);
    if (place.corner === undefined || place.alongIn === undefined) return {};
    seats.take(`${item.key} ${number}`, box, { ...place, middleIn });
    return this.onFace({ ...place, alongIn: toHalf(place.alongIn) }, box.halfWidthIn);
  }

  private outletsOf(item: KitItem): readonly BoxPlace[] | undefined {
    const { layout, reader } = this;
    if (!layout?.outline || item.thing !== 'receptacle') return undefined;
    if (item.besideCounters) {
      if (!layout.bands.some(({ kind }) => kind === 'counter')) return undefined;
      return this.spaced(wallSpace(reader, layout), reader.rules().number('layout.reach'), (place) =>
        this.free(place),
      );
    }
    if (item.inEachWall) return foyerWalls(reader, layout).map((place) => this.free(place));
    if (item.circuit === 'counter') {
      const runs = counterSpace(reader, layout);
      return runs.length
        ? this.spaced(runs, reader.rules().number('layout.counterReach'), (place): BoxPlace => {
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
    // As often as the kit has it, and never farther apart than the house allows.
    const reachIn = Math.min((item.every.each * 12) / 2, reader.rules().number('layout.reach'));
    return this.spaced(wallSpace(reader, layout), reachIn, (place) => this.free(place));
  }

  /** By spacing; and where a window or a door has pushed one aside, one more in what that leaves too far from any. */
  private spaced(
    runs: readonly WallRun[],
    reachIn: number,
    free: (place: OnWall) => BoxPlace,
  ): readonly BoxPlace[] {
    const far = (places: readonly BoxPlace[]): { run: WallRun; fromIn: number; toIn: number }[] =>
      runs.flatMap((run) => {
        const offsets = places.flatMap(({ corner, alongIn }) =>
          corner === undefined || alongIn === undefined ? [] : (run.offsetOf({ corner, alongIn }) ?? []),
        );
        return farFrom(run, offsets, reachIn).map(([fromIn, toIn]) => ({ run, fromIn, toIn }));
      });
    const inches = (places: readonly BoxPlace[]): number =>
      far(places).reduce((sum, { fromIn, toIn }) => sum + toIn - fromIn, 0);
    let places: readonly BoxPlace[] = receptaclePlaces(runs, reachIn).map(free);
    for (let more = places.length; more > 0; more--) {
      const [first] = far(places).toSorted((a, b) => b.toIn - b.fromIn - (a.toIn - a.fromIn));
      if (!first) break;
      const middle = first.run.at(first.fromIn + Math.min(reachIn, (first.toIn - first.fromIn) / 2));
      const next = [...places, free(middle)];
      // Where nothing fits, a person decides.
      if (inches(next) > inches(places) - 0.01) break;
      places = next;
    }
    return places;
  }

  /** On the face of its wall, however far along it was asked for. */
  private onFace(place: BoxPlace, halfWidthIn: number): BoxPlace {
    const wall = this.layout?.walls.find(({ corner }) => corner === place.corner);
    if (!wall || place.alongIn === undefined) return place;
    const edge = Math.min(halfWidthIn, wall.lengthIn / 2);
    const [from, to] = [wall.startIn + edge, wall.startIn + wall.lengthIn - edge];
    return place.alongIn < from || place.alongIn > to
      ? { ...place, alongIn: toHalf(Math.min(to, Math.max(from, place.alongIn))) }
      : place;
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
    if (isFree) return this.onFace(onWall(place), NEW_RECEPTACLE.halfWidthIn);
    const found = freePlace(reader, { ...layout, boxes: [] }, NEW_RECEPTACLE, at, isWanted);
    return this.onFace(onWall(found ?? place), NEW_RECEPTACLE.halfWidthIn);
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
    const beside = box.halfWidthIn + reader.rules().number('layout.switchBeside');
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
    // Nothing of what is there is known to stay: it is drafted anew.
    const found = isOn && isFree ? from : (freePlace(reader, { ...layout, boxes: [] }, box, at) ?? from);
    this.seats?.take(`switch ${way}`, box, { ...found, middleIn });
    return this.onFace(onWall(found), box.halfWidthIn);
  }

  /** On the wall that is nearest to a place of the plan: where stairs come up. */
  switchNear(place: Place, gangs: number): BoxPlace {
    const at = this.seats?.nearTo(newSwitch(gangs), place, this.reader.rules().number('height.switch'));
    return at ? onWall({ ...at, alongIn: toHalf(at.alongIn) }) : {};
  }

  /** What is planned for the room stands where it is planned to. */
  with(planned: readonly PlannedBox[]): this {
    for (const box of planned)
      if (!box.facesOut)
        this.take(box.key, box.devices.length > 1 ? newSwitch(box.devices.length) : NEW_RECEPTACLE, box);
    return this;
  }

  /** Where a panel has its space. */
  panelAt(): BoxPlace {
    const { layout, seats } = this;
    const at =
      layout?.outline && freePanelPlace(this.reader, { ...layout, boxes: seats?.boxes ?? [] }, undefined);
    if (!at) return {};
    return { ...onWall(at), heightIn: this.reader.rules().number('layout.panelTop'), heightReference: 'top' };
  }

  /** Beside a panel; anywhere on the walls while it has no place. */
  besidePanel({ corner, alongIn }: BoxPlace): BoxPlace {
    const [wall] = this.layout?.walls ?? [];
    if (!this.seats || !wall) return {};
    if (corner === undefined || alongIn === undefined)
      return onWall(
        this.seats.near(standing('low-voltage', undefined), {
          corner: wall.corner,
          alongIn: wall.startIn + wall.lengthIn / 2,
        }),
      );
    const panel = newSwitch(PANEL_GANGS);
    this.seats.take('panel', panel, { corner, alongIn });
    return onWall(this.seats.near(standing('low-voltage', undefined), { corner, alongIn }));
  }

  /** The middle of the room on the plan. */
  get middle(): Place | undefined {
    const { outline } = this;
    if (!outline) return undefined;
    const mean = (field: 'xIn' | 'yIn'): number =>
      outline.reduce((sum, corner) => sum + corner[field], 0) / outline.length;
    return { xIn: mean('xIn'), yIn: mean('yIn') };
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
