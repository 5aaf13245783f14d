/** Lengths for people: feet and inches for runs, inches with fractions for strips. */
export function feet(inches: number): string {
  const whole = Math.round(inches);
  const [ft, rest] = [Math.floor(whole / 12), whole % 12];
  return rest === 0 ? `${ft} ft` : ft === 0 ? `${rest} in` : `${ft} ft ${rest} in`;
}

const SIXTEENTHS: Record<number, string> = { 2: '⅛', 4: '¼', 6: '⅜', 8: '½', 10: '⅝', 12: '¾', 14: '⅞' };

export function inchesText(inches: number): string {
  const sixteenths = Math.round(inches * 16);
  const [whole, rest] = [Math.floor(sixteenths / 16), sixteenths % 16];
  const fraction = rest === 0 ? '' : (SIXTEENTHS[rest] ?? ` ${rest}/16`);
  return `${whole === 0 && fraction ? '' : whole}${fraction} in`.trim();
}

/** Feet as typed ("12", "12.5", "12'6") in inches; undefined for nothing, NaN for what cannot be read. */
export function parseFeet(text: string): number | undefined {
  const trimmed = text.trim();
  if (!trimmed) return undefined;
  const inches = /^(\d+(?:\.\d+)?)\s*(?:"|in)$/.exec(trimmed);
  if (inches) return Number(inches[1]);
  const match = /^(\d+(?:\.\d+)?)\s*(?:'|ft)?\s*(?:(\d+(?:\.\d+)?)\s*(?:"|in)?)?$/.exec(trimmed);
  return match ? Number(match[1]) * 12 + Number(match[2] ?? 0) : Number.NaN;
}
