import type { HouseReader, Point } from '@mule-tally/core';
import type { Say } from '@mule-tally/core/work';
import { deviceType, roomName, saidIn } from '@mule-tally/core';
import { listed } from '@mule-tally/core/work';

/** "S2, gang 1 · Switch · Hall" */
export function pointName(reader: HouseReader, say: Say, point: Point): string {
  const device = reader.get('devices', point.deviceId)!;
  const box = reader.get('boxes', device.boxId)!;
  const type = deviceType(reader, device);
  const index = reader.mentioning('points', device.id).findIndex(({ id }) => id === point.id);
  const { phrases } = say.tongue;
  const part = type.points.length > 1 ? ` · ${phrases.roles[point.role]} ${index + 1}` : '';
  const tag = type.mount === 'yoke' ? phrases.atGang(box.tag, device.gang) : box.tag;
  return `${tag}${part} · ${say.deviceType(device.catalogueId)} · ${roomName(reader, box.id)}`;
}

/** One word of the line, and the point that it names if it can be read. */
interface Word {
  readonly word: string;
  readonly id?: string;
}

/** A control as it is typed in one line. */
export interface TypedControl {
  readonly name: string;
  /** What stands before the colon. */
  readonly typedName: string;
  readonly left: readonly Word[];
  readonly right: readonly Word[];
  readonly places: readonly string[];
  readonly loads: readonly string[];
  /** What could not be read, in sentences. */
  readonly problems: readonly string[];
}

const FREE_FIRST = (reader: HouseReader, points: readonly Point[]): Point[] =>
  [...points].sort(
    (a, b) => reader.mentioning('controls', a.id).length - reader.mentioning('controls', b.id).length,
  );

/**
 * A box's tag, and after a dot or dash the gang (of a switch, with a letter for the second on its yoke) or the number of the
 * load in it: "S5", "S5.2", "S5-S2", "S5.2b".
 */
function pointAt(
  reader: HouseReader,
  word: string,
  levers: boolean,
  taken: ReadonlySet<string>,
): Point | string {
  const boxes = reader.all('boxes');
  const exact = boxes.find(({ tag }) => tag.toLowerCase() === word.toLowerCase());
  const split = /^(.+?)[.-](?:[a-z]{0,5}?)(\d{1,2})([a-d])?$/i.exec(word);
  const box = exact ?? (split && boxes.find(({ tag }) => tag.toLowerCase() === split[1]!.toLowerCase()));
  if (!box) return $localize`There is no box ${word}.`;
  const number = exact ? undefined : Number(split![2]);
  const points = reader
    .mentioning('devices', box.id)
    .flatMap((device) => reader.mentioning('points', device.id).map((point) => ({ point, device })))
    .filter(({ point }) => (point.role === 'lever') === levers);
  const what = levers ? $localize`switch` : $localize`light or outlet`;
  const letter = exact ? undefined : split![3]?.toLowerCase();
  const inGang = points.filter(({ device }) => device.gang === number);
  const matching =
    number === undefined
      ? points
      : levers
        ? letter
          ? inGang.slice(letter.charCodeAt(0) - 97, letter.charCodeAt(0) - 96)
          : inGang
        : points.slice(number - 1, number);
  const free = FREE_FIRST(
    reader,
    matching.map(({ point }) => point).filter(({ id }) => !taken.has(id)),
  );
  return free[0] ?? $localize`${box.tag} has no ${what}${number === undefined ? '' : ` ${number}`} left.`;
}

/**
 * Reads "stairs: S5.4 and S6 switch L18" ("switch" or "switches" in the middle; an arrow does too). A tag alone takes the first switch or load of
 * the box that nothing controls yet.
 */
export function readControlLine(reader: HouseReader, text: string): TypedControl | undefined {
  if (!text.trim()) return undefined;
  const [head, ...rest] = text.split(':');
  const named = rest.length > 0;
  const [left, right, ...more] = (named ? rest.join(':') : text).split(/→|->|=>|\bswitch(?:es)?\b/i);
  const problems: string[] = [];
  if (right === undefined || more.length)
    problems.push($localize`Write the switches, then “switch”, then what they switch: S5 and S6 switch L18.`);
  const taken = new Set<string>();
  const words = (part: string | undefined): string[] =>
    (part ?? '')
      .split(/[,;+]|\s+/)
      .map((word) => word.trim())
      .filter((word) => word && !/^(and|light|lights|fan|the)$/i.test(word));
  const read = (part: string | undefined, levers: boolean): Word[] =>
    words(part).map((word) => {
      const found = pointAt(reader, word, levers, taken);
      if (typeof found === 'string') {
        problems.push(found);
        return { word };
      }
      taken.add(found.id);
      return { word, id: found.id };
    });
  const [leftWords, rightWords] = [read(left, true), read(right, false)];
  const places = leftWords.flatMap(({ id }) => id ?? []);
  const loads = rightWords.flatMap(({ id }) => id ?? []);
  if (!problems.length && places.length === 0) problems.push($localize`No switch is named.`);
  if (!problems.length && loads.length === 0) problems.push($localize`Nothing to switch is named.`);
  const typedName = named ? head!.trim() : '';
  const name = typedName || defaultName(reader, loads[0]);
  return {
    name: name.charAt(0).toUpperCase() + name.slice(1),
    typedName,
    left: leftWords,
    right: rightWords,
    places,
    loads,
    problems,
  };
}

const ROLES: Readonly<Record<Point['role'], string>> = {
  lever: $localize`switch`,
  receptacle: $localize`receptacle`,
  lamp: $localize`light`,
  fan: $localize`fan`,
  alarm: $localize`alarm`,
  appliance: $localize`appliance`,
};

/** A control that nobody has named: by the room of what it switches. */
function defaultName(reader: HouseReader, loadId: string | undefined): string {
  const point = reader.get('points', loadId ?? '');
  const box = point && reader.get('boxes', reader.get('devices', point.deviceId)?.boxId ?? '');
  const room = box && roomName(reader, box.id);
  if (!point || !room) return $localize`Switching`;
  return `${room} ${saidIn(reader.rules().jurisdiction.saidHere, ROLES[point.role])}`;
}

/** The shortest word that names exactly this point in a line. */
export function pointWord(reader: HouseReader, point: Point): string {
  const device = reader.get('devices', point.deviceId)!;
  const { tag } = reader.get('boxes', device.boxId)!;
  const isLever = point.role === 'lever';
  const all = reader
    .mentioning('devices', device.boxId)
    .flatMap((one) => reader.mentioning('points', one.id).map((own) => ({ own, gang: one.gang })))
    .filter(({ own }) => (own.role === 'lever') === isLever);
  if (all.length === 1) return tag;
  if (!isLever) return `${tag}.${all.findIndex(({ own }) => own.id === point.id) + 1}`;
  const inGang = all.filter(({ gang }) => gang === device.gang);
  const letter = String.fromCharCode(97 + inGang.findIndex(({ own }) => own.id === point.id));
  return `${tag}.${device.gang}${inGang.length > 1 ? letter : ''}`;
}

const lineOf = (name: string, left: readonly Word[], right: readonly Word[]): string => {
  if (!name && !left.length && !right.length) return '';
  const words = (side: readonly Word[]): string => listed(side.map(({ word }) => word));
  const verb = left.length > 1 ? 'switch' : 'switches';
  return `${name ? `${name}: ` : ''}${words(left)} ${verb} ${words(right)}`.trim();
};

/** The line with this point named in it, or no longer when it was. Words that cannot be read stay. */
export function withPoint(reader: HouseReader, text: string, point: Point): string {
  const typed = readControlLine(reader, text);
  const toggled = (side: readonly Word[]): readonly Word[] =>
    side.some(({ id }) => id === point.id)
      ? side.filter(({ id }) => id !== point.id)
      : [...side, { word: pointWord(reader, point), id: point.id }];
  const [left, right] = [typed?.left ?? [], typed?.right ?? []];
  return point.role === 'lever'
    ? lineOf(typed?.typedName ?? '', toggled(left), right)
    : lineOf(typed?.typedName ?? '', left, toggled(right));
}

/** The line with another name before its colon. */
export function withName(reader: HouseReader, text: string, name: string): string {
  const typed = readControlLine(reader, text);
  return lineOf(name.replaceAll(':', ' '), typed?.left ?? [], typed?.right ?? []);
}
