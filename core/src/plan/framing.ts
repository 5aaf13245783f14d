import type { Derivation, HouseReader } from '../derive/reader.js';
import { onWall } from './arrange.js';
import { distance } from './outline.js';
import { builtStorey } from './storey-plan.js';
import type { WallKind } from './wall-depths.js';
import { depthOfKind, wallKind } from './wall-depths.js';
import type { Wall } from './walls.js';

/** A doorway or window in a wall, from where to where along it, in inches. */
export interface OpeningIn {
  readonly openingId: string;
  readonly fromIn: number;
  readonly toIn: number;
}

/** A wall as it is framed: common practice, by the house's own values. Lengths in inches, along it from its first end. */
export interface FramedWall {
  readonly wall: Wall;
  readonly kind: WallKind;
  readonly depthIn: number;
  readonly spacingIn: number;
  /** Middles of its studs: one at each end, every so many inches between, none in an opening, and a king stud at each side of one. */
  readonly studsIn: readonly number[];
  readonly openings: readonly OpeningIn[];
}

/** A king and a jack stud stand beside an opening: the middle of the king stud is so far from its side. Inches. */
const KING_IN = 2.25;
const STUD_IN = 1.5;
/** Every wall of a story as it is framed, by story id. */
const FRAMED: Derivation<readonly FramedWall[]> = {
  name: 'framed walls',
  compute: (reader, storeyId) => {
    const { walls, openings } = builtStorey(reader, storeyId);
    const spacingIn = reader.rules().number('wall.spacing');
    return walls.map((wall): FramedWall => {
      const { a, b, lengthIn } = wall;
      const kind = wallKind(reader, wall);
      const own = openings.flatMap(({ openingId, cuts }): OpeningIn[] => {
        const [one, other] = cuts.map((place) => onWall([a, b], place));
        // In line with the wall, and some of it within it.
        const isInLine = cuts.every((place) => besideLine(a, b, place) <= 3);
        const [fromIn, toIn] = [one!.alongIn, other!.alongIn].toSorted((x, y) => x - y) as [number, number];
        return isInLine && toIn - fromIn > 3 ? [{ openingId, fromIn, toIn }] : [];
      });
      const half = STUD_IN / 2;
      const regular = Array.from(
        { length: Math.floor(lengthIn / spacingIn) },
        (_none, at) => (at + 1) * spacingIn,
      );
      const kings = own.flatMap(({ fromIn, toIn }) => [fromIn - KING_IN, toIn + KING_IN]);
      const studs = [half, ...regular, lengthIn - half, ...kings].filter(
        (at) =>
          at >= half - 1e-9 &&
          at <= lengthIn - half + 1e-9 &&
          !own.some(({ fromIn, toIn }) => at > fromIn - KING_IN + 1e-9 && at < toIn + KING_IN - 1e-9),
      );
      const sorted = studs.toSorted((x, y) => x - y);
      return {
        wall,
        kind,
        depthIn: depthOfKind(reader, kind),
        spacingIn,
        // Two that would stand in each other are one.
        studsIn: sorted.filter((at, index) => index === 0 || at - sorted[index - 1]! >= STUD_IN - 1e-9),
        openings: own.toSorted((x, y) => x.fromIn - y.fromIn),
      };
    });
  },
};

const besideLine = (
  a: { readonly xIn: number; readonly yIn: number },
  b: { readonly xIn: number; readonly yIn: number },
  place: { readonly xIn: number; readonly yIn: number },
): number =>
  Math.abs((place.xIn - a.xIn) * (b.yIn - a.yIn) - (place.yIn - a.yIn) * (b.xIn - a.xIn)) /
  (distance(a, b) || 1);

export const framedWalls = (reader: HouseReader, storeyId: string): readonly FramedWall[] =>
  reader.derive(FRAMED, storeyId);
