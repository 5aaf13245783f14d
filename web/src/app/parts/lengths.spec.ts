import { feet, inchesText, parseFeet } from './lengths';

describe('Lengths', () => {
  it('are read as crews type them: feet, feet and inches, inches', () => {
    const typed: [string, number | undefined][] = [
      ['12', 144],
      ['12.5', 150],
      ["12'6", 150],
      ['12 ft 6 in', 150],
      ['12\'6"', 150],
      ['30in', 30],
      ['0', 0],
      ['  ', undefined],
    ];
    for (const [text, inches] of typed) expect(parseFeet(text)).withContext(text).toBe(inches);
    for (const text of ['twelve', '-3', '12x', "12'6'3"]) expect(parseFeet(text)).withContext(text).toBeNaN();
  });

  it('are written so that they read back as the same length', () => {
    for (const inches of [0, 5, 12, 13, 150, 1201]) expect(parseFeet(feet(inches))).toBe(inches);
    expect([0.5, 0.375, 0.75, 6, 1.25, 0.5625].map(inchesText)).toEqual([
      '½ in',
      '⅜ in',
      '¾ in',
      '6 in',
      '1¼ in',
      '9/16 in',
    ]);
  });
});
