import type { HouseReader, Point } from '@mule-tally/core';
import { deviceType } from '@mule-tally/core';

/** "S2 gang 1 · Switch · Hall" */
export function pointName(reader: HouseReader, point: Point): string {
  const device = reader.get('devices', point.deviceId)!;
  const box = reader.get('boxes', device.boxId)!;
  const type = deviceType(reader, device);
  const index = reader.mentioning('points', device.id).findIndex(({ id }) => id === point.id);
  const part = type.points.length > 1 ? ` ${point.role} ${index + 1}` : '';
  const gang = type.mount === 'yoke' ? ` gang ${device.gang}` : '';
  return `${box.tag}${gang}${part} · ${type.name} · ${reader.get('rooms', box.roomId)?.name ?? ''}`;
}

/** A control as it is typed in one line. */
export interface TypedControl {
  readonly name: string;
  readonly places: readonly string[];
  readonly loads: readonly string[];
  /** What could not be read, in sentences. */
  readonly problems: readonly string[];
}

const FREE_FIRST = (reader: HouseReader, points: readonly Point[]): Point[] =>
  [...points].sort(
    (a, b) => reader.mentioning('controls', a.id).length - reader.mentioning('controls', b.id).length,
  );

/** A box's tag, and after a dot or dash the gang (of a switch) or the number of the load in it: "S5", "S5.2", "S5-S2". */
function pointAt(
  reader: HouseReader,
  word: string,
  levers: boolean,
  taken: ReadonlySet<string>,
): Point | string {
  const boxes = reader.all('boxes');
  const exact = boxes.find(({ tag }) => tag.toLowerCase() === word.toLowerCase());
  const split = /^(.+?)[.-](?:[a-z]{0,5})(\d{1,2})$/i.exec(word);
  const box = exact ?? (split && boxes.find(({ tag }) => tag.toLowerCase() === split[1]!.toLowerCase()));
  if (!box) return `There is no box ${word}.`;
  const number = exact ? undefined : Number(split![2]);
  const points = reader
    .mentioning('devices', box.id)
    .flatMap((device) => reader.mentioning('points', device.id).map((point) => ({ point, device })))
    .filter(({ point }) => (point.role === 'lever') === levers);
  const what = levers ? 'switch' : 'load';
  const matching =
    number === undefined
      ? points
      : levers
        ? points.filter(({ device }) => device.gang === number)
        : points.slice(number - 1, number);
  const free = FREE_FIRST(
    reader,
    matching.map(({ point }) => point).filter(({ id }) => !taken.has(id)),
  );
  return free[0] ?? `${box.tag} has no ${what}${number === undefined ? '' : ` ${number}`} left.`;
}

/**
 * Reads "stairs: S5.4, S6 → L18" (an arrow, "->" or "switches" in the middle). A tag alone takes the first switch or load of
 * the box that nothing controls yet.
 */
export function readControlLine(reader: HouseReader, text: string): TypedControl | undefined {
  if (!text.trim()) return undefined;
  const [head, ...rest] = text.split(':');
  const named = rest.length > 0;
  const [left, right, ...more] = (named ? rest.join(':') : text).split(/→|->|=>|\bswitches\b/i);
  const problems: string[] = [];
  if (right === undefined || more.length)
    problems.push('Write the switches, an arrow, and what they switch: S5, S6 -> L18.');
  const taken = new Set<string>();
  const words = (part: string | undefined): string[] =>
    (part ?? '')
      .split(/[,;+]|\s+/)
      .map((word) => word.trim())
      .filter((word) => word && !/^(and|light|lights|fan|the)$/i.test(word));
  const read = (part: string | undefined, levers: boolean): string[] =>
    words(part).flatMap((word) => {
      const found = pointAt(reader, word, levers, taken);
      if (typeof found === 'string') {
        problems.push(found);
        return [];
      }
      taken.add(found.id);
      return [found.id];
    });
  const places = read(left, true);
  const loads = read(right, false);
  if (!problems.length && places.length === 0) problems.push('No switch is named.');
  if (!problems.length && loads.length === 0) problems.push('Nothing to switch is named.');
  const name = named ? head!.trim() : '';
  return { name: name ? name.charAt(0).toUpperCase() + name.slice(1) : 'Control', places, loads, problems };
}
