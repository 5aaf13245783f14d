import type { HouseReader } from '../derive/reader.js';
import type { BandKind } from '../vocabulary/kinds.js';
import { distanceTo, footprint } from './bands.js';
import type { Place } from './outline.js';
import { ON_LINE } from './outline.js';
import type { RoomLayout } from './room-layout.js';
import { roomLayout } from './room-layout.js';

const WATER: ReadonlySet<BandKind> = new Set(['basin', 'tub', 'shower']);

type Drawn = Pick<RoomLayout, 'bands' | 'outline'>;

/** What basins, tubs and showers of a room cover of its floor. */
const waterOf = ({ bands, outline }: Drawn): (readonly Place[])[] =>
  outline
    ? bands.flatMap((band) => {
        const rectangle = WATER.has(band.kind) ? footprint(band, outline, ON_LINE) : undefined;
        return rectangle ? [rectangle] : [];
      })
    : [];

/**
 * Whether a place is so near to a basin, tub or shower of its room that a receptacle there has ground-fault protection, where the
 * code goes by that (CEC 26-704, from memory: 1.5 m). Undefined where it does not, and where no water or no place is drawn.
 */
export function nearWater(reader: HouseReader, layout: Drawn, place: Place | undefined): boolean | undefined {
  const rules = reader.rules();
  if (!rules.has('gfci.fromWater') || !place) return undefined;
  const water = waterOf(layout);
  if (water.length === 0) return undefined;
  return water.some((rectangle) => distanceTo(rectangle, place) <= rules.number('gfci.fromWater') + 1e-6);
}

/** True where a receptacle of a room may come so near, wherever it goes; undefined where that is not asked. */
export function couldBeNearWater(reader: HouseReader, roomId: string): true | undefined {
  const layout = roomLayout(reader, roomId);
  return reader.rules().has('gfci.fromWater') && layout && waterOf(layout).length > 0 ? true : undefined;
}
