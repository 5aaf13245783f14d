import RBush from 'rbush';
import { enclosedBy, withoutStraight } from '../plan/enclosed.js';
import type { Line } from '../plan/enclosed.js';
import type { Outline, OutlineProblem, Place } from '../plan/outline.js';
import { contains, counterClockwise, distance, inset, outlineProblem, signedArea } from '../plan/outline.js';
import type { DrawingRead, DrawingUnit } from './dxf-in.js';
import { DRAWING_UNITS } from './dxf-in.js';

/** How the outlines of a drawing are to be read. */
export interface RoomsAsked {
  readonly layers: readonly string[];
  readonly unit: DrawingUnit;
  /** What the lines are: the middles of walls, or their faces, so deep (inches) from face to face. */
  readonly lines: { readonly are: 'middles' } | { readonly are: 'faces'; readonly wallIn: number };
}

/** Why an outline is not offered of itself. */
export type OutlineDoubt = OutlineProblem | 'small' | 'sliver' | 'huge' | 'around-others';

/** An outline that was found, in inches, with the name that is written in it. */
export interface OfferedRoom {
  readonly name?: string;
  readonly outline: Outline;
  readonly areaFt2: number;
  /** It can be taken all the same where it is a room: all but what no outline may be. */
  readonly doubt?: OutlineDoubt;
  readonly canBeTaken: boolean;
}

export interface RoomsOffered {
  readonly rooms: readonly OfferedRoom[];
  /** Ends of lines that meet nothing: where an outline may be open. */
  readonly openEnds: number;
  /** There are more outlines than are looked at, the smaller ones; or the lines are too tangled to enclose anything. */
  readonly more: number;
  readonly isTangled: boolean;
  /** Over all, in feet. */
  readonly widthFt: number;
  readonly heightFt: number;
  /** The unit in which rooms would be as large as rooms are; undefined where none would, or the one that was asked does. */
  readonly likely?: DrawingUnit;
}

/** Smaller than this is a closet at most; narrower than this is a wall; larger than this is no room. Common practice. */
const SMALL_FT2 = 6;
const NARROW_IN = 9;
const HUGE_FT2 = 6000;
/** Of these sizes most rooms are, and houses over all. */
const USUAL_FT2 = [18, 2500] as const;
const USUAL_HOUSE_FT = [8, 500] as const;
/** Outlines that are looked at, the largest: no house has as many rooms. */
const MOST_ROOMS = 400;
/** An outline that is another one but for this much of its area is that one. */
const SAME = 0.02;

/** Room that a ring encloses on the average between its sides: twice its area by its way round. Inches. */
const widthOf = (ring: readonly Place[]): number => {
  const round = ring.reduce((sum, a, at) => sum + distance(a, ring[(at + 1) % ring.length]!), 0);
  return round ? (2 * Math.abs(signedArea(ring))) / round : 0;
};

const named = (ring: readonly Place[]): Outline =>
  ring.map(({ xIn, yIn }, at) => ({
    id: `c${at}`,
    xIn: Math.round(xIn * 100) / 100,
    yIn: Math.round(yIn * 100) / 100,
  }));

/** What a text says a room is called: its first line with letters that is no size. */
function nameIn(text: string): string | undefined {
  const line = text
    .split('\n')
    .map((part) => part.trim())
    .find((part) => (part.match(/\p{L}/gu)?.length ?? 0) >= 3 && !/^\d/.test(part));
  return line?.slice(0, 100);
}

/** The rings of chosen layers, in the unit of the drawing by so much. */
function ringsOf(drawing: DrawingRead, layers: ReadonlySet<string>, scale: number) {
  const sized = ({ xIn, yIn }: Place): Place => ({ xIn: xIn * scale, yIn: yIn * scale });
  const chosen = drawing.layers.filter(({ name }) => layers.has(name));
  const closed = chosen.flatMap((layer) => layer.closed.map((ring) => withoutStraight(ring.map(sized))));
  const lines = chosen.flatMap((layer) => layer.lines.map(([a, b]): Line => [sized(a), sized(b)]));
  // What closed polylines enclose stands by itself; lines that end on them are closed by them.
  const sides = closed.flatMap((ring) => ring.map((a, at): Line => [a, ring[(at + 1) % ring.length]!]));
  const enclosed = lines.length
    ? enclosedBy([...lines, ...sides])
    : { rings: [], openEnds: [], isTangled: false };
  const { rings, openEnds, isTangled } = enclosed;
  return { closed, enclosed: rings, openEnds: openEnds.length, isTangled };
}

const middleOf = (ring: readonly Place[]): Place => ({
  xIn: ring.reduce((sum, { xIn }) => sum + xIn, 0) / ring.length,
  yIn: ring.reduce((sum, { yIn }) => sum + yIn, 0) / ring.length,
});

/** Rings, each once: the larger first. */
function distinct(rings: readonly (readonly Place[])[]): (readonly Place[])[] {
  const sorted = [...rings].sort((a, b) => Math.abs(signedArea(b)) - Math.abs(signedArea(a)));
  const kept = new Map<string, (readonly Place[])[]>();
  return sorted.filter((ring) => {
    const [area, middle] = [Math.abs(signedArea(ring)), middleOf(ring)];
    const cell = (dx: number, dy: number): string =>
      `${Math.round(middle.xIn / 6) + dx} ${Math.round(middle.yIn / 6) + dy}`;
    for (let dx = -1; dx <= 1; dx++)
      for (let dy = -1; dy <= 1; dy++)
        for (const other of kept.get(cell(dx, dy)) ?? []) {
          const isSame = Math.abs(Math.abs(signedArea(other)) - area) <= SAME * area;
          if (isSame && distance(middleOf(other), middle) < 2) return false;
        }
    kept.set(cell(0, 0), [...(kept.get(cell(0, 0)) ?? []), ring]);
    return true;
  });
}

const extent = (rings: readonly (readonly Place[])[]): readonly [number, number] => {
  let [left, right, low, high] = [Infinity, -Infinity, Infinity, -Infinity];
  for (const { xIn, yIn } of rings.flat()) {
    [left, right] = [Math.min(left, xIn), Math.max(right, xIn)];
    [low, high] = [Math.min(low, yIn), Math.max(high, yIn)];
  }
  return right < left ? [0, 0] : [(right - left) / 12, (high - low) / 12];
};

/** Whether rings of these sizes could be the rooms of a house. Square feet, feet. */
function couldBeHouse(areas: readonly number[], size: readonly [number, number]): boolean {
  const large = areas.toSorted((a, b) => b - a).slice(0, Math.max(1, Math.ceil(areas.length / 2)));
  const middle = large[Math.floor(large.length / 2)] ?? 0;
  return (
    middle >= USUAL_FT2[0] &&
    middle <= USUAL_FT2[1] &&
    Math.max(...size) >= USUAL_HOUSE_FT[0] &&
    Math.max(...size) <= USUAL_HOUSE_FT[1]
  );
}

/**
 * The rooms that a drawing holds on its chosen layers: what closed polylines and lines enclose, in inches, with what is written in
 * it as its name. Wall faces are moved out to the middles of the walls.
 */
export function roomsInDrawing(drawing: DrawingRead, asked: RoomsAsked): RoomsOffered {
  const perUnit = DRAWING_UNITS[asked.unit];
  const { closed, enclosed, openEnds, isTangled } = ringsOf(drawing, new Set(asked.layers), perUnit);
  const all = distinct([...closed, ...enclosed].filter((ring) => ring.length > 2));
  const rings = all.slice(0, MOST_ROOMS);
  const areas = rings.map((ring) => Math.abs(signedArea(ring)) / 144);
  const size = extent(rings);
  const grounds = new Grounds(rings);
  const names = rings.map((): { name: string; height: number } | undefined => undefined);
  for (const { text, at, height } of drawing.texts) {
    const name = nameIn(text);
    // What is written in a room that lies in another one is that room's.
    const ring = grounds.around({ xIn: at.xIn * perUnit, yIn: at.yIn * perUnit }).at(-1);
    if (name && ring !== undefined && height > (names[ring]?.height ?? -1)) names[ring] = { name, height };
  }
  const hasInner = new Set<number>();
  rings.forEach((ring, at) => {
    if (areas[at]! < SMALL_FT2) return;
    for (const other of grounds.around(middleOf(ring))) if (other < at) hasInner.add(other);
  });
  const rooms = rings.map((ring, at): OfferedRoom => {
    const drawn = counterClockwise(named(ring));
    const moved = asked.lines.are === 'faces' ? inset(drawn, () => -wallOf(asked) / 2) : drawn;
    const outline = named(moved ?? drawn);
    const problem = outlineProblem(outline);
    const name = names[at]?.name;
    const doubt = problem ?? doubtOf(areas[at]!, ring, hasInner.has(at) && !name);
    return {
      ...(name && { name }),
      outline,
      areaFt2: Math.round(Math.abs(signedArea(outline)) / 14.4) / 10,
      ...(doubt && { doubt }),
      canBeTaken: problem === undefined,
    };
  });
  const likely = likelyUnit(asked.unit, areas, size);
  return {
    rooms: rooms.sort((a, b) => Number(a.doubt !== undefined) - Number(b.doubt !== undefined)),
    openEnds,
    more: all.length - rings.length,
    isTangled,
    widthFt: Math.round(size[0] * 10) / 10,
    heightFt: Math.round(size[1] * 10) / 10,
    ...(likely && likely !== asked.unit && { likely }),
  };
}

function doubtOf(areaFt2: number, ring: readonly Place[], isAround: boolean): OutlineDoubt | undefined {
  if (areaFt2 < SMALL_FT2) return 'small';
  if (widthOf(ring) < NARROW_IN) return 'sliver';
  if (areaFt2 > HUGE_FT2) return 'huge';
  return isAround ? 'around-others' : undefined;
}

/** Rings found by a place within them. */
class Grounds {
  private readonly tree = new RBush<{
    readonly minX: number;
    readonly minY: number;
    readonly maxX: number;
    readonly maxY: number;
    readonly index: number;
  }>();
  constructor(private readonly rings: readonly (readonly Place[])[]) {
    this.tree.load(
      rings.map((ring, index) => ({
        minX: Math.min(...ring.map(({ xIn }) => xIn)),
        minY: Math.min(...ring.map(({ yIn }) => yIn)),
        maxX: Math.max(...ring.map(({ xIn }) => xIn)),
        maxY: Math.max(...ring.map(({ yIn }) => yIn)),
        index,
      })),
    );
  }
  /** Indexes of the rings around a place, the innermost last. */
  around(place: Place): readonly number[] {
    const { xIn, yIn } = place;
    return this.tree
      .search({ minX: xIn, minY: yIn, maxX: xIn, maxY: yIn })
      .map(({ index }) => index)
      .filter((index) => contains(this.rings[index]!, place))
      .sort((a, b) => a - b);
  }
}

const wallOf = ({ lines }: RoomsAsked): number => (lines.are === 'faces' ? lines.wallIn : 0);

/** The unit in which these could be rooms: the one that was asked, where it can be. */
function likelyUnit(
  asked: DrawingUnit,
  areas: readonly number[],
  [width, height]: readonly [number, number],
): DrawingUnit | undefined {
  if (areas.length === 0) return undefined;
  const units = Object.keys(DRAWING_UNITS) as DrawingUnit[];
  return [asked, ...units].find((unit) => {
    const by = DRAWING_UNITS[unit] / DRAWING_UNITS[asked];
    return couldBeHouse(
      areas.map((area) => area * by * by),
      [width * by, height * by],
    );
  });
}

/** The unit of a drawing whose header says none, or a wrong one: by how large what it encloses would be; inches where nothing helps. */
export function unitOfDrawing(drawing: DrawingRead, layers: readonly string[]): DrawingUnit {
  const asked = drawing.unit ?? 'inches';
  return roomsInDrawing(drawing, { layers, unit: asked, lines: { are: 'middles' } }).likely ?? asked;
}

/** Layers that rooms are most likely drawn on: those whose names say so; else all that enclose something. */
export function likelyLayers({ layers }: DrawingRead): readonly string[] {
  const names = layers.map(({ name }) => name);
  const of = (pattern: RegExp): string[] => names.filter((name) => pattern.test(name));
  const rooms = of(/room|space|area/i).filter((name) => !/name|text|tag|iden|dim/i.test(name));
  if (rooms.length) return rooms;
  const walls = of(/wall/i);
  if (walls.length) return walls;
  return layers.filter(({ closed, lines }) => closed.length + lines.length > 2).map(({ name }) => name);
}
