import type { Rulebook } from '../../rulebook/rulebook.js';

/** How lengths and volumes are shown: a setting of the house. Everything is kept in inches and cubic inches. */
export type UnitSystem = 'feet-inches' | 'decimal' | 'metric';

/** Millimetres of an inch, and cubic centimetres (millilitres) of a cubic inch: exact. */
const MM = 25.4;
const ML = 16.387064;

const SIXTEENTHS: Readonly<Record<number, string>> = {
  2: '⅛',
  4: '¼',
  6: '⅜',
  8: '½',
  10: '⅝',
  12: '¾',
  14: '⅞',
};

const rounded = (value: number, digits: number): string => String(Number(value.toFixed(digits)));

/** Writes lengths, volumes and areas of a house for people, all in one place. */
export interface Units {
  readonly system: UnitSystem;
  /** The unit that a bare number is read in: "ft" or "m". */
  readonly typed: 'ft' | 'm';
  /** A run of cable: "23 ft 4 in", "23.3 ft", "7.11 m". */
  long(inches: number): string;
  /** A length in that unit, not rounded: feet or meters. */
  inTyped(inches: number): number;
  /** A mark as it is printed on a sheath, of feet: metres where the house is metric, to the centimetre. */
  mark(feet: number): number;
  /** Feet of a mark as it is printed. */
  ofMark(printed: number): number;
  /** The side of a room, short enough for a plan: "13'5", "4.10". */
  side(inches: number): string;
  /** The unit of a bare short length, and the bare number in it: "in", "48"; "mm", "1219". */
  readonly shortUnit: string;
  shortNumber(inches: number): string;
  /** A strip, a height, free conductor: "⅝ in", "0.625 in", "16 mm". */
  short(inches: number): string;
  /** "20.25 cu in", "332 mL" */
  volume(in3: number): string;
  /** The unit that volumes are written and typed in, and the bare number in it: "20.25", "332". */
  readonly volumeUnit: string;
  volumeNumber(in3: number): string;
  /** "0.126 in²", "81 mm²" */
  area(in2: number): string;
  /** Ground that a room takes, of square inches. */
  ground(in2: number): string;
}

function feetAndInches(inches: number): string {
  const whole = Math.round(inches);
  const [ft, rest] = [Math.floor(whole / 12), whole % 12];
  return rest === 0 ? `${ft} ft` : ft === 0 ? `${rest} in` : `${ft} ft ${rest} in`;
}

function inFractions(inches: number): string {
  const sixteenths = Math.round(inches * 16);
  const [whole, rest] = [Math.floor(sixteenths / 16), sixteenths % 16];
  const fraction = rest === 0 ? '' : (SIXTEENTHS[rest] ?? ` ${rest}/16`);
  return `${whole === 0 && fraction ? '' : whole}${fraction} in`.trim();
}

/** Feet with inches where there are any, as they are typed. */
const inSide = (inches: number): string => {
  const whole = Math.round(inches);
  const [feet, more] = [Math.floor(whole / 12), whole % 12];
  return more ? `${feet}'${more}` : `${feet}'`;
};
const FEET: Pick<Units, 'typed' | 'inTyped' | 'mark' | 'ofMark' | 'side'> = {
  typed: 'ft',
  inTyped: (inches) => inches / 12,
  mark: (feet) => feet,
  ofMark: (printed) => printed,
  side: inSide,
};

const VOLUMES: Pick<Units, 'volume' | 'volumeUnit' | 'volumeNumber'> = {
  volume: (in3) => `${rounded(in3, 2)} cu in`,
  volumeUnit: 'cu in',
  volumeNumber: (in3) => rounded(in3, 2),
};
const INCHES: Pick<Units, 'shortUnit' | 'shortNumber'> = {
  shortUnit: 'in',
  shortNumber: (inches) => rounded(inches, 3),
};
const GROUND = (in2: number): string => `${rounded(in2 / 144, 0)} sq ft`;
const AREA = (in2: number): string => `${rounded(in2, 3)} in²`;

const SYSTEMS: Readonly<Record<UnitSystem, Units>> = {
  'feet-inches': {
    system: 'feet-inches',
    ...FEET,
    ...INCHES,
    long: feetAndInches,
    short: inFractions,
    ...VOLUMES,
    area: AREA,
    ground: GROUND,
  },
  decimal: {
    system: 'decimal',
    ...FEET,
    ...INCHES,
    long: (inches) => `${rounded(inches / 12, 1)} ft`,
    short: (inches) => `${rounded(inches, 3)} in`,
    ...VOLUMES,
    area: AREA,
    ground: GROUND,
  },
  metric: {
    system: 'metric',
    typed: 'm',
    inTyped: (inches) => (inches * MM) / 1000,
    mark: (feet) => Number(((feet * 12 * MM) / 1000).toFixed(2)),
    ofMark: (printed) => (printed * 1000) / MM / 12,
    side: (inches) => ((inches * MM) / 1000).toFixed(2),
    shortUnit: 'mm',
    shortNumber: (inches) => rounded(inches * MM, 0),
    long: (inches) => `${rounded((inches * MM) / 1000, 2)} m`,
    short: (inches) => `${rounded(inches * MM, 0)} mm`,
    volume: (in3) => `${rounded(in3 * ML, 0)} mL`,
    volumeUnit: 'mL',
    volumeNumber: (in3) => rounded(in3 * ML, 0),
    area: (in2) => `${rounded(in2 * MM * MM, 0)} mm²`,
    ground: (in2) => `${rounded((in2 * MM * MM) / 1e6, 1)} m²`,
  },
};

export const unitsOf = (system: UnitSystem): Units => SYSTEMS[system];

/** The units of a house. */
export const unitsIn = (rules: Rulebook): Units => SYSTEMS[rules.text('show.units') as UnitSystem];

/**
 * A length as it is typed, in inches: "12", "12.5" and "12'6" are feet, 7" and 7 in inches; in a metric house "3.5" and
 * "3.5 m" are metres. Any unit that is written counts, whatever the house shows. Undefined for nothing, NaN for what cannot
 * be read.
 */
export function readLength(text: string, system: UnitSystem = 'feet-inches'): number | undefined {
  const trimmed = text.trim().replace(',', '.');
  if (!trimmed) return undefined;
  const metric = /^(\d+(?:\.\d+)?)\s*(m|cm|mm)$/.exec(trimmed);
  if (metric) return (Number(metric[1]) * { m: 1000, cm: 10, mm: 1 }[metric[2] as 'm']) / MM;
  const inches = /^(\d+(?:\.\d+)?)\s*(?:"|in)$/.exec(trimmed);
  if (inches) return Number(inches[1]);
  if (system === 'metric' && /^\d+(?:\.\d+)?$/.test(trimmed)) return (Number(trimmed) * 1000) / MM;
  const match = /^(\d+(?:\.\d+)?)\s*(?:'|ft)?\s*(?:(\d+(?:\.\d+)?)\s*(?:"|in)?)?$/.exec(trimmed);
  return match ? Number(match[1]) * 12 + Number(match[2] ?? 0) : Number.NaN;
}

/**
 * A volume as it is typed, in cubic inches: a bare number in the unit that the house shows, or with its unit. Undefined for
 * nothing, NaN for what cannot be read.
 */
export function readVolume(text: string, system: UnitSystem = 'feet-inches'): number | undefined {
  const trimmed = text.trim().replace(',', '.');
  if (!trimmed) return undefined;
  const match = /^(\d+(?:\.\d+)?)\s*(in³|in3|cu in|mL|ml|cm³|cm3)?$/.exec(trimmed);
  if (!match) return Number.NaN;
  const unit = match[2] ?? (system === 'metric' ? 'mL' : 'cu in');
  return /^(?:mL|ml|cm)/.test(unit) ? Number((Number(match[1]) / ML).toFixed(3)) : Number(match[1]);
}

/**
 * A height or another short length as it is typed, in inches: a bare number is inches, in a metric house millimetres; any unit
 * that is written counts ("4'2\"", "1.2 m"). Undefined for nothing, NaN for what cannot be read.
 */
export function readShort(text: string, system: UnitSystem = 'feet-inches'): number | undefined {
  const bare = /^(\d+(?:[.,]\d+)?)$/.exec(text.trim());
  if (!bare) return readLength(text, system);
  const value = Number(bare[1]!.replace(',', '.'));
  return system === 'metric' ? value / MM : value;
}
