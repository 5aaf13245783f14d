import { DxfWriter, Units, point3d } from '@tarikjabiri/dxf';
import type { Place } from '../plan/outline.js';
import type { DrawnBox, DrawnOpening, PlanDrawing } from './plan-drawing.js';
import { nameAt } from './plan-drawing.js';

/** Units that a drawing can be written in, and how many of them make an inch. */
export const DRAWN_IN = {
  inches: { units: Units.Inches, perInch: 1 },
  millimeters: { units: Units.Millimeters, perInch: 25.4 },
} as const;
export type DrawnIn = keyof typeof DRAWN_IN;

/** Layers of a drawing, with their colour index. Runs have one for each circuit, `RUNS-C<number>`. */
export const DXF_LAYERS = {
  rooms: 'ROOMS',
  names: 'ROOM-NAMES',
  walls: 'WALLS',
  openings: 'OPENINGS',
  boxes: 'BOXES',
} as const;
export const runLayer = (circuits: readonly number[]): string =>
  circuits.length ? `RUNS-C${circuits.join('+')}` : 'RUNS';

/** One line of text as the format holds it: other characters than of ASCII by their number. */
const textOf = (text: string): string =>
  text.replace(
    /[^\x20-\x7e]/g,
    (letter) => `\\U+${letter.codePointAt(0)!.toString(16).toUpperCase().padStart(4, '0')}`,
  );

/** What a box is drawn as: by its gangs on a wall, round in a ceiling. */
const blockOf = ({ turnDeg, gangs }: DrawnBox): string =>
  turnDeg === undefined ? 'BOX-CEILING' : `BOX-${Math.max(1, gangs)}G`;

const GANG_IN = 1.8125;
const TEXT_IN = 4;
/** Attributes of a box: their names in the block, and what they say. */
const ATTRIBUTES: readonly (readonly [tag: string, of: (box: DrawnBox) => string])[] = [
  ['TAG', ({ tag }) => tag],
  ['ROOM', ({ room }) => room],
  ['MODEL', ({ model }) => model],
  ['CIRCUITS', ({ circuits }) => circuits.join('+')],
  ['HEIGHT_IN', ({ heightIn }) => (heightIn === undefined ? '' : String(heightIn))],
];

/**
 * A story as a DXF drawing (ASCII, AC1021): walls and rooms as closed polylines, openings as lines with the swing of doors, boxes
 * as blocks with attributes, runs as polylines by circuit. Coordinates in the unit that its header names.
 */
export function planDxf(drawing: PlanDrawing, drawnIn: DrawnIn = 'inches'): string {
  const { units, perInch } = DRAWN_IN[drawnIn];
  const dxf = new DxfWriter();
  dxf.setUnits(units);
  const layer = (name: string, color: number): void =>
    void (dxf.layer(name) ?? dxf.addLayer(name, color, 'Continuous'));
  const at = ({ xIn, yIn }: Place) => point3d(xIn * perInch, yIn * perInch);
  const polyline = (places: readonly Place[], layerName: string, isClosed: boolean): void => {
    const points = places.map((place) => ({ point: { x: place.xIn * perInch, y: place.yIn * perInch } }));
    dxf.addLWPolyline(points, { layerName, flags: isClosed ? 1 : 0 });
  };

  layer(DXF_LAYERS.rooms, 8);
  layer(DXF_LAYERS.names, 8);
  layer(DXF_LAYERS.walls, 7);
  layer(DXF_LAYERS.openings, 5);
  layer(DXF_LAYERS.boxes, 1);
  for (const { name, outline } of drawing.rooms) {
    polyline(outline, DXF_LAYERS.rooms, true);
    dxf.addText(at(nameAt(outline)), 8 * perInch, textOf(name), { layerName: DXF_LAYERS.names });
  }
  for (const wall of drawing.walls) polyline(wall, DXF_LAYERS.walls, true);
  for (const opening of drawing.openings) {
    dxf.addLine(at(opening.a), at(opening.b), { layerName: DXF_LAYERS.openings });
    if (opening.kind === 'door') swing(dxf, opening, perInch);
  }

  for (const name of new Set(drawing.boxes.map(blockOf))) {
    const block = dxf.addBlock(name);
    const gangs = Number(/\d+/.exec(name)?.[0] ?? 0);
    if (gangs === 0) block.addCircle(point3d(0, 0), 2 * perInch);
    else {
      const [half, depth] = [((gangs * GANG_IN + 0.5) / 2) * perInch, 3 * perInch];
      const corners = [
        [-half, 0],
        [half, 0],
        [half, -depth],
        [-half, -depth],
      ] as const;
      block.addLWPolyline(
        corners.map(([x, y]) => ({ point: { x, y } })),
        { flags: 1 },
      );
    }
    ATTRIBUTES.forEach(([tag], row) =>
      block.addAttdef(point3d(0, (4 + row * 5) * perInch), TEXT_IN * perInch, tag, ''),
    );
  }
  for (const box of drawing.boxes) {
    const insert = dxf.addInsert(blockOf(box), at(box.at), {
      layerName: DXF_LAYERS.boxes,
      ...(box.turnDeg !== undefined && { rotationAngle: box.turnDeg }),
    });
    ATTRIBUTES.forEach(([tag, of], row) => {
      const place = { xIn: box.at.xIn, yIn: box.at.yIn + 4 + row * 5 };
      const attribute = dxf.addAttrib(at(place), TEXT_IN * perInch, tag, textOf(of(box)), insert, {
        layerName: DXF_LAYERS.boxes,
      });
      // Its tag is read on the drawing; the rest is looked up.
      attribute.visible = row === 0;
    });
  }
  for (const { circuits, lines } of drawing.runs) {
    const name = runLayer(circuits);
    layer(name, 30 + ((circuits[0] ?? 0) % 20) * 10);
    for (const line of lines) polyline(line, name, false);
  }
  return dxf.stringify();
}

/** The leaf of a door, open into its room, and its swing. */
function swing(dxf: DxfWriter, { a, b, hinge }: DrawnOpening, perInch: number): void {
  const [from, to] = hinge === 'a' ? [a, b] : [b, a];
  // The room lies to the left of the way from a to b.
  const [dx, dy] = [b.xIn - a.xIn, b.yIn - a.yIn];
  const width = Math.hypot(dx, dy);
  const tip = { xIn: from.xIn - dy, yIn: from.yIn + dx };
  const options = { layerName: DXF_LAYERS.openings };
  const center = point3d(from.xIn * perInch, from.yIn * perInch);
  dxf.addLine(center, point3d(tip.xIn * perInch, tip.yIn * perInch), options);
  const angleTo = (place: Place): number =>
    (Math.atan2(place.yIn - from.yIn, place.xIn - from.xIn) * 180) / Math.PI;
  // Arcs run counter-clockwise.
  const [start, end] = hinge === 'a' ? [angleTo(to), angleTo(tip)] : [angleTo(tip), angleTo(to)];
  dxf.addArc(center, width * perInch, start, end, options);
}
