import type { Outline } from './outline.js';

/** The unit of a number without one: of the house in which it is typed. */
export type BareUnit = 'ft' | 'm';

/** Feet, with or without inches: 12, 12.5, 12'6, 12' 6", 12ft 6in. */
const FEET = String.raw`(\d{1,3}(?:\.\d{1,3})?)\s*(?:(?:'|’|ft)\s*(?:(\d{1,2}(?:\.\d{1,3})?)\s*(?:"|”|in)?)?)?`;
const BY = String.raw`\s*(?:[x×X*]|by)\s*`;
const patterns = (length: string) => {
  const size = String.raw`${length}${BY}${length}`;
  return {
    rectangle: new RegExp(String.raw`^\s*${size}\s*$`),
    ell: new RegExp(String.raw`^\s*L\s*${size}\s*(?:less|-|minus)\s*${size}\s*$`, 'i'),
  };
};
const IN_FEET = patterns(FEET);
/** Meters, or millimeters where it says so: 3.6, 3,6 m, 3600 mm. */
const METERS = String.raw`(\d{1,5}(?:[.,]\d{1,3})?)\s*(mm|m\b)?`;
const IN_METERS = patterns(METERS);

/** A size of 1 to 500 ft each way, in inches. */
interface Size {
  readonly lengthIn: number;
  readonly widthIn: number;
}
const inches = (feet: string | undefined, more: string | undefined): number =>
  Math.round((Number(feet) * 12 + Number(more ?? 0)) * 1000) / 1000;
const ofMeters = (value: string | undefined, unit: string | undefined): number =>
  Math.round(((Number(value?.replace(',', '.')) * (unit === 'mm' ? 1 : 1000)) / 25.4) * 1000) / 1000;
function sizeOf(groups: readonly (string | undefined)[], unit: BareUnit): Size | undefined {
  const read = unit === 'm' ? ofMeters : inches;
  const [lengthIn, widthIn] = [read(groups[0], groups[1]), read(groups[2], groups[3])];
  return [lengthIn, widthIn].every((length) => length >= 12 && length <= 6000)
    ? { lengthIn, widthIn }
    : undefined;
}

/** Whether it is typed in meters: in a house that is shown in them unless it says feet, elsewhere where it says so. */
const isMetric = (text: string, bare: BareUnit): boolean =>
  bare === 'm' ? !/['’"”]|ft|in/.test(text) : /\dm|\d mm?\b/.test(text);

/** Reads a size: "12'6 x 10", in a metric house "3.6 x 4.2"; undefined where it is none. */
export function readSize(text: string, bare: BareUnit = 'ft'): Size | undefined {
  const unit = isMetric(text, bare) ? 'm' : 'ft';
  const found = (unit === 'm' ? IN_METERS : IN_FEET).rectangle.exec(text);
  return found ? sizeOf(found.slice(1), unit) : undefined;
}

/**
 * Reads an outline as it is typed, clear between the walls: "12'6 x 10", or "L 14 x 12 less 4 x 3" with the corner at the upper
 * right cut out; in a metric house in meters. From the origin, along the faces of its walls, or along their center lines where they
 * all are `depthIn` thick. Undefined where the text is none. Inches.
 */
export function readOutline(text: string, depthIn = 0, bare: BareUnit = 'ft'): Outline | undefined {
  const unit = isMetric(text, bare) ? 'm' : 'ft';
  const ell = (unit === 'm' ? IN_METERS : IN_FEET).ell.exec(text);
  const [whole, less] = ell
    ? [sizeOf(ell.slice(1, 5), unit), sizeOf(ell.slice(5, 9), unit)]
    : [readSize(text, bare), undefined];
  if (!whole || (ell && !less)) return undefined;
  const [w, h] = [whole.lengthIn + depthIn, whole.widthIn + depthIn];
  if (!less)
    return [
      { id: 'c0', xIn: 0, yIn: 0 },
      { id: 'c1', xIn: w, yIn: 0 },
      { id: 'c2', xIn: w, yIn: h },
      { id: 'c3', xIn: 0, yIn: h },
    ];
  if (less.lengthIn >= whole.lengthIn || less.widthIn >= whole.widthIn) return undefined;
  return [
    { id: 'c0', xIn: 0, yIn: 0 },
    { id: 'c1', xIn: w, yIn: 0 },
    { id: 'c2', xIn: w, yIn: h - less.widthIn },
    { id: 'c3', xIn: w - less.lengthIn, yIn: h - less.widthIn },
    { id: 'c4', xIn: w - less.lengthIn, yIn: h },
    { id: 'c5', xIn: 0, yIn: h },
  ];
}
