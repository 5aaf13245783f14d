import type { HouseReader } from '../derive/reader.js';
import { distanceTo, footprint, isOnWall } from './bands.js';
import type { Place } from './outline.js';
import { ON_LINE, placeAlong } from './outline.js';
import type { LaidBox, RoomLayout } from './room-layout.js';
import { hasReceptacle } from '../facts/outlets.js';
import { halfWidthOf } from './room-layout.js';
import type { FindingFacts } from '../findings/facts.js';

export type InTheWay = FindingFacts['layout.in-the-way']['what'];

/** A place of a box on a wall: where its middle is. */
export interface OnWallAt {
  readonly corner: string;
  readonly alongIn: number;
  readonly middleIn?: number | undefined;
}

/** Boxes whose middles are nearer than this, one over the other, meet in one bay: inches, the height of a box. */
const OVER_IN = 4.5;
/** A door that is open lies along the wall beside it when its hinge is so near to the corner: inches. */
const HINGE_CORNER_IN = 10;
/** So near to the end of a wall nothing is nailed: the corner of three studs. */
const AT_END_IN = 3;

const isSwitch = ({ points }: Pick<LaidBox, 'points'>): boolean =>
  points.some(({ role }) => role === 'lever');

/** It belongs into what is built in: the receptacle of one appliance, a cable to a light under a cabinet, a low-voltage box. */
const belongsIn = ({ facts, devices }: Standing): boolean =>
  facts.kind === 'buried-point' ||
  facts.kind === 'low-voltage' ||
  devices.length === 0 ||
  devices.every(({ catalogueId }) => /^(appliance|receptacle-single|receptacle-240)/.test(catalogueId));

/** What a box brings with it that decides where it may stand. */
export type Standing = Pick<LaidBox, 'facts' | 'devices' | 'points' | 'halfWidthIn'>;

/** A single-gang receptacle that is not there yet. */
export const NEW_RECEPTACLE: Standing = {
  facts: {
    name: '',
    material: 'plastic',
    kind: 'device',
    gangs: 1,
    slots: 2,
    clamps: 'none',
    groundScrew: false,
    volumeSource: '',
  },
  devices: [{ id: '', boxId: '', gang: 1, catalogueId: 'receptacle' }],
  points: [{ id: '', deviceId: '', role: 'receptacle' }],
  halfWidthIn: halfWidthOf(1),
};

/** A box of so many switches that is not there yet. */
export const newSwitch = (gangs: number): Standing => ({
  facts: { ...NEW_RECEPTACLE.facts, gangs },
  devices: [{ id: '', boxId: '', gang: 1, catalogueId: 'switch' }],
  points: [{ id: '', deviceId: '', role: 'lever' }],
  halfWidthIn: halfWidthOf(gangs),
});

/** What a box would stand in at a place of its wall. */
export function inTheWay(
  reader: HouseReader,
  layout: RoomLayout,
  box: Standing,
  at: OnWallAt,
): InTheWay | undefined {
  const { outline, openings, bands, walls } = layout;
  const beside = reader.rules().number('layout.besideOpening');
  const half = box.halfWidthIn;
  const middle = at.middleIn;
  for (const { corner, alongIn, widthIn, kind, sillIn, headIn } of openings) {
    if (corner !== at.corner) continue;
    if (
      at.alongIn + half <= alongIn - beside + 1e-6 ||
      at.alongIn - half >= alongIn + widthIn + beside - 1e-6
    )
      continue;
    if (kind === 'window' && (middle === undefined || middle <= sillIn || middle >= headIn)) continue;
    if (kind !== 'window' && middle !== undefined && middle >= headIn) continue;
    return kind === 'window' ? 'window' : 'doorway';
  }
  if (isSwitch(box) && outline) {
    for (const door of openings) {
      if (!door.isOwn || !door.hasHinge || door.kind !== 'door') continue;
      const away = Math.sign(door.hingeIn - door.latchIn);
      // Folded back on its own wall, or on the wall beside it where that is near.
      const behind = (at.alongIn - door.hingeIn) * away;
      if (door.corner === at.corner && behind > 0 && behind < door.widthIn) return 'behind-door';
      const index = outline.findIndex(({ id }) => id === door.corner);
      const [own, next, before] = [walls[index]!, walls[(index + 1) % walls.length]!, walls.at(index - 1)!];
      const toEnd = own.startIn + own.lengthIn - door.hingeIn;
      if (
        away > 0 &&
        toEnd < HINGE_CORNER_IN &&
        at.corner === next.corner &&
        at.alongIn - next.startIn < door.widthIn
      )
        return 'behind-door';
      if (
        away < 0 &&
        door.hingeIn - own.startIn < HINGE_CORNER_IN &&
        at.corner === before.corner &&
        before.startIn + before.lengthIn - at.alongIn < door.widthIn
      )
        return 'behind-door';
    }
  }
  if (middle === undefined || belongsIn(box)) return undefined;
  return bands.filter(isOnWall).find(
    ({ kind, corner, alongIn, widthIn, fromIn, toIn }) =>
      corner === at.corner &&
      // A counter and a basin have a top: what is over it is above them, what is under it is in its cabinet.
      !['counter', 'basin', 'island', 'peninsula'].includes(kind) &&
      at.alongIn > alongIn &&
      at.alongIn < alongIn + widthIn &&
      middle > fromIn &&
      middle < toIn,
  )?.kind;
}

/** A box of the same wall that hangs in the same bay at about the same height, on this side. */
export function inSameBay(
  reader: HouseReader,
  { boxes, walls }: RoomLayout,
  box: Standing,
  at: OnWallAt,
  apartFrom: ReadonlySet<string> = new Set(),
): LaidBox | undefined {
  const spacing = reader.rules().number('wall.spacing');
  const start = walls.find(({ corner }) => corner === at.corner)?.startIn ?? 0;
  const bay = (alongIn: number): number => Math.floor((alongIn - start) / spacing);
  return boxes.find(
    (other) =>
      other !== box &&
      !apartFrom.has(other.box.id) &&
      other.corner === at.corner &&
      other.alongIn !== undefined &&
      bay(other.alongIn) === bay(at.alongIn) &&
      // A bay takes two boxes side by side, each on a stud of its own, where both are narrow enough.
      Math.abs(other.alongIn - at.alongIn) < other.halfWidthIn + box.halfWidthIn + 1 &&
      (at.middleIn === undefined ||
        other.middleIn === undefined ||
        Math.abs(other.middleIn - at.middleIn) < OVER_IN),
  );
}

export type TubRule = FindingFacts['layout.tub']['what'];

/** Whether a place is in the zone of a tub or shower of its room, and by which rule. */
export function atTub(
  reader: HouseReader,
  { bands, outline }: RoomLayout,
  box: Standing,
  place: Place | undefined,
  middleIn: number | undefined,
): TubRule | undefined {
  if (!place || !outline) return undefined;
  const rules = reader.rules();
  const high = rules.number('layout.tubHigh');
  for (const band of bands) {
    if (band.kind !== 'tub' && band.kind !== 'shower') continue;
    const rectangle = footprint(band, outline, ON_LINE);
    if (!rectangle) continue;
    const away = distanceTo(rectangle, place) - 1e-6;
    const isLow = (middleIn ?? 0) <= band.fromIn + high;
    // A box in the wall stands on the line that is drawn: half a wall from the tub it faces.
    if (isSwitch(box) && isLow && away <= 0) return 'switch';
    const receptacles = rules.number('layout.tubReceptacle');
    if (hasReceptacle(box) && isLow && (receptacles > 0 ? away < receptacles : away <= 0))
      return 'receptacle';
    const hangs =
      box.facts.kind === 'ceiling' &&
      box.facts.fanRated === true &&
      box.points.some(({ role }) => role === 'fan');
    if (hangs && away < rules.number('layout.tubFan')) return 'fan';
  }
  return undefined;
}

/**
 * The nearest place to one on the walls of a room where a box stands in nobody's way, by steps of an inch: on its own wall
 * first, then on any. `isWanted` narrows it down.
 */
export function freePlace(
  reader: HouseReader,
  layout: RoomLayout,
  box: Standing,
  from: OnWallAt,
  isWanted: (at: OnWallAt) => boolean = () => true,
): OnWallAt | undefined {
  const { outline, walls } = layout;
  if (!outline) return undefined;
  const origin = placeAlong(outline, from.corner, from.alongIn);
  if (!origin) return undefined;
  const candidates = walls.flatMap(({ corner, startIn, lengthIn }) => {
    const places: { at: OnWallAt; away: number }[] = [];
    const edge = Math.max(AT_END_IN, box.halfWidthIn);
    for (let alongIn = Math.ceil(startIn + edge); alongIn <= startIn + lengthIn - edge; alongIn++) {
      const place = placeAlong(outline, corner, alongIn)!;
      const away =
        Math.hypot(place.xIn - origin.xIn, place.yIn - origin.yIn) + (corner === from.corner ? 0 : 24);
      places.push({ at: { corner, alongIn, middleIn: from.middleIn }, away });
    }
    return places;
  });
  candidates.sort((a, b) => a.away - b.away);
  return candidates.find(
    ({ at }) =>
      !inTheWay(reader, layout, box, at) &&
      !inSameBay(reader, layout, box, at) &&
      !atTub(reader, layout, box, placeAlong(outline, at.corner, at.alongIn), at.middleIn) &&
      isWanted(at),
  )?.at;
}
