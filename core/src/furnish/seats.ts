import type { HouseReader } from '../derive/reader.js';
import type { Box } from '../house/model.js';
import { isOnWall } from '../plan/bands.js';
import type { OnWallAt, Standing } from '../plan/free-place.js';
import { NEW_RECEPTACLE, freePlace, newSwitch } from '../plan/free-place.js';
import { contains, placeAlong } from '../plan/outline.js';
import type { Place } from '../plan/outline.js';
import type { LaidBox, RoomLayout } from '../plan/room-layout.js';
import { storeyPlan } from '../plan/storey-plan.js';
import type { OnWall } from '../plan/wall-runs.js';
import { wallRuns } from '../plan/wall-runs.js';
import { builtInDevice } from '../rulebook/catalogue.js';
import type { BandKind } from '../vocabulary/kinds.js';
import type { KitItem } from '../vocabulary/room-kit-types.js';

/** A screen is mounted at or over this height, in inches: its cables come out beside its receptacle. Common practice. */
const SCREEN_IN = 54;
/** What is spread round a room stands so far from its corners, where there is room: inches, common practice. */
const FROM_CORNER_IN = 24;
/** What a wall light is set over, the first that is there. */
const UNDER_A_LIGHT: readonly BandKind[] = ['vanity', 'basin', 'mirror', 'counter'];

/** Parts of the unit interval that follow one another without crowding: by the golden section. */
const spread = (number: number): number => (number * 0.618034) % 1;

/**
 * Places for what no rule of spacing sets, in a room that is drawn: appliances, data, wall lights, single receptacles. Each is a
 * proposal, where nothing is in its way: common practice.
 */
export class Seats {
  /** What has a place already. */
  private readonly taken: LaidBox[];
  /** In front of each latch a switch box will hang. */
  private readonly latches: readonly LaidBox[];

  constructor(
    private readonly reader: HouseReader,
    private readonly layout: RoomLayout,
  ) {
    // What somebody has set stays; what was drafted is drafted anew.
    this.taken = layout.boxes.filter(({ box }) => !box.drafted);
    const middleIn = reader.rules().number('height.switch');
    const besideIn = reader.rules().number('layout.switchBeside');
    this.latches = layout.openings
      .filter(({ kind }) => kind !== 'window')
      .map(({ corner, latchIn, hingeIn }, at) => {
        const box = newSwitch(2);
        const away = Math.sign(latchIn - hingeIn) * (box.halfWidthIn + besideIn);
        return laidAs(`latch ${at}`, box, { corner, alongIn: latchIn + away, middleIn });
      });
  }

  get boxes(): readonly LaidBox[] {
    return this.taken;
  }

  /** Something stands there from now on. */
  take(key: string, box: Standing, at: Partial<OnWallAt>): void {
    const { corner, alongIn, middleIn } = at;
    if (corner !== undefined && alongIn !== undefined)
      this.taken.push(laidAs(key, box, { corner, alongIn, middleIn }));
  }

  /** Where the n-th of so many of an item goes on the walls, and which way it faces. */
  onWalls(
    item: KitItem,
    box: Standing,
    number: number,
    many: number,
    middleIn?: number,
  ): Pick<Box, 'corner' | 'alongIn' | 'facesOut'> {
    const isOutside = ['porch', 'outdoors'].includes(this.layout.room.kind);
    // What goes into the siding of a room hangs outside of it, on a wall with nothing behind.
    const facesOut = item.before === 'siding' && !isOutside && this.walls('out').size > 0;
    const walls = isOutside ? this.walls('in') : facesOut ? this.walls('out') : new Set<string>();
    const isWanted = walls.size ? ({ corner }: OnWallAt) => walls.has(corner) : undefined;
    const from = this.wanted(item, number, many, isWanted);
    if (!from) return {};
    if (facesOut) return { ...from, facesOut };
    return this.near(box, { ...from, middleIn }, isWanted);
  }

  /** The nearest place to one where nothing is in the way of a box; that place itself where there is none. */
  near(box: Standing, at: OnWallAt, isWanted?: (at: OnWallAt) => boolean): OnWall {
    const layout = { ...this.layout, boxes: [...this.taken, ...this.latches] };
    const { corner, alongIn } = freePlace(this.reader, layout, box, at, isWanted) ?? at;
    return { corner, alongIn };
  }

  /** On the wall of this room that is nearest to a place of the plan. */
  nearTo(box: Standing, place: Place, middleIn: number): OnWall | undefined {
    const outline = this.layout.outline!;
    const [nearest] = this.layout.walls
      .flatMap(({ corner, startIn, lengthIn }) =>
        [0.1, 0.3, 0.5, 0.7, 0.9].map((part) => {
          const alongIn = startIn + lengthIn * part;
          const { xIn, yIn } = placeAlong(outline, corner, alongIn)!;
          return { corner, alongIn, away: Math.hypot(xIn - place.xIn, yIn - place.yIn) };
        }),
      )
      .toSorted((a, b) => a.away - b.away);
    return nearest && this.near(box, { corner: nearest.corner, alongIn: nearest.alongIn, middleIn });
  }

  /** A light over a sink: in front of the basin, of the first window or of the counter; undefined where none of them is drawn. */
  overSink(): Place | undefined {
    const { bands, openings, outline, faceIn } = this.layout;
    const own = bands.filter(isOnWall);
    const spot =
      own.find(({ kind }) => kind === 'basin') ??
      openings.find(({ kind }) => kind === 'window') ??
      own.find(({ kind }) => kind === 'counter');
    if (!spot || !outline) return undefined;
    const at = placeAlong(outline, spot.corner, spot.alongIn + spot.widthIn / 2);
    if (!at) return undefined;
    const out = faceIn(spot.corner) + this.reader.rules().number('layout.sinkLight');
    // The room lies to the left of its wall.
    const place = { xIn: at.xIn - Math.sin(at.angle) * out, yIn: at.yIn + Math.cos(at.angle) * out };
    return contains(outline, place) ? place : undefined;
  }

  /** Corners of walls with a room behind them, or with the outside. */
  private walls(behind: 'in' | 'out'): ReadonlySet<string> {
    const { id, storeyId } = this.layout.room;
    return new Set(
      storeyPlan(this.reader, storeyId).walls.flatMap(({ left, right }) => {
        const own = left?.roomId === id ? left : right?.roomId === id ? right : undefined;
        const other = own === left ? right : left;
        return own && (other !== undefined) === (behind === 'in') ? [own.corner] : [];
      }),
    );
  }

  private wanted(
    item: KitItem,
    number: number,
    many: number,
    isWanted: ((at: OnWallAt) => boolean) | undefined,
  ): OnWall | undefined {
    const { bands, openings, outline, walls, faceIn } = this.layout;
    const doors = openings.filter(({ kind }) => kind !== 'window');
    const isOn = (corner: string): boolean => !isWanted || isWanted({ corner, alongIn: 0 });
    if (item.thing === 'wall-light') {
      const under = UNDER_A_LIGHT.map((kind) =>
        bands.filter(isOnWall).filter((band) => band.kind === kind && isOn(band.corner)),
      ).find((own) => own.length > 0);
      const band = under?.[(number - 1) % under.length];
      if (band) return { corner: band.corner, alongIn: band.alongIn + band.widthIn / 2 };
    }
    // Beside the door by which one comes out: the lights and the bell of a porch.
    const [door] = doors.filter(({ corner }) => isOn(corner));
    if (isWanted && door && item.thing !== 'receptacle')
      return {
        corner: door.corner,
        alongIn:
          door.latchIn +
          Math.sign(door.latchIn - door.hingeIn) * this.reader.rules().number('layout.outsideBeside'),
      };
    const all = wallRuns(outline!, doors, faceIn)
      .flatMap((run) => run.between(0, run.lengthIn))
      .filter(({ corner }) => isOn(corner));
    const long = all.toSorted((a, b) => b.toIn - b.fromIn - (a.toIn - a.fromIn))[0];
    if (!long) return walls[0] && { corner: walls[0].corner, alongIn: walls[0].lengthIn / 2 };
    const isScreen = item.thing === 'receptacle' && (item.heightIn ?? 0) >= SCREEN_IN;
    const isAlone = many === 1 && item.circuit !== 'own';
    if (item.thing === 'data' || isScreen || (isAlone && item.thing === 'receptacle'))
      return {
        corner: long.corner,
        alongIn:
          (long.fromIn + long.toIn) / 2 +
          (item.thing === 'data' ? this.reader.rules().number('layout.dataBeside') * number : 0),
      };
    // Evenly round the room; what is one of its kind goes where its name sends it, so that it stays there whatever comes beside it.
    const whole = all.reduce((sum, { fromIn, toIn }) => sum + toIn - fromIn, 0);
    const named = [...item.key].reduce((sum, letter) => sum + letter.charCodeAt(0), 0);
    let left = whole * (many > 1 ? (number - 0.5) / many : spread(named));
    for (const { corner, fromIn, toIn } of all) {
      const edge = Math.min(FROM_CORNER_IN, (toIn - fromIn) / 2);
      if (left <= toIn - fromIn)
        return { corner, alongIn: Math.min(toIn - edge, Math.max(fromIn + edge, fromIn + left)) };
      left -= toIn - fromIn;
    }
    return { corner: long.corner, alongIn: (long.fromIn + long.toIn) / 2 };
  }
}

const laidAs = (key: string, box: Standing, at: OnWallAt): LaidBox => {
  const { middleIn, ...place } = at;
  return {
    ...box,
    box: { id: key, tag: '' },
    ...place,
    ...(middleIn !== undefined && { middleIn }),
  };
};

/** A box with one device that is not there yet. */
export function standing(kind: Standing['facts']['kind'], catalogueId: string | undefined): Standing {
  const roles = (catalogueId && builtInDevice(catalogueId)?.points) || [];
  return {
    facts: { ...NEW_RECEPTACLE.facts, kind },
    devices: catalogueId ? [{ id: '', boxId: '', gang: 1, catalogueId }] : [],
    points: roles.map((role) => ({ id: '', deviceId: '', role })),
    halfWidthIn: NEW_RECEPTACLE.halfWidthIn,
  };
}
