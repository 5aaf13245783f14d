import { setting } from '../../changes/change.js';
import type { HouseReader } from '../../derive/reader.js';
import { distance, placeAlong } from '../../plan/outline.js';
import { freePanelPlace, isPanelClear } from '../../plan/panel-space.js';
import type { LaidBox, RoomLayout } from '../../plan/room-layout.js';
import { roomLayout } from '../../plan/room-layout.js';
import { hasReceptacle } from '../../facts/outlets.js';
import { lacking } from '../../plan/spacing.js';
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

/** The panel where it has its space: in its room, or in the first other one in which panels hang; none once cables are in it. */
function panelMoved(reader: HouseReader, layout: RoomLayout, box: LaidBox, why: 'room' | 'space'): Fix[] {
  const { id: boxId } = box.box;
  if (reader.mentioning('runs', boxId).some((run) => reader.mentioning('pulls', run.id).length > 0))
    return [];
  const { corner, alongIn } = box;
  const from = corner === undefined || alongIn === undefined ? undefined : { corner, alongIn };
  const here = why === 'space' && from ? freePanelPlace(reader, layout, from) : undefined;
  if (here && from) {
    const [a, b] = [
      placeAlong(layout.outline!, from.corner, from.alongIn)!,
      placeAlong(layout.outline!, here.corner, here.alongIn)!,
    ];
    const change = setting('boxes', boxId, { corner: here.corner, alongIn: here.alongIn });
    return [{ code: 'move-box', facts: { boxId, byIn: distance(a, b) }, change }];
  }
  const { panelRooms } = reader.rules().jurisdiction;
  for (const kind of panelRooms)
    for (const room of reader.all('rooms')) {
      if (room.kind !== kind || room.id === layout.room.id) continue;
      const other = roomLayout(reader, room.id);
      const to = other?.outline && freePanelPlace(reader, other, undefined);
      if (other?.outline && !to) continue;
      const change = setting('boxes', boxId, {
        roomId: room.id,
        corner: to?.corner ?? null,
        alongIn: to?.alongIn ?? null,
      });
      return [{ code: 'move-panel', facts: { boxId, roomId: room.id }, change }];
    }
  return [];
}

/** Where a panel may not hang, and the space in front of it. */
export function panelFindings(reader: HouseReader, layout: RoomLayout): Finding[] {
  const { room, boxes, outline } = layout;
  const isWrongRoom = reader.rules().jurisdiction.noPanel.includes(room.kind);
  return boxes
    .filter(({ facts }) => facts.kind === 'panel')
    .flatMap((panel): Finding[] => {
      const { box, corner, alongIn } = panel;
      const isPlaced = outline && corner !== undefined && alongIn !== undefined;
      if (!isWrongRoom && (!isPlaced || isPanelClear(reader, layout, { corner, alongIn }))) return [];
      const why = isWrongRoom ? 'room' : 'space';
      return [
        {
          code: 'layout.panel',
          severity: 'fix',
          where: { roomId: room.id, boxId: box.id },
          facts: { why },
          source: { section: isWrongRoom ? 'panelPlace' : 'panelSpace' },
          fixes: panelMoved(reader, layout, panel, why),
        },
      ];
    });
}
