import * as fc from 'fast-check';
import { readLength, readShort, readVolume, unitsOf } from './units.js';
import type { UnitSystem } from './units.js';
import { counted, listed, sentence } from './sentence.js';

describe('Units', () => {
  it('read lengths as crews type them: feet, feet and inches, inches, metres', () => {
    const typed: [string, number | undefined][] = [
      ['12', 144],
      ['12.5', 150],
      ["12'6", 150],
      ['12 ft 6 in', 150],
      ['12\'6"', 150],
      ['30in', 30],
      ['0', 0],
      ['  ', undefined],
      ['2.54 m', 100],
      ['254cm', 100],
      ['25,4 mm', 1],
    ];
    for (const [text, inches] of typed) {
      if (inches === undefined) expect(readLength(text)).withContext(text).toBeUndefined();
      else expect(readLength(text)).withContext(text).toBeCloseTo(inches, 9);
    }
    expect(readLength('2.54', 'metric')).toBeCloseTo(100, 9);
    for (const text of ['twelve', '-3', '12x', "12'6'3"])
      expect(readLength(text)).withContext(text).toBeNaN();
  });

  it('write what reads back as the same length, in every system', () => {
    const step: Record<UnitSystem, number> = { 'feet-inches': 0.5, decimal: 0.61, metric: 0.2 };
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 5000, noNaN: true }),
        fc.constantFrom<UnitSystem>('feet-inches', 'decimal', 'metric'),
        (inches, system) => {
          const back = readLength(unitsOf(system).long(inches), system)!;
          expect(Math.abs(back - inches)).toBeLessThanOrEqual(step[system]);
        },
      ),
    );
    const { short } = unitsOf('feet-inches');
    expect([0.5, 0.375, 0.75, 6, 1.25, 0.5625].map(short)).toEqual([
      '½ in',
      '⅜ in',
      '¾ in',
      '6 in',
      '1¼ in',
      '9/16 in',
    ]);
    // 1 in is 25.4 mm and 1 in³ 16.387064 mL, exactly (International yard and pound agreement, from memory).
    const metric = unitsOf('metric');
    expect([metric.short(0.75), metric.volume(20), metric.long(120)]).toEqual(['19 mm', '328 mL', '3.05 m']);
  });
});

describe('Sentences', () => {
  it('list, count and begin as they should', () => {
    expect([listed([]), listed(['a']), listed(['a', 'b']), listed(['a', 'b', 'c'])]).toEqual([
      '',
      'a',
      'a and b',
      'a, b and c',
    ]);
    expect([counted(1, 'gang'), counted(2, 'gang'), counted(0, 'box', 'boxes')]).toEqual([
      '1 gang',
      '2 gangs',
      '0 boxes',
    ]);
    expect(sentence('circuit 5 has none.')).toBe('Circuit 5 has none.' as never);
  });

  it('reads heights and volumes in the units of the house, or in those that are written', () => {
    expect([readShort('48'), readShort(`4'2"`), readShort('1.2 m')!.toFixed(2)]).toEqual([48, 50, '47.24']);
    expect(readShort('1219', 'metric')!.toFixed(1)).toBe('48.0');
    expect([readVolume('18'), readVolume('18 in³', 'metric'), readVolume('295 mL')]).toEqual([
      18, 18, 18.002,
    ]);
    expect(readVolume('295', 'metric')).toBe(18.002);
    expect([readVolume(''), readShort(' ')]).toEqual([undefined, undefined]);
    expect([readVolume('full'), readShort('high')]).toEqual([NaN, NaN]);
    expect(unitsOf('metric').volumeNumber(18)).toBe('295');
    // What is printed on a sheath by the meter comes back as it was read.
    const metric = unitsOf('metric');
    for (let tenths = 0; tenths < 4000; tenths += 7)
      expect(metric.mark(metric.ofMark(tenths / 10))).toBe(tenths / 10);
    expect(metric.ofMark(30.48)).toBeCloseTo(100, 9);
    expect([unitsOf('decimal').mark(182.5), unitsOf('feet-inches').ofMark(182.5)]).toEqual([182.5, 182.5]);
  });
});
