import { setting } from '../../changes/change.js';
import type { HouseReader } from '../../derive/reader.js';
import { counterAt, distanceTo, footprint } from '../../plan/bands.js';
import { onWall } from '../../plan/arrange.js';
import type { Place } from '../../plan/outline.js';
import { placeAlong } from '../../plan/outline.js';
import type { Band } from '../../house/model.js';
import type { RoomLayout } from '../../plan/room-layout.js';
import { hasReceptacle, isGeneral } from '../../facts/outlets.js';
import type { FarStretch } from '../../plan/spacing.js';
import {
  OVER_TOP_IN,
  bareFoyerWalls,
  farBasins,
  farCounters,
  farStretches,
  overCounter,
  servesCounter,
  wallSpace,
} from '../../plan/spacing.js';
import type { OnWall } from '../../plan/wall-runs.js';
import type { Finding, Fix } from '../../findings/finding.js';
import { receptacleAddition } from './additions.js';
import type { OnWallAt } from '../../plan/free-place.js';
import { NEW_RECEPTACLE, freePlace } from '../../plan/free-place.js';

/** Overhang of a counter at its free end, where a receptacle of it is near enough: 210.52(C)(2), 2020, from memory. */
const PENINSULA_END_IN = 24;

/** A way to put a receptacle at a place on a wall, or as near to it as nothing is in its way. */
function receptacleAt(
  reader: HouseReader,
  layout: RoomLayout,
  near: OnWall & { readonly heightIn?: number },
  isWanted?: (at: OnWallAt) => boolean,
): Fix[] {
  const middleIn = near.heightIn ?? reader.rules().number('height.receptacle');
  const at = freePlace(reader, layout, NEW_RECEPTACLE, { ...near, middleIn }, isWanted);
  const change =
    at &&
    receptacleAddition(reader, layout.room, {
      corner: at.corner,
      alongIn: at.alongIn,
      ...(near.heightIn !== undefined && { heightIn: near.heightIn, heightReference: 'centre' as const }),
    });
  return change ? [{ code: 'set-receptacle', facts: { roomId: layout.room.id }, change }] : [];
}

const numberOf = (layout: RoomLayout, corner: string | undefined): number =>
  layout.walls.findIndex((wall) => wall.corner === corner) + 1;

function farFindings(
  reader: HouseReader,
  layout: RoomLayout,
  code: 'layout.far-wall' | 'layout.far-counter',
  stretches: readonly FarStretch[],
): Finding[] {
  const isCounter = code === 'layout.far-counter';
  const rule = isCounter ? 'layout.counterReach' : 'layout.reach';
  const reach = reader.rules().number(rule);
  return stretches.map(({ run, fromIn, toIn }): Finding => {
    // As far in as it still reaches back to where the stretch begins.
    const middle = run.at(fromIn + Math.min(reach, (toIn - fromIn) / 2));
    const heightIn = isCounter ? overCounter(layout, middle) : undefined;
    return {
      code,
      severity: 'fix',
      where: { roomId: layout.room.id },
      facts: { wall: numberOf(layout, middle.corner) },
      measured: { kind: 'length', inches: toIn - fromIn },
      allowed: { kind: 'length', inches: 0 },
      source: { rule },
      fixes: receptacleAt(
        reader,
        layout,
        { ...middle, ...(heightIn !== undefined && { heightIn }) },
        (at) => {
          const offset = run.offsetOf(at);
          const serves =
            !isCounter ||
            servesCounter(reader, layout, { ...at, ...(heightIn !== undefined && { middleIn: heightIn }) });
          // It serves some of the stretch, or it is no help.
          return offset !== undefined && serves && offset > fromIn - reach && offset < toIn + reach;
        },
      ),
    };
  });
}

/** Into the side of an island or peninsula, so far below its top: inches, common practice. */
const BELOW_TOP_IN = 6;

/** A way to put one more receptacle into an island or peninsula: the first of a peninsula near its end, the others evenly from there. */
function islandReceptacle(
  reader: HouseReader,
  { room }: RoomLayout,
  band: Band,
  ground: readonly Place[],
  index: number,
  needs: number,
): Fix[] {
  const [a, b, c, d] = ground as [Place, Place, Place, Place];
  const between = (one: Place, other: Place, part: number): Place => ({
    xIn: one.xIn + (other.xIn - one.xIn) * part,
    yIn: one.yIn + (other.yIn - one.yIn) * part,
  });
  const out = 1 - (index + 0.25) / needs;
  const place = between(between(a, b, 0.5), between(d, c, 0.5), out);
  const round = (inches: number): number => Math.round(inches * 2) / 2;
  const change = receptacleAddition(reader, room, {
    xIn: round(place.xIn),
    yIn: round(place.yIn),
    heightIn: Math.max(0, band.toIn - BELOW_TOP_IN),
    heightReference: 'centre',
  });
  return change ? [{ code: 'set-receptacle', facts: { roomId: room.id }, change }] : [];
}

/** Receptacles of islands and peninsulas, by the edition. */
function islandFindings(reader: HouseReader, layout: RoomLayout): Finding[] {
  const { outline, bands, boxes, faceIn, room } = layout;
  const rules = reader.rules();
  if (!rules.has('layout.islands')) return [];
  const school = rules.text('layout.islands');
  return bands.flatMap((band): Finding[] => {
    const { kind, widthIn, depthIn } = band;
    if (kind !== 'island' && kind !== 'peninsula') return [];
    if (Math.max(widthIn, depthIn) < 24 || Math.min(widthIn, depthIn) < 12) return [];
    const area = (widthIn * depthIn) / 144;
    const needs =
      school === 'one' ? 1 : school === 'area' ? 1 + Math.max(0, Math.ceil((area - 9) / 18 - 1e-9)) : 0;
    const ground = outline && footprint(band, outline, faceIn);
    // Nothing is known of what stands in it while the room is not drawn.
    if (!ground) return [];
    // Within it, or in its side.
    const own = boxes.filter((box) => hasReceptacle(box) && box.place && distanceTo(ground, box.place) < 3);
    const [, , c, d] = ground;
    const isAtEnd = own.some(({ place }) => onWall([d!, c!], place!).besideIn <= PENINSULA_END_IN);
    // The first is the one near the end.
    const index = kind === 'peninsula' && !isAtEnd ? 0 : own.length;
    const base = {
      where: { roomId: room.id },
      measured: { kind: 'number', number: own.length },
      source: { rule: 'layout.islands' },
    } as const;
    if (school === 'provision')
      return own.length
        ? []
        : [{ ...base, code: 'layout.island', severity: 'note', facts: { kind, has: 0, needs: 0 } }];
    const isEnough = own.length >= needs;
    if (isEnough && (school !== 'area' || kind !== 'peninsula' || isAtEnd)) return [];
    return [
      {
        ...base,
        code: 'layout.island',
        severity: 'fix',
        facts: { kind, has: own.length, needs, ...(isEnough && { atEnd: true }) },
        allowed: { kind: 'number', number: needs },
        fixes: islandReceptacle(reader, layout, band, ground, index, Math.max(needs, index + 1)),
      },
    ];
  });
}

/** A receptacle within reach of the edge of each basin. */
function basinFindings(reader: HouseReader, layout: RoomLayout): Finding[] {
  const { outline, room } = layout;
  if (!reader.rules().has('layout.basin')) return [];
  const reach = reader.rules().number('layout.basin');
  return farBasins(reader, layout).map(({ basin, rectangle, awayIn }): Finding => ({
    code: 'layout.no-outlet',
    severity: 'fix',
    where: { roomId: room.id },
    facts: { what: 'basin', has: 0, needs: 1 },
    ...(Number.isFinite(awayIn) && { measured: { kind: 'length', inches: awayIn } as const }),
    allowed: { kind: 'length', inches: reach },
    source: { rule: 'layout.basin' },
    fixes: receptacleAt(
      reader,
      layout,
      {
        corner: basin.corner,
        alongIn: basin.alongIn + basin.widthIn + OVER_TOP_IN,
        heightIn: basin.toIn + OVER_TOP_IN,
      },
      ({ corner, alongIn }) => {
        const place = placeAlong(outline!, corner, alongIn);
        return place !== undefined && distanceTo(rectangle, place) <= reach;
      },
    ),
  }));
}

function foyerFindings(reader: HouseReader, layout: RoomLayout): Finding[] {
  return bareFoyerWalls(reader, layout).map((wall): Finding => ({
    code: 'layout.no-outlet',
    severity: 'fix',
    where: { roomId: layout.room.id },
    facts: { what: 'foyer-wall', has: 0, needs: numberOf(layout, wall.corner) },
    source: { rule: 'layout.foyerWall' },
    fixes: receptacleAt(reader, layout, wall, (at) => at.corner === wall.corner),
  }));
}

/** Receptacles along walls and counters, at basins, in the walls of a foyer; islands and peninsulas. */
export function spacingFindings(reader: HouseReader, layout: RoomLayout, isLargeFoyer: boolean): Finding[] {
  const { id } = layout.room;
  return [
    ...farFindings(reader, layout, 'layout.far-wall', farStretches(reader, id) ?? []),
    ...farFindings(reader, layout, 'layout.far-counter', farCounters(reader, id)),
    ...islandFindings(reader, layout),
    ...basinFindings(reader, layout),
    ...(isLargeFoyer ? foyerFindings(reader, layout) : []),
  ];
}

/** A way to put a receptacle somewhere on the walls of a room: where nothing is in its way. */
export function receptacleAnywhere(reader: HouseReader, layout: RoomLayout, heightIn?: number): Fix[] {
  const { outline, walls, room } = layout;
  if (outline && walls.length) {
    const [longest] = wallSpace(reader, layout).toSorted((a, b) => b.lengthIn - a.lengthIn);
    const wall = walls.toSorted((a, b) => b.lengthIn - a.lengthIn)[0]!;
    const near = longest?.at(longest.lengthIn / 2) ?? {
      corner: wall.corner,
      alongIn: wall.startIn + wall.lengthIn / 2,
    };
    return receptacleAt(reader, layout, { ...near, ...(heightIn !== undefined && { heightIn }) });
  }
  const change = receptacleAddition(
    reader,
    room,
    heightIn === undefined ? {} : { heightIn, heightReference: 'centre' },
  );
  return change ? [{ code: 'set-receptacle', facts: { roomId: room.id }, change }] : [];
}

/** Boxes that stand too high for what they serve, for a switch too high to reach, or above their ceiling. */
export function heightFindings(reader: HouseReader, layout: RoomLayout): Finding[] {
  const { room, boxes, bands } = layout;
  const rules = reader.rules();
  const ceilingIn = reader.get('storeys', room.storeyId)?.ceilingIn;
  return boxes.flatMap((box): Finding[] => {
    const { middleIn, points } = box;
    const { id, heightIn } = box.box;
    if (middleIn === undefined || heightIn === undefined) return [];
    const base = {
      code: 'layout.height',
      where: { roomId: room.id, boxId: id },
      measured: { kind: 'length', inches: middleIn },
    } as const;
    const to = (target: number): Fix[] => [
      {
        code: 'set-height',
        facts: { boxId: id, heightIn: target },
        change: setting('boxes', id, { heightIn: target }),
      },
    ];
    if (ceilingIn !== undefined && middleIn > ceilingIn && box.facts.kind !== 'ceiling')
      return [
        {
          ...base,
          severity: 'fix',
          facts: { what: 'ceiling' },
          allowed: { kind: 'length', inches: ceilingIn },
          source: { practice: 'common' },
          fixes: to(Math.max(0, Math.min(rules.number('height.switch'), ceilingIn - 6))),
        },
      ];
    const isLever = points.some(({ role }) => role === 'lever');
    const grip = rules.number('layout.grip');
    if (isLever && middleIn > grip)
      return [
        {
          ...base,
          severity: 'fix',
          facts: { what: 'switch' },
          allowed: { kind: 'length', inches: grip },
          source: { rule: 'layout.grip' },
          fixes: to(rules.number('height.switch')),
        },
      ];
    const above = rules.number('layout.counterAbove');
    const counter = counterAt(bands, box);
    if (counter && hasReceptacle(box) && isGeneral(box) && middleIn > counter.toIn + above + 1e-6) {
      // To whatever part of the box it is measured.
      const target = counter.toIn + OVER_TOP_IN - (middleIn - heightIn);
      return [
        {
          ...base,
          severity: 'fix',
          facts: { what: 'counter' },
          allowed: { kind: 'length', inches: counter.toIn + above },
          source: { rule: 'layout.counterAbove' },
          fixes: to(target),
        },
      ];
    }
    return [];
  });
}
