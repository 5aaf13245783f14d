import type { SingleChangeBody } from '../changes/change.js';
import { adding, setting } from '../changes/change.js';
import type { HouseReader } from '../derive/reader.js';
import { boxFacts, boxesInRoom, circuitsAt, devicesIn } from '../facts/box-facts.js';
import type { Box, Device, Room } from '../house/model.js';
import { BURIED_POINT } from '../house/model.js';
import { wallNumber } from '../plan/wall-number.js';
import { outlineOf } from '../plan/storey-plan.js';
import { BOX_TYPES, DEVICE_TYPES } from '../rulebook/catalogue.js';
import type { BoxType, DeviceType } from '../vocabulary/catalogue-types.js';
import { LIMITS } from '../vocabulary/limits.js';
import { unitsIn } from '../words/language/units.js';
import { csvOf, headingKey, readCsv } from './csv.js';
import type { CsvRow } from './csv.js';

type Measured = 'Volume' | 'Height' | 'Along';
/** Headings of a box schedule, lengths in the short unit of the house; circuits, gangs and volume are told and never read. */
const headingsIn = (measured: (what: Measured) => string): string[] => [
  ...['Tag', 'Room', 'Floor', 'Box', 'Gangs', measured('Volume'), measured('Height'), 'Wall'],
  ...[measured('Along'), 'Devices', 'Circuits'],
];
const [TAG, ROOM, FLOOR, BOX, WALL, DEVICES] = ['Tag', 'Room', 'Floor', 'Box', 'Wall', 'Devices'].map(
  headingKey,
) as [string, string, string, string, string, string];
/** A length may stand in either unit, whatever the house shows. */
const UNITS = ['in', 'mm'] as const;
const lengthKey = (what: Measured, unit: (typeof UNITS)[number]): string => headingKey(`${what} ${unit}`);
const READ = [
  ...[TAG, ROOM, FLOOR, BOX, WALL, DEVICES],
  ...UNITS.flatMap((unit) => [lengthKey('Height', unit), lengthKey('Along', unit)]),
];
const MM = 25.4;
/** Lengths nearer than this are one: of what is rounded to a hundredth of a millimeter. */
const SAME_IN = 0.001;
/** Between devices of one box. */
const BETWEEN = '; ';

/**
 * Every box of a house as CSV (RFC 4180), in walking order of the rooms, in inches or, in a metric house, millimeters and milliliters.
 * Boxes and devices by the ids of the catalogue.
 */
export function boxScheduleCsv(reader: HouseReader): string {
  const { system, shortUnit, volumeUnit, volumeNumber } = unitsIn(reader.rules());
  const length = (inches: number | undefined): number | '' =>
    inches === undefined ? '' : system === 'metric' ? Number((inches * MM).toFixed(2)) : inches;
  const rooms = [...reader.all('rooms')].sort((a, b) => a.order - b.order);
  const rows = rooms.flatMap((room) =>
    boxesInRoom(reader, room.id).map((box) => {
      const facts = boxFacts(reader, box);
      const circuits = circuitsAt(reader, box.id).map((id) => reader.get('circuits', id)?.number ?? 0);
      return [
        box.tag,
        room.name,
        reader.get('storeys', room.storeyId)?.name ?? '',
        box.catalogueId ?? '',
        facts.gangs,
        facts.volumeIn3 === undefined
          ? ''
          : system === 'metric'
            ? volumeNumber(facts.volumeIn3)
            : facts.volumeIn3,
        length(box.heightIn),
        (box.corner !== undefined && wallNumber(room, box.corner)) || '',
        length(box.alongIn),
        devicesIn(reader, box.id)
          .map(({ catalogueId }) => catalogueId)
          .join(BETWEEN),
        circuits.sort((a, b) => a - b).join('+'),
      ];
    }),
  );
  const headings = headingsIn((what) => `${what} ${what === 'Volume' ? volumeUnit : shortUnit}`);
  return csvOf([headings, ...rows]);
}

/** Why a row is not taken. Each code has one sentence, in English, that names what was typed. */
export interface BadRow {
  readonly row: number;
  readonly code:
    | `row.${'no-tag' | 'tag-long' | 'tag-twice' | 'tag-elsewhere' | 'no-room' | 'room-unknown' | 'room-twice'}`
    | `row.${'box-missing' | 'box-unknown' | 'number' | 'wall' | 'device-unknown' | 'gangs' | 'cells'}`;
  readonly message: string;
}
export interface GoodRow {
  readonly row: number;
  readonly tag: string;
  readonly room: string;
  readonly does: 'adds' | 'changes' | 'nothing';
  readonly changes: readonly SingleChangeBody[];
}
export type ScheduleRead =
  | {
      readonly ok: true;
      readonly good: readonly GoodRow[];
      readonly bad: readonly BadRow[];
      /** Columns that are not read: those that are told only, and those that are not known. */
      readonly unread: readonly string[];
    }
  | {
      readonly ok: false;
      readonly code: 'csv.empty' | 'csv.no-headings' | 'csv.too-long';
      readonly message: string;
    };

class Wrong extends Error {
  constructor(
    readonly code: BadRow['code'],
    message: string,
  ) {
    super(message);
  }
}
const shown = (text: string): string => `“${text.slice(0, 60)}”`;

/** Inches of a length as it is typed, in inches or millimeters: with a point or a comma. Undefined for nothing. */
function inches(row: CsvRow, column: Measured, what: string): number | undefined {
  for (const unit of UNITS) {
    const text = row.cells[lengthKey(column, unit)] ?? '';
    if (!text) continue;
    const value = Number(text.replace(',', '.').replace(/\s*(in|"|mm)$/, ''));
    const length = unit === 'mm' ? value / MM : value;
    if (!Number.isFinite(value) || value < 0 || length > 100_000)
      throw new Wrong(
        'row.number',
        `${what} ${shown(text)} is no number of ${unit === 'mm' ? 'millimeters' : 'inches'}.`,
      );
    return length;
  }
  return undefined;
}

/** What a schedule is read against. */
class Against {
  private readonly rooms = new Map<string, Room[]>();
  private readonly tags = new Map<string, Box[]>();
  private readonly boxTypes = new Map<string, BoxType>();
  private readonly deviceTypes = new Map<string, DeviceType>();

  constructor(readonly reader: HouseReader) {
    for (const room of reader.all('rooms')) push(this.rooms, known(room.name), room);
    for (const box of reader.all('boxes')) push(this.tags, box.tag.trim(), box);
    for (const type of [...BOX_TYPES, ...reader.all('catalogueBoxes')] as BoxType[]) {
      if (type.id === BURIED_POINT) continue;
      this.boxTypes.set(known(type.id), type);
      this.boxTypes.set(known(type.name), type);
    }
    for (const type of [...DEVICE_TYPES, ...reader.all('catalogueDevices')] as DeviceType[]) {
      this.deviceTypes.set(known(type.id), type);
      this.deviceTypes.set(known(type.name), type);
    }
  }

  /** The room of a row: by its name, its floor where that is said, and the box that is there where several are called so. */
  room(name: string, floor: string, tag: string): Room {
    if (!name) throw new Wrong('row.no-room', 'This row names no room.');
    const called = this.rooms.get(known(name)) ?? [];
    if (!called[0])
      throw new Wrong('row.room-unknown', `There is no room called ${shown(name)} in this house.`);
    const onFloor = called.filter(
      ({ storeyId }) => !floor || known(this.reader.get('storeys', storeyId)?.name ?? '') === known(floor),
    );
    if (!onFloor[0])
      throw new Wrong('row.room-unknown', `There is no room called ${shown(name)} on ${shown(floor)}.`);
    if (onFloor.length === 1) return onFloor[0];
    const tagged = this.tags.get(tag) ?? [];
    const own = onFloor.filter(({ id }) => tagged.some(({ roomId }) => roomId === id));
    if (own.length === 1) return own[0]!;
    throw new Wrong(
      'row.room-twice',
      `There are ${onFloor.length} rooms called ${shown(name)}: say the floor, or rename one of them first.`,
    );
  }
  box(tag: string, room: Room): Box | undefined {
    const found = this.tags.get(tag) ?? [];
    const own = found.find(({ roomId }) => roomId === room.id);
    if (own || found.length === 0) return own;
    const where = this.reader.get('rooms', found[0]!.roomId ?? '')?.name ?? '';
    throw new Wrong(
      'row.tag-elsewhere',
      `${shown(tag)} is a box in ${shown(where)} already: give this one another tag.`,
    );
  }
  boxType(text: string): BoxType {
    const found = this.boxTypes.get(known(text));
    if (!found) throw new Wrong('row.box-unknown', `There is no box ${shown(text)} in the catalogue.`);
    return found;
  }
  devices(text: string): readonly DeviceType[] {
    return text.split(/[;|]/).flatMap((part) => {
      const name = part.trim();
      if (!name) return [];
      const found = this.deviceTypes.get(known(name));
      if (!found)
        throw new Wrong('row.device-unknown', `There is no device ${shown(name)} in the catalogue.`);
      return [found];
    });
  }
}
const known = (text: string): string => text.trim().toLowerCase();
const push = <V>(map: Map<string, V[]>, key: string, value: V): void => {
  const list = map.get(key);
  if (list) list.push(value);
  else map.set(key, [value]);
};

/** The corner of a wall by its number, as a person counts them. */
function cornerOf(room: Room, text: string): string {
  const number = Number(text);
  const outline = outlineOf(room);
  const corner = Number.isInteger(number) && number >= 1 ? outline?.[number - 1]?.id : undefined;
  // Of a room that is not drawn, corners have the names that they will have.
  if (!outline && Number.isInteger(number) && number >= 1 && number <= 200) return `c${number - 1}`;
  if (corner === undefined) throw new Wrong('row.wall', `${shown(room.name)} has no wall ${shown(text)}.`);
  return corner;
}

/** What the cells of a row say of a box: fields that are left empty say nothing. */
function fieldsOf(row: CsvRow, room: Room, against: Against): Partial<Box> {
  const cell = (key: string): string => row.cells[key] ?? '';
  const heightIn = inches(row, 'Height', 'Its height');
  const alongIn = inches(row, 'Along', 'Its place along the wall');
  return {
    ...(cell(BOX) && { catalogueId: against.boxType(cell(BOX)).id }),
    ...(heightIn !== undefined && { heightIn }),
    ...(cell(WALL) && { corner: cornerOf(room, cell(WALL)) }),
    ...(alongIn !== undefined && { alongIn }),
  };
}

const MARKED = [
  ...['markedVolumeIn3', 'material', 'kind', 'gangs', 'slots', 'markedClamps', 'groundScrew', 'fanRated'],
] as const;

function changesOf(row: CsvRow, seen: Set<string>, against: Against, newId: () => string): GoodRow {
  const cell = (key: string): string => row.cells[key] ?? '';
  const tag = cell(TAG);
  if (!tag) throw new Wrong('row.no-tag', 'This row has no tag.');
  if (tag.length > 60) throw new Wrong('row.tag-long', `The tag ${shown(tag)} is longer than 60 letters.`);
  if (row.isTooLong) throw new Wrong('row.cells', 'There are more cells in this row than headings.');
  const room = against.room(cell(ROOM), cell(FLOOR), tag);
  const key = `${room.id} ${tag}`;
  if (seen.has(key)) throw new Wrong('row.tag-twice', `${shown(tag)} stands in an earlier row already.`);
  const box = against.box(tag, room);
  const fields = fieldsOf(row, room, against);
  const devices = against.devices(cell(DEVICES));
  if (!box && !fields.catalogueId)
    throw new Wrong('row.box-missing', `${shown(tag)} is new: say which box of the catalogue it is.`);
  seen.add(key);
  const told = { row: row.row, tag, room: room.name };
  if (box) {
    const changed = Object.entries(fields).filter(([field, value]) => {
      const now = box[field as keyof Box];
      const isSame = typeof value === 'number' && typeof now === 'number' && Math.abs(now - value) < SAME_IN;
      return !isSame && now !== value;
    });
    if (changed.length === 0) return { ...told, does: 'nothing', changes: [] };
    // What is marked in a box of no model goes when it gets one.
    const unmarked =
      fields.catalogueId !== undefined && box.catalogueId === undefined
        ? MARKED.filter((field) => box[field as keyof Box] !== undefined).map(
            (field) => [field, null] as const,
          )
        : [];
    const set = Object.fromEntries([...changed, ...unmarked]) as Parameters<typeof setting<'boxes'>>[2];
    return { ...told, does: 'changes', changes: [setting('boxes', box.id, set)] };
  }
  const boxId = newId();
  let gang = 1;
  const hung = devices.flatMap((type): SingleChangeBody[] => {
    const deviceId = newId();
    const device: Device = { id: deviceId, boxId, gang, catalogueId: type.id };
    gang += type.widthGangs ?? 1;
    return [
      adding('devices', device),
      ...type.points.map((role) => adding('points', { id: newId(), deviceId, role })),
    ];
  });
  const gangs = against.boxType(fields.catalogueId!).gangs;
  if (gangs > 0 && gang - 1 > gangs)
    throw new Wrong('row.gangs', `${shown(tag)} has room for ${gangs} and is to hold ${gang - 1}.`);
  const record = { id: boxId, roomId: room.id, tag, ...fields } as Box;
  return { ...told, does: 'adds', changes: [adding('boxes', record), ...hung] };
}

/**
 * Reads a box schedule against a house: boxes that are there by tag and room are changed where a cell says otherwise, others are
 * new. Every row that cannot be taken is named, with the reason; the others are offered. Nothing is applied here. `newId` gives
 * ids for what is new. Codes of the file: csv.empty, csv.no-headings, csv.too-long.
 */
export function readBoxSchedule(reader: HouseReader, text: string, newId: () => string): ScheduleRead {
  const { headings, rows } = readCsv(text);
  if (!text.trim() || (rows.length === 0 && headings.length < 2))
    return { ok: false, code: 'csv.empty', message: 'There are no rows in this file.' };
  const keys = new Set(headings.map(headingKey));
  if (!keys.has(TAG) || !keys.has(ROOM))
    return {
      ok: false,
      code: 'csv.no-headings',
      message: 'The first row has to name the columns, Tag and Room among them.',
    };
  if (rows.length > LIMITS.records)
    return { ok: false, code: 'csv.too-long', message: `A schedule may have up to ${LIMITS.records} rows.` };
  const against = new Against(reader);
  const seen = new Set<string>();
  const good: GoodRow[] = [];
  const bad: BadRow[] = [];
  for (const row of rows)
    try {
      good.push(changesOf(row, seen, against, newId));
    } catch (error) {
      if (!(error instanceof Wrong)) throw error;
      bad.push({ row: row.row, code: error.code, message: error.message });
    }
  return {
    ok: true,
    good,
    bad,
    unread: headings.filter((heading) => heading && !READ.includes(headingKey(heading))),
  };
}
