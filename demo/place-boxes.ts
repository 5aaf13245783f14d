import { readerOf } from '../core/src/derive/reader.js';
import { boxFacts } from '../core/src/facts/box-facts.js';
import { RoomPlaces } from '../core/src/furnish/room-places.js';
import type { HouseFile } from '../core/src/house/house-file.js';
import { houseOf } from '../core/src/house/house-file.js';
import { roomLayout } from '../core/src/plan/room-layout.js';
import { wallRuns } from '../core/src/plan/wall-runs.js';
import type { KitItem } from '../core/src/vocabulary/room-kit-types.js';

/** What of a kit says where the receptacles of a room go. */
const lineOf = (circuit: KitItem['circuit'], more: Partial<KitItem> = {}): KitItem => ({
  key: 'outlets',
  name: 'Receptacle',
  thing: 'receptacle',
  least: 1,
  ...(circuit && { circuit }),
  ...more,
});
const ALONG_WALLS = lineOf('outlets', { every: { of: 'wall-ft', each: 12 } });
const OUTLETS: Readonly<Record<string, KitItem>> = { kitchen: lineOf('counter'), bath: lineOf('bath') };

/** Puts the boxes of drawn rooms where they would stand: lights overhead, switches by the doors, receptacles along walls and counters. */
export function placeBoxes(file: HouseFile, roomIds: readonly string[]): void {
  const reader = readerOf(houseOf(file));
  for (const roomId of roomIds) {
    const places = new RoomPlaces(reader, reader.get('rooms', roomId)!);
    const own = file.boxes.filter((box) => box.roomId === roomId);
    const kindOf = (box: (typeof own)[number]): string => boxFacts(reader, box).kind;
    const overhead = own.filter((box) => kindOf(box) === 'ceiling' || kindOf(box) === 'light-box');
    overhead.forEach((box, at) => Object.assign(box, places.ceilingAt(at + 1, overhead.length)));
    const onWalls = own.filter((box) => !overhead.includes(box));
    const switches = onWalls.filter(({ tag }) => tag.startsWith('S'));
    switches.forEach((box, at) => Object.assign(box, places.switchAt(at + 1)));
    const others = onWalls.filter((box) => !switches.includes(box));
    // Receptacles by what is drawn there first: counter, basin, spacing; the rest along the walls.
    const spots = places.outlets(OUTLETS[reader.get('rooms', roomId)!.kind] ?? ALONG_WALLS) ?? [];
    const outlets = others.filter(({ tag }) => /^R\d/.test(tag));
    outlets.forEach((box, at) => Object.assign(box, spots[at] ?? {}));
    const left = others.filter((box) => box.corner === undefined);
    const { outline, openings: seen, faceIn } = roomLayout(reader, roomId)!;
    const doors = seen.filter(({ kind }) => kind !== 'window');
    const runs = wallRuns(outline!, doors, faceIn);
    const whole = runs.reduce((sum, { lengthIn }) => sum + lengthIn, 0);
    left.forEach((box, at) => {
      let along = (whole * (at + 0.5)) / left.length;
      const wall =
        runs.find(({ lengthIn }) => along <= lengthIn || ((along -= lengthIn), false)) ?? runs.at(-1)!;
      const { corner, alongIn } = wall.at(along);
      Object.assign(box, { corner, alongIn: Math.round(alongIn * 100) / 100 });
    });
  }
}
