import type { HouseReader } from '../derive/reader.js';
import { boxFacts, roomOf } from '../facts/box-facts.js';
import type { Place } from '../plan/outline.js';
import { distance } from '../plan/outline.js';
import type { LaidBox } from '../plan/room-layout.js';
import { roomLayout } from '../plan/room-layout.js';

/** How a cable goes from box to box. Inches. */
export interface Way {
  /**
   * `studs`: along the walls of a room, through their studs; `over`: up, over the top plates, and down; `floors`: through a floor;
   * `rooms`: nobody knows, its length is what such ways commonly are.
   */
  readonly kind: 'studs' | 'over' | 'floors' | 'rooms';
  readonly lengthIn: number;
  /** Up at its ends, and along or across: what the length is made of. */
  readonly riseIn: number;
  readonly acrossIn: number;
  /** The room that it comes to, where it leaves its own. */
  readonly toRoomId?: string;
}

/** Heights of boxes of which nobody has said any, over the floor: inches, common practice. */
const USUAL_HEIGHT_IN = { panel: 60, switch: 48, outlet: 16 } as const;
/** Rooms between two, on the walking order, that make a way longer; more make no difference. */
const MOST_ROOMS = 5;

interface Standing {
  readonly laid?: LaidBox | undefined;
  readonly roomId?: string | undefined;
  readonly storey: number;
  /** Over its own floor. */
  readonly heightIn: number;
  readonly ceilingIn: number;
  readonly isPanel: boolean;
}

function standing(reader: HouseReader, boxId: string): Standing {
  const room = roomOf(reader, boxId);
  const storeyId = room && reader.get('rooms', room.id)?.storeyId;
  const storey = reader.get('storeys', storeyId ?? '');
  const ceilingIn = storey?.ceilingIn ?? reader.rules().number('layout.ceiling');
  const laid = room && roomLayout(reader, room.id)?.boxes.find(({ box }) => box.id === boxId);
  const facts = boxFacts(reader, reader.get('boxes', boxId)!);
  const isOverhead = facts.kind === 'ceiling' || (facts.kind === 'light-box' && laid?.corner === undefined);
  const isSwitch = laid?.points.some(({ role }) => role === 'lever') ?? false;
  return {
    laid,
    roomId: room?.id,
    storey: reader.all('storeys').findIndex(({ id }) => id === storeyId),
    heightIn: isOverhead
      ? ceilingIn
      : (laid?.middleIn ??
        USUAL_HEIGHT_IN[facts.kind === 'panel' ? 'panel' : isSwitch ? 'switch' : 'outlet']),
    ceilingIn,
    isPanel: facts.kind === 'panel',
  };
}

/** Along the walls of a room from one box to another, the shorter way round that crosses no doorway; undefined where none does. */
function alongWalls(
  reader: HouseReader,
  roomId: string,
  a: LaidBox,
  b: LaidBox,
): { readonly lengthIn: number; readonly corners: readonly Place[] } | undefined {
  const layout = roomLayout(reader, roomId);
  const outline = layout?.outline;
  if (!outline || a.corner === undefined || b.corner === undefined) return undefined;
  const starts = new Map<string, number>();
  let whole = 0;
  outline.forEach((corner, at) => {
    starts.set(corner.id, whole);
    whole += distance(corner, outline[(at + 1) % outline.length]!);
  });
  const at = (corner: string, alongIn: number): number | undefined => {
    const start = starts.get(corner);
    return start === undefined ? undefined : start + alongIn;
  };
  const [from, to] = [at(a.corner, a.alongIn!), at(b.corner, b.alongIn!)];
  if (from === undefined || to === undefined) return undefined;
  const doors = layout.openings.flatMap((opening) => {
    const middle =
      opening.kind === 'window' ? undefined : at(opening.corner, opening.alongIn + opening.widthIn / 2);
    return middle === undefined ? [] : [middle];
  });
  const ways = [
    [from, to],
    [to, from],
  ].flatMap(([start, end]) => {
    const past = (place: number): number => (place - start! + whole) % whole;
    const lengthIn = past(end!);
    if (doors.some((door) => past(door) < lengthIn)) return [];
    const corners = outline
      .map((corner) => ({ corner, past: past(starts.get(corner.id)!) }))
      .filter((one) => one.past > 0 && one.past < lengthIn)
      .sort((one, other) => one.past - other.past)
      .map(({ corner }) => corner);
    return [{ lengthIn, corners: start === from ? corners : corners.reverse() }];
  });
  return ways.sort((one, other) => one.lengthIn - other.lengthIn)[0];
}

/**
 * How a cable goes between two boxes, and how far: estimated from their places on the plan, or, where they have none, by the values
 * `estimate.*` of the rulebook and the rooms between them on the walking order (common practice). The ways along the framing will
 * stand here in place of it.
 */
export function wayBetween(reader: HouseReader, fromId: string, toId: string): Way {
  const [a, b] = [standing(reader, fromId), standing(reader, toId)];
  const rules = reader.rules();
  const toRoom = b.roomId !== undefined && a.roomId !== b.roomId ? { toRoomId: b.roomId } : {};
  const places = [a.laid?.place, b.laid?.place];
  const floors = Math.abs(a.storey - b.storey);
  if (!places[0] || !places[1]) {
    const order = (roomId: string | undefined): number | undefined =>
      reader.get('rooms', roomId ?? '')?.order;
    const [one, other] = [order(a.roomId), order(b.roomId)];
    const between =
      one === undefined || other === undefined || a.storey !== b.storey
        ? 0
        : Math.min(MOST_ROOMS, Math.max(0, Math.abs(one - other) - 1));
    const base = a.isPanel || b.isPanel ? 'homeRun' : a.roomId === b.roomId ? 'inRoom' : 'nextRoom';
    const feet =
      rules.number(`estimate.${base}`) +
      (base === 'nextRoom' ? between * rules.number('estimate.perRoom') : 0) +
      floors * rules.number('estimate.storey');
    return { kind: 'rooms', lengthIn: feet * 12, riseIn: 0, acrossIn: feet * 12, ...toRoom };
  }
  const acrossIn = Math.abs(places[0].xIn - places[1].xIn) + Math.abs(places[0].yIn - places[1].yIn);
  if (floors > 0) {
    const [low, high] = a.storey < b.storey ? [a, b] : [b, a];
    const rise =
      low.ceilingIn -
      low.heightIn +
      high.heightIn +
      floors * rules.number('cut.between') +
      reader
        .all('storeys')
        .slice(low.storey + 1, high.storey)
        .reduce((sum, { ceilingIn }) => sum + (ceilingIn ?? rules.number('layout.ceiling')), 0);
    return { kind: 'floors', lengthIn: rise + acrossIn, riseIn: rise, acrossIn, ...toRoom };
  }
  const rise = Math.max(0, a.ceilingIn - a.heightIn) + Math.max(0, b.ceilingIn - b.heightIn);
  const over: Way = { kind: 'over', lengthIn: rise + acrossIn, riseIn: rise, acrossIn, ...toRoom };
  if (a.roomId === undefined || a.roomId !== b.roomId) return over;
  const along = alongWalls(reader, a.roomId, a.laid!, b.laid!);
  const step = Math.abs(a.heightIn - b.heightIn);
  return along !== undefined && along.lengthIn + step <= over.lengthIn
    ? { kind: 'studs', lengthIn: along.lengthIn + step, riseIn: step, acrossIn: along.lengthIn }
    : over;
}

/**
 * Where a way goes on the plan, from box to box: around the corners of the room, or at right angles over the plates. Estimated as the
 * way is; undefined where a box has no place, or where the way goes through a floor.
 */
export function wayOnPlan(reader: HouseReader, fromId: string, toId: string): readonly Place[] | undefined {
  const [a, b] = [standing(reader, fromId), standing(reader, toId)];
  const [from, to] = [a.laid?.place, b.laid?.place];
  const { kind } = wayBetween(reader, fromId, toId);
  if (!from || !to || kind === 'floors') return undefined;
  if (kind === 'studs')
    return [from, ...(alongWalls(reader, a.roomId!, a.laid!, b.laid!)?.corners ?? []), to];
  return [from, { xIn: to.xIn, yIn: from.yIn }, to];
}

/** Holes that are bored for a way: through studs, and through plates, where they are sealed. Estimated as the way is. */
export function holesOf(reader: HouseReader, { kind, acrossIn }: Way): { studs: number; plates: number } {
  if (kind === 'studs')
    return { studs: Math.floor(acrossIn / reader.rules().number('estimate.studs')), plates: 0 };
  return { studs: 0, plates: 2 };
}
