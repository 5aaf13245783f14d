import * as fc from 'fast-check';
import Papa from 'papaparse';
import { applyChange } from '../changes/apply.js';
import { readerOf } from '../derive/reader.js';
import { houseOf } from '../house/house-file.js';
import type { HouseFile } from '../house/house-file.js';
import { Plan } from '../testing/plan.js';
import { randomFraming } from '../testing/random-framing.js';
import { runs } from '../testing/seed.js';
import { boxScheduleCsv, readBoxSchedule } from './box-schedule.js';
import { houseZip, readHouseZip } from './house-zip.js';
import { panelDirectoryCsv } from './panel-directory.js';

let ids = 0;
const newId = (): string => `d0000000-0000-4000-8000-${String(++ids).padStart(12, '0')}`;
const scheduleOf = (file: HouseFile, text: string) => {
  const read = readBoxSchedule(readerOf(houseOf(file)), text, newId);
  if (!read.ok) throw new Error(read.message);
  return read;
};
const cells = (text: string): string[][] => Papa.parse<string[]>(text.trim()).data;

describe('A box schedule', () => {
  it('says nothing new where it is read again as it was written', () => {
    fc.assert(
      fc.property(randomFraming, fc.boolean(), ({ file }, isMetric) => {
        const named = {
          ...file,
          rulebook: { base: isMetric ? 'ca-2021' : 'us-2020', overrides: {} },
          // As somebody may call them: signs of the format, a formula, no letters of English.
          rooms: file.rooms.map((room, at) => ({
            ...room,
            name: `${['=', '"A", ', 'Küche;', '-'][at % 4]}${at % 6}`,
          })),
        };
        const text = boxScheduleCsv(readerOf(houseOf(named)));
        // Whatever the house shows that reads it.
        const reads = isMetric ? { ...named, rulebook: file.rulebook } : named;
        const { good, bad, unread } = scheduleOf(reads, text);
        expect(bad).toEqual([]);
        expect(good.every(({ does }) => does === 'nothing')).toBeTrue();
        expect(good.length).toBe(named.boxes.filter(({ roomId }) => roomId).length);
        expect(unread).toEqual(['Gangs', isMetric ? 'Volume mL' : 'Volume cu in', 'Circuits']);
      }),
      { numRuns: runs(60) },
    );
  });

  it('of 10,000 rows names every bad one; the good ones, taken, are what stands in the house afterwards', () => {
    const plan = new Plan('Many');
    const upstairs = plan.storey('Upstairs');
    for (const name of ['Hall', 'Den', 'Attic', 'Attic']) plan.room(name, 'hall');
    plan.room('Den', 'hall', upstairs);
    plan.box('OLD', 'plastic-1g-18');
    plan.file.boxes[0]!.roomId = plan.file.rooms[0]!.id;
    const wrong: Readonly<Record<number, readonly [string, string]>> = {
      3: ['row.no-tag', ',Hall,plastic-1g-18,48,,,'],
      5: ['row.room-unknown', 'X5,Haal,plastic-1g-18,48,,,'],
      8: ['row.room-twice', 'X8,Attic,plastic-1g-18,48,,,'],
      13: ['row.box-unknown', 'X13,Hall,cardboard,48,,,'],
      21: ['row.number', 'X21,Hall,plastic-1g-18,four feet,,,'],
      34: ['row.box-missing', 'X34,Hall,,48,,,'],
      55: ['row.tag-twice', 'N54,Hall,plastic-1g-18,48,,,'],
      89: ['row.device-unknown', 'X89,Hall,plastic-1g-18,48,,,telephone'],
      144: ['row.gangs', 'X144,Hall,plastic-1g-18,48,,,switch; switch; switch'],
      233: ['row.tag-elsewhere', 'OLD,Den,plastic-1g-18,48,,,,Upstairs'],
      377: ['row.wall', 'X377,Hall,plastic-1g-18,48,nine,,'],
      610: ['row.cells', 'X610,Hall,plastic-1g-18,48,,,,,more'],
      700: ['row.room-twice', 'X700,Den,plastic-1g-18,48,,,,'],
      701: ['row.room-unknown', 'X701,Hall,plastic-1g-18,48,,,,Upstairs'],
      987: ['row.no-room', 'X987,,plastic-1g-18,48,,,'],
      1597: ['row.number', 'X1597,Hall,plastic-1g-18,-3,,,'],
      2584: ['row.tag-long', `${'long '.repeat(13)},Hall,plastic-1g-18,48,,,`],
    };
    const rows = Array.from({ length: 10_000 }, (_, at) => {
      const row = at + 2;
      if (row === 2) return 'OLD,Hall,plastic-1g-22.5,44 in,2,"30,5",';
      return (
        wrong[row]?.[1] ??
        `N${row},${row % 2 ? 'den' : 'HALL'},plastic-1g-18,${row % 60},,,${row % 3 ? '' : 'switch'},${row % 2 ? 'upstairs' : ''}`
      );
    });
    const text = ['\uFEFFTag,Room,Box,Height in,Wall,Along in,Devices,Floor', ...rows].join('\n');
    const { good, bad } = scheduleOf(plan.file, text);
    expect(bad.map(({ row, code }) => `${row} ${code}`)).toEqual(
      Object.entries(wrong).map(([row, [code]]) => `${row} ${code}`),
    );
    expect(bad.every(({ message }) => /^[A-Z“].*\.$/.test(message))).toBeTrue();
    expect(good.length).toBe(10_000 - bad.length);

    // Taken, and looked at again: what was typed stands there.
    const some = good.slice(0, 300);
    const changes = some.flatMap((one) => [...one.changes]);
    const after = applyChange(houseOf(plan.file), { kind: 'group', title: 'Boxes', changes });
    if (!after.ok) throw new Error(after.refusal.message);
    const again = cells(boxScheduleCsv(readerOf(after.document)));
    const written = new Map(again.map(([tag, ...rest]) => [tag!, rest]));
    for (const { tag, row } of some) {
      const [room, floor, box, , , height, , , devices] = written.get(tag)!;
      if (tag === 'OLD') {
        expect(written.get(tag)!.slice(0, 8)).toEqual([
          'Hall',
          'First floor',
          'plastic-1g-22.5',
          '1',
          '22.5',
          '44',
          '2',
          '30.5',
        ]);
        continue;
      }
      expect([room, floor === 'Upstairs', box, height, devices]).toEqual([
        row % 2 ? 'Den' : 'Hall',
        row % 2 === 1,
        'plastic-1g-18',
        String(row % 60),
        row % 3 ? '' : 'switch',
      ]);
    }
    const third = scheduleOf(plan.file, 'Room\tTag\tBox\tColor\nHall\tT1\tplastic-1g-18\tred\n\n');
    expect(third.good.map(({ does }) => does)).toEqual(['adds']);
    expect(third.unread).toEqual(['Color']);
  });

  it('is refused as a whole where it is no table of boxes', () => {
    const reader = readerOf(houseOf(new Plan('None').file));
    const codeOf = (text: string) => {
      const read = readBoxSchedule(reader, text, newId);
      return read.ok ? undefined : read.code;
    };
    expect(codeOf('')).toBe('csv.empty');
    expect(codeOf('\n\n')).toBe('csv.empty');
    expect(codeOf('Name,Color\nx,y')).toBe('csv.no-headings');
    expect(codeOf(`Tag,Room\n${'a,b\n'.repeat(20_001)}`)).toBe('csv.too-long');
  });
});

describe('A panel directory', () => {
  it('has a line for each breaker with the rooms that it serves, and no formula', () => {
    const plan = new Plan('Panel');
    plan.room('Garage', 'garage');
    const panel = plan.box('PANEL', 'panel');
    const two = plan.circuit(2, '=Den', panel, 20);
    const one = plan.circuit(1, 'Lights, "all"', panel, 15);
    Object.assign(
      plan.file.circuits.find(({ id }) => id === one)!,
      { spaces: [1], protection: 'afci' },
    );
    plan.fed('S1', panel, '14/2', one, 'plastic-1g-18');
    plan.room('Den', 'office');
    plan.fed('R1', panel, '12/2', two, 'plastic-1g-18');
    const text = panelDirectoryCsv(readerOf(houseOf(plan.file)));
    expect(cells(text)).toEqual([
      ['Panel', 'Spaces', 'Circuit', 'Name', 'Amps', 'Poles', 'Protection', 'Rooms'],
      ['PANEL', '1', '1', 'Lights, "all"', '15', '1', 'AFCI', 'Garage'],
      ['PANEL', '', '2', "'=Den", '20', '1', '', 'Den; Garage'],
    ]);
    // In the words of where it stands.
    const there = { ...plan.file, rulebook: { base: 'gb-2018', overrides: {} } };
    there.circuits[0]!.protection = 'dual';
    const [head, , second] = cells(panelDirectoryCsv(readerOf(houseOf(there))));
    expect([head![0], second![6]]).toEqual(['Consumer unit', 'AFDD + RCD']);
  });
});

describe('A house file with pictures', () => {
  const png = (width: number, height: number): Uint8Array => {
    const bytes = new Uint8Array(60);
    bytes.set([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0, 0, 13, 0x49, 0x48, 0x44, 0x52]);
    new DataView(bytes.buffer).setUint32(16, width);
    new DataView(bytes.buffer).setUint32(20, height);
    return bytes;
  };
  const hash = (letter: string): string => letter.repeat(64);

  it('comes back as it went out, the same bytes each time; what is no picture stays out', () => {
    const pictures = new Map([
      [hash('b'), png(30, 20)],
      [hash('a'), png(10, 10)],
      [hash('c'), new TextEncoder().encode('<svg/>')],
    ]);
    const zip = houseZip({ text: '{"é":1}', pictures });
    expect(houseZip({ text: '{"é":1}', pictures: new Map([...pictures].reverse()) })).toEqual(zip);
    const read = readHouseZip(zip);
    if (!read.ok) throw new Error(read.problems[0]!.message);
    expect(read.text).toBe('{"é":1}');
    expect([...read.pictures]).toEqual([
      [hash('a'), png(10, 10)],
      [hash('b'), png(30, 20)],
    ]);
  });

  it('is refused where it is broken, holds no house, or a picture that is none or too large', () => {
    const codeOf = (bytes: Uint8Array): string | undefined => {
      const read = readHouseZip(bytes);
      return read.ok ? undefined : read.problems[0]!.code;
    };
    const good = houseZip({ text: '{}', pictures: new Map([[hash('a'), png(10, 10)]]) });
    expect(codeOf(good)).toBeUndefined();
    expect(codeOf(good.slice(0, good.length - 30))).toBe('zip.broken');
    expect(codeOf(new Uint8Array([0x50, 0x4b, 3, 4]))).toBe('zip.broken');
    /** The zip with some of its bytes written over, wherever they stand. */
    const over = (from: readonly number[], to: readonly number[]): Uint8Array =>
      good.map((byte, at) => {
        for (let back = 0; back < from.length; back++)
          if (from.every((one, index) => good[at - back + index] === one)) return to[back]!;
        return byte;
      });
    const codes = (text: string): number[] => [...text].map((letter) => letter.charCodeAt(0));
    expect(codeOf(over(codes('house.json'), codes('hausX.json')))).toBe('zip.no-house');
    const wide = houseZip({ text: '{}', pictures: new Map([[hash('a'), png(50_000, 10)]]) });
    expect(codeOf(wide)).toBe('asset.too-many-points');
    // What says PNG on the outside and is none.
    expect(codeOf(over([0x89, 0x50, 0x4e, 0x47], codes('GIF8')))).toBe('asset.type');
  });
});
