import type { Derivation, HouseReader } from '../derive/reader.js';
import { partOf } from '../derive/part.js';
import type { Storey } from '../house/model.js';

/** A story in its place over the others. Heights in inches over the floor of the lowest one. */
export interface StackedStorey {
  readonly id: string;
  readonly floorIn: number;
  /** From its floor to the top of its plates. */
  readonly ceilingIn: number;
  /** What a cable comes to that goes up through its top plates: undefined where the roof itself is its ceiling. */
  readonly above: SpaceOver;
  /** What it comes to that goes down through its sole plates; undefined on a slab, or where nobody has said. */
  readonly below?: SpaceUnder;
  /** What holds its ceiling. */
  readonly framing: NonNullable<Storey['framing']>;
  readonly framingRuns?: NonNullable<Storey['framingRuns']>;
  /** Whose permission there is to bore it. */
  readonly boring?: string;
}
/** An attic, the floor between two stories, or the roof. */
export type SpaceOver = 'attic' | 'floor' | 'roof';
/** The floor between two stories, or what lies under the lowest one. */
export type SpaceUnder = 'floor' | 'basement' | 'crawl-space';

const STOREY_FRAMED = partOf('storeys', 'framed', [
  'ceilingIn',
  'overhead',
  'below',
  'framing',
  'framingRuns',
  'level',
  'boring',
]);

/** By house id: the stories from the lowest up. */
const STACK: Derivation<readonly StackedStorey[]> = {
  name: 'stories in their order',
  cutsOff: true,
  compute: (reader) => {
    const rules = reader.rules();
    const storeys = reader
      .all('storeys')
      .map(({ id }, at) => ({ id, at, ...reader.part(STOREY_FRAMED, id)! }))
      .sort((a, b) => (a.level ?? a.at) - (b.level ?? b.at) || a.at - b.at);
    let floorIn = 0;
    return storeys.map((storey, at): StackedStorey => {
      const ceilingIn = storey.ceilingIn ?? rules.number('layout.ceiling');
      const { overhead, below, framing, framingRuns, boring } = storey;
      const above =
        overhead === 'attic' || overhead === 'roof'
          ? overhead
          : (overhead ?? (at + 1 < storeys.length ? 'storey' : 'attic')) === 'storey'
            ? 'floor'
            : 'attic';
      // A slab under a story that stands on another one is a slip: the other one is there.
      const isOnFloor = at > 0 && (below === undefined || below === 'storey' || below === 'basement');
      const under: SpaceUnder | undefined = isOnFloor
        ? 'floor'
        : below === 'basement' || below === 'crawl-space'
          ? below
          : undefined;
      const own = { id: storey.id, floorIn, ceilingIn };
      floorIn += ceilingIn + rules.number('cut.between');
      return {
        ...own,
        above,
        framing: framing ?? 'joists',
        ...(under && { below: under }),
        ...(framingRuns && { framingRuns }),
        ...(boring !== undefined && { boring }),
      };
    });
  },
};

/** Stories of a house from the lowest up: by their levels, or else as they are listed. */
export const storeyStack = (reader: HouseReader): readonly StackedStorey[] =>
  reader.derive(STACK, reader.houseId);
