import { setting } from '../../changes/change.js';
import type { HouseReader } from '../../derive/reader.js';
import { distance, inset, placeAlong } from '../../plan/outline.js';
import type { LaidBox, RoomLayout } from '../../plan/room-layout.js';
import { hasReceptacle } from '../../plan/room-layout.js';
import { farStretches, servesCounter, wallSpace } from '../../plan/spacing.js';
import { farFrom } from '../../plan/wall-runs.js';
import { contains } from '../../plan/outline.js';
import type { Finding, Fix } from '../../findings/finding.js';
import type { OnWallAt } from '../../plan/free-place.js';
import { atTub, freePlace, inSameBay, inTheWay } from '../../plan/free-place.js';

/** Wall that would be left without a receptacle if this one stood elsewhere, in inches. */
function farWith(reader: HouseReader, layout: RoomLayout, box: LaidBox, at: OnWallAt | undefined): number {
  const rules = reader.rules();
  const tooHigh = rules.number('layout.tooHigh');
  const places = layout.boxes.flatMap((other): OnWallAt[] => {
    if (other === box || other.corner === undefined || other.alongIn === undefined) return [];
    if (!hasReceptacle(other) || (other.middleIn ?? 0) > tooHigh || servesCounter(reader, layout, other))
      return [];
    return [{ corner: other.corner, alongIn: other.alongIn }];
  });
  if (at && (box.middleIn ?? 0) <= tooHigh && !servesCounter(reader, layout, { ...box, ...at } as LaidBox))
    places.push(at);
  return wallSpace(reader, layout).reduce((sum, run) => {
    const offsets = places.flatMap((place) => run.offsetOf(place) ?? []);
    return (
      sum +
      farFrom(run, offsets, rules.number('layout.reach')).reduce((all, [from, to]) => all + to - from, 0)
    );
  }, 0);
}

/** A box moved to the nearest place where it is in nobody's way and leaves no wall without. */
function moved(reader: HouseReader, layout: RoomLayout, box: LaidBox): Fix[] {
  const { corner, alongIn, middleIn } = box;
  if (corner === undefined || alongIn === undefined || !layout.outline) return [];
  const from = { corner, alongIn, middleIn };
  const asked = hasReceptacle(box) && farStretches(reader, layout.room.id) !== undefined;
  const now = asked ? farWith(reader, layout, box, from) : 0;
  const isCounter = hasReceptacle(box) && servesCounter(reader, layout, box);
  const to = freePlace(reader, layout, box, from, (at) => {
    if (isCounter)
      return servesCounter(reader, layout, { ...at, ...(middleIn !== undefined && { middleIn }) } as LaidBox);
    return !asked || farWith(reader, layout, box, at) <= now + 1e-6;
  });
  if (!to) return [];
  const [a, b] = [
    placeAlong(layout.outline, corner, alongIn)!,
    placeAlong(layout.outline, to.corner, to.alongIn)!,
  ];
  return [
    {
      code: 'move-box',
      facts: { boxId: box.box.id, byIn: distance(a, b) },
      change: setting('boxes', box.box.id, { corner: to.corner, alongIn: to.alongIn, wall: null }),
    },
  ];
}

/** Boxes in a doorway, behind a door, in what is built in, too near to each other, or in the zone of a tub. */
export function placeFindings(reader: HouseReader, layout: RoomLayout): Finding[] {
  const { boxes, outline, room } = layout;
  if (!outline) return [];
  const said = new Set<string>();
  return boxes.flatMap((box): Finding[] => {
    const where = { roomId: room.id, boxId: box.box.id };
    const { corner, alongIn, middleIn } = box;
    const tub = atTub(reader, layout, box, box.place, middleIn);
    if (tub)
      return [
        {
          code: 'layout.tub',
          severity: tub === 'fan' ? 'stop' : 'fix',
          where,
          facts: { what: tub },
          source:
            tub === 'switch'
              ? { section: 'switchAtTub' }
              : { rule: tub === 'receptacle' ? 'layout.tubReceptacle' : 'layout.tubFan' },
          fixes: moved(reader, layout, box),
        },
      ];
    if (corner === undefined || alongIn === undefined || box.facts.kind === 'panel') return [];
    const at = { corner, alongIn, middleIn };
    const what = inTheWay(reader, layout, box, at);
    if (what)
      return [
        {
          code: 'layout.in-the-way',
          severity: what === 'behind-door' ? 'note' : 'fix',
          where,
          facts: { what },
          source: { practice: 'common' },
          fixes: moved(reader, layout, box),
        },
      ];
    const other = inSameBay(reader, layout, box, at);
    // Of two that meet, the one that is moved is told.
    if (!other || said.has(other.box.id)) return [];
    said.add(box.box.id);
    return [
      {
        code: 'layout.same-bay',
        severity: 'note',
        where,
        facts: { otherBoxId: other.box.id },
        source: { practice: 'common' },
        fixes: moved(reader, layout, box),
      },
    ];
  });
}

/** Where a panel may not hang, and the space in front of it. */
export function panelFindings(reader: HouseReader, layout: RoomLayout): Finding[] {
  const { room, boxes, outline, faceIn } = layout;
  const rules = reader.rules();
  return boxes
    .filter(({ facts }) => facts.kind === 'panel')
    .flatMap(({ box, corner, alongIn }): Finding[] => {
      const where = { roomId: room.id, boxId: box.id };
      if (rules.jurisdiction.noPanel.includes(room.kind))
        return [
          {
            code: 'layout.panel',
            severity: 'fix',
            where,
            facts: { why: 'room' },
            source: { section: 'panelPlace' },
          },
        ];
      if (!outline || corner === undefined || alongIn === undefined) return [];
      const at = placeAlong(outline, corner, alongIn);
      const clear = inset(outline, () => faceIn - 0.01) ?? outline;
      if (!at) return [];
      const [dx, dy] = [Math.cos(at.angle), Math.sin(at.angle)];
      const half = rules.number('layout.panelWide') / 2;
      const deep = rules.number('layout.panelDeep');
      const isClear = (shift: number): boolean =>
        [shift - half, shift, shift + half].every((along) =>
          [faceIn, faceIn + deep / 2, faceIn + deep].every((out) =>
            contains(clear, { xIn: at.xIn + dx * along - dy * out, yIn: at.yIn + dy * along + dx * out }),
          ),
        );
      // The space need not be centered on the panel, which is some 14 in wide.
      if ([0, -4, 4, -8, 8].some(isClear)) return [];
      return [
        {
          code: 'layout.panel',
          severity: 'fix',
          where,
          facts: { why: 'space' },
          source: { section: 'panelSpace' },
        },
      ];
    });
}
