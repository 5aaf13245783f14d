import { setting } from '../../changes/change.js';
import type { HouseReader } from '../../derive/reader.js';
import { clearOf, distance, placeAlong } from '../../plan/outline.js';
import type { LaidBox, RoomLayout } from '../../plan/room-layout.js';
import { hasReceptacle } from '../../facts/outlets.js';
import { lacking } from '../../plan/spacing.js';
import { contains } from '../../plan/outline.js';
import type { Finding, Fix } from '../../findings/finding.js';
import type { OnWallAt } from '../../plan/free-place.js';
import { atTub, freePlace, inSameBay, inTheWay } from '../../plan/free-place.js';

/** The layout with one of its boxes at another place. */
function withBoxAt(layout: RoomLayout, box: LaidBox, { corner, alongIn }: OnWallAt): RoomLayout {
  const place = placeAlong(layout.outline!, corner, alongIn);
  return {
    ...layout,
    boxes: layout.boxes.map((other) =>
      other === box ? { ...box, corner, alongIn, ...(place && { place }) } : other,
    ),
  };
}

/** A box moved to the nearest place where it is in nobody's way and leaves no wall, counter or basin without. */
function moved(reader: HouseReader, layout: RoomLayout, box: LaidBox): Fix[] {
  const { corner, alongIn, middleIn } = box;
  if (corner === undefined || alongIn === undefined || !layout.outline) return [];
  const now = hasReceptacle(box) ? lacking(reader, layout) : [];
  const to = freePlace(
    reader,
    layout,
    box,
    { corner, alongIn, middleIn },
    (at) =>
      !hasReceptacle(box) ||
      lacking(reader, withBoxAt(layout, box, at)).every((then, index) => then <= now[index]! + 1e-6),
  );
  if (!to) return [];
  const [a, b] = [
    placeAlong(layout.outline, corner, alongIn)!,
    placeAlong(layout.outline, to.corner, to.alongIn)!,
  ];
  return [
    {
      code: 'move-box',
      facts: { boxId: box.box.id, byIn: distance(a, b) },
      change: setting('boxes', box.box.id, { corner: to.corner, alongIn: to.alongIn }),
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
    // Of two that meet, the one that is moved is told.
    const other = inSameBay(reader, layout, box, at, said);
    if (!other) return [];
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
      const clear = clearOf(outline, (own) => faceIn(own) - 0.01) ?? outline;
      if (!at) return [];
      const [dx, dy] = [Math.cos(at.angle), Math.sin(at.angle)];
      const face = faceIn(corner);
      const half = rules.number('layout.panelWide') / 2;
      const deep = rules.number('layout.panelDeep');
      const isClear = (shift: number): boolean =>
        [shift - half, shift, shift + half].every((along) =>
          [face, face + deep / 2, face + deep].every((out) =>
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
