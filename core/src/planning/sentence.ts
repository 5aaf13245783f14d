import { v5 } from 'uuid';
import type { SingleChangeBody } from '../changes/change.js';
import { adding } from '../changes/change.js';
import type { HouseReader } from '../derive/reader.js';
import { largestModel, modelsFor } from '../furnish/box-models.js';
import type { BoxShape } from '../furnish/planned.js';
import type { BoxPlace } from '../furnish/room-places.js';
import { RoomPlaces } from '../furnish/room-places.js';
import type { Room } from '../house/model.js';
import type { RoomLayout } from '../plan/room-layout.js';
import { halfWidthOf, roomLayout } from '../plan/room-layout.js';
import type { WallRun } from '../plan/wall-runs.js';
import { wallRuns } from '../plan/wall-runs.js';
import { builtInDevice } from '../rulebook/catalogue.js';
import type { HeightReference } from '../vocabulary/kinds.js';

/** What a typed sentence asks for. Lengths in inches. */
export interface Sentence {
  readonly thing: 'switch' | 'receptacle' | 'light' | 'recessed' | 'fan' | 'alarm' | 'data';
  readonly gangs: number;
  readonly count: number;
  readonly at:
    | { readonly where: 'beside'; readonly side: 'left' | 'right'; readonly of: 'door' | 'window' }
    | { readonly where: 'over'; readonly of: 'door' | 'window' }
    | { readonly where: 'latch' }
    | { readonly where: 'every'; readonly eachIn: number; readonly from: 'door' | 'corner' }
    | {
        readonly where: 'wall';
        readonly wall: number;
        readonly fromIn?: number;
        readonly side: 'left' | 'right';
      }
    | { readonly where: 'middle' };
  readonly heightIn?: number;
}

const NUMBERS: Readonly<Record<string, number>> = {
  a: 1,
  an: 1,
  one: 1,
  single: 1,
  two: 2,
  double: 2,
  three: 3,
  triple: 3,
  four: 4,
  five: 5,
  six: 6,
  seven: 7,
  nine: 9,
  ten: 10,
  eight: 8,
};
const NUMBER = String.raw`\d{1,2}|${Object.keys(NUMBERS).join('|')}`;
const LENGTH = String.raw`(\d{1,4}(?:\.\d{1,2})?)\s*(?:(feet|foot|ft|'|’)\s*(?:(\d{1,2}(?:\.\d{1,2})?)\s*(?:inches|inch|in|"|”)?)?|(inches|inch|in|"|”|mm|m\b|meters?|metres?))?`;
const numberOf = (word: string | undefined): number =>
  word === undefined ? 1 : (NUMBERS[word] ?? Number(word));

/** Inches of a typed length: a bare number is of the unit that its place in the sentence has in that house. */
function inches(groups: readonly (string | undefined)[], bare: 'feet' | 'inches' | 'm' | 'mm'): number {
  const [value, feet, more, unit] = groups;
  const number = Number(value);
  if (unit?.startsWith('m') || (!unit && !feet && bare.startsWith('m')))
    return (number * ((unit ?? bare) === 'mm' ? 1 : 1000)) / 25.4;
  if (unit) return number;
  return feet || bare === 'feet' ? number * 12 + Number(more ?? 0) : number;
}

const THINGS: readonly (readonly [RegExp, Sentence['thing']])[] = [
  [/\b(recessed( light)?s?|downlights?)\b/, 'recessed'],
  [/\b(switch(es)?|gang)\b/, 'switch'],
  [/\b(receptacles?|sockets?|outlets?|plugs?)\b/, 'receptacle'],
  [/\b(fans?)\b/, 'fan'],
  [/\b(lights?)\b/, 'light'],
  [/\b(smoke alarms?|alarms?)\b/, 'alarm'],
  [/\bdata\b/, 'data'],
];

/**
 * Reads a sentence: "two gang left of the door at 48", "receptacles every 12 feet from the door", "receptacle on wall 2, 3 feet from
 * the left corner at 16", "four recessed lights". Undefined where it does not say what, or not where. A bare height is in inches, a
 * bare distance in feet; in a metric house in millimeters and meters.
 */
export function readSentence(text: string, isMetric = false): Sentence | undefined {
  const [high, far] = isMetric ? (['mm', 'm'] as const) : (['inches', 'feet'] as const);
  const typed = text
    .toLowerCase()
    .replace(/[,.]\s/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();
  const thing = THINGS.find(([word]) => word.test(typed))?.[1];
  if (!thing || typed.length > 200) return undefined;
  const gangs = numberOf(new RegExp(String.raw`\b(${NUMBER})[ -]gang`).exec(typed)?.[1]);
  const count = numberOf(
    new RegExp(
      String.raw`^(${NUMBER}) (?!gang|way)(?:recessed|downlight|light|receptacle|socket|outlet|plug|alarm|switch|fan|data)`,
    ).exec(typed)?.[1],
  );
  const height = new RegExp(String.raw`\bat ${LENGTH}(?: high)?$`).exec(typed);
  const heightIn = height ? inches(height.slice(1), high) : undefined;
  const beside = /\b(left|right) of (?:the )?(door|window)/.exec(typed);
  const over = /\b(?:over|above) (?:the )?(door|window)/.exec(typed);
  const every = new RegExp(String.raw`\bevery ${LENGTH}(?: from (?:the )?(door|corner))?`).exec(typed);
  const wall = /\bwall (\d{1,2})\b/.exec(typed);
  const fromCorner = new RegExp(String.raw`${LENGTH} from (?:the )?(left|right)(?: corner| end)?`).exec(
    typed,
  );
  const base = { thing, gangs, count, ...(heightIn !== undefined && { heightIn }) };
  if (gangs < 1 || gangs > 4 || count < 1 || count > 40) return undefined;
  if (every)
    return {
      ...base,
      at: {
        where: 'every',
        eachIn: inches(every.slice(1), far),
        from: every[5] === 'corner' ? 'corner' : 'door',
      },
    };
  if (beside)
    return {
      ...base,
      at: { where: 'beside', side: beside[1] as 'left' | 'right', of: beside[2] as 'door' | 'window' },
    };
  if (over) return { ...base, at: { where: 'over', of: over[1] as 'door' | 'window' } };
  if (wall)
    return {
      ...base,
      at: {
        where: 'wall',
        wall: Number(wall[1]),
        side: fromCorner?.[5] === 'right' ? 'right' : 'left',
        ...(fromCorner && { fromIn: inches(fromCorner.slice(1), far) }),
      },
    };
  if (thing === 'switch') return { ...base, at: { where: 'latch' } };
  const isOverhead = thing !== 'receptacle' && thing !== 'data';
  return isOverhead || /\bmiddle\b/.test(typed) ? { ...base, at: { where: 'middle' } } : undefined;
}

/** Why nothing was set: what the room has not, or what does not fit. */
export type SentenceProblem = 'not-read' | 'no-outline' | 'no-door' | 'no-window' | 'no-wall' | 'no-room';

const WHAT: Readonly<Record<Sentence['thing'], { shape: BoxShape; device?: string; prefix: string }>> = {
  switch: { shape: 'switch', device: 'switch', prefix: 'S' },
  receptacle: { shape: 'device', device: 'receptacle', prefix: 'R' },
  light: { shape: 'ceiling', device: 'luminaire', prefix: 'L' },
  recessed: { shape: 'light-box', device: 'luminaire', prefix: 'L' },
  fan: { shape: 'fan', device: 'fan-light', prefix: 'L' },
  alarm: { shape: 'ceiling', device: 'alarm', prefix: 'A' },
  data: { shape: 'low-voltage', prefix: 'D' },
};

function placesFor(
  reader: HouseReader,
  layout: RoomLayout,
  { at, count, gangs }: Sentence,
): readonly BoxPlace[] | SentenceProblem {
  const { outline, walls, openings, faceIn, room } = layout;
  if (!outline) return 'no-outline';
  const places = new RoomPlaces(reader, room);
  const round = (inch: number): number => Math.round(inch * 2) / 2;
  const isOn = (corner: string, alongIn: number): boolean => {
    const wall = walls.find((own) => own.corner === corner);
    return wall !== undefined && alongIn >= wall.startIn && alongIn <= wall.startIn + wall.lengthIn;
  };
  switch (at.where) {
    case 'middle':
      return Array.from({ length: count }, (_none, index) => places.ceilingAt(index + 1, count));
    case 'latch':
      return openings.some(({ kind }) => kind !== 'window') ? [places.switchAt(1, gangs)] : 'no-door';
    case 'beside':
    case 'over': {
      const opening = openings.find(({ kind }) => (kind === 'window') === (at.of === 'window'));
      if (!opening) return at.of === 'door' ? 'no-door' : 'no-window';
      const { corner, alongIn, widthIn } = opening;
      if (at.where === 'over') return [{ corner, alongIn: round(alongIn + widthIn / 2) }];
      const away = halfWidthOf(gangs) + reader.rules().number('layout.switchBeside');
      // Along a wall is to the left of whoever faces it.
      const to = round(at.side === 'left' ? alongIn + widthIn + away : alongIn - away);
      return isOn(corner, to) ? [{ corner, alongIn: to }] : 'no-room';
    }
    case 'wall': {
      const wall = walls[at.wall - 1];
      if (!wall) return 'no-wall';
      const fromIn = at.fromIn ?? wall.lengthIn / 2;
      const alongIn = round(wall.startIn + (at.side === 'left' ? wall.lengthIn - fromIn : fromIn));
      return isOn(wall.corner, alongIn) ? [{ corner: wall.corner, alongIn }] : 'no-room';
    }
    case 'every': {
      const doors = openings.filter(({ kind }) => kind !== 'window');
      if (at.from === 'door' && doors.length === 0) return 'no-door';
      if (at.eachIn < 12) return 'no-room';
      const runs: readonly WallRun[] = wallRuns(outline, doors, faceIn);
      // Half as far from the doorway, then so far from one to the next.
      return runs.flatMap((run) =>
        Array.from({ length: Math.floor(run.lengthIn / at.eachIn + 0.5) }, (_none, index) => {
          const { corner, alongIn } = run.at((index + 0.5) * at.eachIn);
          return { corner, alongIn: round(alongIn) };
        }),
      );
    }
  }
}

/**
 * What a sentence sets in a room: boxes with their devices, to be wired like any other. Ids follow from the house, the room and the
 * tags; lengths in inches.
 */
export function setBySentence(
  reader: HouseReader,
  room: Room,
  text: string,
):
  | { readonly changes: readonly SingleChangeBody[]; readonly tags: readonly string[] }
  | { readonly problem: SentenceProblem } {
  const sentence = readSentence(text, reader.rules().text('show.units') === 'metric');
  const layout = roomLayout(reader, room.id);
  if (!sentence || !layout) return { problem: 'not-read' };
  const found = placesFor(reader, layout, sentence);
  if (typeof found === 'string') return { problem: found };
  if (found.length === 0) return { problem: 'no-room' };
  const { shape, device, prefix } = WHAT[sentence.thing];
  const rules = reader.rules();
  const kind = sentence.thing === 'switch' ? 'switch' : 'receptacle';
  const onWall = shape === 'switch' || shape === 'device' || shape === 'low-voltage';
  const model = largestModel(modelsFor(rules.jurisdiction.boxes, shape, sentence.gangs)).id;
  const taken = new Set(reader.all('boxes').map(({ tag }) => tag));
  const tags: string[] = [];
  const changes = found.flatMap((place): SingleChangeBody[] => {
    let number = 1;
    while (taken.has(`${prefix}${number}`)) number++;
    const tag = `${prefix}${number}`;
    taken.add(tag);
    tags.push(tag);
    const id = (part: string): string => {
      for (let again = 0; ; again++) {
        const own = v5(`sentence ${room.id} ${tag} ${part} ${again}`, reader.houseId);
        if (!reader.get('boxes', own) && !reader.get('devices', own) && !reader.get('points', own))
          return own;
      }
    };
    const boxId = id('box');
    const heightIn = sentence.heightIn ?? (onWall ? rules.number(`height.${kind}`) : undefined);
    const devices = device
      ? Array.from({ length: shape === 'switch' ? sentence.gangs : 1 }, (_none, gang) => gang + 1)
      : [];
    return [
      adding('boxes', {
        id: boxId,
        roomId: room.id,
        tag,
        catalogueId: model,
        ...place,
        ...(heightIn !== undefined && {
          heightIn,
          heightReference: rules.text(`height.${kind}To`) as HeightReference,
        }),
      }),
      ...devices.flatMap((gang): SingleChangeBody[] => {
        const deviceId = id(`device ${gang}`);
        return [
          adding('devices', { id: deviceId, boxId, gang, catalogueId: device! }),
          ...(builtInDevice(device!)?.points ?? []).map((role, index) =>
            adding('points', { id: id(`point ${gang} ${index}`), deviceId, role }),
          ),
        ];
      }),
    ];
  });
  return { changes, tags };
}
