import type { Outline } from './outline.js';

/** Feet, with or without inches: 12, 12.5, 12'6, 12' 6", 12ft 6in. */
const LENGTH = String.raw`(\d{1,3}(?:\.\d{1,3})?)\s*(?:(?:'|’|ft)\s*(?:(\d{1,2}(?:\.\d{1,3})?)\s*(?:"|”|in)?)?)?`;
const BY = String.raw`\s*(?:[x×X*]|by)\s*`;
const SIZE = String.raw`${LENGTH}${BY}${LENGTH}`;
const RECTANGLE = new RegExp(String.raw`^\s*${SIZE}\s*$`);
const ELL = new RegExp(String.raw`^\s*L\s*${SIZE}\s*(?:less|-|minus)\s*${SIZE}\s*$`, 'i');

/** A size of 1 to 500 ft each way, in inches. */
interface Size {
  readonly lengthIn: number;
  readonly widthIn: number;
}
const inches = (feet: string | undefined, more: string | undefined): number =>
  Math.round((Number(feet) * 12 + Number(more ?? 0)) * 1000) / 1000;
function sizeOf(groups: readonly (string | undefined)[]): Size | undefined {
  const [lengthIn, widthIn] = [inches(groups[0], groups[1]), inches(groups[2], groups[3])];
  return [lengthIn, widthIn].every((length) => length >= 12 && length <= 6000)
    ? { lengthIn, widthIn }
    : undefined;
}

/** Reads a size: "12'6 x 10"; undefined where it is none. */
export function readSize(text: string): Size | undefined {
  const found = RECTANGLE.exec(text);
  return found ? sizeOf(found.slice(1)) : undefined;
}

/**
 * Reads an outline as it is typed, clear between the walls: "12'6 x 10", or "L 14 x 12 less 4 x 3" with the corner at the upper
 * right cut out. From the origin, along the faces of its walls, or along their center lines where they all are `depthIn` thick.
 * Undefined where the text is none. Inches.
 */
export function readOutline(text: string, depthIn = 0): Outline | undefined {
  const ell = ELL.exec(text);
  const [whole, less] = ell
    ? [sizeOf(ell.slice(1, 5)), sizeOf(ell.slice(5, 9))]
    : [readSize(text), undefined];
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
