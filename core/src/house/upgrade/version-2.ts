import type { Json } from './version-1.js';
import { isObject, listOf } from './version-1.js';

/**
 * From version 2 to version 3, for files, rows, diffs and changes alike: what stands on a wall stands on the one that begins at a
 * named corner, never on one by its number, and every corner has a name. What this file knows of either version is written out
 * here and never changed.
 */

/** Lists of what stood on a wall by its number, and their nouns in changes. */
const ON_WALLS: ReadonlySet<string> = new Set(['boxes', 'openings', 'box', 'opening']);
const ROOMS: ReadonlySet<string> = new Set(['rooms', 'room']);
const MOST_WALLS = 200;

/** A wall of version 2 by the corner that it began at; undefined where there was none. */
const cornerOfWall = (wall: unknown): string | undefined =>
  typeof wall === 'number' && Number.isInteger(wall) && wall >= 0 && wall <= MOST_WALLS
    ? `c${wall}`
    : undefined;
/** Whether it is a wall, or none: anything else is left as it is, to be refused where it is read. */
const isWall = (wall: unknown): boolean =>
  wall === undefined || wall === null || cornerOfWall(wall) !== undefined;

/** Corners without a name were called by their number. */
const named = (outline: unknown): unknown =>
  Array.isArray(outline)
    ? outline.map((corner: unknown, at) =>
        isObject(corner) && corner['id'] === undefined ? { id: `c${at}`, ...corner } : corner,
      )
    : outline;

/** A record of version 2 as one of version 3. */
export function recordOfVersion2(table: string, record: unknown): unknown {
  if (!isObject(record)) return record;
  if (ROOMS.has(table) && 'outline' in record) return { ...record, outline: named(record['outline']) };
  if (!ON_WALLS.has(table) || !('wall' in record) || !isWall(record['wall'])) return record;
  const { wall, ...rest } = record;
  const corner = rest['corner'] ?? cornerOfWall(wall);
  return corner === undefined ? rest : { ...rest, corner };
}

/** Lists that files from before houses were drafted do without. */
const LATER_LISTS: Json = {
  bands: [],
  beams: [],
  asks: [],
  photos: [],
  writeUps: [],
  extras: [],
  drafts: [],
};

export const fileOfVersion2 = (file: Json): Json => ({
  ...LATER_LISTS,
  ...Object.fromEntries(
    Object.entries(file).map(([list, records]) => [
      list,
      Array.isArray(records) ? records.map((record: unknown) => recordOfVersion2(list, record)) : records,
    ]),
  ),
  version: 3,
});

/**
 * What was written of some fields of a record: each writing tells what was before and after it, under the names that `ends`
 * gives. A named corner went before a numbered wall; before `hadCorners` there were only those.
 */
function writingsOf(table: string, fields: Json, ends: readonly string[], hadCorners: boolean): Json {
  const each = (writing: unknown, turn: (value: unknown) => unknown): unknown =>
    isObject(writing)
      ? Object.fromEntries(
          Object.entries(writing).map(([end, value]) => [end, ends.includes(end) ? turn(value) : value]),
        )
      : writing;
  if (ROOMS.has(table) && 'outline' in fields) return { ...fields, outline: each(fields['outline'], named) };
  const wall = fields['wall'];
  if (!ON_WALLS.has(table) || !isObject(wall) || !ends.every((end) => isWall(wall[end]))) return fields;
  const { wall: _wall, ...rest } = fields;
  const corner = isObject(rest['corner']) ? rest['corner'] : undefined;
  // The number alone was taken away from what stood on a named corner: nothing moved.
  if (hadCorners && !corner && (wall['to'] === undefined || wall['to'] === null)) return rest;
  const next: Json = { ...corner };
  for (const end of ends) {
    const value = corner?.[end] ?? cornerOfWall(wall[end]);
    if (value !== undefined) next[end] = value;
    else if (end in wall && !(end in next)) next[end] = wall[end];
  }
  // The same wall by its other name: nothing was written.
  if (ends.includes('from') && next['from'] === next['to']) {
    const { corner: _corner, ...others } = rest;
    return others;
  }
  return { ...rest, corner: next };
}

/** A diff of version 2 as one of version 3; `hadCorners` is false for one that comes of version 1. */
export function diffOfVersion2(diff: unknown, hadCorners = true): unknown {
  if (!isObject(diff)) return diff;
  const rows = listOf(diff['rows']).map((row) => {
    if (!isObject(row)) return row;
    const table = String(row['table']);
    const placed = (value: unknown): unknown =>
      isObject(value) ? { ...value, record: recordOfVersion2(table, value['record']) } : value;
    return {
      ...row,
      ...('added' in row && { added: placed(row['added']) }),
      ...('removed' in row && { removed: placed(row['removed']) }),
      ...(isObject(row['changed']) && {
        changed: writingsOf(table, row['changed'], ['from', 'to'], hadCorners),
      }),
    };
  });
  return { ...diff, rows };
}

/** The body of a change of version 2 as one of version 3. A house file in it is brought over where it is read. */
export function bodyOfVersion2(body: unknown, hadCorners = true): unknown {
  if (!isObject(body)) return body;
  if (body['kind'] === 'group')
    return { ...body, changes: listOf(body['changes']).map((one) => bodyOfVersion2(one, hadCorners)) };
  const [noun = ''] = String(body['kind']).split('.');
  if (isObject(body['record'])) return { ...body, record: recordOfVersion2(noun, body['record']) };
  if (isObject(body['fields']))
    return { ...body, fields: writingsOf(noun, body['fields'], ['was', 'to'], hadCorners) };
  return body;
}
