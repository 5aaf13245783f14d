import type { HouseReader } from '../derive/reader.js';
import type { FramedWall, OpeningIn } from '../plan/framing.js';

/** A member that stands between two bays of a wall. */
export interface WallMember {
  /** Its middle, along the wall; inches. */
  readonly atIn: number;
  /** A king stud stands with its jack: 3 in of wood. A cripple stands under a window, or over a header. */
  readonly kind: 'stud' | 'king' | 'cripple';
}

/** An opening with what frames it. Heights over the floor, inches. */
export interface FramedOpening extends OpeningIn {
  readonly sillIn: number;
  readonly headIn: number;
  /** Whose permission there is to bore its header. */
  readonly boring?: string;
}

/** Space between two members of a wall. */
export interface Bay {
  readonly fromIn: number;
  readonly toIn: number;
  /** What is open in it: mostly nothing, or one; doors of two rooms may have been drawn over each other. */
  readonly openings: readonly FramedOpening[];
}

export interface BayedWall {
  readonly framed: FramedWall;
  /** One between each two bays. */
  readonly members: readonly WallMember[];
  readonly bays: readonly Bay[];
}

/** The rough opening is so much higher than the door or window that is set in it: inches, common practice. */
export const ROUGH_IN = 2.5;
/** Rough sill under a window, and what is left free above and below a hole beside it. Inches. */
const SILL_IN = 3;

/** What a hole at this height would go through in a bay: nothing in its way, an opening, a header, or one that may be bored. */
export function metInBay(
  { openings }: Bay,
  heightIn: number,
  headerIn: number,
): 'free' | 'open' | 'header' | 'may-bore' {
  let met: ReturnType<typeof metInBay> = 'free';
  for (const { sillIn, headIn, boring } of openings) {
    if (heightIn <= sillIn - SILL_IN) continue;
    const header = headIn + ROUGH_IN;
    if (heightIn < header) return 'open';
    if (heightIn >= header + headerIn + 0.75) continue;
    if (boring === undefined) met = 'header';
    else if (met === 'free') met = 'may-bore';
  }
  return met;
}

/** Whether two heights of a bay lie on the same side of all that is open in it. */
export const isOneSide = ({ openings }: Bay, oneIn: number, otherIn: number): boolean =>
  openings.every(({ sillIn }) => oneIn < sillIn === otherIn < sillIn);

/** Bays of a framed wall and the members between them. Common practice: king and jack beside an opening, cripples under a window. */
export function baysOf(reader: HouseReader, framed: FramedWall): BayedWall {
  const { wall, studsIn, spacingIn } = framed;
  const openings = framed.openings.flatMap((own): FramedOpening[] => {
    const opening = reader.get('openings', own.openingId);
    return opening
      ? [
          {
            ...own,
            sillIn: opening.sillIn,
            headIn: opening.headIn,
            ...(opening.boring !== undefined && { boring: opening.boring }),
          },
        ]
      : [];
  });
  const isKing = (atIn: number): boolean =>
    openings.some(
      ({ fromIn, toIn }) => (atIn < fromIn && fromIn - atIn < 3) || (atIn > toIn && atIn - toIn < 3),
    );
  const within = (atIn: number): FramedOpening[] =>
    openings.filter(({ fromIn, toIn }) => atIn > fromIn && atIn < toIn);
  const members: WallMember[] = studsIn
    .filter((atIn) => atIn > 1 && atIn < wall.lengthIn - 1)
    .map((atIn) => ({ atIn, kind: isKing(atIn) ? 'king' : 'stud' }));
  for (let atIn = spacingIn; atIn < wall.lengthIn - 1; atIn += spacingIn)
    if (within(atIn).length) members.push({ atIn, kind: 'cripple' });
  // An opening right beside a corner: what stands between them is a bay too, be it ever so narrow.
  for (const { fromIn, toIn } of openings) {
    if (fromIn > 0.25 && !members.some(({ atIn }) => atIn <= fromIn))
      members.push({ atIn: fromIn, kind: 'king' });
    if (wall.lengthIn - toIn > 0.25 && !members.some(({ atIn }) => atIn >= toIn))
      members.push({ atIn: toIn, kind: 'king' });
  }
  members.sort((a, b) => a.atIn - b.atIn);
  const edges = [0, ...members.map(({ atIn }) => atIn), wall.lengthIn];
  return {
    framed,
    members,
    bays: edges.slice(1).map((toIn, at): Bay => {
      const fromIn = edges[at]!;
      return { fromIn, toIn, openings: within((fromIn + toIn) / 2) };
    }),
  };
}
