/** A room as it is typed on one line: "Bedroom 1 12'6 x 10". Sizes are clear between the walls, in inches. */
export interface RoomLine {
  readonly name: string;
  readonly lengthIn?: number;
  readonly widthIn?: number;
}

/** Feet, with or without inches: 12, 12.5, 12', 12'6, 12' 6", 12ft 6in. */
const LENGTH = String.raw`(\d{1,3}(?:\.\d{1,3})?)\s*(?:(?:'|’|ft)\s*(?:(\d{1,2}(?:\.\d{1,3})?)\s*(?:"|”|in)?)?)?`;
const SIZE = new RegExp(String.raw`^(.*\S)\s+${LENGTH}\s*[x×X*]\s*${LENGTH}\s*$`);

const inches = (feet: string | undefined, more: string | undefined): number =>
  Math.round((Number(feet) * 12 + Number(more ?? 0)) * 1000) / 1000;

/** Reads a size alone: "12'6 x 10"; undefined where it is none. */
export function readRoomSize(text: string): Required<Pick<RoomLine, 'lengthIn' | 'widthIn'>> | undefined {
  const { name, lengthIn, widthIn } = readRoomLine(`room ${text}`);
  return name === 'room' && lengthIn !== undefined && widthIn !== undefined
    ? { lengthIn, widthIn }
    : undefined;
}

/** Reads a line: what is at its end, if it is a size of 1 to 500 ft by as much, is the room's; all else is its name. */
export function readRoomLine(text: string): RoomLine {
  const line = text.trim();
  const found = SIZE.exec(line);
  if (!found) return { name: line };
  const [, name, feet, more, otherFeet, otherMore] = found;
  const [lengthIn, widthIn] = [inches(feet, more), inches(otherFeet, otherMore)];
  const isSize = [lengthIn, widthIn].every((length) => length >= 12 && length <= 6000);
  return isSize ? { name: name!, lengthIn, widthIn } : { name: line };
}
