import type { HouseReader } from '../derive/reader.js';
import type { OnWallAt, Standing } from './free-place.js';
import { NEW_RECEPTACLE, freePlace } from './free-place.js';
import { clearOf, contains, placeAlong } from './outline.js';
import type { RoomLayout } from './room-layout.js';

/** The space in front of it need not be centered on it. */
const SHIFTS_IN = [0, -4, 4, -8, 8];

const halfPanel = (reader: HouseReader): number => reader.rules().number('layout.panelWidth') / 2;

const panel = (halfWidthIn: number): Standing => ({
  facts: { ...NEW_RECEPTACLE.facts, kind: 'panel' },
  devices: [],
  points: [],
  halfWidthIn,
});

/** Whether the space in front of a panel lies free within its room (NEC 110.26(A), from memory: the house's own values). */
export function isPanelClear(
  reader: HouseReader,
  { outline, faceIn }: RoomLayout,
  { corner, alongIn }: OnWallAt,
): boolean {
  const at = outline && placeAlong(outline, corner, alongIn);
  if (!at) return true;
  const rules = reader.rules();
  const half = rules.number('layout.panelWide') / 2;
  const deep = rules.number('layout.panelDeep');
  const face = faceIn(corner);
  const clear = clearOf(outline, (own) => faceIn(own) - 0.01) ?? outline;
  const [dx, dy] = [Math.cos(at.angle), Math.sin(at.angle)];
  return SHIFTS_IN.some((shift) =>
    [shift - half, shift, shift + half].every((along) =>
      [face, face + deep / 2, face + deep].every((out) =>
        contains(clear, { xIn: at.xIn + dx * along - dy * out, yIn: at.yIn + dy * along + dx * out }),
      ),
    ),
  );
}

/** What is built in below it or in front of it is in the way of a panel, however high it reaches. */
const isBesideBands = ({ bands }: RoomLayout, { corner, alongIn }: OnWallAt, half: number): boolean =>
  !bands.some(
    (band) =>
      band.corner === corner &&
      band.alongIn !== undefined &&
      alongIn + half > band.alongIn &&
      alongIn - half < band.alongIn + band.widthIn,
  );

/** The nearest place to one of a wall where a panel has its space; undefined where the room has none. */
export function freePanelPlace(
  reader: HouseReader,
  layout: RoomLayout,
  from: Pick<OnWallAt, 'corner' | 'alongIn'> | undefined,
): OnWallAt | undefined {
  const [first] = layout.walls.toSorted((a, b) => b.lengthIn - a.lengthIn);
  if (!first) return undefined;
  const half = halfPanel(reader);
  const origin = from ?? { corner: first.corner, alongIn: first.startIn + first.lengthIn / 2 };
  return freePlace(
    reader,
    layout,
    panel(half),
    origin,
    (at) => isPanelClear(reader, layout, at) && isBesideBands(layout, at, half),
  );
}
