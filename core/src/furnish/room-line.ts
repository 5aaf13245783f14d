import type { BareUnit } from '../plan/typed-outline.js';
import { readSize } from '../plan/typed-outline.js';

/** A room as it is typed on one line: "Bedroom 1 12'6 x 10", in a metric house "Bedroom 1 3.8 x 3". Sizes are clear between the walls, in inches. */
export interface RoomLine {
  readonly name: string;
  readonly lengthIn?: number;
  readonly widthIn?: number;
  /** What is at its end looks like a size and is none: it stays in the name, and is to be told. */
  readonly doubt?: string;
}

/** Reads a line: what is at its end, if it is a size of 1 to 500 ft by as much, is the room's; all else is its name. */
export function readRoomLine(text: string, bare: BareUnit = 'ft'): RoomLine {
  const line = text.trim();
  for (const { index } of line.matchAll(/\s+/g)) {
    const size = readSize(line.slice(index), bare);
    if (size) return { name: line.slice(0, index), ...size };
  }
  const doubt = /\s(\d[\d'’".]*\s*(?:ft|feet|in|mm|m)?\s*(?:[x×X*]|by)\s*\S+|\d+\s*['’]\S*)$/.exec(line)?.[1];
  return { name: line, ...(doubt && { doubt }) };
}
