/**
 * Looks at a way as a line in the house and at the house file, and says what a cable could not do: a second look that shares no code
 * with the search. It knows nothing of bays, nodes or costs.
 */
interface File {
  readonly storeys: readonly {
    readonly id: string;
    readonly ceilingIn?: number | undefined;
    readonly overhead?: string | undefined;
    readonly below?: string | undefined;
    readonly framing?: string | undefined;
    readonly framingRuns?: string | undefined;
    readonly boring?: string | undefined;
    readonly level?: number | undefined;
  }[];
  readonly rooms: readonly {
    readonly id: string;
    readonly storeyId: string;
    readonly vaulted?: boolean | undefined;
    readonly outline?:
      readonly { readonly id: string; readonly xIn: number; readonly yIn: number }[] | undefined;
  }[];
  readonly openings: readonly {
    readonly roomId: string;
    readonly corner?: string | undefined;
    readonly alongIn: number;
    readonly widthIn: number;
    readonly sillIn: number;
    readonly headIn: number;
    readonly boring?: string | undefined;
  }[];
  readonly beams: readonly {
    readonly storeyId: string;
    readonly a: { readonly xIn: number; readonly yIn: number };
    readonly b: { readonly xIn: number; readonly yIn: number };
    readonly boring?: string | undefined;
  }[];
}
interface P {
  readonly xIn: number;
  readonly yIn: number;
  readonly zIn: number;
}
type XY = Pick<P, 'xIn' | 'yIn'>;

const BETWEEN = 12;
const CEILING = 97;
const HEADER = 11.25;

/** How far a place is from a stretch of line. */
function offLine(p: XY, a: XY, b: XY): number {
  const [dx, dy] = [b.xIn - a.xIn, b.yIn - a.yIn];
  const t = Math.max(
    0,
    Math.min(1, ((p.xIn - a.xIn) * dx + (p.yIn - a.yIn) * dy) / (dx * dx + dy * dy || 1)),
  );
  return Math.hypot(a.xIn + t * dx - p.xIn, a.yIn + t * dy - p.yIn);
}
const inside = (p: XY, ring: readonly XY[]): boolean => {
  let is = false;
  ring.forEach((a, at) => {
    const b = ring[(at + 1) % ring.length]!;
    if (
      a.yIn > p.yIn !== b.yIn > p.yIn &&
      p.xIn < a.xIn + ((p.yIn - a.yIn) / (b.yIn - a.yIn)) * (b.xIn - a.xIn)
    )
      is = !is;
  });
  return is;
};

interface Level {
  readonly storey: File['storeys'][number];
  readonly floor: number;
  readonly top: number;
  readonly rings: readonly { readonly id: string; readonly ring: readonly XY[]; readonly vaulted: boolean }[];
  readonly edges: readonly (readonly [XY, XY])[];
  readonly holes: readonly {
    readonly a: XY;
    readonly b: XY;
    readonly sill: number;
    readonly head: number;
    readonly boring: boolean;
  }[];
}

export function levelsOf(file: File): Level[] {
  let floor = 0;
  return [...file.storeys]
    .map((storey, at) => ({ storey, at }))
    .sort((a, b) => (a.storey.level ?? a.at) - (b.storey.level ?? b.at))
    .map(({ storey }) => {
      const rooms = file.rooms.filter((room) => room.storeyId === storey.id && room.outline);
      const top = floor + (storey.ceilingIn ?? CEILING);
      const level: Level = {
        storey,
        floor,
        top,
        rings: rooms.map((room) => ({ id: room.id, ring: room.outline!, vaulted: room.vaulted ?? false })),
        edges: rooms.flatMap(({ outline }) =>
          outline!.map((a, at) => [a, outline![(at + 1) % outline!.length]!] as const),
        ),
        holes: file.openings.flatMap((hole) => {
          const outline = rooms.find(({ id }) => id === hole.roomId)?.outline;
          const at = outline?.findIndex(({ id }) => id === hole.corner) ?? -1;
          if (!outline || at < 0) return [];
          const [a, b] = [outline[at]!, outline[(at + 1) % outline.length]!];
          const length = Math.hypot(b.xIn - a.xIn, b.yIn - a.yIn);
          const on = (along: number): XY => {
            const t = Math.min(1, along / length);
            return { xIn: a.xIn + t * (b.xIn - a.xIn), yIn: a.yIn + t * (b.yIn - a.yIn) };
          };
          return [
            {
              a: on(hole.alongIn),
              b: on(hole.alongIn + hole.widthIn),
              sill: hole.sillIn,
              head: hole.headIn,
              boring: hole.boring !== undefined,
            },
          ];
        }),
      };
      floor = top + BETWEEN;
      return level;
    });
}

/** What a cable that goes along this line could not do; nothing where all is well. */
export function wrongWithWay(file: File, points: readonly P[]): string[] {
  const wrong: string[] = [];
  const levels = levelsOf(file);
  const [first, last] = [points[0]!, points.at(-1)!];
  const isAtEnd = (p: XY): boolean =>
    [first, last].some((end) => Math.hypot(end.xIn - p.xIn, end.yIn - p.yIn) < 80);
  for (let at = 1; at < points.length; at++) {
    const [a, b] = [points[at - 1]!, points[at]!];
    const flat = Math.hypot(a.xIn - b.xIn, a.yIn - b.yIn);
    const rise = Math.abs(a.zIn - b.zIn);
    if (flat > 0.02 && rise > 0.02) wrong.push('a stretch neither upright nor level');
    const length = Math.max(flat, rise);
    for (let s = 0; s <= Math.ceil(length / 4); s++) {
      const t = Math.min(1, (s * 4) / (length || 1));
      const p = {
        xIn: a.xIn + t * (b.xIn - a.xIn),
        yIn: a.yIn + t * (b.yIn - a.yIn),
        zIn: a.zIn + t * (b.zIn - a.zIn),
      };
      const level = levels.find(({ floor, top }) => p.zIn >= floor - 0.01 && p.zIn <= top + 0.01);
      if (p.zIn < -0.01) {
        const below = levels[0]!.storey.below;
        if (below !== 'basement' && below !== 'crawl-space') wrong.push('below a slab');
        continue;
      }
      if (!level) {
        // In a ceiling: over rooms of the story below it, or under rooms of the one above.
        const under = levels.findLast(({ top }) => p.zIn > top)!;
        const over = levels[levels.indexOf(under) + 1];
        const rings = [...under.rings, ...(over?.rings ?? [])];
        const isNear = rings.some(
          ({ ring }) =>
            inside(p, ring) || ring.some((c, i) => offLine(p, c, ring[(i + 1) % ring.length]!) <= 24),
        );
        if (!isNear) wrong.push('outside the house');
        continue;
      }
      // In a story: in a wall, or in the air above a ceiling box or floor box only at its end.
      const height = p.zIn - level.floor;
      const isInWall = level.edges.some(([c, d]) => offLine(p, c, d) <= 1.1);
      if (!isInWall && !(flat < 0.02 && isAtEnd(p))) wrong.push('in the air of a room');
      for (const hole of level.holes) {
        const on = offLine(p, hole.a, hole.b) < 0.6;
        const inSpan =
          Math.min(
            Math.hypot(p.xIn - hole.a.xIn, p.yIn - hole.a.yIn),
            Math.hypot(p.xIn - hole.b.xIn, p.yIn - hole.b.yIn),
          ) > 3.2;
        if (!on || !inSpan) continue;
        // A box that stands in an opening is what is wrong there, not its cable.
        const isBoxThere = [first, last].some((end) => offLine(end, hole.a, hole.b) < 0.6);
        if (isBoxThere) continue;
        if (height > hole.sill - 2.9 && height < hole.head + 2.4) wrong.push('through an opening');
        if (height >= hole.head + 2.6 && height < hole.head + 2.5 + HEADER && !hole.boring && flat > 0.02)
          wrong.push('through a header');
      }
    }
    if (flat <= 0.02) continue;
    // Level, in a ceiling: beams, trusses, I-joists.
    const under = levels.findLast(({ top }) => a.zIn > top);
    const isInStorey = levels.some(({ floor, top }) => a.zIn >= floor && a.zIn <= top);
    // A crawl space under an upper story has joists and beams of its own.
    if (!under || isInStorey || levels[levels.indexOf(under) + 1]?.storey.below === 'crawl-space') continue;
    for (const beam of file.beams) {
      if (beam.storeyId !== under.storey.id || beam.boring !== undefined) continue;
      const side = (p: XY, c: XY, d: XY): number =>
        (d.xIn - c.xIn) * (p.yIn - c.yIn) - (d.yIn - c.yIn) * (p.xIn - c.xIn);
      const isAcross =
        side(a, beam.a, beam.b) * side(b, beam.a, beam.b) < 0 && side(beam.a, a, b) * side(beam.b, a, b) < 0;
      if (isAcross) wrong.push('through a beam');
    }
    const { framing, boring, framingRuns, overhead } = under.storey;
    const isFloor =
      overhead === 'storey' || (overhead === undefined && levels.indexOf(under) + 1 < levels.length);
    if ((framing === 'trusses' || framing === 'i-joists') && boring === undefined && isFloor && framingRuns) {
      const across = framingRuns === 'across' ? Math.abs(a.yIn - b.yIn) : Math.abs(a.xIn - b.xIn);
      if (across > 32) wrong.push('across trusses or I-joists');
    }
  }
  return [...new Set(wrong)];
}
