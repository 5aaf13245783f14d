import { parseString } from 'dxf';
import demo from '../demo/lot-12.house.json' with { type: 'json' };
import { readerOf } from '../core/src/derive/reader.js';
import { planDxf } from '../core/src/exchange/dxf-out.js';
import { planDrawingInSteps } from '../core/src/exchange/plan-drawing.js';
import { readHouseFile } from '../core/src/house/house-file.js';
import { finish } from '../core/src/structures/steps.js';

/** What is read of an entity by the package `dxf`, another one than writes it and than reads drawings in the product. */
interface Entity {
  readonly type: string;
  readonly layer: string;
  readonly block?: string;
  readonly x?: number;
  readonly y?: number;
  readonly tag?: string;
  readonly text?: { readonly x: number; readonly string: string };
  readonly vertices?: readonly { readonly x: number; readonly y: number }[];
  readonly closed?: boolean;
}

/** Where a box of the file stands, worked out here from the file alone: along its wall, or its place in the ceiling. */
function placeIn(file: typeof demo, box: (typeof demo.boxes)[number]): readonly [number, number] | undefined {
  const { corner, alongIn, xIn, yIn } = box as {
    corner?: string;
    alongIn?: number;
    xIn?: number;
    yIn?: number;
  };
  if (xIn !== undefined && yIn !== undefined) return [xIn, yIn];
  const outline = file.rooms.find(({ id }) => id === box.roomId)?.outline;
  const twice = outline?.reduce((sum, a, at) => {
    const b = outline[(at + 1) % outline.length]!;
    return sum + a.xIn * b.yIn - b.xIn * a.yIn;
  }, 0);
  const ring = outline && (twice! < 0 ? [...outline].reverse() : outline);
  const at = ring?.findIndex(({ id }) => id === corner) ?? -1;
  if (!ring || at < 0 || alongIn === undefined) return undefined;
  const [a, b] = [ring[at]!, ring[(at + 1) % ring.length]!];
  const length = Math.hypot(b.xIn - a.xIn, b.yIn - a.yIn);
  return [a.xIn + ((b.xIn - a.xIn) * alongIn) / length, a.yIn + ((b.yIn - a.yIn) * alongIn) / length];
}

describe('The drawing of the demo, read by another package', () => {
  const read = readHouseFile(demo);
  if (!read.ok) throw new Error('the demo is broken');
  const reader = readerOf(read.house);

  for (const [drawnIn, perInch] of [
    ['inches', 1],
    ['millimeters', 25.4],
  ] as const)
    it(`has every box where it stands with its attributes, walls, rooms and runs by circuit, in ${drawnIn}`, () => {
      for (const storey of demo.storeys) {
        const text = planDxf(finish(planDrawingInSteps(reader, storey.id)), drawnIn);
        const { entities, header } = parseString(text) as {
          entities: Entity[];
          header: { insUnits: number };
        };
        expect(header.insUnits).toBe(drawnIn === 'inches' ? 1 : 4);
        const of = (type: string, layer: RegExp) =>
          entities.filter((one) => one.type === type && layer.test(one.layer));
        const rooms = demo.rooms.filter(({ storeyId, outline }) => storeyId === storey.id && outline);
        const drawnRooms = of('LWPOLYLINE', /^ROOMS$/);
        expect(drawnRooms.length).toBe(rooms.length);
        expect(drawnRooms.every(({ closed }) => closed)).toBeTrue();
        expect(of('TEXT', /^ROOM-NAMES$/).length).toBe(rooms.length);

        const placed = demo.boxes.flatMap((box) => {
          const isHere = demo.rooms.find(({ id }) => id === box.roomId)?.storeyId === storey.id;
          const place = isHere ? placeIn(demo, box) : undefined;
          return place ? [{ box, place }] : [];
        });
        const inserts = of('INSERT', /^BOXES$/);
        expect(inserts.length).toBe(placed.length);
        // Attributes follow their block, five to each, its tag first.
        const tags = of('ATTRIB', /^BOXES$/).filter(({ tag }) => tag === 'TAG');
        const roomsOf = of('ATTRIB', /^BOXES$/).filter(({ tag }) => tag === 'ROOM');
        expect(tags.length).toBe(inserts.length);
        inserts.forEach((insert, at) => {
          const tag = tags[at]!.text!.string;
          const own = placed.find(({ box }) => box.tag === tag)!;
          expect(Math.hypot(insert.x! / perInch - own.place[0], insert.y! / perInch - own.place[1]))
            .withContext(tag)
            .toBeLessThan(0.02);
          const room = demo.rooms.find(({ id }) => id === own.box.roomId)!.name;
          expect(roomsOf[at]!.text!.string).withContext(tag).toBe(room);
        });

        // A run has a layer for its circuit, and one of its ends where one of its boxes stands.
        const numbers = new Map(demo.circuits.map(({ id, number }) => [id, number]));
        const layers = new Set(
          demo.runs.map(
            ({ circuitIds }) =>
              `RUNS-C${circuitIds
                .map((id) => numbers.get(id))
                .sort()
                .join('+')}`,
          ),
        );
        const runs = of('LWPOLYLINE', /^RUNS/);
        expect(runs.length).toBeGreaterThan(10);
        for (const { layer } of runs) expect(layers.has(layer)).withContext(layer).toBeTrue();
      }
    });

  it('has walls that stand as long as its rooms are round, but for doors and windows', () => {
    const storey = demo.storeys[0]!;
    const drawing = finish(planDrawingInSteps(reader, storey.id));
    const { entities } = parseString(planDxf(drawing)) as { entities: Entity[] };
    const walls = entities.filter(({ layer }) => layer === 'WALLS');
    const length = walls.reduce((sum, { vertices }) => {
      const [a, b, c] = vertices!;
      return sum + Math.max(Math.hypot(a!.x - b!.x, a!.y - b!.y), Math.hypot(b!.x - c!.x, b!.y - c!.y));
    }, 0);
    expect(Math.abs(length - standingInDemo())).toBeLessThan(2);
  });
});

/** Inches of walls that stand on the demo's first floor: every stretch of every outline once, less openings, on a grid of inches. */
function standingInDemo(): number {
  const standing = new Set<string>();
  const inches = (
    a: { xIn: number; yIn: number },
    b: { xIn: number; yIn: number },
    from: number,
    to: number,
  ): string[] => {
    const length = Math.hypot(b.xIn - a.xIn, b.yIn - a.yIn);
    return Array.from({ length: Math.round(to - from) }, (_, at) => {
      const share = (from + at + 0.5) / length;
      const [x, y] = [a.xIn + (b.xIn - a.xIn) * share, a.yIn + (b.yIn - a.yIn) * share];
      return `${Math.round(x * 2)} ${Math.round(y * 2)}`;
    });
  };
  const rooms = demo.rooms.filter(({ storeyId, outline }) => storeyId === demo.storeys[0]!.id && outline);
  const walls = rooms.flatMap(({ id, outline }) =>
    outline!.map((a, at) => ({ roomId: id, a, b: outline![(at + 1) % outline!.length]! })),
  );
  for (const { a, b } of walls)
    for (const inch of inches(a, b, 0, Math.hypot(b.xIn - a.xIn, b.yIn - a.yIn))) standing.add(inch);
  for (const { roomId, corner, alongIn, widthIn } of demo.openings) {
    const wall = walls.find((one) => one.roomId === roomId && one.a.id === corner);
    if (wall) for (const inch of inches(wall.a, wall.b, alongIn, alongIn + widthIn)) standing.delete(inch);
  }
  return standing.size;
}
