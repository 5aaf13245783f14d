import * as fc from 'fast-check';
import { applyChange } from '../changes/apply.js';
import { readerOf } from '../derive/reader.js';
import { houseOf } from '../house/house-file.js';
import type { Place } from '../plan/outline.js';
import { builtStorey } from '../plan/storey-plan.js';
import { takeOutlines } from '../plan/take-outlines.js';
import { finish } from '../structures/steps.js';
import { Plan } from '../testing/plan.js';
import { randomLayout } from '../testing/random-layout.js';
import { runs } from '../testing/seed.js';
import { readDxf } from './dxf-in.js';
import { planDxf } from './dxf-out.js';
import { likelyLayers, roomsInDrawing, unitOfDrawing } from './dxf-rooms.js';
import { planDrawingInSteps } from './plan-drawing.js';
import { planSvg } from './svg-out.js';

let ids = 0;
const newId = (): string => `c0000000-0000-4000-8000-${String(++ids).padStart(12, '0')}`;
const dxf = (entities: string, more = ''): string =>
  `${more}0\nSECTION\n2\nENTITIES\n${entities}0\nENDSEC\n0\nEOF\n`;
const line = (layer: string, ax: number, ay: number, bx: number, by: number): string =>
  `0\nLINE\n8\n${layer}\n10\n${ax}\n20\n${ay}\n30\n0\n11\n${bx}\n21\n${by}\n31\n0\n`;
const polyline = (
  layer: string,
  isClosed: boolean,
  places: readonly (readonly [number, number, number?])[],
) =>
  `0\nLWPOLYLINE\n8\n${layer}\n90\n${places.length}\n70\n${isClosed ? 1 : 0}\n${places
    .map(([x, y, bulge]) => `10\n${x}\n20\n${y}\n${bulge ? `42\n${bulge}\n` : ''}`)
    .join('')}`;
const units = (number: number): string => `0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n${number}\n0\nENDSEC\n`;
const read = (text: string) => {
  const result = readDxf(text);
  if (!result.ok) throw new Error(result.message);
  return result.drawing;
};
const shapeOf = (ring: readonly Place[]): string => {
  const [left, low] = [Math.min(...ring.map(({ xIn }) => xIn)), Math.min(...ring.map(({ yIn }) => yIn))];
  return ring
    .map(({ xIn, yIn }) => `${Math.round((xIn - left) * 10)} ${Math.round((yIn - low) * 10)}`)
    .sort()
    .join(';');
};

describe('A plan as a drawing', () => {
  it('comes back as it went out, in inches and in millimeters: outlines, names, places among each other', () => {
    fc.assert(
      fc.property(randomLayout, fc.boolean(), ({ file }, isMetric) => {
        const reader = readerOf(houseOf(file));
        const storeyId = file.storeys[0]!.id;
        const drawn = finish(planDrawingInSteps(reader, storeyId));
        fc.pre(drawn.rooms.length > 0);
        const back = read(planDxf(drawn, isMetric ? 'millimeters' : 'inches'));
        expect(back.unit).toBe(isMetric ? 'millimeters' : 'inches');
        expect(likelyLayers(back)).toEqual(['ROOMS']);
        const offered = roomsInDrawing(back, {
          layers: ['ROOMS'],
          unit: back.unit!,
          lines: { are: 'middles' },
        });
        const taken = offered.rooms.map(({ name = '', outline }) => ({
          name,
          kind: 'other' as const,
          outline,
        }));
        // Into a house that has the floor and nothing on it.
        const plan = new Plan('Empty');
        const empty = houseOf(plan.file);
        const floor = plan.file.storeys[0]!.id;
        const changes = [...takeOutlines(readerOf(empty), floor, taken, newId)];
        const after = applyChange(empty, { kind: 'group', title: 'Taken', changes });
        if (!after.ok) throw new Error(after.refusal.message);
        const there = builtStorey(readerOf(after.document), floor);
        expect(there.wrong).toEqual([]);
        const said = (rooms: readonly { name: string; outline: readonly Place[] }[]) =>
          rooms.map(({ name, outline }) => `${name}: ${shapeOf(outline)}`).sort();
        const reread = readerOf(after.document);
        expect(
          said(there.rooms.map(({ id, outline }) => ({ name: reread.get('rooms', id)!.name, outline }))),
        ).toEqual(said(drawn.rooms));
        // Where all of them lie, and so each among the others.
        expect(shapeOf(there.rooms.flatMap(({ outline }) => outline))).toBe(
          shapeOf(drawn.rooms.flatMap(({ outline }) => outline)),
        );
      }),
      { numRuns: runs(40) },
    );
  });

  it('is offered in the likely unit where its header is wrong or says nothing', () => {
    // Two rooms of 3.6 by 3 and 2.4 by 3 m, drawn in millimeters.
    const rooms =
      polyline('ROOMS', true, [
        [0, 0],
        [3600, 0],
        [3600, 3000],
        [0, 3000],
      ]) +
      polyline('ROOMS', true, [
        [3600, 0],
        [6000, 0],
        [6000, 3000],
        [3600, 3000],
      ]);
    for (const [number, unit] of [
      [1, 'inches'],
      [2, 'feet'],
      [6, 'meters'],
    ] as const) {
      const drawing = read(dxf(rooms, units(number)));
      expect(drawing.unit).toBe(unit);
      const offered = roomsInDrawing(drawing, { layers: ['ROOMS'], unit, lines: { are: 'middles' } });
      expect(offered.likely).toBe('millimeters');
    }
    const silent = read(dxf(rooms));
    expect(silent.unit).toBeUndefined();
    expect(unitOfDrawing(silent, ['ROOMS'])).toBe('millimeters');
    const right = roomsInDrawing(silent, {
      layers: ['ROOMS'],
      unit: 'millimeters',
      lines: { are: 'middles' },
    });
    expect(right.likely).toBeUndefined();
    // 3.6 × 3 m is 116.25 square feet, 2.4 × 3 m 77.5; 6 m are 19.7 ft.
    right.rooms.forEach(({ areaFt2 }, at) =>
      expect(Math.abs(areaFt2 - [116.25, 77.5][at]!)).toBeLessThan(0.11),
    );
    expect(right.rooms.length).toBe(2);
    expect(right.widthFt).toBe(19.7);
  });

  it('takes blocks apart, draws arcs in chords, moves faces to the middles of walls, and tells what it left out', () => {
    const block = `0\nSECTION\n2\nBLOCKS\n0\nBLOCK\n8\n0\n2\nUNIT\n70\n0\n10\n10\n20\n0\n30\n0\n${polyline(
      '0',
      true,
      [
        [10, 0],
        [130, 0],
        [130, 96],
        [10, 96],
      ],
    )}0\nENDBLK\n8\n0\n0\nENDSEC\n`;
    const insert = `0\nINSERT\n8\nPLAN\n2\nUNIT\n10\n500\n20\n100\n30\n0\n41\n1\n42\n1\n50\n90\n`;
    const text = (x: number, y: number, words: string): string =>
      `0\nMTEXT\n8\nNOTES\n10\n${x}\n20\n${y}\n30\n0\n40\n6\n1\n${words}\n`;
    // A bay: a square of 100 in with half a circle on it, 50 in out.
    const bay = polyline('PLAN', true, [
      [0, 0],
      [100, 0, 1],
      [100, 100],
      [0, 100],
    ]);
    const drawing = read(
      dxf(
        insert +
          bay +
          text(20, 50, '{\\fArial|b0;Bay} room\\P8\'-4" x 8\'-4"') +
          '0\nCIRCLE\n8\nPLAN\n10\n0\n20\n0\n40\n5\n0\nHATCH\n8\nPLAN\n',
        units(1) + block,
      ),
    );
    expect(drawing.notUnderstood).toEqual([
      { kind: 'CIRCLE', count: 1 },
      { kind: 'HATCH', count: 1 },
    ]);
    const asked = { layers: ['PLAN'], unit: 'inches' as const };
    const { rooms } = roomsInDrawing(drawing, { ...asked, lines: { are: 'middles' } });
    const bayRoom = rooms.find(({ name }) => name === 'Bay room')!;
    // 10,000 square inches and half a circle of 50 in: 3,927; chords cut off less than one part in a hundred of that.
    const arc = bayRoom.areaFt2 * 144 - 10_000;
    expect(arc).toBeGreaterThan(3927 * 0.985);
    expect(arc).toBeLessThan(3927 + 15);
    // The block, 120 by 96 about its own corner, put at 500, 100 and turned by a quarter: 96 to the left, 120 up.
    const unit = rooms.find(({ name }) => !name)!;
    expect([...unit.outline.map(({ xIn, yIn }) => `${xIn} ${yIn}`)].sort()).toEqual(
      ['404 100', '404 220', '500 100', '500 220'].sort(),
    );
    const [faces] = roomsInDrawing(drawing, { ...asked, lines: { are: 'faces', wallIn: 4 } }).rooms.filter(
      ({ name }) => !name,
    );
    // 100 by 124 from middle to middle.
    expect(faces!.areaFt2).toBe(Math.round((100 * 124) / 14.4) / 10);
  });

  it('refuses what is no drawing with a sentence, and does not choke on one of 100,000 lines', () => {
    const codeOf = (text: string): string | undefined => {
      const result = readDxf(text);
      return result.ok ? undefined : result.code;
    };
    expect(codeOf('')).toBe('dxf.empty');
    expect(codeOf('hello')).toBe('dxf.broken');
    expect(codeOf('AutoCAD Binary DXF\r\n\x1a\0\0')).toBe('dxf.binary');
    expect(codeOf(dxf(line('A', 0, 0, 1, 1)).slice(0, 40))).toBe('dxf.broken');
    expect(codeOf(dxf('0\nCIRCLE\n8\nA\n10\n0\n20\n0\n40\n5\n'))).toBe('dxf.nothing');
    expect(codeOf(dxf(line('A', NaN, 0, 1, 1)))).toBe('dxf.nothing');
    // A block that holds itself ends.
    const loop = `0\nSECTION\n2\nBLOCKS\n0\nBLOCK\n8\n0\n2\nB\n70\n0\n10\n0\n20\n0\n30\n0\n0\nINSERT\n8\n0\n2\nB\n10\n1\n20\n0\n30\n0\n0\nENDBLK\n8\n0\n0\nENDSEC\n`;
    expect(codeOf(dxf('0\nINSERT\n8\n0\n2\nB\n10\n0\n20\n0\n30\n0\n', loop))).toBe('dxf.nothing');

    const cells = 224;
    const lines: string[] = [];
    for (let at = 0; at < 50_000; at++) {
      const [x, y] = [(at % cells) * 120, Math.floor(at / cells) * 120];
      lines.push(line('A', x, y, x + 120, y), line('A', x, y, x, y + 120));
    }
    const drawing = read(dxf(lines.join(''), units(1)));
    expect(drawing.layers[0]!.lines.length).toBe(100_000);
    const offered = roomsInDrawing(drawing, { layers: ['A'], unit: 'inches', lines: { are: 'middles' } });
    expect(offered.isTangled).toBeFalse();
    // One cell less than columns to a row, and one row less.
    expect(offered.rooms.length + offered.more).toBeGreaterThan(48_000);
    expect(offered.rooms[0]!.areaFt2).toBe(100);
  });

  it('is a picture that stands by itself: every room, box and run in it, and nothing that a name could break', () => {
    const plan = new Plan('<Out> & "in"');
    plan.room('Den <b>&', 'office');
    Object.assign(plan.file.rooms[0]!, {
      outline: [
        { id: 'c0', xIn: 0, yIn: 0 },
        { id: 'c1', xIn: 144, yIn: 0 },
        { id: 'c2', xIn: 144, yIn: 120 },
        { id: 'c3', xIn: 0, yIn: 120 },
      ],
    });
    const panel = plan.box('PANEL', 'panel');
    const circuit = plan.circuit(1, 'One', panel, 15);
    plan.fed('S<1>', panel, '14/2', circuit, 'plastic-1g-18');
    plan.file.boxes.forEach((box, at) => Object.assign(box, { corner: `c${at}`, alongIn: 40, heightIn: 48 }));
    const reader = readerOf(houseOf(plan.file));
    const drawing = finish(planDrawingInSteps(reader, plan.file.storeys[0]!.id));
    const svg = planSvg(drawing, plan.file.name);
    expect(svg).toContain('<title>&lt;Out&gt; &amp; &quot;in&quot;</title>');
    expect(svg).toContain('S&lt;1&gt;');
    expect(svg).not.toContain('<b>');
    expect(svg.match(/<polyline /g)?.length).toBe(drawing.runs.flatMap(({ lines: own }) => own).length);
    expect(drawing.runs.length).toBe(1);
    // Every tag that is opened is closed.
    const open = [...svg.matchAll(/<(\/?)([a-z]+)[^>]*?(\/?)>/g)].reduce<string[]>(
      (stack, [, end, name, self]) => {
        if (end) expect(stack.pop()).toBe(name!);
        else if (!self) stack.push(name!);
        return stack;
      },
      [],
    );
    expect(open).toEqual([]);
  });
});
